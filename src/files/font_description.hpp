// SPDX-License-Identifier: MIT
// What descriptions of drawn characters have in common, for grids of pixels and for shapes.
#pragma once

#include "files/json.hpp"
#include "grafema/write/font_rules.hpp"

namespace grafema::detail {

/// The format's name.
inline constexpr const char* kFontSheetFormat = "grafema-font-sheet";

/// Fields that both kinds may have.
inline constexpr std::string_view kCommonFields[] = {
    "$schema",    "format",  "version",        "names",     "weight",
    "permission", "kerning", "kerning_groups", "ligatures", "name_ligatures",
    "alternates", "tabular", "compose",        "space",     "side_bearing"};

/// Checks format and version, and notes fields that neither `own` nor `kCommonFields` knows.
void check_description(const Json& document, std::span<const std::string_view> own, Fields& fields,
                       Notes* notes);
FaceNames read_font_names(Fields& fields, const Json& document, Notes* notes);
/// `"AV": -4`.
std::vector<DrawnPair> read_pairs(Fields& fields);
FontRules read_font_rules(Fields& fields);

/// The characters of a text.
std::u32string to_characters(std::string_view text);

}  // namespace grafema::detail
