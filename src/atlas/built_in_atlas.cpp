// SPDX-License-Identifier: MIT
// The atlas that stands in where another one failed.
#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema {

std::shared_ptr<const Atlas> built_in_atlas() {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = *read_character_set("ascii");
  recipe.size = 24;
  return std::make_shared<const Atlas>(
      *bake(recipe));  // can't fail: the recipe is in range and the face is ours
}

std::shared_ptr<const Atlas> or_built_in(Result<Atlas> atlas, Notes* notes) {
  if (atlas) return std::make_shared<const Atlas>(*std::move(atlas));
  if (notes != nullptr) notes->add({.kind = NoteKind::built_in_atlas});
  return built_in_atlas();
}

}  // namespace grafema
