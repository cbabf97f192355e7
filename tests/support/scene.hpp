// SPDX-License-Identifier: MIT
// Labels over a small atlas, and pictures of them.
#pragma once

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/draw/text_scene.hpp"
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

/// A context in which labels are white: most backdrops here are dark.
class WhiteContext : public TextContext {
 public:
  template <class... Arguments>
  explicit WhiteContext(Arguments&&... arguments) : TextContext(std::forward<Arguments>(arguments)...) {
    (void)looks().set("plain", plain_look({1, 1, 1, 1}));
  }
};

/// A context whose fonts and source are those of an atlas, and a scene of it.
struct Scene {
  std::shared_ptr<AtlasSource> source;
  WhiteContext context;
  TextScene words;
  explicit Scene(const std::shared_ptr<const Atlas>& atlas)
      : source(std::make_shared<AtlasSource>(atlas)), context(atlas_stack(atlas), source), words(context) {}
};

/// An opaque picture of one color, as large as the view.
Image filled(const View& view, const Color& color);

/// The scene at a time on a backdrop of one color, by the software renderer.
Image in_software(TextScene& words, const View& view, Blending blending, const Color& backdrop,
                  double seconds = 0);

/// The same by OpenGL; any complaint of the driver fails the test.
Image in_opengl(TextScene& words, const View& view, Blending blending, const Color& backdrop,
                OpenGLFlavor flavor, double seconds = 0);

/// How many glyphs, layer by layer, the last update found to be drawn.
std::size_t drawn_glyphs(const SceneMemory& memory);

/// The kind of the picture that an entry of SceneMemory::order is drawn from, its glyph and its layer.
struct DrawnGlyph {
  GlyphRecord glyph;
  LayerRecord layer;
  LabelRow row;
  TexelKind kind;
};
/// All that are drawn, in their order.
std::vector<DrawnGlyph> all_drawn(const SceneMemory& memory);

/// Where a quad's corner is in device pixels: `x` and `y` are fractions of its cell. Motions are left out.
PixelPoint corner_of(const DrawnGlyph& drawn, const View& view, float x, float y);

/// The share of pixels in which a channel differs by more than `most`.
double share_that_differs(const Image& a, const Image& b, int most);

/// The first pixel where they do, in words; empty where there is none.
std::string first_difference(const Image& a, const Image& b, int most);

Matrix4 multiplied(const Matrix4& a, const Matrix4& b);
Matrix4 perspective(float degrees, float aspect, float near, float far);
Matrix4 moved(float x, float y, float z);
Matrix4 turned_about_y(float degrees);

}  // namespace grafema::test
