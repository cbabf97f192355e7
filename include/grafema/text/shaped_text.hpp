// SPDX-License-Identifier: MIT
// Text shaped and ready for lines: a new width redoes only those.
#pragma once

#include <memory>
#include <string_view>

#include "grafema/text/paragraph.hpp"
#include "grafema/text/text_analysis.hpp"

namespace grafema {

/// A glyph as shaping leaves it. Units of its face, y up.
struct ShapedGlyph {
  static constexpr std::uint8_t kNoCutBefore = 1;  ///< text that began with its cluster would look otherwise
  static constexpr std::uint8_t kLigature = 2;     ///< made of several glyphs
  static constexpr std::uint8_t kBroken = 4;       ///< a mark without a letter, or the dotted circle under it

  GlyphId glyph{};
  std::uint32_t cluster = 0;  ///< index of the first character that it shows
  float advance = 0;
  float x = 0, y = 0;  ///< off its pen
  std::uint8_t flags = 0;
  std::uint8_t parts = 1;  ///< of a ligature: how many glyphs it was made of
};

/// A stretch of text of one face, script, language, direction and style.
struct ShapedRun {
  std::uint32_t first = 0, end = 0;              ///< characters
  std::uint32_t first_glyph = 0, end_glyph = 0;  ///< range of ShapedText::glyphs, in the order of the text
  std::uint16_t face = 0;                        ///< index into `fonts`
  std::uint16_t style = 0;                       ///< tells stretches apart that were shaped differently
  std::uint8_t level = 0;                        ///< odd: from right to left
  bool tab = false;                              ///< one tab and no glyph
  bool icon = false;      ///< one icon, with the glyph that shows it or stands for its room
  bool reversed = false;  ///< letters that run against their script's direction (an override)
  /// In vertical lines: glyphs stand upright, one below the other, with vertical advances and offsets from
  /// the line's middle; or they stand upright side by side, as one letter.
  bool upright = false, across = false;
  Tag script{};
};

/// A text with its analysis, runs and glyphs. `set` does all that depends on text, faces, features, language
/// and direction; `lay_out` makes lines of it for any size, width and alignment.
class GRAFEMA_API ShapedText {
 public:
  ShapedText();
  ~ShapedText();
  ShapedText(ShapedText&&) noexcept;
  ShapedText& operator=(ShapedText&&) noexcept;

  /// Fails as `grafema::lay_out` does.
  Result<void> set(const FontStack& stack, std::string_view text, const TextStyle& style, ShapeCache& cache,
                   Notes* notes = nullptr);
  /// The same of a text with spans; see `grafema::lay_out`.
  Result<void> set(const FontStack& stack, const RichText& text, const TextStyle& style, ShapeCache& cache,
                   Notes* notes = nullptr, const FontBook* book = nullptr);
  /// `style` may differ from that of `set` in what `set` does not use: size, width, lines, alignment, tabs,
  /// overflow. Fails with `bad_value` for a style out of its ranges.
  Result<void> lay_out(const TextStyle& style, ShapeCache& cache, Paragraph& out, Notes* notes = nullptr);

  const TextAnalysis& analysis() const;
  const FontStack& fonts() const;  ///< those of all spans
  std::span<const ShapedRun> runs() const;
  std::span<const ShapedGlyph> glyphs() const;

  struct State;
  State& state() { return *state_; }

 private:
  std::unique_ptr<State> state_;
};

}  // namespace grafema
