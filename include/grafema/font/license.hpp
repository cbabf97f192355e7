// SPDX-License-Identifier: MIT
// What a game may do with a face, as far as its permission bits and license text tell.
#pragma once

#include <string>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema {

/// What the bits and texts say of one use. `unsaid` is not a yes.
enum class Allowed : std::uint8_t { yes, with_conditions, no, unsaid };

/// Reading of a license by a machine: a help to see trouble early, not legal advice.
struct LicenseReading {
  std::string known_as = {};  ///< such as "SIL Open Font License 1.1"; empty where the text is not known
  Allowed ship_file = Allowed::unsaid;      ///< the font file inside the game
  Allowed ship_pictures = Allowed::unsaid;  ///< an atlas: pictures of glyphs
  Allowed subset = Allowed::unsaid;         ///< a file with fewer characters
  Allowed sell = Allowed::unsaid;           ///< a game that costs money
  bool credit_needed = false;               ///< the copyright notice or a credit must come along
  bool license_needed = false;              ///< the license text must come along
  std::vector<std::string> sentences =
      {};  ///< for a person: what is forbidden or demanded, and where that is said
};

/// Reads the permission bits, the `name` texts and `texts`, the license files found beside the font.
GRAFEMA_API LicenseReading read_license(const FaceNames& names, const FaceFacts& facts,
                                        std::span<const std::string> texts = {});

GRAFEMA_API const char* to_words(Allowed allowed);

}  // namespace grafema
