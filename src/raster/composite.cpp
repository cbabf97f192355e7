// SPDX-License-Identifier: MIT
// Porter and Duff's operators, and blend modes channel by channel or by hue, saturation and luminosity.
#include "raster/composite.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace grafema::detail {
namespace {

using Rgb = std::array<float, 3>;

Rgb straight(const Tone& t) {
  const float by = t.alpha > 0 ? 1 / t.alpha : 0;
  return {std::min(t.red * by, 1.0F), std::min(t.green * by, 1.0F), std::min(t.blue * by, 1.0F)};
}

float screen(float b, float s) { return b + s - b * s; }
float hard_light(float b, float s) { return s <= 0.5F ? b * 2 * s : screen(b, 2 * s - 1); }

float soft_light(float b, float s) {
  if (s <= 0.5F) return b - (1 - 2 * s) * b * (1 - b);
  const float d = b <= 0.25F ? ((16 * b - 12) * b + 4) * b : std::sqrt(b);
  return b + (2 * s - 1) * (d - b);
}

float blend_channel(CompositeMode mode, float b, float s) {
  switch (mode) {
    case CompositeMode::screen:
      return screen(b, s);
    case CompositeMode::overlay:
      return hard_light(s, b);
    case CompositeMode::darken:
      return std::min(b, s);
    case CompositeMode::lighten:
      return std::max(b, s);
    case CompositeMode::color_dodge:
      return b <= 0 ? 0 : s >= 1 ? 1 : std::min(1.0F, b / (1 - s));
    case CompositeMode::color_burn:
      return b >= 1 ? 1 : s <= 0 ? 0 : 1 - std::min(1.0F, (1 - b) / s);
    case CompositeMode::hard_light:
      return hard_light(b, s);
    case CompositeMode::soft_light:
      return soft_light(b, s);
    case CompositeMode::difference:
      return std::abs(b - s);
    case CompositeMode::exclusion:
      return b + s - 2 * b * s;
    default:
      return b * s;  // multiply
  }
}

float luminosity(const Rgb& c) { return 0.3F * c[0] + 0.59F * c[1] + 0.11F * c[2]; }
float saturation(const Rgb& c) { return std::max({c[0], c[1], c[2]}) - std::min({c[0], c[1], c[2]}); }

Rgb with_luminosity(Rgb c, float wanted) {
  const float d = wanted - luminosity(c);
  for (float& v : c) v += d;
  const float low = std::min({c[0], c[1], c[2]}), high = std::max({c[0], c[1], c[2]});
  for (float& v : c) {
    if (low < 0) v = wanted + (v - wanted) * wanted / (wanted - low);
    if (high > 1) v = wanted + (v - wanted) * (1 - wanted) / (high - wanted);
  }
  return c;
}

Rgb with_saturation(Rgb c, float wanted) {
  const float low = std::min({c[0], c[1], c[2]}), high = std::max({c[0], c[1], c[2]});
  for (float& v : c) v = high > low ? (v - low) * wanted / (high - low) : 0;
  return c;
}

Rgb blend(CompositeMode mode, const Rgb& b, const Rgb& s) {
  switch (mode) {
    case CompositeMode::hue:
      return with_luminosity(with_saturation(s, saturation(b)), luminosity(b));
    case CompositeMode::saturation:
      return with_luminosity(with_saturation(b, saturation(s)), luminosity(b));
    case CompositeMode::color:
      return with_luminosity(s, luminosity(b));
    case CompositeMode::luminosity:
      return with_luminosity(b, luminosity(s));
    default:
      return {blend_channel(mode, b[0], s[0]), blend_channel(mode, b[1], s[1]),
              blend_channel(mode, b[2], s[2])};
  }
}

}  // namespace

Tone composite(CompositeMode mode, const Tone& s, const Tone& b) {
  switch (mode) {
    case CompositeMode::clear:
      return {};
    case CompositeMode::source:
      return s;
    case CompositeMode::destination:
      return b;
    case CompositeMode::source_over:
      return over(s, b);
    case CompositeMode::destination_over:
      return over(b, s);
    case CompositeMode::source_in:
      return s * b.alpha;
    case CompositeMode::destination_in:
      return b * s.alpha;
    case CompositeMode::source_out:
      return s * (1 - b.alpha);
    case CompositeMode::destination_out:
      return b * (1 - s.alpha);
    case CompositeMode::source_atop:
      return s * b.alpha + b * (1 - s.alpha);
    case CompositeMode::destination_atop:
      return b * s.alpha + s * (1 - b.alpha);
    case CompositeMode::exclusive_or:
      return s * (1 - b.alpha) + b * (1 - s.alpha);
    case CompositeMode::plus: {
      const Tone sum = s + b;
      return {std::min(sum.red, 1.0F), std::min(sum.green, 1.0F), std::min(sum.blue, 1.0F),
              std::min(sum.alpha, 1.0F)};
    }
    default:
      break;
  }
  const Rgb mixed = blend(mode, straight(b), straight(s));
  const float both = s.alpha * b.alpha;
  return s * (1 - b.alpha) + b * (1 - s.alpha) +
         Tone{mixed[0] * both, mixed[1] * both, mixed[2] * both, both};
}

}  // namespace grafema::detail
