// SPDX-License-Identifier: MIT
// Chooses glyphs for characters and sizes their cells.
#include "atlas/select.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "font/layout/related_characters.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/font/reachable.hpp"
#include "grafema/raster/color_paint.hpp"
#include "grafema/unicode/characters.hpp"
#include "unicode/spaces.hpp"

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
  for (const auto& face : recipe.faces) stack.add(face);
  std::vector<std::vector<char32_t>> of_face(recipe.faces.size());
  for (const char32_t character : recipe.characters) {
    FontStack::Found found = stack.find(character);
    if (found.glyph == kMissingGlyph &&
        detail::is_made_space(character)) {  // shaping makes it from the space
      found = stack.find(U' ');
      if (found.glyph != kMissingGlyph) {
        for (const char32_t part :
             {U' ', character == 0x2007 ? U'0' : U' ', character == 0x2008 ? U'.' : U' '}) {
          const GlyphId glyph = recipe.faces[found.face]->find_glyph(part);
          if (glyph != kMissingGlyph) chosen[{found.face, index_of(glyph)}].push_back(part);
        }
        of_face[found.face].push_back(character);
        continue;
      }
    }
    if (found.glyph != kMissingGlyph) {
      chosen[{found.face, index_of(found.glyph)}].push_back(character);
      of_face[found.face].push_back(character);
    } else if (notes != nullptr && !is_invisible(character)) {
      notes->add({.kind = NoteKind::missing_character, .character = character});
    } else if (is_invisible(character)) {
      for (std::vector<char32_t>& list : of_face) {
        list.push_back(character);
      }  // joiners and selectors choose among glyphs
    }
  }
  for (const FaceCharacter& wanted : recipe.of_clusters) {
    const GlyphId glyph = wanted.face < recipe.faces.size()
                              ? recipe.faces[wanted.face]->find_glyph(wanted.character)
                              : kMissingGlyph;
    if (glyph == kMissingGlyph) continue;
    chosen[{wanted.face, index_of(glyph)}].push_back(wanted.character);
    of_face[wanted.face].push_back(wanted.character);
  }
  if (!recipe.closure) return;
  const std::span<const Tag> features =
      recipe.features.empty() ? default_features() : std::span<const Tag>(recipe.features);
  for (std::size_t face = 0; face < recipe.faces.size(); ++face) {
    std::vector<char32_t>& own = of_face[face];
    std::sort(own.begin(), own.end());
    own.erase(std::unique(own.begin(), own.end()), own.end());
    own = detail::related_characters(*recipe.faces[face], own);
    for (const GlyphId glyph : reachable_glyphs(*recipe.faces[face], own, features)) {
      chosen[{face, index_of(glyph)}];
    }
  }
}

/// What a picture of the glyph shows, font units, and whether in color.
Result<FontRect> find_box(const AtlasRecipe& recipe, const Face& face, GlyphId glyph, Contours& outline,
                          bool& in_color) {
  in_color = false;
  if (recipe.kind == PictureKind::color || recipe.color_glyphs) {
    const Result<std::optional<FontRect>> box = color_box(face, glyph, recipe.size);
    if (!box) return fail(box.error());
    in_color = box->has_value() && !(*box)->empty();
    if (in_color) return **box;
  }
  const Result<void> read = face.read_outline(glyph, outline, recipe.size);
  if (!read) return fail(read.error());
  return bounds(outline);
}

}  // namespace

std::vector<std::size_t> Selection::faces() const {
  std::vector<std::size_t> out;
  for (const Chosen& strike : strikes) out.push_back(strike.face);
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  return out;
}

Selection select_glyphs(const AtlasRecipe& recipe, Notes* notes) {
  Chosen chosen;
  chosen[{0, index_of(kMissingGlyph)}];
  if (recipe.all_glyphs) {
    choose_all(recipe, chosen);
  } else {
    choose_characters(recipe, chosen, notes);
  }
  std::vector<float> sizes = {recipe.size};
  if (!recipe.fit) sizes.insert(sizes.end(), recipe.other_sizes.begin(), recipe.other_sizes.end());
  Selection selection;
  Contours outline;
  struct OfFace {
    std::vector<AtlasGlyph> glyphs;
    std::vector<FontRect> boxes;
  };
  OfFace plain, colored;
  const auto finish = [&](std::size_t face, PictureKind kind, OfFace& of_face) {
    const int phases = kind == PictureKind::coverage ? recipe.phases : 1;
    for (const float size : sizes) {
      if (of_face.glyphs.empty()) continue;
      selection.strikes.push_back({face, size, kind});
      for (std::size_t i = 0; i < of_face.glyphs.size(); ++i) {
        for (int phase = 0; phase < phases; ++phase) {
          AtlasGlyph glyph = of_face.glyphs[i];
          glyph.strike = selection.strikes.size() - 1;
          glyph.phase = static_cast<std::uint8_t>(phase * 4 / phases);
          if (phase > 0) glyph.codepoints.clear();
          selection.glyphs.push_back(std::move(glyph));
          selection.boxes.push_back(of_face.boxes[i]);
        }
      }
    }
    of_face = {};
  };
  const auto finish_face = [&](std::size_t face) {
    finish(face, recipe.kind, plain), finish(face, PictureKind::color, colored);
  };
  std::size_t face = chosen.begin()->first.first;
  for (auto& [key, characters] : chosen) {
    if (key.first != face) finish_face(face), face = key.first;
    std::sort(characters.begin(), characters.end());
    characters.erase(std::unique(characters.begin(), characters.end()), characters.end());
    AtlasGlyph glyph;
    glyph.glyph = GlyphId{key.second};
    glyph.codepoints = std::move(characters);
    bool in_color = false;
    const Result<FontRect> box = find_box(recipe, *recipe.faces[face], glyph.glyph, outline, in_color);
    OfFace& to = in_color && recipe.kind != PictureKind::color ? colored : plain;
    if (!box && notes != nullptr) notes->add({.kind = NoteKind::damaged_glyph, .position = key.second});
    to.boxes.push_back(box.value_or(FontRect{}));
    to.glyphs.push_back(std::move(glyph));
  }
  finish_face(face);
  return selection;
}

