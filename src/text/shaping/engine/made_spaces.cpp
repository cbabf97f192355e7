// SPDX-License-Identifier: MIT
// Widths of spaces, from the em, the digits, the full stop or the face's own space.
#include "text/shaping/engine/made_spaces.hpp"

namespace grafema::detail {
namespace {

float advance_of(const GlyphMetrics& metrics, GlyphId glyph) {
  float advance = 0;
  metrics.advances({&glyph, 1}, {&advance, 1});
  return advance;
}

float advance_of(const GlyphMetrics& metrics, char32_t like, GlyphId space) {
  const GlyphId glyph = metrics.find_glyph(like);
  return advance_of(metrics, glyph == kMissingGlyph ? space : glyph);
}

}  // namespace

float made_space_advance(const GlyphMetrics& metrics, GlyphId space, char32_t c) {
  const float em = metrics.units_per_em();
  switch (c) {
    case 0x2000:
    case 0x2002:
      return em / 2;
    case 0x2001:
    case 0x2003:
    case 0x3000:
      return em;
    case 0x2004:
      return em / 3;
    case 0x2005:
      return em / 4;
    case 0x2006:
      return em / 6;
    case 0x2007:
      return advance_of(metrics, U'0', space);
    case 0x2008:
      return advance_of(metrics, U'.', space);
    case 0x2009:
      return em / 5;
    case 0x200A:
      return em / 16;
    case 0x202F:
      return advance_of(metrics, space) / 2;
    case 0x205F:
      return em * 4 / 18;
    default:
      return advance_of(metrics, space);
  }
}

}  // namespace grafema::detail
