// SPDX-License-Identifier: MIT
// Makes the pictures of glyphs in every kind.
#include <algorithm>
#include <cmath>
#include <cstring>

#include "atlas/select.hpp"
#include "base/light.hpp"
#include "grafema/raster/color_paint.hpp"
#include "grafema/raster/fill.hpp"
#include "raster/scratch.hpp"

namespace grafema::detail {

Result<void> read_picture_outline(const Face& face, GlyphId glyph, float size, const RowFit* fit,
                                  Contours& out, Steps& steps) {
  if (const Result<void> read = face.read_outline(glyph, out, size); !read) return read;
  unite(out, steps);
  if (fit != nullptr) {
    for (FontPoint& p : out.points) p.y = (*fit)(p.y);
  }
  return {};
}

Result<void> PictureMaker::paint(const Face& face, float size, const AtlasGlyph& glyph, Image& page) {
  Transform map = glyph_transform(size / face.units_per_em());
  map.dx = static_cast<float>(glyph.phase) / 4;
  RasterScratch::Memory& memory = scratch_.memory();
  const std::uint64_t given = std::clamp(steps_, Steps::kAlways, Steps::kOfAGlyph);
  memory.steps = Steps(given);
  memory.steps_given = true;
  const Result<void> painted = recipe_.kind == PictureKind::color
                                   ? paint_color(face, size, glyph, map, page)
                                   : paint_outline(face, size, glyph, map, page);
  steps_ -= std::min(steps_, given - memory.steps.left());
  return painted;
}

Result<void> PictureMaker::paint_outline(const Face& face, float size, const AtlasGlyph& glyph,
                                         const Transform& map, Image& page) {
  const RowFit fit = recipe_.fit_rows ? RowFit::of(face, size) : RowFit{};
  if (const Result<void> read = read_picture_outline(
          face, glyph.glyph, size, recipe_.fit_rows ? &fit : nullptr, outline_, scratch_.memory().steps);
      !read) {
    return read;
  }
  const PixelRect cell{static_cast<int>(glyph.offset.x), static_cast<int>(glyph.offset.y), glyph.cell.width,
                       glyph.cell.height};
  const std::size_t pixels = static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height);
  const bool many = recipe_.kind == PictureKind::distance_rgb || recipe_.kind == PictureKind::distance_rgba;
  values_.resize(many ? pixels * 4 : pixels);
  const Result<void> made =
      recipe_.kind == PictureKind::coverage ? rasterize_coverage(outline_, map, cell, values_, scratch_)
      : many ? rasterize_distance_channels(outline_, map, cell, recipe_.reach, values_, scratch_,
                                           detail::largest_value(page.format()))
             : rasterize_distance(outline_, map, cell, recipe_.reach, values_, scratch_);
  if (made) store(page, glyph.cell);
  return made;
}

void PictureMaker::store(Image& page, const PixelRect& cell) const {
  const bool wide = bits_per_channel(page.format()) == 16, distance = is_distance(recipe_.kind);
  const unsigned max = detail::largest_value(page.format());
  const auto channels = static_cast<std::size_t>(channel_count(page.format())),
             step = values_.size() /
                    (static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  const float* from = values_.data();
  for (int y = 0; y < cell.height; ++y) {
    std::uint8_t* to =
        page.row(cell.y + y) + static_cast<std::size_t>(cell.x) * bytes_per_pixel(page.format());
    for (int x = 0; x < cell.width; ++x, from += step) {
      for (std::size_t c = 0; c < channels; ++c) {
        const unsigned value =
            distance ? distance_value(from[c], recipe_.reach, max) : coverage_value(from[c], max);
        if (wide) {
          const auto two = static_cast<std::uint16_t>(value);
          std::memcpy(to, &two, 2);
          to += 2;
        } else {
          *to++ = static_cast<std::uint8_t>(value);
        }
      }
    }
  }
}

Result<void> PictureMaker::paint_color(const Face& face, float size, const AtlasGlyph& glyph,
                                       const Transform& map, Image& page) {
  Result<Image> picture = Image::make(glyph.cell.width, glyph.cell.height, PixelFormat::rgba8);
  if (!picture) return fail(picture.error());
  Transform in_cell = map;
  in_cell.dx -= glyph.offset.x;
  in_cell.dy -= glyph.offset.y;
  Result<bool> painted = paint_color_glyph(
      face, glyph.glyph, in_cell,
      {.palette = recipe_.palette, .size = size, .read_picture = recipe_.read_picture}, *picture, scratch_);
  if (!painted) return fail(painted.error());
  if (!*painted) {
    if (const Result<void> read =
            read_picture_outline(face, glyph.glyph, size, nullptr, outline_, scratch_.memory().steps);
        !read) {
      return read;
    }
    if (recipe_.painter.paint) {
      if (const Result<void> made = recipe_.painter.paint(outline_, in_cell, size, *picture); !made) {
        return made;
      }
    } else {
      values_.resize(static_cast<std::size_t>(glyph.cell.width) *
                     static_cast<std::size_t>(glyph.cell.height));
      const PixelRect whole{0, 0, glyph.cell.width, glyph.cell.height};
      if (const Result<void> made = rasterize_coverage(outline_, in_cell, whole, values_, scratch_); !made) {
        return made;
      }
      blend(*picture, whole, values_, Fill::solid({1, 1, 1, 1}), {0, 0, 1, 1});
    }
  }
  for (int y = 0; y < glyph.cell.height; ++y) {
    std::memcpy(page.row(glyph.cell.y + y) + static_cast<std::size_t>(glyph.cell.x) * 4, picture->row(y),
                picture->row_bytes());
  }
  return {};
}

}  // namespace grafema::detail
