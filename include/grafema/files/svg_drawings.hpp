// SPDX-License-Identifier: MIT
// Drawings of characters in SVG files.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/files/files.hpp"
#include "grafema/write/shape_sheet.hpp"

namespace grafema {

/// What is a drawing of an SVG document.
enum class SvgSheet : std::uint8_t {
  groups,  ///< each group with an id; groups of such groups are passed through, and where they stand on the
           ///< sheet does not count
  whole,   ///< the whole document
};

/// Reads drawings. A drawing's name is its id (of a whole document: `name`); its characters are those of
/// `data-characters`, else the id itself where it is one character, or is written U+0041. Elements with
/// `data-anchor="NAME"` are no ink but anchors, at the middle of their box; with `data-attach="NAME"` the
/// point of a mark that comes to stand there. Elements with `data-guide` are no ink at all;
/// `data-pen`, inherited, is the share that strokes take of another style's pen. `use` is
/// followed; styles are those of presentation attributes and `style`. Fails with `damaged` for XML or values
/// that are wrong, for shapes and groups without a name, and with `unsupported` for what a font can't hold
/// (paint servers, text, images, filters, masks, clips, markers, dashes, style sheets), telling element and
/// line.
GRAFEMA_API Result<std::vector<CharacterDrawing>> read_svg_drawings(std::string_view svg, SvgSheet sheet,
                                                                    std::string_view name = {});

/// A sheet from the text of its description (docs/formats/font-sheet.md), without drawings. Fails with
/// `damaged` and the field; fields that are not known are noted.
GRAFEMA_API Result<ShapeSheet> read_shape_description(std::string_view description, Notes* notes = nullptr);

/// Loads drawings and the description beside the first of them: same name with .json. A path is an SVG file
/// with a group for each drawing, or a folder with a file for each. The first thing that is wrong ends it,
/// with its file.
GRAFEMA_API FileResult<ShapeSheet> load_shape_sheet(const std::vector<std::string>& paths,
                                                    Notes* notes = nullptr);

}  // namespace grafema
