// SPDX-License-Identifier: MIT
// Thai and Lao: SARA AM is a ring over the letter, under its tone marks, and a vowel behind it.
#include <algorithm>
#include <iterator>

#include "text/shaping/scripts/script_rules.hpp"
#include "unicode/thai_forms.hpp"

namespace grafema::detail {
namespace {

bool is_sara_am(char32_t c) { return c == 0x0E33 || c == 0x0EB3; }
char32_t ring_of(char32_t c) { return c == 0x0E33 ? 0x0E4D : 0x0ECD; }
char32_t sara_aa_of(char32_t c) { return c - 1; }
/// Marks above the letter, which the ring stands under.
bool is_above(char32_t c) {
  const char32_t thai = c >= 0x0E80 ? c - 0x80 : c;
  return thai == 0x0E31 || (thai >= 0x0E34 && thai <= 0x0E37) || (thai >= 0x0E47 && thai <= 0x0E4E) ||
         thai == 0x0E3B;
}

/// How far a letter and its marks reach, by which marks give way (WTT 2.0, levels of Thai writing).
enum class Above : std::uint8_t { free, stem, stem_and_mark, taken };
enum class Below : std::uint8_t { free, loose_foot, foot };

char32_t form_of(char32_t c, ThaiMove move) {
  const auto* const found =
      std::find_if(std::begin(kThaiForms), std::end(kThaiForms),
                   [&](const ThaiForm& f) { return f.character == c && f.move == move; });
  return found == std::end(kThaiForms) ? 0 : found->form;
}

/// Chooses private-use forms for a face that has no tables for Thai.
class PrivateForms {
 public:
  explicit PrivateForms(ScriptWork& work) : items_(work.buffer), face_(work.face) {}

  void run() {
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const char32_t c = items_[i].character;
      const bool tone = c >= 0x0E48 && c <= 0x0E4C, below = c >= 0x0E38 && c <= 0x0E3A;
      if (tone) {
        put_tone(i);
      } else if (below) {
        put_below(i);
      } else if (is_above(c) && c < 0x0E80) {
        if (above_ == Above::stem) put(i, ThaiMove::left);
        above_ = above_ == Above::stem ? Above::stem_and_mark : Above::taken;
      } else {
        begin(i, c);
      }
    }
  }

 private:
  void begin(std::size_t at, char32_t c) {
    letter_ = at;
    const bool consonant = c >= 0x0E01 && c <= 0x0E2E;
    above_ = consonant ? Above::free : Above::taken;
    if (c == 0x0E1B || c == 0x0E1D || c == 0x0E1F || c == 0x0E2C) above_ = Above::stem;
    below_ = Below::free;
    if (c == 0x0E0D || c == 0x0E10) below_ = Below::loose_foot;
    if (c == 0x0E0E || c == 0x0E0F) below_ = Below::foot;
  }
  void put_tone(std::size_t at) {
    if (above_ == Above::free) put(at, ThaiMove::down);
    if (above_ == Above::stem) put(at, ThaiMove::down_left);
    if (above_ == Above::stem_and_mark) put(at, ThaiMove::left);
    above_ = above_ == Above::stem ? Above::stem_and_mark : Above::taken;
  }
  void put_below(std::size_t at) {
    if (below_ == Below::loose_foot) put(letter_, ThaiMove::no_foot);
    if (below_ == Below::foot) put(at, ThaiMove::down);
    if (below_ == Below::loose_foot) below_ = Below::foot;
  }
  void put(std::size_t at, ThaiMove move) {
    const char32_t form = form_of(items_[at].character, move);
    if (form != 0 && face_.find_glyph(form) != kMissingGlyph) items_[at].character = form;
  }

  ShapeBuffer& items_;
  const FaceLookups& face_;
  std::size_t letter_ = 0;
  Above above_ = Above::taken;
  Below below_ = Below::free;
};

class ThaiRules final : public ScriptRules {
 public:
  NormalizeRules normalizing() const override {
    NormalizeRules rules;
    rules.compose_marks = false;
    return rules;
  }
  bool hangs_marks() const override { return false; }

  void prepare(ScriptWork& work) const override {
    ShapeBuffer& items = work.buffer;
    for (std::size_t i = 0; i < items.size(); ++i) {
      const char32_t c = items[i].character;
      if (!is_sara_am(c)) continue;
      std::size_t first = i;
      while (first > 0 && is_above(items[first - 1].character)) --first;
      // The marks, moved behind the ring; they make one cluster with it.
      std::vector<ShapeItem>& made = work.items;
      made.clear();
      ShapeItem ring = items[i];
      ring.character = ring_of(c);
      ring.flags |= ShapeItem::kMark;
      made.push_back(ring);
      for (std::size_t k = first; k < i; ++k) made.push_back(items[k]);
      ShapeItem vowel = items[i];
      vowel.character = sara_aa_of(c);
      made.push_back(vowel);
      items.replace(first, i - first + 1, made);
      const std::size_t end = first + made.size();
      items.join_clusters(first > 0 ? first - 1 : first, end);
      i = end - 1;
    }
    if (work.script == tag("thai") && work.memory.found != work.script) PrivateForms(work).run();
  }
};

}  // namespace

const ScriptRules& thai_rules() {
  static const ThaiRules rules;
  return rules;
}

}  // namespace grafema::detail
