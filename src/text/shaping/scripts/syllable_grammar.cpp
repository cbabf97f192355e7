// SPDX-License-Identifier: MIT
// Makes one table of states from the patterns of a grammar, and walks it.
#include "text/shaping/scripts/syllable_grammar.hpp"

#include <algorithm>
#include <map>
#include <set>

namespace grafema::detail {
namespace {

/// A place in a pattern: from it a letter leads on, or nothing is needed to get to others.
struct PatternPlace {
  char letter = 0;  ///< 0: none
  int next = -1;    ///< behind the letter
  std::vector<int> free;
};

/// A part of a pattern: where it begins and where it has been matched.
struct Part {
  int first = 0, last = 0;
};

class PatternReader {
 public:
  PatternReader(std::vector<PatternPlace>& places, const std::string& pattern)
      : places_(places), pattern_(pattern) {}

  Part read() {
    Part all = read_sequence();
    while (peek() == '|') {
      ++at_;
      const Part other = read_sequence();
      const Part both{add(), add()};
      link(both.first, all.first), link(both.first, other.first);
      link(all.last, both.last), link(other.last, both.last);
      all = both;
    }
    return all;
  }

 private:
  char peek() {
    while (at_ < pattern_.size() && pattern_[at_] == ' ') ++at_;
    return at_ < pattern_.size() ? pattern_[at_] : '\0';
  }
  int add() {
    places_.emplace_back();
    return static_cast<int>(places_.size()) - 1;
  }
  void link(int from, int to) { places_[static_cast<std::size_t>(from)].free.push_back(to); }

  Part read_sequence() {
    Part all;
    all.first = all.last = add();
    for (char c = peek(); c != '\0' && c != '|' && c != ')'; c = peek()) {
      const Part one = read_repeated();
      link(all.last, one.first);
      all.last = one.last;
    }
    return all;
  }

  Part read_repeated() {
    Part one;
    if (peek() == '(') {
      ++at_;
      one = read();
      if (peek() == ')') ++at_;
    } else {
      one = {add(), add()};
      places_[static_cast<std::size_t>(one.first)].letter = pattern_[at_++];
      places_[static_cast<std::size_t>(one.first)].next = one.last;
    }
    const char how = peek();
    if (how != '?' && how != '*' && how != '+') return one;
    ++at_;
    const Part around{add(), add()};
    link(around.first, one.first), link(one.last, around.last);
    if (how != '?') link(one.last, one.first);
    if (how != '+') link(around.first, around.last);
    return around;
  }

  std::vector<PatternPlace>& places_;
  const std::string& pattern_;
  std::size_t at_ = 0;
};

/// The places that need nothing more to be reached from those in `set`.
std::vector<int> closed(const std::vector<PatternPlace>& places, std::vector<int> set) {
  for (std::size_t i = 0; i < set.size(); ++i) {
    for (const int next : places[static_cast<std::size_t>(set[i])].free) {
      if (std::find(set.begin(), set.end(), next) == set.end()) set.push_back(next);
    }
  }
  std::sort(set.begin(), set.end());
  return set;
}

}  // namespace

SyllableGrammar::SyllableGrammar(std::initializer_list<std::string> patterns) {
  std::vector<PatternPlace> places;
  std::vector<int> begin, ends;
  for (const std::string& pattern : patterns) {
    const Part part = PatternReader(places, pattern).read();
    begin.push_back(part.first);
    ends.push_back(part.last);
  }
  std::map<std::vector<int>, std::uint16_t> states;
  std::vector<std::vector<int>> sets;
  const auto state_of = [&](const std::vector<int>& from) {
    const std::vector<int> set = closed(places, from);
    const auto [found, fresh] = states.try_emplace(set, static_cast<std::uint16_t>(sets.size()));
    if (fresh) sets.push_back(set);
    return found->second;
  };
  state_of(begin);
  std::set<char> letters;
  for (const PatternPlace& place : places) {
    if (place.letter != 0) letters.insert(place.letter);
  }
  for (std::size_t s = 0; s < sets.size(); ++s) {
    const std::vector<int> set = sets[s];
    const auto done = std::find_if(ends.begin(), ends.end(),
                                   [&](int end) { return std::binary_search(set.begin(), set.end(), end); });
    accepts_.push_back(done == ends.end() ? Syllable::kNoKind
                                          : static_cast<std::uint8_t>(done - ends.begin()));
    next_.resize(next_.size() + kLetters, kNowhere);
    for (const char letter : letters) {
      std::vector<int> reached;
      for (const int at : set) {
        const PatternPlace& place = places[static_cast<std::size_t>(at)];
        if (place.letter == letter) reached.push_back(place.next);
      }
      if (!reached.empty()) next_[s * kLetters + static_cast<std::size_t>(letter)] = state_of(reached);
    }
  }
}

Syllable SyllableGrammar::find(std::span<const std::uint8_t> classes) const {
  Syllable found;
  std::uint16_t state = 0;
  for (std::size_t i = 0; i < classes.size(); ++i) {
    state = next_[state * kLetters + classes[i] % kLetters];
    if (state == kNowhere) break;
    if (accepts_[state] != Syllable::kNoKind) found = {i + 1, accepts_[state]};
  }
  return found;
}

std::string up_to(int times, const std::string& pattern) {
  std::string out;
  for (int i = 0; i < times; ++i) out = '(' + pattern + out + ")?";
  return out;
}

}  // namespace grafema::detail
