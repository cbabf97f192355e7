// SPDX-License-Identifier: MIT
// Straight pieces of an outline, one list of them.
#include <cmath>

#include "grafema/outline/contours.hpp"
#include "outline/flatten/flattener.hpp"

namespace grafema {
namespace {

using detail::Dot;

struct SegmentSink {
  std::vector<Segment>& out;
  Dot start{}, pen{};

  void begin(Dot p) { start = pen = p; }
  void line(Dot p) {
    const bool finite =
        std::isfinite(p.x) && std::isfinite(p.y) && std::isfinite(pen.x) && std::isfinite(pen.y);
    if (finite && (p.x != pen.x || p.y != pen.y)) out.push_back({pen.x, pen.y, p.x, p.y});
    pen = p;
  }
  void close() { line(start); }
};

}  // namespace

void flatten(const Contours& contours, const Transform& to_pixels, double tolerance,
             std::vector<Segment>& out) {
  out.clear();
  SegmentSink sink{out};
  detail::Flattener(to_pixels, tolerance, sink).run(contours);
}

}  // namespace grafema
