// SPDX-License-Identifier: MIT
// Labels over a small atlas, and lists that grow to what they need.
#pragma once

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/draw/emit.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "grafema/render/software_renderer.hpp"
#include "support/support.hpp"

namespace grafema::test {

/// Printable ASCII of a face, baked.
std::shared_ptr<const Atlas> atlas_of(const std::shared_ptr<const Face>& face,
                                      PictureKind kind = PictureKind::distance, float size = 32,
                                      int bits = 8);

/// An atlas with one color page: two glyphs of the built-in face, A a red and blue disk, B a half transparent
/// square.
std::shared_ptr<const Atlas> color_atlas();

/// Memory for quads that grows; `emit` fills it.
struct Quads {
  std::vector<GlyphQuad> quads;
  std::vector<Batch> batches;
  std::vector<LayerRecord> layers;
  QuadList list;

  const QuadList& emit(TextContext& context, std::span<Label* const> labels, const View& view,
                       Notes* notes = nullptr);
};

/// A context in which labels are white: most backdrops here are dark.
class WhiteContext : public TextContext {
 public:
  template <class... Arguments>
  explicit WhiteContext(Arguments&&... arguments) : TextContext(std::forward<Arguments>(arguments)...) {
    (void)looks().set("plain", plain_look({1, 1, 1, 1}));
  }
};

/// A context whose fonts and source are those of an atlas.
struct Scene {
  std::shared_ptr<AtlasSource> source;
  WhiteContext context;
  explicit Scene(const std::shared_ptr<const Atlas>& atlas)
      : source(std::make_shared<AtlasSource>(atlas)), context(atlas_stack(atlas), source) {}
};

/// An opaque picture of one color, as large as the view.
Image filled(const View& view, const Color& color);

/// The labels on a backdrop of one color, by the software renderer.
Image in_software(TextContext& context, std::span<Label* const> labels, const View& view, Blending blending,
                  const Color& backdrop);

/// The same by OpenGL; any complaint of the driver fails the test.
Image in_opengl(TextContext& context, std::span<Label* const> labels, const View& view, Blending blending,
                const Color& backdrop, OpenGLFlavor flavor);

/// The share of pixels in which a channel differs by more than `most`.
double share_that_differs(const Image& a, const Image& b, int most);

/// The first pixel where they do, in words; empty where there is none.
std::string first_difference(const Image& a, const Image& b, int most);

Matrix4 multiplied(const Matrix4& a, const Matrix4& b);
Matrix4 perspective(float degrees, float aspect, float near, float far);
Matrix4 moved(float x, float y, float z);
Matrix4 turned_about_y(float degrees);

}  // namespace grafema::test
