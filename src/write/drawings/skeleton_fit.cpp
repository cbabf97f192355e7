// SPDX-License-Identifier: MIT
// Looks for the turns of strokes and lines them up with the sheet's heights.
#include "write/drawings/skeleton_fit.hpp"

#include <algorithm>
#include <cmath>

#include "outline/flatten/curve_length.hpp"
#include "outline/union/pieces.hpp"

namespace grafema::detail {
namespace {

/// Y where a curve ends or turns, y down.
void list_turns(const Curve& curve, std::vector<double>& out) {
  out.push_back(curve.start().y), out.push_back(curve.end().y);
  if (curve.degree == 1) return;
  constexpr int kSteps = 32;
  for (int i = 0; i < kSteps; ++i) {
    const double a = static_cast<double>(i) / kSteps, b = static_cast<double>(i + 1) / kSteps;
    if (velocity(curve, a).y * velocity(curve, b).y < 0) out.push_back(curve.at((a + b) / 2).y);
  }
}

}  // namespace

SkeletonFit::SkeletonFit(const CharacterDrawing& drawing, const ShapeSheet& sheet, const SheetStyle& style)
    : widen_(style.widen) {
  if (style.pen == 1) return;
  const double near = sheet.em * 0.03;
  std::vector<double> turns;
  std::vector<Curve> curves;
  for (const DrawnShape& shape : drawing.shapes) {
    if (!shape.stroked) continue;
    Contours moved = shape.path;
    for (FontPoint& p : moved.points) {
      const PixelPoint q = shape.to_drawing(p.x, p.y);
      p = {q.x, q.y};
    }
    const Transform& t = shape.to_drawing;
    const double size = std::sqrt(std::abs(double{t.xx} * t.yy - double{t.xy} * t.yx));
    const double half = shape.width * size / 2, grown = half * (style.pen - 1) * shape.pen_share;
    turns.clear();
    // Open contours' closing lines add no turn of their own.
    list_curves(moved, curves);
    for (const Curve& curve : curves) list_turns(curve, turns);
    for (const FontPoint p : moved.points) {
      if (moved.points.size() == 1) turns.push_back(p.y);
    }
    for (const double y : turns) {
      for (const float height : sheet.heights) {
        const double line = sheet.baseline - height;
        // The lower edge of a stroke on a line, or its upper edge below one.
        if (std::abs(y + half - line) <= near) knots_.push_back({y, y - grown});
        if (std::abs(y - half - line) <= near) knots_.push_back({y, y + grown});
      }
    }
  }
  std::sort(knots_.begin(), knots_.end(), [](Knot a, Knot b) { return a.from < b.from; });
  // Turns close to each other count once, and none may overtake another.
  std::vector<Knot> kept;
  for (const Knot knot : knots_) {
    if (!kept.empty() && (knot.from - kept.back().from < near || knot.to <= kept.back().to)) continue;
    kept.push_back(knot);
  }
  knots_ = std::move(kept);
}

FontPoint SkeletonFit::operator()(FontPoint p) const {
  double y = p.y;
  if (!knots_.empty()) {
    const auto after =
        std::upper_bound(knots_.begin(), knots_.end(), y, [](double v, Knot k) { return v < k.from; });
    if (after == knots_.begin()) {
      y += after->to - after->from;
    } else if (after == knots_.end()) {
      y += knots_.back().to - knots_.back().from;
    } else {
      const Knot &a = *(after - 1), &b = *after;
      y = a.to + (b.to - a.to) * (y - a.from) / (b.from - a.from);
    }
  }
  return {static_cast<float>(p.x * widen_), static_cast<float>(y)};
}

}  // namespace grafema::detail
