// SPDX-License-Identifier: MIT
// Paints text layer by layer from outlines.
#include "grafema/draw/paint.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "draw/layer_strengths.hpp"

namespace grafema {
namespace {

/// Blends a picture with straight alpha over the target at `cell`, in linear light.
void blend_picture(Image& target, const PixelRect& cell, const Image& picture, float opacity) {
  for (int y = 0; y < cell.height; ++y) {
    const std::uint8_t* from = picture.row(y);
    std::uint8_t* to = target.row(cell.y + y) + static_cast<std::size_t>(cell.x) * 4;
    for (int x = 0; x < cell.width; ++x, from += 4, to += 4) {
      const float over = static_cast<float>(from[3]) / 255.0F * opacity;
      if (over <= 0) continue;
      const float under = static_cast<float>(to[3]) / 255.0F * (1 - over), alpha = over + under;
      for (int c = 0; c < 3; ++c) {
        const float light = (detail::light_of(from[c]) * over + detail::light_of(to[c]) * under) / alpha;
        to[c] = detail::to_byte(to_srgb(light));
      }
      to[3] = detail::to_byte(alpha);
    }
  }
}

class Painter {
 public:
  Painter(Image& target, const FontStack& stack, const Paragraph& paragraph, const Look& look,
          PixelPoint origin, Notes* notes, const ColorPaintOptions& color)
      : target_(target),
        stack_(stack),
        paragraph_(paragraph),
        look_(look),
        origin_(origin),
        notes_(notes),
        color_(color),
        box_(paragraph.box.moved(origin)) {
    if (look.count > 0) color_.text_color = look.layers[look.count - 1].fill.corners[0];
  }

  Result<void> paint_layer(std::size_t index) {
    const Layer& layer = look_.layers[index];
    for (const PlacedGlyph& glyph : paragraph_.glyphs) {
      const Face& face = *stack_[glyph.face]->face();
      const PixelPoint pen{origin_.x + glyph.origin().x, origin_.y + glyph.origin().y};
      const float size = paragraph_.face_size(glyph.face);
      const Result<std::optional<FontRect>> color_area = color_box(face, glyph.glyph, size);
      const bool in_color = color_area && color_area->has_value();
      const Result<void> painted = !color_area ? Result<void>(fail(color_area.error()))
                                   : in_color  ? paint_color(layer, index + 1 == look_.count, face,
                                                             glyph.glyph, **color_area, size, pen)
                                               : paint_outline(layer, face, glyph.glyph, size, pen);
      if (painted) continue;
      if (painted.error().kind == ErrorKind::bad_value) return painted;
      if (notes_ != nullptr) {
        notes_->add(
            {.kind = NoteKind::damaged_glyph, .position = index_of(glyph.glyph), .face = face.title()});
      }
    }
    return {};
  }

 private:
  Result<void> paint_outline(const Layer& layer, const Face& face, GlyphId glyph, float size,
                             PixelPoint pen) {
    if (const Result<void> read = face.read_outline(glyph, outline_); !read) return read;
    const FontRect box = bounds(outline_);
    if (box.empty()) return {};
    const float scale = size / face.units_per_em();
    const PixelPoint shifted{pen.x + layer.shift.x, pen.y + layer.shift.y};
    const float around = detail::is_plain(layer) ? 0 : std::max(0.0F, layer.grow) + layer.blur + 1;
    const PixelRect cell = clipped(to_pixels(box, scale).moved(shifted).grown(around));
    if (cell.empty()) return {};
    const auto strengths = strengths_.make(layer, outline_, glyph_transform(scale, pen), cell);
    if (!strengths) return fail(strengths.error());
    blend(target_, cell, *strengths, layer.fill, box_, look_.opacity);
    return {};
  }

  /// A glyph's own colors in the front layer, its shape in the others.
  Result<void> paint_color(const Layer& layer, bool front, const Face& face, GlyphId glyph,
                           const FontRect& box, float size, PixelPoint pen) {
    const float scale = size / face.units_per_em();
    const PixelPoint shifted{pen.x + layer.shift.x, pen.y + layer.shift.y};
    const PixelRect cell = clipped(to_pixels(box, scale).moved(shifted));
    if (cell.empty()) return {};
    Result<Image> picture = Image::make(cell.width, cell.height, PixelFormat::rgba8);
    if (!picture) return fail(picture.error());
    Transform map = glyph_transform(scale, shifted);
    map.dx -= static_cast<float>(cell.x), map.dy -= static_cast<float>(cell.y);
    color_.size = size;
    const Result<bool> painted = paint_color_glyph(face, glyph, map, color_, *picture, scratch_);
    if (!painted) return fail(painted.error());
    if (!*painted) return fail(make_error(ErrorKind::unsupported, "a reader of embedded pictures"));
    if (front) {
      blend_picture(target_, cell, *picture, look_.opacity);
      return {};
    }
    alphas_.clear();
    for (int y = 0; y < cell.height; ++y) {
      for (int x = 0; x < cell.width; ++x) {
        alphas_.push_back(static_cast<float>(picture->value(x, y, 3)) / 255.0F);
      }
    }
    blend(target_, cell, alphas_, layer.fill, box_, look_.opacity);
    return {};
  }

