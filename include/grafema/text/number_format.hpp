// SPDX-License-Identifier: MIT
// Numbers as text in the signs of a language, without a heap allocation.
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <string_view>

#include "grafema/base/export.hpp"

namespace grafema {

/// A short text that stands in a number, such as its decimal point; UTF-8, at most 14 bytes.
class NumberSign {
 public:
  constexpr NumberSign() = default;
  constexpr NumberSign(char one) {  // NOLINT(google-explicit-constructor): a sign is what it is made of
    if (one != '\0') bytes_[0] = one, size_ = 1;
  }
  constexpr NumberSign(std::string_view text) {  // NOLINT(google-explicit-constructor)
    if (text.size() > bytes_.size()) return;
    for (const char c : text) bytes_[size_++] = c;
  }
  constexpr std::string_view text() const { return {bytes_.data(), size_}; }
  constexpr bool empty() const { return size_ == 0; }
  bool operator==(const NumberSign&) const = default;

 private:
  std::array<char, 14> bytes_ = {};
  std::uint8_t size_ = 0;
};

/// How a number is written. `number_format` gives that of a language.
struct NumberFormat {
  int digits = 1;    ///< at least so many before the point, zeros in front; 1..18
  int decimals = 0;  ///< just so many behind the point; 0..9
  NumberSign point = '.';
  NumberSign group = {};  ///< between groups of digits; empty: none
  bool plus = false;      ///< a plus sign before numbers above zero
  NumberSign minus = '-', plus_sign = '+';
  char32_t zero = U'0';           ///< the digits are this one and the nine behind it
  std::uint8_t group_size = 3;    ///< digits of the last group; 1..9
  std::uint8_t other_groups = 3;  ///< digits of each group before the last one
  std::uint8_t min_grouped = 1;   ///< numbers with fewer digits before the first separator have none
  bool operator==(const NumberFormat&) const = default;
};

/// Signs, digits and groups of a language (BCP 47); those of English where ICU does not know it.
GRAFEMA_API NumberFormat number_format(std::string_view language, int decimals = 0);

/// Room for what `write_number` makes.
using NumberText = std::array<char, 224>;

/// Writes the number, rounded half away from zero. What is not finite is "-"; above 10^18 in size it is cut
/// there. The text lives in `out`.
GRAFEMA_API std::string_view write_number(double value, const NumberFormat& format, NumberText& out);

}  // namespace grafema
