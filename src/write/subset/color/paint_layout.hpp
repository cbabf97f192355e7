// SPDX-License-Identifier: MIT
// How paint tables of COLR version 1 are laid out, format by format (OpenType, COLR, "Paint tables").
#pragma once

#include <array>
#include <cstdint>

namespace grafema::detail {

/// Places of fields in one format; 0 where it has no such field.
struct PaintLayout {
  std::uint8_t bytes = 0;
  std::array<std::uint8_t, 2> paints = {};  ///< 24-bit offsets of paints
  std::uint8_t other = 0;                   ///< 24-bit offset of a color line or a transform
  std::uint8_t glyph = 0;
  std::uint8_t numbers = 0,
               number_count = 0;  ///< those that vary, 16 bits each; their base stands behind them
};

constexpr std::uint8_t kPaintLayers = 1, kPaintGlyph = 10, kPaintColorGlyph = 11, kPaintTransform = 12,
                       kLastPaint = 32;

/// By format; that of a format which the specification does not have has no bytes.
constexpr std::array<PaintLayout, kLastPaint + 1> kPaintLayouts = {{
    {},                        // 0
    {6},                       // 1 layers
    {5},                       // 2 solid
    {9, {}, 0, 0, 3, 1},       // 3
    {16, {}, 1},               // 4 linear gradient
    {20, {}, 1, 0, 4, 6},      // 5
    {16, {}, 1},               // 6 radial gradient
    {20, {}, 1, 0, 4, 6},      // 7
    {12, {}, 1},               // 8 sweep gradient
    {16, {}, 1, 0, 4, 4},      // 9
    {6, {1, 0}, 0, 4},         // 10 glyph
    {3, {}, 0, 1},             // 11 color glyph
    {7, {1, 0}, 4},            // 12 transform
    {7, {1, 0}, 4},            // 13
    {8, {1, 0}},               // 14 translate
    {12, {1, 0}, 0, 0, 4, 2},  // 15
    {8, {1, 0}},               // 16 scale
    {12, {1, 0}, 0, 0, 4, 2},  // 17
    {12, {1, 0}},              // 18 scale around a center
    {16, {1, 0}, 0, 0, 4, 4},  // 19
    {6, {1, 0}},               // 20 scale uniformly
    {10, {1, 0}, 0, 0, 4, 1},  // 21
    {10, {1, 0}},              // 22 scale uniformly around a center
    {14, {1, 0}, 0, 0, 4, 3},  // 23
    {6, {1, 0}},               // 24 rotate
    {10, {1, 0}, 0, 0, 4, 1},  // 25
    {10, {1, 0}},              // 26 rotate around a center
    {14, {1, 0}, 0, 0, 4, 3},  // 27
    {8, {1, 0}},               // 28 skew
    {12, {1, 0}, 0, 0, 4, 2},  // 29
    {12, {1, 0}},              // 30 skew around a center
    {16, {1, 0}, 0, 0, 4, 4},  // 31
    {8, {1, 5}},               // 32 composite
}};

}  // namespace grafema::detail