  /// The part of a box that the target shows.
  PixelRect clipped(const Rect& box) const {
    const auto bound = [](float v, int limit) { return std::clamp(v, 0.0F, static_cast<float>(limit)); };
    return rounded_out({bound(box.left, target_.width()), bound(box.top, target_.height()),
                        bound(box.right, target_.width()), bound(box.bottom, target_.height())});
  }

  Image& target_;
  const FontStack& stack_;
  const Paragraph& paragraph_;
  const Look& look_;
  PixelPoint origin_;
  Notes* notes_;
  ColorPaintOptions color_;
  Rect box_;
  Contours outline_;
  RasterScratch scratch_;
  std::vector<float> alphas_;
  detail::LayerStrengths strengths_;
};

}  // namespace

Result<void> paint(Image& target, const FontStack& stack, const Paragraph& paragraph, const Look& look,
                   PixelPoint origin, Notes* notes, const ColorPaintOptions& color) {
  if (target.format() != PixelFormat::rgba8) {
    return fail(make_error(ErrorKind::bad_value, "an rgba8 picture to paint on"));
  }
  if (!std::isfinite(origin.x) || !std::isfinite(origin.y)) {
    return fail(make_error(ErrorKind::bad_value, "a place of finite numbers"));
  }
  if (const Result<void> checked = check_look(look); !checked) return checked;
  for (const auto& face : stack) {
    if (face->face() == nullptr) return fail(make_error(ErrorKind::bad_value, "faces with outlines"));
  }
  const Look pixels = in_pixels(look, paragraph.size);
  Painter painter(target, stack, paragraph, pixels, origin, notes, color);
  for (std::size_t i = 0; i < pixels.count; ++i) {
    if (const Result<void> painted = painter.paint_layer(i); !painted) return painted;
  }
  return {};
}

Rect ink_box(const FontStack& stack, const Paragraph& paragraph, const Look& look) {
  const Rect plain = ink_box(stack, paragraph);
  const Look pixels = in_pixels(look, paragraph.size);
  Rect box;
  for (std::size_t i = 0; i < pixels.count && !plain.empty(); ++i) {
    const Layer& layer = pixels.layers[i];
    const auto visible = [](const Color& c) { return c.alpha > 0; };
    if (look.opacity <= 0 || !std::any_of(layer.fill.corners.begin(), layer.fill.corners.end(), visible))
      continue;
    // Grown and blurred edges are those of distances, which pixels see from half a pixel away.
    const float fades = layer.grow != 0 || layer.blur > 0 ? 0.5F : 0.0F;
    box = enclosing(box, plain.grown(layer.grow + layer.blur + fades).moved(layer.shift));
  }
  return box;
}

void fill_image(Image& target, const Color& color) {
  using detail::to_byte;
  for (int y = 0; y < target.height(); ++y) {
    std::uint8_t* row = target.row(y);
    for (int x = 0; x < target.width(); ++x, row += 4) {
      row[0] = to_byte(color.red), row[1] = to_byte(color.green), row[2] = to_byte(color.blue),
      row[3] = to_byte(color.alpha);
    }
  }
}

void paint_rect(Image& target, const Rect& rect, const Color& color) {
  const auto bound = [](float v, int limit) { return std::clamp(v, 0.0F, static_cast<float>(limit)); };
  const Rect seen{bound(rect.left, target.width()), bound(rect.top, target.height()),
                  bound(rect.right, target.width()), bound(rect.bottom, target.height())};
  const PixelRect cell = rounded_out(seen);
  if (cell.empty()) return;
  std::vector<float> area;
  area.reserve(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  const auto overlap = [](int pixel, float low, float high) {
    const auto p = static_cast<float>(pixel);
    return std::max(0.0F, std::min(p + 1, high) - std::max(p, low));
  };
  for (int y = cell.y; y < cell.y + cell.height; ++y) {
    for (int x = cell.x; x < cell.x + cell.width; ++x) {
      area.push_back(overlap(x, seen.left, seen.right) * overlap(y, seen.top, seen.bottom));
    }
  }
  blend(target, cell, area, Fill::solid(color), rect);
}

void paint_image(Image& target, const Image& source, int x, int y, int scale) {
  const bool gray = channel_count(source.format()) == 1;
  const auto max = static_cast<float>(detail::largest_value(source.format()));
  const auto s = static_cast<float>(scale);
  for (int sy = 0; sy < source.height(); ++sy) {
    for (int sx = 0; sx < source.width(); ++sx) {
      const auto channel = [&](int c) { return static_cast<float>(source.value(sx, sy, c)) / max; };
      const bool has_alpha = channel_count(source.format()) == 4;
      const Color color = gray ? Color{channel(0), channel(0), channel(0), 1}
                               : Color{channel(0), channel(1), channel(2), has_alpha ? channel(3) : 1};
      const float left = static_cast<float>(x) + static_cast<float>(sx) * s,
                  top = static_cast<float>(y) + static_cast<float>(sy) * s;
      paint_rect(target, {left, top, left + s, top + s}, color);
    }
  }
}

}  // namespace grafema
