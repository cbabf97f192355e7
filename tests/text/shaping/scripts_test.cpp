// SPDX-License-Identifier: MIT
// Syllables of many scripts in real faces: order, forms, joiners, broken clusters, and nothing lost.
#include <algorithm>

#include "grafema/atlas/bake.hpp"
#include "grafema/font/reachable.hpp"
#include "grafema/text/shaped_text.hpp"
#include "support/same_face.hpp"
#include "support/scripts.hpp"

using namespace grafema;

namespace {

struct Shaped {
  std::vector<ShapedGlyph> glyphs;
  std::vector<char32_t> characters;
  std::vector<Note> notes;

  std::vector<std::uint32_t> ids() const {
    std::vector<std::uint32_t> out;
    for (const ShapedGlyph& g : glyphs) out.push_back(index_of(g.glyph));
    return out;
  }
  bool holds(GlyphId glyph) const {
    return std::any_of(glyphs.begin(), glyphs.end(), [&](const ShapedGlyph& g) { return g.glyph == glyph; });
  }
  float width() const {
    float sum = 0;
    for (const ShapedGlyph& g : glyphs) sum += g.advance;
    return sum;
  }
};

Shaped shape(const std::shared_ptr<const Face>& face, const std::string& text) {
  ShapeCache cache;
  ShapedText shaped;
  Notes notes;
  REQUIRE(shaped.set({{face}}, text, {}, cache, &notes).has_value());
  return {{shaped.glyphs().begin(), shaped.glyphs().end()},
          shaped.analysis().characters,
          {notes.all().begin(), notes.all().end()}};
}
Shaped shape(const std::string& script, std::u32string_view text) {
  return shape(test::face_of(test::script_face(script)), test::utf8(text));
}
GlyphId glyph(const std::string& script, char32_t c) {
  return test::face_of(test::script_face(script))->find_glyph(c);
}

/// The glyph of a character stands at this place, and all the text is one cluster.
void check_stands(const std::string& script, std::u32string_view text, std::size_t place, char32_t c) {
  const Shaped shaped = shape(script, text);
  INFO(script << " " << test::utf8(text));
  REQUIRE(place < shaped.glyphs.size());
  CHECK(index_of(shaped.glyphs[place].glyph) == index_of(glyph(script, c)));
  for (const ShapedGlyph& g : shaped.glyphs) CHECK(g.cluster == 0);
}

}  // namespace

TEST_CASE("vowels on the left stand before their letter", "[scripts]") {
  check_stands("Devanagari", U"\u0915\u093F", 0, 0x093F);
  check_stands("Bengali", U"\u0995\u09BF", 0, 0x09BF);
  // At the beginning of a word it has a form of its own.
  check_stands("Bengali", U"\u0995\u09C7", 1, 0x0995);
  check_stands("Gujarati", U"\u0A95\u0ABF", 0, 0x0ABF);
  check_stands("Tamil", U"\u0B95\u0BC6", 0, 0x0BC6);
  check_stands("Malayalam", U"\u0D15\u0D46", 0, 0x0D46);
  check_stands("Sinhala", U"\u0D9A\u0DD9", 0, 0x0DD9);
  check_stands("Khmer", U"\u1780\u17C1", 0, 0x17C1);
  check_stands("Myanmar", U"\u1000\u1031", 0, 0x1031);
}

TEST_CASE("split vowels stand on both sides", "[scripts]") {
  check_stands("Tamil", U"\u0B95\u0BCA", 0, 0x0BC6);
  check_stands("Tamil", U"\u0B95\u0BCA", 1, 0x0B95);
  check_stands("Tamil", U"\u0B95\u0BCA", 2, 0x0BBE);
  check_stands("Malayalam", U"\u0D15\u0D4A", 0, 0x0D46);
  check_stands("Malayalam", U"\u0D15\u0D4A", 2, 0x0D3E);
  check_stands("Bengali", U"\u0995\u09CB", 1, 0x0995);
  check_stands("Bengali", U"\u0995\u09CB", 2, 0x09BE);
  check_stands("Khmer", U"\u1780\u17BE", 0, 0x17C1);
  // Typed as two signs, or as one: the same.
  CHECK(shape("Tamil", U"\u0B95\u0BC6\u0BBE").ids() == shape("Tamil", U"\u0B95\u0BCA").ids());
}

