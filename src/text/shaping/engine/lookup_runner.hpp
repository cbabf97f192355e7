// SPDX-License-Identifier: MIT
// Applies lookups of GSUB and GPOS to the glyphs of a word (OpenType, chapter 2, "lookups").
#pragma once

#include <array>
#include <optional>

#include "text/shaping/engine/face_lookups.hpp"

namespace grafema::detail {

/// A lookup as a recipe wants it: for which glyphs, and with which value of its feature.
struct ChosenLookup {
  /// The value of `rand`: an alternate by the word and the place in it.
  static constexpr std::uint32_t kAnyAlternate = 0xFFFFFFFF;

  std::uint16_t lookup = 0;
  std::uint32_t mask = 1;          ///< it begins only at glyphs that have one of these bits
  std::uint32_t value = 1;         ///< which alternate, from 1
  bool keeps_joiners = false;      ///< a zero width joiner between glyphs stops a match
  bool keeps_non_joiners = false;  ///< a zero width non-joiner does, in contexts too
  bool within_syllable = false;    ///< what is of another syllable stops a match
  const CompiledLookup* compiled = nullptr;
};

/// All lookups of GSUB or GPOS that a recipe takes, in the order in which they are applied: stage by stage,
/// ascending within a stage (OpenType, chapter 2, "lookup order").
struct LookupRow {
  std::vector<ChosenLookup> lookups;
  bool positions = false;

  /// Adds to `out` (three lists of `mask_words`, a bit a lookup) the lookups that may begin with the glyph,
  /// and those that need one as it in their input or behind. Remembers them, so that a glyph costs one look
  /// from the second time on.
  void add_mask(GlyphId glyph, std::vector<std::uint64_t>& out);
  std::size_t mask_words() const { return (lookups.size() + 63) / 64; }

 private:
  std::vector<std::uint32_t> mask_of_;  ///< by glyph: 1 + index of its words in `masks_`; 0: not known yet
  std::vector<std::uint64_t> masks_;
};

/// What is between `apply_at` and the rule that it applies.
struct LookupCall {
  const CompiledLookup& lookup;
  const ChosenLookup& chosen;
  int depth = 0;
};

class LookupRunner {
 public:
  /// `left_to_right` says to which side the text runs.
  LookupRunner(FaceLookups& face, ShapeBuffer& buffer, bool left_to_right, std::vector<std::uint64_t>& memory)
      : face_(face), buffer_(buffer), left_to_right_(left_to_right), wanted_(memory) {
    steps_ = kStepsAtLeast + buffer.size() * kStepsEach;
  }

  /// Glyphs stand one below the other: what moves advances moves them in that direction.
  void set_upright(bool upright) { upright_ = upright; }

  /// What `kAnyAlternate` chooses by.
  void set_seed(std::uint64_t seed) { seed_ = seed; }

  /// Applies all lookups that may begin with any glyph of the buffer, one after the other. Those of GPOS move
  /// glyphs in font units, y up.
  void run(LookupRow& row) { run(row, 0, row.lookups.size()); }
  /// The same with the lookups from `first` to `end` of the row.
  void run(LookupRow& row, std::size_t first, std::size_t end);
  /// Applies one lookup, with no thought of what it may begin with.
  void run_lookup(const ChosenLookup& chosen);
  /// Whether work was left out because a hostile face asked for too much.
  bool gave_up() const { return steps_ == 0; }

 private:
  static constexpr std::size_t kStepsAtLeast = 1'000'000, kStepsEach = 1000;
  static constexpr std::size_t kMaxPlaces = 64, kMaxSkipped = 1024;
  static constexpr int kMaxDepth = 8;
  static constexpr std::size_t kNone = ~std::size_t{0};

  enum class Pass : std::uint8_t { stop, unless_it_matches, over };
  /// The places that one rule matched, ascending.
  struct Matched {
    Matched() {
    }  // NOLINT: only the first `count` places are ever read, and clearing 64 costs more than matching
    std::array<std::size_t, kMaxPlaces> places;
    std::size_t count = 0, end = 0;
  };
  /// A part of a context: numbers in the rule that stand for glyphs, classes or sets.
  struct Places {
    TableView rule;
    std::size_t at = 0, count = 0;
    std::uint16_t format = 0;
    GlyphClasses classes;                                       ///< format 2
    TableView sets;                                             ///< format 3: where offsets count from
    const std::vector<std::uint16_t>* known_classes = nullptr;  ///< the same, compiled
    bool matches(std::size_t place, GlyphId glyph) const;
  };

  bool spend(std::size_t steps) {
    steps_ -= std::min(steps_, steps);
    return steps_ > 0;
  }
  bool begins_at(const CompiledLookup& lookup, const ChosenLookup& chosen, const ShapeItem& item) const {
    return (item.features & chosen.mask) != 0 && lookup.covered.test(item.glyph) &&
           pass(item, lookup.ignores ? &lookup.flags : nullptr, chosen, false) != Pass::over;
  }
  void run_forward(const CompiledLookup& lookup, const ChosenLookup& chosen);

