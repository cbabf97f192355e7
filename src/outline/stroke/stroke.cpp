// SPDX-License-Identifier: MIT
// A line is a strip for each straight piece, and what joins and ends them; united they are its outline.
#include "grafema/outline/stroke.hpp"

#include <algorithm>
#include <cmath>

#include "base/numbers.hpp"
#include "outline/solid/fill_triangles.hpp"

namespace grafema {
namespace {

struct Vector {
  double x = 0, y = 0;
};

/// A straight piece that is drawn.
struct Piece {
  Vector a, b, along;
  double length = 0;
};

/// How many corners the outline of lines may have before they are united.
constexpr std::size_t kMaxPoints = 4'000'000;

class Stroker {
 public:
  Stroker(const StrokeStyle& style, detail::Grid grid)
      : style_(style), grid_(grid), half_(style.width / 2.0) {
    // A full turn in steps whose chords stay within the tolerance: cos(step / 2) = 1 - tolerance / half.
    const double cosine = std::max(1 - style.tolerance / half_, -1.0);
    const auto fits = [&](double step) { return detail::sine_cosine(step).cosine > 2 * cosine * cosine - 1; };
    while (step_ < 30 && fits(step_ * 1.5)) step_ *= 1.5;
  }

  /// The contour's pieces in order, closed.
  void add_contour(const std::vector<Piece>& pieces) {
    double length = 0;
    for (const Piece& p : pieces) length += p.length;
    if (!(length > 0)) return;
    if (style_.dashes.empty() && style_.from <= 0 && style_.to >= 1) {
      for (std::size_t i = 0; i < pieces.size(); ++i) {
        add_strip(pieces[i]);
        add_join(pieces[i], pieces[i + 1 < pieces.size() ? i + 1 : 0]);
      }
      return;
    }
    list_dashes(length);
    for (const auto& [from, to] : dashes_) add_line(pieces, from, to, length);
  }

  bool crowded() const { return loops_.points.size() > kMaxPoints; }
  detail::Loops& loops() { return loops_; }

 private:
  void list_dashes(double length) {
    dashes_.clear();
    const double from = style_.from * length, to = style_.to * length;
    double pattern = 0;
    for (const float d : style_.dashes) pattern += d;
    if (style_.dashes.empty()) {
      if (to > from) dashes_.emplace_back(from, to);
      return;
    }
    const std::size_t count = style_.dashes.size();
    if (count % 2 == 1) pattern *= 2;
    if (length / pattern * static_cast<double>(count) > static_cast<double>(kMaxPoints)) {
      loops_.points.resize(kMaxPoints + 1);
      return;
    }
    double at = -std::fmod(style_.dash_offset, pattern);
    if (at > 0) at -= pattern;
    for (std::size_t i = 0; at < to; ++i) {
      const double end = at + style_.dashes[i % count];
      const bool seen = end > at ? end > from : at >= from && style_.cap != StrokeCap::butt;
      if (i % 2 == 0 && seen) dashes_.emplace_back(std::max(at, from), std::min(end, to));
      at = end;
    }
  }

  /// Part of a contour: from one length to another.
  void add_line(const std::vector<Piece>& pieces, double from, double to, double length) {
    if (crowded() || to < from) return;
    if (to == from) return add_point(pieces, from);
    const bool whole = from <= 0 && to >= length;
    double begin = 0;
    const Piece* last = nullptr;
    Piece part, before, first;
    for (const Piece& p : pieces) {
      const double end = begin + p.length;
      if (end > from && begin < to) {
        part = p;
        if (from > begin) part.a = {p.a.x + p.along.x * (from - begin), p.a.y + p.along.y * (from - begin)};
        if (to < end) part.b = {p.a.x + p.along.x * (to - begin), p.a.y + p.along.y * (to - begin)};
        add_strip(part);
        if (last != nullptr) {
          add_join(before, part);
        } else {
          first = part;
        }
        before = part;
        last = &p;
      }
      begin = end;
    }
    if (last == nullptr) return;
    if (whole) {
      add_join(before, first);
      return;
    }
    add_cap(first.a, {-first.along.x, -first.along.y});
    add_cap(before.b, before.along);
  }

  /// A dash without a length: its two caps (SVG 2, section 13.5.6).
  void add_point(const std::vector<Piece>& pieces, double at) {
    double begin = 0;
    for (const Piece& p : pieces) {
      if (at < begin + p.length || &p == &pieces.back()) {
        const Vector place{p.a.x + p.along.x * (at - begin), p.a.y + p.along.y * (at - begin)};
        add_cap(place, p.along);
        return add_cap(place, {-p.along.x, -p.along.y});
      }
      begin += p.length;
    }
  }

  void add_strip(const Piece& p) {
    const double x = -p.along.y * half_, y = p.along.x * half_;  // to the left
    add({p.a.x - x, p.a.y - y}), add({p.b.x - x, p.b.y - y}), add({p.b.x + x, p.b.y + y}),
        add({p.a.x + x, p.a.y + y});
    close();
  }

