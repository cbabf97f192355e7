// SPDX-License-Identifier: MIT
// The document that `grafema missing --json` prints.
#pragma once

#include <map>
#include <span>
#include <string>
#include <vector>

#include "grafema/character_check.hpp"

namespace grafema {

struct MissingReportFace {
  std::string name, file;
};

/// `wanted` tells which files ask for a character.
GRAFEMA_API std::string missing_json(std::span<const MissingReportFace> faces, std::span<const CheckedCharacter> checked,
                                     const std::map<char32_t, std::vector<std::string>>& wanted);

}  // namespace grafema
