// SPDX-License-Identifier: MIT
// Canonical composition and decomposition by ICU, chosen by what the face has.
#include "text/shaping/engine/normalize.hpp"

#include <unicode/unorm2.h>
#include <unicode/utf16.h>

#include <algorithm>
#include <array>

#include "grafema/unicode/characters.hpp"
#include "text/shaping/engine/made_spaces.hpp"
#include "unicode/compositions.hpp"

namespace grafema::detail {
namespace {

constexpr char32_t kFirstSpacingMark = 0x903;

const UNormalizer2* normalizer() {
  UErrorCode status = U_ZERO_ERROR;
  return unorm2_getNFCInstance(&status);
}

/// The two characters that one is composed of; the second is 0 for a character that stands for another one.
bool decompose(char32_t c, char32_t& first, char32_t& second) {
  std::array<UChar, 8> parts = {};
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = normalizer();
  if (normal == nullptr) return false;
  const int32_t length =
      unorm2_getRawDecomposition(normal, static_cast<UChar32>(c), parts.data(), 8, &status);
  if (length <= 0 || U_FAILURE(status)) return false;
  int32_t at = 0;
  UChar32 one = 0, two = 0;
  U16_NEXT(parts.data(), at, length, one);
  if (at < length) U16_NEXT(parts.data(), at, length, two);
  first = static_cast<char32_t>(one), second = static_cast<char32_t>(two);
  return at == length;
}

class Normalizing {
 public:
  Normalizing(ShapeBuffer& items, const FaceLookups& face, const NormalizeRules& rules, bool places_marks)
      : items_(items), face_(face), metrics_(face.metrics()), rules_(rules), places_marks_(places_marks) {}

  /// Returns true if a space was made from the face's own.
  bool run() {
    bool marks = false, joins = false;
    for (std::size_t i = 0; i < items_.size(); ++i) {
      const bool before_mark = i + 1 < items_.size() && items_[i + 1].is(ShapeItem::kMark);
      const bool wanted = before_mark || items_[i].is(ShapeItem::kMark) ||
                          (rules_.take_apart != nullptr && rules_.take_apart(items_[i].character));
      i += (is_kept(i) ? 1 : take_apart(i, wanted)) - 1;
      if (rules_.first_half != nullptr) i += halve(i);
      marks = marks || items_[i].is(ShapeItem::kMark);
      joins = joins || marks || (items_[i].character >= kFirstSpacingMark && is_mark(items_[i].character));
    }
    if (marks) order_marks();
    if (joins && rules_.compose_marks) compose();
    for (std::size_t i = 0; i < items_.size(); ++i) set_glyph(i);
    return makes_spaces_;
  }

 private:
  bool has(char32_t c) const { return face_.find_glyph(c) != kMissingGlyph; }

  bool is_kept(std::size_t at) const { return rules_.keep != nullptr && rules_.keep(items_[at].character); }

  /// Puts the left half of a vowel before it. Returns how many items that added.
  std::size_t halve(std::size_t at) {
    ShapeItem half = items_[at];
    half.character = rules_.first_half(half.character);
    if (half.character == 0 || !has(half.character)) return 0;
    return items_.replace(at, 0, {&half, 1}) ? 1 : 0;
  }

  /// Replaces a character by its parts where those are wanted or it is not there. Returns how many items
  /// stand there now.
  std::size_t take_apart(std::size_t at, bool wanted) {
    const char32_t c = items_[at].character;
    if (c < 0xC0 || (!wanted && has(c))) return 1;
    std::array<char32_t, 8> parts = {};
    std::size_t count = 0;
    char32_t rest = c, first = 0, second = 0;
    // Marks come off from the last to the first.
    while (count + 1 < parts.size() && decompose(rest, first, second)) {
      if (second != 0 && !has(second)) break;
      if (second != 0) parts[count++] = second;
      rest = first;
      if (!wanted && has(rest)) break;
    }
    if (rest == c || !has(rest)) return 1;
    made_.assign(1, items_[at]);
    made_[0].character = rest;
    while (count > 0) {
      ShapeItem mark = items_[at];
      mark.character = parts[--count];
      mark.combining = combining_class(mark.character);
      mark.flags |= mark.combining != 0 ? ShapeItem::kMark : std::uint8_t{0};
      made_.push_back(mark);
    }
    made_[0].combining = combining_class(rest);
    return items_.replace(at, 1, made_) ? made_.size() : 1;
  }

