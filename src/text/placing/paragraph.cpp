// SPDX-License-Identifier: MIT
// What can be asked of a paragraph: boxes, carets, whether a style is in its ranges.
#include "grafema/text/paragraph.hpp"

#include <algorithm>
#include <cmath>
#include <string>

#include "grafema/base/utf8.hpp"
#include "grafema/raster/color_paint.hpp"
#include "text/placing/glyph_room.hpp"

namespace grafema {
namespace {

bool is_finite(const TextStyle& style) {
  const auto all = {style.line_spacing,       style.paragraph_spacing, style.tracking,
                    style.word_spacing,       style.first_indent,      style.indent,
                    style.baseline_shift,     style.min_size,          style.min_tracking,
                    style.leading.value_or(0)};
  return std::all_of(all.begin(), all.end(), [](float v) { return std::isfinite(v) && std::abs(v) <= 1e6F; });
}

/// The box of a glyph's outline, or of its picture in color where that is what the face has.
FontRect painted_box(const GlyphMetrics& metrics, GlyphId glyph, float size) {
  const FontRect plain = metrics.glyph_box(glyph);
  const Face* face = metrics.face();
  if (face == nullptr || (!plain.empty() && face->table(tag("COLR")).empty())) return plain;
  const Result<std::optional<FontRect>> colored = color_box(*face, glyph, size);
  return colored && *colored && !(*colored)->empty() ? **colored : plain;
}

/// Boxes of the glyphs of one paragraph. Long texts repeat their glyphs, and a box is read from the outline.
class PaintedBoxes {
 public:
  PaintedBoxes(const FontStack& fonts, std::size_t glyphs)
      : fonts_(fonts), kept_(glyphs < kFew ? 0 : kKept) {}

  /// In font units.
  FontRect find(std::uint16_t face, GlyphId glyph, float size) {
    const GlyphMetrics& metrics = *fonts_[face].metrics;
    if (kept_.empty()) return painted_box(metrics, glyph, size);
    Kept& kept = kept_[(static_cast<std::uint32_t>(glyph) ^ face * 37U) % kKept];
    if (!kept.known || kept.face != face || kept.glyph != glyph || kept.size != size) {
      kept = {true, face, glyph, size, painted_box(metrics, glyph, size)};
    }
    return kept.box;
  }

 private:
  static constexpr std::size_t kFew = 16, kKept = 256;
  struct Kept {
    bool known = false;
    std::uint16_t face = 0;
    GlyphId glyph{};
    float size = 0;
    FontRect box;
  };

