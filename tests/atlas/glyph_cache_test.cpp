// SPDX-License-Identifier: MIT
// The live cache: right pictures, budgets kept, pages forgotten, changes told.
#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/atlas/bake.hpp"

#include <catch2/catch.hpp>
#include <cstring>
#include <map>
#include <set>

#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

GlyphCacheOptions small_options() {
  GlyphCacheOptions o;
  o.kind = PictureKind::distance;
  o.size = 24, o.reach = 3;
  o.first_page = {64, 64}, o.largest_page = {128, 128};
  o.budget = 3 * 128 * 128;
  o.frame_time = std::chrono::seconds(10);
  o.bars = false;
  return o;
}

std::unique_ptr<GlyphCache> cache_of(const std::shared_ptr<const Face>& face,
                                     const GlyphCacheOptions& options) {
  auto cache = GlyphCache::make(options);
  REQUIRE(cache.has_value());
  REQUIRE((*cache)->add(face).has_value());
  return *std::move(cache);
}

/// The pictures that a bake makes, by glyph: what the cache must show.
class Reference {
 public:
  /// Of these characters, or of all glyphs.
  Reference(const std::shared_ptr<const Face>& face, PictureKind kind, float size, float reach,
            std::u32string_view characters = {}) {
    AtlasRecipe recipe;
    recipe.faces = {face};
    recipe.all_glyphs = characters.empty();
    recipe.characters = {characters.begin(), characters.end()};
    recipe.kind = kind, recipe.size = size, recipe.reach = reach;
    atlas_ = *bake(recipe);
    for (const AtlasGlyph& glyph : atlas_.glyphs) glyphs_[glyph.glyph] = &glyph;
  }

  bool matches(const GlyphCache& cache, GlyphId id, const GlyphPicture& sprite) const {
    const AtlasGlyph& glyph = *glyphs_.at(id);
    if (sprite.state == PictureState::empty) return !glyph.page.has_value();
    if (sprite.state != PictureState::ready || !glyph.page || !(sprite.offset == glyph.offset)) return false;
    if (sprite.cell[2] != glyph.cell.width || sprite.cell[3] != glyph.cell.height) return false;
    const ImageView page = cache.pixels(sprite.page);
    const Image& baked = atlas_.pages[*glyph.page].image;
    const std::size_t pixel = bytes_per_pixel(page.format);
    for (int y = 0; y < glyph.cell.height; ++y) {
      const std::uint8_t* a = page.row(sprite.cell[1] + y) + sprite.cell[0] * pixel;
      const std::uint8_t* b = baked.row(glyph.cell.y + y) + static_cast<std::size_t>(glyph.cell.x) * pixel;
      if (std::memcmp(a, b, static_cast<std::size_t>(glyph.cell.width) * pixel) != 0) return false;
    }
    return true;
  }

 private:
  Atlas atlas_;
  std::map<GlyphId, const AtlasGlyph*> glyphs_;
};

/// Keys of random words, some of them shown for many frames.
struct Chatter {
  std::mt19937 random{3};
  FaceId face;
  std::uint32_t glyph_count;
  std::vector<std::vector<GlyphKey>> lines;

  std::vector<GlyphKey> word() {
    std::vector<GlyphKey> keys(3 + random() % 6);
    const std::uint32_t from = random() % (glyph_count - 40);
    for (GlyphKey& key : keys) key = {face, GlyphId{static_cast<std::uint32_t>(from + random() % 40)}};
    return keys;
  }
  void change() {
    if (lines.size() < 4) lines.push_back(word());
    if (random() % 5 == 0) lines[random() % lines.size()] = word();
  }
};

}  // namespace

