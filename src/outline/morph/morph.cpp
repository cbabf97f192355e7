// SPDX-License-Identifier: MIT
// Pairs letters, then their loops, then the loops' points.
#include "grafema/outline/morph.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "outline/morph/assign.hpp"
#include "outline/morph/match_loops.hpp"
#include "outline/morph/morph_letters.hpp"
#include "outline/solid/fill_triangles.hpp"

namespace grafema {
namespace {

using detail::FillTriangles;
using detail::Grid;
using detail::Letter;
using detail::LetterReader;
using detail::Loops;
using detail::MeasuredLoop;
using detail::MorphPoint;
using detail::Place;
using detail::squared;

/// A loop on its way; `points` of one pair of loops, or of a loop and the point that it comes from or goes
/// to.
struct Moving {
  std::vector<MorphPoint> points;
  float begin = 0, end = 1;  ///< the letter's times between which it moves
  bool is_spare = false;     ///< it comes from a point, or goes to one
};

struct MovingLetter {
  Morph::Pair pair;
  std::vector<Moving> loops;
  FontRect reach;
};

class Maker {
 public:
  Maker(Grid grid, MorphPairing pairing) : grid_(grid), pairing_(pairing) {}

  std::vector<MovingLetter> run(const std::vector<Letter>& from, const std::vector<Letter>& to) {
    std::vector<MovingLetter> out;
    const std::vector<std::uint32_t> rows = filled(from), columns = filled(to);
    std::vector<double> costs;
    for (const std::uint32_t r : rows) {
      for (const std::uint32_t c : columns) costs.push_back(cost(from[r], to[c]));
    }
    const std::vector<std::uint32_t> partner = detail::assign(costs, rows.size(), columns.size());
    std::vector<std::uint8_t> has_partner(columns.size(), 0);
    for (std::size_t i = 0; i < rows.size(); ++i) {
      const std::uint32_t c = partner[i];
      if (c != ~0U) has_partner[c] = 1;
      out.push_back(c == ~0U ? alone(from[rows[i]], {rows[i], Morph::kNone}, true)
                             : paired(from[rows[i]], to[columns[c]], {rows[i], columns[c]}));
    }
    for (std::size_t c = 0; c < columns.size(); ++c) {
      if (has_partner[c] == 0) out.push_back(alone(to[columns[c]], {Morph::kNone, columns[c]}, false));
    }
    for (MovingLetter& letter : out) find_reach(letter);
    const auto left = [&](const MovingLetter& l) {
      return l.pair.from != Morph::kNone ? from[l.pair.from].box.x_min : to[l.pair.to].box.x_min;
    };
    std::stable_sort(out.begin(), out.end(),
                     [&](const MovingLetter& a, const MovingLetter& b) { return left(a) < left(b); });
    return out;
  }

 private:
  static std::vector<std::uint32_t> filled(const std::vector<Letter>& letters) {
    std::vector<std::uint32_t> out;
    for (std::uint32_t i = 0; i < letters.size(); ++i) {
      if (!letters[i].empty()) out.push_back(i);
    }
    return out;
  }

  double cost(const Letter& a, const Letter& b) const {
    if (pairing_ == MorphPairing::place) return squared(a.middle.x - b.middle.x, a.middle.y - b.middle.y);
    return unlikeness(a, b, std::max({a.width(), a.height(), b.width(), b.height(), 1e-9}));
  }

  static MovingLetter alone(const Letter& letter, Morph::Pair pair, bool leaves) {
    MovingLetter out{pair, {}, {}};
    for (std::size_t i = 0; i < letter.loops.size(); ++i)
      out.loops.push_back(spare(letter, i, {0, 0}, leaves, 0, 1));
    return out;
  }

  /// A loop that shrinks to a point inside it, or grows from one, which goes along with its letter.
  static Moving spare(const Letter& letter, std::size_t loop, Place way, bool leaves, float begin,
                      float end) {
    Moving out{{}, begin, end, true};
    const auto x = static_cast<float>(letter.inside[loop].x + way.x),
               y = static_cast<float>(letter.inside[loop].y + way.y);
    for (const Place p : letter.loops[loop].points()) {
      const auto px = static_cast<float>(p.x), py = static_cast<float>(p.y);
      out.points.push_back(leaves ? MorphPoint{px, py, x, y} : MorphPoint{x, y, px, py});
    }
    return out;
  }

