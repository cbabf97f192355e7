// SPDX-License-Identifier: MIT
// Cells of a sheet of drawn pixels.
#pragma once

#include "grafema/write/make_font.hpp"

namespace grafema::detail {

/// Whether the sheet's numbers and rows are within their ranges; tells the cell that is not.
Result<void> check_sheet(const PixelSheet& sheet);
/// Dark and opaque is ink; in colored sheets all that is opaque.
bool is_ink(const PixelSheet& sheet, int x, int y);
/// `'a' (U+0061)`.
std::string quoted(char32_t character);

}  // namespace grafema::detail
