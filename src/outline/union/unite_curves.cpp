// SPDX-License-Identifier: MIT
// Unites overlapping contours and keeps their curves: only where curves meet are they cut.
#include <algorithm>
#include <cmath>
#include <optional>

#include "outline/union/pieces.hpp"
#include "outline/union/unite.hpp"

namespace grafema {
namespace {

using detail::Curve;
using detail::Dot;
using CurvePiece = detail::Piece;

// ---- Outlines of which no two pieces meet: each contour bounds what is filled, or does not.

/// Where a piece that does not turn in y has the height y.
double x_at(const Curve& c, double y) {
  double low = 0, high = 1;
  const bool rises = c.end().y > c.start().y;
  if (c.degree == 1) {
    return c.start().x + (c.end().x - c.start().x) * ((y - c.start().y) / (c.end().y - c.start().y));
  }
  for (int i = 0; i < 60; ++i) {
    const double middle = (low + high) / 2;
    ((c.at(middle).y < y) == rises ? low : high) = middle;
  }
  return c.at(low).x;
}

/// The winding number just left of a piece's middle, counted along a ray from the far left.
int winding_left_of(const std::vector<CurvePiece>& pieces, std::size_t which) {
  const CurvePiece& own = pieces[which];
  const double y = (own.top() + own.bottom()) / 2, x = x_at(own.curve, y);
  int winding = 0;
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    const CurvePiece& p = pieces[i];
    // The upper end belongs to the piece, the lower one does not, so that a ray through a joint counts it
    // once.
    if (i == which || !(p.top() < y && y <= p.bottom()) || p.left() >= x) continue;
    if (p.right() < x || x_at(p.curve, y) < x) winding += p.curve.end().y > p.curve.start().y ? 1 : -1;
  }
  return winding;
}

enum class Fate : std::uint8_t { keep, turn, drop };

/// What becomes of each contour: its tallest piece tells.
std::vector<Fate> judge_contours(const std::vector<CurvePiece>& pieces, std::size_t contour_count) {
  std::vector<std::size_t> tallest(contour_count, pieces.size());
  const auto height = [&pieces](std::size_t i) { return pieces[i].bottom() - pieces[i].top(); };
  for (std::size_t i = 0; i < pieces.size(); ++i) {
    std::size_t& best = tallest[pieces[i].curve.contour];
    if (best == pieces.size() || height(i) > height(best)) best = i;
  }
  std::vector<Fate> fates(contour_count, Fate::drop);
  for (std::size_t k = 0; k < contour_count; ++k) {
    if (tallest[k] == pieces.size() || height(tallest[k]) <= 0) continue;
    const Curve& c = pieces[tallest[k]].curve;
    const bool up = c.end().y > c.start().y;
    const int left = winding_left_of(pieces, tallest[k]), right = left + (up ? 1 : -1);
    if ((left == 0) == (right == 0)) continue;
    fates[k] = up == (right != 0) ? Fate::keep : Fate::turn;
  }
  return fates;
}

void add_curve(Contours& out, const Curve& c) {
  const auto point = [&c](std::size_t i) {
    return FontPoint{static_cast<float>(c.p[i].x), static_cast<float>(c.p[i].y)};
  };
  if (c.degree == 1) out.line_to(point(1));
  if (c.degree == 2) out.quadratic_curve_to(point(1), point(2));
  if (c.degree == 3) out.curve_to(point(1), point(2), point(3));
}

void move_to_start(Contours& out, const Curve& c) {
  out.move_to({static_cast<float>(c.start().x), static_cast<float>(c.start().y)});
}

/// The contours with their fates carried out.
Contours settle(const std::vector<Curve>& curves, const std::vector<Fate>& fates) {
  Contours out;
  for (std::size_t first = 0, end = 0; first < curves.size(); first = end) {
    while (end < curves.size() && curves[end].contour == curves[first].contour) ++end;
    const Fate fate = fates[curves[first].contour];
    if (fate == Fate::drop) continue;
    move_to_start(out, fate == Fate::keep ? curves[first] : curves[end - 1].part(1, 0));
    for (std::size_t i = first; i < end; ++i) {
      add_curve(out, fate == Fate::keep ? curves[i] : curves[end - 1 - (i - first)].part(1, 0));
    }
    out.close();
  }
  return out;
}

// ---- Outlines with crossings: flattened, united, and the curves put back.

/// A sweep at a slant meets no edge that runs along it, since designers draw none at this slope.
constexpr double kSlant = 0.27182818;
/// Flattening for the sweep, in parts of the outline's size. Chords that cross stand for curves that cross;
/// where curves graze each other that may not hold, and the outline is united again from finer chords.
constexpr double kCoarse = 1.0 / 16384, kFine = 1.0 / 262144;
/// Ends nearer than this, in parts of the outline's size, are one.
constexpr double kJoined = 1e-8;
/// Junctions whose two curves come nearer than this need no better one.
constexpr double kExact = 4e-6;
constexpr std::uint32_t kNone = detail::Uniter::kNoSource;

/// A stretch of the boundary along one curve, from `from` to `to` (backwards where from > to), or straight
/// (kNone).
struct CutCurve {
  std::uint32_t curve = kNone;
  double from = 0, to = 1;
  Dot start, end;
};

class CurveUniter {
 public:
  CurveUniter(std::vector<Curve> curves, detail::Steps& steps) : curves_(std::move(curves)), steps_(steps) {}

