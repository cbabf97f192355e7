// SPDX-License-Identifier: MIT
// Finds where the median of three channels would err when it is magnified, and takes the channels' difference away there.
#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <cstring>
#include <limits>
#include <optional>

#include "base/four.hpp"
#include "raster/scratch.hpp"

namespace grafema::detail {
namespace {

// Samples along a side of the square between four texel centers: to see whether it errs, and to choose what mends it.
constexpr std::size_t kCoarse = 4, kFine = 8;
constexpr Four kSteps = {0.5F, 1.5F, 2.5F, 3.5F};
// A sample this far from every edge (squared pixels) whose reading is nearly 0 stands beside a hairline that no sample met.
constexpr float kFar = 0.1F, kNearlyZero = 0.1F;
// One this near to an edge (squared pixels) is on either side of it.
constexpr float kOnEdge = 0.02F * 0.02F;
constexpr float kNear = 1.5F;          // pixels; the nearest edge of a square through which an edge goes is no farther
constexpr int kPasses = 8;
constexpr int kVisible = 1;            // wrong samples of a square
static_assert(std::endian::native == std::endian::little, "the first of eight squares is the lowest byte");

class Corrector {
 public:
  Corrector(const PixelRect& cell, const Rounding& rounded, std::span<float> out, RasterScratch::Memory& memory)
      : rounded_(rounded), width_(static_cast<std::size_t>(cell.width)), height_(static_cast<std::size_t>(cell.height)), out_(out), memory_(memory) {}

  void run() {
    find_suspects();
    if (suspects_.empty()) return;
    sort_into_rows();
    for (int pass = 0; pass < kPasses && !suspects_.empty(); ++pass) {
      again_.clear();
      for (const Square& s : suspects_) {
        const bool mended = (is_saddle(s.x, s.y) && mend_saddle(s.x, s.y)) || (may_err(s.x, s.y) && mend_square(s.x, s.y));
        if (mended) add_neighbors(s);
      }
      suspects_.swap(again_);
    }
  }

 private:
  float* texel(std::size_t x, std::size_t y) { return out_.data() + (y * width_ + x) * 4; }

  /// The channels of a texel as they will be stored.
  Four read(std::size_t x, std::size_t y) { return rounded_(load(texel(x, y))); }

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
    for (int k = 0; k < 3; ++k) bits |= (t[k] > 0 ? 1 << k : 0) | (std::abs(t[k] - t[3]) <= kAlike ? 8 << k : 0);
    return static_cast<std::uint8_t>(bits);
  }

  /// Whether two of the lowest three bits are set: 3, 5, 6 and 7.
  static bool two_set(int bits) { return (0xE8 >> (bits & 7) & 1) != 0; }

  /// Between four texels the median keeps its sign where two channels do, and is the distance where two channels are.
  bool may_err(std::size_t x, std::size_t y) const {
    const std::uint8_t* at = memory_.marks.data() + y * width_ + x;
    return is_risky(at[0] & at[1] & at[width_] & at[width_ + 1], at[0] | at[1] | at[width_] | at[width_ + 1]);
  }
  static bool is_risky(int both, int either) { return !two_set(both) && two_set(either) && !two_set(both >> 3); }

  /// Looks at every square once, at eight of a row together: few may err.
  void find_suspects() {
    for (std::size_t y = 0; y + 1 < height_; ++y) {
      for (std::size_t x = 0; x + 1 < width_; x += 8) {
        for (std::uint64_t left = find_doubtful(x, y); left != 0; left &= left - 1) {
          const std::size_t i = x + static_cast<std::size_t>(std::countr_zero(left)) / 8;
          if (i + 1 < width_) suspects_.push_back({static_cast<std::uint16_t>(i), static_cast<std::uint16_t>(y)});
        }
      }
    }
  }

