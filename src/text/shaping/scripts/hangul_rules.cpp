// SPDX-License-Identifier: MIT
// Hangul: syllables of conjoining jamo become one character, or leading, vowel and trailing forms.
#include "text/shaping/scripts/syllables.hpp"

namespace grafema::detail {
namespace {

constexpr ScriptFeature kFeatures[] = {{.tag = tag("ljmo"), .chosen = true},
                                       {.tag = tag("vjmo"), .chosen = true},
                                       {.tag = tag("tjmo"), .chosen = true}};

// Unicode, section 3.12.
constexpr char32_t kL = 0x1100, kV = 0x1161, kT = 0x11A7, kS = 0xAC00;
constexpr std::uint32_t kLs = 19, kVs = 21, kTs = 28;

bool is_leading(char32_t c) { return (c >= 0x1100 && c <= 0x115F) || (c >= 0xA960 && c <= 0xA97C); }
bool is_vowel(char32_t c) { return (c >= 0x1160 && c <= 0x11A7) || (c >= 0xD7B0 && c <= 0xD7C6); }
bool is_trailing(char32_t c) { return (c >= 0x11A8 && c <= 0x11FF) || (c >= 0xD7CB && c <= 0xD7FB); }
bool is_syllable(char32_t c) { return c >= kS && c < kS + kLs * kVs * kTs; }
bool is_modern(char32_t c, char32_t first, std::uint32_t count) { return c >= first && c < first + count; }

/// Tone marks of old Korean are written behind their syllable and stand on its left, unless their glyph takes
/// no room and is drawn to be put over it.
bool is_tone(char32_t c) { return c == 0x302E || c == 0x302F; }

class HangulRules final : public ScriptRules {
 public:
  std::span<const ScriptFeature> features() const override { return kFeatures; }
  MarkRoom mark_room() const override { return MarkRoom::kept; }
  bool hangs_marks() const override { return false; }

  void choose(ScriptWork& work) const override {
    ShapeBuffer& items = work.buffer;
    for (std::size_t i = 1; i < items.size(); ++i) {
      if (!is_tone(items[i].character) || is_tone(items[i - 1].character)) continue;
      std::size_t first = i;
      while (first > 0 && items[first - 1].cluster == items[i - 1].cluster) --first;
      float advance = 0;
      work.face.metrics().advances({&items[i].glyph, 1}, {&advance, 1});
      if (advance != 0) {
        move_item(items, i, first);
      } else {
        items.join_clusters(first, i + 1);
      }
    }
  }

  /// Joins what Unicode composes where the face has the whole, and takes apart what only parts can show.
  void prepare(ScriptWork& work) const override {
    ShapeBuffer& items = work.buffer;
    for (std::size_t i = 0; i < items.size(); ++i) {
      const char32_t c = items[i].character;
      const auto at = [&](std::size_t k) { return k < items.size() ? items[k].character : char32_t{0}; };
      if (is_leading(c) && is_vowel(at(i + 1))) {
        const bool has_trailing = is_trailing(at(i + 2));
        const std::size_t parts = has_trailing ? 3 : 2;
        const bool modern = is_modern(c, kL, kLs) && is_modern(at(i + 1), kV, kVs) &&
                            (!has_trailing || is_modern(at(i + 2), kT + 1, kTs - 1));
        const char32_t whole =
            kS + ((c - kL) * kVs + (at(i + 1) - kV)) * kTs + (has_trailing ? at(i + 2) - kT : 0);
        if (modern && has(work, whole)) {
          compose(items, i, parts, whole);
        } else {
          items.join_clusters(i, i + parts);
          choose_forms(work, i, parts);
          i += parts - 1;
        }
      } else if (is_syllable(c)) {
        const char32_t trailing = (c - kS) % kTs;
        const bool goes_on = trailing == 0 && is_modern(at(i + 1), kT + 1, kTs - 1);
        if (goes_on && has(work, c + (at(i + 1) - kT))) {
          compose(items, i, 2, c + (at(i + 1) - kT));
        } else if (!has(work, c) || (trailing == 0 && is_trailing(at(i + 1)))) {
          i += take_apart(work, i) - 1;
        }
      }
    }
  }

 private:
  static bool has(const ScriptWork& work, char32_t c) {
    return work.face.metrics().find_glyph(c) != kMissingGlyph;
  }
  static void compose(ShapeBuffer& items, std::size_t at, std::size_t parts, char32_t whole) {
    items.join_clusters(at, at + parts);
    ShapeItem item = items[at];
    item.character = whole;
    items.replace(at, parts, {&item, 1});
  }
  static void choose_forms(const ScriptWork& work, std::size_t at, std::size_t parts) {
    for (std::size_t k = 0; k < parts; ++k) work.buffer[at + k].features |= work.bits[k];
  }
  /// Returns how many items now stand where the syllable stood, a trailing one behind it included.
  static std::size_t take_apart(ScriptWork& work, std::size_t at) {
    ShapeBuffer& items = work.buffer;
    const std::uint32_t index = items[at].character - kS;
    const char32_t parts[] = {kL + index / (kVs * kTs), kV + index / kTs % kVs, kT + index % kTs};
    const std::size_t count = index % kTs == 0 ? 2 : 3;
    for (std::size_t k = 0; k < count; ++k) {
      if (!has(work, parts[k])) return 1;
    }
    const bool trailing = count == 2 && at + 1 < items.size() && is_trailing(items[at + 1].character);
    if (trailing) items.join_clusters(at, at + 2);
    ShapeItem made[3] = {items[at], items[at], items[at]};
    for (std::size_t k = 0; k < count; ++k) made[k].character = parts[k];
    if (!items.replace(at, 1, {made, count})) return 1;
    const std::size_t all = count + (trailing ? 1 : 0);
    choose_forms(work, at, all);
    return all;
  }
};

}  // namespace

const ScriptRules& hangul_rules() {
  static const HangulRules rules;
  return rules;
}

}  // namespace grafema::detail
