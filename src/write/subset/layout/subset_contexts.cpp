// SPDX-License-Identifier: MIT
// Rules that look at neighbors, in their three formats (OpenType, "Sequence context" and "Chained ...").
#include <algorithm>
#include <array>

#include "write/subset/layout/subset_layout.hpp"

namespace grafema::detail {
namespace {

/// The parts of a rule: what stands before, from the nearest outward; the input; what stands after.
enum Part : std::uint8_t { before, input, after };
constexpr std::size_t kMaxPlaces = 256;

class Contexts {
 public:
  Contexts(LayoutWork& work, bool chained, const TableView& table, const LookupNumbers* numbers)
      : work_(work), chained_(chained), table_(table), numbers_(numbers) {}

  NewSubtable copy() {
    switch (table_.u16(0)) {
      case 1:
        copy_glyph_rules();
        break;
      case 2:
        copy_class_rules();
        break;
      case 3:
        copy_set_rule();
        break;
      default:
        break;
    }
    return std::move(out_);
  }

 private:
  /// One rule: values (glyphs or classes, already renumbered) of each part, and its actions.
  struct Rule {
    std::array<std::vector<std::uint16_t>, 3> parts;
    std::vector<std::pair<std::uint16_t, std::uint16_t>> actions;  // place, old lookup
  };

  /// Reads a rule whose values `renumber` turns into new ones, or -1 where it can't match any more.
  template <class Renumber>
  bool read_rule(const TableView& rule, Renumber renumber, Rule& out) {
    std::size_t at = 0, action_count = 0;
    const auto read_list = [&](Part part, std::size_t count, std::size_t missing) {
      count = count > missing ? count - missing : 0;
      if (count > kMaxPlaces || !rule.holds(at, count * 2) || !work_.spend(count)) return false;
      for (std::size_t i = 0; i < count; ++i, at += 2) {
        const int value = renumber(part, rule.u16(at));
        if (value < 0) return false;
        out.parts[part].push_back(static_cast<std::uint16_t>(value));
      }
      return true;
    };
    if (chained_) {
      at = 2;
      if (!read_list(before, rule.u16(0), 0)) return false;
      at += 2;
      if (!read_list(input, rule.u16(at - 2), 1)) return false;  // the first stands elsewhere
      at += 2;
      if (!read_list(after, rule.u16(at - 2), 0)) return false;
      action_count = rule.u16(at);
      at += 2;
    } else {
      action_count = rule.u16(2);
      at = 4;
      if (!read_list(input, rule.u16(0), 1)) return false;
    }
    read_actions(rule, at, action_count, out);
    return true;
  }

  void read_actions(const TableView& rule, std::size_t at, std::size_t count, Rule& out) {
    for (std::size_t i = 0; i < count && i < kMaxPlaces && rule.holds(at, 4); ++i, at += 4) {
      const std::uint16_t lookup = rule.u16(at + 2);
      if (numbers_ != nullptr && numbers_->to(lookup) < 0) continue;
      out.actions.emplace_back(rule.u16(at), lookup);
      out_.calls.push_back(lookup);
    }
  }

  void write_actions(const Rule& rule, TreeObject& out) const {
    for (const auto& [place, lookup] : rule.actions) out.u16(place), out.s16(numbers_->to(lookup));
  }

  std::uint32_t add_rule(const Rule& rule) {
    TreeObject out;
    const auto put = [&](Part part) {
      for (const std::uint16_t value : rule.parts[part]) out.u16(value);
    };
    const auto count = [&](Part part) { return static_cast<std::uint32_t>(rule.parts[part].size()); };
    if (chained_) {
      out.u16(count(before)), put(before);
      out.u16(count(input) + 1), put(input);
      out.u16(count(after)), put(after);
      out.u16(static_cast<std::uint32_t>(rule.actions.size()));
    } else {
      out.u16(count(input) + 1), out.u16(static_cast<std::uint32_t>(rule.actions.size()));
      put(input);
    }
    write_actions(rule, out);
    return work_.tree.add(std::move(out));
  }

  /// The rules of one set that can still match; kNone where there are none.
  template <class Renumber>
  std::uint32_t copy_rules(const TableView& set, Renumber renumber) {
    std::vector<std::uint32_t> rules;
    for (std::size_t i = 0; i < set.u16(0) && set.holds(2 + i * 2, 2) && work_.spend(1); ++i) {
      Rule rule;
      const std::size_t calls = out_.calls.size();
      if (!read_rule(view(sub_table(set, 2 + i * 2)), renumber, rule)) {
        out_.calls.resize(calls);
        continue;
      }
      out_.has_rules = true;
      if (numbers_ != nullptr) rules.push_back(add_rule(rule));
    }
    if (rules.empty()) return ObjectTree::kNone;
    TreeObject out;
    out.u16(static_cast<std::uint32_t>(rules.size()));
    for (const std::uint32_t rule : rules) out.link16(rule);
    return work_.tree.add(std::move(out));
  }

  void copy_glyph_rules() {
    const auto renumber = [this](Part /*part*/, std::uint16_t glyph) {
      return work_.plan.to(std::uint32_t{glyph});
    };
    std::vector<std::uint16_t> first;
    std::vector<std::uint32_t> sets;
    for (const auto& [glyph, number] : work_.members(sub_table(table_, 2))) {
      if (number >= table_.u16(4)) continue;
      const std::uint32_t set = copy_rules(view(sub_table(table_, 6 + std::size_t{number} * 2)), renumber);
      if (set == ObjectTree::kNone) continue;
      first.push_back(glyph), sets.push_back(set);
    }
    if (sets.empty()) return;
    TreeObject out;
    out.u16(1), out.link16(work_.add_coverage(first)), out.u16(static_cast<std::uint32_t>(sets.size()));
    for (const std::uint32_t set : sets) out.link16(set);
    out_.object = work_.tree.add(std::move(out));
  }

