// SPDX-License-Identifier: MIT
// Work grows at most as n log n with its input: valgrind counts instructions for n and for 4n.
#include <fmt/format.h>
#include <valgrind/callgrind.h>

#include <catch2/catch.hpp>

#include <cmath>
#include <fstream>
#include <functional>

#include "grafema/files/catalog_file.hpp"
#include "grafema/files/family_file.hpp"
#include "grafema/files/files.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/styles_file.hpp"
#include "grafema/files/svg_drawings.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/text/message_check.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/write/make_subset.hpp"
#include "support/font_builder.hpp"
#include "support/layout_builder.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

/// Instructions that `work` runs.
double count_instructions(const std::function<void()>& work) {
  static int dumps = 0;
  CALLGRIND_ZERO_STATS;
  work();
  CALLGRIND_DUMP_STATS_AT("work");
  const std::string path = fmt::format("{}/work-counts.{}", GRAFEMA_BINARY_DIR, ++dumps);
  std::ifstream file(path);
  double count = 0;
  for (std::string line; std::getline(file, line);) {
    if (line.rfind("summary:", 0) == 0 || line.rfind("totals:", 0) == 0) {
      count = std::stod(line.substr(line.find(' ')));
    }
  }
  file.close();
  std::filesystem::remove(path);
  return count;
}

/// Counts the work on an input of `n` pieces and on one of 4n. What is done once for all is done before.
void check_growth(std::size_t n, const std::function<std::function<void()>(std::size_t)>& prepare) {
  REQUIRE(RUNNING_ON_VALGRIND != 0);
  const std::function<void()> one = prepare(n), four = prepare(4 * n);
  one();
  const double small = count_instructions(one), large = count_instructions(four);
  REQUIRE(small > 10.0 * static_cast<double>(n));  // every piece was looked at
  const double linear = 4 * std::log2(4.0 * static_cast<double>(n)) / std::log2(static_cast<double>(n));
  INFO(fmt::format("{:.0f} instructions for {}, {:.0f} for {}", small, n, large, 4 * n));
  CHECK(large / small < linear * 1.1);
}

std::string repeated(std::string_view piece, std::size_t times) {
  std::string text;
  for (std::size_t i = 0; i < times; ++i) text += piece;
  return text;
}

/// `make(0)` to `make(n - 1)` one after the other, with commas if they are asked for.
std::string listed(std::size_t n, const std::function<std::string(std::size_t)>& make,
                   const char* between = ",") {
  std::string text;
  for (std::size_t i = 0; i < n; ++i) text += (i > 0 ? between : "") + make(i);
  return text;
}

std::function<void()> lays_out(const std::shared_ptr<const Face>& face, std::string text, bool wrapped) {
  return [face, text = std::move(text), wrapped] {
    ShapeCache cache;
    Paragraph paragraph;
    TextStyle style;
    style.size = 16;
    if (wrapped) style.wrap = 300;
    const FontStack stack{face};
    CHECK(lay_out(stack, text, style, cache, paragraph).has_value());
    CHECK(ink_box(stack, paragraph).width() >= 0);
  };
}

/// A face whose rules make eight letters of every 'a', eight times over.
std::shared_ptr<const Face> multiplying_face() {
  test::FontBuilder builder;
  constexpr int kA = 66;
  const auto lookup = test::make_lookup(
      2, {test::with_parts({1, -1, 1, -1},
                           {test::coverage({kA}), test::words({8, kA, kA, kA, kA, kA, kA, kA, kA})})});
  builder.table("GSUB") = test::simple_layout("ccmp", {0, 1, 2, 3, 4, 5, 6, 7}, std::vector(8, lookup));
  return builder.face();
}

std::shared_ptr<const Face> opened(const char* path) {
  const auto face = open_face(path);
  REQUIRE(face.has_value());
  return *face;
}

/// `n` squares beside each other, in font units.
Contours squares(std::size_t n) {
  Contours all;
  for (std::size_t i = 0; i < n; ++i) {
    const auto x = static_cast<float>(i % 100 * 9), y = static_cast<float>(i / 100 * 9);
    test::add_polygon(all, std::array<FontPoint, 4>{{{x, y}, {x, y + 5}, {x + 5, y + 5}, {x + 5, y}}});
  }
  return all;
}

}  // namespace

