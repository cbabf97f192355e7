// SPDX-License-Identifier: MIT
// A drawing in the file's terms: glyphs in order, names and characters looked up, all numbers checked.
#pragma once

#include <cmath>
#include <deque>
#include <map>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "grafema/write/font_drawing.hpp"
#include "write/tables/table_writer.hpp"

namespace grafema::detail {

/// A length as the whole font units that tables hold; half a unit is rounded up.
inline int to_units(float v) { return static_cast<int>(std::floor(v + 0.5F)); }

struct FontPlan {
  struct Part {
    std::uint16_t glyph;
    int dx, dy;
  };
  struct Glyph {
    const DrawnGlyph* drawn = nullptr;
    std::string name;
    std::vector<Part> parts;
    std::vector<std::vector<Part>> master_parts;  ///< the same in each other weight
    Contours outline;                             ///< with all parts
    FontRect box;                                 ///< empty without outline
    bool mark = false;
  };
  struct Layer {
    std::uint16_t base, glyph, color;  ///< colors by index of `palette`
  };

  const FontDrawing* drawing = nullptr;
  std::vector<Glyph> glyphs;
  std::vector<std::pair<char32_t, std::uint16_t>> characters;  ///< ascending
  std::map<std::string, std::uint16_t, std::less<>> names;
  std::vector<Layer> layers;
  std::vector<Color> palette;
  std::deque<DrawnGlyph> made;         ///< glyphs of color layers
  std::map<std::uint32_t, int> pairs;  ///< `left << 16 | right`: what stands before classes
  std::size_t most_points = 0, most_contours = 0, most_parts = 0;  ///< of glyphs without parts; parts of one

  std::uint16_t glyph_of(char32_t character) const;  ///< 0 where there is none
  /// The glyph of that name; -1 where there is none.
  int find(std::string_view name) const;
};

Result<FontPlan> make_plan(const FontDrawing& drawing);

}  // namespace grafema::detail
