// SPDX-License-Identifier: MIT
// How many of a glyph's bytes in glyf and gvar are read: a damaged `loca` hands out far more.
#pragma once

#include <cstddef>
#include <optional>

#include "font/container/table.hpp"

namespace grafema::detail {

/// Bytes that a glyph of contours takes: header, ends, program, flags and coordinates. Returns nothing if
/// they do not fit into `glyph`.
std::optional<std::size_t> simple_glyph_extent(const TableView& glyph);

/// Bytes that a composite takes whose last part ends at `parts_end`: the program that follows is included if
/// `has_program`, and left out if it does not fit.
std::size_t composite_extent(const TableView& glyph, std::size_t parts_end, bool has_program);

/// Bytes that the tuples of a glyph in gvar take for a face of `axes` axes. Returns nothing if they do not
/// fit into `deltas`.
std::optional<std::size_t> glyph_deltas_extent(const TableView& deltas, std::size_t axes);

}  // namespace grafema::detail
