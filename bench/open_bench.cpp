// SPDX-License-Identifier: MIT
// Opening a face, against mapping its file and touching twelve pages.
#include "bench.hpp"

namespace grafema::bench {
namespace {

void open_face(benchmark::State& state) {
  for (auto _ : state) {
    const auto data = FontData::map(kSansPath);
    GRAFEMA_VERIFY(state, data.has_value());
    const auto face = Face::open(*data);
    GRAFEMA_VERIFY(state, face.has_value());
    Contours outline;
    GRAFEMA_VERIFY(state, (*face)->read_outline((*face)->find_glyph(U'g'), outline).has_value() &&
                              !outline.commands.empty());
  }
}

void open_face_floor(benchmark::State& state) {
  for (auto _ : state) {
    const auto data = FontData::map(kSansPath);
    GRAFEMA_VERIFY(state, data.has_value());
    unsigned sum = 0;
    const std::size_t step = data->bytes().size() / 12;
    for (std::size_t i = 0; i < 12; ++i) sum += static_cast<unsigned>(data->bytes()[i * step]);
    benchmark::DoNotOptimize(sum);
  }
}

BENCHMARK(open_face)->Name("open a face and read a glyph");
BENCHMARK(open_face_floor)->Name("open a face and read a glyph/floor");

}  // namespace
}  // namespace grafema::bench
