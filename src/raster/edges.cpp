// SPDX-License-Identifier: MIT
// Finds the corners of an outline and deals the runs between them to three channels.
#include "raster/edges.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

/// Joints that turn by more than 15 degrees are corners; what turns less is rounded by less than can be seen.
constexpr double kSmoothCosine = 0.9659;
constexpr int kMaxPieces = 512;

constexpr std::uint8_t kRed = 1, kGreen = 2, kBlue = 4, kAll = 7;

double length(const Dot& d) { return std::sqrt(d.x * d.x + d.y * d.y); }

Dot unit(const Dot& d) {
  const double l = length(d);
  return l > 0 ? Dot{d.x / l, d.y / l} : Dot{0, 0};
}

/// The direction at the curve's start or end; where a control point lies on the end, that towards the next.
Dot start_direction(const Curve& c) {
  for (std::size_t i = 1; i <= static_cast<std::size_t>(c.degree); ++i) {
    if (!(c.p[i] == c.p[0])) return unit({c.p[i].x - c.p[0].x, c.p[i].y - c.p[0].y});
  }
  return {};
}
Dot end_direction(const Curve& c) {
  for (std::size_t i = static_cast<std::size_t>(c.degree); i-- > 0;) {
    if (!(c.p[i] == c.end())) return unit({c.end().x - c.p[i].x, c.end().y - c.p[i].y});
  }
  return {};
}

int piece_count(const Curve& c, double tolerance) {
  double bend = 0;
  for (std::size_t k = 2; k <= static_cast<std::size_t>(c.degree); ++k) {
    bend = std::max(bend, length({c.p[k].x - 2 * c.p[k - 1].x + c.p[k - 2].x,
                                  c.p[k].y - 2 * c.p[k - 1].y + c.p[k - 2].y}));
  }
  const double n = std::ceil(std::sqrt(bend * c.degree * (c.degree - 1) / 8 / tolerance));
  return n >= 1 && n < kMaxPieces ? static_cast<int>(n) : n >= kMaxPieces ? kMaxPieces : 1;
}

/// A point of a curve cut in n, moved out by half of what a chord leaves it by (see flatten.cpp).
Dot balanced(const Curve& c, double t, int n, const Dot& on_curve) {
  const auto second = [&c](std::size_t i) {
    return Dot{c.p[i].x - 2 * c.p[i + 1].x + c.p[i + 2].x, c.p[i].y - 2 * c.p[i + 1].y + c.p[i + 2].y};
  };
  if (c.degree == 1) return on_curve;
  const double cuts = static_cast<double>(n) * n;
  const Dot first = second(0);
  if (c.degree == 2) return {on_curve.x - first.x / (8 * cuts), on_curve.y - first.y / (8 * cuts)};
  const Dot last = second(1);
  const double by = 6 / (16 * cuts);
  return {on_curve.x - ((1 - t) * first.x + t * last.x) * by,
          on_curve.y - ((1 - t) * first.y + t * last.y) * by};
}

Dot point_at(const Curve& c, double t) {
  const double s = 1 - t;
  const auto& p = c.p;
  if (c.degree == 1) return {p[0].x + (p[1].x - p[0].x) * t, p[0].y + (p[1].y - p[0].y) * t};
  if (c.degree == 2) {
    const double a = s * s, b = 2 * s * t, d = t * t;
    return {a * p[0].x + b * p[1].x + d * p[2].x, a * p[0].y + b * p[1].y + d * p[2].y};
  }
  const double a = s * s * s, b = 3 * s * s * t, d = 3 * s * t * t, e = t * t * t;
  return {a * p[0].x + b * p[1].x + d * p[2].x + e * p[3].x,
          a * p[0].y + b * p[1].y + d * p[2].y + e * p[3].y};
}

/// Between texels a distance is mixed in straight lines, which cut across what is round: by a twelfth of the
/// curvature on average, whatever the direction. Curves are moved out by as much, so that as much is added as
/// is lost.
float bulge_of(const Curve& c, double t) {
  if (c.degree == 1) return 0;
  const auto leg = [&c](std::size_t i) { return Dot{c.p[i + 1].x - c.p[i].x, c.p[i + 1].y - c.p[i].y}; };
  Dot along, turn;
  const Dot a = leg(0), b = leg(1);
  if (c.degree == 2) {
    along = {2 * (a.x + (b.x - a.x) * t), 2 * (a.y + (b.y - a.y) * t)};
    turn = {2 * (b.x - a.x), 2 * (b.y - a.y)};
  } else {
    const Dot d = leg(2);
    const double s = 1 - t;
    along = {3 * (s * s * a.x + 2 * s * t * b.x + t * t * d.x),
             3 * (s * s * a.y + 2 * s * t * b.y + t * t * d.y)};
    turn = {6 * (s * (b.x - a.x) + t * (d.x - b.x)), 6 * (s * (b.y - a.y) + t * (d.y - b.y))};
  }
  const double speed = length(along);
  if (!(speed > 1e-9)) return 0;
  const double curvature = (along.x * turn.y - along.y * turn.x) / (speed * speed * speed);
  constexpr double kMax = 0.1;  // pixels; what is rounder than that is smaller than a texel
  return static_cast<float>(std::clamp(curvature / 12, -kMax, kMax));
}

class Dealer {
 public:
  Dealer(double tolerance, std::vector<EdgePiece>& out, std::vector<Segment>& boundary)
      : tolerance_(tolerance), out_(out), boundary_(boundary) {}

