// SPDX-License-Identifier: MIT
// Compiles lookups: kinds of rules, their bytes, and the glyphs that they may begin with.
#include "text/shaping/engine/face_lookups.hpp"

#include <algorithm>
#include <bit>

namespace grafema::detail {
namespace {

constexpr std::size_t kMaxGlyphs = 0x10000;
/// Sets of glyphs of one face may take so many bytes; lookups compiled beyond ask every glyph.
constexpr std::size_t kMaxBytes = std::size_t{16} << 20U;

const CompiledLookup no_lookup;

/// What lies in bytes that hold a coverage table of either format.
template <class Take>
void each_range(TableBytes bytes, Take take) {
  const TableView table = view(bytes);
  const std::size_t count = table.u16(2);
  if (table.u16(0) == 1) {
    for (std::size_t i = 0; i < count && table.holds(4 + i * 2, 2); ++i) {
      take(table.u16(4 + i * 2), table.u16(4 + i * 2));
    }
  } else if (table.u16(0) == 2) {
    for (std::size_t i = 0; i < count && table.holds(4 + i * 6, 6); ++i) {
      take(table.u16(4 + i * 6), table.u16(6 + i * 6));
    }
  }
}

RuleKind kind_of(const SubstitutionRule& rule, std::uint16_t type) {
  if (const auto* contexts = std::get_if<ContextRules>(&rule)) {
    return contexts->chained ? RuleKind::chained_context : RuleKind::context;
  }
  constexpr RuleKind kKinds[] = {RuleKind::single, RuleKind::single, RuleKind::multiple, RuleKind::alternate,
                                 RuleKind::ligature};
  return type < std::size(kKinds) ? kKinds[type] : RuleKind::reverse;
}

RuleKind kind_of(const PositioningRule& rule, std::uint16_t type) {
  if (const auto* contexts = std::get_if<ContextRules>(&rule)) {
    return contexts->chained ? RuleKind::chained_context : RuleKind::context;
  }
  constexpr RuleKind kKinds[] = {RuleKind::adjust,      RuleKind::adjust,       RuleKind::pair,
                                 RuleKind::cursive,     RuleKind::mark_to_base, RuleKind::mark_to_ligature,
                                 RuleKind::mark_to_mark};
  return type < std::size(kKinds) ? kKinds[type] : RuleKind::adjust;
}

/// The whole subtable: every kind of rule keeps the bytes from its start on.
template <class Kind, class Rule>
void take_bytes(const Rule& rule, TableBytes& out) {
  if (const auto* own = std::get_if<Kind>(&rule)) out = own->bytes;
}
TableBytes bytes_of(const SubstitutionRule& rule) {
  TableBytes out;
  take_bytes<SingleSubstitution>(rule, out), take_bytes<SequenceSubstitution>(rule, out);
  take_bytes<LigatureSubstitution>(rule, out), take_bytes<ContextRules>(rule, out);
  take_bytes<ReverseSubstitution>(rule, out);
  return out;
}
TableBytes bytes_of(const PositioningRule& rule) {
  TableBytes out;
  take_bytes<SingleAdjustment>(rule, out), take_bytes<PairAdjustments>(rule, out);
  take_bytes<CursiveAttachment>(rule, out), take_bytes<MarkAttachment>(rule, out);
  take_bytes<ContextRules>(rule, out);
  return out;
}

TableBytes first_set(RuleKind kind, TableBytes bytes) {
  const TableView table = view(bytes);
  if ((kind != RuleKind::context && kind != RuleKind::chained_context) || table.u16(0) != 3) {
    return sub_table(table, 2);
  }
  if (kind == RuleKind::context) return table.u16(2) == 0 ? TableBytes{} : sub_table(table, 6);
  const std::size_t at = 4 + std::size_t{table.u16(2)} * 2;
  return table.u16(at) == 0 ? TableBytes{} : sub_table(table, at + 2);
}

/// Reads the classes of a matrix of pairs once, so that a pair costs two looks and no search.
void compile_pairs(std::uint32_t glyph_count, CompiledRule& rule, std::size_t& bytes) {
  const TableView table = view(rule.bytes);
  if (table.u16(0) != 2 || bytes > kMaxBytes || table.u16(12) == CompiledRule::kNoRow) return;
  const GlyphClasses first(sub_table(table, 8)), second(sub_table(table, 10));
  rule.rows.assign(glyph_count, CompiledRule::kNoRow);
  rule.columns.assign(glyph_count, 0);
  for (std::uint32_t g = 0; g < glyph_count; ++g) {
    if (rule.covered.test(GlyphId{g})) rule.rows[g] = 0;
  }
  for (const GlyphId g : first.glyphs()) {
    if (index_of(g) < glyph_count && rule.rows[index_of(g)] != CompiledRule::kNoRow) {
      rule.rows[index_of(g)] = first.class_of(g);
    }
  }
  for (const GlyphId g : second.glyphs()) {
    if (index_of(g) < glyph_count) rule.columns[index_of(g)] = second.class_of(g);
  }
  bytes += std::size_t{glyph_count} * 4;
}

/// Reads what the places of a context accept once, so that a place costs one look.
void compile_context(std::uint32_t glyph_count, CompiledRule& rule, std::size_t& bytes) {
  const TableView table = view(rule.bytes);
  const bool chained = rule.kind == RuleKind::chained_context;
  if (bytes > kMaxBytes) return;
  if (table.u16(0) == 2) {
    for (std::size_t part = 0; part < (chained ? 3U : 1U); ++part) {
      const GlyphClasses classes(sub_table(table, 4 + part * 2));
      std::vector<std::uint16_t>& out = rule.classes[part];
      out.assign(glyph_count, 0);
      for (const GlyphId g : classes.glyphs()) {
        if (index_of(g) < glyph_count) out[index_of(g)] = classes.class_of(g);
      }
      bytes += std::size_t{glyph_count} * 2;
    }
  } else if (table.u16(0) == 3) {
    std::size_t at = 2;
    std::uint8_t* const counts[] = {chained ? &rule.before_count : &rule.input_count, &rule.input_count,
                                    &rule.after_count};
    for (std::size_t part = 0; part < (chained ? 3U : 1U); ++part) {
      const std::size_t count = table.u16(at);
      if (count > 64) return rule.sets.clear();
      *counts[part] = static_cast<std::uint8_t>(count);
      at += chained ? 2 : 4;
      for (std::size_t i = 0; i < count; ++i, at += 2) {
        rule.sets.emplace_back().add(sub_table(table, at));
        bytes += rule.sets.back().bytes();
      }
    }
    rule.action_count = table.u16(chained ? at : 4);
    rule.actions_at = static_cast<std::uint32_t>(chained ? at + 2 : at);
    if (rule.input_count == 0) rule.sets.clear();
  }
}

/// Adds the set that the fewest glyphs are in, of the places from `first` on; `except` is no such place.
void add_needed(const CompiledRule& rule, std::size_t first, std::size_t end, std::size_t except,
                GlyphBits& needed) {
  const GlyphBits* least = nullptr;
  for (std::size_t i = first; i < std::min(end, rule.sets.size()); ++i) {
    if (i != except && (least == nullptr || rule.sets[i].count() < least->count())) least = &rule.sets[i];
  }
  if (least == nullptr) {
    needed.add_all();
  } else {
    needed.add(*least);
  }
}

template <class Rule>
CompiledLookup compile(const Lookup<Rule>& lookup, std::uint32_t glyph_count, std::size_t& bytes) {
  CompiledLookup out;
  out.flags = lookup.flags;
  out.ignores = lookup.flags.ignore_bases || lookup.flags.ignore_ligatures || lookup.flags.ignore_marks ||
                lookup.flags.mark_class != 0 || lookup.flags.mark_set.has_value();
  for (const Rule& rule : lookup.rules) {
    CompiledRule made;
    made.kind = kind_of(rule, lookup.type);
    made.bytes = bytes_of(rule);
    if constexpr (std::is_same_v<Rule, PositioningRule>) made.position = rule;
    if (bytes > kMaxBytes) {
      made.covered.add_all();
    } else {
      made.covered.add(first_set(made.kind, made.bytes));
    }
    bytes += made.covered.bytes();
    if (made.kind == RuleKind::pair) compile_pairs(glyph_count, made, bytes);
    if (made.kind == RuleKind::context || made.kind == RuleKind::chained_context) {
      compile_context(glyph_count, made, bytes);
    }
    out.covered.add(made.covered);
    const std::size_t input_end = std::size_t{made.before_count} + made.input_count;
    add_needed(made, 0, input_end, made.before_count, out.needed);
    add_needed(made, input_end, made.sets.size(), made.sets.size(), out.needed_after);
    out.rules.push_back(std::move(made));
  }
  bytes += out.covered.bytes();
  return out;
}

}  // namespace

void GlyphBits::widen(std::uint32_t first, std::uint32_t last) {
  const std::uint32_t from = first / 64 * 64, to = last / 64 * 64 + 64;
  if (count_ != 0 && from >= first_ && to <= first_ + count_) return;
  const std::uint32_t begin = count_ == 0 ? from : std::min(from, first_),
                      end = count_ == 0 ? to : std::max(to, first_ + count_);
  std::vector<std::uint64_t> wider((end - begin) / 64, 0);
  std::copy(words_.begin(), words_.end(), wider.begin() + (count_ == 0 ? 0 : (first_ - begin) / 64));
  words_ = std::move(wider);
  first_ = begin, count_ = end - begin;
}

void GlyphBits::add(std::uint32_t first, std::uint32_t last) {
  if (all_ || first > last || last >= kMaxGlyphs) return;
  widen(first, last);
  for (std::uint32_t g = first; g <= last; ++g) {
    words_[(g - first_) / 64] |= std::uint64_t{1} << ((g - first_) % 64);
  }
}

void GlyphBits::add(TableBytes coverage) {
  std::uint32_t least = kMaxGlyphs, most = 0;
  each_range(coverage, [&](std::uint32_t first, std::uint32_t last) {
    least = std::min(least, first), most = std::max(most, last);
  });
  if (all_ || least > most) return;
  widen(least, most);
  std::size_t glyphs = 0;  // ranges of a damaged table may overlap without end
  each_range(coverage, [&](std::uint32_t first, std::uint32_t last) {
    if (first <= last && (glyphs += last - first + 1) <= kMaxGlyphs * 4) add(first, last);
  });
}

std::size_t GlyphBits::count() const {
  if (all_) return kMaxGlyphs;
  std::size_t sum = 0;
  for (const std::uint64_t word : words_) sum += static_cast<std::size_t>(std::popcount(word));
  return sum;
}

void GlyphBits::add(const GlyphBits& other) {
  if (other.all_) add_all();
  if (all_ || other.count_ == 0) return;
  widen(other.first_, other.first_ + other.count_ - 1);
  for (std::size_t w = 0; w < other.words_.size(); ++w) {
    words_[(other.first_ - first_) / 64 + w] |= other.words_[w];
  }
}

FaceLookups::FaceLookups(std::shared_ptr<const GlyphMetrics> metrics) : metrics_(std::move(metrics)) {
  const Face* face = metrics_->face();
  if (face == nullptr) return;
  substitutions_.resize(face->substitutions().lookup_count());
  positions_.resize(face->positions().lookup_count());
  const TableView definitions = view(face->table(tag("GDEF")));
  const GlyphClasses classes(sub_table(definitions, 4)), marks(sub_table(definitions, 10));
  if (!classes.empty()) {
    classes_.resize(face->glyph_count());
    for (const GlyphId g : classes.glyphs()) {
      const std::uint16_t value = classes.class_of(g);
      if (index_of(g) < classes_.size() && value <= 4)
        classes_[index_of(g)] = static_cast<std::uint8_t>(value);
    }
  }
  if (!marks.empty()) {
    mark_classes_.resize(face->glyph_count());
    for (const GlyphId g : marks.glyphs()) {
      if (index_of(g) < mark_classes_.size()) {
        mark_classes_[index_of(g)] = static_cast<std::uint8_t>(std::min<unsigned>(marks.class_of(g), 255));
      }
    }
  }
}

const CompiledLookup& FaceLookups::find(List& list, std::size_t index, bool positions) {
  if (index >= list.size()) return no_lookup;
  if (!list[index]) {
    list[index] = std::make_unique<CompiledLookup>(
        positions ? compile(face()->positions().positioning(index), face()->glyph_count(), bytes_)
                  : compile(face()->substitutions().substitution(index), face()->glyph_count(), bytes_));
  }
  return *list[index];
}

}  // namespace grafema::detail