  std::uint8_t combining_class(char32_t c) const {
    const UNormalizer2* normal = normalizer();
    const std::uint8_t own =
        normal == nullptr ? std::uint8_t{0} : unorm2_getCombiningClass(normal, static_cast<UChar32>(c));
    return own != 0 && rules_.combining != nullptr ? rules_.combining(c, own) : own;
  }

  void order_marks() {
    std::span<ShapeItem> all = items_.close_gap();
    for (std::size_t i = 0; i < all.size(); ++i) {
      if (all[i].is(ShapeItem::kMark)) all[i].combining = combining_class(all[i].character);
    }
    for (std::size_t i = 0; i < all.size();) {
      std::size_t end = i;
      while (end < all.size() && all[end].combining != 0) ++end;
      if (end - i > 1) {
        const auto by_class = [](const ShapeItem& a, const ShapeItem& b) {
          return a.combining < b.combining;
        };
        std::stable_sort(all.begin() + static_cast<std::ptrdiff_t>(i),
                         all.begin() + static_cast<std::ptrdiff_t>(end), by_class);
        // Order by class is no order of the text: its characters become one cluster.
        items_.join_clusters(i > 0 ? i - 1 : i, end);
      }
      i = end + 1;
    }
  }

  void compose() {
    const std::span<ShapeItem> all = items_.close_gap();
    std::size_t kept = 0, starter = all.size();
    for (std::size_t i = 0; i < all.size(); ++i) {
      const ShapeItem& item = all[i];
      const bool blocked = starter < kept && kept - starter > 1 && all[kept - 1].combining >= item.combining;
      // Marks of class 0 compose with the letter right before them.
      const bool joins = item.combining != 0 || (kept == starter + 1 && is_mark(item.character));
      if (starter < kept && joins && !blocked) {
        const bool on_mark =
            (item.combining == 0 || !rules_.compose_on_marks) && is_mark(all[starter].character);
        const char32_t whole = on_mark ? 0 : composed(all[starter].character, item.character);
        if (whole != 0 && has(whole)) {
          all[starter].character = whole;
          const std::uint32_t least = std::min(all[starter].cluster, item.cluster);
          for (std::size_t k = starter; k < kept; ++k) all[k].cluster = std::min(all[k].cluster, least);
          continue;
        }
      }
      if (item.combining == 0) starter = kept;
      all[kept++] = item;
    }
    if (kept < all.size()) items_.replace(kept, all.size() - kept, {});
  }
  char32_t composed(char32_t first, char32_t second) const {
    const UNormalizer2* normal = normalizer();
    const UChar32 own = normal == nullptr ? U_SENTINEL
                                          : unorm2_composePair(normal, static_cast<UChar32>(first),
                                                               static_cast<UChar32>(second));
    if (own >= 0) return static_cast<char32_t>(own);
    return rules_.compose == nullptr ? 0 : rules_.compose(first, second, places_marks_);
  }

  void set_glyph(std::size_t at) {
    ShapeItem& item = items_[at];
    item.glyph = face_.find_glyph(item.character);
    if (at + 1 < items_.size() && is_variation_selector(items_[at + 1].character)) {
      item.glyph = metrics_.find_variant(item.character, items_[at + 1].character);
    }
    if (item.glyph != kMissingGlyph) return;
    // Characters that differ from others only in where lines may end.
    if (item.character == 0x2011) item.glyph = metrics_.find_glyph(0x2010);
    if (is_made_space(item.character)) {
      item.glyph = metrics_.find_glyph(U' ');
      item.is_made_space = item.glyph != kMissingGlyph && item.character != 0xA0;
      makes_spaces_ = makes_spaces_ || item.is_made_space;
    }
  }

  ShapeBuffer& items_;
  const FaceLookups& face_;
  const GlyphMetrics& metrics_;
  const NormalizeRules& rules_;
  bool places_marks_, makes_spaces_ = false;
  std::vector<ShapeItem> made_;
};

}  // namespace

bool normalize(ShapeBuffer& items, const FaceLookups& face, const NormalizeRules& rules, bool places_marks) {
  return Normalizing(items, face, rules, places_marks).run();
}

}  // namespace grafema::detail
