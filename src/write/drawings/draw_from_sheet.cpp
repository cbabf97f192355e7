// SPDX-License-Identifier: MIT
// From a sheet of drawn cells to glyphs.
#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "base/light.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/write/make_font.hpp"
#include "outline/trace.hpp"
#include "write/drawings/sheet_cells.hpp"

namespace grafema {
namespace {

using detail::Bitmap;
using detail::quoted;

/// A cell in the picture.
struct Place {
  int x, y, width, height;
};

/// Columns of a cell that have ink.
struct Columns {
  int first, count;
};

Columns find_columns(const PixelSheet& s, const Place& cell) {
  int first = cell.width, last = -1;
  for (int y = 0; y < cell.height; ++y) {
    for (int x = 0; x < cell.width; ++x) {
      if (detail::is_ink(s, cell.x + x, cell.y + y)) first = std::min(first, x), last = std::max(last, x);
    }
  }
  return {first, std::max(0, last - first + 1)};
}

/// Those pixels of a cell, cut to its columns, that `takes(x, y)` of the picture says yes to.
template <class Takes>
Bitmap read_cell(const Place& cell, Columns columns, const Takes& takes) {
  Bitmap bitmap{columns.count, cell.height, {}};
  for (int y = 0; y < cell.height; ++y) {
    for (int x = 0; x < columns.count; ++x)
      bitmap.ink.push_back(takes(cell.x + columns.first + x, cell.y + y));
  }
  return bitmap;
}

Result<void> check_sheet_numbers(const PixelSheet& s) {
  const auto within = [](int v, int low, int high) { return v >= low && v <= high; };
  if (!within(s.cell_width, 1, 256) || !within(s.cell_height, 1, 64)) {
    return bad_value("a cell of 1 to 256 by 1 to 64 pixels",
                     fmt::format("{}x{}", s.cell_width, s.cell_height));
  }
  if (s.color && channel_count(s.sheet.format()) != 4)
    return bad_value("a colored sheet with transparency", "a picture without alpha");
  const bool is_multiple = s.sheet.width() % s.cell_width == 0 && s.sheet.height() % s.cell_height == 0;
  if ((!is_multiple && s.blocks.empty()) || s.sheet.width() == 0) {
    return bad_value("a sheet that is a multiple of the cell",
                     fmt::format("{}x{} pixels in cells of {}x{}", s.sheet.width(), s.sheet.height(),
                                 s.cell_width, s.cell_height));
  }
  if (!within(s.baseline, 1, s.cell_height)) {
    return bad_value("a baseline of 1 to the cell's height", fmt::format("{}", s.baseline));
  }
  if (!within(s.ascender, 0, s.baseline - 1)) {
    return bad_value("an ascender above the baseline", fmt::format("{}", s.ascender));
  }
  if (!within(s.left_bearing, 0, 64) || !within(s.right_bearing, 0, 64)) {
    return bad_value("side bearings of 0 to 64 pixels",
                     fmt::format("{}, {}", s.left_bearing, s.right_bearing));
  }
  if (!within(s.space, 1, 64)) return bad_value("a space of 1 to 64 pixels", fmt::format("{}", s.space));
  return {};
}

Result<void> check_block(const PixelSheet& s, const PixelBlock& b, std::size_t index) {
  const auto within = [](int v, int low, int high) { return v >= low && v <= high; };
  const std::string which = fmt::format("block {}", index + 1);
  if (!within(b.cell_width, 1, 256) || !within(b.cell_height, 1, 64) || !within(b.baseline, 1, b.cell_height))
    return bad_value("cells of 1 to 256 by 1 to 64 pixels with a baseline in them", which);
  std::size_t most = 0;
  for (const std::u32string& row : b.rows) most = std::max(most, row.size());
  const auto fits = [](int at, std::size_t count, int size, int whole) {
    return at >= 0 && at <= whole && count <= static_cast<std::size_t>((whole - at) / size);
  };
  if (!fits(b.x, most, b.cell_width, s.sheet.width()) ||
      !fits(b.y, b.rows.size(), b.cell_height, s.sheet.height()))
    return bad_value("blocks of cells within the sheet", which);
  return {};
}

Result<void> check_rows(const PixelSheet& s) {
  const std::size_t columns = static_cast<std::size_t>(s.sheet.width() / s.cell_width);
  const std::size_t rows = static_cast<std::size_t>(s.sheet.height() / s.cell_height);
  if (s.rows.size() > rows) {
    return bad_value("no more rows than the sheet has",
                     fmt::format("line {} of 'rows', the sheet has {} rows of cells", rows + 1, rows));
  }
  std::map<char32_t, std::string> seen;
  const auto add = [&](char32_t c, const std::string& cell) -> Result<void> {
    if (c == U' ') return {};
    const auto [first, is_new] = seen.emplace(c, cell);
    if (!is_new)
      return bad_value("each character once",
                       fmt::format("{} in {} again after {}", quoted(c), cell, first->second));
    return {};
  };
  for (std::size_t row = 0; row < s.rows.size(); ++row) {
    if (s.rows[row].size() > columns) {
      return bad_value("no more characters in a row than it has cells",
                       fmt::format("{} in line {} of 'rows', the sheet has {} columns", s.rows[row].size(),
                                   row + 1, columns));
    }
    for (std::size_t column = 0; column < s.rows[row].size(); ++column) {
      const Result<void> added =
          add(s.rows[row][column], fmt::format("line {}, cell {}", row + 1, column + 1));
      if (!added) return added;
    }
  }
  for (std::size_t i = 0; i < s.blocks.size(); ++i) {
    if (Result<void> checked = check_block(s, s.blocks[i], i); !checked) return checked;
    for (std::size_t row = 0; row < s.blocks[i].rows.size(); ++row) {
      for (std::size_t column = 0; column < s.blocks[i].rows[row].size(); ++column) {
        const Result<void> added = add(s.blocks[i].rows[row][column],
                                       fmt::format("block {}, line {}, cell {}", i + 1, row + 1, column + 1));
        if (!added) return added;
      }
    }
  }
  return {};
}

class SheetReader {
 public:
  explicit SheetReader(const PixelSheet& sheet) : sheet_(sheet) {}

