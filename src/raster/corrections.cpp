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

constexpr std::size_t kSamples = 4;    // a side of the square between four texel centers
constexpr Four kFractions = {0.125F, 0.375F, 0.625F, 0.875F};
// A sample this far from every edge (squared pixels) whose reading is nearly 0 stands beside a hairline that no sample met.
constexpr float kFar = 0.1F, kNearlyZero = 0.1F;
// One this near to an edge (squared pixels) is on either side of it.
constexpr float kOnEdge = 0.02F * 0.02F;
constexpr float kNear = 1.5F;          // pixels; the nearest edge of a square through which an edge goes is no farther
constexpr int kPasses = 8;
static_assert(std::endian::native == std::endian::little, "the first of eight squares is the lowest byte");

class Corrector {
 public:
  Corrector(const PixelRect& cell, std::span<float> out, RasterScratch::Memory& memory)
      : width_(static_cast<std::size_t>(cell.width)), height_(static_cast<std::size_t>(cell.height)), out_(out), memory_(memory) {}

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
    find_truth(x, y);
    const float left = static_cast<float>(x) + 0.5F, top = static_cast<float>(y) + 0.5F;
    std::optional<float> level, upright;
    for (const EdgePiece* p : near_) {
      if (p->ey == 0 && p->y > top && p->y < top + 1) level = p->y - top;
      if (p->ex == 0 && p->x > left && p->x < left + 1) upright = p->x - left;
    }
    if (!level || !upright || count_wrong(x, y).by_median == 0) return false;
    std::array<std::array<float, 3>, 4> kept;
    const int before = count_around(x, y, 2);
    constexpr float kSteepness = 2;  // distances in the square are about half a texel
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = texel(x + k % 2, y + k / 2);
      std::copy_n(t, 3, kept[k].begin());
      const float across = k % 2 == 0 ? *upright : 1 - *upright, down = k / 2 == 0 ? *level : 1 - *level;
      std::fill_n(t, 3, (t[3] > 0 ? kSteepness : -kSteepness) * across * down);
    }
    const bool better = count_around(x, y, 2) < before;
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = texel(x + k % 2, y + k / 2);
      if (!better) std::copy_n(kept[k].begin(), 3, t);
      memory_.marks[(y + k / 2) * width_ + x + k % 2] = describe(t);
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

  /// Which samples of a square the shape fills, and which stand far from its edge.
  void find_truth(std::size_t x, std::size_t y) {
    near_.clear();
    const float left = static_cast<float>(x) + 0.5F - kNear, right = static_cast<float>(x) + 1.5F + kNear;
    for (std::uint32_t k = memory_.row_first[y]; k < memory_.row_first[y + 1]; ++k) {
      const EdgePiece& p = memory_.pieces[memory_.row_pieces[k]];
      if (std::max(p.x, p.x + p.ex) >= left && std::min(p.x, p.x + p.ex) <= right) near_.push_back(&p);
    }
    const float otherwise = texel(x, y)[3] > 0 ? 1.0F : -1.0F;
    const Four px = static_cast<float>(x) + 0.5F + kFractions;
    for (std::size_t j = 0; j < kSamples; ++j) {
      const Four sides = find_sides(px, static_cast<float>(y) + 0.5F + kFractions[j], otherwise, least_[j]);
      signs_[j] = select(sides > Four{}, all(1), all(-1));
      least_[j] = select(least_[j] > all(kFar), all(kNearlyZero), select(least_[j] < all(kOnEdge), all(-INFINITY), Four{}));
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
  Wrong count_wrong(std::size_t x, std::size_t y) {
    const float *a = texel(x, y), *b = texel(x + 1, y), *c = texel(x, y + 1), *d = texel(x + 1, y + 1);
    FourInts by_median = {}, by_distance = {};  // a mask that is set is -1
    for (std::size_t j = 0; j < kSamples; ++j) {
      const float v = kFractions[j];
      Four mixed[4];
      for (std::size_t k = 0; k < 4; ++k) {
        const float left = a[k] + (c[k] - a[k]) * v, right = b[k] + (d[k] - b[k]) * v;
        mixed[k] = left + (right - left) * kFractions;
      }
      const Four middle = larger(smaller(mixed[0], mixed[1]), smaller(larger(mixed[0], mixed[1]), mixed[2]));
      by_median += middle * signs_[j] <= least_[j];
      by_distance += mixed[3] * signs_[j] <= least_[j];
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
    constexpr int kFine = 8;
    const float *a = texel(x, y), *b = texel(x + 1, y), *c = texel(x, y + 1), *d = texel(x + 1, y + 1), sign = a[3] > 0 ? 1.0F : -1.0F;
    for (int j = 0; j <= kFine; ++j) {
      const float v = static_cast<float>(j) / kFine;
      for (const float first : {0.0F, 0.5F}) {
        const Four u = kFractions * 0.5F + first;  // sixteenths 1, 3, 5 ... of the side
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

  /// Takes a speck away by the one texel that spoils least around it, or by all four.
  bool mend_speck(std::size_t x, std::size_t y) {
    if (!has_speck(x, y)) return false;
    int best = std::numeric_limits<int>::min();
    std::size_t chosen = 4;
    for (std::size_t k = 0; k < 4; ++k) {
      float* t = texel(x + k % 2, y + k / 2);
      const std::array<float, 3> kept = {t[0], t[1], t[2]};
      make_plain(t);
      const bool gone = !has_speck(x, y);
      std::copy(kept.begin(), kept.end(), t);
      if (!gone) continue;
      if (const int gain = gain_of(x + k % 2, y + k / 2, 1); gain > best) best = gain, chosen = k;
    }
    for (std::size_t k = 0; k < 4; ++k) {
      if (k == chosen || chosen == 4) make_plain(x + k % 2, y + k / 2);
    }
    return true;
  }

  /// The wrong samples of all squares that touch texels of a block, its first one at x, y.
  int count_around(std::size_t x, std::size_t y, std::size_t side) {
    int sum = 0;
    for (std::size_t j = y > 0 ? y - 1 : 0; j < std::min(y + side, height_ - 1); ++j) {
      for (std::size_t i = x > 0 ? x - 1 : 0; i < std::min(x + side, width_ - 1); ++i) {
        find_truth(i, j);
        sum += count_wrong(i, j).by_median;
      }
    }
    return sum;
  }

  /// How much fewer samples are wrong when a block of texels is plain; it is left as it was.
  int gain_of(std::size_t x, std::size_t y, std::size_t side) {
    std::array<std::array<float, 3>, 4> kept;
    const int before = count_around(x, y, side);
    for (std::size_t k = 0; k < side * side; ++k) {
      float* t = texel(x + k % side, y + k / side);
      std::copy_n(t, 3, kept[k].begin());
      make_plain(t);
    }
    const int after = count_around(x, y, side);
    for (std::size_t k = 0; k < side * side; ++k) std::copy_n(kept[k].begin(), 3, texel(x + k % side, y + k / side));
    return before - after;
  }

  /// Makes texels of a square plain where its median errs more than the distance would, if that mends more than it spoils in
  /// the squares around: the one texel that helps most, else all four.
  bool mend_square(std::size_t x, std::size_t y) {
    if (stands_clear(x, y)) return mend_speck(x, y);
    find_truth(x, y);
    const Wrong before = count_wrong(x, y);
    if (before.by_median <= before.by_distance) return false;
    int best = 0;
    std::size_t chosen = 4;
    for (std::size_t k = 0; k < 4; ++k) {
      const int gain = gain_of(x + k % 2, y + k / 2, 1);
      if (gain > best) best = gain, chosen = k;
    }
    if (chosen == 4 && gain_of(x, y, 2) <= 0) return false;
    for (std::size_t k = 0; k < 4; ++k) {
      if (k == chosen || chosen == 4) make_plain(x + k % 2, y + k / 2);
    }
    return true;
  }

  std::size_t width_, height_;
  std::span<float> out_;
  RasterScratch::Memory& memory_;
  std::vector<const EdgePiece*> near_;
  std::vector<Square> suspects_, again_;
  Four signs_[kSamples] = {};  // of the samples of a square: 1 inside, -1 outside
  Four least_[kSamples] = {};  // what a reading must have more than on its side
};

}  // namespace

void correct_channels(const PixelRect& cell, std::span<float> out, RasterScratch::Memory& memory) { Corrector(cell, out, memory).run(); }

}  // namespace grafema::detail
