// SPDX-License-Identifier: MIT
// What GSUB lookups replace (OpenType, GSUB) and the contexts that GSUB and GPOS share (chapter 2).
#include <algorithm>

#include "font/layout/layout_bytes.hpp"

namespace grafema {

using detail::sub_table;
using detail::TableView;
using detail::view;

namespace {

/// Glyphs, places and actions of what one glyph begins; real fonts stay far below. Rules behind them are left
/// out.
constexpr std::size_t kMaxItems = 65536;

/// The list that belongs to the glyph's number in the subtable's set: offsets stand from `at` on, their count
/// before them.
TableBytes list_of(const TableView& table, std::size_t at, std::uint32_t number) {
  if (number >= table.u16(at)) return {};
  return sub_table(table, at + 2 + std::size_t{number} * 2);
}

}  // namespace

std::optional<GlyphId> SingleSubstitution::find(GlyphId glyph) const {
  const std::optional<std::uint32_t> number = from.find(glyph);
  const TableView table = view(bytes);
  if (!number) return std::nullopt;
  if (table.u16(0) == 1) return GlyphId{(index_of(glyph) + table.u16(4)) & 0xFFFFU};
  if (table.u16(0) != 2 || *number >= table.u16(4) || !table.holds(6 + std::size_t{*number} * 2, 2)) {
    return std::nullopt;
  }
  return GlyphId{table.u16(6 + std::size_t{*number} * 2)};
}

std::optional<std::vector<GlyphId>> SequenceSubstitution::find(GlyphId glyph) const {
  const std::optional<std::uint32_t> number = from.find(glyph);
  if (!number || *number >= view(bytes).u16(4)) return std::nullopt;
  const TableView list = view(list_of(view(bytes), 4, *number));
  std::vector<GlyphId> out;
  for (std::size_t i = 0; i < list.u16(0) && list.holds(2 + i * 2, 2); ++i) {
    out.push_back(GlyphId{list.u16(2 + i * 2)});
  }
  return out;
}

std::vector<Ligature> LigatureSubstitution::find(GlyphId first) const {
  std::vector<Ligature> out;
  const std::optional<std::uint32_t> number = from.find(first);
  if (!number) return out;
  const TableView set = view(list_of(view(bytes), 4, *number));
  std::size_t items = 0;
  for (std::size_t i = 0; i < set.u16(0) && set.holds(2 + i * 2, 2) && items < kMaxItems; ++i) {
    const TableView table = view(sub_table(set, 2 + i * 2));
    if (table.bytes.size() < 4) continue;
    items += table.u16(2) + std::size_t{1};
    Ligature ligature{GlyphId{table.u16(0)}, {}};
    for (std::size_t c = 1; c < table.u16(2) && table.holds(2 + c * 2, 2); ++c) {
      ligature.rest.push_back(GlyphId{table.u16(2 + c * 2)});
    }
    out.push_back(std::move(ligature));
  }
  return out;
}

std::optional<GlyphId> ReverseSubstitution::find(GlyphId glyph) const {
  const std::optional<std::uint32_t> number = from.find(glyph);
  if (!number || !view(substitutes).holds(std::size_t{*number} * 2, 2)) return std::nullopt;
  return GlyphId{view(substitutes).u16(std::size_t{*number} * 2)};
}

namespace {

/// Reads the parts of a rule one after the other.
class RuleReader {
 public:
  RuleReader(const TableView& table, std::size_t at) : table_(table), at_(at) {}

  std::size_t count() {
    const std::size_t value = table_.u16(at_);
    at_ += 2;
    return value;
  }
  template <class Make>
  void matchers(std::size_t count, std::vector<GlyphMatcher>& out, Make make) {
    for (std::size_t i = 0; i < count && table_.holds(at_, 2); ++i, at_ += 2) {
      out.push_back({make(table_.u16(at_))});
    }
  }
  void actions(std::size_t count, std::vector<ContextAction>& out) {
    for (std::size_t i = 0; i < count && table_.holds(at_, 4); ++i, at_ += 4) {
      out.push_back({table_.u16(at_), table_.u16(at_ + 2)});
    }
  }

