// SPDX-License-Identifier: MIT
// Characters that need no glyph.
#include "grafema/font_stack.hpp"

#include <algorithm>
#include <iterator>

namespace grafema {
namespace {

struct CharacterRange {
  char32_t first, last;
};

/// Category Cc and Default_Ignorable_Code_Point of Unicode 15, ascending.
constexpr CharacterRange kInvisible[] = {
    {0x0000, 0x001F}, {0x007F, 0x009F},   {0x00AD, 0x00AD},   {0x034F, 0x034F},   {0x061C, 0x061C},
    {0x115F, 0x1160}, {0x17B4, 0x17B5},   {0x180B, 0x180F},   {0x200B, 0x200F},   {0x202A, 0x202E},
    {0x2060, 0x206F}, {0x3164, 0x3164},   {0xFE00, 0xFE0F},   {0xFEFF, 0xFEFF},   {0xFFA0, 0xFFA0},
    {0xFFF0, 0xFFF8}, {0x1BCA0, 0x1BCA3}, {0x1D173, 0x1D17A}, {0xE0000, 0xE0FFF},
};

}  // namespace

bool is_invisible(char32_t character) {
  for (const CharacterRange& range : kInvisible) {
    if (character <= range.last) return character >= range.first;
  }
  return false;
}

void match_x_heights(FontStack& stack) {
  constexpr float kMost = 4;  // a face whose small letters are a quarter of the other's is no text face
  const auto relative_height = [](const GlyphMetrics& metrics) {
    const Face* face = metrics.face();
    return face == nullptr ? 0.0F : face->facts().x_height / face->units_per_em();
  };
  stack.scales.assign(stack.faces.size(), 1.0F);
  const float wanted = stack.faces.empty() ? 0.0F : relative_height(*stack.faces[0]);
  for (std::size_t i = 1; i < stack.faces.size() && wanted > 0; ++i) {
    const float own = relative_height(*stack.faces[i]);
    if (own > 0) stack.scales[i] = std::clamp(wanted / own, 1 / kMost, kMost);
  }
}

}  // namespace grafema
