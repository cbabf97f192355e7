// SPDX-License-Identifier: MIT
// Chooses glyphs for characters and sizes their cells.
#include "atlas/select.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "grafema/font_stack.hpp"

namespace grafema::detail {
namespace {

using Key = std::pair<std::size_t, std::uint32_t>;  // face, glyph
using Chosen = std::map<Key, std::vector<char32_t>>;

void choose_all(const AtlasRecipe& recipe, Chosen& chosen) {
  for (std::size_t face = 0; face < recipe.faces.size(); ++face) {
    for (std::uint32_t glyph = 0; glyph < recipe.faces[face]->glyph_count(); ++glyph) chosen[{face, glyph}];
    for (const auto& [character, glyph] : recipe.faces[face]->characters()) {
      chosen[{face, index_of(glyph)}].push_back(character);
    }
  }
}

void choose_characters(const AtlasRecipe& recipe, Chosen& chosen, Notes* notes) {
  FontStack stack;
  stack.faces.assign(recipe.faces.begin(), recipe.faces.end());
  for (const char32_t character : recipe.characters) {
    const FontStack::Found found = stack.find(character);
    if (found.glyph != kMissingGlyph) {
      chosen[{found.face, index_of(found.glyph)}].push_back(character);
    } else if (notes != nullptr && !is_invisible(character)) {
      notes->add({.kind = NoteKind::missing_character, .character = character});
    }
  }
}

}  // namespace

Selection select_glyphs(const AtlasRecipe& recipe, Notes* notes) {
  Chosen chosen;
  chosen[{0, index_of(kMissingGlyph)}];
  if (recipe.all_glyphs) {
    choose_all(recipe, chosen);
  } else {
    choose_characters(recipe, chosen, notes);
  }
  Selection selection;
  Contours outline;
  for (auto& [key, characters] : chosen) {
    if (selection.faces.empty() || selection.faces.back() != key.first) selection.faces.push_back(key.first);
    std::sort(characters.begin(), characters.end());
    characters.erase(std::unique(characters.begin(), characters.end()), characters.end());
    AtlasGlyph glyph;
    glyph.strike = selection.faces.size() - 1;
    glyph.glyph = GlyphId{key.second};
    glyph.codepoints = std::move(characters);
    const Result<void> read_in = recipe.faces[key.first]->read_outline(glyph.glyph, outline);
    if (!read_in && notes != nullptr) notes->add({.kind = NoteKind::damaged_glyph, .position = key.second});
    selection.boxes.push_back(read_in ? bounds(outline) : FontRect{});
    selection.glyphs.push_back(std::move(glyph));
  }
  return selection;
}

void size_cells(const AtlasRecipe& recipe, float size, Selection& selection) {
  const double around = recipe.kind == PictureKind::distance ? recipe.reach : std::ceil(recipe.padding);
  for (std::size_t i = 0; i < selection.glyphs.size(); ++i) {
    AtlasGlyph& glyph = selection.glyphs[i];
    const FontRect& box = selection.boxes[i];
    const Face& face = *recipe.faces[selection.faces[glyph.strike]];
    const double scale = double{size} / face.units_per_em();
    glyph.advance = static_cast<float>(face.advance(glyph.glyph) * scale);
    glyph.cell = {};
    if (box.empty() || !(box.x_max > box.x_min && box.y_max > box.y_min)) continue;
    // A coverage cell is the rounded box and its padding; a distance cell is the box and its reach, rounded.
    const bool rounds_first = recipe.kind == PictureKind::coverage;
    const auto low = [&](double v) { return rounds_first ? std::floor(v) - around : std::floor(v - around); };
    const auto high = [&](double v) { return rounds_first ? std::ceil(v) + around : std::ceil(v + around); };
    const double left = low(box.x_min * scale), top = low(-box.y_max * scale);
    glyph.offset = {static_cast<float>(left), static_cast<float>(top)};
    glyph.cell.width = static_cast<int>(high(box.x_max * scale) - left);
    glyph.cell.height = static_cast<int>(high(-box.y_min * scale) - top);
  }
}

}  // namespace grafema::detail
