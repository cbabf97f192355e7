// SPDX-License-Identifier: MIT
// Packs OpenType files as web fonts, for tests that unpack them.
#pragma once

#include <cstddef>
#include <vector>

namespace grafema::test {

std::vector<std::byte> to_woff(const std::vector<std::byte>& font);

/// With or without the transforms of glyf, loca and hmtx. A collection where there are several fonts, which
/// share nothing.
std::vector<std::byte> to_woff2(const std::vector<std::vector<std::byte>>& fonts, bool transformed);

}  // namespace grafema::test
