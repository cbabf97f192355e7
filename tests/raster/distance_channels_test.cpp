// SPDX-License-Identifier: MIT
// Distance in three channels: right at every texel, sharper between them, and never worse than one channel.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/raster/raster.hpp"
#include "support/magnified.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

constexpr float kReach = 6;

struct Field {
  PixelRect cell;
  std::vector<float> texels;  // four a pixel
};

Field channels(const Contours& c, float scale, unsigned levels = 0) {
  static RasterScratch scratch;
  Field f{rounded_out(to_pixels(bounds(c), scale).grown(kReach)), {}};
  f.texels.resize(static_cast<std::size_t>(f.cell.width * f.cell.height) * 4);
  REQUIRE(rasterize_distance_channels(c, glyph_transform(scale), f.cell, kReach, f.texels, scratch, levels)
              .has_value());
  return f;
}

float median(const float* t) { return std::max(std::min(t[0], t[1]), std::min(std::max(t[0], t[1]), t[2])); }

test::WrongSamples wrong_samples(const Contours& c, float scale, unsigned levels) {
  static RasterScratch scratch;
  const auto wrong = test::count_wrong(c, scale, {.reach = kReach, .levels = levels}, scratch);
  REQUIRE(wrong.has_value());
  return *wrong;
}

Contours united_outline(const Face& face, char32_t character) {
  Contours c;
  REQUIRE(face.read_outline(face.find_glyph(character), c).has_value());
  unite(c);
  return c;
}

}  // namespace

TEST_CASE("the fourth channel is the distance, the median is on its side at every texel",
          "[channels][property]") {
  RasterScratch scratch;
  for (const char* file : {"DejaVuSans.ttf", "DejaVuSerif-BoldItalic.ttf", "DejaVuSans-ExtraLight.ttf"}) {
    std::error_code none;
    if (!std::filesystem::exists(test::dejavu_path(file), none)) continue;
    const auto face = test::dejavu(file);
    for (char32_t character = U'!'; character <= U'~'; ++character) {
      const Contours c = united_outline(*face, character);
      const Field f = channels(c, 32.0F / 2048);
      std::vector<float> plain(f.texels.size() / 4);
      REQUIRE(
          rasterize_distance(c, glyph_transform(32.0F / 2048), f.cell, kReach, plain, scratch).has_value());
      for (std::size_t i = 0; i < plain.size(); ++i) {
        REQUIRE(f.texels[i * 4 + 3] == Approx(plain[i]).margin(0.02));
        if (std::abs(plain[i]) > 0.03F) REQUIRE((median(&f.texels[i * 4]) > 0) == (plain[i] > 0));
      }
    }
  }
}

TEST_CASE("letters of straight strokes keep their corners", "[channels]") {
  const auto face = test::dejavu();
  test::WrongSamples sum;
  for (const char32_t character : {U'A', U'E', U'F', U'H', U'I', U'K', U'L', U'M', U'N', U'T', U'V', U'W',
                                   U'X', U'Y', U'Z', U'4', U'7', U'#'}) {
    const test::WrongSamples wrong = wrong_samples(united_outline(*face, character), 32.0F / 2048, 255);
    sum.single += wrong.single, sum.median += wrong.median;
  }
  CHECK(sum.single > 1000);
  CHECK(sum.median * 10 < sum.single);
}

TEST_CASE("over whole faces the wrong area is below a fifth, below an eighth where values have 16 bits",
          "[channels][property]") {
  const std::shared_ptr<const Face> face =
      GENERATE(test::dejavu(), test::dejavu("DejaVuSerif.ttf"), built_in_face());
  test::WrongSamples narrow, wide;
  for (std::uint32_t g = 3; g < std::min(face->glyph_count(), 260U); g += 2) {
    Contours c;
    REQUIRE(face->read_outline(GlyphId{g}, c).has_value());
    if (c.commands.empty()) continue;
    unite(c);
    const float scale = 32 / face->units_per_em();
    const test::WrongSamples a = wrong_samples(c, scale, 255), b = wrong_samples(c, scale, 65535);
    narrow.single += a.single, narrow.median += a.median, wide.single += b.single, wide.median += b.median;
  }
  CHECK(narrow.median * 5 < narrow.single);
  CHECK(wide.median * 8 < wide.single);
}

