// SPDX-License-Identifier: MIT
// Finds fonts: in files, folders, zip archives and family files, and among the faces that are installed.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "grafema/files/family_file.hpp"

namespace grafema {

/// A font file that was found.
struct FoundFont {
  std::string path = {};  ///< the file; ARCHIVE/NAME inside an archive
  FontData data = {};     ///< the bytes of the file as they are; web fonts are still packed
};

/// A text file beside fonts that says what may be done with them.
struct LicenseText {
  std::string name = {};  ///< the file's name without folders
  std::string text = {};  ///< empty where the file is not plain text in UTF-8, such as a PDF
};

/// The font files that one path leads to, and the texts beside them.
struct FontSource {
  std::vector<FoundFont> fonts = {};  ///< sorted by path
  std::vector<LicenseText> licenses =
      {};  ///< license files, and other texts that say what may be done with the faces
  std::vector<std::string> texts_read =
      {};  ///< names of other texts that were read and say nothing about that
  std::vector<std::string> texts_unread =
      {};  ///< names of texts that were not read: too large, too many or not UTF-8
  std::vector<FileError> passed_over = {};  ///< fonts of a folder or archive that could not be read
  bool several = false;                     ///< the path is a folder, an archive or a family file
};

/// Finds the fonts of a font file, a folder (with the folders in it, eight deep), a zip archive or a family
/// file, or of the installed family of that name, and reads the license texts beside them. Other files in
/// folders and archives are passed over, as are fonts that can't be read. What an archive unfolds into is
/// bounded: 20,000 files, 256 MB a file, 1 GB in all. Fails with `file_unreadable`, or with `not_a_font`
/// where no font is found.
GRAFEMA_API FileResult<FontSource> find_fonts(const std::string& path);

/// The texts of the license files, for `read_license`; files that are not plain text are left out.
GRAFEMA_API std::vector<std::string> texts_of(std::span<const LicenseText> licenses);

/// A face that stands in one of the folders where systems keep fonts.
struct InstalledFace {
  std::string family = {};  ///< the family's name, such as "DejaVu Sans"
  std::string style = {};   ///< the style's name, such as "Bold Oblique"
  std::string path = {};    ///< the font file that holds the face
  std::size_t index = 0;    ///< the face of a collection, from 0
};

/// The folders where this system keeps fonts: `fonts` in the folders of XDG_DATA_HOME and XDG_DATA_DIRS (XDG
/// Base Directory Specification) and ~/.fonts; on macOS and Windows the folders of the user and the system.
/// Folders that are not there are left out.
GRAFEMA_API std::vector<std::string> font_folders();

/// The faces in `folders`, sorted by family and style. Fonts that can't be read are left out.
GRAFEMA_API std::vector<InstalledFace> list_faces(std::span<const std::string> folders);
/// The faces that are installed, found in `font_folders`.
GRAFEMA_API std::vector<InstalledFace> installed_faces();

/// Which face of a font file `load_fonts` takes.
struct FaceChoice {
  std::size_t index = 0;              ///< the face of a collection, from 0
  std::vector<AxisValue> place = {};  ///< where variable faces stand on their axes
};

/// Loads the fonts that a name leads to: a font file, a folder, a zip archive, a family file, or the name of
/// an installed family. A path wins over a name. `#STYLE` behind any of them takes that style, such as
/// `pack.zip#Bold` or `DejaVu Sans#Oblique`. `built-in:dot` and `built-in:sans` are the faces of the library.
/// `choice` is for font files, folders, archives and installed faces. Fails as `find_fonts`, `load_families`
/// and `Face::open` do, and with `bad_value` and the nearest style where the first family lacks it, or the
/// nearest family where no such file or family is there.
GRAFEMA_API FileResult<FamilySet> load_fonts(const std::string& name, Notes* notes = nullptr,
                                             const FaceChoice& choice = {});

}  // namespace grafema
