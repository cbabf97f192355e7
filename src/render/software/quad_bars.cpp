// SPDX-License-Identifier: MIT
// Lines under and through letters: boxes whose distance is worked out, and their share of wide samples.
#include <algorithm>
#include <cmath>

#include "render/software/paint_quads.hpp"

namespace grafema::detail {

/// What a picture of the bar would hold there.
float QuadShader::bar_reading(Texel at) const {
  const float half_width = static_cast<float>(right_ - left_) / 2,
              half_height = static_cast<float>(bottom_ - top_) / 2;
  const float x = std::abs(at.x - static_cast<float>(left_) - half_width) - (half_width - layer_.reach),
              y = std::abs(at.y - static_cast<float>(top_) - half_height) - (half_height - layer_.reach);
  const float out_x = std::max(x, 0.0F), out_y = std::max(y, 0.0F);
  const float outside = std::sqrt(out_x * out_x + out_y * out_y) + std::min(std::max(x, y), 0.0F);
  return 0.5F - outside / (2 * layer_.reach);
}

/// A bar that is thinner than a sample is wide: how much of the sample it covers.
float QuadShader::wide_bar_at(Texel at, const Footprint& footprint) const {
  if (layer_.cut == kInsetCut) {
    const Texel shifted{at.x - layer_.shift_x, at.y - layer_.shift_y};
    return share_of_bar(at, footprint, 0, 0) *
           (1 - share_of_bar(shifted, footprint, -layer_.grow, layer_.blur));
  }
  float strength = share_of_bar(at, footprint, layer_.grow, layer_.blur);
  if (layer_.line > 0) strength -= share_of_bar(at, footprint, layer_.grow - layer_.line, layer_.blur);
  if (layer_.cut != kHollowCut) return std::max(strength, 0.0F);
  return std::max(strength, 0.0F) *
         (1 - share_of_bar({at.x + layer_.shift_x, at.y + layer_.shift_y}, footprint, 0, 0));
}

float QuadShader::share_of_bar(Texel at, const Footprint& footprint, float grow, float soften) const {
  const auto across = static_cast<float>(footprint.across), down = static_cast<float>(footprint.down);
  const float inset = layer_.reach - grow;
  const float wide = (std::abs(footprint.dx.x) / across + std::abs(footprint.dy.x) / down) / 2 + soften,
              high = (std::abs(footprint.dx.y) / across + std::abs(footprint.dy.y) / down) / 2 + soften;
  const auto share = [](float low, float high_end, float middle, float half) {
    const float within = std::min(high_end, middle + half) - std::max(low, middle - half);
    return std::clamp(within / (2 * half), 0.0F, 1.0F);
  };
  return share(static_cast<float>(left_) + inset, static_cast<float>(right_) - inset, at.x,
               std::max(wide, 1e-6F)) *
         share(static_cast<float>(top_) + inset, static_cast<float>(bottom_) - inset, at.y,
               std::max(high, 1e-6F));
}

}  // namespace grafema::detail