TEST_CASE("no glyph is worse in three channels than in one", "[channels][property]") {
  const std::shared_ptr<const Face> face =
      GENERATE(built_in_face(), test::dejavu("DejaVuSans.ttf"), test::dejavu("DejaVuSerif.ttf"),
               test::dejavu("DejaVuSansMono-Bold.ttf"));
  const unsigned levels = GENERATE(255U, 65535U);
  for (std::uint32_t g = 0; g < std::min(face->glyph_count(), 600U); g += 3 * test::kStride) {
    Contours c;
    REQUIRE(face->read_outline(GlyphId{g}, c).has_value());
    if (c.commands.empty()) continue;
    unite(c);
    const test::WrongSamples wrong = wrong_samples(c, 32 / face->units_per_em(), levels);
    INFO("glyph " << g);
    CHECK(wrong.median <= wrong.single);
  }
}

TEST_CASE("what is round stays round: disks lose a third of what one channel loses", "[channels]") {
  const auto add_circle = [](Contours& c, float r, float turn) {
    const float k = r * 0.5522848F;
    c.move_to({500 + r, 500});
    c.curve_to({500 + r, 500 + k * turn}, {500 + k, 500 + r * turn}, {500, 500 + r * turn});
    c.curve_to({500 - k, 500 + r * turn}, {500 - r, 500 + k * turn}, {500 - r, 500});
    c.curve_to({500 - r, 500 - k * turn}, {500 - k, 500 - r * turn}, {500, 500 - r * turn});
    c.curve_to({500 + k, 500 - r * turn}, {500 + r, 500 - k * turn}, {500 + r, 500});
    c.close();
  };
  test::WrongSamples sum;
  for (float radius = 60; radius <= 450; radius += 7) {
    Contours c;
    add_circle(c, radius, -1);
    unite(c);
    const test::WrongSamples wrong = wrong_samples(c, 0.0317F, 65535);
    sum.single += wrong.single, sum.median += wrong.median;
  }
  CHECK(sum.single > 500);
  CHECK(sum.median * 3 < sum.single);
}

TEST_CASE("what is stored in few values is mended for them, and nothing else changes", "[channels]") {
  const auto face = test::dejavu();
  std::size_t differ = 0, count = 0;
  for (char32_t character = U'!'; character <= U'~'; ++character) {
    const Contours c = united_outline(*face, character);
    const Field plain = channels(c, 0.016F), narrow = channels(c, 0.016F, 255);
    REQUIRE(plain.texels.size() == narrow.texels.size());
    for (std::size_t i = 0; i < plain.texels.size(); ++i) {
      if (i % 4 == 3) REQUIRE(plain.texels[i] == narrow.texels[i]);
      differ += plain.texels[i] != narrow.texels[i] ? 1 : 0;
    }
    count += plain.texels.size();
  }
  CHECK(differ > 0);
  CHECK(differ < count / 200);
}

TEST_CASE("parts that touch at their corners stay sharp", "[channels]") {
  Contours c = test::polygon({{0, 0}, {0, 400}, {400, 400}, {400, 0}});
  test::add_polygon(c, std::array<FontPoint, 4>{{{400, 400}, {400, 800}, {800, 800}, {800, 400}}});
  unite(c);
  const test::WrongSamples wrong = wrong_samples(c, 0.0317F, 65535);
  CHECK(wrong.single > 20);
  CHECK(wrong.median * 5 < wrong.single);
}

