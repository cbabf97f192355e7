// SPDX-License-Identifier: MIT
// The tables of a new font that describe it as a whole.
#pragma once

#include <string>

#include "write/font_plan.hpp"

namespace grafema::detail {

WrittenTable write_name(const FontPlan& plan);
WrittenTable write_head(const FontPlan& plan);
WrittenTable write_hhea(const FontPlan& plan);
WrittenTable write_maxp(const FontPlan& plan);
WrittenTable write_os2(const FontPlan& plan);
WrittenTable write_post(const FontPlan& plan);
WrittenTable write_gasp();

/// UTF-8 as big-endian UTF-16.
std::string to_utf16(std::string_view text);
/// Family and style in the letters that PostScript names may have, up to 63 of them.
std::string postscript_name(const FaceNames& names);
/// Whether the `name` table can hold them: it counts bytes in 16 bits, of each text and of all.
Result<void> check_names(const FaceNames& names);

}  // namespace grafema::detail