void size_cell(const AtlasRecipe& recipe, const Face& face, float size, const RowFit& fit,
               const FontRect& box, AtlasGlyph& glyph) {
  glyph.cell = {};
  if (box.empty() || !(box.x_max > box.x_min && box.y_max > box.y_min)) return;
  const bool far = is_distance(recipe.kind), painted = recipe.kind == PictureKind::color;
  const double around = far ? recipe.reach : std::ceil(recipe.padding),
               scale = double{size} / face.units_per_em(), phase = glyph.phase / 4.0;
  // A coverage or color cell is the rounded box and its padding; a distance cell is the box and its reach,
  // rounded. What was fitted to rows stands on them but for rounding, which must not cost a row.
  const double spare = recipe.fit_rows ? 1e-3 : 0;
  const auto low = [&](double v) { return far ? std::floor(v - around) : std::floor(v + spare) - around; };
  const auto high = [&](double v) { return far ? std::ceil(v + around) : std::ceil(v - spare) + around; };
  const GlyphPainter none, &paint = painted ? recipe.painter : none;
  const double left = low(box.x_min * scale + phase - paint.left),
               top = low(-fit(box.y_max) * scale - paint.top);
  const double width = high(box.x_max * scale + phase + paint.right) - left,
               height = high(-fit(box.y_min) * scale + paint.bottom) - top;
  constexpr double kMax = 1 << 20;  // no page holds it, and numbers stay whole
  if (!(width <= kMax && height <= kMax && std::abs(left) <= kMax && std::abs(top) <= kMax)) {
    glyph.cell.width = glyph.cell.height = static_cast<int>(kMax);
    return;
  }
  glyph.offset = {static_cast<float>(left), static_cast<float>(top)};
  glyph.cell.width = static_cast<int>(width);
  glyph.cell.height = static_cast<int>(height);
}

AtlasRecipe color_recipe(const AtlasRecipe& recipe) {
  AtlasRecipe out = recipe;
  out.kind = PictureKind::color;
  out.bits = 8;
  out.fit_rows = false;
  out.painter = {};
  return out;
}

void size_cells(const AtlasRecipe& recipe, Selection& selection) {
  const AtlasRecipe colored = color_recipe(recipe);
  std::vector<RowFit> fits;
  for (const Selection::Chosen& strike : selection.strikes) {
    fits.push_back(recipe.fit_rows ? RowFit::of(*recipe.faces[strike.face], strike.size) : RowFit{});
  }
  for (std::size_t i = 0; i < selection.glyphs.size(); ++i) {
    AtlasGlyph& glyph = selection.glyphs[i];
    const Selection::Chosen& strike = selection.strikes[glyph.strike];
    const Face& face = *recipe.faces[strike.face];
    glyph.advance =
        static_cast<float>(face.advance(glyph.glyph) * (double{strike.size} / face.units_per_em()));
    const bool other = strike.kind != recipe.kind;
    size_cell(other ? colored : recipe, face, strike.size, other ? RowFit{} : fits[glyph.strike],
              selection.boxes[i], glyph);
  }
}

RowFit RowFit::of(const Face& face, float size) {
  const FaceFacts facts = face.facts();
  const float scale = size / face.units_per_em();
  RowFit fit;
  const auto on_rows = [scale](float height) { return std::max(1.0F, std::round(height * scale)) / scale; };
  if (!(facts.x_height > 0)) {
    if (facts.cap_height > 0) {
      fit.x_height = fit.cap_height = facts.cap_height,
      fit.x_scale = fit.above_scale = on_rows(facts.cap_height) / facts.cap_height;
    }
    return fit;
  }
  fit.x_height = facts.x_height;
  fit.x_scale = fit.above_scale = on_rows(facts.x_height) / facts.x_height;
  if (facts.cap_height > facts.x_height) {
    fit.cap_height = facts.cap_height;
    fit.above_scale = std::max(0.0F, on_rows(facts.cap_height) - facts.x_height * fit.x_scale) /
                      (facts.cap_height - facts.x_height);
  }
  return fit;
}

}  // namespace grafema::detail
