// SPDX-License-Identifier: MIT
// Formats values as a language does: numbers, dates, durations, lists; chooses plural forms.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/base/error.hpp"

namespace grafema::detail {

/// What a value's text takes a change of the clock for, in seconds; days are those of the time zone.
enum class ClockUnit : std::uint8_t { never, second, minute, hour, day };

/// Of one language and time zone. Formatters are made once for each type and style.
class Formatters {
 public:
  /// `language` is BCP 47, `time_zone` a name of the IANA database; what ICU does not know is its root and
  /// UTC.
  Formatters(std::string_view language, std::string_view time_zone);
  ~Formatters();
  Formatters(const Formatters&) = delete;
  Formatters& operator=(const Formatters&) = delete;

  /// Appends the number. Fails with `bad_value` where type or style are none of a number's.
  Result<void> number(double value, std::string_view type, std::string_view style, std::string& out);
  /// Appends a moment, in seconds since 1970 UTC, and tells what the text changes with.
  Result<void> date(double seconds, std::string_view type, std::string_view style, std::string& out,
                    ClockUnit& unit);
  /// Appends the texts as a list; `style` is and, or, unit, perhaps with -short or -narrow.
  Result<void> list(const std::vector<std::string>& texts, std::string_view style, std::string& out);
  /// Whether a text put into the language's words must be kept apart from them, because it holds letters that
  /// run against them: digits and signs beside it would change sides (UAX #9, "Implicit directional
  /// formatting").
  bool must_isolate(std::string_view text) const;
  /// The plural form of a number: zero, one, two, few, many or other.
  std::string_view plural(double value, bool ordinal);
  /// When a text that changes with `unit` does so after `seconds`.
  double next_change(double seconds, ClockUnit unit) const;

 private:
  struct State;
  std::unique_ptr<State> state_;
};

}  // namespace grafema::detail