TEST_CASE("teardrops, cusps, slivers and parts that nearly touch are no worse either", "[channels]") {
  std::vector<Contours> shapes(5);
  shapes[0].move_to({500, 900}), shapes[0].curve_to({900, 300}, {700, 0}, {500, 0}),
      shapes[0].curve_to({300, 0}, {100, 300}, {500, 900}), shapes[0].close();
  shapes[1].move_to({0, 0}), shapes[1].quadratic_curve_to({500, 0}, {500, 900}),
      shapes[1].quadratic_curve_to({500, 0}, {1000, 0}), shapes[1].close();
  shapes[2] = test::polygon({{0, 0}, {60, 1000}, {90, 1000}, {30, 0}});
  shapes[3] = test::polygon({{0, 0}, {0, 400}, {490, 400}, {490, 0}});
  test::add_polygon(shapes[3], std::array<FontPoint, 4>{{{510, 0}, {510, 400}, {1000, 400}, {1000, 0}}});
  shapes[4] = test::polygon({{0, 0}, {0, 500}, {500, 520}, {1000, 500}, {1000, 0}});
  for (Contours& shape : shapes) {
    unite(shape);
    REQUIRE(shape.united);
    const test::WrongSamples wrong = wrong_samples(shape, 0.032F, 65535);
    CHECK(wrong.median <= wrong.single);
  }
}

TEST_CASE("a loop too small for a piece is no boundary in any channel", "[channels]") {
  RasterScratch scratch;
  Contours c = test::polygon({{2, 2}, {2, 14}, {14, 14}, {14, 2}});
  c.move_to({8, 8}), c.curve_to({7.9997F, 7.9913F}, {7.99999F, 7.99126F}, {8, 8}), c.close();
  c.united = true;
  std::vector<float> one(256), four(1024);
  REQUIRE(rasterize_distance(c, {}, {0, 0, 16, 16}, 6, one, scratch).has_value());
  REQUIRE(rasterize_distance_channels(c, {}, {0, 0, 16, 16}, 6, four, scratch).has_value());
  for (std::size_t i = 0; i < one.size(); ++i) REQUIRE(four[i * 4 + 3] == Approx(one[i]).margin(0.02));
}

TEST_CASE("an outline that is not united is united first; wrong rooms are refused", "[channels]") {
  RasterScratch scratch;
  Contours c = test::polygon({{4, 4}, {12, 4}, {12, 12}, {4, 12}});
  test::add_polygon(c, std::array<FontPoint, 4>{{{8, 8}, {18, 8}, {18, 18}, {8, 18}}});
  std::vector<float> made(24 * 24 * 4), again(24 * 24 * 4);
  REQUIRE(rasterize_distance_channels(c, {}, {0, 0, 24, 24}, 4, made, scratch).has_value());
  unite(c);
  REQUIRE(rasterize_distance_channels(c, {}, {0, 0, 24, 24}, 4, again, scratch).has_value());
  CHECK(made == again);
  CHECK(made[(10 * 24 + 10) * 4 + 3] > 1);
  CHECK_FALSE(rasterize_distance_channels(c, {}, {0, 0, 24, 23}, 4, made, scratch).has_value());
  CHECK_FALSE(rasterize_distance_channels(c, {}, {0, 0, 24, 24}, 0, made, scratch).has_value());
  CHECK_FALSE(
      rasterize_distance_channels(c, {NAN, 0, 0, 1, 0, 0}, {0, 0, 24, 24}, 4, made, scratch).has_value());
}

TEST_CASE("nothing is half a pixel on the wrong side where one channel has it right",
          "[channels][property]") {
  const auto face = test::dejavu();
  const auto levels = GENERATE(255U, 65535U);
  for (const float size : {12.0F, 17.0F, 32.0F, 48.0F}) {
    for (std::uint32_t g = 3; g < 900; g += 7 * test::kStride) {
      Contours c;
      REQUIRE(face->read_outline(GlyphId{g}, c).has_value());
      if (c.commands.empty()) continue;
      unite(c);
      INFO("glyph " << g << " at " << size);
      CHECK(wrong_samples(c, size / 2048, levels).farthest <= 0.5F);
    }
  }
  Contours guillemet;  // whose two angles come within a texel of each other
  REQUIRE(face->read_outline(GlyphId{451}, guillemet).has_value());
  unite(guillemet);
  CHECK(wrong_samples(guillemet, 32.0F / 2048, levels).farthest <= 0.5F);
}
