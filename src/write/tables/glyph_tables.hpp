// SPDX-License-Identifier: MIT
// The tables of a new font that come from its glyphs, one by one.
#pragma once

#include <utility>

#include "write/tables/file_points.hpp"

namespace grafema::detail {

/// glyf and loca. Fails for cubic curves and glyphs of more points than 16 bits can count.
Result<std::pair<WrittenTable, WrittenTable>> write_glyphs(FontPlan& plan);
/// Appends a glyph of contours, the places of the first weight (OpenType, glyf).
void write_simple_glyph(const FilePoints& points, const FontRect& box, bool may_overlap, TableWriter& out);
/// Characters and their glyphs, ascending by character.
using CharacterList = std::vector<std::pair<char32_t, std::uint16_t>>;
/// `variants`: a subtable of variation sequences (format 14), or none.
WrittenTable write_cmap(const CharacterList& characters, const std::vector<std::byte>& variants = {});
WrittenTable write_hmtx(const FontPlan& plan);
/// COLR and CPAL, version 0.
std::pair<WrittenTable, WrittenTable> write_colors(const FontPlan& plan);
/// `CFF ` with lines and cubic curves. Fails where offsets or strings outgrow it.
Result<WrittenTable> write_cff(const FontPlan& plan);

}  // namespace grafema::detail
