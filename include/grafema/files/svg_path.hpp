// SPDX-License-Identifier: MIT
// Paths of SVG files, for text to stand on.
#pragma once

#include "grafema/files/files.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema {

/// Reads path data (SVG 2, section 9.3): all commands, elliptical arcs as cubic curves. Points are the
/// file's, y down: `TextPath::contours` takes them as they are. Fails with `damaged` and what stands where it
/// goes wrong; what came before is lost.
GRAFEMA_API Result<Contours> read_svg_path(std::string_view data);

/// The `d` of the path with that id: `FILE.svg#ID`; the first path of the file where there is no `#ID`.
/// Transforms are not looked at. Fails with `damaged`, with the nearest id where there is none of that name,
/// and as `load_text` does.
GRAFEMA_API FileResult<Contours> load_svg_path(const std::string& path_and_id);

}  // namespace grafema
