// SPDX-License-Identifier: MIT
// The Hungarian method.
#include "outline/morph/assign.hpp"

#include <limits>

namespace grafema::detail {
namespace {

/// For no more rows than columns. Numbers count from 1, 0 is none.
std::vector<std::size_t> assign_rows(std::size_t rows, std::size_t columns, auto&& cost) {
  std::vector<double> row_price(rows + 1, 0), column_price(columns + 1, 0), least;
  std::vector<std::size_t> row_of(columns + 1, 0), way(columns + 1, 0);
  std::vector<bool> used;
  for (std::size_t row = 1; row <= rows; ++row) {
    row_of[0] = row;
    std::size_t at = 0;
    least.assign(columns + 1, std::numeric_limits<double>::infinity());
    used.assign(columns + 1, false);
    do {
      used[at] = true;
      const std::size_t here = row_of[at];
      double step = std::numeric_limits<double>::infinity();
      std::size_t next = 0;
      for (std::size_t c = 1; c <= columns; ++c) {
        if (used[c]) continue;
        const double rest = cost(here - 1, c - 1) - row_price[here] - column_price[c];
        if (rest < least[c]) least[c] = rest, way[c] = at;
        if (least[c] < step) step = least[c], next = c;
      }
      for (std::size_t c = 0; c <= columns; ++c) {
        if (used[c]) {
          row_price[row_of[c]] += step, column_price[c] -= step;
        } else {
          least[c] -= step;
        }
      }
      at = next;
    } while (row_of[at] != 0);
    while (at != 0) row_of[at] = row_of[way[at]], at = way[at];
  }
  return row_of;
}

}  // namespace

std::vector<std::uint32_t> assign(const std::vector<double>& costs, std::size_t rows, std::size_t columns) {
  std::vector<std::uint32_t> out(rows, ~0U);
  if (rows == 0 || columns == 0) return out;
  if (rows <= columns) {
    const auto row_of =
        assign_rows(rows, columns, [&](std::size_t r, std::size_t c) { return costs[r * columns + c]; });
    for (std::size_t c = 1; c <= columns; ++c) {
      if (row_of[c] != 0) out[row_of[c] - 1] = static_cast<std::uint32_t>(c - 1);
    }
  } else {
    const auto column_of =
        assign_rows(columns, rows, [&](std::size_t c, std::size_t r) { return costs[r * columns + c]; });
    for (std::size_t r = 1; r <= rows; ++r) {
      if (column_of[r] != 0) out[r - 1] = static_cast<std::uint32_t>(column_of[r] - 1);
    }
  }
  return out;
}

}  // namespace grafema::detail
