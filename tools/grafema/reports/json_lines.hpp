// SPDX-License-Identifier: MIT
// How reports are written as JSON: shortest numbers, a line for each element.
#pragma once

#include <fmt/format.h>

#include <cmath>
#include <cstdlib>
#include <nlohmann/json.hpp>
#include <string>

namespace grafema::tool {

using Json = nlohmann::ordered_json;

/// A float as the shortest decimal number that reads back to it.
inline Json number(float value) {
  if (!std::isfinite(value)) return nullptr;
  return std::strtod(fmt::format("{}", value).c_str(), nullptr);
}

/// One line for each top-level field and for each element of the document's top-level lists.
inline std::string to_lines(const Json& document) {
  const auto dump = [](const Json& value) {
    return value.dump(-1, ' ', false, Json::error_handler_t::replace);
  };
  std::string out;
  for (const auto& [key, value] : document.items()) {
    out += fmt::format("{}\n \"{}\": ", out.empty() ? "{" : ",", key);
    if (!value.is_array() || value.empty() || !value.front().is_structured()) {
      out += dump(value);
      continue;
    }
    for (std::size_t i = 0; i < value.size(); ++i) {
      out += fmt::format("{}\n  {}", i == 0 ? "[" : ",", dump(value[i]));
    }
    out += "]";
  }
  return out + "\n}\n";
}

}  // namespace grafema::tool
