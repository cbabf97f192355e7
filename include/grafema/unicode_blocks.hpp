// SPDX-License-Identifier: MIT
// How much of each Unicode block a face covers.
#pragma once

#include <string>
#include <vector>

#include "grafema/face.hpp"

namespace grafema {

struct BlockCoverage {
  std::string name;       ///< "Basic Latin"
  std::size_t covered = 0;   ///< characters of the block that the face has
  std::size_t assigned = 0;  ///< characters that Unicode has assigned in it, controls not counted
};

/// The blocks of which the face has at least one character, in code point order.
GRAFEMA_API std::vector<BlockCoverage> block_coverage(const Face& face);

}  // namespace grafema
