// SPDX-License-Identifier: MIT
// Turns curves into straight pieces, as many as their bend asks for.
#include <algorithm>
#include <cmath>

#include "grafema/outline/contours.hpp"

namespace grafema {
namespace {

/// No curve becomes more pieces, whatever its size.
constexpr int kMaxPieces = 2048;

/// `std::hypot` belongs to libm, whose last bit differs between machines.
double length(double x, double y) { return std::sqrt(x * x + y * y); }

struct Point {
  double x, y;
};

class Flattener {
 public:
  Flattener(const Transform& map, double tolerance, std::vector<Segment>& out)
      : map_(map), tolerance_(tolerance), out_(out) {}

  Point mapped(FontPoint p) const {
    return {double{map_.xx} * p.x + double{map_.xy} * p.y + map_.dx,
            double{map_.yx} * p.x + double{map_.yy} * p.y + map_.dy};
  }

  void begin(Point p) { start_ = pen_ = p; }

  void line(Point p) {
    const bool finite =
        std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(pen_.x) && std::isfinite(pen_.y);
    if (finite && (p.x != pen_.x || p.y != pen_.y)) out_.push_back({pen_.x, pen_.y, p.x, p.y});
    pen_ = p;
  }

  /// A chord of a quadratic curve cut in n leaves it by at most |a - 2b + c| / (4 n^2), always on its hollow
  /// side. Points between its ends stand half of that on the other side, so that errors cancel along the way.
  void quad(Point b, Point c) {
    const Point a = pen_, bend{a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y};
    const int n = pieces(length(bend.x, bend.y) / 4);
    const double out = 1.0 / (8.0 * n * n);
    for (int i = 1; i < n; ++i) {
      const double t = static_cast<double>(i) / n, s = 1 - t;
      line({s * s * a.x + 2 * s * t * b.x + t * t * c.x - bend.x * out,
            s * s * a.y + 2 * s * t * b.y + t * t * c.y - bend.y * out});
    }
    line(c);
  }

  /// A cubic's second derivative is at most 6 times its largest second difference; a chord leaves it by at
  /// most an eighth of that over n^2.
  void cubic(Point b, Point c, Point d) {
    const Point a = pen_;
    const double bend = std::max(length(a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y),
                                 length(b.x - 2 * c.x + d.x, b.y - 2 * c.y + d.y));
    const int n = pieces(bend * 6 / 8);
    const double out = 6.0 / (16.0 * n * n);
    for (int i = 1; i < n; ++i) {
      const double t = static_cast<double>(i) / n, s = 1 - t;
      const double wa = s * s * s, wb = 3 * s * s * t, wc = 3 * s * t * t, wd = t * t * t;
      const Point turn{s * (a.x - 2 * b.x + c.x) + t * (b.x - 2 * c.x + d.x),
                       s * (a.y - 2 * b.y + c.y) + t * (b.y - 2 * c.y + d.y)};
      line({wa * a.x + wb * b.x + wc * c.x + wd * d.x - turn.x * out,
            wa * a.y + wb * b.y + wc * c.y + wd * d.y - turn.y * out});
    }
    line(d);
  }

  void close() { line(start_); }

 private:
  int pieces(double deviation) const {
    const double n = std::ceil(std::sqrt(deviation / tolerance_));
    return n >= 1 && n < kMaxPieces ? static_cast<int>(n) : n >= kMaxPieces ? kMaxPieces : 1;
  }

  const Transform& map_;
  double tolerance_;
  std::vector<Segment>& out_;
  Point start_{0, 0}, pen_{0, 0};
};

}  // namespace

void flatten(const Contours& contours, const Transform& to_pixels, double tolerance,
             std::vector<Segment>& out) {
  out.clear();
  Flattener to(to_pixels, tolerance, out);
  const FontPoint* p = contours.points.data();
  bool open = false;
  for (const PathCommand command : contours.commands) {
    switch (command) {
      case PathCommand::moveto:
        if (open) to.close();
        to.begin(to.mapped(p[0])), p += 1, open = true;
        break;
      case PathCommand::lineto:
        to.line(to.mapped(p[0])), p += 1;
        break;
      case PathCommand::quadratic_curveto:
        to.quad(to.mapped(p[0]), to.mapped(p[1])), p += 2;
        break;
      case PathCommand::curveto:
        to.cubic(to.mapped(p[0]), to.mapped(p[1]), to.mapped(p[2])), p += 3;
        break;
      case PathCommand::closepath:
        to.close(), open = false;
        break;
    }
  }
  if (open) to.close();
}

}  // namespace grafema
