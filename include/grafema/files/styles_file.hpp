// SPDX-License-Identifier: MIT
// Style files: named styles that labels and spans share.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "grafema/files/files.hpp"
#include "grafema/text/style_book.hpp"

namespace grafema {

/// Reads all styles of a file (docs/formats/styles.md); what they are based on is already put in. Fields that
/// are not known are noted. Fails with `damaged` and the name of the style.
GRAFEMA_API Result<std::vector<NamedStyle>> read_styles(std::string_view text, Notes* notes = nullptr);
GRAFEMA_API FileResult<std::vector<NamedStyle>> load_styles(const std::string& path, Notes* notes = nullptr);
/// Loads all styles of a file into a book, which shows those that changed at once. Nothing is set where the
/// file can't be read.
GRAFEMA_API FileResult<void> load_styles(const std::string& path, StyleBook& book, Notes* notes = nullptr);
/// Loads one style, named as `FILE#NAME`; the name may be left out where the file has one style. Fails with
/// `bad_value` and the nearest name.
GRAFEMA_API FileResult<NamedStyle> load_style(const std::string& path_and_name, Notes* notes = nullptr);

}  // namespace grafema
