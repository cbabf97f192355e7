// SPDX-License-Identifier: MIT
// Coverage and distance of printable ASCII at 32 px, against the bare steps that no method can leave out.
#include <algorithm>
#include <cmath>
#include <numeric>

#include "bench.hpp"
#include "grafema/raster/raster.hpp"

namespace grafema::bench {
namespace {

constexpr float kReach = 6;

PixelRect cell_of(const Contours& contours, float size, float around) {
  return rounded_out(to_pixels(bounds(contours), size / sans()->units_per_em()).grown(around));
}

std::size_t pixels(const PixelRect& cell) {
  return static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height);
}

void coverage(benchmark::State& state, float size) {
  RasterScratch scratch;
  std::vector<float> area;
  const Transform map = glyph_transform(size / sans()->units_per_em());
  for (auto _ : state) {
    for (const NamedOutline& outline : ascii_outlines()) {
      const PixelRect cell = cell_of(outline.contours, size, 0);
      area.resize(pixels(cell));
      GRAFEMA_VERIFY(state, rasterize_coverage(outline.contours, map, cell, area, scratch).has_value());
      GRAFEMA_VERIFY(state, *std::max_element(area.begin(), area.end()) > 0.4F);
    }
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * ascii_outlines().size()));
}

/// The same lines and pixels: clear, one deposit for each line and row or column that it crosses, sweep.
void coverage_floor(benchmark::State& state, float size) {
  const Transform map = glyph_transform(size / sans()->units_per_em());
  struct Prepared {
    PixelRect cell;
    std::vector<Segment> lines;
  };
  std::vector<Prepared> prepared;
  for (const NamedOutline& outline : ascii_outlines()) {
    Prepared p{cell_of(outline.contours, size, 0), {}};
    Transform in_cell = map;
    in_cell.dx -= static_cast<float>(p.cell.x), in_cell.dy -= static_cast<float>(p.cell.y);
    flatten(outline.contours, in_cell, 0.002, p.lines);
    prepared.push_back(std::move(p));
  }
  std::vector<float> cells, sums;
  for (auto _ : state) {
    for (const Prepared& p : prepared) {
      const auto width = static_cast<std::size_t>(p.cell.width),
                 height = static_cast<std::size_t>(p.cell.height);
      cells.assign(width * (height + 1), 0.0F);
      for (const Segment& s : p.lines) {
        const int steps = 1 + static_cast<int>(std::abs(std::floor(s.x1) - std::floor(s.x0)) +
                                               std::abs(std::floor(s.y1) - std::floor(s.y0)));
        const double dx = (s.x1 - s.x0) / steps, dy = (s.y1 - s.y0) / steps;
        for (int i = 0; i < steps; ++i) {
          const double x = s.x0 + (i + 0.5) * dx, y = s.y0 + (i + 0.5) * dy;
          const auto column = std::min(static_cast<std::size_t>(x), width - 1),
                     row = std::min(static_cast<std::size_t>(y), height - 1);
          const double depth = y - static_cast<double>(row);
          cells[row * width + column] += static_cast<float>(dx * (1 - depth));
          cells[(row + 1) * width + column] += static_cast<float>(dx * depth);
        }
      }
      sums.assign(width, 0.0F);
      for (std::size_t y = 0; y < height; ++y) {
        for (std::size_t x = 0; x < width; ++x) {
          sums[x] += cells[y * width + x];
          cells[y * width + x] = std::min(std::abs(sums[x]), 1.0F);
        }
      }
      benchmark::DoNotOptimize(cells.data());
    }
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * prepared.size()));
}

void distance(benchmark::State& state, float size) {
  RasterScratch scratch;
  std::vector<float> out;
  const Transform map = glyph_transform(size / sans()->units_per_em());
  for (auto _ : state) {
    for (const NamedOutline& outline : ascii_outlines()) {
      const PixelRect cell = cell_of(outline.contours, size, kReach);
      out.resize(pixels(cell));
      GRAFEMA_VERIFY(state,
                     rasterize_distance(outline.contours, map, cell, kReach, out, scratch).has_value());
      GRAFEMA_VERIFY(state, out[0] < 0);
    }
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * ascii_outlines().size()));
}