  /// Of eight squares, the first at x, y, those that may err or are saddles: the lowest bit of each byte. What lies beyond a
  /// row's end says nothing.
  std::uint64_t find_doubtful(std::size_t x, std::size_t y) const {
    std::uint64_t at[4], two[4];
    const auto two_of_each = [](std::uint64_t v) { return ((v & v >> 1) | (v >> 1 & v >> 2) | (v & v >> 2)) & 0x0101010101010101; };
    for (std::size_t k = 0; k < 4; ++k) {
      std::memcpy(&at[k], memory_.marks.data() + (y + k / 2) * width_ + x + k % 2, 8);
      two[k] = two_of_each(at[k]);
    }
    const std::uint64_t all_of = at[0] & at[1] & at[2] & at[3], one_of = at[0] | at[1] | at[2] | at[3];
    const std::uint64_t saddle = (two[0] ^ two[1]) & ~(two[0] ^ two[3]) & ~(two[1] ^ two[2]);
    return two_of_each(one_of) & ~two_of_each(all_of) & (~two_of_each(all_of >> 3) | saddle);
  }

  /// Whether the shape fills two opposite corners of a square and not the others.
  static bool is_saddle(int a, int b, int c, int d) { return two_set(a) == two_set(d) && two_set(b) == two_set(c) && two_set(a) != two_set(b); }
  bool is_saddle(std::size_t x, std::size_t y) const {
    const std::uint8_t* at = memory_.marks.data() + y * width_ + x;
    return is_saddle(at[0], at[1], at[width_], at[width_ + 1]);
  }

  /// Two corners of a pixel face that touch: no median of straight edges fills opposite quarters, but the product of the
  /// distances to a level and an upright line does, and mixing texels reproduces it exactly. Beyond the square the lines stay
  /// where they are, for each texel keeps its side and what it is multiplied by is the same along an edge.
  bool mend_saddle(std::size_t x, std::size_t y) {
    look_around(x, y);
    if (around_.wrong[4] == 0) return false;
    Truth<kCoarse> truth;
    find_truth(x, y, truth);  // leaves what is near
    const float left = static_cast<float>(x) + 0.5F, top = static_cast<float>(y) + 0.5F;
    std::optional<float> level, upright;
    for (const EdgePiece* p : near_) {
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
        if (x < 0 || y < 0 || x + 1 >= static_cast<int>(width_) || y + 1 >= static_cast<int>(height_)) continue;
        again_.push_back({static_cast<std::uint16_t>(x), static_cast<std::uint16_t>(y)});
      }
    }
  }

  void sort_into_rows() {
    auto& first = memory_.row_first;
    first.assign(height_ + 2, 0);
    const auto rows_of = [this](const EdgePiece& p) {
      return centers_between(std::min(p.y, p.y + p.ey) - kNear - 1, std::max(p.y, p.y + p.ey) + kNear, static_cast<int>(height_));
    };
    for (const EdgePiece& p : memory_.pieces) {
      const auto [top, bottom] = rows_of(p);
      for (int y = top; y < bottom; ++y) ++first[static_cast<std::size_t>(y) + 1];
    }
    for (std::size_t y = 0; y < height_; ++y) first[y + 1] += first[y];
    memory_.row_pieces.resize(first[height_]);
    std::vector<std::uint32_t>& next = memory_.row_next;
    next.assign(first.begin(), first.end());
    for (std::size_t i = 0; i < memory_.pieces.size(); ++i) {
      const auto [top, bottom] = rows_of(memory_.pieces[i]);
      for (int y = top; y < bottom; ++y) memory_.row_pieces[next[static_cast<std::size_t>(y)]++] = static_cast<std::uint32_t>(i);
    }
  }

  /// Of the samples of a square, four of a row together: 1 where the shape is, else -1, and what a reading times that must
  /// have more than to be right.
  template <std::size_t kSide>
  struct Truth {
    static constexpr std::size_t kFours = kSide * kSide / 4;
    static Four across(std::size_t four) { return (kSteps + static_cast<float>(four * 4 % kSide)) / static_cast<float>(kSide); }
    static float down(std::size_t four) { return (static_cast<float>(four * 4 / kSide) + 0.5F) / static_cast<float>(kSide); }
    Four signs[kFours], least[kFours];
  };

