// SPDX-License-Identifier: MIT
// Finds the pixels of each quad by the inverse of its map, shades and blends them.
#include "grafema/render/software_renderer.hpp"

#include <Eigen/Core>
#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

#include "base/light.hpp"
#include "grafema/base/color.hpp"
#include "render/software/paint_quads.hpp"
#include "render/software/seen_quad.hpp"
#include "render/software/set_quads.hpp"

namespace grafema {
namespace {

using Eigen::Vector3d;

using detail::Cutter;
using detail::footprint_at;
using detail::light_of;
using detail::Seen;
using detail::to_byte;

/// Light as an sRGB byte, rounded as `to_srgb` gives it: by a table of steps far finer than a byte's.
class ByteOfLight {
 public:
  ByteOfLight() : table_(kSteps + 1) {
    for (std::size_t i = 0; i <= kSteps; ++i) table_[i] = to_byte(to_srgb(static_cast<float>(i) / kSteps));
  }
  std::uint8_t operator()(float light) const {
    const float v = light > 0 ? (light < 1 ? light : 1.0F) : 0.0F;
    return table_[static_cast<std::size_t>(v * kSteps + 0.5F)];
  }

 private:
  static constexpr std::size_t kSteps = 1U << 16U;
  std::vector<std::uint8_t> table_;
};

/// Blends pixels of one quad: what all of them have in common is worked out once.
class Blender {
 public:
  Blender(Blending blending, const ByteOfLight& byte_of_light)
      : blending_(blending), byte_of_light_(byte_of_light) {}

  void blend(std::uint8_t* pixel, const detail::Shade& s) {
    if (s.red != red_ || s.green != green_ || s.blue != blue_ || s.is_light) prepare(s);
    const float strength =
                    blending_ == Blending::gamma && !s.is_light ? contrasted(s.strength, luma_) : s.strength,
                cover = s.alpha * strength;
    if (blending_ == Blending::gamma) {
      for (std::size_t c = 0; c < 3; ++c) {
        pixel[c] = to_byte(color_[c] * cover + static_cast<float>(pixel[c]) / 255.0F * (1 - cover));
      }
    } else if (cover >= 1 && !s.is_light) {
      std::copy(opaque_.begin(), opaque_.end(), pixel);
    } else {
      const float by = s.is_light ? s.alpha : cover;
      for (std::size_t c = 0; c < 3; ++c) {
        pixel[c] = byte_of_light_(color_[c] * by + light_of(pixel[c]) * (1 - cover));
      }
    }
    pixel[3] = to_byte(cover + static_cast<float>(pixel[3]) / 255.0F * (1 - cover));
  }

 private:
  /// For Blending::linear colors become light; for gamma a picture's own light becomes its sRGB color, which
  /// has no thin edges to mend.
  void prepare(const detail::Shade& s) {
    red_ = s.red, green_ = s.green, blue_ = s.blue;
    const std::array<float, 3> given = {s.red, s.green, s.blue};
    for (std::size_t c = 0; c < 3; ++c) {
      if (blending_ == Blending::linear) {
        color_[c] = s.is_light ? given[c] : to_linear(given[c]);
        opaque_[c] = byte_of_light_(color_[c]);
      } else {
        color_[c] = !s.is_light ? given[c] : s.strength > 0 ? to_srgb(given[c] / s.strength) : 0;
      }
    }
    luma_ = 0.299F * s.red + 0.587F * s.green + 0.114F * s.blue;
    if (s.is_light) red_ = -1;  // the next pixel's may be another
  }

  Blending blending_;
  const ByteOfLight& byte_of_light_;
  float red_ = -1, green_ = -1, blue_ = -1, luma_ = 0;
  std::array<float, 3> color_ = {};
  std::array<std::uint8_t, 3> opaque_ = {};
};

float box_fraction(std::int16_t low, std::int16_t high, double t) {
  return static_cast<float>((low + (high - low) * t) / 4096.0);
}

/// Draws the part of a quad that lies in some rows of the target.
class QuadDrawer {
 public:
  QuadDrawer(const GlyphQuad& quad, const LayerRecord& layer, QuadKind kind, const ImageView& page,
             const View& view, Blender& blender, const std::optional<detail::QuadCut>& cut = {})
      : quad_(quad), seen_(quad, view), shader_(quad, layer, kind, page), blender_(blender) {
    if (cut) cutter_.emplace(*cut, seen_);
  }

  void draw(Image& target, const PixelRect& rows) {
    if (!seen_.valid()) return;
    if (seen_.affine()) {
      draw_affine(target, rows);
    } else {
      draw_in_perspective(target, rows);
    }
  }