TEST_CASE("text of every kind lays out in time that its length tells", "[work]") {
  const auto dot = built_in_face(), sans = test::dejavu();
  const auto burmese = opened("/usr/share/fonts/truetype/padauk/Padauk-Regular.ttf");
  struct Kind {
    const char* name;
    std::shared_ptr<const Face> face;
    std::string piece;
    std::size_t times = 800;
  };
  const Kind kinds[] = {
      {"words", dot, "lantern "},
      {"one word", dot, "a"},
      {"tabs", dot, "\t"},
      {"letters and tabs", dot, "a\t"},
      {"marks", sans, "\u0301\u0323"},
      {"kinzi", burmese, "\u1004\u103a\u1039\u1000"},
      {"both directions", sans, "\u0628a"},
      {"embeddings", sans, "\u202aa"},
      {"isolates", sans, "\u2067a\u2069"},
      {"brackets", sans, "(\u0628"},
      {"lines", dot, "\n"},
      {"joined signs", sans, "\u2764\u200d"},
      {"letters that multiply", multiplying_face(), "a", 200},
  };
  for (const Kind& kind : kinds) {
    for (const bool wrapped : {false, true}) {
      INFO(kind.name << (wrapped ? ", wrapped" : ""));
      check_growth(kind.times,
                   [&](std::size_t n) { return lays_out(kind.face, repeated(kind.piece, n), wrapped); });
    }
  }
}

TEST_CASE("markup is read and shown in time that its length tells", "[work]") {
  const auto reads = [](std::string text) {
    return [text = std::move(text)] { CHECK(!markup_or_plain(text).text.empty()); };
  };
  SECTION("spans") {
    check_growth(600, [&](std::size_t n) { return reads(repeated("<b>a</b>b", n)); });
  }
  SECTION("classes that nobody knows") {
    check_growth(600, [&](std::size_t n) {
      return reads(listed(
          n, [](std::size_t i) { return fmt::format("<span class=\"c{}\">a</span>", i); }, ""));
    });
  }
  SECTION("attributes of one element") {
    check_growth(600, [&](std::size_t n) {
      return reads("<span " +
                   listed(
                       n, [](std::size_t i) { return fmt::format("k{}=\"1\"", i); }, " ") +
                   ">a</span>");
    });
  }
  SECTION("motions, each another") {
    check_growth(300, [](std::size_t n) {
      const RichText text = markup_or_plain(listed(
          n, [](std::size_t i) { return fmt::format("<span motion=\"swell(period=1.{:06})\">a</span>", i); },
          ""));
      return std::function<void()>([text, atlas = test::atlas_of(built_in_face())] {
        test::Scene scene(atlas);
        scene.words.add().set_rich(text);
        REQUIRE(scene.words.update({.width = 400, .height = 100}, 0).has_value());
        CHECK(test::drawn_glyphs(scene.words.memory()) == text.text.size());
      });
    });
  }
}

