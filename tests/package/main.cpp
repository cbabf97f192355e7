// SPDX-License-Identifier: MIT
// The smallest program that a user builds against an installed Grafema.
#include <grafema/files.hpp>

int main() {
  const grafema::FontStack stack{{grafema::built_in_face()}};
  grafema::ShapeCache cache;
  grafema::Paragraph words;
  return grafema::lay_out(stack, "Ninth Lantern", {.size = 24}, cache, words) && words.glyphs.size() == 13 ? 0 : 1;
}
