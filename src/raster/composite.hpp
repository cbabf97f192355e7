// SPDX-License-Identifier: MIT
// Colors laid over each other: the modes of COLR version 1 (W3C Compositing and Blending Level 1).
#pragma once

#include "grafema/base/color.hpp"
#include "grafema/font/color_glyphs.hpp"

namespace grafema::detail {

/// sRGB, premultiplied.
struct Tone {
  float red = 0, green = 0, blue = 0, alpha = 0;
};

inline Tone to_tone(const Color& c) {
  return {c.red * c.alpha, c.green * c.alpha, c.blue * c.alpha, c.alpha};
}
inline Tone operator*(const Tone& t, float by) {
  return {t.red * by, t.green * by, t.blue * by, t.alpha * by};
}
inline Tone operator+(const Tone& a, const Tone& b) {
  return {a.red + b.red, a.green + b.green, a.blue + b.blue, a.alpha + b.alpha};
}
inline Tone over(const Tone& source, const Tone& backdrop) { return source + backdrop * (1 - source.alpha); }

/// `source` on `backdrop`.
Tone composite(CompositeMode mode, const Tone& source, const Tone& backdrop);

}  // namespace grafema::detail
