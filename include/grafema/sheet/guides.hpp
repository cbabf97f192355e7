// SPDX-License-Identifier: MIT
// Rulers, boxes and baselines drawn over a label.
#pragma once

#include "grafema/base/image.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

/// Draws rulers and the safe area (gray, where it is smaller than the target), and of a placed label its
/// baselines (red), advance box (blue), ink box (green) and anchor (a cross). `view` is as large as the
/// target. Nothing of the label where `map_label` refuses its placement.
GRAFEMA_API void draw_guides(Image& target, const FontStack& stack, const Paragraph& paragraph,
                             const Placement& placement, const View& view);

}  // namespace grafema
