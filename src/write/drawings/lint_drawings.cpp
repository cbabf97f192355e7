// SPDX-License-Identifier: MIT
// Measures each cell and looks for those that stand alone among their fellows.
#include "grafema/write/lint_drawings.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "write/drawings/sheet_cells.hpp"

namespace grafema {
namespace {

struct Cell {
  char32_t character = 0;
  int row = 0, column = 0;
  int left = 0, right = -1, top = 0, bottom = -1;  // of its ink; empty: right < left
  int stem = 0;  // the most frequent width of upright strokes; 0: none to tell
  bool empty() const { return right < left; }
};

/// Letters that end at the same heights.
enum class Fellows : std::uint8_t { none, small, ascending, descending, capital, figure };

Fellows fellows_of(char32_t c) {
  const auto is_in = [c](std::u32string_view list) { return list.find(c) != std::u32string_view::npos; };
  if (is_in(U"acemnorsuvwxz\u03B1\u03B5\u03BF\u03C3\u0432\u0433\u0438\u043A\u043C\u043D\u043F\u0442"))
    return Fellows::small;
  if (is_in(U"bdhkl")) return Fellows::ascending;
  if (is_in(U"gpqy")) return Fellows::descending;
  if ((c >= U'A' && c <= U'Z' && c != U'Q' && c != U'J') || (c >= 0x391 && c <= 0x3A9))
    return Fellows::capital;
  return c >= U'0' && c <= U'9' ? Fellows::figure : Fellows::none;
}

class Linter {
 public:
  explicit Linter(const PixelSheet& sheet) : sheet_(sheet) {
    for (std::size_t row = 0; row < sheet.rows.size(); ++row) {
      for (std::size_t column = 0; column < sheet.rows[row].size(); ++column) {
        const char32_t c = sheet.rows[row][column];
        if (c != U' ') cells_.push_back(measure(c, static_cast<int>(row), static_cast<int>(column)));
      }
    }
  }

  std::vector<DrawingFault> run() {
    for (const Fellows of :
         {Fellows::small, Fellows::ascending, Fellows::descending, Fellows::capital, Fellows::figure}) {
      compare_heights(of);
    }
    for (const Cell& cell : cells_) {
      find_pinholes(cell);
      find_gaps(cell);
      find_touching(cell);
    }
    compare_stems();
    compare_figures();
    find_partners();
    std::stable_sort(faults_.begin(), faults_.end(), [](const DrawingFault& a, const DrawingFault& b) {
      return std::pair(a.row, a.column) < std::pair(b.row, b.column);
    });
    return std::move(faults_);
  }

 private:
  bool ink(const Cell& cell, int x, int y) const {
    if (x < 0 || y < 0 || x >= sheet_.cell_width || y >= sheet_.cell_height) return false;
    return detail::is_ink(sheet_, cell.column * sheet_.cell_width + x, cell.row * sheet_.cell_height + y);
  }

  Cell measure(char32_t c, int row, int column) const {
    Cell cell{c, row, column, sheet_.cell_width, -1, sheet_.cell_height, -1, 0};
    std::map<int, int> widths;
    for (int y = 0; y < sheet_.cell_height; ++y) {
      int run = 0;
      for (int x = 0; x <= sheet_.cell_width; ++x) {
        if (ink(cell, x, y)) {
          cell.left = std::min(cell.left, x), cell.right = std::max(cell.right, x);
          cell.top = std::min(cell.top, y), cell.bottom = std::max(cell.bottom, y);
          ++run;
        } else if (run > 0) {
          // What goes on above or below is upright; the rest are bars and curves.
          const bool goes_on = ink(cell, x - 1, y - 1) && ink(cell, x - 1, y + 1) &&
                               ink(cell, x - run, y - 1) && ink(cell, x - run, y + 1);
          if (goes_on) ++widths[run];
          run = 0;
        }
      }
    }
    const auto most = std::max_element(widths.begin(), widths.end(),
                                       [](const auto& a, const auto& b) { return a.second < b.second; });
    if (most != widths.end() && most->second >= 3) cell.stem = most->first;
    return cell;
  }

  void add(DrawingFaultKind kind, const Cell& cell, char32_t fellow, int x = -1, int y = -1, int found = 0,
           int usual = 0) {
    faults_.push_back({kind, cell.character, fellow, cell.row, cell.column, x, y, found, usual});
  }

  /// The value that most have, and the first that has it; none where fewer than three agree.
  template <class Value>
  const Cell* usual(const std::vector<const Cell*>& cells, const Value& value) const {
    std::map<int, std::pair<int, const Cell*>> counts;
    for (const Cell* cell : cells) {
      auto& [count, first] = counts[value(*cell)];
      if (count++ == 0) first = cell;
    }
    const std::pair<int, const Cell*>* best = nullptr;
    for (const auto& [v, entry] : counts) {
      if (best == nullptr || entry.first > best->first) best = &entry;
    }
    return best != nullptr && best->first >= 3 && best->first * 2 > static_cast<int>(cells.size())
               ? best->second
               : nullptr;
  }

