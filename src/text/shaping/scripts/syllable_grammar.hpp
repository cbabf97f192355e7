// SPDX-License-Identifier: MIT
// Grammars of syllables: patterns over classes of characters, matched from left to right as far as they go.
#pragma once

#include <cstdint>
#include <initializer_list>
#include <span>
#include <string>
#include <vector>

namespace grafema::detail {

/// A stretch of characters that a pattern matched.
struct Syllable {
  static constexpr std::uint8_t kNoKind = 15;
  std::size_t length = 1;
  std::uint8_t kind = kNoKind;  ///< index of the pattern; kNoKind: none matched, and one character is passed
};

/// Patterns as the specifications of scripts write them: a letter stands for a class of characters, and there
/// are ( ) | ? * +. Made into one table, so that a character costs one look whatever the patterns are.
class SyllableGrammar {
 public:
  /// The longest match counts, of equally long ones the first pattern's. Blanks mean nothing.
  SyllableGrammar(std::initializer_list<std::string> patterns);

  /// What stands at the beginning of `classes`, which is not empty.
  Syllable find(std::span<const std::uint8_t> classes) const;

 private:
  static constexpr std::size_t kLetters = 128;
  static constexpr std::uint16_t kNowhere = 0xFFFF;
  std::vector<std::uint16_t> next_;    ///< by state and letter
  std::vector<std::uint8_t> accepts_;  ///< by state: the pattern that ends there, or kNoKind
};

/// The pattern up to so many times.
std::string up_to(int times, const std::string& pattern);

}  // namespace grafema::detail
