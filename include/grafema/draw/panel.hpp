// SPDX-License-Identifier: MIT
// A box behind a label, with the layers of a look, round corners and a pointer.
#pragma once

#include <array>
#include <optional>

#include "grafema/draw/looks.hpp"

namespace grafema {

/// Lengths are pixels of the label. Sides are whole pixels, rounded up, so that they are crisp.
struct Panel {
  LookId look{};  ///< of the context's book: its layers are those of the box instead of letters
  std::array<float, 4> padding =
      {};                           ///< beyond the label's box: top, right, bottom, left, as CSS orders sides
  std::array<float, 4> radii = {};  ///< of the corners: top left, top right, bottom right, bottom left
  std::optional<Rect> box = {};     ///< instead of the label's box; it grows by the padding too
  /// Where a speech bubble's pointer goes; one within the box has none.
  std::optional<PixelPoint> points_to = {};
  float pointer_width = 16;  ///< where it leaves the box
  float pointer_length = 0;  ///< above 0: it is no longer than this
  bool operator==(const Panel&) const = default;
};

/// Fails with `bad_value` where a number is not finite, or a radius or the pointer's width below 0.
GRAFEMA_API Result<void> check_panel(const Panel& panel);

/// A panel's outline as it stands behind a label's box. Pixels of the label.
struct PanelShape {
  Rect box = {};
  std::array<float, 4> radii = {};  ///< no two beside each other longer than their side
  bool has_pointer = false;
  std::array<PixelPoint, 3> pointer = {};  ///< the tip, and where it begins within the box
};
/// Nothing is left of a box whose padding is less than nothing by more than it has: its sides are then 0.
GRAFEMA_API PanelShape panel_shape(const Panel& panel, const Rect& label);

/// The distance from a point to the outline, positive inside.
GRAFEMA_API float distance_to(const PanelShape& shape, PixelPoint point);

}  // namespace grafema
