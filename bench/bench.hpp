// SPDX-License-Identifier: MIT
// What the benchmarks share: inputs that ship, and floors measured in the same run.
#pragma once

#include <benchmark/benchmark.h>

#include <memory>
#include <string>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema::bench {

constexpr const char* kSansPath = "/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf";

/// DejaVu Sans; ends the program with a message where it is not installed.
std::shared_ptr<const Face> sans();

/// The outlines of printable ASCII.
struct NamedOutline {
  GlyphId glyph;
  Contours contours;
};
const std::vector<NamedOutline>& ascii_outlines();

/// Fails the benchmark with a message where a result is wrong: fast and wrong is wrong.
#define GRAFEMA_VERIFY(state, condition)                \
  if (!(condition)) {                                   \
    (state).SkipWithError("wrong result: " #condition); \
    return;                                             \
  }

}  // namespace grafema::bench
