// SPDX-License-Identifier: MIT
// Extrudes the letters of a paragraph where they stand.
#include "grafema/text/solid_text.hpp"

#include "grafema/text/text_outline.hpp"

namespace grafema {
namespace {

class SolidMaker {
 public:
  SolidMaker(const FontStack& stack, const Paragraph& paragraph, const SolidTextStyle& style, SolidText& out,
             Notes* notes)
      : stack_(paragraph.rich_fonts ? *paragraph.rich_fonts : stack),
        paragraph_(paragraph),
        style_(style),
        out_(out),
        notes_(notes) {
    const float em = paragraph.size;
    solid_.depth = style.depth * em;
    solid_.bevel = {style.bevel_shape, style.bevel * em, style.bevel_height * em, style.bevel_segments,
                    style.bevel_back};
    solid_.sharp_angle = style.sharp_angle;
    solid_.tolerance = style.tolerance * em;
    solid_.scale = style.unit / em;
  }

  Result<void> run() {
    std::vector<LetterOutline> letters;
    if (const Result<void> read = outline_text(stack_, paragraph_, letters, notes_); !read) return read;
    for (LetterOutline& letter : letters) {
      const Result<void> made = add(letter);
      if (!made) return made;
    }
    return {};
  }

 private:
  Result<void> add(LetterOutline& letter) {
    const PlacedGlyph& glyph = paragraph_.glyphs[letter.glyph];
    const Face& face = *stack_[glyph.face]->face();
    const std::vector<ColorLayer> layers =
        style_.colors ? face.color_layers(glyph.glyph) : std::vector<ColorLayer>{};
    const PixelPoint pen = glyph.origin();
    if (layers.empty()) {
      for (FontPoint& p : letter.contours.points) p.x -= pen.x, p.y += pen.y;
      return add_layer(letter.glyph, 0, {}, letter.contours);
    }
    const std::vector<Palette> palettes = face.palettes();
    const float scale = paragraph_.glyph_size(glyph) / face.units_per_em();
    Contours contours;
    for (std::uint32_t i = 0; i < layers.size(); ++i) {
      if (!face.read_outline(layers[i].glyph, contours)) continue;
      for (FontPoint& p : contours.points) {
        p = glyph.turned ? FontPoint{p.y * scale, -p.x * scale} : FontPoint{p.x * scale, p.y * scale};
      }
      const Result<void> made = add_layer(letter.glyph, i, color_of(layers[i].color, palettes), contours);
      if (!made) return made;
    }
    return {};
  }

  static std::optional<Color> color_of(const PaletteColor& wanted, const std::vector<Palette>& palettes) {
    if (palettes.empty() || wanted.entry >= palettes[0].colors.size()) return {};
    Color color = palettes[0].colors[wanted.entry];
    color.alpha *= wanted.alpha;
    return color;
  }

  /// `contours` around the letter's pen.
  Result<void> add_layer(std::uint32_t glyph, std::uint32_t layer, std::optional<Color> color,
                         const Contours& contours) {
    constexpr float kStep = 0.01F;  // ems between color layers
    const PixelPoint pen = paragraph_.glyphs[glyph].origin();
    Solid solid = solid_;
    solid.depth += static_cast<float>(layer) * kStep * paragraph_.size;
    solid.at = {pen.x * solid.scale, -pen.y * solid.scale, 0};
    Notes own(4);
    const std::size_t before = out_.mesh.indices.size();
    if (const Result<void> made = extrude(contours, solid, out_.mesh, &own); !made) return made;
    tell(own);
    if (out_.mesh.indices.size() == before) {
      --out_.mesh.letters;  // a space is no letter
    } else {
      out_.letters.push_back({glyph, layer, solid.at, color});
    }
    return {};
  }

  /// Bevels were asked for in ems, and were made in pixels.
  void tell(const Notes& own) const {
    if (notes_ == nullptr) return;
    for (Note note : own.all()) {
      note.wanted /= paragraph_.size, note.given /= paragraph_.size;
      notes_->add(note);
    }
  }

  const FontStack& stack_;
  const Paragraph& paragraph_;
  const SolidTextStyle& style_;
  SolidText& out_;
  Notes* notes_;
  Solid solid_;
};

}  // namespace

Result<void> make_solid_text(const FontStack& stack, const Paragraph& paragraph, const SolidTextStyle& style,
                             SolidText& out, Notes* notes) {
  out.clear();
  Result<void> made = SolidMaker(stack, paragraph, style, out, notes).run();
  if (!made) out.clear();
  return made;
}

}  // namespace grafema
