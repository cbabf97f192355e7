// SPDX-License-Identifier: MIT
// Finds the pair adjustment lookups of each script and compiles them.
#include "font/layout/pair_kerning.hpp"

#include <algorithm>
#include <unordered_map>

#include "font/layout/layout_bytes.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint16_t kNotCovered = 0xFFFF;
/// Beyond these the compiled form would be larger or slower to make than it is worth.
constexpr std::size_t kMaxCells = 1 << 16, kMaxPairs = 1 << 13, kMaxClasses = 0x7FFF;
/// Of one face, over all its scripts and languages.
constexpr std::size_t kMaxWork = 16'000'000, kMaxCompiledBytes = 4'000'000;
constexpr std::size_t kMaxSets = 256, kMaxSystems = 1024, kMaxPairSubtables = 16384;

bool is_matrix(const PairAdjustments& rule) { return view(rule.bytes).u16(0) == 2; }

std::uint16_t row_class(const PairAdjustments& rule, GlyphId glyph) {
  if (!rule.first.holds(glyph)) return kNotCovered;
  return std::min<std::uint16_t>(GlyphClasses(sub_table(view(rule.bytes), 8)).class_of(glyph),
                                 kNotCovered - 1);
}

/// Splits glyphs that were alike so far where their class tells them apart; glyph lists of real fonts end up
/// in a few hundred groups. Glyphs that are not `named` are of class `rest`; the group 0 stays that of glyphs
/// with `rest` everywhere.
template <class ClassOf>
bool refine(std::vector<std::uint16_t>& groups, std::uint32_t& group_count, std::span<const GlyphId> named,
            std::uint16_t rest, ClassOf class_of) {
  std::vector<std::uint16_t> classes(groups.size(), rest);
  for (const GlyphId glyph : named) {
    if (index_of(glyph) < classes.size()) classes[index_of(glyph)] = class_of(glyph);
  }
  std::unordered_map<std::uint32_t, std::uint16_t> seen;
  seen.emplace(rest, std::uint16_t{0});
  for (std::size_t g = 0; g < groups.size(); ++g) {
    const std::uint32_t key = std::uint32_t{groups[g]} << 16 | classes[g];
    if (key == rest) continue;  // most glyphs do not kern at all
    const auto [at, is_new] = seen.emplace(key, static_cast<std::uint16_t>(seen.size()));
    if (seen.size() > kMaxClasses) return false;
    groups[g] = at->second;
  }
  group_count = static_cast<std::uint32_t>(seen.size());
  return true;
}

/// The advance where no list knows the pair: of each lookup the first matrix that covers the left glyph.
float matrix_value(const PairLookups& lookups, GlyphId left, GlyphId right) {
  float sum = 0;
  for (const auto& lookup : lookups) {
    for (const PairAdjustments& rule : lookup) {
      const std::optional<PairAdjustment> found = is_matrix(rule) ? rule.find(left, right) : std::nullopt;
      if (!found) continue;
      sum += found->first.x_advance;
      break;
    }
  }
  return sum;
}

template <class Visit>
void visit_rules(const PairLookups& lookups, bool matrices, Visit visit) {
  for (const auto& lookup : lookups) {
    for (const PairAdjustments& rule : lookup) {
      if (is_matrix(rule) == matrices) visit(rule);
    }
  }
}

}  // namespace

PairAdjustment find_adjustment(const PairLookups& lookups, GlyphId left, GlyphId right,
                               std::uint16_t pixels_per_em) {
  PairAdjustment sum;
  const auto add = [](Adjustment& to, const Adjustment& a) {
    to.x_placement += a.x_placement, to.y_placement += a.y_placement, to.x_advance += a.x_advance,
        to.y_advance += a.y_advance;
  };
  for (const auto& lookup : lookups) {
    for (const PairAdjustments& rule : lookup) {
      const std::optional<PairAdjustment> found = rule.find(left, right, pixels_per_em);
      if (!found) continue;
      add(sum.first, found->first);
      add(sum.second, found->second);
      break;
    }
  }
  return sum;
}

PairMatrix PairMatrix::compile(const PairLookups& lookups, std::uint32_t glyph_count, std::size_t& work) {
  PairMatrix made;
  if (glyph_count == 0 || !made.add_classes(lookups, glyph_count, work)) return {};
  made.add_values(lookups);
  made.add_pairs(lookups, glyph_count);
  return made;
}

