// SPDX-License-Identifier: MIT
// Whether a face can write a script, which takes more than having its letters.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema {

/// What a script may ask of a face besides letters (OpenType, "Script-specific development").
enum class ScriptNeed : std::uint8_t {
  rules,      ///< rules of GSUB for the script: without them vowels stand where they were typed
  joins,      ///< forms of letters that join: initial, medial, final
  conjuncts,  ///< forms of consonants without their vowel
  marks,      ///< places for marks
};

struct CheckedScript {
  Tag script{};                ///< as `script_of` has it
  std::string name = {};       ///< "Devanagari", or the name of the language that was asked for
  std::size_t characters = 0;  ///< of the script, among those asked for
  std::size_t supplied = 0;    ///< of these, that the face has
  std::vector<ScriptNeed> met = {}, unmet = {};

  bool operator==(const CheckedScript&) const = default;
  /// Whether text of the script looks as its readers expect.
  bool shapes() const { return supplied == characters && unmet.empty(); }
};

/// The scripts of the characters, in the order in which they come; characters of no script are passed over.
/// `language` (BCP 47) names the first script's language in words; empty: scripts are named.
GRAFEMA_API std::vector<CheckedScript> check_scripts(const Face& face, std::span<const char32_t> characters,
                                                     std::string_view language = {});
/// The scripts of all the face's characters.
GRAFEMA_API std::vector<CheckedScript> check_scripts(const Face& face);

/// One sentence: "has the letters of Hindi, but can't join them: it has no rules for the script".
GRAFEMA_API std::string describe(const CheckedScript& checked);

}  // namespace grafema