TEST_CASE("ten thousand frames of changing text under a small budget show right pictures",
          "[cache][property]") {
  const auto face = test::dejavu();
  static const Reference reference(face, PictureKind::distance, 24, 3);
  const GlyphCacheOptions options = small_options();
  const auto cache = cache_of(face, options);
  Chatter chatter{.face = face->id(), .glyph_count = 1200};
  std::vector<std::vector<GlyphPicture>> shown;
  std::uint64_t epoch = 0;
  std::size_t checked = 0, absent = 0;
  for (int frame = 0; frame < 10000; ++frame) {
    cache->begin_frame();
    const auto before = chatter.lines;
    chatter.change();
    shown.resize(chatter.lines.size());
    for (std::size_t i = 0; i < chatter.lines.size(); ++i) {
      const bool same = i < before.size() && before[i] == chatter.lines[i] && cache->epoch() == epoch;
      if (!same) {
        shown[i].resize(chatter.lines[i].size());
        cache->resolve(chatter.lines[i], shown[i]);
      }
      // A label that goes on being shown says so, and relies on what it was told.
      std::vector<std::uint16_t> pages;
      for (const GlyphPicture& s : shown[i]) pages.push_back(s.page);
      if (!cache->pages().empty()) cache->keep(pages);
    }
    const bool settled = cache->epoch() == epoch;
    epoch = cache->epoch();
    if (!settled) {  // answers changed while the frame was built: as the labels would, ask again
      for (std::size_t i = 0; i < shown.size(); ++i) cache->resolve(chatter.lines[i], shown[i]);
      if (cache->epoch() != epoch) epoch = 0;
    }
    if (epoch == 0) continue;
    for (std::size_t i = 0; i < shown.size(); ++i) {
      for (std::size_t k = 0; k < shown[i].size(); ++k) {
        absent += shown[i][k].state == PictureState::waiting ? 1 : 0;
        if (shown[i][k].state == PictureState::waiting) continue;
        ++checked;
        if (!reference.matches(*cache, chatter.lines[i][k].glyph, shown[i][k])) {
          FAIL("frame " << frame << " shows a wrong picture of glyph "
                        << index_of(chatter.lines[i][k].glyph));
        }
      }
    }
    REQUIRE(cache->work().bytes <= options.budget);
  }
  CHECK(checked > 150000);
  CHECK(absent * 50 < checked);
  CHECK(cache->work().forgotten > 20);
  CHECK(cache->pages().size() <= 3);
}

TEST_CASE("pictures made on workers appear in a later frame, and the epoch says so", "[cache]") {
  const auto face = test::dejavu();
  constexpr std::u32string_view kCapitals = U"ABCDEFGHIJKLMNOPQRSTUVWXYZ";
  const Reference reference(face, PictureKind::distance_rgba, 24, 3, kCapitals);
  ThreadWorkers workers(2);
  GlyphCacheOptions options = small_options();
  options.kind = PictureKind::distance_rgba;
  options.workers = &workers;
  options.bars = true;
  options.largest_page = {512, 512}, options.budget = 2 << 20;
  const auto cache = cache_of(face, options);
  std::vector<GlyphKey> keys;
  for (const char32_t c : kCapitals) keys.push_back({face->id(), face->find_glyph(c)});
  std::vector<GlyphPicture> sprites(keys.size());
  cache->begin_frame();
  cache->resolve(keys, sprites);
  for (const GlyphPicture& s : sprites) {
    CHECK(s.state == PictureState::waiting);
    CHECK(s.cell[2] > 0);  // a bar stands in
  }
  const std::uint64_t before = cache->epoch();
  workers.wait();
  cache->begin_frame();
  CHECK(cache->epoch() != before);
  cache->resolve(keys, sprites);
  for (std::size_t i = 0; i < keys.size(); ++i) CHECK(reference.matches(*cache, keys[i].glyph, sprites[i]));
  CHECK(cache->work().waiting == 0);
}

TEST_CASE("a cache that goes before its jobs leaves them nothing to break", "[cache]") {
  ThreadWorkers workers(2);
  const auto face = test::dejavu();
  GlyphCacheOptions options = small_options();
  options.workers = &workers;
  for (int round = 0; round < 20; ++round) {
    const auto cache = cache_of(face, options);
    std::vector<GlyphKey> keys;
    for (std::uint32_t g = 30; g < 90; ++g) keys.push_back({face->id(), GlyphId{g}});
    cache->request(keys);
  }
  workers.wait();
  SUCCEED();
}

TEST_CASE("budgets of a frame spread work over several", "[cache]") {
  const auto face = test::dejavu();
  std::vector<GlyphKey> keys;
  for (std::uint32_t g = 30; g < 90; ++g) keys.push_back({face->id(), GlyphId{g}});
  std::vector<GlyphPicture> sprites(keys.size());
  GlyphCacheOptions options = small_options();
  options.largest_page = {512, 512}, options.budget = 1 << 20;
  SECTION("bytes") { options.frame_bytes = 4000; }
  SECTION("time") { options.frame_time = std::chrono::microseconds(1); }
  const auto cache = cache_of(face, options);
  int frames = 0;
  std::size_t ready = 0;
  while (ready < keys.size() && frames < 500) {
    cache->begin_frame();
    ++frames;
    cache->resolve(keys, sprites);
    const std::size_t now =
        static_cast<std::size_t>(std::count_if(sprites.begin(), sprites.end(), [](const GlyphPicture& s) {
          return s.state == PictureState::ready;
        }));
    CHECK(now >= ready);
    ready = now;
  }
  CHECK(ready == keys.size());
  CHECK(frames > 4);
}