  template <std::size_t kSide>
  void find_truth(std::size_t x, std::size_t y, Truth<kSide>& truth) {
    near_.clear();
    const float left = static_cast<float>(x) + 0.5F - kNear, right = static_cast<float>(x) + 1.5F + kNear;
    for (std::uint32_t k = memory_.row_first[y]; k < memory_.row_first[y + 1]; ++k) {
      const EdgePiece& p = memory_.pieces[memory_.row_pieces[k]];
      if (std::max(p.x, p.x + p.ex) >= left && std::min(p.x, p.x + p.ex) <= right) near_.push_back(&p);
    }
    const float otherwise = texel(x, y)[3] > 0 ? 1.0F : -1.0F;
    for (std::size_t i = 0; i < truth.kFours; ++i) {
      Four far;
      const Four sides = find_sides(static_cast<float>(x) + 0.5F + truth.across(i), static_cast<float>(y) + 0.5F + truth.down(i), otherwise, far);
      truth.signs[i] = select(sides > Four{}, all(1), all(-1));
      truth.least[i] = select(far > all(kFar), all(kNearlyZero), select(far < all(kOnEdge), all(-INFINITY), Four{}));
    }
  }

  /// Above 0 inside: the side of the nearest piece; of two that are equally near the one whose line is farther. `best` is how
  /// far it is, squared.
  Four find_sides(Four px, float py, float otherwise, Four& best) const {
    const Four zero = {}, one = all(1);
    Four best_side = all(otherwise);
    best = all(INFINITY);
    for (const EdgePiece* p : near_) {
      const Four dx = px - p->x;
      const float dy = py - p->y;
      const Four t = smaller(larger((dx * p->ex + dy * p->ey) * p->inverse_square, zero), one);
      const Four nx = dx - t * p->ex, ny = dy - t * p->ey, side = (p->ex * dy - p->ey * dx) * p->inverse_length;
      const Four key = nx * nx + ny * ny - 1e-4F * side * side;
      const FourInts nearer = key < best;
      best = select(nearer, key, best);
      best_side = select(nearer, side, best_side);
    }
    return best_side;
  }

  struct Wrong {
    int by_median = 0, by_distance = 0;
  };

  /// How many samples of a square either reading has on the wrong side.
  template <std::size_t kSide>
  Wrong count_wrong(std::size_t x, std::size_t y, const Truth<kSide>& truth) {
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
    return {-(by_median[0] + by_median[1] + by_median[2] + by_median[3]), -(by_distance[0] + by_distance[1] + by_distance[2] + by_distance[3])};
  }

  /// Whether no edge can go through a square: all its corners are farther from one than from its middle, on one side.
  bool stands_clear(std::size_t x, std::size_t y) {
    const float a = texel(x, y)[3], b = texel(x + 1, y)[3], c = texel(x, y + 1)[3], d = texel(x + 1, y + 1)[3];
    constexpr float kHalfDiagonal = 0.7072F;
    return std::min({a, b, c, d}) > kHalfDiagonal || std::max({a, b, c, d}) < -kHalfDiagonal;
  }

  /// Whether the median comes near the other side anywhere in a square that stands clear of edges: a speck.
  bool has_speck(std::size_t x, std::size_t y) {
    constexpr int kRows = 8;
    const float *a = texel(x, y), *b = texel(x + 1, y), *c = texel(x, y + 1), *d = texel(x + 1, y + 1), sign = a[3] > 0 ? 1.0F : -1.0F;
    for (int j = 0; j <= kRows; ++j) {
      const float v = static_cast<float>(j) / kRows;
      for (const float first : {0.0F, 0.5F}) {
        const Four u = kSteps / 8.0F + first;  // sixteenths 1, 3, 5 ... of the side
        Four mixed[3];
        for (std::size_t k = 0; k < 3; ++k) {
          const float left = a[k] + (c[k] - a[k]) * v, right = b[k] + (d[k] - b[k]) * v;
          mixed[k] = (left + (right - left) * u) * sign;
        }
        const FourInts low = larger(smaller(mixed[0], mixed[1]), smaller(larger(mixed[0], mixed[1]), mixed[2])) < all(kNearlyZero);
        if ((low[0] | low[1] | low[2] | low[3]) != 0) return true;
      }
    }
    return false;
  }

