// SPDX-License-Identifier: MIT
// Exact coverage for plain layers, exact distance for the others.
#include "draw/layer_strengths.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

std::size_t size_of(const PixelRect& cell) {
  return static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height);
}

float median(float a, float b, float c) { return std::max(std::min(a, b), std::min(std::max(a, b), c)); }

Transform moved(Transform map, PixelPoint by) {
  map.dx += by.x, map.dy += by.y;
  return map;
}

/// What a layer looks at on either side of the letter's edge.
float reach_of(const Layer& layer) {
  const float inner = layer.inset ? 0.0F : std::abs(layer.grow - layer.line);
  return std::max(std::abs(layer.grow) * (layer.sharp ? kSharpReach : 1.0F), inner) + layer.blur + 1;
}

/// Distances of a part of the plane, mixed between pixels; outside of it as far as can be.
class Field {
 public:
  Field(std::span<const float> values, const PixelRect& cell, float reach)
      : values_(values), cell_(cell), reach_(reach) {}

  float at(float x, float y) const {
    const float px = x - static_cast<float>(cell_.x) - 0.5F, py = y - static_cast<float>(cell_.y) - 0.5F;
    const bool is_near = px > -2 && py > -2 && px < static_cast<float>(cell_.width) + 1 &&
                         py < static_cast<float>(cell_.height) + 1;
    if (!is_near) return -reach_;
    const float left = std::floor(px), top = std::floor(py), fx = px - left, fy = py - top;
    const int ix = static_cast<int>(left), iy = static_cast<int>(top);
    const float upper = value(ix, iy) + (value(ix + 1, iy) - value(ix, iy)) * fx,
                lower = value(ix, iy + 1) + (value(ix + 1, iy + 1) - value(ix, iy + 1)) * fx;
    return upper + (lower - upper) * fy;
  }

  /// Narrows the stretch of the way from a point back by `dx`, `dy`, 0 to 1, to where the field is.
  void cut(float x, float dx, float y, float dy, float& begin, float& end) const {
    const auto along = [&](float at, float by, int first, int count) {
      const float low = static_cast<float>(first) - 1, high = static_cast<float>(first + count) + 1;
      if (by == 0) {
        if (at < low || at > high) end = -1;
        return;
      }
      const float a = (at - high) / by, b = (at - low) / by;
      begin = std::max(begin, std::min(a, b)), end = std::min(end, std::max(a, b));
    };
    along(x, dx, cell_.x, cell_.width), along(y, dy, cell_.y, cell_.height);
  }

 private:
  float value(int x, int y) const {
    if (x < 0 || y < 0 || x >= cell_.width || y >= cell_.height) return -reach_;
    return values_[static_cast<std::size_t>(y) * static_cast<std::size_t>(cell_.width) +
                   static_cast<std::size_t>(x)];
  }
  std::span<const float> values_;
  PixelRect cell_;
  float reach_;
};

/// The distance to a shape drawn out along `sweep`: that to the nearest of its places. Only the part of the
/// way is looked at where the field is; no step is longer than what is free around the point.
float swept_distance(const Field& field, float x, float y, PixelPoint sweep, float reach) {
  constexpr float kShortest = 0.5F;
  float begin = 0, end = 1;
  field.cut(x, sweep.x, y, sweep.y, begin, end);
  if (begin > end) return -reach;
  const float length = std::max(std::hypot(sweep.x, sweep.y), 1e-6F);
  float nearest = -reach;
  for (float part = begin;; part = std::min(part, end)) {
    const float d = field.at(x - sweep.x * part, y - sweep.y * part);
    nearest = std::max(nearest, d);
    if (part >= end || nearest >= reach) return nearest;
    const float next = part + std::max(-d - reach / 2, kShortest) / length;
    part = next > part ? next : end;  // so long a way that a step is none
  }
}

}  // namespace

Rect painted_area(const Layer& layer, const Rect& letter) {
  if (is_plain(layer)) return letter.moved(layer.shift);
  if (layer.inset) return letter.grown(1);
  const float around = std::max(layer.blur, outward(layer)) + 1;
  const Rect first = letter.moved(layer.shift);
  return enclosing(first, first.moved(layer.sweep)).grown(around);
}

Result<std::span<const float>> LayerStrengths::make(const Layer& layer, const Contours& outline,
                                                    const Transform& map, const PixelRect& cell) {
  const Transform shifted = moved(map, layer.shift);
  strengths_.resize(size_of(cell));
  Result<void> made = is_plain(layer) ? rasterize_coverage(outline, shifted, cell, strengths_, scratch_)
                                      : make_grown(layer, outline, map, shifted, cell);
  const bool has_dashes = layer.dash > 0 && layer.gap > 0 && layer.line > 0 && !layer.inset;
  if (made && has_dashes) made = cut_into_dashes(layer, outline, shifted, cell);
  if (!made) return fail(made.error());
  return std::span<const float>(strengths_);
}

