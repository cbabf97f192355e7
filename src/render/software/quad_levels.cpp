// SPDX-License-Identifier: MIT
// Chooses between a page and its smaller pictures: the largest of which a pixel's samples show all.
#include "render/software/quad_levels.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"

namespace grafema::detail {

MipmapShader::MipmapShader(const GlyphQuad& quad, const LayerRecord& layer, TexelKind kind,
                           const ImageView& far)
    : quad_(quad),
      layer_(layer),
      kind_(kind),
      far_(far),
      plain_(kind == TexelKind::coverage || (layer.grow == 0 && layer.blur == 0 && layer.line == 0)) {}

bool MipmapShader::use(int level) {
  if (level == level_) return true;
  const std::array<std::uint16_t, 4> cell = mipmap_cell(quad_.cell, level);
  if (cell[2] == 0) return false;
  cell_ = cell, level_ = level;
  unit_ = level == 1 ? 1.0F / 4 : 1.0F / 16;
  grow_ = layer_.grow * unit_, blur_ = layer_.blur * unit_, reach_ = layer_.reach * unit_;
  line_ = layer_.line * unit_;
  room_ = std::max(reach_ - std::max(std::abs(grow_), std::abs(grow_ - line_)) - blur_, 1.0F / 64);
  return true;
}

/// Nothing outside the cell; colors as premultiplied light.
inline Four MipmapShader::texel(int x, int y) const {
  const bool is_there = x >= 0 && y >= 0 && x < cell_[2] && y < cell_[3] && cell_[0] + x < far_.width &&
                        cell_[1] + y < far_.height;
  if (!is_there) return Four{};
  const std::uint8_t* p =
      far_.row(cell_[1] + y) + static_cast<std::size_t>(cell_[0] + x) * bytes_per_pixel(far_.format);
  if (kind_ == TexelKind::coverage) return all(static_cast<float>(*p) / 255);
  const float alpha = static_cast<float>(p[3]) / 255;
  if (kind_ == TexelKind::color) {
    return Four{light_of(p[0]) * alpha, light_of(p[1]) * alpha, light_of(p[2]) * alpha, alpha};
  }
  return Four{static_cast<float>(p[0]), static_cast<float>(p[1]), static_cast<float>(p[2]), 255} / 255;
}

/// What `value` makes of the four texels around a point, mixed.
template <class Value>
Four MipmapShader::mixed(Texel at, Value value) const {
  const float px = at.x - 0.5F, py = at.y - 0.5F, left = std::floor(px), top = std::floor(py);
  const int x = static_cast<int>(left), y = static_cast<int>(top);
  const float fx = px - left, fy = py - top;
  const Four a = value(texel(x, y)), b = value(texel(x + 1, y)), c = value(texel(x, y + 1)),
             d = value(texel(x + 1, y + 1));
  const Four upper = a + (b - a) * fx, lower = c + (d - c) * fx;
  return upper + (lower - upper) * fy;
}

/// How much of a texel a layer paints that grows or blurs the letter, or paints a band of it; of an inset,
/// what the thinned shape covers.
inline float MipmapShader::painted(Four v) const {
  if (v[3] == 0) return 0;
  const float distance = (v[1] - 0.5F) * 2 * reach_, half = std::min(v[2], room_) + blur_;
  const auto edge = [&](float d) {
    const float t = std::clamp(0.5F + d / (2 * half), 0.0F, 1.0F);
    return blur_ > 0 ? t * t * (3 - 2 * t) : t;
  };
  if (layer_.cut == kInsetCut) return edge(distance - grow_);
  const float outer = grow_ == 0 && blur_ == 0 ? v[0] : edge(distance + grow_);
  return line_ > 0 ? std::max(outer - edge(distance + grow_ - line_), 0.0F) : outer;
}

/// What the layer paints of the shape that it is of, whatever is left out.
float MipmapShader::layer_at(Texel at) const {
  if (plain_) return mixed(at, [](Four v) { return all(v[0]); })[0];
  return mixed(at, [this](Four v) { return all(painted(v)); })[0];
}

Four MipmapShader::sample(Texel at) const {
  if (kind_ == TexelKind::color) return mixed(at, [](Four v) { return v; });
  const auto own = [this](Texel where) { return mixed(where, [](Four v) { return all(v[0]); })[0]; };
  const Texel shift{layer_.shift_x * unit_, layer_.shift_y * unit_},
      sweep{layer_.sweep_x * unit_, layer_.sweep_y * unit_};
  if (kind_ != TexelKind::coverage && layer_.cut == kInsetCut) {
    return all(own(at) * (1 - layer_at({at.x - shift.x, at.y - shift.y})));
  }
  float strength = layer_at(at);
  if (sweep.x != 0 || sweep.y != 0) {  // a sample for each texel that the letter comes by
    const int steps =
        static_cast<int>(std::clamp(std::ceil(std::max(std::abs(sweep.x), std::abs(sweep.y))), 1.0F, 32.0F));
    for (int i = 1; i <= steps; ++i) {
      const float part = static_cast<float>(i) / static_cast<float>(steps);
      strength = std::max(strength, layer_at({at.x - sweep.x * part, at.y - sweep.y * part}));
    }
  }
  if (kind_ != TexelKind::coverage && layer_.cut == kHollowCut) {
    strength *= 1 - own({at.x + shift.x, at.y + shift.y});
  }
  return all(strength);
}

Four MipmapShader::sum(Texel at, const Footprint& footprint) const {
  const Texel middle{(at.x - static_cast<float>(quad_.cell[0])) * unit_,
                     (at.y - static_cast<float>(quad_.cell[1])) * unit_};
  const auto across = static_cast<float>(footprint.across), down = static_cast<float>(footprint.down);
  Four sum = {};
  for (int j = 0; j < footprint.down; ++j) {
    for (int i = 0; i < footprint.across; ++i) {
      const float a = (static_cast<float>(i) + 0.5F) / across - 0.5F,
                  b = (static_cast<float>(j) + 0.5F) / down - 0.5F;
      sum += sample({middle.x + a * footprint.dx.x + b * footprint.dy.x,
                     middle.y + a * footprint.dx.y + b * footprint.dy.y});
    }
  }
  return sum / (across * down);
}

QuadLevels::Choice QuadLevels::choose(const Footprint& footprint) {
  Choice choice{footprint};
  if (far_.data == nullptr || !has_page(kind_)) return choice;
  for (int level = 1; level <= kLevels; ++level) {
    const bool is_needed = level == 1 ? footprint.is_far : choice.footprint.has_too_many;
    if (!is_needed || !smaller_.use(level)) break;
    choice.level = level, choice.unit = smaller_.unit();
    choice.footprint = footprint.scaled(choice.unit);
  }
  return choice;
}

Shade QuadLevels::shade(Texel at, const Choice& choice, float across, float down) {
  if (choice.level == 0) return own_.shade(at, choice.footprint, across, down);
  (void)smaller_.use(choice.level);
  const Footprint own = choice.footprint.scaled(1 / choice.unit);
  return own_.with_sum(smaller_.sum(at, choice.footprint), own, across, down);
}

Parts QuadLevels::parts(Texel at, const Choice& choice) {
  Parts parts = {};
  if (choice.level == 0) {
    parts = own_.parts(at, choice.footprint);
  } else {
    (void)smaller_.use(choice.level);
    parts = own_.parts_of(smaller_.sum(at, choice.footprint)[3]);
  }
  parts[3] = own_.pixels_inside(at, choice.footprint.scaled(1 / choice.unit));
  return parts;
}

Texel QuadLevels::Choice::beyond() const {
  if (footprint.is_one_sample() && unit == 1) return {};
  const Texel half = footprint.half();
  // The picture fades out over a texel of its own.
  return {(half.x + 0.5F) / unit - 0.5F, (half.y + 0.5F) / unit - 0.5F};
}

}  // namespace grafema::detail
