// SPDX-License-Identifier: MIT
// What layout asks of a face for every letter, the memory of a face, and all outlines of a large CFF table.
#include <malloc.h>

#include <array>
#include <string_view>

#include "bench.hpp"
#include "font/outline/cff.hpp"
#include "support/cff_builder.hpp"

namespace grafema::bench {
namespace {

constexpr std::string_view kText =
    "Last tram from Saltglass Quay to Tinker's Weir, Pale Orchard and Ninth Lantern: AVATAR, To, We, Ty.";

void find_glyphs(benchmark::State& state) {
  const Face& face = *sans();
  std::uint32_t sum = 0;
  for (auto _ : state) {
    for (const char c : kText) sum += index_of(face.find_glyph(static_cast<char32_t>(c)));
    benchmark::DoNotOptimize(sum);
  }
  GRAFEMA_VERIFY(state, face.find_glyph(U'A') != kMissingGlyph && sum != 0);
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kText.size()));
}

void find_glyphs_floor(benchmark::State& state) {
  std::array<std::uint32_t, 128> table = {};
  for (char32_t c = 0; c < 128; ++c) table[c] = index_of(sans()->find_glyph(c));
  benchmark::DoNotOptimize(table.data());
  std::uint32_t sum = 0;
  for (auto _ : state) {
    for (const char c : kText) sum += table[static_cast<std::size_t>(c)];
    benchmark::DoNotOptimize(sum);
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kText.size()));
}

std::vector<GlyphId> glyphs_of_text() {
  std::vector<GlyphId> glyphs;
  for (const char c : kText) glyphs.push_back(sans()->find_glyph(static_cast<char32_t>(c)));
  return glyphs;
}

void kern(benchmark::State& state) {
  const Face& face = *sans();
  const std::vector<GlyphId> glyphs = glyphs_of_text();
  const Tag script = tag("latn");
  float sum = 0;
  for (auto _ : state) {
    sum = 0;
    for (std::size_t i = 1; i < glyphs.size(); ++i) sum += face.kerning(glyphs[i - 1], glyphs[i], script);
    benchmark::DoNotOptimize(sum);
  }
  float plain = 0;
  for (std::size_t i = 1; i < glyphs.size(); ++i) {
    plain += face.pair_adjustment(glyphs[i - 1], glyphs[i], script).first.x_advance;
  }
  GRAFEMA_VERIFY(state, sum == plain && sum < 0);
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * (glyphs.size() - 1)));
}

void kern_floor(benchmark::State& state) {
  const std::vector<GlyphId> glyphs = glyphs_of_text();
  std::vector<std::uint16_t> rows(sans()->glyph_count()), columns(sans()->glyph_count());
  for (std::size_t i = 0; i < rows.size(); ++i) {
    rows[i] = static_cast<std::uint16_t>(i % 61), columns[i] = static_cast<std::uint16_t>(i % 53);
  }
  std::vector<float> matrix(61 * 53, -3);
  float sum = 0;
  for (auto _ : state) {
    sum = 0;
    for (std::size_t i = 1; i < glyphs.size(); ++i) {
      sum += matrix[rows[index_of(glyphs[i - 1])] * std::size_t{53} + columns[index_of(glyphs[i])]];
    }
    benchmark::DoNotOptimize(sum);
  }
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * (glyphs.size() - 1)));
}

/// Bytes of heap that an open face holds after characters, kerning and an outline were asked for; reported,
/// not timed.
void face_memory(benchmark::State& state) {
  const auto data = FontData::map(kSansPath);
  GRAFEMA_VERIFY(state, data.has_value());
  std::size_t held = 0;
  for (auto _ : state) {
    const std::size_t before = ::mallinfo2().uordblks;
    const auto face = *Face::open(*data);
    (void)face->kerning(face->find_glyph(U'A'), face->find_glyph(U'V'), tag("latn"));
    held = ::mallinfo2().uordblks - before;
  }
  GRAFEMA_VERIFY(state, held > 1000 && held < 100'000);
  state.counters["bytes"] = static_cast<double>(held);
}

constexpr std::size_t kGlyphs = 20'000;

/// A table of 20,000 glyphs of about 24 curves in four contours, half of each in a subroutine.
const std::vector<std::byte>& large_cff() {
  static const std::vector<std::byte> table = [] {
    test::CffDrawing drawing;
    const auto contour = [](test::Charstring& c, int seed) {
      c.op({double(seed % 90), 40}, 21);
      for (int i = 0; i < 6; ++i) {
        c.op({double(seed % 31 + i), 5, 9, double(seed % 17), -7, double(11 - i * 4)}, 8);
      }
    };
    for (int s = 0; s < 200; ++s) {
      test::Charstring c;
      contour(c, s), contour(c, s + 3);
      drawing.global.push_back(c.op({}, 11).get());
    }
    for (std::size_t g = 0; g < kGlyphs; ++g) {
      test::Charstring c;
      contour(c, static_cast<int>(g)), contour(c, static_cast<int>(g / 7));
      drawing.glyphs.push_back(c.op({double(g % 200) - 107}, 29).op({}, 14).get());
    }
    return test::make_cff(drawing);
  }();
  return table;
}

void read_cff(benchmark::State& state) {
  const auto cff = detail::CffOutlines::read({tag("CFF "), large_cff()}, false, {});
  GRAFEMA_VERIFY(state, cff.has_value() && cff->glyph_count() == kGlyphs);
  Contours out;
  std::size_t points = 0;
  for (auto _ : state) {
    points = 0;
    for (std::uint32_t g = 0; g < kGlyphs; ++g) {
      GRAFEMA_VERIFY(state, cff->read_outline(g, 1000, out).has_value());
      points += out.points.size();
    }
  }
  GRAFEMA_VERIFY(state, points == kGlyphs * 4 * 19);
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kGlyphs));
}

/// Looking at every byte of the charstrings and writing as many points and commands.
void read_cff_floor(benchmark::State& state) {
  const std::vector<std::byte>& table = large_cff();
  Contours out;
  std::size_t points = 0;
  for (auto _ : state) {
    points = 0;
    for (std::uint32_t g = 0; g < kGlyphs; ++g) {
      out.clear();
      const std::size_t first = g * (table.size() / kGlyphs);
      float x = 0;
      for (std::size_t i = 0; i < 4 * 6; ++i) {
        if (i % 6 == 0) out.move_to({x, x});
        const auto step = [&](std::size_t k) {
          return x += static_cast<float>(static_cast<int>(table[first + i * 6 + k]) - 139);
        };
        const FontPoint a{step(0), step(1)}, b{step(2), step(3)};
        out.curve_to(a, b, {step(4), step(5)});
        if (i % 6 == 5) out.close();
      }
      points += out.points.size();
    }
    benchmark::DoNotOptimize(out.points.data());
  }
  GRAFEMA_VERIFY(state, points == kGlyphs * 4 * 19);
  state.SetItemsProcessed(static_cast<std::int64_t>(state.iterations() * kGlyphs));
}

BENCHMARK(find_glyphs)->Name("find a glyph, Latin");
BENCHMARK(find_glyphs_floor)->Name("find a glyph, Latin/floor");
BENCHMARK(kern)->Name("kern a pair");
BENCHMARK(kern_floor)->Name("kern a pair/floor");
BENCHMARK(face_memory)->Name("memory of an open face")->Iterations(3);
BENCHMARK(read_cff)->Name("all outlines of 20,000 CFF glyphs")->Unit(benchmark::kMillisecond);
BENCHMARK(read_cff_floor)->Name("all outlines of 20,000 CFF glyphs/floor")->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace grafema::bench