/// A one-sided linear-time transform of a mask of the same cell: two passes of lower envelopes, columns then
/// rows.
void distance_floor(benchmark::State& state, float size) {
  std::vector<float> squared;
  std::vector<int> hull;
  std::vector<float> line, cuts;
  const auto transform = [&](float* data, std::size_t count, std::size_t stride) {
    line.resize(count), hull.resize(count), cuts.resize(count + 1);
    for (std::size_t i = 0; i < count; ++i) line[i] = data[i * stride];
    std::size_t k = 0;
    hull[0] = 0, cuts[0] = -1e20F, cuts[1] = 1e20F;
    const auto meet = [&](int p, int q) {
      return ((line[static_cast<std::size_t>(q)] + static_cast<float>(q * q)) -
              (line[static_cast<std::size_t>(p)] + static_cast<float>(p * p))) /
             static_cast<float>(2 * (q - p));
    };
    for (int q = 1; q < static_cast<int>(count); ++q) {
      float s = meet(hull[k], q);
      while (k > 0 && s <= cuts[k]) s = meet(hull[--k], q);
      hull[++k] = q, cuts[k] = s, cuts[k + 1] = 1e20F;
    }
    k = 0;
    for (std::size_t q = 0; q < count; ++q) {
      while (cuts[k + 1] < static_cast<float>(q)) ++k;
      const float d = static_cast<float>(q) - static_cast<float>(hull[k]);
      data[q * stride] = d * d + line[static_cast<std::size_t>(hull[k])];
    }
  };
  for (auto _ : state) {
    for (const NamedOutline& outline : ascii_outlines()) {
      const PixelRect cell = cell_of(outline.contours, size, kReach);
      const auto width = static_cast<std::size_t>(cell.width), height = static_cast<std::size_t>(cell.height);
      squared.assign(width * height, 1e10F);
      squared[(height / 2) * width + width / 2] = 0;
      for (std::size_t x = 0; x < width; ++x) transform(squared.data() + x, height, width);
      for (std::size_t y = 0; y < height; ++y) transform(squared.data() + y * width, width, 1);
      benchmark::DoNotOptimize(squared.data());
    }
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * ascii_outlines().size()));
}

void channels(benchmark::State& state, float size) {
  RasterScratch scratch;
  std::vector<float> out;
  const Transform map = glyph_transform(size / sans()->units_per_em());
  for (auto _ : state) {
    for (const NamedOutline& outline : ascii_outlines()) {
      const PixelRect cell = cell_of(outline.contours, size, kReach);
      out.resize(pixels(cell) * 4);
      GRAFEMA_VERIFY(
          state,
          rasterize_distance_channels(outline.contours, map, cell, kReach, out, scratch, 255).has_value());
      GRAFEMA_VERIFY(state, out[3] < 0);
    }
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * ascii_outlines().size()));
}

/// Uniting outlines that have no overlaps is the price of finding that out, against making their coverage at
/// 32 px.
void unite_ascii(benchmark::State& state) {
  std::vector<Contours> plain;
  for (const NamedOutline& outline : ascii_outlines()) {
    plain.push_back(outline.contours);
    plain.back().united = false;
  }
  for (auto _ : state) {
    for (const Contours& outline : plain) {
      Contours c = outline;
      unite(c);
      GRAFEMA_VERIFY(state, c.united);
    }
  }
}

BENCHMARK_CAPTURE(coverage, 16, 16.0F)->Name("coverage of ASCII at 16 px");
BENCHMARK_CAPTURE(coverage_floor, 16, 16.0F)->Name("coverage of ASCII at 16 px/floor");
BENCHMARK_CAPTURE(coverage, 32, 32.0F)->Name("coverage of ASCII at 32 px");
BENCHMARK_CAPTURE(coverage_floor, 32, 32.0F)->Name("coverage of ASCII at 32 px/floor");
BENCHMARK_CAPTURE(coverage, 64, 64.0F)->Name("coverage of ASCII at 64 px");
BENCHMARK_CAPTURE(coverage_floor, 64, 64.0F)->Name("coverage of ASCII at 64 px/floor");
BENCHMARK_CAPTURE(distance, 48, 48.0F)->Name("distance of ASCII at 48 px");
BENCHMARK_CAPTURE(distance_floor, 48, 48.0F)->Name("distance of ASCII at 48 px/floor");
BENCHMARK_CAPTURE(channels, 48, 48.0F)->Name("three channels at 48 px");
BENCHMARK_CAPTURE(distance, one, 48.0F)->Name("three channels at 48 px/floor");
BENCHMARK(unite_ascii)->Name("unite of ASCII");
BENCHMARK_CAPTURE(coverage, unite, 32.0F)->Name("unite of ASCII/floor");

}  // namespace
}  // namespace grafema::bench
