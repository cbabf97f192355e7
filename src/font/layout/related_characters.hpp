// SPDX-License-Identifier: MIT
// What else a face must hold so that text of some characters looks as with all of it.
#pragma once

#include <vector>

#include "grafema/font/face.hpp"

namespace grafema::detail {

/// `characters` (ascending, each once) and those that shaping looks for in their place: compositions, what
/// they come apart into, mirror images, hyphens, the circle under marks. Ascending, each once.
GRAFEMA_API std::vector<char32_t> related_characters(const Face& face,
                                                     const std::vector<char32_t>& characters);

}  // namespace grafema::detail
