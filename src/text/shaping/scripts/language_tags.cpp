// SPDX-License-Identifier: MIT
// From BCP 47 to OpenType: the registered tags of a language, else its ISO 639-3 code in capitals.
#include "text/shaping/scripts/language_tags.hpp"

#include <unicode/uloc.h>

#include <algorithm>
#include <string>

namespace grafema::detail {
namespace {

struct RegisteredTag {
  std::string_view tag;
  std::string_view languages;  ///< ISO 639-3 codes of three letters with spaces between
};

constexpr RegisteredTag kRegistered[] = {
#include "text/shaping/scripts/language_tags.inc"
};

/// Subtags of BCP 47 that have tags of their own, before those of the language.
struct Variant {
  std::string_view language;  ///< empty: any
  std::string_view subtag;
  std::string_view tags;  ///< tags of four letters, side by side
};
constexpr Variant kVariants[] = {
    {"", "fonipa", "IPPH"},       {"", "fonnapa", "APPH"},  {"", "syre", "SYRE"},
    {"", "syrj", "SYRJ"},         {"", "syrn", "SYRN"},     {"el", "polyton", "PGR "},
    {"ga", "latg", "IRT "},       {"ka", "geok", "KGE "},   {"hy", "arevmda", "HYE "},
    {"mnw", "th", "MONT"},        {"ro", "md", "MOL "},     {"art", "lojban", "JBO "},
    {"zh", "mo", "ZHTMZHH ZHT "}, {"zh", "hk", "ZHH ZHT "}, {"yue", "hans", "ZHS "},
    {"zh", "hant", "ZHT "},       {"zh", "tw", "ZHT "},     {"zh", "pinyin", "ZHP "},
};

Tag tag_of(std::string_view four) {
  std::uint32_t value = 0;
  for (std::size_t i = 0; i < 4; ++i) {
    value = value << 8 | static_cast<unsigned char>(i < four.size() ? four[i] : ' ');
  }
  return Tag{value};
}

std::string lower(std::string_view text) {
  std::string out(text);
  for (char& c : out) {
    if (c >= 'A' && c <= 'Z') c = static_cast<char>(c + 32);
    if (c == '_') c = '-';
  }
  return out;
}

bool has_subtag(std::string_view whole, std::string_view subtag) {
  for (std::size_t at = whole.find('-'); at != std::string_view::npos; at = whole.find('-', at + 1)) {
    if (whole.substr(at + 1, whole.find('-', at + 1) - at - 1) == subtag) return true;
  }
  return false;
}

struct LanguageTag {
  std::string_view language;
  std::size_t fellows = 0;  ///< how many languages share the tag: fewer is more exact
  Tag tag{};
};

/// The table by language, the most exact tags first.
const std::vector<LanguageTag>& tags_by_language() {
  static const std::vector<LanguageTag> all = [] {
    std::vector<LanguageTag> out;
    for (const RegisteredTag& row : kRegistered) {
      for (std::size_t at = 0; at < row.languages.size(); at += 4)
        out.push_back({row.languages.substr(at, 3), row.languages.size(), tag_of(row.tag)});
    }
    std::stable_sort(out.begin(), out.end(), [](const LanguageTag& a, const LanguageTag& b) {
      return a.language != b.language ? a.language < b.language : a.fellows < b.fellows;
    });
    return out;
  }();
  return all;
}

void add_tag(Tag tag, std::vector<Tag>& out) {
  if (std::find(out.begin(), out.end(), tag) == out.end()) out.push_back(tag);
}

}  // namespace

std::vector<Tag> language_tags(std::string_view bcp47) {
  std::vector<Tag> out;
  const std::string whole = lower(bcp47);
  const std::string language = whole.substr(0, whole.find('-'));
  if (language.size() < 2 || language.size() > 3) return out;
  for (const Variant& variant : kVariants) {
    if ((!variant.language.empty() && variant.language != language) || !has_subtag(whole, variant.subtag))
      continue;
    for (std::size_t at = 0; at < variant.tags.size(); at += 4)
      add_tag(tag_of(variant.tags.substr(at, 4)), out);
    if (language == "zh") return out;  // one script of Chinese is no stand-in for the other
  }
  std::string three = language.size() == 3 ? language : uloc_getISO3Language(language.c_str());
  const auto& all = tags_by_language();
  auto found = std::lower_bound(all.begin(), all.end(), std::string_view(three),
                                [](const LanguageTag& t, std::string_view l) { return t.language < l; });
  const bool known = found != all.end() && found->language == three;
  for (; found != all.end() && found->language == three; ++found) add_tag(found->tag, out);
  for (char& c : three) c = c >= 'a' && c <= 'z' ? static_cast<char>(c - 32) : c;
  if (!known && three.size() == 3 && three != "UND") add_tag(tag_of(three), out);
  return out;
}

}  // namespace grafema::detail