 private:
  void draw_affine(Image& target, const PixelRect& rows) {
    const detail::Footprint footprint = footprint_at(seen_, 0, 0);
    // The quad is half a texel wider than its cell.
    const float empty = shader_.margin(footprint);
    const double margin = empty > 0 ? empty + 0.5 : 0, cut_x = margin / (quad_.cell[2] + 1),
                 cut_y = margin / (quad_.cell[3] + 1);
    if (cut_x >= 0.5 || cut_y >= 0.5) return;
    const PixelRect area = seen_.bounds(rows, cut_x, cut_y);
    const Vector3d across = seen_.across(), down = seen_.down();
    if (across.y() == 0 && down.x() == 0 && shader_.can_shade_rows()) {
      draw_upright(target, area, footprint, cut_x, cut_y);
      return;
    }
    for (int y = area.y; y < area.y + area.height; ++y) {
      std::uint8_t* row = target.row(y);
      const double a0 = across.y() * (y + 0.5) + across.z(), b0 = down.y() * (y + 0.5) + down.z();
      for (int x = area.x; x < area.x + area.width; ++x) {
        const double a = a0 + across.x() * (x + 0.5), b = b0 + down.x() * (x + 0.5);
        if (!(a >= cut_x && a < 1 - cut_x && b >= cut_y && b < 1 - cut_y)) continue;
        paint(row, x, y, a, b, footprint);
      }
    }
  }

  /// Its rows are those of the target.
  void draw_upright(Image& target, PixelRect area, const detail::Footprint& footprint, double cut_x,
                    double cut_y) {
    const Vector3d across = seen_.across(), down = seen_.down();
    const auto a_at = [&](int x) { return across.x() * (x + 0.5) + across.z(); };
    const auto is_shown = [](double v, double cut) { return v >= cut && v < 1 - cut; };
    while (area.width > 0 && !is_shown(a_at(area.x), cut_x)) ++area.x, --area.width;
    while (area.width > 0 && !is_shown(a_at(area.x + area.width - 1), cut_x)) --area.width;
    if (area.width == 0) return;
    strengths_.resize(static_cast<std::size_t>(area.width));
    for (int y = area.y; y < area.y + area.height; ++y) {
      const double b = down.y() * (y + 0.5) + down.z();
      if (!is_shown(b, cut_y)) continue;
      shader_.shade_row(texel_of(a_at(area.x), b), footprint, strengths_);
      std::uint8_t* pixel = target.row(y) + static_cast<std::size_t>(area.x) * 4;
      for (int x = 0; x < area.width; ++x, pixel += 4) {
        const float strength = strengths_[static_cast<std::size_t>(x)];
        if (strength > 0) put(pixel, a_at(area.x + x), b, strength * share_at(area.x + x, y));
      }
    }
  }

  void put(std::uint8_t* pixel, double a, double b, float strength) {
    float across = 0, down = 0;
    if (!shader_.is_solid()) {
      across = box_fraction(quad_.box[0], quad_.box[2], a),
      down = box_fraction(quad_.box[1], quad_.box[3], b);
    }
    const detail::Shade shade = shader_.with_strength(strength, across, down);
    if (shade.alpha > 0) blender_.blend(pixel, shade);
  }

  detail::Texel texel_of(double a, double b) const {
    return {static_cast<float>(quad_.cell[0] - 0.5 + a * (quad_.cell[2] + 1)),
            static_cast<float>(quad_.cell[1] - 0.5 + b * (quad_.cell[3] + 1))};
  }

  void draw_in_perspective(Image& target, const PixelRect& rows) {
    const PixelRect area = seen_.bounds(rows, 0, 0);
    for (int y = area.y; y < area.y + area.height; ++y) {
      std::uint8_t* row = target.row(y);
      for (int x = area.x; x < area.x + area.width; ++x) {
        double a = 0, b = 0;
        if (!seen_.find(x + 0.5, y + 0.5, a, b)) continue;
        paint(row, x, y, a, b, footprint_at(seen_, x, y));
      }
    }
  }

  float share_at(int x, int y) const { return cutter_ ? cutter_->at(x, y) : 1.0F; }

  void paint(std::uint8_t* row, int x, int y, double a, double b, const detail::Footprint& footprint) {
    const detail::Texel at = texel_of(a, b);
    std::uint8_t* pixel = row + static_cast<std::size_t>(x) * 4;
    float across = 0, down = 0;
    if (!shader_.is_solid()) {
      across = box_fraction(quad_.box[0], quad_.box[2], a),
      down = box_fraction(quad_.box[1], quad_.box[3], b);
    }
    detail::Shade shade = shader_.shade(at, footprint, across, down);
    if (cutter_) shade.cut(share_at(x, y));
    if (shade.strength > 0 && shade.alpha > 0) blender_.blend(pixel, shade);
  }

