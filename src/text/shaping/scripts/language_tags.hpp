// SPDX-License-Identifier: MIT
// OpenType's tags for languages (OpenType, "Language system tags").
#pragma once

#include <string_view>
#include <vector>

#include "grafema/base/tag.hpp"

namespace grafema::detail {

/// The tags under which a face may hold a language, given as BCP 47, the best first; none for an empty or
/// broken tag.
std::vector<Tag> language_tags(std::string_view bcp47);

}  // namespace grafema::detail
