// SPDX-License-Identifier: MIT
// Rulers, boxes and baselines drawn over a label.
#pragma once

#include "grafema/base/image.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

/// Draws rulers and the safe area (gray, where it is smaller than the target), and of a placed label its
/// baselines (red), box and line boxes (pale blue), advance box (blue), ink box (green), clusters (bars below
/// the lines, by turns light and dark), caret stops (violet ticks that lean with the text's direction), tab
/// stops (gray, dashed) and anchor (a cross). `text` is what the paragraph was laid out of. `view` is as
/// large as the target. Nothing of the label where `map_label` refuses its placement.
GRAFEMA_API void draw_guides(Image& target, const FontStack& stack, std::string_view text,
                             const Paragraph& paragraph, const Placement& placement, const View& view);

}  // namespace grafema
