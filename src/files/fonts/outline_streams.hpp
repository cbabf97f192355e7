// SPDX-License-Identifier: MIT
// Outlines of glyf in the form that packs well.
#pragma once

#include <vector>

#include "font/container/table.hpp"
#include "write/tables/table_writer.hpp"

namespace grafema::detail {

/// The transformed glyf table (WOFF 2.0, section 5.1). Empty where a glyph can't be read: the tables then go
/// as they are.
std::vector<std::byte> transform_outlines(const TableView& glyf, const TableView& loca, bool long_offsets,
                                          std::uint32_t glyph_count);

}  // namespace grafema::detail
