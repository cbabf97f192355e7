// SPDX-License-Identifier: MIT
// The pictures of `grafema demo`: scenes of Last Tram to Quillmere.
#pragma once

#include <memory>
#include <string>

#include "grafema/atlas.hpp"
#include "grafema/paint.hpp"

namespace grafema::tool {

/// A face for signs beside the built-in pixel face; the built-in one where the system has none.
std::shared_ptr<const Face> demo_face(bool bold);

Image draw_board();
Image draw_title();
/// The word in the sizes of a game's interface, plain and with outline, on light and dark.
Image draw_sizes();
/// The first page of an atlas on a checkered ground, with a caption.
Image draw_page(const Atlas& atlas, const std::string& caption);

}  // namespace grafema::tool
