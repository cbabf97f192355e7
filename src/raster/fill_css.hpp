// SPDX-License-Identifier: MIT
// Fills in CSS notation whose colors may be names of a looks file's parameters.
#pragma once

#include <functional>
#include <optional>
#include <string_view>

#include "grafema/raster/fill.hpp"

namespace grafema::detail {

/// The color of a parameter, named without its `$`.
using ColorNames = std::function<std::optional<Color>(std::string_view name)>;

struct NamedFill {
  Fill fill;
  /// Which parameter a stop's color is; of a plain color the first says it. Empty: none. Pieces of what was
  /// read.
  std::array<std::string_view, Fill::kMaxStops> of_stops = {};
};

/// As grafema::read_fill.
GRAFEMA_API Result<NamedFill> read_named_fill(std::string_view css, const ColorNames& names);

}  // namespace grafema::detail