  /// Nothing where the boundary could not be put together.
  std::optional<Contours> run() {
    measure();
    std::optional<Contours> out = run(kCoarse);
    if ((!out || grazing_ > 0) && steps_.any()) {
      if (std::optional<Contours> finer = run(kFine)) return finer;
    }
    return out;
  }

 private:
  struct Source {
    std::uint32_t curve;
    double from, to;
  };

  std::optional<Contours> run(double tolerance) {
    tolerance_ = tolerance * extent_;
    grazing_ = 0;
    flatten();
    detail::Uniter uniter;
    if (!uniter.unite(flat_, boundary_, steps_)) return std::nullopt;
    gather(uniter.sources());
    Contours out;
    while (const std::optional<std::size_t> first = next_unused()) {
      if (!follow(*first)) return std::nullopt;
      if (loop_.empty()) continue;
      join_stretches();
      refine();
      emit(out);
    }
    if (!same_area(out)) return std::nullopt;
    return out;
  }

  void measure() {
    Dot low{INFINITY, INFINITY}, high{-INFINITY, -INFINITY};
    for (const Curve& c : curves_) {
      for (std::size_t i = 0; i <= static_cast<std::size_t>(c.degree); ++i) {
        low = {std::min(low.x, c.p[i].x), std::min(low.y, c.p[i].y)};
        high = {std::max(high.x, c.p[i].x), std::max(high.y, c.p[i].y)};
      }
    }
    extent_ = std::max({high.x - low.x, high.y - low.y, 1e-30});
    scale_ = 4096 / extent_;  // the sweep's own tolerances are those of pixels
  }

  Dot slanted(const Dot& d) const { return {d.x * scale_, -(d.y + kSlant * d.x) * scale_}; }
  Dot upright(double x, double y) const { return {x / scale_, -y / scale_ - kSlant * (x / scale_)}; }

  void flatten() {
    flat_.clear();
    sources_.clear();
    for (std::size_t i = 0; i < curves_.size(); ++i) {
      const Curve& c = curves_[i];
      double bend = 0;
      for (std::size_t k = 2; k <= static_cast<std::size_t>(c.degree); ++k) {
        const double x = c.p[k].x - 2 * c.p[k - 1].x + c.p[k - 2].x,
                     y = c.p[k].y - 2 * c.p[k - 1].y + c.p[k - 2].y;
        bend = std::max(bend, std::sqrt(x * x + y * y));
      }
      const double deviation = bend * c.degree * (c.degree - 1) / 8;
      const int n = std::clamp(static_cast<int>(std::ceil(std::sqrt(deviation / tolerance_))), 1, 1024);
      Dot pen = slanted(c.start());
      for (int k = 1; k <= n; ++k) {
        const Dot to = slanted(k < n ? c.at(static_cast<double>(k) / n) : c.end());
        if (!(to == pen)) {
          flat_.push_back({pen.x, pen.y, to.x, to.y});
          sources_.push_back(
              {static_cast<std::uint32_t>(i), static_cast<double>(k - 1) / n, static_cast<double>(k) / n});
        }
        pen = to;
      }
    }
  }