  MovingLetter paired(const Letter& from, const Letter& to, Morph::Pair pair) {
    MovingLetter out{pair, {}, {}};
    for (const bool holes : {false, true}) {
      const std::vector<std::size_t> a = loops_of(from, holes), b = loops_of(to, holes);
      std::vector<double> costs;
      for (const std::size_t i : a) {
        for (const std::size_t k : b) costs.push_back(loop_cost(from, i, to, k));
      }
      const std::vector<std::uint32_t> partner = detail::assign(costs, a.size(), b.size());
      std::vector<std::uint8_t> has_partner(b.size(), 0);
      const Place way{to.middle.x - from.middle.x, to.middle.y - from.middle.y};
      for (std::size_t i = 0; i < a.size(); ++i) {
        if (partner[i] == ~0U) {
          out.loops.push_back(spare(from, a[i], {way.x / 2, way.y / 2}, true, 0, 0.5F));
          continue;
        }
        has_partner[partner[i]] = 1;
        out.loops.push_back(match(from.loops[a[i]], to.loops[b[partner[i]]]));
      }
      for (std::size_t k = 0; k < b.size(); ++k) {
        if (has_partner[k] == 0)
          out.loops.push_back(spare(to, b[k], {-way.x / 2, -way.y / 2}, false, 0.5F, 1));
      }
    }
    return out;
  }

  static std::vector<std::size_t> loops_of(const Letter& letter, bool holes) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < letter.loops.size(); ++i) {
      if ((letter.loops[i].doubled_area() < 0) == holes) out.push_back(i);
    }
    return out;
  }

  /// Where the loops stand in their letters, and how large they are.
  static double loop_cost(const Letter& from, std::size_t i, const Letter& to, std::size_t k) {
    const Place a = from.loops[i].middle(), b = to.loops[k].middle();
    const double way =
        squared(a.x - from.middle.x - b.x + to.middle.x, a.y - from.middle.y - b.y + to.middle.y);
    const double size_a = std::sqrt(std::abs(from.loops[i].doubled_area())),
                 size_b = std::sqrt(std::abs(to.loops[k].doubled_area()));
    return way + squared(size_a - size_b, 0);
  }

  /// The first way to match them that does not cross itself; else that with the least travel and crossings.
  Moving match(const MeasuredLoop& from, const MeasuredLoop& to) {
    const detail::LoopMatcher matcher(from, to);
    Moving best, tried;
    double least = INFINITY;
    for (std::size_t way = 0; way < matcher.ways(); ++way) {
      matcher.match(way, tried.points);
      const int crossed = times_crossed(tried);
      const double price = travel(tried) * (1 + 10.0 * crossed);
      if (price < least) least = price, best = tried;
      if (crossed == 0) break;
    }
    return best;
  }

  static double travel(const Moving& moving) {
    double sum = 0;
    for (const MorphPoint& p : moving.points)
      sum += squared(double{p.to_x} - p.from_x, double{p.to_y} - p.from_y);
    return sum / static_cast<double>(moving.points.size());
  }

  int times_crossed(const Moving& moving) {
    int crossed = 0;
    for (const double t : {0.25, 0.5, 0.75}) {
      loops_.clear();
      for (const MorphPoint& p : moving.points) {
        loops_.points.push_back({grid_.at(p.from_x + (double{p.to_x} - p.from_x) * t),
                                 grid_.at(p.from_y + (double{p.to_y} - p.from_y) * t)});
      }
      loops_.close();
      if (detail::any_cross(loops_)) ++crossed;
    }
    return crossed;
  }

