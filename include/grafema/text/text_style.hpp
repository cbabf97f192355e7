// SPDX-License-Identifier: MIT
// How text is laid out.
#pragma once

#include <cstdint>

namespace grafema {

/// Where the lines of a label stand against its widest one. `start` and `end` follow the direction of the
/// text.
enum class TextAlign : std::uint8_t { left, center, right, start, end };

/// Lengths are pixels, x right, y down.
struct TextStyle {
  float size = 32.0F;  ///< pixels per em, kMinSize to kMaxSize
  TextAlign align = TextAlign::start;
  float line_spacing = 1.0F;  ///< multiple of the natural line height (ascent, descent and gap), 0..100
  float tracking = 0.0F;      ///< added between clusters, not after the last one of a line
  bool kerning = true;
};

}  // namespace grafema