 private:
  const TableView& table_;
  std::size_t at_;
};

/// A rule of format 1 or 2, whose places are glyphs or classes. `first` is the matcher of the input's first
/// place.
template <class Before, class Input, class After>
ContextRule read_rule(const TableView& table, bool chained, GlyphMatcher first, Before before, Input input,
                      After after) {
  ContextRule rule;
  RuleReader in(table, 0);
  if (chained) in.matchers(in.count(), rule.before, before);
  const std::size_t input_count = in.count();
  const std::size_t plain_actions = chained ? 0 : in.count();
  rule.input.push_back(std::move(first));
  in.matchers(input_count > 0 ? input_count - 1 : 0, rule.input, input);
  if (chained) in.matchers(in.count(), rule.after, after);
  in.actions(chained ? in.count() : plain_actions, rule.actions);
  return rule;
}

ContextRule read_set_rule(const TableView& table, bool chained) {
  ContextRule rule;
  RuleReader in(table, 2);
  const auto make = [&table](std::uint16_t offset) {
    return GlyphSet(offset == 0 ? TableBytes{} : table.from(offset).bytes);
  };
  if (chained) in.matchers(in.count(), rule.before, make);
  const std::size_t input_count = in.count();
  const std::size_t plain_actions = chained ? 0 : in.count();
  in.matchers(input_count, rule.input, make);
  if (chained) in.matchers(in.count(), rule.after, make);
  in.actions(chained ? in.count() : plain_actions, rule.actions);
  return rule;
}

using ClassPlace = std::pair<GlyphClasses, std::uint16_t>;

}  // namespace

GlyphSet ContextRules::first() const {
  const TableView table = view(bytes);
  if (table.u16(0) != 3) return GlyphSet(sub_table(table, 2));
  // Format 3: the first of the input's sets, which a chained rule has behind those of the text before.
  const std::size_t at = chained ? 4 + std::size_t{table.u16(2)} * 2 : 2;
  return table.u16(at) == 0 ? GlyphSet() : GlyphSet(sub_table(table, at + (chained ? 2 : 4)));
}

std::vector<ContextRule> ContextRules::find(GlyphId glyph) const {
  std::vector<ContextRule> out;
  const TableView table = view(bytes);
  const std::uint16_t format = table.u16(0);
  const std::optional<std::uint32_t> number = first().find(glyph);
  if (!number) return out;
  if (format == 3) {
    out.push_back(read_set_rule(table, chained));
    return out;
  }
  if (format != 1 && format != 2) return out;
  const auto classes = [&](std::size_t at) {
    return GlyphClasses(format == 2 ? sub_table(table, at) : TableBytes{});
  };
  const GlyphClasses before = classes(4), input = chained ? classes(6) : before, after = classes(8);
  const std::size_t sets_at = format == 1 ? 4 : chained ? 10 : 6;
  const std::uint32_t place = format == 1 ? *number : input.class_of(glyph);
  const TableView set = view(list_of(table, sets_at, place));
  const auto items_of = [](const ContextRule& r) {
    return r.before.size() + r.input.size() + r.after.size() + r.actions.size();
  };
  std::size_t items = 0;
  for (std::size_t i = 0; i < set.u16(0) && set.holds(2 + i * 2, 2) && items < kMaxItems; ++i) {
    const TableView rule = view(sub_table(set, 2 + i * 2));
    if (rule.empty()) continue;
    if (format == 1) {
      const auto by_glyph = [](std::uint16_t value) { return GlyphId{value}; };
      out.push_back(read_rule(rule, chained, {glyph}, by_glyph, by_glyph, by_glyph));
    } else {
      const auto by_class = [](const GlyphClasses& from) {
        return [&from](std::uint16_t value) { return ClassPlace{from, value}; };
      };
      out.push_back(read_rule(rule, chained, {ClassPlace{input, static_cast<std::uint16_t>(place)}},
                              by_class(before), by_class(input), by_class(after)));
    }
    items += items_of(out.back()) + 1;
  }
  return out;
}

}  // namespace grafema
