// SPDX-License-Identifier: MIT
// Points, triangles, solid letters and morphs of outlines, against flattening the same outlines.
#include <cmath>

#include "bench.hpp"
#include "grafema/draw/morph_text.hpp"
#include "grafema/outline/mesh.hpp"
#include "grafema/outline/outline_points.hpp"
#include "grafema/outline/triangles.hpp"

namespace grafema::bench {
namespace {

/// Font units: a 1,000th of an em.
constexpr float kTolerance = 2048.0F / 1000;

void count_letters(benchmark::State& state) {
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * ascii_outlines().size()));
}

void flatten_ascii(benchmark::State& state) {
  std::vector<Segment> pieces;
  for (auto _ : state) {
    std::size_t count = 0;
    for (const NamedOutline& outline : ascii_outlines()) {
      flatten(outline.contours, Transform{}, kTolerance, pieces);
      count += pieces.size();
    }
    GRAFEMA_VERIFY(state, count > 1000);
  }
  count_letters(state);
}

void triangulate_ascii(benchmark::State& state) {
  Triangulator triangulator;
  Triangles triangles;
  for (auto _ : state) {
    std::size_t count = 0;
    for (const NamedOutline& outline : ascii_outlines()) {
      GRAFEMA_VERIFY(state, triangulator.run(outline.contours, kTolerance, triangles).has_value());
      count += triangles.triangle_count();
    }
    GRAFEMA_VERIFY(state, count > 1000);
  }
  count_letters(state);
}

void extrude_ascii(benchmark::State& state) {
  Mesh mesh;
  const Solid solid{.depth = 400, .bevel = {.width = 30, .segments = 4}, .tolerance = kTolerance};
  for (auto _ : state) {
    mesh.clear();
    for (const NamedOutline& outline : ascii_outlines()) {
      GRAFEMA_VERIFY(state, extrude(outline.contours, solid, mesh).has_value());
    }
    GRAFEMA_VERIFY(state, mesh.letters == ascii_outlines().size());
  }
  state.counters["bytes_a_letter"] =
      static_cast<double>(mesh.vertices.size() * sizeof(MeshVertex) + mesh.indices.size() * 4) / mesh.letters;
  count_letters(state);
}

/// Twenty letters side by side as one outline.
Contours word() {
  Contours all;
  for (std::size_t i = 0; i < 20; ++i) {
    Contours c = ascii_outlines()[33 + i].contours;
    for (FontPoint& p : c.points) p.x += static_cast<float>(i) * 1500;
    all.commands.insert(all.commands.end(), c.commands.begin(), c.commands.end());
    all.points.insert(all.points.end(), c.points.begin(), c.points.end());
  }
  return all;
}

void flatten_word(benchmark::State& state) {
  const Contours all = word();
  std::vector<Segment> pieces;
  for (auto _ : state) {
    flatten(all, Transform{}, kTolerance / 4, pieces);
    GRAFEMA_VERIFY(state, pieces.size() > 100);
  }
}

void points_of_word(benchmark::State& state) {
  const Contours all = word();
  OutlinePoints outline;
  std::vector<OutlinePoint> points;
  for (auto _ : state) {
    outline.measure(all);
    GRAFEMA_VERIFY(state, outline.spread(400, false, points).has_value());
    GRAFEMA_VERIFY(state, points.size() == 400);
  }
}

void morph_frame(benchmark::State& state) {
  const auto made = MorphText::make(FontStack{sans()}, {"Larkspur Halt Platform", "Salt & Glass to Tinsel"},
                                    {.style = {.size = 48}});
  GRAFEMA_VERIFY(state, made.has_value());
  float t = 0;
  for (auto _ : state) {
    t = t < 1 ? t + 0.01F : 0;
    (*made)->show(t);
  }
  GRAFEMA_VERIFY(state, (*made)->source()->pages()[0].revision > 1);
}

BENCHMARK(flatten_ascii)->Name("outline/floor/flatten-ascii");
BENCHMARK(triangulate_ascii)->Name("outline/triangles-ascii");
BENCHMARK(extrude_ascii)->Name("outline/extruded-ascii")->Unit(benchmark::kMillisecond);
BENCHMARK(flatten_word)->Name("outline/floor/flatten-word");
BENCHMARK(points_of_word)->Name("outline/points-word");
BENCHMARK(morph_frame)->Name("outline/morph-frame-20-letters")->Unit(benchmark::kMicrosecond);

}  // namespace
}  // namespace grafema::bench
