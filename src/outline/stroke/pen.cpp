// SPDX-License-Identifier: MIT
// Two sides of every curve at once; where a bend is tighter than the pen, short straight strips.
#include "outline/stroke/pen.hpp"

#include <algorithm>
#include <cmath>

#include "base/numbers.hpp"
#include "outline/flatten/curve_length.hpp"
#include "outline/stroke/strands.hpp"

namespace grafema::detail {
namespace {

constexpr int kDeepestHalving = 7;
/// How much of a side's speed a bend may take before it counts as tighter than the pen.
constexpr double kTight = 0.06;
/// Corners that turn by less (in radians, about a degree) are none.
constexpr double kSmooth = 0.02;

Dot operator+(Dot a, Dot b) { return {a.x + b.x, a.y + b.y}; }
Dot operator-(Dot a, Dot b) { return {a.x - b.x, a.y - b.y}; }
Dot operator*(Dot a, double f) { return {a.x * f, a.y * f}; }
double cross(Dot a, Dot b) { return a.x * b.y - a.y * b.x; }
double dot(Dot a, Dot b) { return a.x * b.x + a.y * b.y; }
double size(Dot a) { return std::sqrt(dot(a, a)); }
Dot left_of(Dot d) { return {-d.y, d.x}; }

/// The unit tangent; near the ends of a curve whose control points lie on each other, that a little inward.
Dot tangent(const Curve& curve, double t) {
  Dot v = velocity(curve, t);
  for (double inward = 1e-4; !(size(v) > 1e-9) && inward < 0.1; inward *= 4) {
    v = t < 0.5 ? place(curve, t + inward) - curve.at(t) : curve.at(t) - place(curve, t - inward);
  }
  const double length = size(v);
  return length > 0 ? v * (1 / length) : Dot{1, 0};
}

/// Where the lines through two places meet; the middle between them where they are as good as parallel.
Dot meeting(Dot a, Dot along_a, Dot b, Dot along_b) {
  const double turn = cross(along_a, along_b);
  const Dot middle = (a + b) * 0.5;
  if (std::abs(turn) < 1e-6) return middle;
  const double from_a = cross(b - a, along_b) / turn, from_b = cross(b - a, along_a) / turn;
  // The control point lies ahead of the one end and behind the other, or the curve would turn back.
  return from_a > 0 && from_b < 0 ? a + along_a * from_a : middle;
}

/// A side of a line in the making, for each weight.
struct Side {
  std::vector<PathCommand> commands;
  std::vector<std::vector<Dot>> points;  // of each weight
};

class Pen {
 public:
  Pen(const std::vector<PenLine>& lines, const PenStyle& style, std::vector<Contours>& out)
      : style_(style), out_(out), count_(lines.size()) {
    for (const PenLine& line : lines) half_.push_back(line.width / 2);
    const double widest = *std::max_element(half_.begin(), half_.end());
    // An arc of 45 degrees leaves its circle by a 320th of the radius; half the angle, a 16th of that.
    arc_ = widest / 320 > style.tolerance ? kPi / 8 : kPi / 4;
  }

  /// `curves[i]` is a contour of weight i.
  void add_contour(const std::vector<std::vector<Curve>>& curves, bool closed) {
    left_ = right_ = Side{{}, std::vector<std::vector<Dot>>(count_)};
    const std::size_t pieces = curves[0].size();
    start(curves);
    for (std::size_t i = 0; i < pieces; ++i) {
      std::vector<const Curve*> here;
      for (std::size_t w = 0; w < count_; ++w) here.push_back(&curves[w][i]);
      add_range(here, 0, 1, 0);
      if (i + 1 < pieces || closed) {
        std::vector<const Curve*> next;
        for (std::size_t w = 0; w < count_; ++w) next.push_back(&curves[w][(i + 1) % pieces]);
        add_join(here, next);
      }
    }
    if (closed) {
      emit(left_, false), emit(right_, true);
      return;
    }
    std::vector<Dot> places, ahead, starts, behind;
    for (std::size_t w = 0; w < count_; ++w) {
      places.push_back(curves[w].back().end()), ahead.push_back(tangent(curves[w].back(), 1));
      starts.push_back(curves[w].front().start()), behind.push_back(tangent(curves[w].front(), 0) * -1);
    }
    add_cap(left_, places, ahead);
    append_reversed(left_, right_);
    add_cap(left_, starts, behind);
    emit(left_, false);
  }

