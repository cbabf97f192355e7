// SPDX-License-Identifier: MIT
// Edit distance by rows.
#include "grafema/base/nearest.hpp"

#include <algorithm>
#include <array>
#include <numeric>

namespace grafema {
namespace {

constexpr std::size_t kMaxLetters = 64;

std::size_t edit_distance(std::string_view a, std::string_view b) {
  std::array<std::size_t, kMaxLetters + 1> row;
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

}  // namespace

std::string_view nearest_name(std::string_view word, std::span<const std::string_view> names) {
  std::string_view best;
  std::size_t least = ~std::size_t{0};
  for (const std::string_view name : names) {
    const std::string_view a = word.substr(0, kMaxLetters), b = name.substr(0, kMaxLetters);
    const std::size_t distance = edit_distance(a, b);
    if (distance * 2 > std::max(a.size(), b.size()) || distance >= least) continue;
    least = distance;
    best = name;
  }
  return best;
}

std::string suggestion(std::string_view word, std::span<const std::string_view> names) {
  const std::string_view name = nearest_name(word, names);
  if (name.empty()) return {};
  std::string text = "; did you mean '";
  text += name;
  text += "'?";
  return text;
}

}  // namespace grafema
