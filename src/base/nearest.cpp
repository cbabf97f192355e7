// SPDX-License-Identifier: MIT
// Edit distance by rows.
#include "base/nearest.hpp"

#include <algorithm>
#include <numeric>
#include <vector>

namespace grafema::detail {

std::size_t edit_distance(std::string_view a, std::string_view b) {
  std::vector<std::size_t> row(b.size() + 1);
  std::iota(row.begin(), row.end(), std::size_t{0});
  for (std::size_t i = 0; i < a.size(); ++i) {
    std::size_t diagonal = row[0];
    row[0] = i + 1;
    for (std::size_t j = 0; j < b.size(); ++j) {
      const std::size_t changed = diagonal + (a[i] == b[j] ? 0 : 1);
      diagonal = row[j + 1];
      row[j + 1] = std::min({changed, row[j] + 1, diagonal + 1});
    }
  }
  return row[b.size()];
}

std::string_view nearest(std::string_view word, std::span<const std::string_view> names) {
  std::string_view best;
  std::size_t least = ~std::size_t{0};
  for (const std::string_view name : names) {
    const std::size_t distance = edit_distance(word, name);
    if (distance < least) least = distance, best = name;
  }
  return best;
}

}  // namespace grafema::detail
