// SPDX-License-Identifier: MIT
// Writes numbers, and asks ICU once for the signs of a language.
#include "grafema/text/number_format.hpp"

#include <unicode/dcfmtsym.h>
#include <unicode/decimfmt.h>
#include <unicode/locid.h>
#include <unicode/numberformatter.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <memory>
#include <string>

#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

class NumberWriter {
 public:
  NumberWriter(const NumberFormat& format, NumberText& out) : format_(format), out_(out) {}

  void put(const NumberSign& sign) {
    const std::string_view text = sign.text();
    if (count_ + text.size() > out_.size()) return;
    count_ += static_cast<std::size_t>(
        std::copy(text.begin(), text.end(), out_.begin() + static_cast<std::ptrdiff_t>(count_)) -
        (out_.begin() + static_cast<std::ptrdiff_t>(count_)));
  }

  void put_digits(std::string_view digits) {
    if (format_.zero == U'0' && digits.size() <= out_.size() - count_) {
      std::memcpy(out_.data() + count_, digits.data(), digits.size());
      count_ += digits.size();
      return;
    }
    for (const char digit : digits) put_digit(digit);
  }

  /// With separators between groups, from the right.
  void put_grouped(std::string_view digits) {
    const std::size_t last = std::clamp<std::size_t>(format_.group_size, 1, 9),
                      other = std::clamp<std::size_t>(format_.other_groups, 1, 9);
    const bool grouped =
        !format_.group.empty() && digits.size() >= last + std::max<std::size_t>(format_.min_grouped, 1);
    if (!grouped) return put_digits(digits);
    // Where the first separator of all stands, counted from the left.
    std::size_t next = (digits.size() - last) % other;
    if (next == 0) next = std::min(other, digits.size() - last);
    for (std::size_t i = 0; i < digits.size(); ++i) {
      if (i == next) {
        put(format_.group);
        next = digits.size() - i > last ? i + other : digits.size();
      }
      put_digit(digits[i]);
    }
  }

  std::string_view text() const { return {out_.data(), count_}; }

 private:
  void put_digit(char digit) {
    const char32_t c = format_.zero + static_cast<char32_t>(digit - '0');
    if (c < 0x80) {
      if (count_ < out_.size()) out_[count_++] = static_cast<char>(c);
      return;
    }
    const int bytes = c < 0x800 ? 2 : c < 0x10000 ? 3 : 4;
    if (count_ + static_cast<std::size_t>(bytes) > out_.size()) return;
    static constexpr unsigned kLead[] = {0, 0, 0xC0, 0xE0, 0xF0};
    for (int i = 0; i < bytes; ++i) {
      const unsigned six = static_cast<unsigned>(c) >> static_cast<unsigned>(6 * (bytes - 1 - i));
      out_[count_++] = static_cast<char>(i == 0 ? kLead[bytes] | six : 0x80U | (six & 0x3FU));
    }
  }

  const NumberFormat& format_;
  NumberText& out_;
  std::size_t count_ = 0;
};

/// 00 to 99.
constexpr std::array<char, 200> kPairs = [] {
  std::array<char, 200> pairs = {};
  for (std::size_t i = 0; i < 100; ++i) {
    pairs[i * 2] = static_cast<char>('0' + i / 10), pairs[i * 2 + 1] = static_cast<char>('0' + i % 10);
  }
  return pairs;
}();

/// Decimal digits of a number, at least so many.
class Digits {
 public:
  Digits(std::uint64_t number, int least) {
    // Eight at once: their divisions don't wait for each other.
    for (; number >= 100000000; number /= 100000000, least -= 8) {
      const auto eight = static_cast<std::uint32_t>(number % 100000000), high = eight / 10000,
                 low = eight % 10000;
      put_pair(low % 100), put_pair(low / 100), put_pair(high % 100), put_pair(high / 100);
    }
    for (auto left = static_cast<std::uint32_t>(number); number >= 100;
         left /= 100, number = left, least -= 2) {
      put_pair(left % 100);
    }
    for (; number >= 10 || least > 1; number /= 10, --least) put(number % 10);
    put(number);
  }
  std::string_view text() const { return {bytes_.data() + first_, bytes_.size() - first_}; }

