// SPDX-License-Identifier: MIT
// Asks a face's layout tables for what its scripts need.
#include "grafema/text/script_check.hpp"

#include <fmt/format.h>
#include <unicode/uloc.h>
#include <unicode/uscript.h>
#include <unicode/ustring.h>

#include <algorithm>
#include <array>

#include "grafema/unicode/characters.hpp"
#include "text/shaping/scripts/script_rules.hpp"
#include "unicode/compositions.hpp"

namespace grafema {
namespace {

std::string script_name(char32_t character) {
  UErrorCode status = U_ZERO_ERROR;
  const UScriptCode code = uscript_getScript(static_cast<UChar32>(character), &status);
  const char* const name = U_SUCCESS(status) ? uscript_getName(code) : nullptr;
  std::string out = name == nullptr ? std::string() : name;
  std::replace(out.begin(), out.end(), '_', ' ');
  return out;
}

/// The language's name in English; empty where ICU has none.
std::string language_name(std::string_view language) {
  std::array<UChar, 64> wide = {};
  std::array<char, 256> narrow = {};
  UErrorCode status = U_ZERO_ERROR;
  const std::string tag(language);
  std::array<char, ULOC_FULLNAME_CAPACITY> locale = {};
  int32_t read = 0;
  uloc_forLanguageTag(tag.c_str(), locale.data(), static_cast<int32_t>(locale.size()), &read, &status);
  uloc_getDisplayLanguage(locale.data(), "en", wide.data(), static_cast<int32_t>(wide.size()), &status);
  int32_t length = 0;
  u_strToUTF8(narrow.data(), static_cast<int32_t>(narrow.size()), &length, wide.data(), -1, &status);
  if (U_FAILURE(status) || length <= 0) return {};
  return {narrow.data(), static_cast<std::size_t>(length)};
}

class ScriptChecker {
 public:
  explicit ScriptChecker(const Face& face) : face_(face) {}

  void check(CheckedScript& checked, bool has_marks, bool has_moving) const {
    const auto note = [&](ScriptNeed need, bool met) { (met ? checked.met : checked.unmet).push_back(need); };
    const Tag found = face_.substitutions().find_script(checked.script);
    const detail::ScriptNeeds needs = detail::script_needs(checked.script);
    if (needs.joins) note(ScriptNeed::joins, has(checked.script, kJoins, {}));
    // Faces of older days have the letters of a script under DFLT; that joins no syllables.
    const bool ruled = detail::has_rules_of(checked.script, found);
    if (needs.syllables && has_moving) note(ScriptNeed::rules, ruled);
    if (needs.conjuncts) note(ScriptNeed::conjuncts, ruled && has(checked.script, kConjuncts, {}));
    if (needs.marks && has_marks) {
      note(ScriptNeed::marks, has(checked.script, kMarkMakers, kMarkPlacers) || has_private_forms(checked));
    }
  }

 private:
  static constexpr Tag kJoins[] = {tag("init"), tag("medi"), tag("fina"), tag("calt"), tag("rlig")};
  static constexpr Tag kConjuncts[] = {tag("half"), tag("cjct"), tag("akhn"), tag("blwf"),
                                       tag("pstf"), tag("rphf"), tag("pref"), tag("vatu"),
                                       tag("rkrf"), tag("pres"), tag("psts"), tag("blws")};
  static constexpr Tag kMarkMakers[] = {tag("abvs"), tag("blws")};
  static constexpr Tag kMarkPlacers[] = {tag("mark"), tag("mkmk"), tag("abvm"), tag("blwm")};

  bool has(Tag script, std::span<const Tag> substitutions, std::span<const Tag> positions) const {
    const auto any = [&](const LayoutTable& table, std::span<const Tag> features) {
      return std::any_of(features.begin(), features.end(),
                         [&](Tag feature) { return !table.find_lookups(script, Tag{}, feature).empty(); });
    };
    return any(face_.substitutions(), substitutions) || any(face_.positions(), positions);
  }
  /// Thai faces without tables may have marks at other heights as characters of their own.
  bool has_private_forms(const CheckedScript& checked) const {
    return checked.script == tag("thai") && face_.find_glyph(0xF70A) != kMissingGlyph;
  }

  const Face& face_;
};

const char* complaint(ScriptNeed need) {
  switch (need) {
    case ScriptNeed::rules:
      return "can't join them: it has no rules for the script";
    case ScriptNeed::joins:
      return "can't join them: it has no initial, medial and final forms";
    case ScriptNeed::conjuncts:
      return "makes no conjuncts of them";
    case ScriptNeed::marks:
      return "does not place its marks";
  }
  return "";
}

}  // namespace

std::vector<CheckedScript> check_scripts(const Face& face, std::span<const char32_t> characters,
                                         std::string_view language) {
  std::vector<CheckedScript> out;
  std::vector<bool> marked, moving;
  for (const char32_t c : characters) {
    const Tag script = script_of(c);
    if (script == Tag{}) continue;
    auto at =
        std::find_if(out.begin(), out.end(), [&](const CheckedScript& s) { return s.script == script; });
    if (at == out.end()) {
      CheckedScript fresh;
      fresh.script = script;
      if (out.empty() && !language.empty()) fresh.name = language_name(language);
      if (fresh.name.empty()) fresh.name = script_name(c);
      out.push_back(std::move(fresh));
      marked.push_back(false), moving.push_back(false);
      at = out.end() - 1;
    }
    ++at->characters;
    if (face.find_glyph(c) != kMissingGlyph) ++at->supplied;
    const auto number = static_cast<std::size_t>(at - out.begin());
    if (detail::is_mark(c)) marked[number] = true;
    if (detail::moves_in_syllables(c)) moving[number] = true;
  }
  for (std::size_t i = 0; i < out.size(); ++i) {
    if (out[i].supplied > 0) ScriptChecker(face).check(out[i], marked[i], moving[i]);
  }
  return out;
}

std::vector<CheckedScript> check_scripts(const Face& face) {
  std::vector<char32_t> characters;
  for (const auto& [character, glyph] : face.characters()) characters.push_back(character);
  return check_scripts(face, characters);
}

std::string describe(const CheckedScript& checked) {
  if (checked.supplied == 0) return fmt::format("has no letters of {}", checked.name);
  std::string out;
  if (checked.supplied == checked.characters) {
    if (checked.unmet.empty()) return fmt::format("writes {}", checked.name);
    out = fmt::format("has the letters of {}", checked.name);
  } else {
    out = fmt::format("has {} of {} letters of {}", checked.supplied, checked.characters, checked.name);
    if (checked.unmet.empty()) return out;
  }
  // Without rules, all else follows.
  const bool ruled =
      std::find(checked.unmet.begin(), checked.unmet.end(), ScriptNeed::rules) == checked.unmet.end();
  out += fmt::format(", but {}", complaint(ruled ? checked.unmet[0] : ScriptNeed::rules));
  for (std::size_t i = 1; ruled && i < checked.unmet.size(); ++i) {
    out += fmt::format(" and {}", complaint(checked.unmet[i]));
  }
  return out;
}

}  // namespace grafema
