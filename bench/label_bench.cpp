// SPDX-License-Identifier: MIT
// Building a frame of labels: still, moving, with new numbers, against writing quads that are at hand.
#include <cstring>

#include "bench.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/emit.hpp"
#include "grafema/draw/quads.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::bench {
namespace {

constexpr std::size_t kLetters = 12;

std::shared_ptr<const Atlas> ascii_atlas() {
  static const std::shared_ptr<const Atlas> atlas = [] {
    AtlasRecipe recipe;
    recipe.faces = {sans()};
    recipe.characters = *read_character_set("ascii");
    return std::make_shared<const Atlas>(*bake(recipe));
  }();
  return atlas;
}

/// Labels of one layer and room for all of their quads.
struct Frame {
  TextContext context;
  std::vector<Label> owned;
  std::vector<Label*> labels;
  std::vector<GlyphQuad> quads;
  std::vector<Batch> batches;
  std::vector<LayerRecord> layers;
  QuadList list;
  View view{.width = 1280, .height = 900};  // in which all of them are seen

  explicit Frame(std::size_t count)
      : context(atlas_stack(ascii_atlas()), std::make_shared<AtlasSource>(ascii_atlas())),
        quads(count * kLetters),
        batches(8),
        layers(64) {
    for (std::size_t i = 0; i < count; ++i) owned.emplace_back(context, "123456789012");
    for (Label& label : owned) labels.push_back(&label);
    list = {quads, batches, layers};
  }
  void move(int frame) {
    for (std::size_t i = 0; i < labels.size(); ++i) {
      (void)labels[i]->move_to(
          {static_cast<float>((frame + static_cast<int>(i)) % 1000), static_cast<float>(i % 800)});
    }
  }
  bool emit() {
    return emit_quads(context, labels, view, list).has_value() && list.quad_count == labels.size() * kLetters;
  }
};

void count_glyphs(benchmark::State& state, std::size_t labels) {
  state.SetItemsProcessed(state.iterations() * static_cast<std::int64_t>(labels * kLetters));
}

void unchanged(benchmark::State& state, std::size_t labels) {
  Frame frame(labels);
  for (auto _ : state) GRAFEMA_VERIFY(state, frame.emit());
  count_glyphs(state, labels);
}

void moving(benchmark::State& state, std::size_t labels) {
  Frame frame(labels);
  int number = 0;
  for (auto _ : state) {
    frame.move(++number);
    GRAFEMA_VERIFY(state, frame.emit());
  }
  count_glyphs(state, labels);
}

void renumbered(benchmark::State& state) {
  Frame frame(1000);
  double number = 123456789012;
  for (auto _ : state) {
    number += 1;
    for (Label* label : frame.labels) label->set_number(number);
    GRAFEMA_VERIFY(state, frame.emit());
  }
  count_glyphs(state, 1000);
}

/// Quads of the same bytes from numbers that are at hand: two sums and two products of four floats, the rest
/// copied.
void emit_floor(benchmark::State& state, std::size_t labels) {
  struct Ready {
    float x, y, width, height;
    std::array<std::uint16_t, 4> cell;
    std::array<std::int16_t, 4> box;
  };
  std::vector<Ready> ready(labels * kLetters, Ready{1, 2, 3, 4, {5, 6, 7, 8}, {1, 2, 3, 4}});
  std::vector<GlyphQuad> quads(ready.size());
  LabelMap map;
  map.across = {0.001F, 0, 0, 0}, map.down = {0, -0.002F, 0, 0}, map.origin = {-1, 1, 0, 1};
  for (auto _ : state) {
    benchmark::DoNotOptimize(map);
    for (std::size_t i = 0; i < ready.size(); ++i) {
      const Ready& r = ready[i];
      GlyphQuad& q = quads[i];
      for (std::size_t k = 0; k < 4; ++k) {
        q.origin[k] = map.origin[k] + map.across[k] * r.x + map.down[k] * r.y;
        q.across[k] = map.across[k] * r.width;
        q.down[k] = map.down[k] * r.height;
      }
      q.cell = r.cell;
      q.box = r.box;
      q.tint = {255, 255, 255, 255};
      q.record = q.page = 0;
    }
    benchmark::DoNotOptimize(quads.data());
    benchmark::ClobberMemory();
  }
  count_glyphs(state, labels);
}

/// What a renderer without instances must write: four vertices of 36 bytes for each glyph, their corners at
/// hand.
void vertex_floor(benchmark::State& state, std::size_t labels) {
  struct Vertex {
    std::array<float, 4> position;
    std::array<float, 2> texel;
    std::uint32_t tint, layer, page;
  };
  static_assert(sizeof(Vertex) == 36);
  struct Ready {
    float x, y, width, height, u, v, du, dv;
  };
  std::vector<Ready> ready(labels * kLetters, Ready{1, 2, 3, 4, 5, 6, 7, 8});
  std::vector<Vertex> vertices(ready.size() * 4);
  float dx = 0.001F, dy = -0.002F;
  for (auto _ : state) {
    benchmark::DoNotOptimize(dx);
    benchmark::DoNotOptimize(dy);
    for (std::size_t i = 0; i < ready.size(); ++i) {
      const Ready& r = ready[i];
      for (std::size_t corner = 0; corner < 4; ++corner) {
        const float across = static_cast<float>(corner & 1), down = static_cast<float>(corner >> 1);
        vertices[i * 4 + corner] = {
            {(r.x + across * r.width) * dx - 1, (r.y + down * r.height) * dy + 1, 0, 1},
            {r.u + across * r.du, r.v + down * r.dv},
            0xFFFFFFFF,
            0,
            0};
      }
    }
    benchmark::DoNotOptimize(vertices.data());
    benchmark::ClobberMemory();
  }
  count_glyphs(state, labels);
}

BENCHMARK_CAPTURE(moving, against_vertices, 10000)->Name("list of 10,000 labels, moving, as vertices");
BENCHMARK_CAPTURE(vertex_floor, ten_thousand, 10000)
    ->Name("list of 10,000 labels, moving, as vertices/floor");
BENCHMARK_CAPTURE(unchanged, thousand, 1000)->Name("list of 1,000 labels, unchanged");
BENCHMARK_CAPTURE(emit_floor, unchanged, 1000)->Name("list of 1,000 labels, unchanged/floor");
BENCHMARK_CAPTURE(moving, thousand, 1000)->Name("list of 1,000 labels, moving");
BENCHMARK_CAPTURE(emit_floor, moving, 1000)->Name("list of 1,000 labels, moving/floor");
BENCHMARK(renumbered)->Name("list of 1,000 labels, new numbers");
BENCHMARK_CAPTURE(emit_floor, renumbered, 1000)->Name("list of 1,000 labels, new numbers/floor");
BENCHMARK_CAPTURE(unchanged, ten_thousand, 10000)->Name("list of 10,000 labels, unchanged");
BENCHMARK_CAPTURE(emit_floor, still_ten_thousand, 10000)->Name("list of 10,000 labels, unchanged/floor");
BENCHMARK_CAPTURE(moving, ten_thousand, 10000)->Name("list of 10,000 labels, moving");
BENCHMARK_CAPTURE(emit_floor, ten_thousand, 10000)->Name("list of 10,000 labels, moving/floor");

}  // namespace
}  // namespace grafema::bench
