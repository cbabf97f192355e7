// SPDX-License-Identifier: MIT
// Names of pages that stay until the descriptor of a new atlas has taken its place.
#pragma once

#include <string>
#include <string_view>

namespace grafema::detail {

/// Sixteen digits of hexadecimal numbers, as descriptors have them.
inline bool is_page_hash(std::string_view text) {
  return text.size() == 16 && text.find_first_not_of("0123456789abcdef") == std::string_view::npos;
}

inline std::string kept_page(const std::string& page, const std::string& hash) { return page + "." + hash; }

}  // namespace grafema::detail
