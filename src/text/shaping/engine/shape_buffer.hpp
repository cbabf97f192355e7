// SPDX-License-Identifier: MIT
// The glyphs of a word while they are shaped: a list with a gap, so that replacing costs what it replaces.
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "grafema/font/layout_tables.hpp"

namespace grafema::detail {

/// How an item hangs on another one.
enum class Attachment : std::uint8_t { none, mark, cursive };

/// A glyph on its way, in the order of the text.
struct ShapeItem {
  static constexpr std::uint8_t kIgnorable = 1;  ///< shows nothing unless a lookup makes it
  static constexpr std::uint8_t kZwj = 2, kZwnj = 4;
  static constexpr std::uint8_t kSubstituted = 8;  ///< a lookup has put it here
  static constexpr std::uint8_t kLigated = 16;     ///< made of several glyphs
  static constexpr std::uint8_t kMultiplied = 32;  ///< one of several made from one
  static constexpr std::uint8_t kNoCutBefore =
      64;                                     ///< would look otherwise if the text began with its cluster
  static constexpr std::uint8_t kMark = 128;  ///< its character is a nonspacing mark

  char32_t character = 0;
  GlyphId glyph{};
  std::uint32_t cluster = 0;   ///< index of the first character that it shows
  std::uint32_t features = 1;  ///< bits of the recipe; bit 0 is set for all
  GlyphClass kind{};
  std::uint8_t mark_class = 0, flags = 0;
  std::uint8_t combining = 0;  ///< class by which marks are ordered
  /// Parts of ligatures: the ligature that it is (`parts` of them) or that it stands on (at `part`, from 1).
  std::uint16_t ligature = 0;
  std::uint8_t part = 0, parts = 1;
  Attachment attachment{};
  std::int32_t attached = 0;  ///< where the item stands that it hangs on, counted from itself
  /// Of scripts that are shaped by syllables: the class of the character and the place that it wants (see
  /// the script's rules), and which syllable it is part of: a number and the kind; 0 where it is of none.
  std::uint8_t category = 0, place = 0;
  std::uint16_t syllable = 0;
  bool is_made_space = false;  ///< the face's U+0020 stands in for `character`, another space
  bool is_broken = false;      ///< a mark that has no letter, or the dotted circle that stands in for one
  float advance = 0, x = 0, y = 0;

  bool is(std::uint8_t flag) const { return (flags & flag) != 0; }
};

/// Items with a gap where the last replacement was made.
class ShapeBuffer {
 public:
  void clear() { items_.clear(), gap_at_ = gap_ = 0, largest_ = 0; }
  void add(const ShapeItem& item) { items_.push_back(item); }

  std::size_t size() const { return items_.size() - gap_; }
  ShapeItem& operator[](std::size_t i) { return items_[i < gap_at_ ? i : i + gap_]; }
  const ShapeItem& operator[](std::size_t i) const { return items_[i < gap_at_ ? i : i + gap_]; }

  /// How many items the buffer may grow to; beyond, `replace` refuses.
  void set_limit(std::size_t items) { largest_ = items; }
  /// Puts `with` in the place of `count` items. `with` must not be part of the buffer.
  bool replace(std::size_t at, std::size_t count, std::span<const ShapeItem> with);
  /// The items side by side.
  std::span<ShapeItem> close_gap();

  /// Makes one cluster of all that touch the range.
  void join_clusters(std::size_t first, std::size_t end);
  /// No cluster in the range but its first may begin a text of its own.
  void keep_together(std::size_t first, std::size_t end);

 private:
  void move_gap(std::size_t at);

  std::vector<ShapeItem> items_;
  std::size_t gap_at_ = 0, gap_ = 0, largest_ = 0;
};

}  // namespace grafema::detail
