// SPDX-License-Identifier: MIT
// A scene of ten thousand labels: still, moving, counting, against writing what they are made of.
#include <malloc.h>

#include <cstring>

#include "bench.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::bench {
namespace {

constexpr std::size_t kLabels = 10000, kLetters = 12;
constexpr View kView{.width = 1280, .height = 900};

PixelPoint place_of(std::size_t label, int frame) {
  return {static_cast<float>((frame + static_cast<int>(label)) % 1000), static_cast<float>(label % 800)};
}

struct Crowd {
  TextContext context;
  TextScene set;
  std::vector<Label> labels;
  std::vector<PixelPoint> places;

  static std::shared_ptr<const Atlas> ascii() {
    AtlasRecipe recipe;
    recipe.faces = {sans()};
    recipe.characters = *read_character_set("ascii");
    return std::make_shared<const Atlas>(*bake(recipe));
  }

  explicit Crowd(std::size_t count)
      : context(FontStack{sans()}, std::make_shared<AtlasSource>(ascii())), set(context) {
    (void)set.reserve(count, count * kLetters);
    labels.reserve(count);
    for (std::size_t i = 0; i < count; ++i) labels.push_back(set.add("123456789012"));
    move(0);
    (void)set.update(kView, 0);
  }
  void move(int frame) {
    places.resize(labels.size());
    for (std::size_t i = 0; i < labels.size(); ++i) places[i] = place_of(i, frame);
    (void)set.move(labels, places);
  }
  bool update(double seconds) { return set.update(kView, seconds).has_value(); }
};

void per_label(benchmark::State& state, std::size_t labels) {
  state.SetItemsProcessed(state.iterations() * static_cast<std::int64_t>(labels));
}

void moving(benchmark::State& state) {
  Crowd crowd(kLabels);
  int frame = 0;
  for (auto _ : state) {
    crowd.move(++frame);
    GRAFEMA_VERIFY(state, crowd.update(frame));
  }
  IndexRange ranges[8];
  const std::uint64_t before = crowd.set.memory().revision();
  crowd.move(++frame);
  GRAFEMA_VERIFY(state, crowd.update(frame));
  GRAFEMA_VERIFY(state, crowd.set.memory().changes_since(SceneTable::rows, before, ranges) == 1);
  GRAFEMA_VERIFY(state, crowd.set.memory().changes_since(SceneTable::glyphs, before, ranges) == 0);
  GRAFEMA_VERIFY(state, crowd.set.memory().changes_since(SceneTable::order, before, ranges) == 0);
  per_label(state, kLabels);
}

/// Rows whose numbers are at hand, each at its new place.
void rows_floor(benchmark::State& state, std::size_t labels) {
  std::vector<LabelRow> rows(labels);
  std::vector<PixelPoint> places(labels);
  LabelRow ready;
  ready.across = {2 / 1280.0F, 0, 0, 0}, ready.down = {0, -2 / 900.0F, 0, 0}, ready.origin = {-1, 1, 0, 1};
  ready.tint = {255, 255, 255, 255};
  int frame = 0;
  for (auto _ : state) {
    ++frame;
    benchmark::DoNotOptimize(ready);
    for (std::size_t i = 0; i < rows.size(); ++i) places[i] = place_of(i, frame);
    benchmark::DoNotOptimize(places.data());
    for (std::size_t i = 0; i < rows.size(); ++i) {
      const PixelPoint at = places[i];
      LabelRow& row = rows[i];
      row = ready;
      row.origin[0] += at.x * ready.across[0], row.origin[1] += at.y * ready.down[1];
      row.head = static_cast<std::uint32_t>(i);
    }
    benchmark::DoNotOptimize(rows.data());
    benchmark::ClobberMemory();
  }
  per_label(state, labels);
}

void still(benchmark::State& state) {
  Crowd crowd(kLabels);
  for (auto _ : state) GRAFEMA_VERIFY(state, crowd.update(0));
}

void renumbered(benchmark::State& state) {
  Crowd crowd(kLabels);
  double number = 123456789012;
  for (auto _ : state) {
    number += 1;
    for (Label& label : crowd.labels) label.set_number(number);
    GRAFEMA_VERIFY(state, crowd.update(0));
  }
  GRAFEMA_VERIFY(state, crowd.set.work().numbers > 0);
  GRAFEMA_VERIFY(state, crowd.set.work().contents == kLabels);
  per_label(state, kLabels);
}

/// The records of those digits, from ones that are at hand.
void records_floor(benchmark::State& state) {
  std::vector<GlyphRecord> records(kLabels * kLetters);
  std::array<GlyphRecord, 10> digits = {};
  std::uint64_t number = 123456789012;
  for (auto _ : state) {
    ++number;
    benchmark::DoNotOptimize(digits);
    GlyphRecord* to = records.data();
    for (std::uint32_t i = 0; i < kLabels; ++i) {
      float pen = 0;
      std::uint64_t left = number;
      for (std::size_t k = 0; k < kLetters; ++k, left /= 10) {
        GlyphRecord& record = to[kLetters - 1 - k];
        record = digits[left % 10];
        record.x += pen;
        record.row = i;
        pen += 20;
      }
      to += kLetters;
    }
    benchmark::DoNotOptimize(records.data());
    benchmark::ClobberMemory();
  }
  per_label(state, kLabels);
}

/// A thousand labels with spans, which keep their layout.
struct RichCrowd : Crowd {
  RichCrowd() : Crowd(1000) {
    (void)context.looks().set("late", plain_look({1, 0, 0, 1})).has_value();
    SpanStyle late;
    late.look = "late";
    RichText text;
    text.append("123456").append("789012", late);
    for (Label& label : labels) label.set_rich(text);
    (void)update(0);
  }
};

void rich_still(benchmark::State& state) {
  RichCrowd crowd;
  for (auto _ : state) GRAFEMA_VERIFY(state, crowd.update(0));
}

void rich_moving(benchmark::State& state) {
  RichCrowd crowd;
  int frame = 0;
  for (auto _ : state) {
    crowd.move(++frame);
    GRAFEMA_VERIFY(state, crowd.update(frame));
  }
  GRAFEMA_VERIFY(state, crowd.set.work().contents == 2000);
  per_label(state, 1000);
}

void camera(benchmark::State& state) {
  Crowd crowd(kLabels);
  for (Label& label : crowd.labels) {
    label.set_placement({.kind = PlaceKind::world, .world = translation({0, 0, -5})});
  }
  View view = kView;
  view.projection = perspective(60, 1.4F, 0.1F, 100);
  float x = 0;
  for (auto _ : state) {
    view.camera = look_at({x += 0.001F, 0, 3}, {0, 0, 0});
    GRAFEMA_VERIFY(state, crowd.set.update(view, 0).has_value());
  }
  per_label(state, kLabels);
}

void memory(benchmark::State& state) {
  constexpr std::size_t kMany = 100000;
  for (auto _ : state) {
    const auto before = mallinfo2();
    const Crowd crowd(kMany);
    const auto after = mallinfo2();
    state.counters["bytes a label"] =
        static_cast<double>(after.uordblks + after.hblkhd - before.uordblks - before.hblkhd) / kMany;
  }
}

BENCHMARK(moving)->Name("scene of 10,000 labels, moving");
BENCHMARK_CAPTURE(rows_floor, all, kLabels)->Name("scene of 10,000 labels, moving/floor");
BENCHMARK(rich_still)->Name("scene of 1,000 labels with spans, still");
BENCHMARK(rich_moving)->Name("scene of 1,000 labels with spans, moving");
BENCHMARK_CAPTURE(rows_floor, rich, 1000)->Name("scene of 1,000 labels with spans, moving/floor");
BENCHMARK(still)->Name("scene of 10,000 labels, still");
BENCHMARK(renumbered)->Name("scene of 10,000 labels, new numbers");
BENCHMARK(records_floor)->Name("scene of 10,000 labels, new numbers/floor");
BENCHMARK(camera)->Name("scene of 10,000 labels in the world, a camera that moves");
BENCHMARK(memory)->Name("scene of 100,000 labels, memory")->Iterations(1)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace grafema::bench
