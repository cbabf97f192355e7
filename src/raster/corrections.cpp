// SPDX-License-Identifier: MIT
// Finds where the median of three channels would err when magnified, and makes texels plain there.
#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <limits>
#include <optional>

#include "base/four.hpp"
#include "raster/scratch.hpp"
#include "raster/square_truth.hpp"

namespace grafema::detail {
namespace {

// Samples along a side of a square: to see whether it errs, and to choose what mends it.
constexpr std::size_t kCoarse = 4, kFine = 8;
// A sample of a square that stands clear of edges whose reading is below this, in pixels, shows as a speck.
constexpr float kNearlyZero = 0.1F;
constexpr int kPasses = 8;
constexpr int kVisible = 1;  // wrong samples of a square
static_assert(std::endian::native == std::endian::little, "the first of eight squares is the lowest byte");

class Corrector {
 public:
  Corrector(const PixelRect& cell, const Rounding& rounded, std::span<float> out,
            RasterScratch::Memory& memory)
      : width_(static_cast<std::size_t>(cell.width)),
        height_(static_cast<std::size_t>(cell.height)),
        judge_(cell, rounded, out, memory),
        memory_(memory) {}

  void run() {
    constexpr std::size_t kUsual = 256;
    suspects_.reserve(kUsual), again_.reserve(kUsual);
    find_suspects();
    judge_.sort_into_rows();
    mend();
    guard();
  }

 private:
  void mend() {
    for (int pass = 0; pass < kPasses && !suspects_.empty(); ++pass) {
      again_.clear();
      for (const Square& s : suspects_) {
        const bool mended =
            (is_saddle(s.x, s.y) && mend_saddle(s.x, s.y)) || (may_err(s.x, s.y) && mend_square(s.x, s.y));
        if (mended) add_neighbors(s);
      }
      suspects_.swap(again_);
    }
  }

  /// What no search above may leave: a sample far on the wrong side. One texel of its square is made plain,
  /// that which spoils least around it, or all four. Each step leaves one texel more plain, so that it ends.
  void guard() {
    suspects_.clear();
    for (std::size_t y = 0; y + 1 < height_; ++y) {
      for (std::size_t x = 0; x + 1 < width_; ++x) {
        if (may_err(x, y) || judge_.may_differ(x, y)) {
          suspects_.push_back({static_cast<std::uint16_t>(x), static_cast<std::uint16_t>(y)});
        }
      }
    }
    while (!suspects_.empty()) {
      again_.clear();
      for (const Square& s : suspects_) {
        if (!judge_.is_far_off(s.x, s.y)) continue;
        make_least_plain(s.x, s.y, [&] { return judge_.is_far_off(s.x, s.y); });
        add_neighbors(s);
      }
      suspects_.swap(again_);
    }
  }

  float* texel(std::size_t x, std::size_t y) { return judge_.texel(x, y); }

  static void make_plain(float* t) { t[0] = t[1] = t[2] = t[3]; }

  void make_plain(std::size_t x, std::size_t y) {
    make_plain(texel(x, y));
    memory_.marks[y * width_ + x] = describe(texel(x, y));
  }

  struct Square {
    std::uint16_t x, y;
  };

  /// The mark of a texel, as `gather` makes them.
  static std::uint8_t describe(const float* t) {
    int bits = 0;
    for (int k = 0; k < 3; ++k) {
      bits |= (t[k] > 0 ? 1 << k : 0) | (std::abs(t[k] - t[3]) <= kAlike ? 8 << k : 0);
    }
    return static_cast<std::uint8_t>(bits);
  }

  /// Whether two of the lowest three bits are set: 3, 5, 6 and 7.
  static bool two_set(int bits) { return (0xE8 >> (bits & 7) & 1) != 0; }