  void add_dot(const std::vector<Dot>& places) {
    if (style_.cap == StrokeCap::butt) return;
    left_ = Side{{}, std::vector<std::vector<Dot>>(count_)};
    std::vector<Dot> above, right(count_, {1, 0}), left(count_, {-1, 0});
    for (std::size_t w = 0; w < count_; ++w) above.push_back(places[w] + Dot{0, half_[w]});
    push(left_, PathCommand::moveto, above);
    add_cap(left_, places, right);
    add_cap(left_, places, left);
    emit(left_, false);
  }

 private:
  static constexpr double kPi = 3.141592653589793;

  static void push(Side& side, PathCommand command, const std::vector<Dot>& points) {
    side.commands.push_back(command);
    for (std::size_t w = 0; w < points.size(); ++w) side.points[w].push_back(points[w]);
  }
  void curve_to(Side& side, const std::vector<Dot>& control, const std::vector<Dot>& end) {
    for (std::size_t w = 0; w < count_; ++w) side.points[w].push_back(control[w]);
    push(side, PathCommand::quadratic_curveto, end);
  }

  Dot beside(const Curve& curve, double t, double way, std::size_t w) const {
    return curve.at(t) + left_of(tangent(curve, t)) * (way * half_[w]);
  }
  std::vector<Dot> beside(const std::vector<const Curve*>& curves, double t, double way) const {
    std::vector<Dot> all;
    for (std::size_t w = 0; w < count_; ++w) all.push_back(beside(*curves[w], t, way, w));
    return all;
  }

  void start(const std::vector<std::vector<Curve>>& curves) {
    std::vector<const Curve*> first;
    for (std::size_t w = 0; w < count_; ++w) first.push_back(&curves[w][0]);
    push(left_, PathCommand::moveto, beside(first, 0, 1));
    push(right_, PathCommand::moveto, beside(first, 0, -1));
  }

  /// How fast a side goes, as a share of the skeleton's speed: 0 where the bend is as tight as the pen.
  double pace(const Curve& curve, double t, double way, std::size_t w) const {
    const Dot v = velocity(curve, t);
    const double speed = size(v);
    return speed > 1e-9 ? 1 - way * half_[w] * cross(v, acceleration(curve, t)) / (speed * speed * speed) : 1;
  }

  void add_range(const std::vector<const Curve*>& curves, double from, double to, int depth) {
    if (curves[0]->degree == 1) {
      push(left_, PathCommand::lineto, beside(curves, 1, 1));
      push(right_, PathCommand::lineto, beside(curves, 1, -1));
      return;
    }
    bool fits = true, wide = true, mixed = false;
    for (std::size_t w = 0; w < count_; ++w) {
      for (const double way : {1.0, -1.0}) {
        int tight = 0;
        for (int i = 0; i <= 4; ++i)
          tight += pace(*curves[w], from + (to - from) * i / 4, way, w) < kTight ? 1 : 0;
        wide = wide && tight == 0, mixed = mixed || (tight > 0 && tight < 5);
        fits = fits && (tight > 0 || is_near(*curves[w], from, to, way, w));
      }
    }
    if (depth < kDeepestHalving && (!fits || mixed || (depth == 0 && !turns_little(curves, from, to)))) {
      const double middle = (from + to) / 2;
      add_range(curves, from, middle, depth + 1);
      add_range(curves, middle, to, depth + 1);
      return;
    }
    for (const double way : {1.0, -1.0}) {
      Side& side = way > 0 ? left_ : right_;
      bool tight = false;
      for (std::size_t w = 0; w < count_ && !wide; ++w) {
        for (int i = 0; i <= 4; ++i)
          tight = tight || pace(*curves[w], from + (to - from) * i / 4, way, w) < kTight;
      }
      if (tight) {
        add_strips(side, curves, from, to, way);
      } else {
        add_curve(side, curves, from, to, way);
      }
    }
  }

  static bool turns_little(const std::vector<const Curve*>& curves, double from, double to) {
    return std::all_of(curves.begin(), curves.end(),
                       [&](const Curve* c) { return dot(tangent(*c, from), tangent(*c, to)) > 0.5; });
  }

  Dot control(const Curve& curve, double from, double to, double way, std::size_t w) const {
    return meeting(beside(curve, from, way, w), tangent(curve, from), beside(curve, to, way, w),
                   tangent(curve, to));
  }

