// SPDX-License-Identifier: MIT
// Spans made flat: stretches of text, how each is shaped, and what holds for its glyphs.
#pragma once

#include "grafema/text/paragraph.hpp"

namespace grafema::detail {

/// How a stretch is shaped. Lengths are ems of the text's size, y up.
struct ShapingStyle {
  // What differs most often is compared first.
  float scale = 1, raise = 0, tracking = 0;
  std::int32_t icon = -1;  ///< index of the icon that it is the style of
  bool kerning = true;
  bool makes_small_capitals = false;  ///< its small letters have to be made capitals of a smaller size
  bool is_small_capital = false;      ///< it is that smaller size
  LineMetrics line;
  std::string language;
  std::vector<FeatureSetting> features;
  FontStack fonts;
  std::vector<std::uint16_t> faces;  ///< where `fonts` stand in StyleTable::stack
  bool operator==(const ShapingStyle&) const = default;
};

struct StyleSegment {
  std::uint32_t start = 0;  ///< byte; it goes on to the next one
  std::uint16_t shaping = 0, placed = 0;
};

/// Lines along a span.
struct Decoration {
  std::uint32_t start = 0, end = 0;  ///< bytes
  bool underline = false, strike = false, overline = false, skip_descenders = true;
  std::uint16_t shaping = 0, placed = 0;
};

/// The height of capitals in ems; 0 where the face has none.
float cap_height_of(const GlyphMetrics& face);

/// Faces that spans asked for and got: finding a bold reads names, and making one measures strokes.
class RestyledFaces {
 public:
  /// As `restyle`, which is asked once for each question.
  const FontStack& find(const FontStack& root, const FontRequest& request, const FontBook* book,
                        Notes* notes);

 private:
  struct Entry {
    FontStack root;
    FontRequest request;
    std::uint64_t book = 0;
    FontStack made;
    std::vector<Note> notes;
  };
  std::vector<Entry> entries_;
  std::size_t next_ = 0;  ///< the entry that gives way to a new one
};

struct StyleTable {
  FontStack stack;  ///< faces of all styles, those of the text first
  std::vector<ShapingStyle> shaping;
  std::vector<PlacedStyle> placed;
  std::vector<StyleSegment> segments;  ///< at least one, the first from byte 0
  std::vector<Decoration> decorations;
  std::vector<Icon> icons;
  bool has_tracking = false;  ///< of spans
  bool rich = false;

  void set(const FontStack& base, const TextStyle& style);
  void set(const FontStack& base, const TextStyle& style, const RichText& text, const FontBook* book,
           RestyledFaces& restyled, Notes* notes);

  /// The segment that holds a byte.
  std::size_t segment_at(std::uint32_t byte) const {
    const auto after = std::upper_bound(segments.begin(), segments.end(), byte,
                                        [](std::uint32_t b, const StyleSegment& s) { return b < s.start; });
    return static_cast<std::size_t>(after - segments.begin()) - 1;
  }
  /// Turns small letters of stretches that ask for small capitals into capitals of a smaller size, where the
  /// face has no small ones. `bytes` are where the characters begin.
  void make_small_capitals(std::vector<char32_t>& characters, std::span<const std::uint32_t> bytes);

 private:
  struct Around;
  class OpenSpans;
  std::uint16_t add_shaping(ShapingStyle style);
  std::uint16_t add_placed(const PlacedStyle& style);
  std::vector<std::uint16_t> add_faces(const FontStack& fonts);
  StyleSegment segment_of(std::uint32_t start, const Around& around);
  void add_decoration(const Span& span, const Around& around);
  void add_icons(const RichText& text);
  void add_icon(const PlacedIcon& placed);
};

}  // namespace grafema::detail