  std::vector<const Cell*> list(Fellows of) const {
    std::vector<const Cell*> cells;
    for (const Cell& cell : cells_) {
      if (!cell.empty() && fellows_of(cell.character) == of) cells.push_back(&cell);
    }
    return cells;
  }

  void compare_heights(Fellows of) {
    const std::vector<const Cell*> cells = list(of);
    const Cell* const top = usual(cells, [](const Cell& c) { return c.top; });
    const Cell* const bottom = usual(cells, [](const Cell& c) { return c.bottom; });
    for (const Cell* cell : cells) {
      const auto pixel = [&](int y) {
        for (int x = cell->left; x <= cell->right; ++x) {
          if (ink(*cell, x, y)) return x;
        }
        return -1;
      };
      if (top != nullptr && std::abs(cell->top - top->top) == 1)
        add(DrawingFaultKind::higher, *cell, top->character, pixel(cell->top), cell->top, cell->top,
            top->top);
      if (bottom != nullptr && std::abs(cell->bottom - bottom->bottom) == 1)
        add(DrawingFaultKind::lower, *cell, bottom->character, pixel(cell->bottom), cell->bottom,
            cell->bottom, bottom->bottom);
    }
  }

  void find_pinholes(const Cell& cell) {
    constexpr std::u32string_view kMeshed = U"#%&@$";  // narrow by nature
    if (kMeshed.find(cell.character) != std::u32string_view::npos) return;
    for (int y = cell.top + 1; y < cell.bottom; ++y) {
      for (int x = cell.left + 1; x < cell.right; ++x) {
        if (ink(cell, x, y)) continue;
        int around = 0;
        for (int dy = -1; dy <= 1; ++dy) {
          for (int dx = -1; dx <= 1; ++dx) around += ink(cell, x + dx, y + dy) ? 1 : 0;
        }
        if (around == 8) add(DrawingFaultKind::pinhole, cell, 0, x, y);
      }
    }
  }

  /// A pixel that is missing in a straight stroke: two of ink before and behind it, and paper on both sides.
  void find_gaps(const Cell& cell) {
    const char32_t c = cell.character;
    const bool is_plain = (c >= U'0' && c <= U'9') || (c >= U'A' && c <= U'Z') || (c >= U'a' && c <= U'z');
    if (!is_plain || c == U'i' || c == U'j') return;  // a dot stands off its stem
    const auto is_gap = [&](int x, int y, int dx, int dy) {
      for (int along = -2; along <= 2; ++along) {
        if (ink(cell, x + along * dx, y + along * dy) != (along != 0)) return false;
      }
      for (int along = -1; along <= 1; ++along) {
        if (ink(cell, x + along * dx + dy, y + along * dy + dx) ||
            ink(cell, x + along * dx - dy, y + along * dy - dx))
          return false;
      }
      return true;
    };
    for (int y = cell.top; y <= cell.bottom; ++y) {
      for (int x = cell.left; x <= cell.right; ++x) {
        if (is_gap(x, y, 1, 0) || is_gap(x, y, 0, 1)) add(DrawingFaultKind::gap, cell, 0, x, y);
      }
    }
  }

  const Cell* cell_at(int row, int column) const {
    const auto at = std::find_if(cells_.begin(), cells_.end(),
                                 [&](const Cell& c) { return c.row == row && c.column == column; });
    return at == cells_.end() ? nullptr : &*at;
  }

  /// Ink on this cell's last column or row with ink beside it in the next cell.
  void find_touching(const Cell& cell) {
    if (const Cell* right = cell_at(cell.row, cell.column + 1); right != nullptr) {
      for (int y = 0; y < sheet_.cell_height; ++y) {
        if (!ink(cell, sheet_.cell_width - 1, y)) continue;
        if (!ink(*right, 0, y - 1) && !ink(*right, 0, y) && !ink(*right, 0, y + 1)) continue;
        add(DrawingFaultKind::touches, cell, right->character, sheet_.cell_width - 1, y);
        break;
      }
    }
    if (const Cell* below = cell_at(cell.row + 1, cell.column); below != nullptr) {
      for (int x = 0; x < sheet_.cell_width; ++x) {
        if (!ink(cell, x, sheet_.cell_height - 1)) continue;
        if (!ink(*below, x - 1, 0) && !ink(*below, x, 0) && !ink(*below, x + 1, 0)) continue;
        add(DrawingFaultKind::touches, cell, below->character, x, sheet_.cell_height - 1);
        break;
      }
    }
  }

