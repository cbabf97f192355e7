// SPDX-License-Identifier: MIT
// Looks to begin with.
#pragma once

#include <span>

#include "grafema/draw/looks.hpp"

namespace grafema {

/// The names of the ready-made looks. Their lengths are ems, so that they suit any size; each stands out from
/// light, dark and busy backdrops.
GRAFEMA_API std::span<const std::string_view> look_names();

/// A ready-made look. Fails with `bad_value` and the nearest name.
GRAFEMA_API Result<Look> read_ready_look(std::string_view name);

/// Adds all of them to a book; looks that it has by these names are replaced.
GRAFEMA_API void add_ready_looks(LookBook& book);

}  // namespace grafema
