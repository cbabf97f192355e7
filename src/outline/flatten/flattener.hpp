// SPDX-License-Identifier: MIT
// Turns curves into straight pieces, as many as their bend asks for, and hands them on one by one.
#pragma once

#include <algorithm>
#include <cmath>

#include "grafema/outline/contours.hpp"
#include "outline/union/pieces.hpp"

namespace grafema::detail {

/// No curve becomes more pieces, whatever its size.
inline constexpr int kMaxPieces = 2048;

/// `std::hypot` belongs to libm, whose last bit differs between machines.
inline double hypotenuse(double x, double y) { return std::sqrt(x * x + y * y); }

/// `Sink` is told `begin(Dot)` where a contour begins, `line(Dot)` for each straight piece, with where it
/// ends, and `close()`.
template <class Sink>
class Flattener {
 public:
  Flattener(const Transform& map, double tolerance, Sink& sink)
      : map_(map), tolerance_(tolerance), sink_(sink) {}

  void run(const Contours& contours) {
    const FontPoint* p = contours.points.data();
    bool open = false;
    for (const PathCommand command : contours.commands) {
      switch (command) {
        case PathCommand::moveto:
          if (open) sink_.close();
          start_ = pen_ = mapped(p[0]), sink_.begin(pen_), p += 1, open = true;
          break;
        case PathCommand::lineto:
          line(mapped(p[0])), p += 1;
          break;
        case PathCommand::quadratic_curveto:
          quad(mapped(p[0]), mapped(p[1])), p += 2;
          break;
        case PathCommand::curveto:
          cubic(mapped(p[0]), mapped(p[1]), mapped(p[2])), p += 3;
          break;
        case PathCommand::closepath:
          sink_.close(), pen_ = start_, open = false;
          break;
      }
    }
    if (open) sink_.close();
  }

 private:
  Dot mapped(FontPoint p) const {
    return {double{map_.xx} * p.x + double{map_.xy} * p.y + map_.dx,
            double{map_.yx} * p.x + double{map_.yy} * p.y + map_.dy};
  }

  void line(Dot p) { sink_.line(p), pen_ = p; }

  /// A chord of a quadratic curve cut in n leaves it by at most |a - 2b + c| / (4 n^2), always on its hollow
  /// side. Points between its ends stand half of that on the other side, so that errors cancel along the way.
  void quad(Dot b, Dot c) {
    const Dot a = pen_, bend{a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y};
    const int n = pieces(hypotenuse(bend.x, bend.y) / 4);
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
  void cubic(Dot b, Dot c, Dot d) {
    const Dot a = pen_;
    const double bend = std::max(hypotenuse(a.x - 2 * b.x + c.x, a.y - 2 * b.y + c.y),
                                 hypotenuse(b.x - 2 * c.x + d.x, b.y - 2 * c.y + d.y));
    const int n = pieces(bend * 6 / 8);
    const double out = 6.0 / (16.0 * n * n);
    for (int i = 1; i < n; ++i) {
      const double t = static_cast<double>(i) / n, s = 1 - t;
      const double wa = s * s * s, wb = 3 * s * s * t, wc = 3 * s * t * t, wd = t * t * t;
      const Dot turn{s * (a.x - 2 * b.x + c.x) + t * (b.x - 2 * c.x + d.x),
                     s * (a.y - 2 * b.y + c.y) + t * (b.y - 2 * c.y + d.y)};
      line({wa * a.x + wb * b.x + wc * c.x + wd * d.x - turn.x * out,
            wa * a.y + wb * b.y + wc * c.y + wd * d.y - turn.y * out});
    }
    line(d);
  }

  int pieces(double deviation) const {
    const double n = std::ceil(std::sqrt(deviation / tolerance_));
    return n >= 1 && n < kMaxPieces ? static_cast<int>(n) : n >= kMaxPieces ? kMaxPieces : 1;
  }

  const Transform& map_;
  double tolerance_;
  Sink& sink_;
  Dot start_, pen_;
};

}  // namespace grafema::detail
