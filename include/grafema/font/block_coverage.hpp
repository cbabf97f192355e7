// SPDX-License-Identifier: MIT
// How much of each Unicode block a face covers.
#pragma once

#include <vector>

#include "grafema/font/face.hpp"
#include "grafema/unicode/blocks.hpp"

namespace grafema {

struct BlockCoverage {
  UnicodeBlock block = {};
  std::size_t covered = 0;  ///< assigned characters of the block that the face has, at most `block.assigned`
};

/// The blocks of which the face has at least one assigned character, ascending.
GRAFEMA_API std::vector<BlockCoverage> block_coverage(const Face& face);

}  // namespace grafema
