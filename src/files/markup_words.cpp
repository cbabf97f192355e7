// SPDX-License-Identifier: MIT
// The words of a markup without its elements, and words as markup.
#include <algorithm>
#include <iterator>

#include "grafema/files/markup.hpp"

namespace grafema {

std::string strip_markup(std::string_view text) {
  std::string out;
  for (std::size_t i = 0; i < text.size();) {
    if (text[i] == '<') {
      const std::size_t end = text.find('>', i);
      if (end != std::string_view::npos) {
        if (text.compare(i, 3, "<br") == 0) out += '\n';
        i = end + 1;
        continue;
      }
    }
    constexpr std::pair<std::string_view, char> kNamed[] = {
        {"&amp;", '&'}, {"&lt;", '<'}, {"&gt;", '>'}, {"&quot;", '"'}, {"&apos;", '\''}};
    const auto named = std::find_if(std::begin(kNamed), std::end(kNamed), [&](const auto& n) {
      return text.compare(i, n.first.size(), n.first) == 0;
    });
    if (named != std::end(kNamed)) {
      out += named->second;
      i += named->first.size();
    } else {
      out += text[i++];
    }
  }
  return out;
}

std::string escape_markup(std::string_view text) {
  std::string out;
  for (const char c : text) {
    switch (c) {
      case '&':
        out += "&amp;";
        break;
      case '<':
        out += "&lt;";
        break;
      case '>':
        out += "&gt;";
        break;
      default:
        out += c;
    }
  }
  return out;
}

}  // namespace grafema