  /// Whether one quadratic curve stays within the tolerance of the true side.
  bool is_near(const Curve& curve, double from, double to, double way, std::size_t w) const {
    Curve quad;
    quad.degree = 2;
    quad.p[0] = beside(curve, from, way, w), quad.p[2] = beside(curve, to, way, w);
    quad.p[1] = control(curve, from, to, way, w);
    for (int i = 1; i < 8; ++i) {
      const double t = from + (to - from) * i / 8;
      const Dot want = beside(curve, t, way, w), across = left_of(tangent(curve, t));
      // The nearest place of the curve: its parameter runs a little otherwise than the skeleton's.
      double at = i / 8.0;
      for (int step = 0; step < 3; ++step) {
        const Dot v = velocity(quad, at);
        const double along = dot(want - place(quad, at), v);
        at = std::clamp(at + along / std::max(dot(v, v), 1e-12), 0.0, 1.0);
      }
      if (std::abs(dot(want - place(quad, at), across)) > style_.tolerance) return false;
    }
    return true;
  }

  void add_curve(Side& side, const std::vector<const Curve*>& curves, double from, double to, double way) {
    std::vector<Dot> controls;
    for (std::size_t w = 0; w < count_; ++w) controls.push_back(control(*curves[w], from, to, way, w));
    curve_to(side, controls, beside(curves, to, way));
  }

  /// Strips from the skeleton out to the side, each by itself: together they cover what the pen covers.
  void add_strips(Side& side, const std::vector<const Curve*>& curves, double from, double to, double way) {
    constexpr int kStrips = 4;
    const auto on = [&](double t) {
      std::vector<Dot> all;
      all.reserve(count_);
      for (const Curve* c : curves) all.push_back(c->at(t));
      return all;
    };
    std::vector<Dot> here = on(from);
    push(side, PathCommand::lineto, here);
    for (int i = 1; i <= kStrips; ++i) {
      const std::vector<Dot> next = on(from + (to - from) * i / kStrips);
      std::vector<Dot> a, b;
      for (std::size_t w = 0; w < count_; ++w) {
        const Dot along = next[w] - here[w];
        const Dot out = left_of(along) * (way * half_[w] / std::max(size(along), 1e-9));
        a.push_back(here[w] + out), b.push_back(next[w] + out);
      }
      push(side, PathCommand::lineto, a), push(side, PathCommand::lineto, b),
          push(side, PathCommand::lineto, next);
      here = next;
    }
    push(side, PathCommand::lineto, beside(curves, to, way));
  }

  void add_join(const std::vector<const Curve*>& before, const std::vector<const Curve*>& after) {
    const Dot in = tangent(*before[0], 1), out = tangent(*after[0], 0);
    const double turning = cross(in, out), along = dot(in, out);
    const bool smooth = along > 0 && std::abs(turning) < kSmooth;
    std::vector<Dot> places;
    places.reserve(count_);
    for (const Curve* c : after) places.push_back(c->start());
    for (const double way : {1.0, -1.0}) {
      Side& side = way > 0 ? left_ : right_;
      if (smooth) {
        if (turning != 0) push(side, PathCommand::lineto, beside(after, 0, way));
        continue;
      }
      if (turning * way > 0) {  // the inner side
        push(side, PathCommand::lineto, places);
      } else if (style_.join == StrokeJoin::round) {
        std::vector<Dot> from, to;
        for (std::size_t w = 0; w < count_; ++w) {
          from.push_back(left_of(tangent(*before[w], 1)) * (way * half_[w]));
          to.push_back(left_of(tangent(*after[w], 0)) * (way * half_[w]));
        }
        add_arc(side, places, from, to, -way);
        continue;
      } else if (style_.join == StrokeJoin::miter &&
                 2 / (1 + along) <= style_.miter_limit * style_.miter_limit) {
        std::vector<Dot> tips;
        for (std::size_t w = 0; w < count_; ++w) {
          const Dot a = left_of(tangent(*before[w], 1)), b = left_of(tangent(*after[w], 0));
          tips.push_back(places[w] + (a + b) * (way * half_[w] / (1 + dot(a, b))));
        }
        push(side, PathCommand::lineto, tips);
      }
      push(side, PathCommand::lineto, beside(after, 0, way));
    }
  }

  /// From `places + from` around `places` to `places + to`; counterclockwise (y up) where `sense` is 1.
  void add_arc(Side& side, const std::vector<Dot>& places, const std::vector<Dot>& from,
               const std::vector<Dot>& to, double sense) {
    std::vector<double> angles;
    double widest = 0;
    for (std::size_t w = 0; w < count_; ++w) {
      double angle = std::atan2(cross(from[w], to[w]), dot(from[w], to[w])) * sense;
      if (angle < -1e-6) angle += 2 * kPi;
      angles.push_back(std::max(angle, 0.0)), widest = std::max(widest, angles.back());
    }
    const int pieces = std::max(1, static_cast<int>(std::ceil(widest / arc_ - 1e-6)));
    for (int i = 1; i <= pieces; ++i) {
      std::vector<Dot> controls, ends;
      for (std::size_t w = 0; w < count_; ++w) {
        const double step = angles[w] / pieces;
        const auto turned = [&](double angle, double far) {
          const SineCosine a = sine_cosine(angle * sense * 180 / kPi);
          return places[w] +
                 Dot{from[w].x * a.cosine - from[w].y * a.sine, from[w].x * a.sine + from[w].y * a.cosine} *
                     far;
        };
        controls.push_back(turned(step * (i - 0.5), 1 / std::cos(step / 2)));
        ends.push_back(i == pieces ? places[w] + to[w] : turned(step * i, 1));
      }
      curve_to(side, controls, ends);
    }
  }