  /// The boundary's pieces as stretches of the curves that they come from.
  void gather(const std::vector<std::uint32_t>& of) {
    stretches_.clear();
    for (std::size_t i = 0; i < boundary_.size(); ++i) {
      const Segment& b = boundary_[i];
      CutCurve s;
      s.start = upright(b.x0, b.y0), s.end = upright(b.x1, b.y1);
      if (of[i] != kNone) {
        const Segment& whole = flat_[of[i]];
        const Source& source = sources_[of[i]];
        s.curve = source.curve;
        s.from = along(whole, source, b.x0, b.y0);
        s.to = along(whole, source, b.x1, b.y1);
      }
      stretches_.push_back(s);
    }
    used_.assign(stretches_.size(), false);
    by_start_.resize(stretches_.size());
    for (std::size_t i = 0; i < by_start_.size(); ++i) by_start_[i] = i;
    std::sort(by_start_.begin(), by_start_.end(),
              [this](std::size_t a, std::size_t b) { return stretches_[a].start.x < stretches_[b].start.x; });
    unused_ = 0;
  }

  /// The curve's parameter at a point of one of its chords.
  static double along(const Segment& whole, const Source& source, double x, double y) {
    const double dx = whole.x1 - whole.x0, dy = whole.y1 - whole.y0;
    const double f =
        std::clamp(std::abs(dx) > std::abs(dy) ? (x - whole.x0) / dx : (y - whole.y0) / dy, 0.0, 1.0);
    return f < 1e-9 ? source.from : f > 1 - 1e-9 ? source.to : source.from + f * (source.to - source.from);
  }

  std::optional<std::size_t> next_unused() {
    while (unused_ < used_.size() && used_[unused_]) ++unused_;
    return unused_ < used_.size() ? std::optional(unused_) : std::nullopt;
  }

  bool near(const Dot& a, const Dot& b) const {
    return std::abs(a.x - b.x) <= extent_ * kJoined && std::abs(a.y - b.y) <= extent_ * kJoined;
  }

  static bool goes_on(const CutCurve& a, const CutCurve& b) {
    return a.curve != kNone && a.curve == b.curve && std::abs(a.to - b.from) < 1e-7 &&
           (a.from < a.to) == (b.from < b.to);
  }

  /// The stretch that begins where `s` ends: the same curve going on, if it is there.
  std::optional<std::size_t> find_next(const CutCurve& s) const {
    auto at = std::lower_bound(by_start_.begin(), by_start_.end(), s.end.x - extent_ * kJoined,
                               [this](std::size_t i, double x) { return stretches_[i].start.x < x; });
    std::optional<std::size_t> found;
    for (; at != by_start_.end() && stretches_[*at].start.x <= s.end.x + extent_ * kJoined; ++at) {
      if (used_[*at] || !near(stretches_[*at].start, s.end)) continue;
      if (goes_on(s, stretches_[*at])) return *at;
      if (!found) found = *at;
    }
    return found;
  }

  /// Gathers the loop that begins with a stretch; false where it does not close.
  bool follow(std::size_t first) {
    loop_ = {stretches_[first]};
    used_[first] = true;
    const Dot start = stretches_[first].start;
    while (!near(loop_.back().end, start) || loop_.size() < 2) {
      const std::optional<std::size_t> next = find_next(loop_.back());
      if (!next) break;
      used_[*next] = true;
      loop_.push_back(stretches_[*next]);
    }
    if (near(loop_.back().end, start)) return true;
    // A crumb that rounding left over bounds nothing.
    double length = 0;
    for (const CutCurve& s : loop_) length += std::abs(s.end.x - s.start.x) + std::abs(s.end.y - s.start.y);
    loop_.clear();
    return length < tolerance_;
  }

  /// Stretches that go on from each other become one.
  void join_stretches() {
    std::vector<CutCurve> out;
    for (const CutCurve& s : loop_) {
      if (!out.empty() && goes_on(out.back(), s)) {
        out.back().to = s.to, out.back().end = s.end;
      } else {
        out.push_back(s);
      }
    }
    if (out.size() > 1 && goes_on(out.back(), out.front()) && out.front().from != 0 &&
        out.front().from != 1) {
      out.front().from = out.back().from, out.front().start = out.back().start;
      out.pop_back();
    }
    loop_.swap(out);
  }

  /// Moves the ends of neighbors to where their curves, not their chords, cross.
  void refine() {
    for (std::size_t i = 0; i < loop_.size(); ++i) {
      CutCurve &a = loop_[i], &b = loop_[(i + 1) % loop_.size()];
      if (a.curve == kNone || b.curve == kNone || (is_end(a.to) && is_end(b.from))) continue;
      double t = a.to, s = b.from;
      if (!cross(curves_[a.curve], curves_[b.curve], t, s)) {
        const Dot p = curves_[a.curve].at(a.to), q = curves_[b.curve].at(b.from);
        if (std::abs(p.x - q.x) + std::abs(p.y - q.y) > extent_ * kExact) ++grazing_;
        continue;
      }
      a.to = t, b.from = s;
      a.end = b.start = curves_[a.curve].at(t);
    }
  }