  const FontStack& fonts_;
  std::vector<Kept> kept_;
};

}  // namespace

Result<void> check_style(const TextStyle& style) {
  const auto bad = [](const char* expected, float found) {
    return fail(make_error(ErrorKind::bad_value, expected, std::to_string(found)));
  };
  if (!(style.size >= kMinSize && style.size <= kMaxSize)) {
    return bad("a size of 0.25 to 8192 pixels per em", style.size);
  }
  if (!(style.line_spacing >= 0 && style.line_spacing <= 100)) {
    return bad("a line spacing of 0 to 100", style.line_spacing);
  }
  if (!(std::abs(style.tracking) <= kMaxSize)) {
    return bad("a tracking of at most 8192 pixels", style.tracking);
  }
  if (!is_finite(style)) return bad("lengths of at most a million pixels", std::nanf(""));
  if (style.wrap && !(*style.wrap >= 0)) return bad("a width of 0 or more", *style.wrap);
  if (style.box_height && !(*style.box_height >= 0)) return bad("a height of 0 or more", *style.box_height);
  if (!(style.min_size >= kMinSize)) return bad("a smallest size of 0.25 or more", style.min_size);
  for (const TabStop& stop : style.tabs) {
    if (!std::isfinite(stop.x)) return bad("finite tab stops", stop.x);
  }
  return {};
}

Rect ink_box(const FontStack& stack, const Paragraph& paragraph) {
  return ink_box(stack, paragraph, 0, static_cast<std::uint32_t>(paragraph.glyphs.size()));
}

Rect ink_box(const FontStack& stack, const Paragraph& paragraph, std::uint32_t first_glyph,
             std::uint32_t end_glyph) {
  Rect box;
  const FontStack& fonts = paragraph.rich_fonts ? *paragraph.rich_fonts : stack;
  const std::size_t end = std::min<std::size_t>(end_glyph, paragraph.glyphs.size());
  PaintedBoxes boxes(fonts, end - std::min<std::size_t>(first_glyph, end));
  for (std::size_t g = first_glyph; g < end; ++g) {
    const PlacedGlyph& glyph = paragraph.glyphs[g];
    const float size = paragraph.glyph_size(glyph);
    const float scale = size / fonts[glyph.face].metrics->units_per_em();
    Rect own = to_pixels(boxes.find(glyph.face, glyph.glyph, size), scale);
    if (own.empty()) continue;
    const PlacedFace& made = paragraph.faces[glyph.face];
    own = own.grown(made.grow * size);
    const float low = own.bottom * made.lean, high = own.top * made.lean;
    own.left -= std::max(low, high), own.right -= std::min(low, high);
    if (glyph.turned) own = {-own.bottom, own.left, -own.top, own.right};
    box = enclosing(box, own.moved(glyph.origin()));
  }
  for (const PlacedBar& bar : paragraph.bars) {
    if (first_glyph == 0 && end_glyph >= paragraph.glyphs.size()) box = enclosing(box, bar.box);
  }
  return box;
}

Rect line_box(const Line& line) {
  return {line.left, line.top, line.left + line.width, line.top + line.height};
}

void range_boxes(const Paragraph& paragraph, std::uint32_t start, std::uint32_t end, std::vector<Rect>& out) {
  out.clear();
  constexpr float kTouching = 1.0F / 64;
  for (const Line& line : paragraph.lines) {
    bool open = false;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      const PlacedGlyph& glyph = paragraph.glyphs[g];
      const bool inside = glyph.text_start < end && std::max(glyph.text_end, glyph.text_start + 1) > start;
      if (!inside) {
        open = open && glyph.advance == 0;
        continue;
      }
      const bool down = paragraph.writing != WritingMode::horizontal;
      const Rect box = detail::glyph_room(paragraph, line, glyph);
      if (open && down && std::abs(out.back().bottom - box.top) <= kTouching) {
        out.back().bottom = box.bottom;
      } else if (open && !down && std::abs(out.back().right - box.left) <= kTouching) {
        out.back().right = box.right;
      } else {
        out.push_back(box);
      }
      open = true;
    }
  }
}

void caret_stops(const Paragraph& paragraph, std::string_view text, std::vector<CaretStop>& out) {
  out.clear();
  const bool down = paragraph.writing != WritingMode::horizontal;
  const auto along = [down](const PlacedGlyph& glyph) { return down ? glyph.pen.y : glyph.pen.x; };
  for (std::size_t l = 0; l < paragraph.lines.size(); ++l) {
    const Line& line = paragraph.lines[l];
    const auto number = static_cast<std::uint32_t>(l);
    if (line.first_glyph == line.end_glyph) {
      out.push_back({line.start, down ? line.top : line.left, number, line.right_to_left});
      continue;
    }
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph;) {
      const PlacedGlyph& glyph = paragraph.glyphs[g];
      const bool rtl = glyph.level % 2 != 0;
      const float left = along(glyph);
      float right = left;
      std::uint32_t parts = 0;
      for (; g < line.end_glyph && paragraph.glyphs[g].text_start == glyph.text_start; ++g) {
        right = std::max(right, along(paragraph.glyphs[g]) + paragraph.glyphs[g].advance);
        parts = std::max<std::uint32_t>(parts, paragraph.glyphs[g].parts);
      }
      // A ligature of as many letters as it has characters can be entered between them.
      std::vector<std::uint32_t> inside;
      for (std::size_t at = glyph.text_start; parts > 1 && at < glyph.text_end && at < text.size();) {
        if (at != glyph.text_start) inside.push_back(static_cast<std::uint32_t>(at));
        at += decode_utf8(text, at).length;
      }
      if (inside.size() + 1 != parts) inside.clear();
      const auto at = [&](std::size_t i) {
        return left + (right - left) * static_cast<float>(i) / static_cast<float>(inside.size() + 1);
      };
      out.push_back({rtl ? glyph.text_end : glyph.text_start, left, number, rtl});
      for (std::size_t i = 0; i < inside.size(); ++i) {
        out.push_back({rtl ? inside[inside.size() - 1 - i] : inside[i], at(i + 1), number, rtl});
      }
      out.push_back({rtl ? glyph.text_start : glyph.text_end, right, number, rtl});
    }
  }
}

}  // namespace grafema
