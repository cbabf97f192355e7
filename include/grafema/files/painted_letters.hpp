// SPDX-License-Identifier: MIT
// Letters painted without any font: a picture and a description of its cells.
#pragma once

#include "grafema/atlas/repaint.hpp"
#include "grafema/files/files.hpp"

namespace grafema {

/// Loads the description and the picture beside it. Fails with `damaged` and the field, or as `load_png`
/// does.
GRAFEMA_API FileResult<PaintedLetters> load_painted_letters(const std::string& json_path);
/// The same from memory.
GRAFEMA_API Result<PaintedLetters> read_painted_letters(std::string_view description, Image picture);

/// Whether the text of a file says that it describes painted letters, and not a baked atlas.
GRAFEMA_API bool describes_painted_letters(std::string_view text);

}  // namespace grafema