  static void find_reach(MovingLetter& letter) {
    FontRect& r = letter.reach;
    const auto add = [&r](float x, float y) {
      r = r.empty() ? FontRect{x, y, x, y}
                    : FontRect{std::min(r.x_min, x), std::min(r.y_min, y), std::max(r.x_max, x),
                               std::max(r.y_max, y)};
    };
    for (const Moving& loop : letter.loops) {
      for (const MorphPoint& p : loop.points) add(p.from_x, p.from_y), add(p.to_x, p.to_y);
    }
  }

  Grid grid_;
  MorphPairing pairing_;
  FillTriangles fill_;
  Loops loops_;
  std::vector<FillTriangles::Triangle> triangles_;
};

/// One of the two outlines that a loop moves between, walked along from its first point.
class Walk {
 public:
  Walk(const Moving& loop, bool to) : loop_(loop), to_(to) {
    for (std::size_t k = 0; k < loop.points.size(); ++k) whole_ += length(k);
  }

  double whole() const { return whole_; }
  /// The place so far along; distances ascend from call to call.
  Place at(double distance) {
    while (k_ + 1 < loop_.points.size() && passed_ + length(k_) <= distance) passed_ += length(k_++);
    const double own = length(k_), along = own > 0 ? std::clamp((distance - passed_) / own, 0.0, 1.0) : 0;
    const Place a = place(k_), b = place(k_ + 1);
    return {a.x + (b.x - a.x) * along, a.y + (b.y - a.y) * along};
  }

 private:
  Place place(std::size_t k) const {
    const MorphPoint& p = loop_.points[k % loop_.points.size()];
    return to_ ? Place{p.to_x, p.to_y} : Place{p.from_x, p.from_y};
  }
  double length(std::size_t k) const {
    const Place a = place(k), b = place(k + 1);
    return std::sqrt(squared(b.x - a.x, b.y - a.y));
  }

  const Moving& loop_;
  bool to_;
  std::size_t k_ = 0;
  double whole_ = 0, passed_ = 0;
};

}  // namespace

struct Morph::Memory {
  static constexpr float kBeyond = 0.1F;  // how far an easing may go beyond the ends

  Grid grid;
  float stagger = 0;
  std::vector<MovingLetter> letters;
  FillTriangles fill;
  Loops loops;
  std::vector<FillTriangles::Triangle> triangles;

  /// How far a loop is on its way while the letter's own time is `t`.
  static double way_of(const Moving& loop, float t) {
    const double whole = std::isfinite(t) ? std::clamp(t, -kBeyond, 1 + kBeyond) : 0;
    const double u = (whole - loop.begin) / (double{loop.end} - loop.begin);
    // What shrinks to a point is a point from then on; what becomes another shape may go a little too far.
    return loop.is_spare ? std::clamp(u, 0.0, 1.0) : u;
  }

  void move(std::size_t i, float t) {
    loops.clear();
    for (const Moving& loop : letters[i].loops) {
      const double u = way_of(loop, t);
      const std::size_t first = loops.points.size();
      for (const MorphPoint& p : loop.points) {
        const detail::GridPoint at{grid.at((1 - u) * p.from_x + u * p.to_x),
                                   grid.at((1 - u) * p.from_y + u * p.to_y)};
        if (loops.points.size() == first || !(loops.points.back() == at)) loops.points.push_back(at);
      }
      loops.close();
    }
  }

  void add(std::size_t i, float t, Contours& out) {
    move(i, t);
    detail::Steps steps;
    // A hole that has left its letter on the way is nothing: only what is wound once counts.
    if (fill.run(loops, triangles, steps, detail::Filled::positive)) detail::add_loops(loops, grid, out);
  }
};

Morph::Morph(std::unique_ptr<Memory> memory) : memory_(std::move(memory)) {}
Morph::Morph(Morph&&) noexcept = default;
Morph& Morph::operator=(Morph&&) noexcept = default;
Morph::~Morph() = default;

