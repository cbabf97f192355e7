// SPDX-License-Identifier: MIT
// Grammars of syllables against a general matcher of patterns, on words made at random.
#include "text/shaping/scripts/syllable_grammar.hpp"

#include <catch2/catch.hpp>
#include <random>
#include <regex>

using namespace grafema;
using detail::Syllable;
using detail::SyllableGrammar;

namespace {

Syllable find(const SyllableGrammar& grammar, const std::string& word) {
  const std::vector<std::uint8_t> classes(word.begin(), word.end());
  return grammar.find(classes);
}

}  // namespace

TEST_CASE("the longest match counts, and of equal ones the first pattern's", "[grammar]") {
  const SyllableGrammar grammar{"ab*", "(a|c)b?d", "ab"};
  CHECK(find(grammar, "abbd").length == 3);
  CHECK(find(grammar, "abbd").kind == 0);
  CHECK(find(grammar, "abd").length == 3);
  CHECK(find(grammar, "abd").kind == 1);
  CHECK(find(grammar, "ab").kind == 0);
  CHECK(find(grammar, "xab").length == 1);
  CHECK(find(grammar, "xab").kind == Syllable::kNoKind);
}

TEST_CASE("a grammar matches as far as a general matcher does", "[grammar]") {
  const std::vector<std::string> patterns = {"(a|b)c?(d(a|b)c?)*(e|d)?", "(ac)+b*(d|e)*",
                                             detail::up_to(3, "ab?") + "e", "c(d|e(a|b))*"};
  const SyllableGrammar grammar{patterns[0], patterns[1], patterns[2], patterns[3]};
  std::vector<std::regex> judges;
  for (const std::string& pattern : patterns) judges.emplace_back(pattern);
  std::mt19937 random(1907);
  for (int round = 0; round < 4000; ++round) {
    std::string word;
    for (std::size_t n = 1 + random() % 9; n > 0; --n) word += static_cast<char>('a' + random() % 5);
    Syllable expected;
    bool found = false;
    for (std::size_t length = word.size(); length > 0 && !found; --length) {
      for (std::size_t k = 0; k < judges.size() && !found; ++k) {
        if (!std::regex_match(word.substr(0, length), judges[k])) continue;
        expected = {length, static_cast<std::uint8_t>(k)};
        found = true;
      }
    }
    INFO(word);
    const Syllable got = find(grammar, word);
    REQUIRE(got.length == expected.length);
    REQUIRE(got.kind == expected.kind);
  }
}