TEST_CASE("a page that grows keeps what it has and copies it at most twice", "[cache]") {
  const auto face = test::dejavu();
  static const Reference reference(face, PictureKind::distance, 24, 3);
  GlyphCacheOptions options = small_options();
  options.largest_page = {1024, 1024}, options.budget = 1 << 20, options.frame_bytes = 1 << 30;
  const auto cache = cache_of(face, options);
  std::vector<GlyphKey> keys;
  for (std::uint32_t g = 30; g < 900; ++g) keys.push_back({face->id(), GlyphId{g}});
  std::vector<GlyphPicture> sprites(keys.size());
  const std::uint64_t epoch = cache->epoch();
  cache->resolve(keys, sprites);
  CHECK(cache->epoch() == epoch);  // nothing that was said has changed
  for (std::size_t i = 0; i < keys.size(); ++i) REQUIRE(reference.matches(*cache, keys[i].glyph, sprites[i]));
  CHECK(cache->pages().size() == 1);
  CHECK(cache->work().copied <= 2 * cache->work().bytes);
}

TEST_CASE("pictures that wait for room take no more than half of the budget, and come when there is some",
          "[cache]") {
  const auto face = test::dejavu();
  static const Reference reference(face, PictureKind::distance, 24, 3);
  ThreadWorkers workers(1);
  GlyphCacheOptions options = small_options();
  options.largest_page = {256, 256}, options.budget = 1 << 16, options.frame_bytes = 1 << 30,
  options.frame_time = std::chrono::seconds(10);
  SECTION("on workers") { options.workers = &workers; }
  SECTION("at once") {}
  const auto cache = cache_of(face, options);
  std::vector<GlyphKey> keys;
  for (std::uint32_t g = 30; g < 900; ++g) keys.push_back({face->id(), GlyphId{g}});
  std::vector<GlyphPicture> sprites(keys.size());
  for (int frame = 0; frame < 20; ++frame) {  // all are wanted, a tenth has room
    cache->begin_frame();
    cache->resolve(keys, sprites);
    workers.wait();
    CHECK(cache->work().held <= options.budget / 2);
  }
  if (options.workers != nullptr) CHECK(cache->work().held > options.budget / 4);
  CHECK(std::count_if(sprites.begin(), sprites.end(),
                      [](const GlyphPicture& s) { return s.state == PictureState::ready; }) > 20);
  const std::span<const GlyphKey> last = std::span(keys).last(20);
  for (int frame = 0; frame < 200; ++frame) {  // now few are
    cache->begin_frame();
    cache->resolve(last, std::span(sprites).last(20));
    workers.wait();
  }
  for (std::size_t i = keys.size() - 20; i < keys.size(); ++i) {
    REQUIRE(reference.matches(*cache, keys[i].glyph, sprites[i]));
  }
}

TEST_CASE("changes name just what is new", "[cache]") {
  const auto face = test::dejavu();
  const auto cache = cache_of(face, small_options());
  GlyphPicture sprite;
  const GlyphKey key{face->id(), face->find_glyph(U'Q')};
  cache->resolve(std::span(&key, 1), std::span(&sprite, 1));
  std::array<PixelRect, 8> changes;
  CHECK(cache->changes_since(0, 0, changes) == 1);
  const std::uint64_t revision = cache->pages()[0].revision;
  CHECK(cache->changes_since(0, revision, changes) == 0);
  const GlyphKey other{face->id(), face->find_glyph(U'R')};
  cache->resolve(std::span(&other, 1), std::span(&sprite, 1));
  REQUIRE(cache->changes_since(0, revision, changes) == 1);
  CHECK(changes[0] == PixelRect{sprite.cell[0], sprite.cell[1], sprite.cell[2], sprite.cell[3]});
  REQUIRE(cache->changes_since(0, revision, changes) == 1);  // another renderer asks for the same
  CHECK(cache->changes_since(0, 0, changes) == 1);
  CHECK(changes[0].width == cache->pages()[0].width);
}

