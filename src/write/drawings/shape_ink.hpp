// SPDX-License-Identifier: MIT
// What a drawn shape inks, in font units, for one weight or several whose points answer each other.
#pragma once

#include <vector>

#include "grafema/write/shape_sheet.hpp"
#include "write/drawings/skeleton_fit.hpp"

namespace grafema::detail {

void append(const Contours& from, Contours& to);

class ShapeInk {
 public:
  ShapeInk(const ShapeSheet& sheet, std::vector<const SheetStyle*> styles);

  /// How the drawing's places move in each style.
  std::vector<SkeletonFit> fit(const CharacterDrawing& drawing) const;
  /// Appends the shape to the outline of each style, the filled side on the right (y up).
  Result<void> add(const DrawnShape& shape, const std::vector<SkeletonFit>& fits,
                   std::vector<Contours>& out) const;
  /// A place of a drawing in font units, y up.
  FontPoint to_font(double x, double y) const {
    return {static_cast<float>(x * scale_), static_cast<float>((sheet_.baseline - y) * scale_)};
  }

 private:
  void add_stroke(const DrawnShape& shape, const std::vector<SkeletonFit>& fits,
                  std::vector<Contours>& out) const;

  const ShapeSheet& sheet_;
  std::vector<const SheetStyle*> styles_;
  double scale_;
};

}  // namespace grafema::detail
