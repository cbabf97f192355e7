// SPDX-License-Identifier: MIT
// Styles in words and numbers, and the nearest face by the rules of CSS.
#include "grafema/font/family.hpp"

#include <catch2/catch.hpp>

#include "grafema/font/font_stack.hpp"
#include "support/bytes.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// A face whose OS/2 table tells this style.
std::shared_ptr<const Face> styled(int weight, int width_class = 5, bool italic = false) {
  test::FontBuilder builder;
  builder.put16("OS/2", 4, weight);
  builder.put16("OS/2", 6, width_class);
  builder.put16("OS/2", 62, italic ? 1 : 0x40);
  return builder.face();
}

Family family(std::initializer_list<std::shared_ptr<const Face>> faces) {
  Family out("Night");
  for (const auto& face : faces) out.add(face);
  return out;
}

int weight_of(const Family& f, float wanted, Slant slant = Slant::upright) {
  return f.find(FaceStyle{wanted, 100, slant})->facts().weight_class;
}

}  // namespace

TEST_CASE("styles are read from words in any spelling", "[family]") {
  CHECK(read_style_words("Bold Italic") == FaceStyle{700, 100, Slant::italic});
  CHECK(read_style_words("semi-bold CONDENSED") == FaceStyle{600, 75, Slant::upright});
  CHECK(read_style_words("ExtraLightOblique") == FaceStyle{200, 100, Slant::oblique});
  CHECK(read_style_words("Demi_Bold") == FaceStyle{600, 100, Slant::upright});
  CHECK(read_style_words("ultra black semi expanded") == FaceStyle{950, 112.5F, Slant::upright});
  CHECK(read_style_words("650 italic") == FaceStyle{650, 100, Slant::italic});
  CHECK(read_style_words("") == FaceStyle{});
  bool known = true;
  CHECK(read_style_words("Headline", &known) == FaceStyle{});
  CHECK_FALSE(known);
}

TEST_CASE("weights are matched as CSS says", "[family]") {
  const Family f = family({styled(300), styled(500), styled(800)});
  CHECK(weight_of(f, 400) == 500);  // 400 looks up to 500 first
  CHECK(weight_of(f, 450) == 500);
  CHECK(weight_of(f, 350) == 300);  // below 400: down first
  CHECK(weight_of(f, 200) == 300);
  CHECK(weight_of(f, 600) == 800);  // above 500: up first
  CHECK(weight_of(f, 900) == 800);
  CHECK(weight_of(family({styled(300), styled(800)}), 450) == 300);  // then down, then up
  CHECK(weight_of(family({styled(600), styled(800)}), 450) == 600);
}

TEST_CASE("width comes before slant, slant before weight", "[family]") {
  const Family f = family({styled(400, 3), styled(700, 5), styled(400, 5, true)});
  CHECK(f.find(FaceStyle{400, 75, Slant::upright})->facts().width_class == 3);
  CHECK(f.find(FaceStyle{400, 80, Slant::upright})->facts().width_class == 3);  // narrower first below 100
  CHECK(f.find(FaceStyle{400, 110, Slant::upright})->facts().width_class == 5);
  CHECK_FALSE(f.find(FaceStyle{400, 100, Slant::upright})
                  ->facts()
                  .italic);  // the bold upright before the regular italic
  CHECK(f.find(FaceStyle{700, 100, Slant::oblique})->facts().italic);
}

TEST_CASE("a style is found by the name that its maker gave", "[family]") {
  Family f = family({styled(400), styled(700)});
  f.add({styled(300), "Head-Line", {}});
  CHECK(f.find("headline")->facts().weight_class == 300);
  CHECK(f.find("BOLD")->facts().weight_class == 700);
  CHECK(f.find("heavy")->facts().weight_class == 700);
  CHECK(Family("empty").find("Bold") == nullptr);
}

TEST_CASE("faces are gathered by family", "[family]") {
  const std::shared_ptr<const Face> faces[] = {test::dejavu("DejaVuSans.ttf"), built_in_face(),
                                               test::dejavu("DejaVuSans-Bold.ttf")};
  const std::vector<Family> families = gather_families(faces);
  REQUIRE(families.size() == 2);
  CHECK(families[0].members().size() == 2);
  CHECK(families[0].find("Bold")->names().style == "Bold");
  CHECK(families[1].name() == "Quillmere Dot");
}

TEST_CASE("a variable face stands for all weights between its ends", "[family][variations]") {
  test::FontBuilder builder;
  builder.table("fvar") = test::Bytes()
                              .u16(1)
                              .u16(0)
                              .u16(16)
                              .u16(2)
                              .u16(1)
                              .u16(20)
                              .u16(0)
                              .u16(8)
                              .text("wght")
                              .fixed(300)
                              .fixed(400)
                              .fixed(600)
                              .u16(0)
                              .u16(0);
  const Family f = family({builder.face(), styled(700)});
  CHECK(weight_of(f, 550) == 550);
  CHECK(weight_of(f, 650) == 700);
  CHECK(weight_of(f, 100) == 300);
}

TEST_CASE("fallback faces are sized to the first one's small letters", "[font_stack]") {
  FontStack stack{test::dejavu("DejaVuSans.ttf"), test::dejavu("DejaVuSerif.ttf"), built_in_face()};
  CHECK(stack[1].scale == 1);
  match_x_heights(stack);
  const auto height = [&](std::size_t i) {
    const Face& face = *stack[i]->face();
    return face.facts().x_height / face.units_per_em() * stack[i].scale;
  };
  CHECK(stack[0].scale == 1);
  CHECK(height(1) == Approx(height(0)));
  CHECK(height(2) == Approx(height(0)));
}