TEST_CASE("coverage has a picture for each size and phase, and another size stands in", "[cache]") {
  const auto face = test::dejavu();
  ThreadWorkers workers(1);
  GlyphCacheOptions options = small_options();
  options.kind = PictureKind::coverage;
  options.phases = 4;
  options.workers = &workers;
  const auto cache = cache_of(face, options);
  const GlyphId glyph = face->find_glyph(U'g');
  const GlyphKey keys[] = {
      {face->id(), glyph, 64, 0}, {face->id(), glyph, 64, 2}, {face->id(), glyph, 80, 0}};
  std::array<GlyphPicture, 3> sprites;
  cache->resolve(keys, sprites);
  workers.wait();
  cache->begin_frame();
  cache->resolve(keys, sprites);
  for (const GlyphPicture& s : sprites) CHECK(s.state == PictureState::ready);
  CHECK(sprites[1].phase == 2);
  CHECK(sprites[2].size == 20);
  const GlyphKey larger{face->id(), glyph, 100, 0};
  GlyphPicture sprite;
  cache->resolve(std::span(&larger, 1), std::span(&sprite, 1));
  CHECK(sprite.state == PictureState::waiting);
  CHECK(sprite.size == 20);
}

TEST_CASE("unknown faces are absent, glyphs that can't be read are empty and noted", "[cache]") {
  test::FontBuilder builder;
  const GlyphId glyph = built_in_face()->find_glyph(U'A');
  builder.put16("loca", index_of(glyph) * 4, 0x7FFF);
  const auto face = builder.face();
  const auto cache = cache_of(face, small_options());
  const GlyphKey keys[] = {{face->id(), glyph}, {FaceId{77}, GlyphId{3}}};
  std::array<GlyphPicture, 2> sprites;
  Notes notes;
  cache->resolve(keys, sprites);
  cache->begin_frame(&notes);
  cache->resolve(keys, sprites);
  CHECK(sprites[0].state == PictureState::empty);
  CHECK(sprites[1].state == PictureState::absent);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::damaged_glyph);
}

TEST_CASE("options out of their ranges are refused", "[cache]") {
  const auto refused = [](auto change) {
    GlyphCacheOptions options = small_options();
    change(options);
    const auto cache = GlyphCache::make(options);
    return !cache.has_value() && cache.error().kind == ErrorKind::bad_value;
  };
  CHECK(refused([](auto& o) { o.size = NAN; }));
  CHECK(refused([](auto& o) { o.reach = 0; }));
  CHECK(refused([](auto& o) { o.phases = 4; }));
  CHECK(refused([](auto& o) { o.first_page = {63, 64}; }));
  CHECK(refused([](auto& o) { o.largest_page = {64, 5000}; }));
  CHECK(refused([](auto& o) { o.budget = 1000; }));
  CHECK_FALSE(refused([](auto&) {}));
}

namespace {

/// A label that never changes: it asks again only where the epoch moved, and keeps its pages each frame.
struct Still {
  std::vector<GlyphKey> keys;
  std::vector<GlyphPicture> sprites;
  std::uint64_t epoch = 0;

  void show(GlyphCache& cache) {
    if (epoch != cache.epoch()) {
      epoch = cache.epoch();
      sprites.resize(keys.size());
      cache.resolve(keys, sprites);
    }
    std::vector<std::uint16_t> pages;
    for (const GlyphPicture& sprite : sprites) {
      if (sprite.cell[2] > 0) pages.push_back(sprite.page);
    }
    cache.keep(pages);
  }
  std::size_t ready() const {
    return static_cast<std::size_t>(std::count_if(sprites.begin(), sprites.end(), [](const GlyphPicture& s) {
      return s.state == PictureState::ready || s.state == PictureState::empty;
    }));
  }
};

std::vector<GlyphKey> keys_of(const Face& face, std::uint32_t first, std::uint32_t count) {
  std::vector<GlyphKey> keys;
  for (std::uint32_t i = 0; i < count; ++i) keys.push_back({face.id(), GlyphId{first + i}});
  return keys;
}

}  // namespace

