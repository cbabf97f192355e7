// SPDX-License-Identifier: MIT
// Texts beside fonts that say what may be done with them.
#pragma once

#include <string>

#include "grafema/files/font_sources.hpp"

namespace grafema::detail {

/// The most bytes of a license file, and of another text; how many other texts of one source are read.
constexpr std::size_t kMaxLicenseBytes = std::size_t{1} << 20U, kMaxNoteBytes = std::size_t{64} << 10U,
                      kMaxNotes = 64;

/// The text in small ASCII letters.
std::string small_letters(std::string text);

/// What the name of a file says of a text beside fonts: a license, or a note in which makers of faces may
/// write what is permitted.
enum class TextKind : std::uint8_t { none, license, note };
TextKind kind_of_text(const std::string& file_name);

/// Adds a text to `out`: a note only if it tells terms.
void add_text(TextKind kind, const std::string& file_name, std::string text, FontSource& out);

}  // namespace grafema::detail
