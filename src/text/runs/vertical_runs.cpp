// SPDX-License-Identifier: MIT
// How letters stand in vertical lines (UAX #50), and digits that stand side by side in them.
#include <unicode/uchar.h>

#include <algorithm>

#include "text/runs/text_state.hpp"

namespace grafema {
namespace {

bool is_digit(char32_t c) { return c >= U'0' && c <= U'9'; }

/// Whether `vert`, or `vrt2` of a face without it, has a glyph for that of the character.
bool find_vertical_form(const Face& face, char32_t c, Tag script) {
  const GlyphId glyph = face.find_glyph(c);
  const LayoutTable& table = face.substitutions();
  const Tag feature = table.has_feature(script, Tag{}, tag("vert")) ? tag("vert") : tag("vrt2");
  for (const std::uint16_t index : table.find_lookups(script, Tag{}, feature)) {
    for (const SubstitutionRule& rule : table.substitution(index).rules) {
      const auto* const single = std::get_if<SingleSubstitution>(&rule);
      if (single != nullptr && single->find(glyph)) return true;
    }
  }
  return false;
}

}  // namespace

void ShapedText::State::take_writing(const TextStyle& style) {
  constexpr std::size_t kMaxAcross = 4;
  writing = style.writing;
  stance = style.stance;
  digits_across = std::min(style.digits_across, kMaxAcross);
  has_script_gaps = style.script_gaps;
  constexpr std::size_t kMaxKnown = 256;
  if (half_widths.size() > kMaxKnown) half_widths.clear();
  if (vertical_forms.size() > kMaxKnown) vertical_forms.clear();
}

bool ShapedText::State::has_vertical_form(std::uint32_t character, const GlyphMetrics& metrics) {
  const Face* const face = metrics.face();
  if (face == nullptr) return false;
  const char32_t c = analysis.characters[character];
  const auto known = std::find_if(vertical_forms.begin(), vertical_forms.end(), [&](const VerticalForm& f) {
    return f.face == metrics.id() && f.character == c;
  });
  if (known != vertical_forms.end()) return known->is_there;
  const bool found = find_vertical_form(*face, c, analysis.scripts[character]);
  vertical_forms.push_back({metrics.id(), c, found});
  return found;
}

bool ShapedText::State::is_upright(std::uint32_t first, const StackFace& face) {
  if (stance != LetterStance::mixed) return stance == LetterStance::upright;
  const char32_t c = analysis.characters[first];
  switch (u_getIntPropertyValue(static_cast<UChar32>(c), UCHAR_VERTICAL_ORIENTATION)) {
    case U_VO_UPRIGHT:
    case U_VO_TRANSFORMED_UPRIGHT:
      return true;
    case U_VO_TRANSFORMED_ROTATED:
      return has_vertical_form(first, *face.metrics);
    default:
      return false;
  }
}

std::uint32_t ShapedText::State::digits_at(std::uint32_t first, std::uint32_t begin,
                                           std::uint32_t end) const {
  if (writing == WritingMode::horizontal || digits_across < 2 || !is_digit(analysis.characters[first]))
    return 0;
  if (first > begin && is_digit(analysis.characters[first - 1])) return 0;
  std::uint32_t last = first;
  while (last < end && is_digit(analysis.characters[last])) ++last;
  const bool alone = last == end || analysis.is(last, TextAnalysis::kCluster);
  const std::uint32_t count = last - first;
  return alone && count >= 2 && count <= digits_across ? count : 0;
}

/// The run's letters side by side in a square of one em, narrowed by the face's features where they are
/// wider.
void ShapedText::State::shape_across(const ShapedRun& run, ShapeCache& cache) {
  const GlyphMetrics& face = *stack()[run.face].metrics;
  const detail::ShapingStyle& s = style(run);
  const float em = face.units_per_em();
  constexpr Tag kNarrow[] = {tag("hwid"), tag("twid"), tag("qwid")};
  std::vector<FeatureSetting> features = s.features;
  detail::WordShaper& shaper = cache.memory().shaper;
  for (bool narrow : {false, true}) {
    if (narrow) features.push_back({kNarrow[std::min<std::size_t>(run.end - run.first, 4) - 2]});
    detail::KeptRecipe& kept =
        shaper.recipe(stack()[run.face].metrics, {run.script, true, false, s.language, features, s.kerning});
    const std::span<const ShapedGlyph> shaped = shaper.shape(kept, word(run, run.first, run.end, false));
    float width = 0;
    for (const ShapedGlyph& glyph : shaped) width += glyph.advance;
    if (!narrow && width > em * 1.05F) continue;
    const FontRect digit = face.glyph_box(face.find_glyph(U'0'));
    float x = -width / 2;
    const float y = -(em + digit.y_max) / 2;
    for (const ShapedGlyph& glyph : shaped) {
      ShapedGlyph placed = glyph;
      placed.cluster = run.first;
      placed.x += x, placed.y += y;
      placed.advance = &glyph == &shaped.back() ? em : 0;  // all of them stand at one pen
      x += glyph.advance;
      glyphs.push_back(placed);
    }
    return;
  }
}

}  // namespace grafema