TEST_CASE(
    "what is on the screen stays there when more is wanted than the budget holds, and that is noted once",
    "[cache]") {
  const auto face = test::dejavu();
  const auto cache = cache_of(face, small_options());
  std::vector<Still> labels(40);
  for (std::size_t i = 0; i < labels.size(); ++i) {
    labels[i].keys = keys_of(*face, 36 + 10 * static_cast<std::uint32_t>(i), 10);
  }
  std::vector<std::size_t> shown(labels.size());
  Notes notes;
  for (int frame = 0; frame < 200; ++frame) {
    cache->begin_frame(&notes);
    for (Still& label : labels) label.show(*cache);
    for (std::size_t i = 0; i < labels.size(); ++i) {
      INFO("frame " << frame << ", label " << i);
      REQUIRE(labels[i].ready() >= shown[i]);
      shown[i] = labels[i].ready();
    }
    REQUIRE(cache->work().bytes <= small_options().budget);
  }
  CHECK(cache->work().starved > 0);
  CHECK(shown[0] == 10);
  CHECK(shown.back() < 10);
  REQUIRE(notes.all().size() == 1);
  CHECK(notes.all()[0].kind == NoteKind::small_cache);
  CHECK(notes.all()[0].given == static_cast<float>(small_options().budget));
  CHECK(notes.all()[0].wanted > notes.all()[0].given);
}

TEST_CASE("room that stale pictures hold between shown ones is found again", "[cache]") {
  const auto face = test::dejavu();
  const auto cache = cache_of(face, small_options());
  // Fills all pages, then shows only every fifth picture of them: no page may be forgotten.
  Still all{keys_of(*face, 36, 150), {}, 0};
  cache->begin_frame();
  all.show(*cache);
  Still few;
  for (std::size_t i = 0; i < all.keys.size(); i += 5) {
    if (all.sprites[i].state == PictureState::ready) few.keys.push_back(all.keys[i]);
  }
  std::set<std::uint16_t> pages;
  for (const GlyphPicture& sprite : all.sprites) {
    if (sprite.state == PictureState::ready) pages.insert(sprite.page);
  }
  REQUIRE(pages.size() == 3);
  few.show(*cache);
  const std::size_t count = few.ready();
  Still later{keys_of(*face, 400, 30), {}, 0};
  for (int frame = 0; frame < 80; ++frame) {
    cache->begin_frame();
    few.show(*cache);
    later.show(*cache);
    REQUIRE(few.ready() == count);
  }
  CHECK(later.ready() == 30);
  const Reference reference(face, PictureKind::distance, 24, 3);
  for (const Still* label : {&few, &later}) {
    for (std::size_t i = 0; i < label->keys.size(); ++i) {
      REQUIRE(reference.matches(*cache, label->keys[i].glyph, label->sprites[i]));
    }
  }
}

TEST_CASE("a face that is added later is asked for again", "[cache]") {
  const auto face = test::dejavu();
  auto cache = *GlyphCache::make(small_options());
  Still label{keys_of(*face, 40, 3), {}, 0};
  cache->begin_frame();
  label.show(*cache);
  CHECK(label.sprites[0].state == PictureState::absent);
  REQUIRE(cache->add(face).has_value());
  cache->begin_frame();
  label.show(*cache);
  CHECK(label.ready() == 3);
  const std::uint64_t epoch = cache->epoch();
  REQUIRE(cache->add(face).has_value());
  CHECK(cache->epoch() == epoch);
}

TEST_CASE("a picture too large for a page is made at the largest size that fits", "[cache]") {
  const auto face = test::dejavu();
  GlyphCacheOptions options = small_options();
  options.kind = PictureKind::coverage;
  const auto cache = cache_of(face, options);
  const GlyphKey key{face->id(), face->find_glyph(U'M'), 1200 * 4, 0};
  GlyphPicture sprite;
  cache->resolve(std::span(&key, 1), std::span(&sprite, 1));
  REQUIRE(sprite.state == PictureState::ready);
  CHECK(sprite.size < 1200);
  CHECK(std::max(sprite.cell[2], sprite.cell[3]) > 100);
  CHECK(std::max(sprite.cell[2], sprite.cell[3]) <= 126);
}

TEST_CASE("without workers little more time is spent in a frame than is allowed", "[cache]") {
  const auto face = test::dejavu();
  GlyphCacheOptions options = small_options();
  options.size = 96, options.largest_page = {1024, 1024}, options.budget = 8 << 20U;
  options.frame_time = std::chrono::microseconds(1);
  const auto cache = cache_of(face, options);
  Still label{keys_of(*face, 36, 40), {}, 0};
  for (int frame = 1; frame <= 20; ++frame) {
    const std::uint64_t before = cache->work().made;
    cache->begin_frame();
    label.show(*cache);
    CHECK(cache->work().made <= before + 1);  // one comes always, or none ever would
  }
  CHECK(cache->work().made >= 19);
}