  void compare_stems() {
    std::vector<const Cell*> letters;
    for (const Cell& cell : cells_) {
      const Fellows of = fellows_of(cell.character);
      if (cell.stem > 0 && of != Fellows::none && of != Fellows::figure) letters.push_back(&cell);
    }
    const Cell* const most = usual(letters, [](const Cell& c) { return c.stem; });
    if (most == nullptr) return;
    for (const Cell* cell : letters) {
      if (cell->stem != most->stem)
        add(DrawingFaultKind::stroke_width, *cell, most->character, -1, -1, cell->stem, most->stem);
    }
  }

  /// A one may be narrow.
  void compare_figures() {
    std::vector<const Cell*> figures = list(Fellows::figure);
    std::erase_if(figures, [](const Cell* c) { return c->character == U'1'; });
    const auto width = [](const Cell& c) { return c.right - c.left + 1; };
    const Cell* const most = usual(figures, width);
    if (most == nullptr) return;
    for (const Cell* cell : figures) {
      if (width(*cell) != width(*most))
        add(DrawingFaultKind::figure_width, *cell, most->character, -1, -1, width(*cell), width(*most));
    }
  }

  void find_partners() {
    const auto has = [&](char32_t c) {
      return std::any_of(cells_.begin(), cells_.end(),
                         [c](const Cell& cell) { return cell.character == c; }) ||
             std::any_of(sheet_.blocks.begin(), sheet_.blocks.end(), [c](const PixelBlock& block) {
               return std::any_of(block.rows.begin(), block.rows.end(), [c](const std::u32string& row) {
                 return row.find(c) != std::u32string::npos;
               });
             });
    };
    constexpr std::pair<char32_t, char32_t> kPairs[] = {
        {U'(', U')'},     {U'[', U']'},     {U'{', U'}'},     {U'<', U'>'}, {0xAB, 0xBB},
        {0x2039, 0x203A}, {0x2018, 0x2019}, {0x201C, 0x201D}, {0xBF, U'?'}, {0xA1, U'!'}};
    for (const Cell& cell : cells_) {
      const char32_t c = cell.character;
      char32_t partner = 0;
      for (const auto& [open, close] : kPairs) {
        if (c == open) partner = close;
        if (c == close && close != U'?' && close != U'!') partner = open;
      }
      if (c == 0x2019) partner = 0;  // an apostrophe stands by itself
      if (c >= U'a' && c <= U'z') partner = c - 32;
      if (c >= U'A' && c <= U'Z') partner = c + 32;
      const bool is_latin1 = c >= 0xC0 && c <= 0xFE && c != 0xD7 && c != 0xF7 && c != 0xDF;
      if (is_latin1) partner = c < 0xE0 ? c + 32 : c - 32;
      if (partner != 0 && !has(partner) && !(is_latin1 && !has_any_accented_capital()))
        add(DrawingFaultKind::no_partner, cell, partner);
    }
  }

  /// Faces with small accented letters alone are meant so.
  bool has_any_accented_capital() const {
    return std::any_of(cells_.begin(), cells_.end(),
                       [](const Cell& c) { return c.character >= 0xC0 && c.character <= 0xDE; });
  }

  const PixelSheet& sheet_;
  std::vector<Cell> cells_;
  std::vector<DrawingFault> faults_;
};

}  // namespace

std::string DrawingFault::text() const {
  std::string who = fmt::format("{} in line {}, cell {}", detail::quoted(character), row + 1, column + 1);
  const std::string where = x >= 0 ? fmt::format(", pixel {}, {}", x + 1, y + 1) : std::string();
  const std::string other = fellow != 0 ? detail::quoted(fellow) : std::string();
  switch (kind) {
    case DrawingFaultKind::higher:
      return fmt::format("{}{}: its top is one pixel {} than that of {}", who, where,
                         found < usual ? "higher" : "lower", other);
    case DrawingFaultKind::lower:
      return fmt::format("{}{}: its bottom is one pixel {} than that of {}", who, where,
                         found > usual ? "lower" : "higher", other);
    case DrawingFaultKind::pinhole:
      return fmt::format("{}{}: a hole of one pixel", who, where);
    case DrawingFaultKind::gap:
      return fmt::format("{}{}: a pixel is missing in a stroke", who, where);
    case DrawingFaultKind::touches:
      return fmt::format("{}{}: touches {}", who, where, other);
    case DrawingFaultKind::stroke_width:
      return fmt::format("{}: its stems are {} wide, those of {} {}", who, found, other, usual);
    case DrawingFaultKind::figure_width:
      return fmt::format("{}: {} pixels wide, {} is {}", who, found, other, usual);
    case DrawingFaultKind::no_partner:
      return fmt::format("{}: {} is missing", who, other);
  }
  return who;
}

Result<std::vector<DrawingFault>> lint_drawings(const PixelSheet& sheet) {
  if (const Result<void> checked = detail::check_sheet(sheet); !checked) return fail(checked.error());
  return Linter(sheet).run();
}

}  // namespace grafema
