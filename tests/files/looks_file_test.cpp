// SPDX-License-Identifier: MIT
// Looks files: layers, bases, units, and what is refused.
#include <algorithm>
#include <catch2/catch.hpp>

#include "support/support.hpp"

using namespace grafema;

namespace {

FileResult<std::vector<NamedLook>> loaded(const std::string& looks) {
  const test::Folder folder;
  REQUIRE(save_text(folder.path("l.json"), R"({"format":"grafema-looks","version":1,"looks":)" + looks + "}")
              .has_value());
  return load_looks(folder.path("l.json"));
}

}  // namespace

TEST_CASE("the looks of the interface page are read", "[looks_file]") {
  const auto looks = loaded(
      R"({"sign": {"opacity": 0.5, "layers": [{"shift": [2, 3], "grow": 2, "blur": 4, "fill": "#000a"}, {"grow": 2, "hollow": true, "fill": "#1b2350"},
    {"fill": ["#fdf3d0", "#fdf3d0", "#f2b33d", "#f2b33d"]}]}, "late": {"based_on": "sign", "layers": [{"at": 2, "fill": "#d9514a"}, {"unit": "px"}]}})");
  REQUIRE(looks.has_value());
  const Look& sign = (*looks)[0].look;
  CHECK(sign.count == 3);
  CHECK(sign.opacity == 0.5F);
  CHECK(sign.layers[0].shift == PixelPoint{2, 3});
  CHECK(sign.layers[1].hollow);
  CHECK(to_string(sign.layers[2].fill.corners[3]) == "#f2b33d");
  const Look& late = (*looks)[1].look;
  CHECK(late.count == 4);
  CHECK(late.opacity == 0.5F);
  CHECK(late.layers[0] == sign.layers[0]);
  CHECK(to_string(late.layers[2].fill.corners[1]) == "#d9514a");
}

TEST_CASE("ems become pixels with the size of the text", "[looks_file]") {
  const auto looks =
      loaded(R"({"big": {"unit": "em", "layers": [{"shift": [0.1, 0], "grow": 0.05, "blur": 0.02}]}})");
  REQUIRE(looks.has_value());
  const Look pixels = in_pixels((*looks)[0].look, 200);
  CHECK(pixels.layers[0].grow == Approx(10));
  CHECK(pixels.layers[0].shift.x == Approx(20));
  CHECK(required_reach(pixels, 32) == Approx(14.5F));
}

TEST_CASE("wrong looks name themselves", "[looks_file]") {
  const auto [text, named] = GENERATE(table<std::string, std::string>(
      {{R"({"a": 1})", "'a'"},
       {R"({"a": {}})", "'a'"},
       {R"({"a": {"layers": [{"fill": "ambre"}]}})", "'a'"},
       {R"({"a": {"layers": [{"grow": 1e9}]}})", "grow"},
       {R"({"a": {"layers": [{"blur": -1}]}})", "blur"},
       {R"({"a": {"layers": [{"shift": 3}]}})", "shift"},
       {R"({"a": {"layers": [{"at": 3}]}})", "at"},
       {R"({"sign": {"layers": [{}]}, "a": {"based_on": "sing"}})", "did you mean 'sign'"},
       {R"({"a": {"based_on": "b"}, "b": {"based_on": "a"}})", "not based on itself"},
       {R"({"a": {"layers": [{},{},{},{},{},{},{},{},{}]}})", "eight"},
       {R"({"a": {"unit": "cm", "layers": [{}]}})", "unit"}}));
  const auto looks = loaded(text);
  REQUIRE_FALSE(looks.has_value());
  CHECK_THAT(describe(looks.error()), Catch::Contains(named));
}

TEST_CASE("one look is found by FILE#NAME, the nearest name is offered", "[looks_file]") {
  const std::string file = GRAFEMA_SOURCE_DIR "/data/demo/looks.json";
  CHECK(load_look(file + "#sign")->count == 2);
  CHECK_THAT(describe(load_look(file + "#sing").error()), Catch::Contains("did you mean 'sign'?"));
}

