// SPDX-License-Identifier: MIT
// Makes single pictures for the live cache.
#include "atlas/live_pictures.hpp"

#include <cstring>

namespace grafema::detail {

LiveMaker::LiveMaker(const SharedPictures& shared)
    : shared_(shared), plain_(shared.plain), color_(shared.color) {}

LivePicture LiveMaker::measure(const Face& face, const GlyphKey& key) {
  LivePicture made{key};
  const Result<std::optional<FontRect>> box = shared_.color_glyphs
                                                  ? color_box(face, key.glyph, shared_.color.size)
                                                  : Result<std::optional<FontRect>>(std::nullopt);
  const bool color = box && box->has_value();
  const AtlasRecipe& recipe = color ? shared_.color : shared_.plain;
  const Result<void> read =
      color ? Result<void>{} : face.read_outline(key.glyph, outline_, size_of(recipe, key));
  made.failed = !read || !box;
  made.kind = recipe.kind;
  made.size = color ? recipe.size : size_of(recipe, key);
  made.reach = is_distance(recipe.kind) ? recipe.reach : 0;
  made.phase = color ? std::uint8_t{0} : key.phase;
  if (made.failed) return made;
  AtlasGlyph glyph;
  glyph.glyph = key.glyph;
  glyph.phase = made.phase;
  const FontRect outline_box = color ? **box : bounds(outline_);
  for (int tries = 0; tries < 16; ++tries) {
    size_cell(recipe, face, made.size, recipe.fit_rows ? RowFit::of(face, made.size) : RowFit{}, outline_box,
              glyph);
    const float room = std::min(static_cast<float>(recipe.max_page.width - 2 * recipe.gap) /
                                    static_cast<float>(std::max(glyph.cell.width, 1)),
                                static_cast<float>(recipe.max_page.height - 2 * recipe.gap) /
                                    static_cast<float>(std::max(glyph.cell.height, 1)));
    if (room >= 1) break;
    made.size = std::max(kMinSize, std::floor(made.size * room * 4 * 0.98F) / 4);
  }
  made.offset = glyph.offset;
  made.width = glyph.cell.width, made.height = glyph.cell.height;
  return made;
}

bool LiveMaker::paint(const Face& face, const LivePicture& picture, PixelPoint at, Image& page) {
  AtlasGlyph glyph;
  glyph.glyph = picture.key.glyph;
  glyph.phase = picture.phase;
  glyph.offset = picture.offset;
  glyph.cell = {static_cast<int>(at.x), static_cast<int>(at.y), picture.width, picture.height};
  PictureMaker& maker =
      picture.kind == PictureKind::color && shared_.plain.kind != PictureKind::color ? color_ : plain_;
  return maker.paint(face, picture.size, glyph, page).has_value();
}

std::unique_ptr<LiveMaker> SharedPictures::take_maker() {
  const std::lock_guard lock(mutex);
  if (makers.empty()) return std::make_unique<LiveMaker>(*this);
  std::unique_ptr<LiveMaker> maker = std::move(makers.back());
  makers.pop_back();
  return maker;
}

void SharedPictures::give_back(std::unique_ptr<LiveMaker> maker) {
  const std::lock_guard lock(mutex);
  makers.push_back(std::move(maker));
}

LivePicture make_picture(LiveMaker& maker, const SharedPictures& shared, const Face& face,
                         const GlyphKey& key) {
  LivePicture made = maker.measure(face, key);
  if (made.failed || made.width == 0) return made;
  const AtlasRecipe& recipe = made.kind == shared.plain.kind ? shared.plain : shared.color;
  Result<Image> image = Image::make(made.width, made.height, page_format(recipe.kind, recipe.bits));
  made.failed = !image || !maker.paint(face, made, {}, *image);
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
  bar.width = cell.width, bar.height = cell.height;
  bar.image = *std::move(image);
  bar.offset = {static_cast<float>(cell.x), static_cast<float>(cell.y)};
  return bar;
}

}  // namespace grafema::detail
