// SPDX-License-Identifier: MIT
// Holds a subset against the face that it was made from.
#pragma once

#include <memory>
#include <random>
#include <span>

#include "grafema/write/make_subset.hpp"

namespace grafema::test {

/// Makes the subset and opens it; the test fails where that does. `permit` is set.
struct Reduced {
  Subset subset;
  std::shared_ptr<const Face> face;
};
Reduced reduce(const Face& whole, SubsetRecipe recipe, Notes* notes = nullptr);
Reduced reduce(const Face& whole, std::u32string_view characters);

/// Every glyph of the subset has the advances, outline, colors and pictures of the glyph that it was, and
/// `characters` have their glyphs. Lengths may differ by `tolerance` font units.
void check_glyphs(const Face& whole, const Reduced& reduced, std::span<const char32_t> characters,
                  float tolerance = 0);
/// Pairs of the characters kern alike.
void check_kerning(const Face& whole, const Reduced& reduced, std::span<const char32_t> characters,
                   float tolerance = 0);
/// Random texts of the characters become the same glyphs at the same places, whatever features are on.
void check_shaping(const std::shared_ptr<const Face>& whole, const Reduced& reduced,
                   std::span<const char32_t> characters, std::mt19937& random, float tolerance = 0);
/// All of it.
void check_same(const std::shared_ptr<const Face>& whole, const Reduced& reduced,
                std::span<const char32_t> characters, std::mt19937& random);

/// Ten characters of the face; `near`: of one stretch of it, so that they have to do with each other.
std::vector<char32_t> ten_of(const Face& face, std::mt19937& random, bool near);

std::string to_utf8(std::span<const char32_t> text);

}  // namespace grafema::test
