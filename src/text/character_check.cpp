// SPDX-License-Identifier: MIT
// Compares what characters are mapped to with what they should look like.
#include "grafema/text/character_check.hpp"
#include "grafema/unicode/characters.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <array>
#include <set>

#include "grafema/text/shape_cache.hpp"
#include "grafema/text/text_analysis.hpp"
#include "text/runs/faces.hpp"
#include "unicode/spaces.hpp"

namespace grafema {
namespace {

/// Spaces and the like paint nothing and are right to do so.
bool paints(char32_t character) {
  const auto c = static_cast<UChar32>(character);
  return u_isgraph(c) != 0 && u_hasBinaryProperty(c, UCHAR_WHITE_SPACE) == 0 &&
         u_hasBinaryProperty(c, UCHAR_DEFAULT_IGNORABLE_CODE_POINT) == 0;
}

class Checker {
 public:
  explicit Checker(const FontStack& stack) : stack_(stack) {}

  CheckedCharacter check(char32_t character) {
    const FontStack::Found found = stack_.find(character);
    if (found.glyph == kMissingGlyph) {
      const FontStack::Found space =
          detail::is_made_space(character) ? stack_.find(U' ') : FontStack::Found{};
      return {character, space.glyph == kMissingGlyph ? CharacterFate::missing : CharacterFate::supplied,
              space.face};
    }
    const Face* face = stack_[found.face]->face();
    if (face == nullptr || !paints(character)) return {character, CharacterFate::supplied, found.face};
    return {character, look_at(*face, character, found.glyph), found.face};
  }

 private:
  CharacterFate look_at(const Face& face, char32_t character, GlyphId glyph) {
    if (!face.read_outline(glyph, own_)) return CharacterFate::empty;
    if (own_.commands.empty())
      return has_picture(face, glyph) ? CharacterFate::supplied : CharacterFate::empty;
    const auto same = [this](const Contours& other) {
      return !other.commands.empty() && other.commands == own_.commands && other.points == own_.points;
    };
    if (face.read_outline(kMissingGlyph, other_) && same(other_) && character != 0x25A1) {
      return CharacterFate::missing_shape;
    }
    const auto capital = static_cast<char32_t>(u_toupper(static_cast<UChar32>(character)));
    if (capital == character || u_islower(static_cast<UChar32>(character)) == 0) {
      return CharacterFate::supplied;
    }
    const GlyphId large = face.find_glyph(capital);
    if (large == kMissingGlyph) return CharacterFate::supplied;
    return large == glyph || (face.read_outline(large, other_) && same(other_)) ? CharacterFate::capital_shape
                                                                                : CharacterFate::supplied;
  }

  static bool has_picture(const Face& face, GlyphId glyph) {
    const auto paint = face.read_paint(glyph);
    return !face.color_layers(glyph).empty() || (paint && *paint) || face.find_bitmap(glyph, 64).has_value();
  }

  const FontStack& stack_;
  Contours own_, other_;
};

}  // namespace

std::vector<CheckedCharacter> check_characters(const FontStack& stack, std::span<const char32_t> characters) {
  std::vector<CheckedCharacter> out;
  Checker checker(stack);
  for (const char32_t character : characters) {
    const CheckedCharacter checked = checker.check(character);
    if (checked.fate != CharacterFate::missing || !is_invisible(character)) out.push_back(checked);
  }
  return out;
}

std::vector<CheckedCluster> check_clusters(const FontStack& stack, std::string_view text) {
  std::vector<CheckedCluster> out;
  if (stack.empty() || text.size() > 0x7FFFFFFF) return out;
  ShapeCache cache;
  TextAnalysis a;
  analyze(text, TextDirection::automatic, cache, a);
  std::set<std::u32string_view> seen;
  const std::u32string_view all(a.characters.data(), a.characters.size());
  for (std::size_t i = 0; i < all.size();) {
    std::size_t end = i + 1;
    while (end < all.size() && !a.is(end, TextAnalysis::kCluster)) ++end;
    const std::u32string_view cluster = all.substr(i, end - i);
    i = end;
    if (cluster.size() < 2 || !seen.insert(cluster).second) continue;
    CheckedCluster checked;
    checked.face = detail::choose_face(stack, cluster, 0);
    for (std::size_t k = 0; k < cluster.size(); ++k) {
      if (is_invisible(cluster[k])) continue;
      checked.characters.push_back(cluster[k]);
      if (!detail::shows(*stack[checked.face].metrics, cluster, k)) checked.missing.push_back(cluster[k]);
    }
    if (checked.characters.size() > 1) out.push_back(std::move(checked));
  }
  return out;
}

std::string character_name(char32_t character) {
  std::array<char, 128> name = {};
  UErrorCode error = U_ZERO_ERROR;
  const int32_t length = u_charName(static_cast<UChar32>(character), U_UNICODE_CHAR_NAME, name.data(),
                                    static_cast<int32_t>(name.size()), &error);
  return U_SUCCESS(error) && length > 0 ? std::string(name.data(), static_cast<std::size_t>(length))
                                        : std::string();
}

}  // namespace grafema
