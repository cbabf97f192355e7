// SPDX-License-Identifier: MIT
// From a sheet of drawn cells to glyphs.
#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "base/light.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/write/make_font.hpp"
#include "write/sheet_cells.hpp"
#include "write/trace.hpp"

namespace grafema {
namespace {

using detail::Bitmap;
using detail::quoted;

tl::unexpected<Error> bad(const char* expected, const std::string& found) {
  return fail(make_error(ErrorKind::bad_value, expected, found));
}

/// The ink of a cell, cut to the columns that have any.
Bitmap read_cell(const PixelSheet& s, int column, int row) {
  int first = s.cell_width, last = -1;
  const auto ink = [&](int x, int y) {
    return detail::is_ink(s.sheet, column * s.cell_width + x, row * s.cell_height + y);
  };
  for (int y = 0; y < s.cell_height; ++y) {
    for (int x = 0; x < s.cell_width; ++x) {
      if (!ink(x, y)) continue;
      first = std::min(first, x);
      last = std::max(last, x);
    }
  }
  Bitmap bitmap{std::max(0, last - first + 1), s.cell_height, {}};
  for (int y = 0; y < s.cell_height; ++y) {
    for (int x = first; x <= last; ++x) bitmap.ink.push_back(ink(x, y));
  }
  return bitmap;
}

Result<void> check_numbers(const PixelSheet& s) {
  const auto within = [](int v, int low, int high) { return v >= low && v <= high; };
  if (!within(s.cell_width, 1, 256) || !within(s.cell_height, 1, 64)) {
    return bad("a cell of 1 to 256 by 1 to 64 pixels", fmt::format("{}x{}", s.cell_width, s.cell_height));
  }
  if (s.sheet.width() % s.cell_width != 0 || s.sheet.height() % s.cell_height != 0 || s.sheet.width() == 0) {
    return bad("a sheet that is a multiple of the cell",
               fmt::format("{}x{} pixels in cells of {}x{}", s.sheet.width(), s.sheet.height(), s.cell_width,
                           s.cell_height));
  }
  if (!within(s.baseline, 1, s.cell_height)) {
    return bad("a baseline of 1 to the cell's height", fmt::format("{}", s.baseline));
  }
  if (!within(s.ascender, 0, s.baseline - 1)) {
    return bad("an ascender above the baseline", fmt::format("{}", s.ascender));
  }
  if (!within(s.left_bearing, 0, 64) || !within(s.right_bearing, 0, 64)) {
    return bad("side bearings of 0 to 64 pixels", fmt::format("{}, {}", s.left_bearing, s.right_bearing));
  }
  if (!within(s.space, 1, 64)) return bad("a space of 1 to 64 pixels", fmt::format("{}", s.space));
  return {};
}

Result<void> check_rows(const PixelSheet& s) {
  const std::size_t columns = static_cast<std::size_t>(s.sheet.width() / s.cell_width);
  const std::size_t rows = static_cast<std::size_t>(s.sheet.height() / s.cell_height);
  if (s.rows.size() > rows) {
    return bad("no more rows than the sheet has",
               fmt::format("line {} of 'rows', the sheet has {} rows of cells", rows + 1, rows));
  }
  std::map<char32_t, std::string> seen;
  for (std::size_t row = 0; row < s.rows.size(); ++row) {
    if (s.rows[row].size() > columns) {
      return bad("no more characters in a row than it has cells",
                 fmt::format("{} in line {} of 'rows', the sheet has {} columns", s.rows[row].size(), row + 1,
                             columns));
    }
    for (std::size_t column = 0; column < s.rows[row].size(); ++column) {
      const char32_t c = s.rows[row][column];
      if (c == U' ') continue;
      const std::string cell = fmt::format("line {}, cell {}", row + 1, column + 1);
      const auto [first, is_new] = seen.emplace(c, cell);
      if (!is_new) {
        return bad("each character once",
                   fmt::format("{} in {} again after {}", quoted(c), cell, first->second));
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
      return bad("a cell of the sheet for the missing glyph",
                 fmt::format("cell {} of line {}", sheet_.missing_column + 1, sheet_.missing_row + 1));
    }
    out.glyphs.push_back(
        make_glyph({}, drawn ? read_cell(sheet_, sheet_.missing_column, sheet_.missing_row) : empty_box()));
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
        const char32_t c = sheet_.rows[row][column];
        if (c == U' ') continue;
        const Bitmap bitmap = read_cell(sheet_, static_cast<int>(column), static_cast<int>(row));
        if (bitmap.width == 0) {
          return bad("ink in every cell that has a character",
                     fmt::format("none for {} in line {}, cell {}", quoted(c), row + 1, column + 1));
        }
        out.glyphs.push_back(make_glyph({c}, bitmap));
      }
    }
    return {};
  }

 private:
  DrawnGlyph make_glyph(std::vector<char32_t> characters, const Bitmap& bitmap) const {
    DrawnGlyph glyph;
    glyph.characters = std::move(characters);
    detail::trace(bitmap, sheet_.baseline, kUnitsPerPixel, glyph.outline);
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

bool is_ink(const Image& sheet, int x, int y) {
  const int max = static_cast<int>(largest_value(sheet.format())), channels = channel_count(sheet.format());
  if (channels == 4 && sheet.value(x, y, 3) * 2 < max) return false;
  int sum = 0;
  const int colors = std::min(channels, 3);
  for (int c = 0; c < colors; ++c) sum += sheet.value(x, y, c);
  return sum * 2 < max * colors;
}

Result<void> check_sheet(const PixelSheet& sheet) {
  if (Result<void> checked = check_numbers(sheet); !checked) return checked;
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
