// SPDX-License-Identifier: MIT
// Looks up what characters are made of and their mirror images.
#include "unicode/compositions.hpp"

#include <algorithm>

#include "unicode/ranges.hpp"

namespace grafema::detail {
namespace {

constexpr Composition kCompositions[] = {
#include "unicode/compositions.inc"
};

constexpr CharacterRange kMarks[] = {
#include "unicode/marks.inc"
};

struct Mirror {
  char32_t character, image;
};
constexpr Mirror kMirrors[] = {
#include "unicode/mirrors.inc"
};

}  // namespace

std::span<const Composition> compositions() { return kCompositions; }

char32_t mirror_image(char32_t character) {
  const auto* at = std::lower_bound(std::begin(kMirrors), std::end(kMirrors), character,
                                    [](const Mirror& m, char32_t c) { return m.character < c; });
  return at != std::end(kMirrors) && at->character == character ? at->image : character;
}

bool is_mark(char32_t character) { return find_range<CharacterRange>(kMarks, character) != nullptr; }

}  // namespace grafema::detail