Result<Morph> Morph::make(std::span<const Contours> from, std::span<const Contours> to,
                          const MorphOptions& options) {
  constexpr std::size_t kMaxLetters = 1000;
  if (!(options.tolerance > 0) || !std::isfinite(options.tolerance)) {
    return bad_value("a tolerance above 0");
  }
  if (!(options.stagger >= 0 && options.stagger < 1)) return bad_value("a stagger from 0 to below 1");
  if (from.size() > kMaxLetters || to.size() > kMaxLetters) {
    return bad_value("at most 1,000 letters");
  }
  double largest = 0;
  for (const auto row : {from, to}) {
    for (const Contours& letter : row) largest = std::max(largest, detail::largest_coordinate(letter));
  }
  auto memory = std::make_unique<Memory>();
  memory->grid = Grid::reaching(largest);
  memory->stagger = options.stagger;
  LetterReader reader(memory->grid, options.tolerance);
  std::array<std::vector<Letter>, 2> rows;
  for (std::size_t row = 0; row < 2; ++row) {
    for (const Contours& contours : row == 0 ? from : to) {
      if (!reader.read(contours, rows[row].emplace_back())) {
        return fail(make_error(ErrorKind::unsupported, "an outline that crosses itself less often"));
      }
    }
  }
  memory->letters = Maker(memory->grid, options.pairing).run(rows[0], rows[1]);
  return Morph(std::move(memory));
}

std::size_t Morph::size() const { return memory_->letters.size(); }
Morph::Pair Morph::pair(std::size_t i) const { return memory_->letters[i].pair; }
FontRect Morph::reach(std::size_t i) const { return memory_->letters[i].reach; }

float Morph::letter_time(std::size_t i, float t) const {
  const std::size_t count = size();
  const float begin =
      count > 1 ? memory_->stagger * static_cast<float>(i) / static_cast<float>(count - 1) : 0;
  const float own = (t - begin) / (1 - memory_->stagger);
  return own >= 0 ? std::min(own, 1.0F) : 0;  // what is no number is 0
}

void Morph::letter(std::size_t i, float t, Contours& out) {
  out.clear();
  memory_->add(i, t, out);
}

void Morph::shape(float t, Contours& out) {
  out.clear();
  for (std::size_t i = 0; i < size(); ++i) memory_->add(i, letter_time(i, t), out);
  out.united = size() == 1 && out.united;  // letters may lie over each other on their way
}

void Morph::points(std::size_t i, std::size_t count, float t, std::vector<FontPoint>& out) const {
  out.clear();
  const std::vector<Moving>& loops = memory_->letters[i].loops;
  const auto mean = [](const Moving& loop) {
    return (Walk(loop, false).whole() + Walk(loop, true).whole()) / 2;
  };
  const auto pair =
      std::find_if(loops.begin(), loops.end(), [](const Moving& loop) { return !loop.is_spare; });
  double whole = 0, passed = 0;
  for (const Moving& loop : loops) whole += mean(loop);
  for (const Moving& loop : loops) {
    passed += mean(loop);
    // So many points stand on this contour at any time, evenly at either end.
    const auto end = whole > 0
                         ? static_cast<std::size_t>(std::lround(static_cast<double>(count) * passed / whole))
                         : count;
    const std::size_t own = std::min(end, count) - std::min(out.size(), end);
    // Points of a contour without a partner come from the letter's outline, or go there.
    const bool grows = loop.is_spare && Walk(loop, false).whole() == 0,
               leaves = loop.is_spare && Walk(loop, true).whole() == 0, joins = pair != loops.end();
    Walk from(grows && joins ? *pair : loop, false), to(leaves && joins ? *pair : loop, true);
    const double u = joins ? Memory::way_of(*pair, t) : Memory::way_of(loop, t);
    for (std::size_t k = 0; k < own; ++k) {
      const double share = (static_cast<double>(k) + (loop.is_spare ? 0.5 : 0)) / static_cast<double>(own);
      const Place a = from.at(share * from.whole()), b = to.at(share * to.whole());
      out.push_back(
          {static_cast<float>((1 - u) * a.x + u * b.x), static_cast<float>((1 - u) * a.y + u * b.y)});
    }
  }
}

bool Morph::crosses(std::size_t i, float t) {
  memory_->move(i, t);
  return detail::any_cross(memory_->loops);
}

}  // namespace grafema
