// SPDX-License-Identifier: MIT
// Pairs rows with columns so that the sum of what pairs cost is the smallest.
#pragma once

#include <cstdint>
#include <vector>

namespace grafema::detail {

/// `costs` has `rows` times `columns` numbers, all finite. Gives for each row its column, ~0 for rows without
/// one: as many rows have one as there are columns for (Kuhn 1955, with shortest augmenting paths).
std::vector<std::uint32_t> assign(const std::vector<double>& costs, std::size_t rows, std::size_t columns);

}  // namespace grafema::detail
