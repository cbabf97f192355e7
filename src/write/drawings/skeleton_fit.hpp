// SPDX-License-Identifier: MIT
// Moves the skeleton of a letter so that wider strokes reach no farther up or down than the drawn ones.
#pragma once

#include <vector>

#include "grafema/write/shape_sheet.hpp"

namespace grafema::detail {

/// Where strokes of a drawing turn close to one of the sheet's heights, they move away from it by what the
/// pen grows; what lies between follows evenly. Left and right are scaled by the style's width.
class SkeletonFit {
 public:
  SkeletonFit(const CharacterDrawing& drawing, const ShapeSheet& sheet, const SheetStyle& style);

  /// A place of the drawing, y down, as the style has it.
  FontPoint operator()(FontPoint p) const;

 private:
  struct Knot {
    double from, to;  ///< y of the drawing
  };
  std::vector<Knot> knots_;  ///< ascending
  double widen_;
};

}  // namespace grafema::detail
