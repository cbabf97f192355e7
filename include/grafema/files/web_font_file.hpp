// SPDX-License-Identifier: MIT
// Fonts packed for the web.
#pragma once

#include <cstddef>
#include <span>
#include <vector>

#include "grafema/base/error.hpp"

namespace grafema {

/// Packs an OpenType file of one face as WOFF 2.0, outlines of `glyf` transformed (W3C, WOFF File Format 2.0,
/// section 5.1). What unpacks it gets the same tables, but for the compressed form of points. Fails with
/// `damaged` where the file's tables can't be read.
GRAFEMA_API Result<std::vector<std::byte>> make_web_font(std::span<const std::byte> font);

}  // namespace grafema