/// The true distance, or the one that keeps corners.
Result<void> LayerStrengths::make_distances(const Layer& layer, const Contours& outline, const Transform& map,
                                            const PixelRect& cell, float reach, std::vector<float>& out) {
  out.resize(size_of(cell));
  if (!layer.sharp) return rasterize_distance(outline, map, cell, reach, out, scratch_);
  channels_.resize(size_of(cell) * 4);
  const Result<void> made = rasterize_distance_channels(outline, map, cell, reach, channels_, scratch_);
  const float farther = std::max(layer.grow, 0.0F) * (kSharpReach - 1);
  for (std::size_t i = 0; made && i < out.size(); ++i) {
    const float* v = &channels_[i * 4];
    out[i] = std::min(median(v[0], v[1], v[2]), v[3] + farther);
  }
  return made;
}

/// Distances of the shape drawn out, from those of the letter where it stands at first.
Result<void> LayerStrengths::make_swept(const Layer& layer, const Contours& outline, const Transform& map,
                                        const PixelRect& cell, float reach) {
  const FontRect box = bounds(outline);
  const PixelPoint a = map(box.x_min, box.y_min), b = map(box.x_max, box.y_min),
                   c = map(box.x_min, box.y_max), d = map(box.x_max, box.y_max);
  const Rect letter{std::min(a.x, c.x), c.y, std::max(b.x, d.x), a.y};
  const Rect seen{static_cast<float>(cell.x), static_cast<float>(cell.y),
                  static_cast<float>(cell.x + cell.width), static_cast<float>(cell.y + cell.height)};
  const Rect back = enclosing(seen, seen.moved({-layer.sweep.x, -layer.sweep.y})),
             around = letter.grown(reach + 1);
  const Rect part{std::max(back.left, around.left), std::max(back.top, around.top),
                  std::min(back.right, around.right), std::min(back.bottom, around.bottom)};
  const PixelRect room = part.empty() ? PixelRect{cell.x, cell.y, 1, 1} : rounded_out(part);
  if (const Result<void> made = make_distances(layer, outline, map, room, reach, own_); !made) return made;
  const Field field(own_, room, reach);
  for (int y = 0; y < cell.height; ++y) {
    for (int x = 0; x < cell.width; ++x) {
      strengths_[static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width) +
                 static_cast<std::size_t>(x)] =
          swept_distance(field, static_cast<float>(cell.x + x) + 0.5F, static_cast<float>(cell.y + y) + 0.5F,
                         layer.sweep, reach);
    }
  }
  return {};
}

/// From the distance to the shifted shape, and to the letter's own where that is left out.
Result<void> LayerStrengths::make_grown(const Layer& layer, const Contours& outline, const Transform& map,
                                        const Transform& shifted, const PixelRect& cell) {
  const float reach = reach_of(layer);
  const bool has_sweep = !layer.inset && (layer.sweep.x != 0 || layer.sweep.y != 0);
  Result<void> made = has_sweep ? make_swept(layer, outline, shifted, cell, reach)
                                : make_distances(layer, outline, shifted, cell, reach, strengths_);
  const bool needs_own = layer.hollow || layer.inset;
  if (made && needs_own) {
    own_.resize(strengths_.size());
    made = rasterize_distance(outline, map, cell, 1, own_, scratch_);
  }
  if (!made) return made;
  for (std::size_t i = 0; i < strengths_.size(); ++i) {
    strengths_[i] = layer_strength(layer, strengths_[i], needs_own ? own_[i] : 0);
  }
  return {};
}

Result<std::span<const float>> LayerStrengths::make_heights(const Layer& layer, const Contours& outline,
                                                            const Transform& map, const PixelRect& cell) {
  const float reach = layer.surface.width + std::abs(layer.grow) + 2;
  const Result<void> made = make_distances(layer, outline, moved(map, layer.shift), cell, reach, heights_);
  if (!made) return fail(made.error());
  for (float& height : heights_) height += layer.grow;
  return std::span<const float>(heights_);
}

Result<void> LayerStrengths::cut_into_dashes(const Layer& layer, const Contours& outline,
                                             const Transform& map, const PixelRect& cell) {
  dashes_.set(outline, map, layer.dash, layer.gap);
  for (int y = 0; y < cell.height; ++y) {
    for (int x = 0; x < cell.width; ++x) {
      float& strength = strengths_[static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width) +
                                   static_cast<std::size_t>(x)];
      if (strength <= 0) continue;
      strength *=
          dashes_.share_at(static_cast<float>(cell.x + x) + 0.5F, static_cast<float>(cell.y + y) + 0.5F);
    }
  }
  return {};
}

}  // namespace grafema::detail
