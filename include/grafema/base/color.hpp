// SPDX-License-Identifier: MIT
// Colors in CSS notation, and the way between sRGB and linear light.
#pragma once

#include <string>
#include <string_view>

#include "grafema/base/error.hpp"

namespace grafema {

/// An sRGB color, not premultiplied; every channel in 0..1.
struct Color {
  float red = 0, green = 0, blue = 0, alpha = 1;
  bool operator==(const Color&) const = default;
};

/// Reads CSS color notation (CSS Color Module Level 4): `#rgb`, `#rgba`, `#rrggbb`, `#rrggbbaa`, a name,
/// `rgb()`, `hsl()`, `oklch()`, each with commas or spaces and an optional alpha. What lies outside sRGB is
/// clamped. Fails with `bad_value`.
GRAFEMA_API Result<Color> read_color(std::string_view text);

/// `#rrggbb`, or `#rrggbbaa` where the color is not opaque.
GRAFEMA_API std::string to_string(const Color& color);

/// One sRGB channel in 0..1 to linear light (IEC 61966-2-1). Built from arithmetic and square roots alone, so
/// that it gives the same bits on every machine.
GRAFEMA_API float to_linear(float srgb);

/// The inverse of `to_linear`. Values outside 0..1 are clamped.
GRAFEMA_API float to_srgb(float linear);

}  // namespace grafema