bool PairMatrix::add_classes(const PairLookups& lookups, std::uint32_t glyph_count, std::size_t& work) {
  std::size_t rules = 0;
  visit_rules(lookups, true, [&](const PairAdjustments&) { ++rules; });
  visit_rules(lookups, false,
              [&](const PairAdjustments& rule) { rules += rule.first.glyphs().size() / 64 + 1; });
  if (rules * glyph_count > work) return false;
  work -= rules * glyph_count;
  glyph_count_ = glyph_count;
  rows_.assign(glyph_count, 0);
  columns_.assign(glyph_count, 0);
  std::uint32_t row_count = 1;
  bool fits = true;
  visit_rules(lookups, true, [&](const PairAdjustments& rule) {
    const GlyphClasses columns(sub_table(view(rule.bytes), 10));
    fits = fits && refine(rows_, row_count, rule.first.glyphs(), kNotCovered,
                          [&](GlyphId g) { return row_class(rule, g); });
    fits = fits && refine(columns_, column_count_, columns.glyphs(), 0,
                          [&](GlyphId g) { return columns.class_of(g); });
  });
  const std::size_t cells = std::size_t{row_count} * column_count_;
  if (!fits || cells > kMaxCells || cells * rules > work) return false;
  work -= cells * rules;
  values_.assign(std::size_t{row_count} * column_count_, 0);
  return true;
}

void PairMatrix::add_values(const PairLookups& lookups) {
  const std::size_t row_count = values_.size() / column_count_;
  std::vector<std::uint32_t> row_glyph(row_count, kFree), column_glyph(column_count_, kFree);
  for (std::uint32_t g = 0; g < rows_.size(); ++g) {
    if (row_glyph[rows_[g]] == kFree) row_glyph[rows_[g]] = g;
    if (column_glyph[columns_[g]] == kFree) column_glyph[columns_[g]] = g;
  }
  for (std::size_t r = 1; r < row_count; ++r) {  // row 0 is covered by nothing
    for (std::size_t c = 0; c < column_count_ && row_glyph[r] != kFree; ++c) {
      if (column_glyph[c] != kFree) {
        values_[r * column_count_ + c] =
            matrix_value(lookups, GlyphId{row_glyph[r]}, GlyphId{column_glyph[c]});
      }
    }
  }
}

/// Pairs that a list names are kept one by one with what all lookups say about them.
void PairMatrix::add_pairs(const PairLookups& lookups, std::uint32_t glyph_count) {
  std::vector<std::uint32_t> keys;
  visit_rules(lookups, false, [&](const PairAdjustments& rule) {
    const TableView table = view(rule.bytes);
    const std::size_t record_bytes = 2 + value_bytes(table.u16(4)) + value_bytes(table.u16(6));
    for (const GlyphId left : rule.first.glyphs()) {
      const std::uint32_t number =
          rule.first.find(left).value_or(0xFFFF);  // damaged sets may list what they do not find
      const TableView set =
          number < table.u16(8) ? view(sub_table(table, 10 + std::size_t{number} * 2)) : TableView{};
      if (index_of(left) >= glyph_count || set.empty()) continue;
      rows_[index_of(left)] = static_cast<std::uint16_t>(rows_[index_of(left)] | kHasPairs);
      for (std::size_t i = 0;
           i < set.u16(0) && set.holds(2 + i * record_bytes, 2) && keys.size() <= kMaxPairs; ++i) {
        keys.push_back(index_of(left) << 16 | set.u16(2 + i * record_bytes));
      }
    }
  });
  pairs_listed_ = keys.size() <= kMaxPairs;
  if (!pairs_listed_ || keys.empty()) return;
  std::size_t size = 2;
  while (size < keys.size() + keys.size() / 2) {
    size *= 2;
    --pair_shift_;
  }
  pairs_.assign(size, {kFree, 0});
  for (const std::uint32_t key : keys) {
    if (find_pair(key) != nullptr || key == kFree) continue;
    std::size_t at = place_of(key);
    while (pairs_[at].key != kFree) at = (at + 1) & (size - 1);
    pairs_[at] = {key,
                  find_adjustment(lookups, GlyphId{key >> 16}, GlyphId{key & 0xFFFF}, 0).first.x_advance};
  }
}

float PairMatrix::find_listed(const PairLookups& lookups, std::uint32_t left, std::uint32_t right) const {
  if (!pairs_listed_) return find_adjustment(lookups, GlyphId{left}, GlyphId{right}, 0).first.x_advance;
  if (const Pair* pair = find_pair(left << 16 | right)) return pair->value;
  return values_[std::size_t{rows_[left] & ~kHasPairs} * column_count_ + columns_[right]];
}

