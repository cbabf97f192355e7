// SPDX-License-Identifier: MIT
// The tables of a new font that come from its glyphs, and those that sum them up.
#pragma once

#include <cmath>
#include <map>
#include <utility>
#include <vector>

#include "grafema/write/make_font.hpp"
#include "write/table_writer.hpp"

namespace grafema::detail {

/// A length as the whole font units that tables hold; half a unit is rounded up.
inline int to_units(float v) { return static_cast<int>(std::floor(v + 0.5F)); }

/// A drawing in the file's terms: glyphs in order, characters ascending.
struct FontPlan {
  const FontDrawing* drawing = nullptr;
  std::vector<const DrawnGlyph*> glyphs;
  std::vector<FontRect> boxes;                                 ///< one for each glyph, empty without outline
  std::vector<std::pair<char32_t, std::uint16_t>> characters;  ///< ascending
  std::size_t most_points = 0, most_contours = 0;

  std::uint16_t glyph_of(char32_t character) const;  ///< 0 where there is none
};

/// glyf and loca. Fails for cubic curves and coordinates that 16 bits can't hold.
Result<std::pair<WrittenTable, WrittenTable>> write_glyphs(FontPlan& plan);
WrittenTable write_cmap(const FontPlan& plan);
WrittenTable write_hmtx(const FontPlan& plan);
WrittenTable write_kern(const FontPlan& plan);
WrittenTable write_name(const FontPlan& plan);
WrittenTable write_head(const FontPlan& plan);
WrittenTable write_hhea(const FontPlan& plan);
WrittenTable write_maxp(const FontPlan& plan);
WrittenTable write_os2(const FontPlan& plan);
WrittenTable write_post(const FontPlan& plan);

}  // namespace grafema::detail