  /// Between four texels the median keeps its sign where two channels do, and is the distance where two
  /// channels are.
  bool may_err(std::size_t x, std::size_t y) const {
    const std::uint8_t* at = memory_.marks.data() + y * width_ + x;
    return is_risky(at[0] & at[1] & at[width_] & at[width_ + 1], at[0] | at[1] | at[width_] | at[width_ + 1]);
  }
  static bool is_risky(int both, int either) {
    return !two_set(both) && two_set(either) && !two_set(both >> 3);
  }

  /// Looks at every square once, at eight of a row together: few may err.
  void find_suspects() {
    for (std::size_t y = 0; y + 1 < height_; ++y) {
      for (std::size_t x = 0; x + 1 < width_; x += 8) {
        for (std::uint64_t left = find_doubtful(x, y); left != 0; left &= left - 1) {
          const std::size_t i = x + static_cast<std::size_t>(std::countr_zero(left)) / 8;
          if (i + 1 < width_) {
            suspects_.push_back({static_cast<std::uint16_t>(i), static_cast<std::uint16_t>(y)});
          }
        }
      }
    }
  }

  /// Of eight squares, the first at x, y, those that may err or are saddles: the lowest bit of each byte.
  /// What lies beyond a row's end says nothing.
  std::uint64_t find_doubtful(std::size_t x, std::size_t y) const {
    std::uint64_t at[4], two[4];
    const auto two_of_each = [](std::uint64_t v) {
      return ((v & v >> 1) | (v >> 1 & v >> 2) | (v & v >> 2)) & 0x0101010101010101;
    };
    for (std::size_t k = 0; k < 4; ++k) {
      std::memcpy(&at[k], memory_.marks.data() + (y + k / 2) * width_ + x + k % 2, 8);
      two[k] = two_of_each(at[k]);
    }
    const std::uint64_t all_of = at[0] & at[1] & at[2] & at[3], one_of = at[0] | at[1] | at[2] | at[3];
    const std::uint64_t saddle = (two[0] ^ two[1]) & ~(two[0] ^ two[3]) & ~(two[1] ^ two[2]);
    return two_of_each(one_of) & ~two_of_each(all_of) & (~two_of_each(all_of >> 3) | saddle);
  }

  /// Whether the shape fills two opposite corners of a square and not the others.
  static bool is_saddle(int a, int b, int c, int d) {
    return two_set(a) == two_set(d) && two_set(b) == two_set(c) && two_set(a) != two_set(b);
  }
  bool is_saddle(std::size_t x, std::size_t y) const {
    const std::uint8_t* at = memory_.marks.data() + y * width_ + x;
    return is_saddle(at[0], at[1], at[width_], at[width_ + 1]);
  }

  /// Two corners of a pixel face that touch: no median of straight edges fills opposite quarters, but the
  /// product of the distances to a level and an upright line does, and mixing texels reproduces it exactly.
  /// Beyond the square the lines stay where they are, for each texel keeps its side and what it is multiplied
  /// by is the same along an edge.
  bool mend_saddle(std::size_t x, std::size_t y) {
    look_around(x, y);
    if (around_.wrong[4] == 0) return false;
    SquareTruth<kCoarse> truth;
    judge_.find_truth(x, y, truth);  // leaves what is near
    const float left = static_cast<float>(x) + 0.5F, top = static_cast<float>(y) + 0.5F;
    std::optional<float> level, upright;
    for (const EdgePiece* p : judge_.near()) {
      if (p->ey == 0 && p->y > top && p->y < top + 1) level = p->y - top;
      if (p->ex == 0 && p->x > left && p->x < left + 1) upright = p->x - left;
    }
    if (!level || !upright) return false;
    std::array<std::array<float, 3>, 4> kept;
    constexpr float kSteepness = 2;  // distances in the square are about half a texel
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = corner_of(x, y, k);
      std::copy_n(t, 3, kept[k].begin());
      const float across = k % 2 == 0 ? *upright : 1 - *upright, down = k / 2 == 0 ? *level : 1 - *level;
      std::fill_n(t, 3, (t[3] > 0 ? kSteepness : -kSteepness) * across * down);
    }
    const bool better = gain_at(4) > 0;
    for (std::size_t k = 0; k < 4; ++k) {
      if (!better) std::copy_n(kept[k].begin(), 3, corner_of(x, y, k));
      describe_corner(x, y, k);
    }
    return better;
  }

