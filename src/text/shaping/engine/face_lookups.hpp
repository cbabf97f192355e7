// SPDX-License-Identifier: MIT
// The lookups of one face, compiled when a recipe first uses them: which glyphs each may begin with, as bits.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "font/layout/layout_bytes.hpp"
#include "grafema/font/face.hpp"
#include "text/shaping/engine/shape_buffer.hpp"

namespace grafema::detail {

/// A set of glyphs of which one is asked by a bit.
class GlyphBits {
 public:
  bool test(GlyphId glyph) const {
    const std::uint32_t i = index_of(glyph) - first_;
    return i < count_ ? (words_[i / 64] >> (i % 64) & 1U) != 0 : all_;
  }
  void add(std::uint32_t first, std::uint32_t last);
  void add(TableBytes coverage);
  void add(const GlyphBits& other);
  void add_all() { all_ = true, words_.clear(), first_ = count_ = 0; }
  bool empty() const { return count_ == 0 && !all_; }
  std::size_t count() const;
  std::size_t bytes() const { return words_.size() * sizeof(std::uint64_t); }

 private:
  void widen(std::uint32_t first, std::uint32_t last);

  std::vector<std::uint64_t> words_;
  std::uint32_t first_ = 0, count_ = 0;  // multiples of 64
  bool all_ = false;
};

/// What a subtable of GSUB or GPOS does.
enum class RuleKind : std::uint8_t {
  single,
  multiple,
  alternate,
  ligature,
  context,
  chained_context,
  reverse,
  adjust,
  pair,
  cursive,
  mark_to_base,
  mark_to_ligature,
  mark_to_mark,
};

struct CompiledRule {
  RuleKind kind{};
  TableBytes bytes;
  GlyphBits covered;         ///< what it may begin with
  PositioningRule position;  ///< of GPOS: the rule as it is asked
  /// Of pairs by classes: the row of each glyph (kNoRow where it is not covered) and the column.
  static constexpr std::uint16_t kNoRow = 0xFFFF;
  std::vector<std::uint16_t> rows, columns;
  /// Of contexts by classes: the class of each glyph before, in and after the input. Of contexts by sets: the
  /// sets of all places in the order of the subtable. Empty where they are read from the bytes each time.
  std::array<std::vector<std::uint16_t>, 3> classes;
  std::vector<GlyphBits> sets;
  std::uint8_t before_count = 0, input_count = 0, after_count = 0;  ///< of contexts by sets
  std::uint32_t actions_at = 0, action_count = 0;
};

struct CompiledLookup {
  LookupFlags flags;
  bool ignores = false;  ///< the flags make it pass over glyphs
  std::vector<CompiledRule> rules;
  GlyphBits covered;  ///< what any rule may begin with
  /// What else must stand somewhere in the word for any rule to match, before or in the input and behind it;
  /// all glyphs where that is not known.
  GlyphBits needed, needed_after;
};

/// GSUB and GPOS of a face, as shaping asks them, and what GDEF says of every glyph.
class FaceLookups {
 public:
  explicit FaceLookups(std::shared_ptr<const GlyphMetrics> metrics);

  const GlyphMetrics& metrics() const { return *metrics_; }
  const Face* face() const { return metrics_->face(); }
  /// Compiled when first asked for; empty where the face has no such lookup.
  const CompiledLookup& substitution(std::size_t index) { return find(substitutions_, index, false); }
  const CompiledLookup& positioning(std::size_t index) { return find(positions_, index, true); }

  /// As the metrics have it, remembered for characters above Latin, which those search for.
  GlyphId find_glyph(char32_t character) const {
    if (character < kFirstRemembered) return metrics_->find_glyph(character);
    Remembered& slot = remembered_[character % remembered_.size()];
    if (slot.character != character) slot = {character, metrics_->find_glyph(character)};
    return slot.glyph;
  }

  bool has_classes() const { return !classes_.empty(); }
  GlyphClass class_of(GlyphId glyph) const {
    return index_of(glyph) < classes_.size() ? static_cast<GlyphClass>(classes_[index_of(glyph)])
                                             : GlyphClass::none;
  }
  std::uint8_t mark_class_of(GlyphId glyph) const {
    return index_of(glyph) < mark_classes_.size() ? mark_classes_[index_of(glyph)] : std::uint8_t{0};
  }
  /// Whether the lookup has any rule in which the glyph stands, at whatever place. True where that takes too
  /// long to find out.
  bool touches(bool positions, std::size_t lookup, GlyphId glyph);

 private:
  using List = std::vector<std::unique_ptr<CompiledLookup>>;
  const CompiledLookup& find(List& list, std::size_t index, bool positions);

  static constexpr char32_t kFirstRemembered = 0x250;
  struct Remembered {
    char32_t character = 0;
    GlyphId glyph{};
  };

  std::shared_ptr<const GlyphMetrics> metrics_;
  mutable std::array<Remembered, 512> remembered_;
  std::vector<std::uint8_t> classes_, mark_classes_;
  List substitutions_, positions_;
  std::size_t bytes_ = 0;
};

}  // namespace grafema::detail
