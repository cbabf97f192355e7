// SPDX-License-Identifier: MIT
// Runs the grafema command in tests.
#pragma once

#include <nlohmann/json.hpp>

#include "support/support.hpp"

namespace grafema::test {

inline Ran grafema_command(const std::string& arguments) {
  return run(std::string(GRAFEMA_TOOL) + " " + arguments);
}

/// The JSON document that a command prints; the command must end with 0.
inline nlohmann::json json_of(const std::string& arguments) {
  const Ran ran = grafema_command(arguments);
  INFO(arguments << "\n" << ran.err);
  REQUIRE(ran.exit == 0);
  return nlohmann::json::parse(ran.out);
}

}  // namespace grafema::test