  /// Squares that share a corner with one that was changed are looked at again.
  void add_neighbors(const Square& s) {
    for (int j = -1; j <= 1; ++j) {
      for (int i = -1; i <= 1; ++i) {
        const int x = s.x + i, y = s.y + j;
        if (x < 0 || y < 0 || x + 1 >= static_cast<int>(width_) || y + 1 >= static_cast<int>(height_)) {
          continue;
        }
        again_.push_back({static_cast<std::uint16_t>(x), static_cast<std::uint16_t>(y)});
      }
    }
  }

  /// Whether no edge can go through a square: all its corners are farther from one than from its middle, on
  /// one side.
  bool stands_clear(std::size_t x, std::size_t y) {
    const float a = texel(x, y)[3], b = texel(x + 1, y)[3], c = texel(x, y + 1)[3],
                d = texel(x + 1, y + 1)[3];
    constexpr float kHalfDiagonal = 0.7072F;
    return std::min({a, b, c, d}) > kHalfDiagonal || std::max({a, b, c, d}) < -kHalfDiagonal;
  }

  /// Whether the median comes near the other side anywhere in a square that stands clear of edges: a speck.
  bool has_speck(std::size_t x, std::size_t y) {
    constexpr int kRows = 8;
    const float *a = texel(x, y), *b = texel(x + 1, y), *c = texel(x, y + 1), *d = texel(x + 1, y + 1),
                sign = a[3] > 0 ? 1.0F : -1.0F;
    for (int j = 0; j <= kRows; ++j) {
      const float v = static_cast<float>(j) / kRows;
      for (const float first : {0.0F, 0.5F}) {
        const Four u = kSampleSteps / 8.0F + first;  // sixteenths 1, 3, 5 ... of the side
        Four mixed[3];
        for (std::size_t k = 0; k < 3; ++k) {
          const float left = a[k] + (c[k] - a[k]) * v, right = b[k] + (d[k] - b[k]) * v;
          mixed[k] = (left + (right - left) * u) * sign;
        }
        const FourInts low = larger(smaller(mixed[0], mixed[1]),
                                    smaller(larger(mixed[0], mixed[1]), mixed[2])) < all(kNearlyZero);
        if ((low[0] | low[1] | low[2] | low[3]) != 0) return true;
      }
    }
    return false;
  }

  /// The nine squares around and with one.
  struct Around {
    std::size_t x = 0, y = 0;  ///< the one in the middle
    std::array<SquareTruth<kFine>, 9> truths;
    std::array<int, 9> wrong;  ///< by the median
  };

  bool is_square(std::size_t x, std::size_t y) const {
    return x < width_ - 1 && y < height_ - 1;
  }  // what is below 0 has wrapped around

  void look_around(std::size_t x, std::size_t y) {
    around_.x = x, around_.y = y;
    for (std::size_t k = 0; k < 9; ++k) {
      const std::size_t i = x + k % 3 - 1, j = y + k / 3 - 1;
      if (!is_square(i, j)) continue;
      judge_.find_truth(i, j, around_.truths[k]);
      around_.wrong[k] = judge_.count_wrong(i, j, around_.truths[k]).by_median;
    }
  }

  /// How many samples fewer are wrong than when they were looked at, of the squares that touch a corner of
  /// the one in the middle: 0 to 3, or 4 for all corners.
  int gain_at(std::size_t corner) {
    int gain = 0;
    for (std::size_t k = 0; k < 9; ++k) {
      const bool touches = corner == 4 || ((k % 3 == corner % 2 || k % 3 == corner % 2 + 1) &&
                                           (k / 3 == corner / 2 || k / 3 == corner / 2 + 1));
      const std::size_t i = around_.x + k % 3 - 1, j = around_.y + k / 3 - 1;
      if (touches && is_square(i, j)) {
        gain += around_.wrong[k] - judge_.count_wrong(i, j, around_.truths[k]).by_median;
      }
    }
    return gain;
  }

