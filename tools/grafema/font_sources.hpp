// SPDX-License-Identifier: MIT
// Where FONT leads: a font file, a folder, a zip archive or a family file, and licenses beside it.
#pragma once

#include <string>
#include <vector>

#include "grafema/files/family_file.hpp"

namespace grafema::tool {

/// A font file that was found.
struct FoundFont {
  std::string path;  ///< of the file; ARCHIVE/NAME inside an archive
  FontData data;     ///< as it stands in the file; web fonts still packed
};

struct LicenseText {
  std::string name;  ///< of the file, without folders
  std::string text;  ///< empty where it is not plain text
};

struct FontSource {
  std::vector<FoundFont> fonts;  ///< sorted by path
  std::vector<LicenseText>
      licenses;  ///< license files, and other texts that say what may be done with the faces
  std::vector<std::string> unread;  ///< names of texts that were not read: too large, too many or not UTF-8
  bool several = false;             ///< a folder or an archive
};

/// Opens a font file, a folder (and those in it) or an archive. Files that are no fonts are passed over in
/// the latter two; damaged ones too, named in `damaged`. Throws Failure where nothing can be read.
FontSource open_source(const std::string& path, std::vector<std::string>* damaged = nullptr);

/// Whether the path names a family file, perhaps with #STYLE behind it.
bool is_family_file(const std::string& path);

std::vector<std::string> texts_of(const std::vector<LicenseText>& licenses);

}  // namespace grafema::tool
