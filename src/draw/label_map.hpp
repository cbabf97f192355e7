// SPDX-License-Identifier: MIT
// Checking and mapping apart, so that what was checked once is not checked every frame.
#pragma once

#include <algorithm>

#include "grafema/draw/placement.hpp"

namespace grafema::detail {

Result<void> check_view(const View& view);
Result<void> check_placement(const Placement& placement);

/// A view's projection times its camera, column by column: worked out once for all labels.
struct ViewProduct {
  std::array<double, 16> m = {};
  explicit ViewProduct(const View& view);
};

/// As `map_label`; view and placement have been checked.
LabelMap map_checked(const Rect& box, const Placement& placement, const View& view,
                     const ViewProduct& product, const Rect* kept = nullptr);
/// As `map_label`; `kept` is what `keep_inside` keeps within the safe area, where that is more than the box.
Result<LabelMap> map_kept(const Rect& box, const Placement& placement, const View& view, const Rect* kept);

/// Whether nothing of a rectangle of the label can be seen: all of it lies beyond one side of the view. Some
/// that can't be seen are not found so.
bool is_outside(const LabelMap& map, const Rect& rect);

/// How many device pixels a pixel of the label is long at most, anywhere in a rectangle of it: an upper
/// bound.
float largest_scale(const LabelMap& map, const Rect& rect, const View& view);

/// How many pixels of the label it is to the next device pixel, at most, to the right and down, where a
/// rectangle of the label is seen: upper bounds.
struct PixelSteps {
  float right = 0, down = 0;
  /// For pictures of so many texels a pixel: as Batch::minified, and Batch::far.
  bool is_small(float texels) const { return std::max(right, down) * texels > 1.25F; }
  bool is_far(float texels) const { return (1 + right * texels / 1.6F) * (1 + down * texels / 1.6F) > 16; }
};
PixelSteps longest_steps(const LabelMap& map, const Rect& rect, const View& view);

}  // namespace grafema::detail
