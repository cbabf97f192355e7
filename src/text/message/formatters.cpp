// SPDX-License-Identifier: MIT
// Formats values with ICU; plain whole numbers without it.
#include "text/message/formatters.hpp"

#include <unicode/basictz.h>
#include <unicode/decimfmt.h>
#include <unicode/dtptngen.h>
#include <unicode/listformatter.h>
#include <unicode/measfmt.h>
#include <unicode/measure.h>
#include <unicode/numberformatter.h>
#include <unicode/plurrule.h>
#include <unicode/rbnf.h>
#include <unicode/smpdtfmt.h>
#include <unicode/uchar.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "grafema/base/utf8.hpp"
#include "grafema/text/number_format.hpp"

namespace grafema::detail {
namespace {

constexpr double kMaxSpoken = 9007199254740992.0;  // 2^53; ICU spells another number for what lies beyond
constexpr double kMaxSeconds = 8e12;               // about 250,000 years, which calendars bear

icu::UnicodeString to_icu(std::string_view text) {
  return icu::UnicodeString::fromUTF8(icu::StringPiece(text.data(), static_cast<int32_t>(text.size())));
}

void append(const icu::UnicodeString& text, std::string& out) { text.toUTF8String(out); }

tl::unexpected<Error> unknown(const char* expected, std::string_view found) {
  return fail(make_error(ErrorKind::bad_value, expected, found));
}

/// The shortest unit in a date pattern (UTS #35, part 4, "Date field symbol table").
ClockUnit unit_of(const icu::UnicodeString& pattern) {
  ClockUnit unit = ClockUnit::day;
  bool quoted = false;
  const auto at_most = [&](ClockUnit other) { unit = std::min(unit, other); };
  for (int32_t i = 0; i < pattern.length(); ++i) {
    const char16_t c = pattern.charAt(i);
    if (c == u'\'') quoted = !quoted;
    if (quoted) continue;
    if (c == u's' || c == u'S' || c == u'A') at_most(ClockUnit::second);
    if (c == u'm') at_most(ClockUnit::minute);
    if (icu::UnicodeString(u"hHkKabBzZOvVXx").indexOf(c) >= 0) at_most(ClockUnit::hour);
  }
  return unit;
}

/// Formatters of one kind by type and style.
template <class Made>
class Kept {
 public:
  struct Entry {
    std::string type, style;
    Made made;
  };
  Made* find(std::string_view type, std::string_view style) {
    for (const std::unique_ptr<Entry>& entry : entries_) {
      if (entry->type == type && entry->style == style) return &entry->made;
    }
    return nullptr;
  }
  Made& add(std::string_view type, std::string_view style, Made made) {
    if (entries_.size() == kMax) entries_.clear();
    entries_.push_back(
        std::make_unique<Entry>(Entry{std::string(type), std::string(style), std::move(made)}));
    return entries_.back()->made;
  }

 private:
  static constexpr std::size_t kMax = 256;
  std::vector<std::unique_ptr<Entry>> entries_;
};

struct DateMaker {
  std::unique_ptr<icu::DateFormat> format;
  ClockUnit unit = ClockUnit::day;
};

icu::DateFormat::EStyle date_style(std::string_view style) {
  if (style == "short") return icu::DateFormat::kShort;
  if (style == "long") return icu::DateFormat::kLong;
  return style == "full" ? icu::DateFormat::kFull : icu::DateFormat::kMedium;
}

}  // namespace

struct Formatters::State {
  icu::Locale locale;
  std::unique_ptr<icu::TimeZone> zone;
  NumberFormat plain;
  bool right_to_left = false;
  std::unique_ptr<icu::PluralRules> cardinals, ordinals;
  Kept<icu::number::LocalizedNumberFormatter> numbers;
  Kept<std::unique_ptr<icu::NumberFormat>> patterns;  // decimal patterns and spelled numbers
  Kept<DateMaker> dates;
  Kept<std::unique_ptr<icu::ListFormatter>> lists;
  Kept<std::unique_ptr<icu::MeasureFormat>> measures;

