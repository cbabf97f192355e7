// SPDX-License-Identifier: MIT
// The documents that `measure`, `inspect` and `missing` print with --json (docs/formats/reports.md).
#pragma once

#include <map>
#include <span>
#include <string>
#include <vector>

#include "grafema/files/font_sources.hpp"
#include "grafema/text/character_check.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/text/script_check.hpp"

namespace grafema::tool {

std::string measure_json(const FontStack& stack, std::string_view text, const Paragraph& paragraph,
                         const Notes& notes);

/// The document of one font file; `source` has the texts found beside it.
Result<std::string> inspect_json(const FontData& data, std::string_view file, const FontSource& source);

struct MissingReportFace {
  std::string name, file;
};

/// A script as one of the faces writes it.
struct FaceScript {
  std::size_t face = 0;
  CheckedScript checked;
};

/// `wanted` tells which files ask for a character.
std::string missing_json(std::span<const MissingReportFace> faces, std::span<const CheckedCharacter> checked,
                         std::span<const CheckedCluster> clusters, std::span<const FaceScript> scripts,
                         const std::map<char32_t, std::vector<std::string>>& wanted);

}  // namespace grafema::tool
