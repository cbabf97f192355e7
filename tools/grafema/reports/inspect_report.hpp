// SPDX-License-Identifier: MIT
// What inspect prints for people.
#pragma once

#include "common.hpp"
#include "grafema/files/font_sources.hpp"

namespace grafema::tool {

/// All of one face.
void print_face(const Face& face, const FoundFont& font, std::size_t index, std::size_t count,
                const FontSource& source);

/// The faces of a folder, an archive or `families`, one line each, and what their licenses say.
void print_overview(const FontSource& source, const FamilySet* families = nullptr);

}  // namespace grafema::tool
