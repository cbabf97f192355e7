// SPDX-License-Identifier: MIT
// Programs for the kinds of pictures and for what layers need.
#pragma once

#include <epoxy/gl.h>

#include <array>
#include <string>
#include <vector>

#include "draw/light_math.hpp"
#include "grafema/draw/scene_memory.hpp"
#include "grafema/render/blending.hpp"

namespace grafema::detail {

/// What a program is made for. Of several kinds of pages each is in a texture array of its own.
struct ProgramKey {
  std::array<TexelKind, SceneBatch::kMaxArrays> kinds = {};
  std::uint8_t kind_count = 1;
  bool gamma = false;
  bool empties = false;                        ///< a composite makes what it will show empty
  SceneFeature features = SceneFeature::none;  ///< as SceneBatch::features
  bool operator==(const ProgramKey&) const = default;
};

/// The texture units of a program: pages from 0 on.
constexpr int kPageUnits = SceneBatch::kMaxArrays, kRecordUnit = 4, kMipmapUnit = 5, kGlyphUnit = 9,
              kRowUnit = 10, kHeadUnit = 11, kClipUnit = 12, kMotionUnit = 13, kBoxUnit = 14, kPlaneUnit = 16,
              kUnits = 19;
/// Of the images that layers are painted with, as LayerImages has them.
constexpr int image_unit(int number) { return number == 0 ? 15 : 16 + number; }

/// A program, and where its uniforms are.
struct Program {
  ProgramKey key;
  GLuint name = 0;
  GLint viewport = -1, clock = -1, arrays = -1;
  GLint light_places = -1, light_colors = -1, light_ambient = -1, light_count = -1, light_origin = -1;
  GLint plane_origin = -1;
};

/// Tells a program in use of the lights, where it asks for them.
void set_lights(const Program& program, const LightVectors& lights, const GLint* viewport);

/// Programs that were made so far.
class Programs {
 public:
  /// Puts the program in use, made where there is none yet; its name is 0 where the driver refuses it, and
  /// `complaint`, which may be null, says why.
  const Program& use(const ProgramKey& key, std::string* complaint = nullptr);
  void free();

 private:
  std::vector<Program> programs_;
};

/// Binds a texture array to a unit.
inline void bind_at(int unit, GLuint texture) {
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
  glBindTexture(GL_TEXTURE_2D_ARRAY, texture);
}

}  // namespace grafema::detail
