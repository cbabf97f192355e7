// SPDX-License-Identifier: MIT
// What a face says of itself: names, metrics, permissions.
#pragma once

#include <cstdint>
#include <string>
#include <vector>

namespace grafema {

/// Texts of the `name` table as UTF-8; empty where the face has none.
struct FaceNames {
  std::string family = {}, style = {}, full_name = {}, version = {}, copyright = {}, license = {},
              license_url = {}, postscript_name = {}, trademark = {}, manufacturer = {}, designer = {},
              description = {}, sample = {};
  std::string design_languages = {}, supported_languages = {};  ///< BCP 47 tags of `meta`, with commas
};

/// What the license bits of `OS/2.fsType` allow (OpenType, OS/2, fsType).
enum class Embedding : std::uint8_t { installable, editable, preview, restricted };

/// `strikes`: pictures of pixels in EBDT alone, whose edges are the outlines.
enum class OutlineKind : std::uint8_t { none, glyf, cff, cff2, strikes };
enum class KerningSource : std::uint8_t { none, kern, gpos };

/// Facts of the whole face. Lengths are font units.
struct FaceFacts {
  std::uint32_t glyph_count = 0;
  std::uint16_t weight_class = 400;  ///< 1..1000, 400 is regular
  std::uint16_t width_class = 5;     ///< 1..9, 5 is normal
  bool italic = false, monospaced = false;
  float cap_height = 0, x_height = 0;  ///< from OS/2, else measured from H and x; 0 where there are neither
  float underline_position = 0, underline_thickness = 0;  ///< `post`; position is the stroke's top, y up
  float strikeout_position = 0, strikeout_thickness = 0;  ///< OS/2; the same
  float slant =
      0;  ///< by how many degrees upright strokes lean to the right: `post.italicAngle` with its sign turned
  /// Pixels per em at which every edge of a pixel face falls on a pixel edge, as do its multiples; 0: not a
  /// pixel face.
  float crisp_size = 0;
  std::vector<std::uint16_t> strikes = {};  ///< pixels per em of pictures in EBDT, ascending, where there are
                                            ///< no outlines; the face is crisp at these and their multiples
  OutlineKind outlines = OutlineKind::none;
  Embedding embedding = Embedding::installable;
  bool bitmap_only = false, subsetting = true;
};

}  // namespace grafema
