// SPDX-License-Identifier: MIT
// Texts of the `name` table (OpenType, name).
#pragma once

#include "font/table.hpp"
#include "grafema/face.hpp"

namespace grafema::detail {

/// Best language first: US English of the Windows platform, other Windows English, Unicode, Macintosh Roman, any.
FaceNames read_names(const TableView& name);

}  // namespace grafema::detail