  /// `flags`: null where they make it pass over nothing.
  Pass pass(const ShapeItem& item, const LookupFlags* flags, const ChosenLookup& chosen, bool context) const {
    if (flags != nullptr && ignores(item, *flags)) return Pass::over;
    return item.is(ShapeItem::kIgnorable) ? pass_ignorable(item, chosen, context) : Pass::stop;
  }
  bool ignores(const ShapeItem& item, const LookupFlags& flags) const;
  Pass pass_ignorable(const ShapeItem& item, const ChosenLookup& chosen, bool context) const;
  bool is_beyond(const ShapeItem& item) const { return syllable_ != 0 && item.syllable != syllable_; }
  /// The nearest item after or before `at` for which `accepts` holds, passing over what the lookup does not
  /// see; kNone where another one comes first.
  template <class Accepts>
  std::size_t next(std::size_t at, const LookupCall& call, bool context, Accepts accepts) const;
  template <class Accepts>
  std::size_t previous(std::size_t at, const LookupFlags* flags, const ChosenLookup& chosen,
                       Accepts accepts) const;
  template <class Accepts>
  std::size_t previous(std::size_t at, const LookupCall& call, Accepts accepts) const {
    return previous(at, call.lookup.ignores ? &call.lookup.flags : nullptr, call.chosen, accepts);
  }

  /// Where the lookup goes on after it was applied at `at`; nothing where no rule of it applies.
  std::optional<std::size_t> apply_at(const LookupCall& call, std::size_t at);
  std::optional<std::size_t> apply_rule(const LookupCall& call, const CompiledRule& rule, std::size_t at);

  std::optional<std::size_t> apply_single(const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_multiple(const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_alternate(const LookupCall& call, const CompiledRule& rule,
                                             std::size_t at);
  std::optional<std::size_t> apply_ligature(const LookupCall& call, const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_reverse(const LookupCall& call, const CompiledRule& rule, std::size_t at);
  void put(ShapeItem& item, GlyphId glyph, std::optional<GlyphClass> guess);
  void join(const Matched& matched, GlyphId ligature);

  std::optional<std::size_t> apply_context(const LookupCall& call, const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_sets(const LookupCall& call, const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_context_rule(const LookupCall& call, std::size_t at, const Places& before,
                                                const Places& input, const Places& after, TableView actions,
                                                std::size_t actions_at);
  /// Whether items after `at` match; kNone or the index behind the last.
  bool match_input(const LookupCall& call, std::size_t at, const Places& input, Matched& out);
  std::size_t match_after(const LookupCall& call, std::size_t last, const Places& after);
  std::size_t match_before(const LookupCall& call, std::size_t at, const Places& before);
  void act(const LookupCall& call, Matched& matched, TableView rule, std::size_t at);

  std::optional<std::size_t> apply_adjust(const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_pair(const LookupCall& call, const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_cursive(const LookupCall& call, const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_mark_to_base(const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_mark_to_ligature(const CompiledRule& rule, std::size_t at);
  std::optional<std::size_t> apply_mark_to_mark(const LookupCall& call, const CompiledRule& rule,
                                                std::size_t at);
  std::size_t base_before(std::size_t at);
  bool attach(const CompiledRule& rule, std::size_t mark, std::size_t base, std::uint16_t part);

  FaceLookups& face_;
  ShapeBuffer& buffer_;
  bool left_to_right_, positions_ = false, upright_ = false;
  std::uint64_t seed_ = 0;
  std::uint16_t last_ligature_ = 0;
  std::size_t steps_ = 0;
  std::uint16_t syllable_ = 0;                        ///< the only one that the lookup sees; 0: all
  std::size_t looked_until_ = 0, last_base_ = kNone;  ///< of marks: where bases were looked for
  LookupRow* row_ = nullptr;
  std::vector<std::uint64_t>& wanted_;  ///< the row's lookups that glyphs of the buffer may begin
  std::vector<ShapeItem> made_;
};

template <class Accepts>
std::size_t LookupRunner::next(std::size_t at, const LookupCall& call, bool context, Accepts accepts) const {
  const std::size_t end = std::min(buffer_.size(), at + 1 + kMaxSkipped);
  for (std::size_t i = at + 1; i < end; ++i) {
    const ShapeItem& item = buffer_[i];
    if (is_beyond(item)) return kNone;
    const Pass how = pass(item, call.lookup.ignores ? &call.lookup.flags : nullptr, call.chosen, context);
    if (how == Pass::over) continue;
    if (accepts(item)) return i;
    if (how == Pass::stop) return kNone;
  }
  return kNone;
}

template <class Accepts>
std::size_t LookupRunner::previous(std::size_t at, const LookupFlags* flags, const ChosenLookup& chosen,
                                   Accepts accepts) const {
  for (std::size_t i = at; i-- > 0 && at - i <= kMaxSkipped;) {
    const ShapeItem& item = buffer_[i];
    if (is_beyond(item)) return kNone;
    const Pass how = pass(item, flags, chosen, true);
    if (how == Pass::over) continue;
    if (accepts(item)) return i;
    if (how == Pass::stop) return kNone;
  }
  return kNone;
}

}  // namespace grafema::detail
