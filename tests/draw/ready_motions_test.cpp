// SPDX-License-Identifier: MIT
// Ready-made motions: what each does to letters, what is made of several, how far labels reach by them.
#include "grafema/draw/ready_motions.hpp"

#include <catch2/catch.hpp>

#include "grafema/atlas/bake.hpp"
#include "render/software/scene_quads.hpp"
#include "support/scene.hpp"

using namespace grafema;
using detail::GlyphQuad;

namespace {

constexpr View kReadyMotionsView{.width = 1600, .height = 1200};

/// Where the letters of a moving word are.
struct Moved {
  test::Scene scene{test::atlas_of(test::dejavu(), PictureKind::distance, 32)};
  Label label = scene.words.add("nnnn");
  Motion moving;

  explicit Moved(const Motion& motion) : moving(motion) {
    label.set_size(64);
    label.move_to({700, 500});
    label.set_motion(motion);
  }
  std::vector<GlyphQuad> at(double seconds) {
    REQUIRE(scene.words.update(kReadyMotionsView, seconds).has_value());
    const SceneMemory& memory = scene.words.memory();
    std::vector<GlyphQuad> out;
    for (const SceneBatch& batch : memory.batches()) {
      for (const std::uint32_t entry : memory.order().subspan(batch.first, batch.count)) {
        const auto found = detail::find_scene_quad(memory, entry, batch);
        if (found) out.push_back(found->quad);
      }
    }
    REQUIRE(out.size() == 4);
    return out;
  }
  std::vector<GlyphQuad> at_rest() {
    label.set_motion({});
    auto out = at(0);
    label.set_motion(moving);
    return out;
  }
};

PixelPoint middle_of(const GlyphQuad& q) {
  return {(q.origin[0] + (q.across[0] + q.down[0]) / 2 + 1) / 2 * kReadyMotionsView.width,
          (1 - q.origin[1] - (q.across[1] + q.down[1]) / 2) / 2 * kReadyMotionsView.height};
}
float wide(const GlyphQuad& q) {
  return std::hypot(q.across[0] * kReadyMotionsView.width, q.across[1] * kReadyMotionsView.height) / 2;
}
float high(const GlyphQuad& q) {
  return std::hypot(q.down[0] * kReadyMotionsView.width, q.down[1] * kReadyMotionsView.height) / 2;
}

}  // namespace

TEST_CASE("every ready-made motion moves letters, within what its label says, and goes on smoothly",
          "[motion][property]") {
  for (const std::string_view name : motion_names()) {
    INFO(name);
    const Motion motion = *read_motion(name);
    CHECK(static_cast<bool>(motion) == (name != "still"));
    Moved moved(motion);
    const std::vector<GlyphQuad> rest = moved.at_rest();
    bool changes = false;
    std::vector<GlyphQuad> before = moved.at(0);
    for (int step = 1; step <= 300; ++step) {
      const std::vector<GlyphQuad> now = moved.at(step / 100.0);
      for (std::size_t i = 0; i < 4; ++i) {
        const PixelPoint a = middle_of(now[i]), b = middle_of(before[i]), r = middle_of(rest[i]);
        changes = changes || std::hypot(a.x - r.x, a.y - r.y) > 1 || now[i].tint != rest[i].tint ||
                  now[i].across != rest[i].across;
        // In a hundredth of a second no letter goes half its size, but where steps and shakes are meant.
        if (name != "rattle" && name != "stairs") CHECK(std::hypot(a.x - b.x, a.y - b.y) < 32);
        CHECK(std::hypot(a.x - r.x, a.y - r.y) < 64 * 4);
      }
      before = now;
    }
    CHECK(changes == (name != "still"));
  }
}