  /// Fills the gap on the outer side of the corner where `a` goes on as `b`.
  void add_join(const Piece& a, const Piece& b) {
    const double turning = a.along.x * b.along.y - a.along.y * b.along.x,
                 along = a.along.x * b.along.x + a.along.y * b.along.y;
    if (turning == 0 && along > 0) return;
    const double side = turning > 0 ? -1 : 1;  // the outer side is the right one where it turns left
    const Vector from{-a.along.y * half_ * side, a.along.x * half_ * side},
        to{-b.along.y * half_ * side, b.along.x * half_ * side};
    const Vector at = b.a;
    std::vector<Vector>& way = way_;
    way.clear();
    way.push_back(from);
    // Curves come as many short pieces: what turns by less than about ten degrees is one of these.
    const bool smooth = along > 0.985;
    const double miter = 2 / (1 + along);  // the square of how many half widths long the tip is
    if (smooth ||
        (style_.join == StrokeJoin::miter && miter <= double{style_.miter_limit} * style_.miter_limit)) {
      way.push_back({(from.x + to.x) / (1 + along), (from.y + to.y) / (1 + along)});
    } else if (style_.join == StrokeJoin::round) {
      add_arc(from, to, -side, way);
    }
    way.push_back(to);
    add_fan(at, way, side > 0);
  }

  void add_cap(Vector at, Vector along) {
    const Vector right{along.y * half_, -along.x * half_}, left{-right.x, -right.y};
    way_.clear();
    way_.push_back(right);
    if (style_.cap == StrokeCap::butt) return;
    if (style_.cap == StrokeCap::square) {
      way_.push_back({right.x + along.x * half_, right.y + along.y * half_});
      way_.push_back({left.x + along.x * half_, left.y + along.y * half_});
    } else {
      const Vector ahead{along.x * half_, along.y * half_};
      add_arc(right, ahead, 1, way_);
      way_.push_back(ahead);
      add_arc(ahead, left, 1, way_);
    }
    way_.push_back(left);
    add_fan(at, way_, false);
  }

  /// Points between `from` and `to` on the circle around the origin, counterclockwise where `sense` is 1.
  void add_arc(Vector from, Vector to, double sense, std::vector<Vector>& way) const {
    const detail::SineCosine step = detail::sine_cosine(step_ * sense);
    Vector at = from;
    for (int i = 0; i < 180; ++i) {
      at = {at.x * step.cosine - at.y * step.sine, at.x * step.sine + at.y * step.cosine};
      if (((at.x * to.y) - (at.y * to.x)) * sense <= 0 && at.x * to.x + at.y * to.y > 0) return;
      way.push_back(at);
    }
  }

  void add_fan(Vector at, const std::vector<Vector>& way, bool turned) {
    add(at);
    for (std::size_t i = 0; i < way.size(); ++i) {
      const Vector& w = way[turned ? way.size() - 1 - i : i];
      add({at.x + w.x, at.y + w.y});
    }
    close();
  }

  void add(Vector p) { loops_.points.push_back({grid_.at(p.x), grid_.at(p.y)}); }
  /// All loops run counterclockwise; rounding may turn what is as good as flat.
  void close() {
    const std::size_t first = loops_.ends.empty() ? 0 : loops_.ends.back(), loops = loops_.ends.size();
    loops_.close();
    if (loops_.ends.size() > loops && detail::doubled_area(loops_.of(loops)) <= 0) {
      loops_.points.resize(first);
      loops_.ends.pop_back();
    }
  }

  const StrokeStyle& style_;
  detail::Grid grid_;
  double half_, step_ = 1;  // degrees of a round join or cap from point to point
  detail::Loops loops_;
  std::vector<std::pair<double, double>> dashes_;
  std::vector<Vector> way_;
};

Result<void> check(const StrokeStyle& style) {
  const auto bad = [](const char* expected) { return fail(make_error(ErrorKind::bad_value, expected)); };
  const auto above = [](float v, float least) { return std::isfinite(v) && v >= least && v <= 1e9F; };
  if (!above(style.width, 1e-9F)) return bad("a width above 0");
  if (!above(style.tolerance, 1e-9F)) return bad("a tolerance above 0");
  if (!above(style.miter_limit, 1)) return bad("a miter limit of 1 or more");
  if (!std::isfinite(style.dash_offset)) return bad("a finite dash offset");
  if (!above(style.from, 0) || !above(style.to, 0) || style.from > 1 || style.to > 1)
    return bad("shares from 0 to 1");
  float sum = 0;
  for (const float d : style.dashes) {
    if (!above(d, 0)) return bad("dashes of 0 or more");
    sum += d;
  }
  if (!style.dashes.empty() && !(sum > 0)) return bad("dashes that are not all 0");
  return {};
}

}  // namespace

Result<void> stroke(const Contours& outline, const StrokeStyle& style, Contours& out) {
  out.clear();
  if (const Result<void> right = check(style); !right) return right;
  const detail::Grid grid = detail::Grid::reaching(detail::largest_coordinate(outline) +
                                                   style.width * 2.0 * std::max(style.miter_limit, 1.5F));
  std::vector<Segment> segments;
  flatten(outline, Transform{}, style.tolerance, segments);
  Stroker stroker(style, grid);
  std::vector<Piece> pieces;
  for (std::size_t i = 0; i < segments.size(); ++i) {
    const Segment& s = segments[i];
    const double x = s.x1 - s.x0, y = s.y1 - s.y0, length = std::sqrt(x * x + y * y);
    if (length > 0) pieces.push_back({{s.x0, s.y0}, {s.x1, s.y1}, {x / length, y / length}, length});
    const bool ends = i + 1 == segments.size() || segments[i + 1].x0 != s.x1 || segments[i + 1].y0 != s.y1;
    if (!ends) continue;
    stroker.add_contour(pieces);
    pieces.clear();
  }
  detail::FillTriangles fill;
  std::vector<detail::FillTriangles::Triangle> triangles;
  detail::Steps steps;
  if (stroker.crowded() || !fill.run(stroker.loops(), triangles, steps)) {
    return fail(
        make_error(ErrorKind::unsupported, "fewer dashes, or an outline that crosses itself less often"));
  }
  detail::add_loops(stroker.loops(), grid, out);
  return {};
}

}  // namespace grafema