  /// New numbers of the classes that kept glyphs are of; class 0 holds all other glyphs and stays.
  struct Classes {
    std::map<std::uint16_t, std::uint16_t> of_glyph;
    std::vector<int> renumbered = {0};
    std::uint16_t count = 1;
    int to(std::uint16_t old) const { return old < renumbered.size() ? renumbered[old] : -1; }
  };
  Classes read_classes(TableBytes bytes) {
    Classes classes;
    const std::vector<std::uint16_t>& values = work_.classes_of(bytes);
    for (const std::uint16_t value : values) {
      if (value >= classes.renumbered.size()) classes.renumbered.resize(value + std::size_t{1}, -1);
      if (value != 0) classes.renumbered[value] = 1;
    }
    for (std::size_t i = 1; i < classes.renumbered.size(); ++i) {
      if (classes.renumbered[i] > 0) classes.renumbered[i] = classes.count++;
    }
    for (std::size_t i = 0; i < values.size(); ++i) {
      if (values[i] == 0) continue;
      classes.of_glyph[static_cast<std::uint16_t>(i)] =
          static_cast<std::uint16_t>(classes.renumbered[values[i]]);
    }
    return classes;
  }

  void copy_class_rules() {
    const std::size_t sets_at = chained_ ? 10 : 6;
    std::array<Classes, 3> classes;
    classes[input] = read_classes(sub_table(table_, chained_ ? 6 : 4));
    if (chained_) {
      classes[before] = read_classes(sub_table(table_, 4));
      classes[after] = read_classes(sub_table(table_, 8));
    }
    const auto renumber = [&](Part part, std::uint16_t value) { return classes[part].to(value); };
    std::vector<std::uint16_t> first;
    std::vector<bool> begins(classes[input].count, false);  // classes of glyphs that an input may begin with
    for (const auto& [glyph, number] : work_.members(sub_table(table_, 2))) {
      first.push_back(glyph);
      const auto found = classes[input].of_glyph.find(glyph);
      begins[found == classes[input].of_glyph.end() ? 0 : found->second] = true;
    }
    std::vector<std::uint32_t> sets(classes[input].count, ObjectTree::kNone);
    bool any = false;
    for (std::size_t i = 0; i < table_.u16(sets_at) && table_.holds(sets_at + 2 + i * 2, 2); ++i) {
      const int to = classes[input].to(static_cast<std::uint16_t>(i));
      if (to < 0 || !begins[static_cast<std::size_t>(to)]) continue;
      const std::uint32_t set = copy_rules(view(sub_table(table_, sets_at + 2 + i * 2)), renumber);
      sets[static_cast<std::size_t>(to)] = set;
      any = any || set != ObjectTree::kNone;
    }
    if (!any) return;
    TreeObject out;
    out.u16(2), out.link16(work_.add_coverage(first));
    if (chained_) out.link16(work_.add_classes(classes[before].of_glyph, false));
    out.link16(work_.add_classes(classes[input].of_glyph, false));
    if (chained_) out.link16(work_.add_classes(classes[after].of_glyph, false));
    out.u16(static_cast<std::uint32_t>(sets.size()));
    for (const std::uint32_t set : sets) out.link16(set);
    out_.object = work_.tree.add(std::move(out));
  }

  /// One rule of sets, place by place.
  void copy_set_rule() {
    std::array<std::vector<std::uint32_t>, 3> sets;
    std::size_t at = 2, action_count = 0;
    const auto read_list = [&](Part part, std::size_t count) {
      for (std::size_t i = 0; i < count && table_.holds(at, 2); ++i, at += 2) {
        const TableBytes set = sub_table(table_, at);
        if (i > kMaxPlaces || work_.members(set).empty()) return false;
        sets[part].push_back(numbers_ == nullptr ? 0 : work_.copy_coverage(set));
      }
      return true;
    };
    if (chained_) {
      for (const Part part : {before, input, after}) {
        at += 2;
        if (!read_list(part, table_.u16(at - 2))) return;
      }
      action_count = table_.u16(at);
      at += 2;
    } else {
      action_count = table_.u16(4);
      at = 6;
      if (!read_list(input, table_.u16(2))) return;
    }
    if (sets[input].empty()) return;
    Rule rule;
    read_actions(table_, at, action_count, rule);
    out_.has_rules = true;
    if (numbers_ == nullptr) return;
    TreeObject out;
    const auto put = [&](Part part) {
      for (const std::uint32_t set : sets[part]) out.link16(set);
    };
    const auto count = [&](Part part) { return static_cast<std::uint32_t>(sets[part].size()); };
    out.u16(3);
    if (chained_) {
      out.u16(count(before)), put(before);
      out.u16(count(input)), put(input);
      out.u16(count(after)), put(after);
      out.u16(static_cast<std::uint32_t>(rule.actions.size()));
    } else {
      out.u16(count(input)), out.u16(static_cast<std::uint32_t>(rule.actions.size()));
      put(input);
    }
    write_actions(rule, out);
    out_.object = work_.tree.add(std::move(out));
  }

  LayoutWork& work_;
  bool chained_;
  TableView table_;
  const LookupNumbers* numbers_;
  NewSubtable out_;
};

}  // namespace

NewSubtable subset_context(LayoutWork& work, bool chained, const TableView& table,
                           const LookupNumbers* numbers) {
  return Contexts(work, chained, table, numbers).copy();
}

}  // namespace grafema::detail