TEST_CASE("consonants join, and joiners say how", "[scripts]") {
  const GlyphId virama = glyph("Devanagari", 0x094D), ka = glyph("Devanagari", 0x0915);
  const Shaped conjunct = shape("Devanagari", U"\u0915\u094D\u0937");
  CHECK(conjunct.glyphs.size() == 1);
  const Shaped half = shape("Devanagari", U"\u0915\u094D\u200D\u0937");
  CHECK(half.glyphs.size() == 2);
  CHECK_FALSE(half.holds(virama));
  CHECK_FALSE(half.holds(ka));
  const Shaped open = shape("Devanagari", U"\u0915\u094D\u200C\u0937");
  CHECK(open.holds(virama));
  CHECK(open.holds(ka));
  // A reph leaves the start: what stands there is the letter, as without it.
  const Shaped reph = shape("Devanagari", U"\u0930\u094D\u0915");
  REQUIRE(reph.glyphs.size() == 2);
  CHECK(reph.glyphs[0].glyph == ka);
  CHECK(reph.glyphs[1].advance == 0);
  // Behind the matra, when there is one.
  const Shaped with_matra = shape("Devanagari", U"\u0930\u094D\u0915\u093E");
  CHECK(with_matra.glyphs[0].glyph == ka);
  // With a joiner Ra keeps its half form, and the vowel sign on the left stands before all of it.
  const Shaped left = shape("Devanagari", U"\u0915\u094D\u0937\u093F");
  CHECK(left.glyphs[0].glyph != conjunct.glyphs[0].glyph);
  CHECK(left.glyphs.back().glyph == conjunct.glyphs[0].glyph);
}

TEST_CASE("subscripts and medials that stand before their letter are moved", "[scripts]") {
  const Shaped khmer = shape("Khmer", U"\u1780\u17D2\u179A");
  REQUIRE(khmer.glyphs.size() == 2);
  CHECK(khmer.glyphs[1].glyph == glyph("Khmer", 0x1780));
  const Shaped below = shape("Khmer", U"\u1780\u17D2\u1780");
  REQUIRE(below.glyphs.size() == 2);
  CHECK(below.glyphs[0].glyph == glyph("Khmer", 0x1780));
  // The vowel on the left stands before everything.
  const Shaped both = shape("Khmer", U"\u1780\u17D2\u179A\u17C1");
  CHECK(both.glyphs[0].glyph == glyph("Khmer", 0x17C1));
  const Shaped myanmar = shape("Myanmar", U"\u1000\u103C");
  REQUIRE(myanmar.glyphs.size() == 2);
  CHECK(myanmar.glyphs[1].glyph == glyph("Myanmar", 0x1000));
  // Kinzi goes over the letter behind it.
  const Shaped kinzi = shape("Myanmar", U"\u1004\u103A\u1039\u1002");
  REQUIRE(kinzi.glyphs.size() == 2);
  CHECK(kinzi.glyphs[0].glyph == glyph("Myanmar", 0x1002));
}

TEST_CASE("a stack of Tibetan letters is as wide as one", "[scripts]") {
  const Shaped stack = shape("Tibetan", U"\u0F66\u0F90\u0F74");
  const Shaped plain = shape("Tibetan", U"\u0F66");
  CHECK(stack.width() < plain.width() * 1.5F);
  CHECK(std::all_of(stack.glyphs.begin(), stack.glyphs.end(),
                    [](const ShapedGlyph& g) { return g.cluster == 0; }));
}

TEST_CASE("a mark without a letter stands on a dotted circle, is noted, and leaves its neighbor alone",
          "[scripts]") {
  struct Case {
    const char* script;
    char32_t mark, letter;
  };
  for (const Case& c : {Case{"Devanagari", 0x093F, 0x0915},
                        {"Bengali", 0x09C7, 0x0995},
                        {"Tamil", 0x0BC6, 0x0B95},
                        {"Malayalam", 0x0D4D, 0x0D15},
                        {"Khmer", 0x17C1, 0x1780},
                        {"Myanmar", 0x1031, 0x1000},
                        {"Tibetan", 0x0F72, 0x0F40}}) {
    INFO(c.script);
    const Shaped alone = shape(c.script, std::u32string{c.mark});
    CHECK(alone.holds(glyph(c.script, 0x25CC)));
    REQUIRE(alone.notes.size() == 1);
    CHECK(alone.notes[0].kind == NoteKind::broken_cluster);
    CHECK(alone.notes[0].character == c.mark);
    CHECK(alone.notes[0].position == 0);
    CHECK(describe(alone.notes[0]).find("no letter") != std::string::npos);
    const Shaped letter = shape(c.script, std::u32string{c.letter});
    const Shaped broken = shape(c.script, std::u32string{c.letter, U'\n', c.mark});
    REQUIRE_FALSE(broken.glyphs.empty());
    CHECK(broken.glyphs[0].glyph == letter.glyphs[0].glyph);
    CHECK(broken.glyphs[0].advance == letter.glyphs[0].advance);
  }
  // A mark of a plain script too, where it begins a text; on a letter it needs none.
  const auto sans = test::dejavu();
  CHECK(shape(sans, "\u0301a").holds(sans->find_glyph(0x25CC)));
  CHECK_FALSE(shape(sans, "a\u0301").holds(sans->find_glyph(0x25CC)));
}

