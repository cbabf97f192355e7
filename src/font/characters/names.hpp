// SPDX-License-Identifier: MIT
// Texts of the `name` and `meta` tables (OpenType, name and meta).
#pragma once

#include "font/container/table.hpp"
#include "grafema/base/export.hpp"
#include "grafema/font/face.hpp"

namespace grafema::detail {

/// The best record of a name id as UTF-8; empty where there is none. Best language first: US English, other
/// English, records without language, any.
std::string find_name(const TableView& name, std::uint16_t id);

GRAFEMA_API FaceNames read_names(const TableView& name, const TableView& meta);

}  // namespace grafema::detail