  static bool is_end(double t) { return t == 0 || t == 1; }

  /// Newton's method for curve(t) = other(s).
  bool cross(const Curve& curve, const Curve& other, double& t, double& s) const {
    const Dot begun = curve.at(t);
    for (int i = 0; i < 12; ++i) {
      const Dot a = curve.at(t), b = other.at(s), u = curve.slope(t), v = other.slope(s);
      const double dx = b.x - a.x, dy = b.y - a.y, determinant = u.y * v.x - u.x * v.y;
      if (std::abs(determinant) < 1e-9 * std::sqrt((u.x * u.x + u.y * u.y) * (v.x * v.x + v.y * v.y))) {
        return false;
      }
      t += (dy * v.x - dx * v.y) / determinant;
      s += (u.x * dy - u.y * dx) / determinant;
      if (!(t >= -1e-6 && t <= 1 + 1e-6 && s >= -1e-6 && s <= 1 + 1e-6)) return false;
    }
    t = std::clamp(t, 0.0, 1.0), s = std::clamp(s, 0.0, 1.0);
    const Dot a = curve.at(t), b = other.at(s);
    const double apart = std::abs(a.x - b.x) + std::abs(a.y - b.y),
                 moved = std::abs(a.x - begun.x) + std::abs(a.y - begun.y);
    return apart < extent_ * kJoined && moved < tolerance_ * 16;
  }

  void emit(Contours& out) const {
    bool begun = false;
    for (const CutCurve& s : loop_) {
      if (s.curve != kNone && s.from == s.to) continue;
      Curve part{{s.start, s.end}, 1};
      if (s.curve != kNone) {
        part = s.from == 0 && s.to == 1 ? curves_[s.curve] : curves_[s.curve].part(s.from, s.to);
      }
      if (!begun) move_to_start(out, part);
      begun = true;
      add_curve(out, part);
    }
    if (begun) out.close();
  }

  /// The curves that were put together fill what the flattened ones do.
  bool same_area(const Contours& out) const {
    std::vector<Segment> made;
    grafema::flatten(out,
                     {static_cast<float>(scale_), 0, static_cast<float>(-kSlant * scale_),
                      static_cast<float>(-scale_), 0, 0},
                     tolerance_ * scale_, made);
    double length = 0;
    for (const Segment& s : boundary_) length += std::abs(s.x1 - s.x0) + std::abs(s.y1 - s.y0);
    return std::abs(signed_area(made) - signed_area(boundary_)) <= (length + 64) * tolerance_ * scale_ * 2;
  }

  std::vector<Curve> curves_;
  detail::Steps& steps_;
  double extent_ = 1, scale_ = 1, tolerance_ = 0;
  std::size_t grazing_ = 0;  // junctions at which no crossing of curves was found
  std::vector<Segment> flat_, boundary_;
  std::vector<Source> sources_;
  std::vector<CutCurve> stretches_, loop_;
  std::vector<std::size_t> by_start_;
  std::vector<bool> used_;
  std::size_t unused_ = 0;
};

}  // namespace

void unite(Contours& contours) {
  detail::Steps steps;
  detail::unite(contours, steps);
}

void detail::unite(Contours& contours, Steps& steps) {
  if (contours.united) return;
  std::vector<Curve> curves;
  std::vector<CurvePiece> pieces;
  detail::list_curves(contours, curves);
  detail::cut_at_turns(curves, pieces);
  const std::size_t contour_count = curves.empty() ? 0 : curves.back().contour + 1;
  if (!detail::any_meet(pieces, steps) && steps.spend(contour_count * pieces.size() / 4)) {
    const std::vector<Fate> fates = judge_contours(pieces, contour_count);
    const bool as_it_is = std::all_of(fates.begin(), fates.end(), [](Fate f) { return f == Fate::keep; });
    if (!as_it_is) contours = settle(curves, fates);
  } else if (std::optional<Contours> made = CurveUniter(std::move(curves), steps).run()) {
    contours = *std::move(made);
  } else {
    return;
  }
  contours.may_overlap = false;
  contours.united = true;
}

}  // namespace grafema