  Result<void> add_missing(FontDrawing& out) {
    const bool drawn = sheet_.missing_column >= 0;
    if (drawn &&
        (sheet_.missing_column >= sheet_.sheet.width() / sheet_.cell_width || sheet_.missing_row < 0 ||
         sheet_.missing_row >= sheet_.sheet.height() / sheet_.cell_height)) {
      return bad_value("a cell of the sheet for the missing glyph",
                       fmt::format("cell {} of line {}", sheet_.missing_column + 1, sheet_.missing_row + 1));
    }
    if (drawn) {
      Result<DrawnGlyph> glyph =
          draw({}, place_of(sheet_.missing_column, sheet_.missing_row), sheet_.baseline);
      if (!glyph) return fail(glyph.error());
      out.glyphs.push_back(*std::move(glyph));
    } else {
      out.glyphs.push_back(make_glyph({}, empty_box(), sheet_.baseline));
    }
    return {};
  }

  void add_space(FontDrawing& out) {
    DrawnGlyph space;
    space.characters = {0x20, 0xA0};
    space.advance = static_cast<float>(sheet_.space * kUnitsPerPixel);
    out.glyphs.push_back(std::move(space));
  }

  Result<void> add_rows(FontDrawing& out) {
    for (std::size_t row = 0; row < sheet_.rows.size(); ++row) {
      for (std::size_t column = 0; column < sheet_.rows[row].size(); ++column) {
        Result<void> added =
            add(sheet_.rows[row][column], place_of(static_cast<int>(column), static_cast<int>(row)),
                sheet_.baseline, fmt::format("line {}, cell {}", row + 1, column + 1), out);
        if (!added) return added;
      }
    }
    for (std::size_t i = 0; i < sheet_.blocks.size(); ++i) {
      const PixelBlock& b = sheet_.blocks[i];
      for (std::size_t row = 0; row < b.rows.size(); ++row) {
        for (std::size_t column = 0; column < b.rows[row].size(); ++column) {
          const Place cell{b.x + static_cast<int>(column) * b.cell_width,
                           b.y + static_cast<int>(row) * b.cell_height, b.cell_width, b.cell_height};
          Result<void> added =
              add(b.rows[row][column], cell, b.baseline,
                  fmt::format("block {}, line {}, cell {}", i + 1, row + 1, column + 1), out);
          if (!added) return added;
        }
      }
    }
    return {};
  }

 private:
  Place place_of(int column, int row) const {
    return {column * sheet_.cell_width, row * sheet_.cell_height, sheet_.cell_width, sheet_.cell_height};
  }

  Result<void> add(char32_t c, const Place& cell, int baseline, const std::string& name, FontDrawing& out) {
    if (c == U' ') return {};
    Result<DrawnGlyph> glyph = draw({c}, cell, baseline);
    if (!glyph) return fail(glyph.error());
    if (glyph->outline.points.empty())
      return bad_value("ink in every cell that has a character",
                       fmt::format("none for {} in {}", quoted(c), name));
    out.glyphs.push_back(*std::move(glyph));
    return {};
  }

  Result<DrawnGlyph> draw(std::vector<char32_t> characters, const Place& cell, int baseline) const {
    const Columns columns = find_columns(sheet_, cell);
    DrawnGlyph glyph = make_glyph(
        std::move(characters),
        read_cell(cell, columns, [&](int x, int y) { return detail::is_ink(sheet_, x, y); }), baseline);
    if (!sheet_.color || columns.count == 0) return glyph;
    if (Result<void> layered = add_layers(cell, columns, baseline, glyph); !layered)
      return fail(layered.error());
    return glyph;
  }

  std::uint32_t color_at(int x, int y) const {
    const int max = static_cast<int>(detail::largest_value(sheet_.sheet.format()));
    std::uint32_t color = 0;
    for (int c = 0; c < 4; ++c)
      color = color << 8 | static_cast<std::uint32_t>(sheet_.sheet.value(x, y, c) * 255 / max);
    return color;
  }

