// SPDX-License-Identifier: MIT
// Steady frames take nothing from the heap: every call of malloc and its kin is counted in this program.
#include <malloc.h>
#include <sys/resource.h>

#include <atomic>
#include <cerrno>
#include <cstdlib>

namespace {
std::atomic<long> allocations{0};
}

extern "C" {
void* __libc_malloc(size_t);
void* __libc_calloc(size_t, size_t);
void* __libc_realloc(void*, size_t);
void* __libc_memalign(size_t, size_t);
void* malloc(size_t size) noexcept { return ++allocations, __libc_malloc(size); }
void* calloc(size_t count, size_t size) noexcept { return ++allocations, __libc_calloc(count, size); }
void* realloc(void* old, size_t size) noexcept { return ++allocations, __libc_realloc(old, size); }
void* memalign(size_t to, size_t size) noexcept { return ++allocations, __libc_memalign(to, size); }
void* aligned_alloc(size_t to, size_t size) noexcept { return ++allocations, __libc_memalign(to, size); }
int posix_memalign(void** out, size_t to, size_t size) noexcept {
  ++allocations;
  *out = __libc_memalign(to, size);
  return *out == nullptr ? ENOMEM : 0;
}
}

#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/draw/morph_text.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/text/reveal.hpp"
#include "grafema/text/shaped_text.hpp"
#include "support/scene.hpp"
#include "support/scripts.hpp"

using namespace grafema;

TEST_CASE("allocations are counted", "[allocation]") {
  const long before = allocations;
  std::string text(1000, 'x');
  CHECK(allocations > before);
}

TEST_CASE("a thousand frames of moving labels and changing numbers allocate nothing", "[allocation]") {
  test::Scene scene(test::atlas_of(test::dejavu()));
  Look look;
  look.add({.shift = {1, 2}, .grow = 1, .blur = 2});
  look.add({.grow = 1});
  look.add({});
  const LookId id = *scene.context.looks().set("sign", look);
  std::vector<Label> labels;
  for (int i = 0; i < 60; ++i) {
    labels.push_back(scene.words.add(i % 3 == 0 ? "" : "Wren Achterberg"));
    labels.back().set_look(id);
    if (i % 7 == 0) labels.back().set_motion(i % 2 == 0 ? sway() : rattle());
  }
  View view{.width = 1280, .height = 800};
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  const auto frame = [&](int number) {
    for (std::size_t i = 0; i < labels.size(); ++i) {
      Placement placement{.at = {static_cast<float>(number % 500), static_cast<float>(i) * 12},
                          .rotate = static_cast<float>(number)};
      if (i % 5 == 1) placement.kind = PlaceKind::world, placement.world = test::moved(0, 0, -5);
      labels[i].set_placement(placement);
      labels[i].set_opacity(static_cast<float>(number % 10) / 10);
      if (i % 4 == 1) labels[i].set_text(number % 2 == 0 ? "Ilse Varga, late" : "late, Ilse Varga");
      if (i % 3 == 0) labels[i].set_number(1000000 + number * 7.25, {.decimals = 2, .group = ','});
    }
    return scene.words.update(view, number / 60.0).has_value();
  };
  for (int i = 0; i < 20; ++i) REQUIRE(frame(i));
  const long before = allocations;
  bool good = true;
  for (int i = 20; i < 1020; ++i) good = frame(i) && good;
  const long after = allocations;
  CHECK(good);
  CHECK(after - before == 0);
}

TEST_CASE("a cache that has made pictures takes little from the heap for more", "[allocation][cache]") {
  const auto face = test::dejavu();
  GlyphCacheOptions options;
  options.frame_time = std::chrono::hours(1);
  options.frame_bytes = options.budget;
  options.first_page = options.largest_page;
  auto cache = *GlyphCache::make(options);
  REQUIRE(cache->add(face).has_value());
  const auto make = [&](std::uint32_t first, std::uint32_t count) {
    for (std::uint32_t g = first; g < first + count; ++g) {
      const GlyphKey key{face->id(), GlyphId{g}};
      GlyphPicture sprite;
      cache->resolve(std::span(&key, 1), std::span(&sprite, 1));
    }
  };
  cache->begin_frame();
  make(36, 200);
  const long before = allocations;
  make(236, 20);
  CHECK(cache->work().made >= 219);
  const long taken = allocations - before;
  INFO(taken << " for 20 pictures");
  CHECK(taken < 20 * 50);  // outlines and what unites them; the picture itself is painted into its page
}