std::size_t PairMatrix::bytes() const {
  return (rows_.capacity() + columns_.capacity()) * sizeof(std::uint16_t) +
         values_.capacity() * sizeof(float) + pairs_.capacity() * sizeof(Pair);
}

PairKerning PairKerning::read(const LayoutTable& gpos, std::uint32_t glyph_count) {
  PairKerning kerning;
  const std::vector<ScriptTags> scripts = gpos.scripts();
  std::size_t work = kMaxWork;
  // Latin first: it is asked for most, and systems are looked through in order.
  for (const bool latin : {true, false}) {
    for (const ScriptTags& s : scripts) {
      if ((s.script == tag("latn")) == latin) kerning.add(gpos, s.script, Tag{}, glyph_count, work);
    }
  }
  for (const ScriptTags& s : scripts) {
    for (const Tag language : s.languages) kerning.add(gpos, s.script, language, glyph_count, work);
  }
  const bool first_kerns = !kerning.systems_.empty() && kerning.systems_[0].set == 0;
  if (first_kerns && !kerning.sets_[0].matrix.empty()) kerning.quick_script_ = kerning.systems_[0].script;
  return kerning;
}

void PairKerning::add(const LayoutTable& gpos, Tag script, Tag language, std::uint32_t glyph_count,
                      std::size_t& work) {
  if (systems_.size() >= kMaxSystems) return;
  if (!gpos.has_feature(script, language, tag("kern"))) {
    has_gaps_ = true;
    systems_.push_back({script, language, kNoSet});
    return;
  }
  Set set;
  set.indices = gpos.find_lookups(script, language, tag("kern"));
  const auto same =
      std::find_if(sets_.begin(), sets_.end(), [&set](const Set& s) { return s.indices == set.indices; });
  if (same != sets_.end()) {
    systems_.push_back({script, language, static_cast<std::size_t>(same - sets_.begin())});
    return;
  }
  if (sets_.size() == kMaxSets) return;
  for (const std::uint16_t index : set.indices) {
    if (subtables_ >= kMaxPairSubtables) break;
    std::vector<PairAdjustments> pairs;
    for (const PositioningRule& rule : gpos.positioning(index).rules) {
      if (const auto* pair = std::get_if<PairAdjustments>(&rule)) pairs.push_back(*pair);
    }
    subtables_ += pairs.size() + 1;
    if (!pairs.empty()) set.lookups.push_back(std::move(pairs));
  }
  if (bytes() < kMaxCompiledBytes) {
    set.matrix = PairMatrix::compile(set.lookups, std::min<std::uint32_t>(glyph_count, 0xFFFF), work);
  }
  systems_.push_back({script, language, sets_.size()});
  sets_.push_back(std::move(set));
}

const PairKerning::System* PairKerning::find_system(Tag script, Tag language) const {
  for (const System& s : systems_) {
    if (s.script == script && s.language == language) return &s;
  }
  return nullptr;
}

/// The set of the language system that LayoutTable::find_lookups takes; null where that has no `kern`
/// feature.
const PairKerning::Set* PairKerning::find_set(Tag script, Tag language) const {
  for (const Tag tried : {script, tag("DFLT"), tag("dflt"), tag("latn")}) {
    const System* standard = find_system(tried, Tag{});
    if (standard == nullptr) continue;
    const System* own = language == Tag{} ? nullptr : find_system(tried, language);
    const System* found = own != nullptr ? own : standard;
    return found->set == kNoSet ? nullptr : &sets_[found->set];
  }
  return nullptr;
}

std::optional<float> PairKerning::find_slowly(GlyphId left, GlyphId right, Tag script, Tag language) const {
  const Set* set = find_set(script, language);
  if (set == nullptr) return std::nullopt;
  if (set->matrix.empty()) return find_adjustment(set->lookups, left, right, 0).first.x_advance;
  return set->matrix.find(set->lookups, index_of(left), index_of(right));
}

std::optional<PairAdjustment> PairKerning::find_both(GlyphId left, GlyphId right, Tag script, Tag language,
                                                     std::uint16_t pixels_per_em) const {
  const Set* set = find_set(script, language);
  if (set == nullptr) return std::nullopt;
  return find_adjustment(set->lookups, left, right, pixels_per_em);
}

std::size_t PairKerning::bytes() const {
  std::size_t sum = 0;
  for (const Set& set : sets_) sum += set.matrix.bytes();
  return sum;
}

}  // namespace grafema::detail
