// SPDX-License-Identifier: MIT
// Outlines of placed glyphs.
#include "grafema/text/text_outline.hpp"

namespace grafema {

Result<void> outline_text(const FontStack& stack, const Paragraph& paragraph, std::vector<LetterOutline>& out,
                          Notes* notes) {
  const FontStack& faces = paragraph.rich_fonts ? *paragraph.rich_fonts : stack;
  for (const PlacedGlyph& glyph : paragraph.glyphs) {
    if (glyph.face >= faces.size() || faces[glyph.face]->face() == nullptr) {
      return bad_value("a text laid out with faces, which have outlines");
    }
  }
  out.resize(paragraph.glyphs.size());
  for (std::size_t i = 0; i < out.size(); ++i) {
    const PlacedGlyph& glyph = paragraph.glyphs[i];
    const Face& face = *faces[glyph.face]->face();
    Contours& contours = out[i].contours;
    out[i].glyph = static_cast<std::uint32_t>(i);
    if (!face.read_outline(glyph.glyph, contours, paragraph.glyph_size(glyph))) {
      contours.clear();
      if (notes != nullptr) {
        notes->add({.kind = NoteKind::damaged_glyph,
                    .position = index_of(glyph.glyph),
                    .face = faces[glyph.face]->title()});
      }
      continue;
    }
    const float scale = paragraph.glyph_size(glyph) / face.units_per_em(),
                lean = paragraph.faces[glyph.face].lean;
    const PixelPoint at = glyph.origin();
    const bool united = contours.united;
    for (FontPoint& p : contours.points) {
      const FontPoint own{(p.x + p.y * lean) * scale, p.y * scale};
      p = glyph.turned ? FontPoint{own.y + at.x, -own.x - at.y} : FontPoint{own.x + at.x, own.y - at.y};
    }
    contours.united = united;
  }
  return {};
}

void join_letters(const std::vector<LetterOutline>& letters, Contours& out) {
  out.clear();
  for (const LetterOutline& letter : letters) {
    const Contours& c = letter.contours;
    out.commands.insert(out.commands.end(), c.commands.begin(), c.commands.end());
    out.points.insert(out.points.end(), c.points.begin(), c.points.end());
  }
  out.may_overlap = true;
}

}  // namespace grafema
