// SPDX-License-Identifier: MIT
// Whether a lookup ever looks at a given glyph: where none looks at the space, words can be shaped alone.
#include "text/shaping/engine/face_lookups.hpp"

namespace grafema::detail {
namespace {

/// Numbers read; beyond, the answer is yes.
constexpr std::size_t kMaxReads = 2'000'000;

class Search {
 public:
  Search(GlyphId glyph, TableBytes bytes) : glyph_(glyph), table_(view(bytes)) {}

  bool touches(RuleKind kind) {
    switch (kind) {
      case RuleKind::ligature:
        return covered(2) || any_set(4, [this](const TableView& rule) { return lists(rule, 2, 2, 1); });
      case RuleKind::pair:
        return covered(2) || second_of_pair();
      case RuleKind::context:
      case RuleKind::chained_context:
        return context(kind == RuleKind::chained_context);
      case RuleKind::reverse:
        return covered(2) || sets_of_reverse();
      case RuleKind::mark_to_base:
      case RuleKind::mark_to_ligature:
      case RuleKind::mark_to_mark:
        return covered(2) || covered(4);
      default:
        return covered(2);
    }
  }

 private:
  bool covered(std::size_t at) { return spend(8) || GlyphSet(sub_table(table_, at)).holds(glyph_); }
  bool spend(std::size_t reads) { return (reads_ += reads) > kMaxReads; }

  /// Whether any rule of any list does; offsets of lists stand from `at` + 2 on.
  template <class Test>
  bool any_set(std::size_t at, Test test) {
    for (std::size_t i = 0; i < table_.u16(at) && table_.holds(at + 2 + i * 2, 2); ++i) {
      const TableView set = view(sub_table(table_, at + 2 + i * 2));
      for (std::size_t r = 0; r < set.u16(0) && set.holds(2 + r * 2, 2); ++r) {
        if (spend(1) || test(view(sub_table(set, 2 + r * 2)))) return true;
      }
    }
    return false;
  }

  /// Whether the glyph stands in a list of glyphs: the count at `count_at`, less `without`, the list at the
  /// second offset + 2.
  bool lists(const TableView& rule, std::size_t count_at, std::size_t list_at, std::size_t without) {
    const std::size_t count = rule.u16(count_at);
    return has(rule, list_at + 2, count > without ? count - without : 0, index_of(glyph_));
  }
  bool has(const TableView& rule, std::size_t at, std::size_t count, std::uint32_t value) {
    for (std::size_t i = 0; i < count && rule.holds(at + i * 2, 2); ++i) {
      if (spend(1) || rule.u16(at + i * 2) == value) return true;
    }
    return false;
  }

  bool second_of_pair() {
    const std::size_t first_bytes = value_bytes(table_.u16(4)), second_bytes = value_bytes(table_.u16(6));
    if (table_.u16(0) == 1) {
      const std::size_t record = 2 + first_bytes + second_bytes;
      for (std::size_t i = 0; i < table_.u16(8) && table_.holds(10 + i * 2, 2); ++i) {
        const TableView set = view(sub_table(table_, 10 + i * 2));
        for (std::size_t r = 0; r < set.u16(0) && set.holds(2 + r * record, record); ++r) {
          if (spend(1) || set.u16(2 + r * record) == index_of(glyph_)) return true;
        }
      }
      return false;
    }
    const std::size_t rows = table_.u16(12), columns = table_.u16(14);
    const std::size_t column = GlyphClasses(sub_table(table_, 10)).class_of(glyph_);
    const std::size_t record = first_bytes + second_bytes;
    for (std::size_t row = 0; row < rows && column < columns; ++row) {
      const std::size_t at = 16 + (row * columns + column) * record;
      for (std::size_t i = 0; i < record; i += 2) {
        if (spend(1) || table_.u16(at + i) != 0) return true;
      }
    }
    return false;
  }

  bool context(bool chained) {
    const std::uint16_t format = table_.u16(0);
    if (format == 3) return context_of_sets(chained);
    if (format != 1 && format != 2) return false;
    if (format == 1) {
      return covered(2) || any_set(4, [&](const TableView& rule) {
               return rule_has(rule, chained, index_of(glyph_), index_of(glyph_), index_of(glyph_));
             });
    }
    const auto number = [&](std::size_t at) {
      return std::uint32_t{GlyphClasses(sub_table(table_, at)).class_of(glyph_)};
    };
    const std::uint32_t before = number(4), input = chained ? number(6) : before,
                        after = chained ? number(8) : 0;
    const std::size_t sets = chained ? 10 : 6;
    if (covered(2) && sub_table(table_, sets + 2 + std::size_t{input} * 2).size() > 1) return true;
    return any_set(sets,
                   [&](const TableView& rule) { return rule_has(rule, chained, before, input, after); });
  }

  bool rule_has(const TableView& rule, bool chained, std::uint32_t before, std::uint32_t input,
                std::uint32_t after) {
    std::size_t at = 0;
    if (!chained) return has(rule, 4, rule.u16(0) > 0 ? rule.u16(0) - 1U : 0, input);
    const std::size_t back = rule.u16(at);
    if (has(rule, 2, back, before)) return true;
    at = 2 + back * 2;
    const std::size_t count = rule.u16(at) > 0 ? rule.u16(at) - 1U : 0;
    if (has(rule, at + 2, count, input)) return true;
    at += 2 + count * 2;
    return has(rule, at + 2, rule.u16(at), after);
  }

  bool context_of_sets(bool chained) {
    std::size_t at = 2;
    if (!chained) {
      const std::size_t count = table_.u16(2);
      return in_sets(6, count);
    }
    for (int part = 0; part < 3; ++part) {
      const std::size_t count = table_.u16(at);
      if (in_sets(at + 2, count)) return true;
      at += 2 + count * 2;
    }
    return false;
  }
  bool sets_of_reverse() {
    const std::size_t back = table_.u16(4), at = 6 + back * 2;
    return in_sets(6, back) || in_sets(at + 2, table_.u16(at));
  }
  bool in_sets(std::size_t at, std::size_t count) {
    for (std::size_t i = 0; i < count && table_.holds(at + i * 2, 2); ++i) {
      if (covered(at + i * 2)) return true;
    }
    return false;
  }

  GlyphId glyph_;
  TableView table_;
  std::size_t reads_ = 0;
};

}  // namespace

bool FaceLookups::touches(bool positions, std::size_t lookup, GlyphId glyph) {
  const CompiledLookup& compiled = positions ? positioning(lookup) : substitution(lookup);
  for (const CompiledRule& rule : compiled.rules) {
    if (Search(glyph, rule.bytes).touches(rule.kind)) return true;
  }
  return false;
}

}  // namespace grafema::detail