TEST_CASE("letters hop up and come down, hang from above, stretch on their baseline", "[motion]") {
  SECTION("hop") {
    Moved moved(hop(0.5F, 1));
    const auto rest = moved.at_rest(), top = moved.at(0.25), ground = moved.at(0.5);
    CHECK(middle_of(top[0]).y < middle_of(rest[0]).y - 30);
    CHECK(middle_of(ground[0]).y == Approx(middle_of(rest[0]).y).margin(0.01));
    CHECK(middle_of(top[1]).y > middle_of(top[0]).y);  // it comes after the first
  }
  SECTION("lantern") {
    Moved moved(lantern(20, 1));
    const auto rest = moved.at_rest(), left = moved.at(0.25), right = moved.at(0.75);
    // An em above the baseline nothing moves: letters go to the sides, and a little up.
    CHECK(middle_of(left[0]).x < middle_of(rest[0]).x - 5);
    CHECK(middle_of(right[0]).x > middle_of(rest[0]).x + 5);
    CHECK(std::abs(middle_of(left[0]).y - middle_of(rest[0]).y) < 5);
  }
  SECTION("stretch") {
    Moved moved(stretch(0.4F, 1));
    const auto rest = moved.at_rest(), tall = moved.at(0.25), flat = moved.at(0.75);
    CHECK(high(tall[0]) == Approx(1.4 * high(rest[0])).epsilon(0.01));
    CHECK(wide(tall[0]) == Approx(0.8 * wide(rest[0])).epsilon(0.01));
    CHECK(high(flat[0]) == Approx(0.6 * high(rest[0])).epsilon(0.01));
  }
  SECTION("spin") {
    Moved moved(spin(4));
    const auto quarter = moved.at(1);
    CHECK(std::abs(quarter[0].across[0]) < 1e-4);
    CHECK(middle_of(quarter[0]).x == Approx(middle_of(moved.at_rest()[0]).x).margin(0.01));
  }
}

TEST_CASE("letters fade in one after the other, and scattered ones end where they belong", "[motion]") {
  Moved fading(fade(0.5));
  const auto begin = fading.at(0), later = fading.at(0.4), end = fading.at(5);
  CHECK(begin[0].tint[3] == 0);
  CHECK(later[0].tint[3] > later[1].tint[3]);
  CHECK(later[1].tint[3] > later[3].tint[3]);
  CHECK(end[3].tint[3] == 255);
  Moved coming(scatter());
  const auto rest = coming.at_rest(), from = coming.at(0), there = coming.at(4);
  CHECK(std::hypot(middle_of(from[0]).x - middle_of(rest[0]).x, middle_of(from[0]).y - middle_of(rest[0]).y) >
        10);
  for (std::size_t i = 0; i < 4; ++i) {
    CHECK(middle_of(there[i]).x == Approx(middle_of(rest[i]).x).margin(0.01));
    CHECK(middle_of(there[i]).y == Approx(middle_of(rest[i]).y).margin(0.01));
  }
}

TEST_CASE("a gleam runs over dim letters", "[motion]") {
  Moved moved(shimmer({0.5F, 0.5F, 0.5F, 1}, 1));
  CHECK(moved.at(0.9)[0].tint[0] == 128);
  CHECK(moved.at(1.0 / 6)[0].tint[0] == 255);
}

TEST_CASE("a whole label moves as one", "[motion]") {
  for (const char* name : {"whole rattle", "whole swell", "whole spin", "whole sway", "whole scatter"}) {
    INFO(name);
    Moved moved(*read_motion(name));
    const auto rest = moved.at_rest(), now = moved.at(0.3);
    // Distances between letters are all changed alike.
    const auto between = [](const std::vector<GlyphQuad>& q, std::size_t i) {
      const PixelPoint a = middle_of(q[i]), b = middle_of(q[i + 1]);
      return std::hypot(a.x - b.x, a.y - b.y);
    };
    const float first = between(now, 0) / between(rest, 0);
    for (std::size_t i = 1; i < 3; ++i)
      CHECK(between(now, i) / between(rest, i) == Approx(first).epsilon(0.001));
    CHECK(now[0].origin != rest[0].origin);
  }
}

