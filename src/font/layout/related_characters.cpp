// SPDX-License-Identifier: MIT
// Characters that shaping looks for where a text has others (Unicode Standard, 3.11 and 3.12; UAX #9, L4).
#include "font/layout/related_characters.hpp"

#include <algorithm>
#include <set>

#include "unicode/compositions.hpp"
#include "unicode/thai_forms.hpp"

namespace grafema::detail {
namespace {

constexpr char32_t kSyllables = 0xAC00, kLeads = 0x1100, kVowels = 0x1161, kTails = 0x11A7;
constexpr char32_t kLeadCount = 19, kVowelCount = 21, kTailCount = 28;

bool is_between(char32_t c, char32_t first, char32_t count) { return c >= first && c < first + count; }

/// Hangul letters that join into syllables, old ones too.
bool is_conjoining(char32_t c) {
  return is_between(c, kLeads, 0x100) || is_between(c, 0xA960, 0x20) || is_between(c, 0xD7B0, 0x50);
}

class Relatives {
 public:
  Relatives(const Face& face, const std::vector<char32_t>& characters) : face_(face), given_(characters) {}

  std::vector<char32_t> find() {
    add_pieces();
    marks_ = std::any_of(given_.begin(), given_.end(), is_mark);
    for (std::size_t before = added_.size() + 1; before != added_.size();) {
      before = added_.size();
      add_compositions();
      add_syllables();
      marks_ = marks_ || std::any_of(added_.begin(), added_.end(), is_mark);
    }
    if (marks_) add(0x25CC);  // the circle under marks that have no letter
    add_mirror_images();
    return all();
  }

 private:
  bool has(char32_t c) const {
    return std::binary_search(given_.begin(), given_.end(), c) || added_.count(c) != 0;
  }
  std::vector<char32_t> all() const {
    std::vector<char32_t> out = given_;
    out.insert(out.end(), added_.begin(), added_.end());
    std::sort(out.begin(), out.end());
    return out;
  }
  bool shows(char32_t c) const { return face_.find_glyph(c) != kMissingGlyph; }
  void insert(char32_t c) {
    if (!has(c)) added_.insert(c);
  }
  void add(char32_t c) {
    if (shows(c)) insert(c);
  }

  /// What shaping asks for by itself: hyphens, the space that others are measured by, the parts of SARA AM.
  void add_pieces() {
    if (has(0xAD) || has(0x2010) || has(0x2011)) add(0x2010), add(U'-');
    if (has(0xA0) || has(0x202F) || has(0x205F) || has(0x3000) || has(U'\t') ||
        std::any_of(given_.begin(), given_.end(), [](char32_t c) { return c >= 0x2000 && c <= 0x200A; })) {
      add(U' ');
    }
    if (has(0x2007)) add(U'0');
    if (has(0x2008)) add(U'.');
    for (const char32_t sara_am : {char32_t{0xE33}, char32_t{0xEB3}}) {
      if (has(sara_am)) add(sara_am - 1), add(sara_am + 0x1A);
    }
    for (const ThaiForm& form : kThaiForms) {
      if (has(form.character)) add(form.form);
    }
    // Khmer vowels that have a half on the left of their letter.
    for (const char32_t vowel : {0x17BE, 0x17BF, 0x17C0, 0x17C4, 0x17C5}) {
      if (has(vowel)) add(0x17C1);
    }
  }

  void add_compositions() {
    // Letters come apart before a mark, and where the face lacks the whole; marks join what stands before.
    for (const Composition& c : compositions()) {
      if (has(c.whole) && (marks_ || !shows(c.whole))) {
        insert(c.first);
        if (c.second != 0) insert(c.second);
      }
      if (has(c.first) && c.second != 0 && has(c.second)) add(c.whole);
    }
  }

  void add_syllables() {
    std::vector<char32_t> leads, vowels, tails, open, found;
    // Syllables come apart before marks and old letters.
    const bool apart = marks_ || std::any_of(given_.begin(), given_.end(), is_conjoining);
    for (const char32_t c : all()) {
      if (is_between(c, kLeads, kLeadCount)) leads.push_back(c - kLeads);
      if (is_between(c, kVowels, kVowelCount)) vowels.push_back(c - kVowels);
      if (is_between(c, kTails + 1, kTailCount - 1)) tails.push_back(c - kTails);
      if (!is_between(c, kSyllables, kLeadCount * kVowelCount * kTailCount)) continue;
      const char32_t index = c - kSyllables, tail = index % kTailCount;
      if (tail == 0) open.push_back(c);
      if (!apart && shows(c)) continue;
      found.push_back(kLeads + index / (kVowelCount * kTailCount));
      found.push_back(kVowels + index / kTailCount % kVowelCount);
      if (tail != 0) found.push_back(kTails + tail);
    }
    for (const char32_t lead : leads) {
      for (const char32_t vowel : vowels) {
        found.push_back(kSyllables + (lead * kVowelCount + vowel) * kTailCount);
      }
    }
    for (const char32_t syllable : open) {
      for (const char32_t tail : tails) found.push_back(syllable + tail);
    }
    for (const char32_t c : found) add(c);
  }

  /// Any text may run from right to left.
  void add_mirror_images() {
    for (const char32_t c : all()) add(mirror_image(c));
  }

  const Face& face_;
  const std::vector<char32_t>& given_;  ///< ascending, each once
  std::set<char32_t> added_;
  bool marks_ = false;  ///< whether there is any combining mark
};

}  // namespace

std::vector<char32_t> related_characters(const Face& face, const std::vector<char32_t>& characters) {
  return Relatives(face, characters).find();
}

}  // namespace grafema::detail
