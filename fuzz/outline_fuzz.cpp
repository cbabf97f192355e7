// SPDX-License-Identifier: MIT
// Any curves in every kind of picture, held against a slow and simple second method.
#include <algorithm>
#include <cmath>

#include "grafema/raster/raster.hpp"
#include "input.hpp"
#include "outline_input.hpp"
#include "support/reference.hpp"

namespace {

using namespace grafema;
using fuzz::read_outline;
using fuzz::require;

constexpr int kSide = 16;
constexpr PixelRect kCell{0, 0, kSide, kSide};
constexpr float kReach = 4;

std::vector<float> coverage(const Contours& c, RasterScratch& scratch) {
  std::vector<float> out(kSide * kSide);
  require(rasterize_coverage(c, {}, kCell, out, scratch).has_value());
  for (const float v : out) require(v >= 0 && v <= 1);
  return out;
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size > 256) return 0;
  const Contours outline = read_outline(data, size);
  Contours united = outline;
  unite(united);
  RasterScratch scratch;
  const std::vector<float> plain = coverage(outline, scratch), quick = coverage(united, scratch);
  const std::vector<double> expected = test::reference_coverage(outline, {}, kCell);
  for (std::size_t i = 0; i < plain.size(); ++i) {
    require(std::abs(plain[i] - expected[i]) < 3.0 / 128);  // the reference steps over level edges in 128ths
    require(std::abs(quick[i] - expected[i]) < 3.0 / 128);
  }
  std::vector<float> one(kSide * kSide), four(kSide * kSide * 4);
  require(rasterize_distance(united, {}, kCell, kReach, one, scratch).has_value());
  require(rasterize_distance_channels(united, {}, kCell, kReach, four, scratch).has_value());
  for (std::size_t i = 0; i < one.size(); ++i) {
    const float* t = &four[i * 4];
    for (int c = 0; c < 4; ++c) require(std::abs(t[c]) <= kReach * 1.001F);
    require(std::abs(one[i] - t[3]) < 0.03F || std::abs(one[i]) < 0.03F);
    const float median = std::max(std::min(t[0], t[1]), std::min(std::max(t[0], t[1]), t[2]));
    if (std::abs(one[i]) > 0.05F) require((median > 0) == (one[i] > 0));
    if (one[i] > 0.8F) require(expected[i] > 0.97);
    if (one[i] < -0.8F) require(expected[i] < 0.03);
  }
  return 0;
}
