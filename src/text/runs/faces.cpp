// SPDX-License-Identifier: MIT
// Asks faces for characters, for their parts and for what they compose.
#include "text/runs/faces.hpp"

#include <unicode/uchar.h>
#include <unicode/unorm2.h>
#include <unicode/utf16.h>

#include <algorithm>
#include <array>

#include "grafema/unicode/characters.hpp"
#include "text/shaping/engine/made_spaces.hpp"

namespace grafema::detail {
namespace {

bool shows_nothing(char32_t c) { return is_invisible(c) || c == 0x2028 || c == 0x2029; }

bool has(const GlyphMetrics& face, char32_t c) { return face.find_glyph(c) != kMissingGlyph; }

/// Whether the face has all parts of a character that it does not have as a whole.
bool has_parts(const GlyphMetrics& face, char32_t c) {
  std::array<UChar, 32> parts = {};
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = unorm2_getNFCInstance(&status);
  if (normal == nullptr) return false;
  const int32_t length = unorm2_getDecomposition(normal, static_cast<UChar32>(c), parts.data(),
                                                 static_cast<int32_t>(parts.size()), &status);
  if (length <= 0 || U_FAILURE(status)) return false;
  for (int32_t at = 0; at < length;) {
    UChar32 part = 0;
    U16_NEXT(parts.data(), at, length, part);
    if (!has(face, static_cast<char32_t>(part))) return false;
  }
  return true;
}

/// Whether the character and those before it in the cluster compose to one that the face has.
bool has_composed(const GlyphMetrics& face, std::u32string_view cluster, std::size_t index) {
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = unorm2_getNFCInstance(&status);
  if (normal == nullptr) return false;
  UChar32 whole = static_cast<UChar32>(cluster[0]);
  bool composed = false;
  const std::size_t end = std::min<std::size_t>(cluster.size(), 8);
  for (std::size_t i = 1; i < end; ++i) {
    const UChar32 next = unorm2_composePair(normal, whole, static_cast<UChar32>(cluster[i]));
    if (next < 0) continue;
    whole = next;
    composed = composed || i >= index;
    if (composed && has(face, static_cast<char32_t>(whole))) return true;
  }
  return false;
}

}  // namespace

bool shows(const GlyphMetrics& face, std::u32string_view cluster, std::size_t index) {
  const char32_t c = cluster[index];
  if (shows_nothing(c) || has(face, c)) return true;
  if (c == 0x2011) return has(face, 0x2010);
  if (is_made_space(c)) return has(face, U' ');
  return has_parts(face, c) || (cluster.size() > 1 && has_composed(face, cluster, index));
}

std::size_t choose_face(const FontStack& stack, std::u32string_view cluster, std::size_t current) {
  const auto nothing = [](char32_t c) { return shows_nothing(c); };
  if (std::all_of(cluster.begin(), cluster.end(), nothing)) return current;
  constexpr std::size_t kMaxAsked = 64;  // marks beyond stay with those before
  const std::size_t end = std::min(cluster.size(), kMaxAsked);
  std::size_t with_first = stack.size();
  for (std::size_t f = 0; f < stack.size(); ++f) {
    std::size_t i = 0;
    while (i < end && shows(*stack[f].metrics, cluster, i)) ++i;
    if (i == end) return f;
    if (i > 0 && with_first == stack.size()) with_first = f;
  }
  return with_first == stack.size() ? 0 : with_first;
}

bool is_space(char32_t character) {
  return character == ' ' || is_made_space(character) || character == 0x1680;
}

bool is_letter(char32_t character) { return u_isalpha(static_cast<UChar32>(character)) != 0; }

}  // namespace grafema::detail
