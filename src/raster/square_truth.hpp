// SPDX-License-Identifier: MIT
// Which side of the boundary samples between texels lie on, and how many a picture gets wrong.
#pragma once

#include <cstddef>
#include <span>
#include <vector>

#include "base/four.hpp"
#include "raster/scratch.hpp"

namespace grafema::detail {

constexpr Four kSampleSteps = {0.5F, 1.5F, 2.5F, 3.5F};

/// Of the samples of a square between four texel centers, four of a row together: 1 where the shape is, else
/// -1, and what a reading times that must have more than to be right.
template <std::size_t kSide>
struct SquareTruth {
  static constexpr std::size_t kFours = kSide * kSide / 4;
  static Four across(std::size_t four) {
    return (kSampleSteps + static_cast<float>(four * 4 % kSide)) / static_cast<float>(kSide);
  }
  static float down(std::size_t four) {
    const std::size_t row = four * 4 / kSide;
    return (static_cast<float>(row) + 0.5F) / static_cast<float>(kSide);
  }
  Four signs[kFours], least[kFours];
};

/// How many samples of a square either reading has on the wrong side.
struct WrongSamples {
  int by_median = 0, by_distance = 0;
};

/// Holds the texels of a three-channel picture against the pieces of the boundary, square by square. The
/// square at x, y has the centers of the texels x, y and x + 1, y + 1 at its corners.
class SquareJudge {
 public:
  SquareJudge(const PixelRect& cell, const Rounding& rounded, std::span<float> out,
              RasterScratch::Memory& memory)
      : rounded_(rounded),
        width_(static_cast<std::size_t>(cell.width)),
        height_(static_cast<std::size_t>(cell.height)),
        out_(out),
        memory_(memory) {}

  /// Sorts the pieces of the boundary into rows of pixels; call it once before anything below.
  void sort_into_rows();

  template <std::size_t kSide>
  void find_truth(std::size_t x, std::size_t y, SquareTruth<kSide>& truth) {
    find_near(x, y);
    const float otherwise = texel(x, y)[3] > 0 ? 1.0F : -1.0F;
    const float left = static_cast<float>(x) + 0.5F, top = static_cast<float>(y) + 0.5F;
    for (std::size_t i = 0; i < truth.kFours; ++i) {
      Four far;
      const Four sides = find_sides(left + truth.across(i), top + truth.down(i), otherwise, far);
      truth.signs[i] = select(sides > Four{}, all(1), all(-1));
      truth.least[i] = least_reading(far);
    }
  }

  template <std::size_t kSide>
  WrongSamples count_wrong(std::size_t x, std::size_t y, const SquareTruth<kSide>& truth) {
    const Four a = read(x, y), b = read(x + 1, y), c = read(x, y + 1), d = read(x + 1, y + 1);
    FourInts by_median = {}, by_distance = {};  // a mask that is set is -1
    for (std::size_t i = 0; i < truth.kFours; ++i) {
      const Four u = truth.across(i);
      const float v = truth.down(i);
      const Four left = a + (c - a) * v, across = b + (d - b) * v - left;
      Four mixed[4];
      for (int k = 0; k < 4; ++k) mixed[k] = left[k] + across[k] * u;
      const Four middle = larger(smaller(mixed[0], mixed[1]), smaller(larger(mixed[0], mixed[1]), mixed[2]));
      by_median += middle * truth.signs[i] <= truth.least[i];
      by_distance += mixed[3] * truth.signs[i] <= truth.least[i];
    }
    return {-sum(by_median), -sum(by_distance)};
  }

  /// Whether a sample of a square, of eight by eight, lies more than half a pixel from the boundary, on the
  /// wrong side by the median and on the right one by the true distance.
  bool is_far_off(std::size_t x, std::size_t y);
  /// Whether the sign of the median can differ from that of the distance anywhere in a square.
  bool may_differ(std::size_t x, std::size_t y);

  /// The pieces near the square whose truth was asked for last.
  std::span<const EdgePiece* const> near() const { return near_; }
  float* texel(std::size_t x, std::size_t y) { return out_.data() + (y * width_ + x) * 4; }

 private:
  static int sum(FourInts v) { return v[0] + v[1] + v[2] + v[3]; }
  static Four least_reading(Four squared_distance);
  /// The channels of a texel as they will be stored.
  Four read(std::size_t x, std::size_t y) { return rounded_(load(texel(x, y))); }
  void find_near(std::size_t x, std::size_t y);
  Four find_sides(Four px, float py, float otherwise, Four& best) const;

  const Rounding& rounded_;
  std::size_t width_, height_;
  std::span<float> out_;
  RasterScratch::Memory& memory_;
  std::vector<const EdgePiece*> near_;
};

}  // namespace grafema::detail