 private:
  void put_pair(std::uint32_t pair) {
    first_ -= 2;
    std::memcpy(bytes_.data() + first_, kPairs.data() + std::size_t{pair} * 2, 2);
  }
  void put(std::uint64_t digit) { bytes_[--first_] = static_cast<char>('0' + digit); }

  std::array<char, 24> bytes_;  // NOLINT: what is read was written
  std::size_t first_ = bytes_.size();
};

NumberSign sign_of(const icu::UnicodeString& text) {
  std::string utf8;
  text.toUTF8String(utf8);
  return NumberSign(std::string_view(utf8));
}

}  // namespace

NumberFormat number_format(std::string_view language, int decimals) {
  NumberFormat format;
  format.decimals = decimals;
  format.group = ',';
  UErrorCode status = U_ZERO_ERROR;
  const icu::Locale locale = icu::Locale::forLanguageTag(
      icu::StringPiece(language.data(), static_cast<int32_t>(std::min<std::size_t>(language.size(), 200))),
      status);
  if (U_FAILURE(status)) return format;
  const std::unique_ptr<icu::NumberFormat> made(icu::NumberFormat::createInstance(locale, status));
  const auto* decimal = dynamic_cast<const icu::DecimalFormat*>(made.get());
  if (U_FAILURE(status) || decimal == nullptr) return format;
  const icu::DecimalFormatSymbols& signs = *decimal->getDecimalFormatSymbols();
  using Symbols = icu::DecimalFormatSymbols;
  format.point = sign_of(signs.getConstSymbol(Symbols::kDecimalSeparatorSymbol));
  format.group = sign_of(signs.getConstSymbol(Symbols::kGroupingSeparatorSymbol));
  format.minus = sign_of(signs.getConstSymbol(Symbols::kMinusSignSymbol));
  format.plus_sign = sign_of(signs.getConstSymbol(Symbols::kPlusSignSymbol));
  format.zero = static_cast<char32_t>(signs.getConstSymbol(Symbols::kZeroDigitSymbol).char32At(0));
  const int32_t size = decimal->getGroupingSize(), other = decimal->getSecondaryGroupingSize();
  if (!decimal->isGroupingUsed() || size <= 0) format.group = {};
  format.group_size = static_cast<std::uint8_t>(std::clamp(size, 1, 9));
  format.other_groups = static_cast<std::uint8_t>(other > 0 ? std::clamp(other, 1, 9) : format.group_size);
  // CLDR's minimumGroupingDigits can't be asked for: some languages leave four digits together.
  const icu::UnicodeString four =
      icu::number::NumberFormatter::withLocale(locale).formatInt(1234, status).toString(status);
  format.min_grouped = four.length() > 4 ? 1 : 2;
  return format;
}

std::string_view write_number(double value, const NumberFormat& format, NumberText& out) {
  if (!std::isfinite(value)) return "-";
  constexpr double kMax = 1e18;
  static constexpr double kPowers[] = {1, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9};
  const int decimals = std::clamp(format.decimals, 0, 9), digits = std::clamp(format.digits, 1, 18);
  const double power = kPowers[decimals], size = std::min(std::abs(value), kMax);
  // Whole and fraction apart, so that both are exact in 64 bits; half rounds away from zero.
  auto whole = static_cast<std::uint64_t>(size);
  auto fraction = static_cast<std::uint64_t>((size - static_cast<double>(whole)) * power + 0.5);
  if (fraction >= static_cast<std::uint64_t>(power)) {
    ++whole;
    fraction = 0;
  }
  const bool zero = whole == 0 && fraction == 0;
  NumberWriter writer(format, out);
  if (value < 0 && !zero) writer.put(format.minus);
  if (value > 0 && !zero && format.plus) writer.put(format.plus_sign);
  writer.put_grouped(Digits(whole, digits).text());
  if (decimals > 0) {
    writer.put(format.point);
    writer.put_digits(Digits(fraction, decimals).text());
  }
  return writer.text();
}

}  // namespace grafema