TEST_CASE("motions are composed and chained", "[motion]") {
  const Motion both[] = {sway(), shimmer()};
  CHECK(composed(both)->terms().size() == 3);
  const auto written = read_motion(" sway + shimmer");
  REQUIRE(written.has_value());
  CHECK(std::equal(written->terms().begin(), written->terms().end(), composed(both)->terms().begin()));
  const std::vector<Motion> many(9, sway());
  CHECK_FALSE(composed(many).has_value());
  const Motion by_hand[] = {Motion([](const MotionInput&, GlyphChange&) {})};
  CHECK_FALSE(composed(by_hand).has_value());
  // Still for a second, then a hop, then spinning.
  const MotionKey keys[] = {{Motion(), 1}, {hop(0.5F, 1), 1}, {spin(4), 10}};
  Moved moved(*keyed(keys));
  const auto rest = moved.at_rest();
  CHECK(moved.at(0.6)[0].origin == rest[0].origin);
  CHECK(middle_of(moved.at(1.25)[0]).y < middle_of(rest[0]).y - 30);
  CHECK(std::abs(moved.at(3)[0].across[0]) < 1e-4);  // a quarter of a turn
  // What comes in by a later key does not hide letters before.
  const MotionKey fading[] = {{Motion(), 1}, {fade(0.5), 2}};
  Moved late(*keyed(fading));
  CHECK(late.at(0.5)[0].tint[3] == 255);
  CHECK(late.at(1.01)[0].tint[3] < 30);
  for (const double seconds : {0.0, -1.0, std::nan(""), 1.0 / 0.0}) {
    const MotionKey bad[] = {{sway(), seconds}};
    CHECK_FALSE(keyed(bad).has_value());
  }
}

TEST_CASE("names of motions that are not there are told with the nearest", "[motion]") {
  CHECK_THAT(describe(read_motion("lanttern").error()), Catch::Contains("did you mean 'lantern'?"));
  CHECK_THAT(describe(read_motion("sway+hopp").error()), Catch::Contains("did you mean 'hop'?"));
  for (const char* wrong : {"", "+", "whole", "whole whole sway", "sway+"}) {
    INFO(wrong);
    CHECK_FALSE(read_motion(wrong).has_value());
  }
  MotionBook book;
  book.set("mine", spin(1));
  CHECK(book.read("whole mine+sway")->terms().size() == 3);
}

TEST_CASE("numbers that no motion can have give one that changes nothing", "[motion]") {
  CHECK_FALSE(static_cast<bool>(spin(0)));
  CHECK_FALSE(static_cast<bool>(sway(std::nanf(""))));
  CHECK_FALSE(static_cast<bool>(rattle(0.1F, 0)));
  CHECK_FALSE(static_cast<bool>(fade(-1)));
}

TEST_CASE("a tally runs up and ends at its number", "[motion]") {
  CHECK(tally(10, 20, -1) == 10);
  CHECK(tally(10, 20, 0) == 10);
  CHECK(tally(10, 20, 1.5) == 20);
  CHECK(tally(10, 20, 1e9) == 20);
  CHECK(tally(10, 20, 1, 0) == 20);
  double before = 10;
  for (int i = 1; i < 15; ++i) {
    const double now = tally(10, 20, i / 10.0);
    CHECK(now > before);
    before = now;
  }
}

TEST_CASE("numbers of ready-made motions are set by their names", "[motion]") {
  const auto same = [](const Result<Motion>& read, const Motion& made) {
    REQUIRE(read.has_value());
    const Motion& motion = *read;
    REQUIRE(!motion.terms().empty());
    return std::equal(motion.terms().begin(), motion.terms().end(), made.terms().begin(), made.terms().end());
  };
  CHECK(same(read_motion("swell(period=1.2)"), swell(0.18F, 1.2)));
  CHECK_FALSE(same(read_motion("swell(period=1.2)"), swell()));
  CHECK(same(read_motion("hop( height = 0.2, period=3 )"), hop(0.2F, 3)));
  CHECK(same(read_motion("whole swell(growth=0.3)+shimmer"),
             *composed(std::vector<Motion>{as_whole(swell(0.3F)), shimmer()})));
  CHECK(same(MotionBook().read("fade(seconds=2)"), fade(2)));
  for (const char* wrong :
       {"swell(period)", "swell(reach=1)", "swell(period=x)", "spin(period=2", "still(period=1)",
        "swell(period=1,,growth=2)", "swell(period=-1)", "swell(period=nan)"}) {
    INFO(wrong);
    CHECK_FALSE(read_motion(wrong).has_value());
  }
  CHECK(ready_motions().size() == motion_names().size());
  for (const MotionFacts& facts : ready_motions()) CHECK(read_motion(facts.name).has_value());
}