  /// The nine squares around and with one.
  struct Around {
    std::size_t x = 0, y = 0;  ///< the one in the middle
    std::array<Truth<kFine>, 9> truths;
    std::array<int, 9> wrong;  ///< by the median
  };

  bool is_square(std::size_t x, std::size_t y) const { return x < width_ - 1 && y < height_ - 1; }  // what is below 0 has wrapped around

  void look_around(std::size_t x, std::size_t y) {
    around_.x = x, around_.y = y;
    for (std::size_t k = 0; k < 9; ++k) {
      const std::size_t i = x + k % 3 - 1, j = y + k / 3 - 1;
      if (!is_square(i, j)) continue;
      find_truth(i, j, around_.truths[k]);
      around_.wrong[k] = count_wrong(i, j, around_.truths[k]).by_median;
    }
  }

  /// How many samples fewer are wrong than when they were looked at, of the squares that touch a corner of the one in the
  /// middle: 0 to 3, or 4 for all corners.
  int gain_at(std::size_t corner) {
    int gain = 0;
    for (std::size_t k = 0; k < 9; ++k) {
      const bool touches = corner == 4 || ((k % 3 == corner % 2 || k % 3 == corner % 2 + 1) && (k / 3 == corner / 2 || k / 3 == corner / 2 + 1));
      const std::size_t i = around_.x + k % 3 - 1, j = around_.y + k / 3 - 1;
      if (touches && is_square(i, j)) gain += around_.wrong[k] - count_wrong(i, j, around_.truths[k]).by_median;
    }
    return gain;
  }

  float* corner_of(std::size_t x, std::size_t y, std::size_t corner) { return texel(x + corner % 2, y + corner / 2); }
  void describe_corner(std::size_t x, std::size_t y, std::size_t corner) {
    memory_.marks[(y + corner / 2) * width_ + x + corner % 2] = describe(corner_of(x, y, corner));
  }

  /// Takes a speck away by the one texel that spoils least around it, or by all four.
  bool mend_speck(std::size_t x, std::size_t y) {
    if (!has_speck(x, y)) return false;
    look_around(x, y);
    int best = std::numeric_limits<int>::min();
    std::size_t chosen = 4;
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = corner_of(x, y, k);
      const std::array<float, 3> kept = {t[0], t[1], t[2]};
      make_plain(t);
      if (!has_speck(x, y)) {
        if (const int gain = gain_at(k); gain > best) best = gain, chosen = k;
      }
      std::copy(kept.begin(), kept.end(), t);
    }
    for (std::size_t k = 0; k < 4; ++k) {
      if (k == chosen || chosen == 4) make_plain(x + k % 2, y + k / 2);
    }
    return true;
  }

  /// Where the median of a square errs: gives one texel a single distance, the true one or that of one of its channels,
  /// whichever mends most of the squares around; or makes all four plain where the median errs more than the distance would.
  bool mend_square(std::size_t x, std::size_t y) {
    if (stands_clear(x, y)) return mend_speck(x, y);
    Truth<kCoarse> truth;
    find_truth(x, y, truth);
    const Wrong before = count_wrong(x, y, truth);
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

  const Rounding& rounded_;
  std::size_t width_, height_;
  std::span<float> out_;
  RasterScratch::Memory& memory_;
  std::vector<const EdgePiece*> near_;
  std::vector<Square> suspects_, again_;
  Around around_;
};

}  // namespace

void correct_channels(const PixelRect& cell, const Rounding& rounded, std::span<float> out, RasterScratch::Memory& memory) {
  Corrector(cell, rounded, out, memory).run();
}

}  // namespace grafema::detail
