// SPDX-License-Identifier: MIT
// How text is laid out: size, features, language, lines, alignment, tabs, overflow.
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "grafema/base/tag.hpp"

namespace grafema {

/// Where lines stand in the box, or against the widest of them where there is none. `start` and `end` follow
/// the direction of the line's paragraph. `justify` widens spaces, and gaps between CJK characters, until
/// lines fill the box; the last line of a paragraph stands at its start.
enum class TextAlign : std::uint8_t { left, center, right, start, end, justify };

/// Where the lines stand in a box of `TextStyle::box_height`; without such a height all but `baseline` are
/// `top`.
enum class VerticalAlign : std::uint8_t {
  top,
  middle,
  cap_middle,  ///< capitals and digits look centered
  bottom,
  baseline,  ///< the first baseline is the box's top
};

/// `automatic`: by the first letter that has a direction, paragraph by paragraph (UAX #9, rules P2 and P3).
enum class TextDirection : std::uint8_t { automatic, left_to_right, right_to_left };

/// How lines run (CSS Writing Modes 4, `writing-mode`). Vertical lines run from top to bottom; the first
/// stands at the right side of the box, or at its left side, as Mongolian has it.
enum class WritingMode : std::uint8_t { horizontal, vertical_rl, vertical_lr };
/// How letters stand in vertical lines: `mixed` as their scripts have it (UAX #50), Latin on its side.
enum class LetterStance : std::uint8_t { mixed, upright, sideways };

/// How CJK lines may end (CSS Text 3, `line-break`). `anywhere` is `normal`, and a word wider than its line
/// is broken between clusters.
enum class LineBreaking : std::uint8_t { normal, strict, loose, anywhere };

/// What happens to text that its box does not hold.
enum class Overflow : std::uint8_t {
  show,      ///< it stands out of the box, and a note names the box that would have fitted
  clip,      ///< lines and clusters that stand out are left out; the same note
  ellipsis,  ///< an ellipsis stands for what is left out; the same note where that does not fit either
  smaller,   ///< a smaller size, down to TextStyle::min_size
  tighten,   ///< letters closer, down to TextStyle::min_tracking
};
enum class EllipsisPlace : std::uint8_t { end, middle, start };

enum class TabAlign : std::uint8_t { left, right, center, decimal };
struct TabStop {
  float x = 0;  ///< pixels from the line's start edge
  TabAlign align = TabAlign::left;
  bool operator==(const TabStop&) const = default;
};

/// A feature by its OpenType tag: 0 turns it off, 1 on, more chooses an alternate. It may hold for a range of
/// bytes alone.
struct FeatureSetting {
  static constexpr std::uint32_t kToTheEnd = 0xFFFFFFFF;
  Tag tag{};
  std::uint32_t value = 1;
  std::uint32_t start = 0, end = kToTheEnd;
  bool operator==(const FeatureSetting&) const = default;
};

/// Lengths are pixels, x right, y down.
struct TextStyle {
  float size = 32.0F;  ///< pixels per em, kMinSize to kMaxSize
  TextAlign align = TextAlign::start;
  VerticalAlign vertical_align = VerticalAlign::top;
  float line_spacing = 1.0F;  ///< multiple of the natural line height (ascent, descent and gap), 0..100
  std::optional<float> leading = {};  ///< instead: from baseline to baseline
  float paragraph_spacing = 0;        ///< more between a line that ends at a hard break and the next
  float tracking = 0.0F;   ///< pixels between clusters, none behind the last of a line, and none between
                           ///< letters of scripts whose words are joined, such as Arabic (CSS Text 3)
  float word_spacing = 0;  ///< added to every space between words
  float first_indent = 0, indent = 0;  ///< room before the first line of a paragraph, and before its others
  float baseline_shift = 0;            ///< moves glyphs up, their boxes with them; lines keep their places
  bool kerning = true;

  std::vector<FeatureSetting> features = {};  ///< later ones count over earlier ones
  std::string language = {};                  ///< BCP 47; empty: none
  TextDirection direction = TextDirection::automatic;

  WritingMode writing = WritingMode::horizontal;
  LetterStance stance = LetterStance::mixed;  ///< in vertical lines
  std::size_t digits_across = 0;  ///< in vertical lines: so many digits and fewer stand side by side, up to 4

  /// The box's width: lines end where they would be wider. In vertical lines its height.
  std::optional<float> wrap = {};
  std::optional<float> box_height = {};  ///< the box's height; in vertical lines its width
  LineBreaking breaking = LineBreaking::normal;
  bool halve_ends = false;   ///< full-width punctuation at the end of a line takes half its width (`halt`)
  bool script_gaps = false;  ///< a quarter of an em between ideographs and letters or digits of other scripts
  bool balance = false;      ///< as many lines as needed, of about equal widths
  bool keep_last_words = false;  ///< no paragraph ends in a line of one word, where it has another line
  std::size_t max_lines = 0;     ///< 0: as many as there are
  bool justify_last = false;     ///< `justify` widens the last line of a paragraph too

  Overflow overflow = Overflow::show;
  EllipsisPlace ellipsis = EllipsisPlace::end;
  float min_size = 6;          ///< the smallest size that Overflow::smaller takes, pixels per em
  float min_tracking = -1.5F;  ///< the least tracking that Overflow::tighten takes, pixels

  std::vector<std::string> reserve = {};  ///< lines are never narrower than these texts
  std::vector<TabStop> tabs = {};         ///< ascending; behind the last one tabs stand at every fourth space
  bool operator==(const TextStyle&) const = default;
};

}  // namespace grafema