TEST_CASE("a syllable longer than any language writes stays as it was typed", "[scripts][hostile]") {
  const GlyphId letter = glyph("Lepcha", 0x1C00);
  const Shaped few = shape("Lepcha", std::u32string{0x1C00, 0x1C27});
  REQUIRE(few.glyphs.size() == 2);
  CHECK(few.glyphs[1].glyph == letter);
  const Shaped many = shape("Lepcha", std::u32string{0x1C00} + std::u32string(20000, 0x1C27));
  REQUIRE(many.glyphs.size() == 20001);
  CHECK(many.glyphs[0].glyph == letter);
}

TEST_CASE("any text of a script's characters keeps its order and loses nothing", "[scripts][property]") {
  std::mt19937 random(2311);
  for (const test::ScriptFace& script : test::script_faces()) {
    const auto face = test::face_of(script);
    ShapeCache cache;
    ShapedText shaped;
    for (int round = 0; round < 400; ++round) {
      const std::string text = test::random_syllables(script, *face, random);
      REQUIRE(shaped.set({{face}}, text, {}, cache).has_value());
      INFO(script.name << ": " << text);
      const std::size_t count = shaped.analysis().characters.size();
      REQUIRE(shaped.glyphs().size() <= count * 16 + 1024);
      for (const ShapedRun& run : shaped.runs()) {
        std::uint32_t before = run.first;
        for (std::uint32_t g = run.first_glyph; g < run.end_glyph; ++g) {
          const ShapedGlyph& shown = shaped.glyphs()[g];
          REQUIRE(index_of(shown.glyph) < face->glyph_count());
          REQUIRE(shown.cluster >= before);
          REQUIRE(shown.cluster < run.end);
          before = shown.cluster;
        }
      }
      // What was seen before and what is new give the same.
      const std::vector<std::uint32_t> kept = [&] {
        std::vector<std::uint32_t> ids;
        for (const ShapedGlyph& g : shaped.glyphs()) ids.push_back(index_of(g.glyph));
        return ids;
      }();
      REQUIRE(shape(face, text).ids() == kept);
    }
  }
}

TEST_CASE("what shaping makes of any syllables is in the atlas and in the subset", "[scripts][property]") {
  std::mt19937 random(4127);
  for (const test::ScriptFace& script : test::script_faces()) {
    const auto face = test::face_of(script);
    for (int round = 0; round < 6; ++round) {
      const std::string text =
          test::random_syllables(script, *face, random) + " " + test::random_syllables(script, *face, random);
      std::vector<char32_t> characters = shape(face, text).characters;
      std::sort(characters.begin(), characters.end());
      characters.erase(std::unique(characters.begin(), characters.end()), characters.end());
      INFO(script.name << ": " << text);
      AtlasRecipe recipe;
      recipe.faces = {face};
      recipe.characters = characters;
      recipe.size = 8;
      const auto atlas = bake(recipe);
      REQUIRE(atlas.has_value());
      std::vector<std::uint32_t> baked;
      for (const AtlasGlyph& g : atlas->glyphs) baked.push_back(index_of(g.glyph));
      const test::Reduced reduced = test::reduce(
          *face, characters.data() == nullptr ? std::u32string_view{}
                                              : std::u32string_view(characters.data(), characters.size()));
      for (int words = 0; words < 40; ++words) {
        std::u32string other;
        for (std::size_t n = 1 + random() % 9; n > 0; --n) other += characters[random() % characters.size()];
        const Shaped whole = shape(face, test::utf8(other));
        INFO(test::utf8(other));
        for (const std::uint32_t id : whole.ids()) {
          REQUIRE(std::find(baked.begin(), baked.end(), id) != baked.end());
        }
        const Shaped part = shape(reduced.face, test::utf8(other));
        REQUIRE(part.glyphs.size() == whole.glyphs.size());
        for (std::size_t g = 0; g < part.glyphs.size(); ++g) {
          REQUIRE(part.glyphs[g].advance == whole.glyphs[g].advance);
          REQUIRE(part.glyphs[g].x == whole.glyphs[g].x);
          REQUIRE(part.glyphs[g].y == whole.glyphs[g].y);
          REQUIRE(part.glyphs[g].cluster == whole.glyphs[g].cluster);
        }
      }
    }
  }
}
