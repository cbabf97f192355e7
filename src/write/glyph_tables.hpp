// SPDX-License-Identifier: MIT
// The tables of a new font that come from its glyphs, one by one.
#pragma once

#include <utility>

#include "write/font_plan.hpp"

namespace grafema::detail {

/// glyf and loca. Fails for cubic curves and glyphs of more points than 16 bits can count.
Result<std::pair<WrittenTable, WrittenTable>> write_glyphs(FontPlan& plan);
WrittenTable write_cmap(const FontPlan& plan);
WrittenTable write_hmtx(const FontPlan& plan);
/// COLR and CPAL, version 0.
std::pair<WrittenTable, WrittenTable> write_colors(const FontPlan& plan);
/// `CFF ` with lines and cubic curves. Fails where offsets or strings outgrow it.
Result<WrittenTable> write_cff(const FontPlan& plan);

}  // namespace grafema::detail
