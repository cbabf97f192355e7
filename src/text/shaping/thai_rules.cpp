// SPDX-License-Identifier: MIT
// Thai and Lao: SARA AM is a ring over the letter, under its tone marks, and a vowel behind it.
#include "text/shaping/script_rules.hpp"

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
  }
};

}  // namespace

const ScriptRules& thai_rules() {
  static const ThaiRules rules;
  return rules;
}

}  // namespace grafema::detail