  const GlyphQuad& quad_;
  Seen seen_;
  detail::QuadShader shader_;
  Blender& blender_;
  std::optional<Cutter> cutter_;
  std::vector<float> strengths_;
};

/// The page that is layer `layer` of its kind's texture array.
std::optional<std::uint16_t> find_page(const GlyphSource& source, QuadKind kind, std::uint8_t part,
                                       std::uint16_t layer) {
  const auto pages = source.pages();
  for (std::size_t i = 0; i < pages.size(); ++i) {
    if (quad_kind(pages[i].kind) == kind && pages[i].part == part && pages[i].array_layer == layer)
      return static_cast<std::uint16_t>(i);
  }
  return std::nullopt;
}

/// Bands of rows, each with all quads in their order: what each pixel becomes does not depend on threads.
template <class Draw>
Result<void> draw_in_bands(const View& view, Blending blending, Image& target, Workers* workers, Draw draw) {
  const bool same =
      static_cast<float>(target.width()) == view.width && static_cast<float>(target.height()) == view.height;
  if (!same || target.format() != PixelFormat::rgba8) {
    return fail(make_error(ErrorKind::bad_value, "an rgba8 target of the view's size"));
  }
  static const ByteOfLight byte_of_light;
  const int bands = workers == nullptr ? 1 : std::min(32, std::max(1, target.height() / 16));
  run_parts(workers, static_cast<std::size_t>(bands), [&](std::size_t band) {
    const int first = target.height() * static_cast<int>(band) / bands,
              last = target.height() * (static_cast<int>(band) + 1) / bands;
    const PixelRect rows{0, first, target.width(), last - first};
    Blender blender(blending, byte_of_light);
    draw(blender, rows);
  });
  return {};
}

}  // namespace

Result<void> draw_in_software(const QuadList& list, const GlyphSource& source, const View& view,
                              Blending blending, Image& target, Workers* workers) {
  return draw_in_bands(view, blending, target, workers, [&](Blender& blender, const PixelRect& rows) {
    for (const Batch& batch : list.batches.first(list.batch_count)) {
      for (const GlyphQuad& quad : list.quads.subspan(batch.first, batch.count)) {
        const std::size_t record = std::size_t{batch.first_record} + quad.record;
        if (record >= list.record_count) continue;
        ImageView pixels;  // a bar has none
        if (batch.kind != QuadKind::bar) {
          const std::optional<std::uint16_t> page = find_page(source, batch.kind, batch.part, quad.page);
          if (!page) continue;
          pixels = source.pixels(*page);
        }
        QuadDrawer(quad, list.records[record], batch.kind, pixels, view, blender).draw(target, rows);
      }
    }
  });
}

Result<void> draw_in_software(const SetMemory& set, const View& view, Blending blending, Image& target,
                              Workers* workers) {
  return draw_in_bands(view, blending, target, workers, [&](Blender& blender, const PixelRect& rows) {
    for (const SetBatch& batch : set.batches) {
      for (const std::uint32_t entry : set.order.subspan(batch.first, batch.count)) {
        const std::optional<detail::SetQuad> q = detail::find_set_quad(set, entry);
        if (!q || q->array.is_free()) continue;
        ImageView pixels;
        if (q->array.source != nullptr) {
          const std::optional<std::uint16_t> page =
              find_page(*q->array.source, q->array.kind, q->array.part, q->quad.page);
          if (!page) continue;
          pixels = q->array.source->pixels(*page);
        }
        QuadDrawer(q->quad, set.layers[q->quad.record], q->array.kind, pixels, view, blender, q->cut)
            .draw(target, rows);
      }
    }
  });
}

namespace {

/// Multiplies the colors of pixels that are neither empty nor opaque by what `factor` makes of their alpha.
template <class Factor>
void scale_colors(Image& target, Blending blending, Factor factor) {
  for (int y = 0; y < target.height(); ++y) {
    for (std::uint8_t* pixel = target.row(y); pixel < target.row(y) + target.row_bytes(); pixel += 4) {
      if (pixel[3] == 255) continue;
      const float by = factor(static_cast<float>(pixel[3]) / 255.0F);
      for (int c = 0; c < 3; ++c) {
        pixel[c] = blending == Blending::linear ? to_byte(to_srgb(light_of(pixel[c]) * by))
                                                : to_byte(static_cast<float>(pixel[c]) / 255.0F * by);
      }
    }
  }
}

}  // namespace

void to_premultiplied_alpha(Image& target, Blending blending) {
  scale_colors(target, blending, [](float alpha) { return alpha; });
}

void to_straight_alpha(Image& target, Blending blending) {
  scale_colors(target, blending, [](float alpha) { return alpha > 0 ? 1 / alpha : 0.0F; });
}

}  // namespace grafema
