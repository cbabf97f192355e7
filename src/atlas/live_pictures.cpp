// SPDX-License-Identifier: MIT
// Makes single pictures for the live cache.
#include "atlas/live_pictures.hpp"

#include <cstring>

namespace grafema::detail {

LivePicture make_picture(const SharedPictures& shared, const Face& face, const GlyphKey& key) {
  LivePicture made{key};
  Contours outline;
  const Result<std::optional<FontRect>> box = shared.color_glyphs
                                                  ? color_box(face, key.glyph, shared.color.size)
                                                  : Result<std::optional<FontRect>>(std::nullopt);
  const bool color = box && box->has_value();
  const AtlasRecipe& recipe = color ? shared.color : shared.plain;
  const float size = color ? recipe.size : size_of(recipe, key);
  const Result<void> read = color ? Result<void>{} : face.read_outline(key.glyph, outline);
  AtlasGlyph glyph;
  glyph.glyph = key.glyph;
  glyph.phase = color ? std::uint8_t{0} : key.phase;
  if (read) {
    size_cell(recipe, face, size, recipe.fit_rows ? RowFit::of(face, size) : RowFit{},
              color ? **box : bounds(outline), glyph);
  }
  made.failed = !read || !box;
  made.kind = recipe.kind;
  made.size = size;
  made.reach = is_distance(recipe.kind) ? recipe.reach : 0;
  made.offset = glyph.offset;
  made.phase = glyph.phase;
  if (glyph.cell.empty()) return made;
  Result<Image> image =
      Image::make(glyph.cell.width, glyph.cell.height, page_format(recipe.kind, recipe.bits));
  made.failed = made.failed || !image || !PictureMaker(recipe).paint(face, size, glyph, *image);
  if (!made.failed) made.image = *std::move(image);
  return made;
}

LivePicture make_bar(const AtlasRecipe& recipe) {
  LivePicture bar{kBarKey};
  bar.kind = recipe.kind, bar.size = recipe.size, bar.reach = is_distance(recipe.kind) ? recipe.reach : 0;
  const float around = is_distance(recipe.kind) ? recipe.reach : 0, left = recipe.size * 0.08F,
              right = recipe.size * 0.48F, top = -recipe.size * 0.5F;
  const PixelRect cell = rounded_out(Rect{left, top, right, 0}.grown(around));
  Result<Image> image = Image::make(cell.width, cell.height, page_format(recipe.kind, recipe.bits));
  if (!image) return bar;
  const unsigned max = recipe.bits == 16 ? 65535 : 255;
  const auto channels = static_cast<std::size_t>(channel_count(image->format()));
  for (int y = 0; y < cell.height; ++y) {
    for (int x = 0; x < cell.width; ++x) {
      const float px = static_cast<float>(cell.x + x) + 0.5F, py = static_cast<float>(cell.y + y) + 0.5F;
      const float inside = std::min({px - left, right - px, py - top, -py});
      const unsigned value = is_distance(recipe.kind) ? distance_value(inside, recipe.reach, max)
                                                      : coverage_value(inside + 0.5F, max);
      for (std::size_t c = 0; c < channels; ++c) {
        std::uint8_t* to = image->row(y) + (static_cast<std::size_t>(x) * channels + c) * (recipe.bits / 8U);
        const auto wide = static_cast<std::uint16_t>(value);
        if (recipe.bits == 16) {
          std::memcpy(to, &wide, 2);
        } else {
          *to = static_cast<std::uint8_t>(value);
        }
      }
    }
  }
  bar.image = *std::move(image);
  bar.offset = {static_cast<float>(cell.x), static_cast<float>(cell.y)};
  return bar;
}

}  // namespace grafema::detail
