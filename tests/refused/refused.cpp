// SPDX-License-Identifier: MIT
// Uses that must not compile, one for each CASE; case 0 is right and must compile.
#if CASE == 0 || CASE == 2
#include "grafema/draw/text_scene.hpp"
#elif CASE == 3
#include "grafema/draw/looks.hpp"
#elif CASE == 9
#include "grafema/atlas/glyph_cache.hpp"
#elif CASE == 1 || CASE == 4
#include "grafema/base/image.hpp"
#else
#include "grafema/font/face.hpp"
#endif

using namespace grafema;

#if CASE == 0
std::size_t right(TextContext& context) {
  const Image image = *Image::make(1, 1, PixelFormat::r8);
  TextScene words(context);
  const Label label = words.add("Quay");
  const GlyphId glyph{7};
  return image.view().row_bytes() + label.text().size() + index_of(glyph);
}
#elif CASE == 1  // a view of pixels that are gone
ImageView wrong() { return Image::make(1, 1, PixelFormat::r8)->clone().view(); }
#elif CASE == 2  // the memory of a scene that is gone
const SceneMemory& wrong(TextContext& context) { return TextScene(context).memory(); }
#elif CASE == 3  // a view of a name that is gone
std::string_view wrong() { return LookBook().name(LookId{}); }
#elif CASE == 4  // pixels are copied by `clone` alone
Image wrong(const Image& image) { return image; }
#elif CASE == 5  // a number is no glyph
GlyphId wrong() { return 7; }
#elif CASE == 6  // a character is no glyph
float wrong(const Face& face) { return face.advance(U'A'); }
#elif CASE == 7  // font units are no pixels
PixelPoint wrong(FontPoint point) { return point; }
#elif CASE == 8  // a face is shared, never copied
Face wrong(const Face& face) { return face; }
#elif CASE == 9  // a cache has one owner
GlyphCache wrong(const GlyphCache& cache) { return cache; }
#endif