TEST_CASE("documents are read in time that their size tells", "[work]") {
  SECTION("looks") {
    check_growth(300, [](std::size_t n) {
      const std::string text =
          R"({"format":"grafema-looks","version":1,"looks":{)" +
          listed(n, [](std::size_t i) { return fmt::format(R"("l{}":{{"layers":[{{}}]}})", i); }) + "}}";
      return std::function<void()>([text] { CHECK(read_looks(text).has_value()); });
    });
  }
  SECTION("looks that build on one") {
    check_growth(300, [](std::size_t n) {
      const std::string text =
          R"({"format":"grafema-looks","version":1,"looks":{"l":{"layers":[{}]},)" +
          listed(n, [](std::size_t i) { return fmt::format(R"("l{}":{{"based_on":"l"}})", i); }) + "}}";
      return std::function<void()>([text] { CHECK(read_looks(text).has_value()); });
    });
  }
  SECTION("styles") {
    check_growth(300, [](std::size_t n) {
      const std::string text =
          R"({"format":"grafema-styles","version":1,"styles":{)" +
          listed(n, [](std::size_t i) { return fmt::format(R"("s{}":{{"size":12}})", i); }) + "}}";
      return std::function<void()>([text] { CHECK(read_styles(text).has_value()); });
    });
  }
  SECTION("features of a style") {
    check_growth(600, [](std::size_t n) {
      const std::string text =
          R"({"format":"grafema-styles","version":1,"styles":{"s":{"size":12,"features":{)" +
          listed(n, [](std::size_t i) { return fmt::format(R"("{:04}":1)", i); }) + "}}}}";
      return std::function<void()>([text] { CHECK(read_styles(text).has_value()); });
    });
  }
  SECTION("styles of a family") {
    check_growth(40, [](std::size_t n) {
      const std::string text =
          R"({"format":"grafema-family","version":1,"families":{"F":{"styles":{)" +
          listed(n,
                 [](std::size_t i) {
                   return fmt::format(R"("s{}":{{"weight":{},"built_in":true}})", i, 100 + i % 900);
                 }) +
          "}}}}";
      return std::function<void()>([text] {
        CHECK(read_families(text, [](const std::string&) -> Result<FontData> {
                return tl::unexpected(Error{});
              }).has_value());
      });
    });
  }
  SECTION("catalogs, one against the other") {
    check_growth(100, [](std::size_t n) {
      const auto messages = [&](const char* words) {
        return "{" + listed(n, [&](std::size_t i) { return fmt::format(R"("m{}":"{} {}")", i, words, i); }) +
               "}";
      };
      return std::function<void()>([source = messages("text"), other = messages("Text")] {
        const Catalog catalogs[] = {*read_json_catalog(source, "en"), *read_json_catalog(other, "de")};
        CHECK(check_messages(catalogs, {}).empty());
      });
    });
  }
  SECTION("PO") {
    check_growth(300, [](std::size_t n) {
      const std::string text = listed(
          n, [](std::size_t i) { return fmt::format("msgid \"m{}\"\nmsgstr \"text {}\"\n\n", i, i); }, "");
      return std::function<void()>([text, n] { CHECK(read_po_catalog(text, "de")->messages.size() == n); });
    });
  }
  SECTION("contours of a drawing") {
    check_growth(300, [](std::size_t n) {
      const std::string text =
          R"(<svg xmlns="http://www.w3.org/2000/svg"><g id="A"><path d=")" +
          listed(
              n, [](std::size_t i) { return fmt::format("M{} {}h5v5h-5z", i % 100 * 9, i / 100 * 9); }, "") +
          "\"/></g></svg>";
      return std::function<void()>([text] { CHECK(read_svg_drawings(text, SvgSheet::groups).has_value()); });
    });
  }
}

TEST_CASE("pictures of an outline take time that its contours tell", "[work]") {
  const auto paints = [](bool distance) {
    return [distance](std::size_t n) {
      return std::function<void()>([contours = squares(n), distance] {
        RasterScratch scratch;
        std::vector<float> out(64 * 64);
        const Transform map = Transform{0.07F, 0, 0, 0.07F, 0, 0};
        CHECK((distance ? rasterize_distance(contours, map, {0, 0, 64, 64}, 4, out, scratch)
                        : rasterize_coverage(contours, map, {0, 0, 64, 64}, out, scratch))
                  .has_value());
      });
    };
  };
  SECTION("coverage") { check_growth(300, paints(false)); }
  SECTION("distance") { check_growth(300, paints(true)); }
}

TEST_CASE("subsets take time that what they keep tells", "[work]") {
  const auto face = opened("/usr/share/fonts/opentype/ipaexfont-gothic/ipaexg.ttf");
  check_growth(200, [&](std::size_t n) {
    SubsetRecipe recipe;
    recipe.permit = true;
    for (std::size_t i = 0; i < n; ++i) recipe.characters.push_back(static_cast<char32_t>(0x4E00 + i));
    return std::function<void()>([face, recipe] { CHECK(make_subset(*face, recipe).has_value()); });
  });
}