  float* corner_of(std::size_t x, std::size_t y, std::size_t corner) {
    return texel(x + corner % 2, y + corner / 2);
  }
  void describe_corner(std::size_t x, std::size_t y, std::size_t corner) {
    memory_.marks[(y + corner / 2) * width_ + x + corner % 2] = describe(corner_of(x, y, corner));
  }

  /// Makes the one texel of a square plain that takes away what `is_wrong` there and spoils least around it,
  /// or all four.
  template <class IsWrong>
  void make_least_plain(std::size_t x, std::size_t y, IsWrong is_wrong) {
    look_around(x, y);
    int best = std::numeric_limits<int>::min();
    std::size_t chosen = 4;
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = corner_of(x, y, k);
      const std::array<float, 3> kept = {t[0], t[1], t[2]};
      make_plain(t);
      if (!is_wrong()) {
        if (const int gain = gain_at(k); gain > best) best = gain, chosen = k;
      }
      std::copy(kept.begin(), kept.end(), t);
    }
    for (std::size_t k = 0; k < 4; ++k) {
      if (k == chosen || chosen == 4) make_plain(x + k % 2, y + k / 2);
    }
  }

  bool mend_speck(std::size_t x, std::size_t y) {
    if (!has_speck(x, y)) return false;
    make_least_plain(x, y, [&] { return has_speck(x, y); });
    return true;
  }

  /// Where the median of a square errs: gives one texel a single distance, the true one or that of one of its
  /// channels, whichever mends most of the squares around; or makes all four plain where the median errs more
  /// than the distance would.
  bool mend_square(std::size_t x, std::size_t y) {
    if (stands_clear(x, y)) return mend_speck(x, y);
    SquareTruth<kCoarse> truth;
    judge_.find_truth(x, y, truth);
    const WrongSamples before = judge_.count_wrong(x, y, truth);
    if (before.by_median < kVisible && before.by_median <= before.by_distance) return false;
    look_around(x, y);
    int best = 0;
    std::size_t chosen = 4;
    float value = 0;
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = corner_of(x, y, k);
      const std::array<float, 4> kept = {t[0], t[1], t[2], t[3]};
      for (const float candidate : kept) {
        if ((candidate > 0) != (kept[3] > 0)) continue;
        std::fill_n(t, 3, candidate);
        if (const int gain = gain_at(k); gain > best) best = gain, chosen = k, value = candidate;
      }
      std::copy_n(kept.begin(), 3, t);
    }
    if (chosen < 4) {
      std::fill_n(corner_of(x, y, chosen), 3, value);
      describe_corner(x, y, chosen);
      return true;
    }
    if (before.by_median <= before.by_distance) return false;
    std::array<std::array<float, 3>, 4> kept;
    for (std::size_t k = 0; k < 4; ++k) {
      std::copy_n(corner_of(x, y, k), 3, kept[k].begin());
      make_plain(corner_of(x, y, k));
    }
    const bool better = gain_at(4) > 0;
    for (std::size_t k = 0; k < 4; ++k) {
      if (!better) std::copy_n(kept[k].begin(), 3, corner_of(x, y, k));
      describe_corner(x, y, k);
    }
    return better;
  }

  std::size_t width_, height_;
  SquareJudge judge_;
  RasterScratch::Memory& memory_;
  std::vector<Square> suspects_, again_;
  Around around_;
};

}  // namespace

void correct_channels(const PixelRect& cell, const Rounding& rounded, std::span<float> out,
                      RasterScratch::Memory& memory) {
  Corrector(cell, rounded, out, memory).run();
}

}  // namespace grafema::detail
