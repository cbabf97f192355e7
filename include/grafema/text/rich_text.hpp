// SPDX-License-Identifier: MIT
// Text with spans that look or stand differently, and with icons between its words.
#pragma once

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/font/font_book.hpp"
#include "grafema/text/text_style.hpp"

namespace grafema {

/// What a span changes; what is left empty stays as it is around the span.
struct SpanStyle {
  FontRequest font = {};                        ///< family, weight, slant
  std::shared_ptr<const FontStack> fonts = {};  ///< or just these faces
  std::optional<float> size = {};               ///< pixels per em
  std::optional<float> cap_height = {};         ///< instead: the height of capitals, pixels
  float scale = 1;                              ///< multiple of the size, or of the size around
  float tracking = 0;                           ///< pixels, on top of the tracking around
  float raise = 0;                              ///< ems above the baseline around; lines keep their places
  std::optional<bool> small_capitals = {};      ///< by `smcp`, else made from capitals and noted
  std::vector<FeatureSetting> features = {};    ///< on top of those around
  std::optional<std::string> language = {};     ///< BCP 47
  bool underline = false, strike = false, overline = false;
  bool skip_descenders = true;         ///< an underline leaves room around letters that cross it
  std::string look = {}, motion = {};  ///< names that labels find in their context
  std::string link = {};               ///< what the game finds the span again by
  bool operator==(const SpanStyle&) const = default;
};

/// Bytes from `start` to before `end`. Spans may hold each other and overlap; later ones count over earlier
/// ones.
struct Span {
  std::uint32_t start = 0, end = 0;
  SpanStyle style = {};
  bool operator==(const Span&) const = default;
};

/// Where an icon stands against its line.
enum class IconAlign : std::uint8_t {
  baseline,    ///< its bottom is on the baseline
  cap_middle,  ///< its middle is that of capitals
  top,         ///< its top is that of the text around
  bottom,
};

/// An icon between words: a glyph of a face, or room in which the game draws a picture of its own. Ems of the
/// text around.
struct Icon {
  std::shared_ptr<const GlyphMetrics> face = {};  ///< null: room alone
  GlyphId glyph{};
  float width = 0;   ///< of the room; 0: the glyph's, or the height where there is no glyph
  float height = 1;  ///< of the glyph's box, above 0
  float raise = 0;   ///< above where it would stand
  IconAlign align = IconAlign::cap_middle;
  bool operator==(const Icon&) const = default;
};

/// The character that an icon stands at: U+FFFC.
constexpr std::string_view kIconCharacter = "\xEF\xBF\xBC";

struct PlacedIcon {
  std::uint32_t position = 0;  ///< the byte of its kIconCharacter
  std::string name = {};
  Icon icon = {};
  bool operator==(const PlacedIcon&) const = default;
};

/// The reveal of a text stands still before `position` for so long.
struct RevealPause {
  std::uint32_t position = 0;  ///< bytes
  float seconds = 0;
  bool operator==(const RevealPause&) const = default;
};

/// UTF-8 text with its spans and icons; positions are bytes.
struct RichText {
  static constexpr std::size_t kMaxSpans = 16384;  ///< more are passed over

  std::string text = {};
  std::vector<Span> spans = {};
  std::vector<PlacedIcon> icons = {};    ///< ascending; a kIconCharacter without one stays a character
  std::vector<RevealPause> pauses = {};  ///< ascending

  RichText() = default;
  explicit RichText(std::string_view plain) : text(plain) {}
  /// Puts words behind what there is; `line.append("Mind the ").append("gap", {.look = "late"})`.
  GRAFEMA_API RichText& append(std::string_view words, const SpanStyle& style = {});
  GRAFEMA_API RichText& append(const Icon& icon, std::string_view name = {});
  /// Another text with its spans, icons and pauses.
  GRAFEMA_API RichText& append(const RichText& other);
  void clear() { text.clear(), spans.clear(), icons.clear(), pauses.clear(); }
  bool plain() const { return spans.empty() && icons.empty(); }
  bool operator==(const RichText&) const = default;
};

}  // namespace grafema
