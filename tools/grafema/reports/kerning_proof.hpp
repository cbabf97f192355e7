// SPDX-License-Identifier: MIT
// A picture of every kerned pair of a font, without and with its kerning.
#pragma once

#include "grafema/base/image.hpp"
#include "grafema/write/font_drawing.hpp"

namespace grafema::tool {

/// Pairs of classes are shown by the first letter of each; those that kerning moves most come first. As many
/// rows as that takes, up to 500 pairs.
Image draw_kerning_proof(const FontDrawing& drawing, const std::shared_ptr<const Face>& face);

}  // namespace grafema::tool