  Result<icu::number::LocalizedNumberFormatter*> find_number(std::string_view style);
  Result<icu::NumberFormat*> find_pattern(std::string_view type, std::string_view style);
  Result<DateMaker*> find_date(std::string_view type, std::string_view style);
  Result<void> duration(double seconds, std::string_view style, std::string& out);
};

Formatters::Formatters(std::string_view language, std::string_view time_zone)
    : state_(std::make_unique<State>()) {
  State& s = *state_;
  UErrorCode status = U_ZERO_ERROR;
  s.locale = icu::Locale::forLanguageTag(
      icu::StringPiece(language.data(), static_cast<int32_t>(std::min<std::size_t>(language.size(), 200))),
      status);
  if (U_FAILURE(status)) s.locale = icu::Locale::getRoot();
  s.zone.reset(icu::TimeZone::createTimeZone(to_icu(time_zone)));
  s.plain = number_format(language);
  s.right_to_left = s.locale.isRightToLeft() != 0;
  status = U_ZERO_ERROR;
  s.cardinals.reset(icu::PluralRules::forLocale(s.locale, UPLURAL_TYPE_CARDINAL, status));
  s.ordinals.reset(icu::PluralRules::forLocale(s.locale, UPLURAL_TYPE_ORDINAL, status));
}

Formatters::~Formatters() = default;

Result<icu::number::LocalizedNumberFormatter*> Formatters::State::find_number(std::string_view style) {
  if (auto* known = numbers.find("number", style); known != nullptr) return known;
  using icu::number::NumberFormatter;
  UErrorCode status = U_ZERO_ERROR;
  icu::number::UnlocalizedNumberFormatter made;
  if (style.substr(0, 2) == "::") {
    UParseError where = {};
    made = NumberFormatter::forSkeleton(to_icu(style.substr(2)), where, status);
  } else if (style == "integer") {
    made = NumberFormatter::with().precision(icu::number::Precision::integer());
  } else if (style == "percent") {
    made = NumberFormatter::with()
               .unit(icu::MeasureUnit::getPercent())
               .scale(icu::number::Scale::powerOfTen(2))
               .precision(icu::number::Precision::maxFraction(0));
  } else {
    made = NumberFormatter::with().precision(icu::number::Precision::maxFraction(3));
  }
  if (U_FAILURE(status)) return unknown("a number skeleton, as ::currency/EUR or ::unit/minute", style);
  return &numbers.add("number", style, std::move(made).locale(locale));
}

Result<icu::NumberFormat*> Formatters::State::find_pattern(std::string_view type, std::string_view style) {
  if (auto* known = patterns.find(type, style); known != nullptr) return known->get();
  UErrorCode status = U_ZERO_ERROR;
  std::unique_ptr<icu::NumberFormat> made;
  if (type == "spellout" || type == "ordinal") {
    made = std::make_unique<icu::RuleBasedNumberFormat>(
        type == "spellout" ? icu::URBNF_SPELLOUT : icu::URBNF_ORDINAL, locale, status);
  } else if (style == "currency") {
    made.reset(icu::NumberFormat::createCurrencyInstance(locale, status));
  } else {
    auto symbols = std::make_unique<icu::DecimalFormatSymbols>(locale, status);
    UParseError where = {};
    made = std::make_unique<icu::DecimalFormat>(to_icu(style), symbols.release(), where, status);
  }
  if (U_FAILURE(status) || !made) {
    return unknown("integer, percent, currency, a skeleton behind :: or a pattern as #,##0.0", style);
  }
  return patterns.add(type, style, std::move(made)).get();
}

Result<void> Formatters::number(double value, std::string_view type, std::string_view style,
                                std::string& out) {
  if (!std::isfinite(value)) {
    out += '-';
    return {};
  }
  if (type == "duration") return state_->duration(value, style, out);
  const bool own = type.empty() || type == "number";
  if (!own && type != "spellout" && type != "ordinal") {
    return unknown("number, date, time, duration, spellout, ordinal or list", type);
  }
  if (!own && std::abs(value) > kMaxSpoken) return number(value, "number", "", out);
  const bool whole = value == std::floor(value) && std::abs(value) < 1e15;
  if (own && (style.empty() || style == "integer") && whole) {
    NumberText text = {};
    out += write_number(value, state_->plain, text);
    return {};
  }
  UErrorCode status = U_ZERO_ERROR;
  const bool skeleton =
      style.empty() || style == "integer" || style == "percent" || style.substr(0, 2) == "::";
  if (own && skeleton) {
    const auto found = state_->find_number(style);
    if (!found) return fail(found.error());
    append((*found)->formatDouble(value, status).toString(status), out);
  } else {
    const auto found = state_->find_pattern(type, style);
    if (!found) return fail(found.error());
    icu::UnicodeString text;
    (*found)->format(value, text);
    append(text, out);
  }
  if (U_FAILURE(status)) return unknown("a number that can be formatted so", style);
  return {};
}

/// Hours, minutes and seconds.
Result<void> Formatters::State::duration(double seconds, std::string_view style, std::string& out) {
  const UMeasureFormatWidth width = style == "long"     ? UMEASFMT_WIDTH_WIDE
                                    : style == "short"  ? UMEASFMT_WIDTH_SHORT
                                    : style == "narrow" ? UMEASFMT_WIDTH_NARROW
                                                        : UMEASFMT_WIDTH_NUMERIC;
  if (!style.empty() && style != "numeric" && width == UMEASFMT_WIDTH_NUMERIC) {
    return unknown("numeric, narrow, short or long", style);
  }
  UErrorCode status = U_ZERO_ERROR;
  auto* known = measures.find("duration", style);
  if (known == nullptr) {
    known = &measures.add("duration", style, std::make_unique<icu::MeasureFormat>(locale, width, status));
  }
  if (!(std::abs(seconds) <= kMaxSeconds)) return unknown("a duration of at most 8e12 seconds", "more");
  const double whole = std::floor(std::abs(seconds) + 0.5), hours = std::floor(whole / 3600),
               minutes = std::floor(std::fmod(whole, 3600) / 60), rest = std::fmod(whole, 60);
  std::vector<icu::Measure> parts;
  const bool numeric = width == UMEASFMT_WIDTH_NUMERIC;
  if (hours > 0) parts.emplace_back(hours, icu::MeasureUnit::createHour(status), status);
  if (minutes > 0 || numeric) parts.emplace_back(minutes, icu::MeasureUnit::createMinute(status), status);
  if (rest > 0 || numeric || parts.empty())
    parts.emplace_back(rest, icu::MeasureUnit::createSecond(status), status);
  icu::FieldPosition ignored;
  icu::UnicodeString text;
  (*known)->formatMeasures(parts.data(), static_cast<int32_t>(parts.size()), text, ignored, status);
  if (U_FAILURE(status)) return unknown("a duration that can be formatted", style);
  if (seconds < 0 && whole > 0) out += plain.minus.text();
  append(text, out);
  return {};
}

Result<DateMaker*> Formatters::State::find_date(std::string_view type, std::string_view style) {
  if (auto* known = dates.find(type, style); known != nullptr) return known;
  UErrorCode status = U_ZERO_ERROR;
  DateMaker made;
  const bool named =
      style.empty() || style == "short" || style == "medium" || style == "long" || style == "full";
  if (style.substr(0, 2) == "::") {
    const icu::UnicodeString skeleton = to_icu(style.substr(2));
    made.format.reset(icu::DateFormat::createInstanceForSkeleton(skeleton, locale, status));
  } else if (type == "date" && named) {
    made.format.reset(icu::DateFormat::createDateInstance(date_style(style), locale));
  } else if (type == "time" && named) {
    made.format.reset(icu::DateFormat::createTimeInstance(date_style(style), locale));
  } else if (type.empty()) {
    made.format.reset(
        icu::DateFormat::createDateTimeInstance(icu::DateFormat::kShort, icu::DateFormat::kShort, locale));
  } else if (type == "date" || type == "time") {
    made.format = std::make_unique<icu::SimpleDateFormat>(to_icu(style), locale, status);
  } else {
    return unknown("date or time", type);
  }
  if (U_FAILURE(status) || !made.format)
    return unknown("short, medium, long, full, a skeleton behind :: or a pattern", style);
  made.format->setTimeZone(*zone);
  icu::UnicodeString pattern;
  if (const auto* simple = dynamic_cast<const icu::SimpleDateFormat*>(made.format.get()); simple != nullptr) {
    made.unit = unit_of(simple->toPattern(pattern));
  }
  return &dates.add(type, style, std::move(made));
}

Result<void> Formatters::date(double seconds, std::string_view type, std::string_view style, std::string& out,
                              ClockUnit& unit) {
  if (!(std::abs(seconds) <= kMaxSeconds)) {
    out += '-';
    return {};
  }
  const auto found = state_->find_date(type, style);
  if (!found) return fail(found.error());
  icu::UnicodeString text;
  (*found)->format->format(seconds * 1000, text);
  append(text, out);
  unit = (*found)->unit;
  return {};
}

Result<void> Formatters::list(const std::vector<std::string>& texts, std::string_view style,
                              std::string& out) {
  auto* known = state_->lists.find("list", style);
  UErrorCode status = U_ZERO_ERROR;
  if (known == nullptr) {
    const std::string_view kind = style.substr(0, style.find('-'));
    const UListFormatterType type = kind == "or"     ? ULISTFMT_TYPE_OR
                                    : kind == "unit" ? ULISTFMT_TYPE_UNITS
                                                     : ULISTFMT_TYPE_AND;
    const UListFormatterWidth width = style.ends_with("-short")    ? ULISTFMT_WIDTH_SHORT
                                      : style.ends_with("-narrow") ? ULISTFMT_WIDTH_NARROW
                                                                   : ULISTFMT_WIDTH_WIDE;
    if (!kind.empty() && kind != "or" && kind != "unit" && kind != "and")
      return unknown("and, or or unit", style);
    std::unique_ptr<icu::ListFormatter> made(
        icu::ListFormatter::createInstance(state_->locale, type, width, status));
    if (U_FAILURE(status) || !made) return unknown("a list that can be formatted", style);
    known = &state_->lists.add("list", style, std::move(made));
  }
  std::vector<icu::UnicodeString> items;
  items.reserve(texts.size());
  for (const std::string& text : texts) items.push_back(to_icu(text));
  icu::UnicodeString joined;
  (*known)->format(items.data(), static_cast<int32_t>(items.size()), joined, status);
  if (U_FAILURE(status)) return unknown("a list that can be formatted", style);
  append(joined, out);
  return {};
}

bool Formatters::must_isolate(std::string_view text) const {
  constexpr unsigned char kFirstOfHebrew =
      0xD6;  // no letter that runs to the left begins with a smaller byte
  const bool any = std::any_of(text.begin(), text.end(),
                               [](char c) { return static_cast<unsigned char>(c) >= kFirstOfHebrew; });
  if (!state_->right_to_left && !any) return false;
  for (std::size_t i = 0; i < text.size();) {
    const DecodedCharacter next = decode_utf8(text, i);
    i += next.length;
    const UCharDirection direction = u_charDirection(static_cast<UChar32>(next.character));
    const bool left = direction == U_LEFT_TO_RIGHT,
               right = direction == U_RIGHT_TO_LEFT || direction == U_RIGHT_TO_LEFT_ARABIC;
    if (state_->right_to_left ? left : right) return true;
  }
  return false;
}

std::string_view Formatters::plural(double value, bool ordinal) {
  const icu::PluralRules* rules = ordinal ? state_->ordinals.get() : state_->cardinals.get();
  if (rules == nullptr || !std::isfinite(value)) return "other";
  const bool whole = value == std::floor(value) && std::abs(value) < 1e9;
  const icu::UnicodeString form =
      whole ? rules->select(static_cast<int32_t>(std::abs(value))) : rules->select(std::abs(value));
  for (const std::string_view known : {"other", "one", "few", "many", "two", "zero"}) {
    const bool same = static_cast<std::size_t>(form.length()) == known.size() &&
                      std::equal(known.begin(), known.end(), form.getBuffer(),
                                 [](char a, char16_t b) { return static_cast<char16_t>(a) == b; });
    if (same) return known;
  }
  return "other";
}

double Formatters::next_change(double seconds, ClockUnit unit) const {
  if (unit == ClockUnit::never || !(std::abs(seconds) <= kMaxSeconds))
    return std::numeric_limits<double>::infinity();
  constexpr double kPeriods[] = {0, 1, 60, 3600, 86400};
  const double period = kPeriods[static_cast<std::size_t>(unit)];
  int32_t raw = 0, saving = 0;
  UErrorCode status = U_ZERO_ERROR;
  state_->zone->getOffset(seconds * 1000, 0, raw, saving, status);
  const double offset = U_SUCCESS(status) ? (static_cast<double>(raw) + saving) / 1000 : 0;
  double next = (std::floor((seconds + offset) / period) + 1) * period - offset;
  // The clock may be put forward or back before then.
  if (const auto* basic = dynamic_cast<const icu::BasicTimeZone*>(state_->zone.get()); basic != nullptr) {
    icu::TimeZoneTransition change;
    if (basic->getNextTransition(seconds * 1000, false, change))
      next = std::min(next, change.getTime() / 1000);
  }
  return next;
}

}  // namespace grafema::detail
