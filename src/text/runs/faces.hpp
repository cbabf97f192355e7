// SPDX-License-Identifier: MIT
// Which face shows which grapheme cluster.
#pragma once

#include <string_view>

#include "grafema/base/notes.hpp"
#include "grafema/font/font_stack.hpp"

namespace grafema::detail {

/// The first face that has all characters of the cluster, composed or taken apart; else the first that has
/// its first character; else face 0. A cluster that shows nothing stays with `current`.
std::size_t choose_face(const FontStack& stack, std::u32string_view cluster, std::size_t current);

/// Whether the face can show the character, which stands in the cluster at `index`.
bool shows(const GlyphMetrics& face, std::u32string_view cluster, std::size_t index);

bool is_letter(char32_t character);
/// Whether it is a space within a line.
bool is_space(char32_t character);

}  // namespace grafema::detail
