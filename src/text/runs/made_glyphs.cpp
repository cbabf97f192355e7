// SPDX-License-Identifier: MIT
// Glyphs that shaping does not make: icons, and letters of a made bold, which are wider.
#include "text/runs/text_state.hpp"

namespace grafema {

/// Letters of a made bold stand as far apart as drawn ones: each is wider by what it is grown.
void ShapedText::State::widen(const ShapedRun& run, std::span<ShapedGlyph> shaped) const {
  const StackFace& face = stack()[run.face];
  if (face.grow == 0 || !face.widens) return;
  const float by = face.grow * face->units_per_em();
  for (ShapedGlyph& glyph : shaped) {
    if (glyph.advance > 0) {
      glyph.advance += 2 * by;
      glyph.x += by;
    } else {  // a mark stays where it was on its letter
      glyph.x += run.level % 2 == 0 ? -by : by;
    }
  }
}

/// A glyph as wide as the icon's room, where there is one to be shown; else the face's space.
void ShapedText::State::shape_icon(ShapedRun& run) {
  const detail::ShapingStyle& s = style(run);
  const Icon& icon = styles.icons[static_cast<std::size_t>(s.icon)];
  const GlyphMetrics& face = *stack()[run.face].metrics;
  ShapedGlyph glyph;
  glyph.cluster = run.first;
  glyph.glyph = icon.face ? icon.glyph : face.find_glyph(U' ');
  glyph.advance = icon.width / ems(run);
  if (icon.face) {
    float own = 0;
    face.advances(std::span(&glyph.glyph, 1), std::span(&own, 1));
    glyph.x = (glyph.advance - own) / 2;
  }
  glyphs.push_back(glyph);
  run.end_glyph = static_cast<std::uint32_t>(glyphs.size());
}

}  // namespace grafema
