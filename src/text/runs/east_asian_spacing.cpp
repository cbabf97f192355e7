// SPDX-License-Identifier: MIT
// Gaps between ideographs and other letters, and punctuation narrowed at the ends of lines (JLREQ).
#include <unicode/uchar.h>

#include <algorithm>

#include "grafema/unicode/characters.hpp"
#include "text/runs/text_state.hpp"

namespace grafema {
namespace {

bool is_wide(char32_t c) {
  const auto width = u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_EAST_ASIAN_WIDTH);
  return width == U_EA_WIDE || width == U_EA_FULLWIDTH;
}
bool is_ideograph(char32_t c) {
  const Tag script = script_of(c);
  return script == tag("hani") || script == tag("kana") || script == tag("hira") || script == tag("bopo");
}
bool is_letter_or_digit(char32_t c) {
  return u_isalnum(static_cast<UChar32>(c)) != 0 && !is_wide(c) && !is_ideograph(c);
}

/// Closing brackets, commas and full stops: their ink stands in the first half of their room.
bool closes_wide(char32_t c) {
  const auto breaks = u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_LINE_BREAK);
  return is_wide(c) && (breaks == U_LB_CLOSE_PUNCTUATION || breaks == U_LB_CLOSE_PARENTHESIS);
}

/// What `halt` (`vhal` in vertical lines) takes from the glyph's advance; without it half an em, where the
/// ink leaves that free.
float narrowed_by(const GlyphMetrics& metrics, GlyphId glyph, Tag script, bool upright) {
  const float em = metrics.units_per_em();
  if (const Face* const face = metrics.face()) {
    const LayoutTable& table = face->positions();
    for (const std::uint16_t index : table.find_lookups(script, Tag{}, upright ? tag("vhal") : tag("halt"))) {
      for (const PositioningRule& rule : table.positioning(index).rules) {
        const auto* const single = std::get_if<SingleAdjustment>(&rule);
        const auto found = single == nullptr ? std::nullopt : single->find(glyph);
        if (found) return std::clamp(-(upright ? found->y_advance : found->x_advance), 0.0F, em);
      }
    }
  }
  const FontRect box = metrics.glyph_box(glyph);
  float advance = 0;
  metrics.advances({&glyph, 1}, {&advance, 1});
  const bool is_free = !upright && !box.empty() && box.x_max <= em * 0.55F && advance >= em * 0.9F;
  return is_free ? em / 2 : 0;
}

}  // namespace

bool ShapedText::State::has_gap_behind(std::uint32_t i) const {
  if (!has_script_gaps || i + 1 >= analysis.characters.size() ||
      !analysis.is(i + 1, TextAnalysis::kCluster)) {
    return false;
  }
  const char32_t a = analysis.characters[i], b = analysis.characters[i + 1];
  const bool across =
      writing != WritingMode::horizontal && (runs[run_of(i)].across || runs[run_of(i + 1)].across);
  if (across) return false;  // digits that stand side by side are as an ideograph
  if (a < 0x80 && b < 0x80) return false;
  return (is_ideograph(a) && is_letter_or_digit(b)) || (is_letter_or_digit(a) && is_ideograph(b));
}

/// Gaps stand behind the last glyph of a cluster. `end` is where the glyphs' characters end.
void ShapedText::State::add_gaps(const ShapedRun& run, std::uint32_t end,
                                 std::span<ShapedGlyph> shaped) const {
  const float gap = kScriptGap / ems(run);
  for (std::size_t g = 0; g < shaped.size(); ++g) {
    const std::uint32_t next = g + 1 < shaped.size() ? shaped[g + 1].cluster : end;
    if (next > shaped[g].cluster && has_gap_behind(next - 1)) shaped[g].advance += gap;
  }
}

float ShapedText::State::room_behind(std::uint32_t i) {
  if (!closes_wide(analysis.characters[i])) return 0;
  const ShapedRun& run = runs[run_of(i)];
  const auto begin = glyphs.begin() + run.first_glyph, end = glyphs.begin() + run.end_glyph;
  const auto glyph = std::find_if(begin, end, [&](const ShapedGlyph& g) { return g.cluster == i; });
  if (run.tab || run.icon || glyph == end) return 0;
  const FaceId face = stack()[run.face]->id();
  const auto known = std::find_if(half_widths.begin(), half_widths.end(), [&](const HalfWidth& h) {
    return h.face == face && h.glyph == glyph->glyph && h.upright == run.upright;
  });
  if (known != half_widths.end()) return known->units * ems(run);
  const float units = narrowed_by(*stack()[run.face].metrics, glyph->glyph, run.script, run.upright);
  half_widths.push_back({face, glyph->glyph, run.upright, units});
  return units * ems(run);
}

}  // namespace grafema