  /// One run: curves `first` to `last` (one past) of a contour of `count`, cyclically.
  void add_run(const Curve* contour, std::size_t count, std::size_t first, std::size_t last,
               std::uint8_t channels, bool open) {
    const std::size_t begin = out_.size();
    for (std::size_t i = first; i < last; ++i) add_curve(contour[i % count], channels);
    if (!open || out_.size() == begin) return;
    const Dot from = start_direction(contour[first % count]), to = end_direction(contour[(last - 1) % count]);
    EdgePiece &head = out_[begin], &tail = out_.back();
    head.begins_run = true, head.begin_x = static_cast<float>(from.x),
    head.begin_y = static_cast<float>(from.y);
    tail.ends_run = true, tail.end_x = static_cast<float>(to.x), tail.end_y = static_cast<float>(to.y);
  }

 private:
  void add_curve(const Curve& c, std::uint8_t channels) {
    const int n = piece_count(c, tolerance_);
    Dot pen = c.start();
    for (int k = 1; k <= n; ++k) {
      const double t = static_cast<double>(k) / n;
      const Dot to = k < n ? balanced(c, t, n, point_at(c, t)) : c.end();
      const double dx = to.x - pen.x, dy = to.y - pen.y, square = dx * dx + dy * dy;
      if (square > 1e-12) {
        EdgePiece piece;
        piece.x = static_cast<float>(pen.x), piece.y = static_cast<float>(pen.y);
        piece.ex = static_cast<float>(dx), piece.ey = static_cast<float>(dy);
        piece.inverse_square = static_cast<float>(1 / square),
        piece.inverse_length = static_cast<float>(1 / std::sqrt(square));
        piece.bulge = bulge_of(c, t - 0.5 / n);
        piece.channels = channels;
        out_.push_back(piece);
      }
      boundary_.push_back({pen.x, pen.y, to.x, to.y});
      pen = to;
    }
  }

  double tolerance_;
  std::vector<EdgePiece>& out_;
  std::vector<Segment>& boundary_;
};

/// The channels of run `i` of `count` (at least 2): neighbors differ, the last from the first too.
std::uint8_t run_channels(std::size_t i, std::size_t count) {
  constexpr std::uint8_t kPairs[3] = {kRed | kGreen, kGreen | kBlue, kBlue | kRed};
  if (i + 1 == count && count % 3 == 1) {
    return kPairs[1];
  }  // after the third pair comes the first one's again: take the second
  return kPairs[i % 3];
}

/// One corner: the contour in three runs, of which the first and the last, which meet there, share one
/// channel. Between them all three see the middle, so two channels always agree.
void deal_teardrop(const Curve* contour, std::size_t count, std::size_t corner, Dealer& dealer,
                   std::vector<Curve>& parts) {
  parts.clear();
  for (std::size_t i = 0; i < count; ++i) {
    const Curve& c = contour[(corner + i) % count];
    if (count >= 3) {
      parts.push_back(c);
    } else {  // too few curves to share out: cut each
      for (int k = 0; k < 3; ++k) parts.push_back(c.part(k / 3.0, (k + 1) / 3.0));
    }
  }
  const std::size_t n = parts.size(), third = n / 3;
  dealer.add_run(parts.data(), n, 0, third, kRed | kGreen, true);
  dealer.add_run(parts.data(), n, third, n - third, kAll, true);
  dealer.add_run(parts.data(), n, n - third, n, kBlue | kRed, true);
}

}  // namespace

void deal_edges(const Contours& united, const Transform& map, double tolerance, EdgeMemory& memory,
                std::vector<EdgePiece>& out, std::vector<Segment>& boundary) {
  out.clear();
  boundary.clear();
  std::vector<Curve>& curves = memory.curves;
  list_curves(united, curves);
  const bool mirrored = double{map.xx} * map.yy - double{map.xy} * map.yx > 0;
  for (Curve& c : curves) {
    for (std::size_t i = 0; i <= static_cast<std::size_t>(c.degree); ++i) {
      c.p[i] = {map.xx * c.p[i].x + map.xy * c.p[i].y + map.dx,
                map.yx * c.p[i].x + map.yy * c.p[i].y + map.dy};
    }
    if (mirrored) std::reverse(c.p.begin(), c.p.begin() + c.degree + 1);
  }
  if (mirrored) std::reverse(curves.begin(), curves.end());
  Dealer dealer(tolerance, out, boundary);
  std::vector<Curve> parts;
  for (std::size_t first = 0, end = 0; first < curves.size(); first = end) {
    while (end < curves.size() && curves[end].contour == curves[first].contour) ++end;
    const Curve* contour = curves.data() + first;
    const std::size_t count = end - first;
    // A loop that one straight piece stands for is nothing, as for one channel.
    if (count == 1 && piece_count(contour[0], tolerance) == 1) continue;
    memory.corners.clear();
    for (std::size_t i = 0; i < count; ++i) {
      const Dot in = end_direction(contour[(i + count - 1) % count]), on = start_direction(contour[i]);
      if (in.x * on.x + in.y * on.y < kSmoothCosine) memory.corners.push_back(i);
    }
    const std::size_t runs = memory.corners.size();
    if (runs == 0) {
      dealer.add_run(contour, count, 0, count, kAll, false);
    } else if (runs == 1) {
      deal_teardrop(contour, count, memory.corners[0], dealer, parts);
    }
    for (std::size_t i = 0; runs > 1 && i < runs; ++i) {
      const std::size_t to = i + 1 < runs ? memory.corners[i + 1] : memory.corners[0] + count;
      dealer.add_run(contour, count, memory.corners[i], to, run_channels(i, runs), true);
    }
  }
}

}  // namespace grafema::detail
