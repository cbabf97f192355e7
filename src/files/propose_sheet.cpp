// SPDX-License-Identifier: MIT
// Finds the grid of a picture of drawn characters, and writes a description to begin with.
#include <fmt/format.h>

#include <algorithm>
#include <vector>

#include "files/json.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

constexpr int kMinSide = 3, kMaxSide = 128;

/// Dark and opaque, as make-font sees it.
bool is_ink(const Image& image, int x, int y) {
  const int channels = channel_count(image.format());
  const auto max = static_cast<int>(bits_per_channel(image.format()) == 16 ? 65535 : 255);
  if (channels == 4 && image.value(x, y, 3) * 2 < max) return false;
  return image.value(x, y, 0) * 2 < max;
}

/// Ink of each column, or of each row.
std::vector<int> count_ink(const Image& image, bool columns) {
  std::vector<int> counts(static_cast<std::size_t>(columns ? image.width() : image.height()));
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      if (is_ink(image, x, y)) ++counts[static_cast<std::size_t>(columns ? x : y)];
    }
  }
  return counts;
}

/// The smallest side of which the picture is a multiple, and whose last or first line is free of ink in every
/// cell; 0 where there is none.
int find_side(const std::vector<int>& ink) {
  const int size = static_cast<int>(ink.size());
  for (int side = kMinSide; side <= std::min(size / 2, kMaxSide); ++side) {
    if (size % side != 0) continue;
    bool first = true, last = true;
    for (int at = 0; at < size; at += side) {
      first = first && ink[static_cast<std::size_t>(at)] == 0;
      last = last && ink[static_cast<std::size_t>(at + side - 1)] == 0;
    }
    if (first || last) return side;
  }
  return 0;
}

struct Grid {
  int width = 0, height = 0, columns = 0, rows = 0;
};

/// The lowest row of ink in a cell, counted from its top; -1 for none.
int lowest_ink(const Image& image, const Grid& grid, int column, int row) {
  for (int y = grid.height - 1; y >= 0; --y) {
    for (int x = 0; x < grid.width; ++x) {
      if (is_ink(image, column * grid.width + x, row * grid.height + y)) return y;
    }
  }
  return -1;
}

/// Most letters stand on the baseline.
int find_baseline(const Image& image, const Grid& grid) {
  std::vector<int> bottoms(static_cast<std::size_t>(grid.height) + 1);
  for (int i = 0; i < grid.columns * grid.rows; ++i) {
    const int bottom = lowest_ink(image, grid, i % grid.columns, i / grid.columns);
    ++bottoms[static_cast<std::size_t>(bottom + 1)];
  }
  bottoms[0] = 0;
  return static_cast<int>(std::max_element(bottoms.begin(), bottoms.end()) - bottoms.begin());
}

}  // namespace

Result<std::string> propose_font_sheet(const Image& picture, std::string_view family) {
  const Grid grid = [&] {
    Grid found{find_side(count_ink(picture, true)), find_side(count_ink(picture, false)), 0, 0};
    if (found.width > 0 && found.height > 0) {
      found.columns = picture.width() / found.width, found.rows = picture.height() / found.height;
    }
    return found;
  }();
  if (grid.columns == 0) {
    return fail(make_error(ErrorKind::damaged, "cells of one size with a free line between letters",
                           fmt::format("none in a picture of {} x {}", picture.width(), picture.height())));
  }
  detail::Json rows = detail::Json::array();
  char32_t next = lowest_ink(picture, grid, 0, 0) < 0 ? U' ' : U'!';
  for (int row = 0; row < grid.rows; ++row) {
    std::string line;
    int end = grid.columns;  // free cells at the end of a row stand for nothing
    while (end > 0 && lowest_ink(picture, grid, end - 1, row) < 0) --end;
    for (int column = 0; column < end; ++column, ++next) {
      if (next == 0x7F) next = 0xA1;  // behind ASCII comes Latin-1
      append_utf8(line, lowest_ink(picture, grid, column, row) < 0 ? U' ' : next);
    }
    rows.push_back(line);
  }
  const detail::Json document = {{"format", "grafema-font-sheet"},
                                 {"version", 1},
                                 {"names", {{"family", std::string(family)}}},
                                 {"cell", {grid.width, grid.height}},
                                 {"baseline", find_baseline(picture, grid)},
                                 {"rows", std::move(rows)}};
  return document.dump(1, ' ', false, detail::Json::error_handler_t::replace) + "\n";
}

}  // namespace grafema
