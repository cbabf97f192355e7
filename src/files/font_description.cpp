// SPDX-License-Identifier: MIT
// Reads names, permission and rules of a font's description.
#include "files/font_description.hpp"

#include <unicode/unorm2.h>
#include <unicode/utf16.h>

#include <algorithm>
#include <array>

#include "grafema/unicode/character_sets.hpp"

namespace grafema::detail {
namespace {

constexpr int kNewestVersion = 1;

/// The letter and the accent that a character is made of (Unicode, canonical decomposition); nothing for
/// others.
Composition find_parts(char32_t c) {
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = unorm2_getNFCInstance(&status);
  std::array<UChar, 8> parts = {};
  if (normal == nullptr) return {};
  const std::int32_t length =
      unorm2_getRawDecomposition(normal, static_cast<UChar32>(c), parts.data(), 8, &status);
  if (length <= 0 || U_FAILURE(status)) return {};
  std::int32_t at = 0;
  UChar32 one = 0, two = 0;
  U16_NEXT(parts.data(), at, length, one);
  if (at >= length) return {};
  U16_NEXT(parts.data(), at, length, two);
  // Latvian letters are said to have a cedilla and are written with a comma.
  constexpr std::u32string_view kWithComma = U"GKLNRgklnr";
  const bool comma = two == 0x327 && kWithComma.find(static_cast<char32_t>(one)) != std::u32string_view::npos;
  return {c, static_cast<char32_t>(one), comma ? 0x326 : static_cast<char32_t>(two)};
}

std::vector<std::string> split(const std::string& text) {
  std::vector<std::string> words;
  std::string word;
  for (const char c : text + " ") {
    if (c != ' ') {
      word += c;
    } else if (!word.empty()) {
      words.push_back(std::move(word)), word.clear();
    }
  }
  return words;
}

/// A text of characters, or a list of texts that may also be names of glyphs.
bool read_members(const Json& value, std::vector<std::string>& out) {
  if (value.is_string()) {
    const std::string text = value.get<std::string>();
    std::size_t begin = 0;
    for (std::size_t i = 1; i <= text.size(); ++i) {
      const bool within = i < text.size() && (static_cast<unsigned char>(text[i]) & 0xC0U) == 0x80U;
      if (!within) out.push_back(text.substr(begin, i - begin)), begin = i;
    }
    return true;
  }
  if (!value.is_array()) return false;
  for (const Json& one : value) {
    if (!one.is_string()) return false;
    out.push_back(one.get<std::string>());
  }
  return true;
}

void read_groups(const Json& object, const char* side, std::vector<KerningGroup>& out, Fields& outer) {
  const auto at = object.find(side);
  if (at == object.end() || !at->is_object())
    return outer.fail_at("kerning_groups", "objects 'left', 'right' and 'values'");
  for (const auto& [name, members] : at->items()) {
    KerningGroup group{name, {}};
    if (name.find(' ') != std::string::npos || !read_members(members, group.members))
      return outer.fail_at("kerning_groups", "names without spaces, and the characters of each");
    out.push_back(std::move(group));
  }
}

void read_group_kerning(const Json& object, FontRules& rules, Fields& outer) {
  read_groups(object, "left", rules.left_groups, outer);
  read_groups(object, "right", rules.right_groups, outer);
  const auto values = object.find("values");
  if (values == object.end() || !values->is_object())
    return outer.fail_at("kerning_groups", "objects 'left', 'right' and 'values'");
  for (const auto& [key, value] : values->items()) {
    const std::vector<std::string> pair = split(key);
    if (pair.size() != 2 || !value.is_number())
      return outer.fail_at("kerning_groups", "values of \"LEFT RIGHT\" and numbers");
    rules.group_kerning.push_back({pair[0], pair[1], value.get<float>()});
  }
}

void read_ligatures(const Json& object, FontRules& rules, Fields& outer) {
  for (const auto& [name, text] : object.items()) {
    DrawnLigature ligature;
    ligature.to = name;
    if (!read_members(text, ligature.from))
      return outer.fail_at("ligatures", "a glyph and the characters that become it");
    rules.ligatures.push_back(std::move(ligature));
  }
}

/// `{"ss01": {"a": "a.single"}, "locl": {"cyrl SRB": {...}}}`.
void read_alternates(const Json& object, FontRules& rules, Fields& outer) {
  const auto add_all = [&](Tag feature, const Json& pairs, Tag script, Tag language) {
    if (!pairs.is_object())
      return outer.fail_at("alternates", "for each feature, glyphs and their alternates");
    for (const auto& [from, to] : pairs.items()) {
      if (!to.is_string())
        return outer.fail_at("alternates", "for each feature, glyphs and their alternates");
      rules.alternates.push_back({feature, from, to.get<std::string>(), script, language});
    }
  };
  for (const auto& [feature, pairs] : object.items()) {
    if (feature.empty() || feature.size() > 4)
      return outer.fail_at("alternates", "features of up to four letters");
    if (feature != "locl") {
      add_all(tag(feature), pairs, {}, {});
      continue;
    }
    if (!pairs.is_object()) return outer.fail_at("alternates", "languages under 'locl'");
    for (const auto& [where, of_language] : pairs.items()) {
      const std::vector<std::string> tags = split(where);
      if (tags.size() != 2 || tags[0].size() > 4 || tags[1].size() > 4)
        return outer.fail_at("alternates", "script and language under 'locl', as \"cyrl SRB\"");
      add_all(tag("locl"), of_language, tag(tags[0]), tag(tags[1]));
    }
  }
}

}  // namespace

std::u32string to_characters(std::string_view text) {
  std::vector<char32_t> characters;
  add_characters(text, characters);
  return {characters.begin(), characters.end()};
}

void check_description(const Json& document, std::span<const std::string_view> own, Fields& fields,
                       Notes* notes) {
  std::vector<std::string_view> known(own.begin(), own.end());
  known.insert(known.end(), std::begin(kCommonFields), std::end(kCommonFields));
  note_unknown_fields(document, known, "the description", notes);
  fields.require("names");
  if (fields.text("format") != kFontSheetFormat) fields.fail_at("format", "\"grafema-font-sheet\"");
  if (fields.whole("version", 1) > kNewestVersion) fields.fail_at("version", "version 1");
}

FaceNames read_font_names(Fields& outer, const Json& document, Notes* notes) {
  constexpr std::string_view kNames[] = {"family",       "style",       "version",   "copyright",
                                         "license",      "license_url", "trademark", "designer",
                                         "manufacturer", "description", "sample"};
  FaceNames names;
  const Json* object = outer.object("names");
  if (object == nullptr) return names;
  note_unknown_fields(document["names"], kNames, "'names'", notes);
  Fields fields(*object);
  names.family = fields.text("family");
  names.style = fields.text("style", "Regular");
  names.version = fields.text("version", "Version 1.0");
  for (const auto& [name, to] :
       {std::pair{"copyright", &names.copyright}, std::pair{"license", &names.license},
        std::pair{"license_url", &names.license_url}, std::pair{"trademark", &names.trademark},
        std::pair{"designer", &names.designer}, std::pair{"manufacturer", &names.manufacturer},
        std::pair{"description", &names.description}, std::pair{"sample", &names.sample}}) {
    *to = fields.text(name);
  }
  if (fields.error() || names.family.empty()) outer.fail_at("names", "texts, among them a family");
  return names;
}

std::vector<DrawnPair> read_pairs(Fields& fields) {
  std::vector<DrawnPair> pairs;
  const Json* object = fields.object("kerning");
  if (object == nullptr) return pairs;
  for (const auto& [key, value] : object->items()) {
    const std::u32string pair = to_characters(key);
    if (pair.size() != 2 || !value.is_number()) {
      fields.fail_at("kerning", "pairs of two characters and a number");
      return pairs;
    }
    pairs.push_back({pair[0], pair[1], value.get<float>()});
  }
  return pairs;
}

FontRules read_font_rules(Fields& fields) {
  FontRules rules;
  const std::string permission = fields.text("permission", "installable");
  constexpr std::array<std::pair<std::string_view, Embedding>, 4> kPermissions = {
      {{"installable", Embedding::installable},
       {"editable", Embedding::editable},
       {"preview", Embedding::preview},
       {"restricted", Embedding::restricted}}};
  const auto* const chosen = std::find_if(kPermissions.begin(), kPermissions.end(),
                                          [&](const auto& p) { return p.first == permission; });
  if (chosen == kPermissions.end()) {
    fields.fail_at("permission", "installable, editable, preview or restricted");
  } else {
    rules.embedding = chosen->second;
  }
  if (const Json* groups = fields.object("kerning_groups")) read_group_kerning(*groups, rules, fields);
  if (const Json* ligatures = fields.object("ligatures")) read_ligatures(*ligatures, rules, fields);
  if (const Json* alternates = fields.object("alternates")) read_alternates(*alternates, rules, fields);
  rules.tabular = to_characters(fields.text("tabular"));
  rules.ligatures_of_names = fields.flag("name_ligatures", false);
  if (const Json* compose = fields.array("compose")) {
    for (const Json& text : *compose) {
      if (!text.is_string()) fields.fail_at("compose", "texts of characters");
      for (const char32_t c : to_characters(text.is_string() ? text.get<std::string>() : std::string())) {
        const Composition parts = find_parts(c);
        if (parts.character == 0) fields.fail_at("compose", "characters of a letter and an accent");
        rules.compose.push_back(parts);
      }
    }
  }
  return rules;
}

}  // namespace grafema::detail
