// SPDX-License-Identifier: MIT
// Markup: well-formed XML with HTML's names becomes text with spans, icons and pauses.
#pragma once

#include <string_view>

#include "grafema/text/style_book.hpp"

namespace grafema {

/// Reads markup (docs/formats/markup.md): XML without a root, a declaration or a DOCTYPE. Fails with
/// `damaged` where it is not well-formed, or has an element or attribute that is not known; the error's
/// offset is the byte, and what was found tells line and column.
GRAFEMA_API Result<RichText> read_markup(std::string_view text, const MarkupNames& names = {},
                                         Notes* notes = nullptr);

/// The same for a game: markup that can't be read shows as its plain text, and a note says why.
GRAFEMA_API RichText markup_or_plain(std::string_view text, const MarkupNames& names = {},
                                     Notes* notes = nullptr);

/// The text with everything between angle brackets left out and entities put in.
GRAFEMA_API std::string strip_markup(std::string_view text);

/// Writes text so that markup reads it back as it is.
GRAFEMA_API std::string escape_markup(std::string_view text);

}  // namespace grafema
