// SPDX-License-Identifier: MIT
// The smallest program against an installed Grafema, with an atlas and a face made part of it.
#include <dot.hpp>
#include <grafema/atlas/glyph_source.hpp>
#include <signs.hpp>
#include "grafema/atlas/atlas_source.hpp"

int main() {
  const grafema::FontStack stack{grafema::built_in_face()};
  grafema::ShapeCache cache;
  grafema::Paragraph words;
  if (!grafema::lay_out(stack, "Ninth Lantern", {.size = 24}, cache, words) || words.glyphs.size() != 13) {
    return 1;
  }
  auto atlas = signs::load();
  if (!atlas) return 2;
  const auto shared = std::make_shared<const grafema::Atlas>(*std::move(atlas));
  if (!grafema::lay_out(grafema::atlas_stack(shared), "Lantern", {.size = 24}, cache, words) ||
      words.glyphs.size() != 7) {
    return 3;
  }
  const auto face = dot::open();
  return face && (*face)->find_glyph(U'A') != grafema::kMissingGlyph ? 0 : 4;
}
