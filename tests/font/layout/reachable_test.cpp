// SPDX-License-Identifier: MIT
// Glyphs that shaping can yield: through every kind of substitution, no further than the characters allow.
#include "grafema/font/reachable.hpp"

#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/support.hpp"

using namespace grafema;
using test::Bytes;
using test::coverage;
using test::with_parts;

namespace {

constexpr int kReachableA = 34, kReachableB = 35, kReachableC = 36;

std::vector<int> reach(const std::vector<std::byte>& gsub, std::u32string_view text,
                       std::vector<Tag> features = {tag("liga"), tag("calt")}) {
  test::FontBuilder builder;
  builder.table("GSUB") = gsub;
  const auto face = builder.face();
  std::vector<int> out;
  for (const GlyphId glyph : reachable_glyphs(*face, text, features)) {
    out.push_back(static_cast<int>(index_of(glyph)));
  }
  return out;
}

}  // namespace

TEST_CASE("without substitutions the characters' own glyphs are reached", "[reachable]") {
  CHECK(reach({}, U"AB\u2603") == std::vector<int>{kReachableA, kReachableB});
}

TEST_CASE("chains of substitutions are followed to their end", "[reachable]") {
  const auto next = [](int glyph) {
    return with_parts({1, -1, 1}, {coverage({glyph})});
  };  // each glyph becomes the next
  const auto gsub =
      test::simple_layout("liga", {0, 1},
                          {test::make_lookup(1, {next(101)}),
                           test::make_lookup(1, {with_parts({2, -1, 1, 101}, {coverage({kReachableA})})})});
  CHECK(reach(gsub, U"A") == std::vector<int>{kReachableA, 101, 102});
  CHECK(reach(gsub, U"B") == std::vector<int>{kReachableB});
  CHECK(reach(gsub, U"A", {tag("smcp")}) == std::vector<int>{kReachableA});
}

TEST_CASE("a ligature needs all its parts", "[reachable]") {
  const auto set = with_parts({1, -1}, {Bytes().words(110, 2, kReachableB)});
  const auto gsub = test::simple_layout(
      "liga", {0}, {test::make_lookup(4, {with_parts({1, -1, 1, -1}, {coverage({kReachableA}), set})})});
  CHECK(reach(gsub, U"AB") == std::vector<int>{kReachableA, kReachableB, 110});
  CHECK(reach(gsub, U"AC") == std::vector<int>{kReachableA, kReachableC});
}

TEST_CASE("a context applies its lookups where all its places can be filled", "[reachable]") {
  const auto inner =
      test::make_lookup(1, {with_parts({2, -1, 2, 120, 121}, {coverage({kReachableA, kReachableC})})});
  const auto context =
      test::make_lookup(6, {with_parts({3, 1, -1, 1, -1, 0, 1, 0, 0},
                                       {coverage({kReachableB}), coverage({kReachableA})})});  // A after B
  const auto gsub = test::simple_layout("calt", {1}, {inner, context});
  CHECK(reach(gsub, U"AB") == std::vector<int>{kReachableA, kReachableB, 120});
  CHECK(reach(gsub, U"AC") == std::vector<int>{kReachableA, kReachableC});  // no B
  CHECK(reach(gsub, U"ABC") ==
        std::vector<int>{kReachableA, kReachableB, kReachableC, 120});  // C is not at the context's place
}

TEST_CASE("contexts that call themselves end", "[reachable]") {
  const auto loop = test::make_lookup(5, {with_parts({3, 1, 1, -1, 0, 0}, {coverage({kReachableA})})});
  CHECK(reach(test::simple_layout("calt", {0}, {loop}), U"A") == std::vector<int>{kReachableA});
}

TEST_CASE("what a real face shapes lies within what is reached", "[reachable][property]") {
  const auto face = test::dejavu();
  std::vector<char32_t> ascii;
  for (char32_t c = 0x20; c < 0x7F; ++c) ascii.push_back(c);
  const auto glyphs = reachable_glyphs(*face, ascii);
  CHECK(glyphs.size() >= ascii.size());
  CHECK(glyphs.size() < 400);
  CHECK(std::is_sorted(glyphs.begin(), glyphs.end()));
  const GlyphId fi = face->find_glyph(0xFB01);  // the face has a ligature for f and i
  CHECK(std::binary_search(glyphs.begin(), glyphs.end(), fi));
}