TEST_CASE("frames of rich labels that move, reveal, count and are edited allocate nothing",
          "[allocation][rich_text]") {
  test::WhiteContext context(FontStack{test::dejavu()}, nullptr);
  REQUIRE(context.looks().set("late", plain_look({1, 0, 0, 1})).has_value());
  context.messages().add({"de", {{.id = "n", .pattern = "Linie {n}: {m} Minuten"}}});
  context.messages().set_language("de");
  SpanStyle late;
  late.look = "late", late.motion = "rattle", late.underline = true, late.font.weight = 700;
  RichText text;
  text.append("Last tram to ").append("Pale Orchard", late).append(" at Tinker's Weir");
  TextScene words(context);
  Label rich = words.add(), number = words.add(), message = words.add();
  rich.set_rich(text);
  message.set_message("n");
  message.set_value("m", 1234567);
  Reveal reveal;
  (void)rich.paragraph();
  reveal.start(text, rich.clusters(), {}, "en");
  const NumberFormat signs = number_format("ar-EG", 2);
  const View view{.width = 1280, .height = 800};
  const auto frame = [&](int i) {
    rich.set_revealed(i % 3 == 0 ? Label::kAll : static_cast<std::size_t>(i % 40));
    number.set_number(1000000 + i * 3.25, signs);
    message.set_value("n", i % 30);
    rich.move_to({static_cast<float>(i % 100), 50});
    return words.update(view, i / 60.0).has_value();
  };
  for (int i = 0; i < 200; ++i) REQUIRE(frame(i));
  const long before = allocations;
  bool good = true;
  for (int i = 200; i < 700; ++i) good = frame(i) && good;
  CHECK(good);
  CHECK(allocations - before == 0);
}

TEST_CASE("a thousand frames of a set that moves, counts, fades, scrolls and waves allocate nothing",
          "[allocation][set]") {
  test::Scene scene(test::atlas_of(test::dejavu(), PictureKind::distance_rgba));
  Look look;
  look.add({.shift = {1, 2}, .grow = 1, .blur = 2});
  look.add({});
  const LookId id = *scene.context.looks().set("sign", look);
  TextScene set(scene.context);
  const GroupId panel = set.add_group({.clip = *set.add_clip({.box = {20, 20, 400, 500}})});
  std::vector<Label> labels;
  std::vector<PixelPoint> places(60);
  for (int i = 0; i < 60; ++i) {
    labels.push_back(set.add(i % 3 == 0 ? "0" : "Wren Achterberg"));
    labels.back().set_look(id);
    if (i % 7 == 0) labels.back().set_motion(i % 2 == 0 ? sway() : rattle());
    if (i % 5 == 0) labels.back().set_group(panel);
  }
  labels[1].set_motion([](const MotionInput& in, GlyphChange& out) {
    out.rotate = static_cast<float>(in.seconds) * static_cast<float>(in.index);
  });
  View view{.width = 1280, .height = 800};
  view.projection = test::perspective(60, 1.6F, 0.1F, 100);
  const auto frame = [&](int number) {
    for (std::size_t i = 0; i < labels.size(); ++i) {
      places[i] = {static_cast<float>((number * 13) % 1500), static_cast<float>(i) * 12};
      labels[i].set_opacity(static_cast<float>(number % 10) / 10);
      if (i % 3 == 0) labels[i].set_number(1000000 + number * 7.25, {.decimals = 2, .group = ','});
      if (i % 4 == 1) labels[i].set_text(number % 2 == 0 ? "Ilse Varga, late" : "late, Ilse Varga");
    }
    labels[2].set_placement(
        {.kind = PlaceKind::world, .world = test::moved(0, 0, -5 - static_cast<float>(number % 9))});
    (void)set.set_group(panel, {.offset = {0, static_cast<float>(number % 40)}, .clip = ClipId{1}});
    view.content_scale = 1 + static_cast<float>(number % 3) / 8;
    return set.move(labels, places).has_value() && set.update(view, number / 60.0).has_value();
  };
  for (int i = 0; i < 60; ++i) REQUIRE(frame(i));
  const long before = allocations;
  bool good = true;
  for (int i = 60; i < 1060; ++i) good = good && frame(i);
  const long after = allocations;
  CHECK(good);
  CHECK(after - before == 0);
  CHECK(set.work().numbers > 10000);
}

