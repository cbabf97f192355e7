// SPDX-License-Identifier: MIT
// Text laid out: where every glyph goes.
#pragma once

#include <cstdint>
#include <memory>
#include <string_view>
#include <vector>

#include "grafema/base/notes.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/text/text_style.hpp"

namespace grafema {

/// One glyph at its pen. Pixels, y down, origin at the top left of the paragraph's box.
struct PlacedGlyph {
  std::uint16_t face = 0;  ///< index into the FontStack
  GlyphId glyph{};
  std::uint32_t text_start = 0;  ///< the byte where its grapheme cluster begins
  PixelPoint pen;                ///< on the baseline
  float advance = 0;             ///< as placed: kerning and tracking included
  bool operator==(const PlacedGlyph&) const = default;
};

struct Line {
  std::uint32_t start = 0, end = 0;              ///< bytes, with the line break that ends it
  std::uint32_t first_glyph = 0, end_glyph = 0;  ///< range of Paragraph::glyphs
  float left = 0, baseline = 0, width = 0;       ///< pixels
  bool operator==(const Line&) const = default;
};

/// Refilled by `lay_out`; keeps its capacity.
struct Paragraph {
  std::vector<PlacedGlyph> glyphs;  ///< in visual order, line by line
  std::vector<Line> lines;          ///< at least one
  Rect advance_box;                 ///< 0, 0, width of the widest line, first ascent to last descent
  float size = 0, ascent = 0, descent = 0, line_height = 0;
  std::vector<float> face_scales;  ///< StackFace::scale of each face, as laid out with

  /// Pixels per em of a face's glyphs.
  float face_size(std::size_t face) const {
    return face < face_scales.size() ? size * face_scales[face] : size;
  }
};

/// What layout remembers between calls: working memory and opened Unicode services. Belongs to one thread.
class GRAFEMA_API ShapeCache {
 public:
  ShapeCache();
  ~ShapeCache();
  ShapeCache(ShapeCache&&) noexcept;
  ShapeCache& operator=(ShapeCache&&) noexcept;

  struct Memory;
  Memory& memory() { return *memory_; }

 private:
  std::unique_ptr<Memory> memory_;
};

/// Whether `lay_out` takes the style. Fails with `bad_value`.
GRAFEMA_API Result<void> check_style(const TextStyle& style);

/// Lays `text` (UTF-8, below 2^31 bytes) out in lines that end at its line breaks. A byte that is not UTF-8
/// stands as U+FFFD and is noted, as are characters that no face has; they show the first face's
/// missing-glyph shape. Controls and other invisible characters take no room; a tab takes that of four
/// spaces. Fails with `bad_value` for an empty stack or a style out of its ranges.
GRAFEMA_API Result<void> lay_out(const FontStack& stack, std::string_view text, const TextStyle& style,
                                 ShapeCache& cache, Paragraph& out, Notes* notes = nullptr);

/// The bounds of what a plain fill paints, in the paragraph's pixels; empty where it paints nothing.
GRAFEMA_API Rect ink_box(const FontStack& stack, const Paragraph& paragraph);

}  // namespace grafema