  /// From the left side of the line's end to its right side.
  void add_cap(Side& side, const std::vector<Dot>& places, const std::vector<Dot>& ahead) {
    std::vector<Dot> left, right;
    for (std::size_t w = 0; w < count_; ++w) {
      left.push_back(left_of(ahead[w]) * half_[w]), right.push_back(left_of(ahead[w]) * -half_[w]);
    }
    if (style_.cap == StrokeCap::round) {
      std::vector<Dot> front;
      for (std::size_t w = 0; w < count_; ++w) front.push_back(ahead[w] * half_[w]);
      add_arc(side, places, left, front, -1);
      add_arc(side, places, front, right, -1);
      return;
    }
    std::vector<Dot> near_left, near_right, ends;
    for (std::size_t w = 0; w < count_; ++w) {
      near_left.push_back(places[w] + left[w] + ahead[w] * half_[w]);
      near_right.push_back(places[w] + right[w] + ahead[w] * half_[w]);
      ends.push_back(places[w] + right[w]);
    }
    if (style_.cap == StrokeCap::square) {
      push(side, PathCommand::lineto, near_left), push(side, PathCommand::lineto, near_right);
    }
    push(side, PathCommand::lineto, ends);
  }

  /// The way back along `more`, whose end `side` has reached.
  void append_reversed(Side& side, const Side& more) const {
    const std::size_t last = more.points[0].size() - 1;
    std::size_t at = last;
    for (std::size_t i = more.commands.size(); i-- > 1;) {
      const std::size_t taken = more.commands[i] == PathCommand::quadratic_curveto ? 2 : 1;
      side.commands.push_back(more.commands[i]);
      for (std::size_t k = 1; k <= taken; ++k) {
        for (std::size_t w = 0; w < count_; ++w) side.points[w].push_back(more.points[w][at - k]);
      }
      at -= taken;
    }
  }

  void emit(const Side& side, bool reversed) {
    Side turned;
    if (reversed) {
      turned.points.resize(count_);
      turned.commands.push_back(PathCommand::moveto);
      for (std::size_t w = 0; w < count_; ++w) turned.points[w].push_back(side.points[w].back());
      append_reversed(turned, side);
    }
    const Side& from = reversed ? turned : side;
    for (std::size_t w = 0; w < count_; ++w) {
      Contours& to = out_[w];
      to.commands.insert(to.commands.end(), from.commands.begin(), from.commands.end());
      for (const Dot p : from.points[w])
        to.points.push_back({static_cast<float>(p.x), static_cast<float>(p.y)});
      to.close();
    }
  }

  const PenStyle& style_;
  std::vector<Contours>& out_;
  std::size_t count_;
  std::vector<double> half_;
  double arc_;
  Side left_, right_;
};

}  // namespace

void outline_pen(const std::vector<PenLine>& lines, const PenStyle& style, std::vector<Contours>& out) {
  std::vector<std::vector<Strand>> strands;
  strands.reserve(lines.size());
  for (const PenLine& line : lines) strands.push_back(list_strands(line.skeleton));
  Pen pen(lines, style, out);
  for (std::size_t i = 0; i < strands[0].size(); ++i) {
    std::vector<std::vector<Curve>> curves(lines.size());
    for (std::size_t k = 0; k < strands[0][i].curves.size(); ++k) {
      // What has no length in one weight has none in any.
      bool moves_everywhere = true;
      for (const auto& of_weight : strands)
        moves_everywhere = moves_everywhere && moves(of_weight[i].curves[k]);
      if (!moves_everywhere) continue;
      for (std::size_t w = 0; w < lines.size(); ++w) curves[w].push_back(strands[w][i].curves[k]);
    }
    if (!curves[0].empty()) {
      pen.add_contour(curves, strands[0][i].closed);
      continue;
    }
    std::vector<Dot> places;
    places.reserve(lines.size());
    for (const auto& of_weight : strands) places.push_back(of_weight[i].start);
    pen.add_dot(places);
  }
}

}  // namespace grafema::detail