TEST_CASE("looks based on each other are read once each, at most 64 deep", "[looks_file]") {
  const auto chain = [](int length) {
    std::string text = R"({"format": "grafema-looks", "version": 1, "looks": {"l0": {"layers": [{}]})";
    for (int i = 1; i < length; ++i) {
      text += ", \"l" + std::to_string(i) + R"(": {"based_on": "l)" + std::to_string(i - 1) + "\"}";
    }
    return text + "}}";
  };
  CHECK(read_looks(chain(60)).has_value());
  const auto forward = read_looks(chain(5000));  // each is based on one that was read before
  REQUIRE(forward.has_value());
  CHECK(forward->size() == 5000);
  std::string backward = R"({"format": "grafema-looks", "version": 1, "looks": {)";
  for (int i = 5000; i > 0; --i) {
    backward += "\"l" + std::to_string(i) + R"(": {"based_on": "l)" + std::to_string(i - 1) + "\"}, ";
  }
  const auto deep = read_looks(backward + R"("l0": {"layers": [{}]}}})");
  REQUIRE_FALSE(deep.has_value());
  CHECK_THAT(describe(deep.error()), Catch::Contains("64 deep"));
}

TEST_CASE("fields that are not known are noted with the nearest, wrong types named", "[looks_file]") {
  Notes notes;
  const auto looks = read_looks(
      R"({"format": "grafema-looks", "version": 1, "author": "x", "looks": {"a": {"opactiy": 1, "layers": [{"groww": 2}]}}})",
      &notes);
  REQUIRE(looks.has_value());
  REQUIRE(notes.all().size() == 3);
  CHECK_THAT(describe(notes.all()[0]), Catch::Contains("'author'"));
  CHECK_THAT(describe(notes.all()[1]), Catch::Contains("'opactiy'") && Catch::Contains("'opacity'"));
  CHECK_THAT(describe(notes.all()[2]), Catch::Contains("'groww'") && Catch::Contains("'grow'"));
  const auto error = [](const char* layer) {
    const auto read =
        read_looks(std::string(R"({"format": "grafema-looks", "version": 1, "looks": {"a": {"layers": [)") +
                   layer + "]}}}");
    REQUIRE_FALSE(read.has_value());
    return describe(read.error());
  };
  CHECK_THAT(error(R"({"grow": "2"})"), Catch::Contains("\"2\"") && Catch::Contains("'grow'"));
  CHECK_THAT(error(R"({"hollow": "yes"})"), Catch::Contains("true or false"));
}

TEST_CASE("a file of looks fills a book", "[looks_file]") {
  LookBook book;
  REQUIRE(load_looks(GRAFEMA_SOURCE_DIR "/data/demo/looks.json", book).has_value());
  CHECK(book.read("sign-late").has_value());
  const std::size_t size = book.size();
  REQUIRE(load_looks(GRAFEMA_SOURCE_DIR "/data/demo/looks.json", book).has_value());
  CHECK(book.size() == size);
  CHECK_FALSE(load_looks("nowhere.json", book).has_value());
}

TEST_CASE("every field of a layer and a fill is read", "[looks_file]") {
  Notes notes;
  const auto looks = load_looks(GRAFEMA_SOURCE_DIR "/data/demo/effects.json", &notes);
  if (!looks) FAIL(describe(looks.error()));
  CHECK(notes.empty());
  const auto find = [&](std::string_view name) {
    return std::find_if(looks->begin(), looks->end(),
                        [&](const NamedLook& look) { return look.name == name; })
        ->look;
  };
  CHECK(find("brass").layers[2].fill.box == FillBox::line);
  CHECK(find("brass").layers[3].inset);
  CHECK(find("aurora").layers[1].fill.mixed_in == MixSpace::oklab);
  CHECK(find("long-afternoon").layers[0].sweep == PixelPoint{0.45F, 0.34F});
  CHECK(find("stencil").layers[0].dash == 0.16F);
  CHECK(find("crate").layers[0].sharp);
  REQUIRE(find("crate").layers[1].fill.image != nullptr);
  CHECK(find("crate").layers[1].fill.image->width() == 128);
  CHECK(find("carved").layers[2].grow == find("carved").layers[2].line);
  CHECK(find("neon").layers[3].grow == 0);
}

TEST_CASE("parameters have defaults, and are set at run time", "[looks_file]") {
  LookBook book;
  REQUIRE(load_looks(GRAFEMA_SOURCE_DIR "/data/demo/effects.json", book).has_value());
  const LookId sign = *book.read("team-sign");
  CHECK(to_string(book.get(sign).layers[2].fill.stops[1].color) == "#d9514a");
  CHECK(book.get(sign).layers[1].grow == 0.05F);
  REQUIRE(book.set_parameter("team", *read_color("#2f6fd0")).has_value());
  REQUIRE(book.set_parameter("edge", 0.08F).has_value());
  CHECK(to_string(book.get(sign).layers[2].fill.stops[1].color) == "#2f6fd0");
  CHECK(book.get(sign).layers[1].grow == 0.08F);
}

TEST_CASE("a look that is based on one with parameters keeps those that it says nothing of", "[looks_file]") {
  const auto read =
      read_looks(R"({"format": "grafema-looks", "version": 1, "parameters": {"c": "#123456", "w": 3},
    "looks": {"a": {"layers": [{"grow": "$w", "fill": ["$c", "red", "$c", "red"]}]},
              "b": {"based_on": "a", "layers": [{"at": 0, "fill": "white"}]}}})");
  REQUIRE(read.has_value());
  CHECK((*read)[0].parameters.size() == 3);
  REQUIRE((*read)[1].parameters.size() == 1);
  CHECK((*read)[1].parameters[0].target == LookTarget::grow);
  CHECK(to_string((*read)[0].look.layers[0].fill.corners[2]) == "#123456");
}

TEST_CASE("wrong fills, outlines and parameters name themselves", "[looks_file]") {
  const auto [layer, named] = GENERATE(table<std::string, std::string>(
      {{R"({"fill": "$teem"})", "did you mean 'team'"},
       {R"j({"fill": "linear-gradient($none, red)"})j", "$none"},
       {R"({"grow": "$team"})", "$team"},
       {R"({"fill": {"css": "red", "corners": []}})", "one of css, corners and image"},
       {R"j({"fill": {"css": "linear-gradient(red)"}})j", "two colors"},
       {R"({"fill": {"css": "red", "box": "word"}})", "\"glyph\""},
       {R"({"fill": {"image": "there-is-none.png"}})", "there-is-none.png"},
       {R"({"fill": {"image": 7}})", "image"},
       {R"({"outline": {"width": 1, "place": "above"}})", "\"centered\""},
       {R"({"outline": -2})", "outline"},
       {R"({"dash": [1]})", "dash"},
       {R"({"sweep": [1, "x"]})", "sweep"},
       {R"({"line": 1e30})", "line"},
       {R"({"join": 1})", "join"},
       {R"({"surface": {"grain": "stone"}})", "grain"},
       {R"({"surface": {"grain": {"image": "none.png"}}})", "none.png"},
       {R"({"surface": {"mirror": {"strength": 1}}})", "mirror"},
       {R"({"inset": 1})", "inset"}}));
  CAPTURE(layer);
  const auto read =
      read_looks(R"({"format": "grafema-looks", "version": 1, "parameters": {"team": "red", "w": 1},
    "looks": {"a": {"layers": [)" +
                 layer + "]}}}");
  REQUIRE_FALSE(read.has_value());
  CHECK_THAT(describe(read.error()), Catch::Contains(named));
  CHECK_THAT(describe(read.error()), Catch::Contains("'a'"));
}

TEST_CASE("looks are filled with the images that a game hands over", "[looks_file]") {
  Image image = *Image::make(2, 2, PixelFormat::rgb8);
  const auto stone = *FillImage::make(image);
  const auto read = read_looks(R"({"format": "grafema-looks", "version": 1, "looks": {"a": {"layers": [
    {"fill": {"image": "stone", "fit": "contain", "repeat": false, "scale": [2, 3], "offset": [1, 2], "scroll": [4, 5],
              "slices": [1, 2, 3, 4], "tint": "#8080ff"}, "join": true,
     "surface": {"width": 2, "grain": {"image": "stone", "scale": 3, "strength": -2}, "mirror": {"image": "stone", "strength": 0.25}}}]}}})",
                               nullptr, {{"stone", stone}});
  REQUIRE(read.has_value());
  const Fill& fill = (*read)[0].look.layers[0].fill;
  CHECK(fill.image == stone);
  CHECK(fill.fit == ImageFit::contain);
  CHECK(fill.slices == std::array<float, 4>{1, 2, 3, 4});
  CHECK((*read)[0].look.layers[0].join);
  const Surface& surface = (*read)[0].look.layers[0].surface;
  CHECK((surface.grain == stone && surface.mirror == stone));
  CHECK(surface.grain_scale == 3);
  CHECK(surface.grain_strength == -2);
  CHECK(surface.mirror_strength == 0.25F);
  const auto wrong = read_looks(R"({"format": "grafema-looks", "version": 1, "looks": {"a": {"layers": [
    {"fill": {"image": "stone", "slices": [1, 2, 3]}}]}}})",
                                nullptr, {{"stone", stone}});
  REQUIRE_FALSE(wrong.has_value());
  CHECK_THAT(describe(wrong.error()), Catch::Contains("slices"));
  CHECK_FALSE(fill.repeats);
  CHECK(fill.scale == PixelPoint{2, 3});
  CHECK(fill.scroll == PixelPoint{4, 5});
  CHECK(to_string(fill.corners[0]) == "#8080ff");
}

TEST_CASE("the schema of looks names every field that is read", "[looks_file]") {
  const FileResult<std::string> schema = load_text(GRAFEMA_SOURCE_DIR "/docs/schema/looks.schema.json");
  REQUIRE(schema.has_value());
  for (const char* field :
       {"parameters", "based_on", "opacity", "unit",  "layers", "at",    "grow",    "blur",  "line",
        "dash",       "hollow",   "inset",   "shift", "sweep",  "sharp", "outline", "width", "place",
        "fill",       "css",      "corners", "image", "box",    "fit",   "repeat",  "scale", "offset",
        "scroll",     "tint",     "slices",  "join",  "grain",  "mirror"}) {
    CAPTURE(field);
    CHECK_THAT(*schema, Catch::Contains("\"" + std::string(field) + "\": {"));
  }
}