TEST_CASE("a word that melts allocates nothing once every stage was shown", "[allocation][morph]") {
  const auto made =
      MorphText::make(FontStack{test::dejavu()}, {"Larkspur Halt", "Salt & Glass", "Tinsel Quay"},
                      {.style = {.size = 40}, .kind = PictureKind::distance});
  REQUIRE(made);
  MorphText& morph = **made;
  test::WhiteContext context(morph.fonts(), morph.source());
  TextScene set(context);
  Label label = set.add(morph.text());
  REQUIRE(label.set_style(morph.label_style()));
  const auto run = [&] {
    for (int frame = 0; frame <= 100; ++frame) {
      morph.show(static_cast<float>(frame) / 50);
      if (!set.update({}, frame / 60.0)) return false;
    }
    return true;
  };
  REQUIRE(run());
  REQUIRE(run());
  const long before = allocations;
  REQUIRE(run());
  CHECK(allocations == before);
}

TEST_CASE("a set that can't have the memory says so and goes on", "[allocation][set]") {
  test::WhiteContext context(FontStack{built_in_face()}, nullptr);
  TextScene set(context);
  Label label = set.add("Weir");
  rlimit before = {};
  REQUIRE(getrlimit(RLIMIT_AS, &before) == 0);
  rlimit small = before;
  small.rlim_cur = rlim_t{4} << 30U;
  REQUIRE(setrlimit(RLIMIT_AS, &small) == 0);
  const Result<void> reserved = set.reserve(TextScene::kMaxLabels, TextScene::kMaxGlyphs);
  REQUIRE(setrlimit(RLIMIT_AS, &before) == 0);
  REQUIRE_FALSE(reserved.has_value());
  CHECK(reserved.error().kind == ErrorKind::does_not_fit);
  REQUIRE(set.update({.width = 100, .height = 50}, 0).has_value());
  CHECK(set.memory().batches().size() == 1);
  CHECK(label.valid());
}

TEST_CASE("a million labels are added, drawn, moved and removed", "[allocation][set]") {
  test::WhiteContext context(FontStack{built_in_face()}, nullptr);
  TextScene set(context);
  constexpr std::size_t kMany = 1000000;
  REQUIRE(set.reserve(kMany, kMany * 4).has_value());
  std::vector<Label> labels;
  std::vector<PixelPoint> places;
  for (std::size_t i = 0; i < kMany; ++i) {
    labels.push_back(set.add("7"));
    places.push_back({static_cast<float>(i % 1000), static_cast<float>(i / 1000)});
  }
  REQUIRE(set.move(labels, places).has_value());
  const View view{.width = 1000, .height = 1000};
  REQUIRE(set.update(view, 0).has_value());
  CHECK(set.size() == kMany);
  std::size_t drawn = 0;
  for (const SceneBatch& batch : set.memory().batches()) drawn += batch.count;
  CHECK(drawn >= kMany);
  labels[kMany - 1].set_number(8);
  REQUIRE(set.update(view, 1).has_value());
  IndexRange ranges[4];
  CHECK(set.memory().changes_since(SceneTable::rows, set.memory().revision() - 1, ranges) <= 1);
  for (std::size_t i = 0; i < kMany; i += 2) labels[i].remove();
  REQUIRE(set.update(view, 2).has_value());
  CHECK(set.size() == kMany / 2);
  CHECK(labels[1].valid());
}

TEST_CASE("words of scripts with syllables allocate nothing once the shaper is warm", "[allocation]") {
  for (const char* name : {"Devanagari", "Khmer", "Myanmar", "Tibetan"}) {
    const test::ScriptFace& script = test::script_face(name);
    const auto face = test::face_of(script);
    std::mt19937 random(77);
    std::vector<std::string> texts;
    for (int i = 0; i < 40; ++i) {
      std::string text;
      for (int word = 0; word < 8; ++word) text += test::random_syllables(script, *face, random) + " ";
      texts.push_back(text);
    }
    const FontStack stack{face};
    ShapeCache cache;
    ShapedText shaped;
    Paragraph paragraph;
    const auto round = [&] {
      for (const std::string& text : texts) {
        REQUIRE(shaped.set(stack, text, {}, cache).has_value());
        REQUIRE(shaped.lay_out({}, cache, paragraph).has_value());
      }
    };
    round();
    round();
    const long before = allocations;
    for (const std::string& text : texts) {
      (void)shaped.set(stack, text, {}, cache);
      (void)shaped.lay_out({}, cache, paragraph);
    }
    const long taken = allocations - before;
    INFO(name);
    CHECK(taken == 0);
  }
}