  /// The most frequent color lies under all others, so that nothing shines through where they meet.
  Result<void> add_layers(const Place& cell, Columns columns, int baseline, DrawnGlyph& glyph) const {
    constexpr std::size_t kMaxColors = 64;
    std::map<std::uint32_t, int> counts;
    for (int y = cell.y; y < cell.y + cell.height; ++y) {
      for (int x = cell.x; x < cell.x + cell.width; ++x) {
        if (detail::is_ink(sheet_, x, y)) ++counts[color_at(x, y)];
      }
    }
    if (counts.size() > kMaxColors)
      return bad_value("at most 64 colors in a cell", std::to_string(counts.size()));
    const std::uint32_t most =
        std::max_element(counts.begin(), counts.end(), [](const auto& a, const auto& b) {
          return a.second < b.second;
        })->first;
    const auto add = [&](std::uint32_t color, const Contours& outline) {
      const auto part = [color](unsigned shift) { return static_cast<float>(color >> shift & 0xFFU) / 255; };
      glyph.layers.push_back({outline, {part(24), part(16), part(8), part(0)}});
    };
    add(most, glyph.outline);
    for (const auto& [color, count] : counts) {
      if (color == most) continue;
      const Bitmap of_color = read_cell(cell, columns, [&, wanted = color](int x, int y) {
        return detail::is_ink(sheet_, x, y) && color_at(x, y) == wanted;
      });
      add(color, make_glyph({}, of_color, baseline).outline);
    }
    return {};
  }

  DrawnGlyph make_glyph(std::vector<char32_t> characters, const Bitmap& bitmap, int baseline) const {
    DrawnGlyph glyph;
    glyph.characters = std::move(characters);
    detail::trace(bitmap, baseline, kUnitsPerPixel, glyph.outline);
    for (FontPoint& p : glyph.outline.points) p.x += static_cast<float>(sheet_.left_bearing * kUnitsPerPixel);
    glyph.advance =
        static_cast<float>((sheet_.left_bearing + bitmap.width + sheet_.right_bearing) * kUnitsPerPixel);
    return glyph;
  }

  /// A box from the baseline up, half as wide as the cell.
  Bitmap empty_box() const {
    Bitmap box{std::max(3, sheet_.cell_width / 2), sheet_.cell_height, {}};
    const int top = sheet_.ascender + (sheet_.baseline - sheet_.ascender) / 4;
    for (int y = 0; y < box.height; ++y) {
      for (int x = 0; x < box.width; ++x) {
        const bool edge = x == 0 || x == box.width - 1 || y == top || y == sheet_.baseline - 1;
        box.ink.push_back(edge && y >= top && y < sheet_.baseline);
      }
    }
    return box;
  }

  const PixelSheet& sheet_;
};

}  // namespace

namespace detail {

std::string quoted(char32_t character) {
  std::string text = "'";
  append_utf8(text, character);
  return text + fmt::format("' (U+{:04X})", static_cast<unsigned>(character));
}

bool is_ink(const PixelSheet& s, int x, int y) {
  const Image& sheet = s.sheet;
  const int max = static_cast<int>(largest_value(sheet.format())), channels = channel_count(sheet.format());
  if (channels == 4 && sheet.value(x, y, 3) * 2 < max) return false;
  if (s.color) return true;
  int sum = 0;
  const int colors = std::min(channels, 3);
  for (int c = 0; c < colors; ++c) sum += sheet.value(x, y, c);
  return sum * 2 < max * colors;
}

Result<void> check_sheet(const PixelSheet& sheet) {
  if (Result<void> checked = check_sheet_numbers(sheet); !checked) return checked;
  return check_rows(sheet);
}

}  // namespace detail

Result<FontDrawing> draw_from_sheet(const PixelSheet& sheet) {
  if (const Result<void> checked = detail::check_sheet(sheet); !checked) return fail(checked.error());
  FontDrawing drawing;
  drawing.names = sheet.names;
  drawing.weight_class = sheet.weight_class;
  drawing.units_per_em = static_cast<std::uint16_t>(sheet.cell_height * kUnitsPerPixel);
  drawing.lines.ascent = static_cast<float>((sheet.baseline - sheet.ascender) * kUnitsPerPixel);
  drawing.lines.descent = static_cast<float>((sheet.cell_height - sheet.baseline) * kUnitsPerPixel);
  SheetReader reader(sheet);
  if (const Result<void> added = reader.add_missing(drawing); !added) return fail(added.error());
  reader.add_space(drawing);
  if (const Result<void> added = reader.add_rows(drawing); !added) return fail(added.error());
  for (const DrawnPair& pair : sheet.kerning) {
    drawing.kerning.push_back({pair.left, pair.right, pair.value * kUnitsPerPixel / 4});
  }
  if (const Result<void> ruled = apply_rules(sheet.rules, kUnitsPerPixel / 4.0F, drawing); !ruled)
    return fail(ruled.error());
  return drawing;
}

}  // namespace grafema
