// SPDX-License-Identifier: MIT
// Scripts with a face of each, and texts of their letters, marks and joiners made at random.
#pragma once

#include <random>
#include <span>
#include <string>

#include "support/support.hpp"

namespace grafema::test {

struct ScriptFace {
  const char* name;
  const char* path;         ///< of a Debian package that `./run test` installs
  char32_t first, last;     ///< its block
  char32_t virama, letter;  ///< a letter of the script, and what joins it to the next; 0: nothing does
};
std::span<const ScriptFace> script_faces();
/// The one with this name.
const ScriptFace& script_face(const std::string& name);

std::shared_ptr<const Face> face_at(const std::string& path);
std::shared_ptr<const Face> face_of(const ScriptFace& script);
/// A font's bytes, and its face, with one table left out.
std::vector<std::byte> bytes_without(const std::string& path, const std::string& table);
std::shared_ptr<const Face> face_without(const std::string& path, const std::string& table);

/// A few syllables, good and broken ones, of characters that the face has, with joiners, spaces and letters
/// of other scripts between them. UTF-8.
std::string random_syllables(const ScriptFace& script, const Face& face, std::mt19937& random);

std::string utf8(std::u32string_view characters);

}  // namespace grafema::test
