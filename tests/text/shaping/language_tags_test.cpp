// SPDX-License-Identifier: MIT
// Languages as OpenType tags them.
#include "text/shaping/scripts/language_tags.hpp"

#include <unicode/uloc.h>
#include <catch2/catch.hpp>

#include <set>
#include <string>

using namespace grafema;

namespace {

std::string tags(std::string_view language) {
  std::string out;
  for (const Tag tag : detail::language_tags(language)) out += (out.empty() ? "" : " ") + to_string(tag);
  return out;
}

}  // namespace

TEST_CASE("languages have their registered tags, the most exact first", "[language_tags]") {
  const std::pair<const char*, const char*> known[] = {{"crh", "CRT "},
                                                       {"rue", "RSY "},
                                                       {"af", "AFK "},
                                                       {"gn", "GUA "},
                                                       {"mnw", "MON  MONT"},
                                                       {"sjd", "KSM "},
                                                       {"kjh", "KHA "},
                                                       {"koi", "KOP "},
                                                       {"kv", "KOM "},
                                                       {"de", "DEU "},
                                                       {"tr", "TRK "},
                                                       {"nl-BE", "NLD "},
                                                       {"ro", "ROM "},
                                                       {"ro-MD", "MOL  ROM "},
                                                       {"sr-Latn", "SRB "},
                                                       {"hy", "HYE0 HYE "},
                                                       {"dv", "DIV  DHV "},
                                                       {"ml", "MAL  MLR "},
                                                       {"arb", "ARA "},
                                                       {"nb", "NOR "},
                                                       {"nn", "NYN "},
                                                       {"cmn", "ZHS "},
                                                       {"yue", "ZHH "},
                                                       {"zh", "ZHS "},
                                                       {"zh-Hant", "ZHT "},
                                                       {"zh-TW", "ZHT "},
                                                       {"zh-Hant-HK", "ZHH  ZHT "},
                                                       {"zh_MO", "ZHTM ZHH  ZHT "},
                                                       {"el-polyton", "PGR  ELL "},
                                                       {"ga-Latg", "IRT  IRI "},
                                                       {"en-fonipa", "IPPH ENG "},
                                                       {"und-fonnapa", "APPH"},
                                                       {"syr-Syrj", "SYRJ SYR "},
                                                       {"syr-Syrn", "SYRN SYR "},
                                                       {"und-Syre", "SYRE"},
                                                       {"ko", "KOR  KOH "},
                                                       {"xsl", "SSL  SLA "},
                                                       {"krc", "KAR  BAL "},
                                                       {"tlh", "TLH "}};
  for (const auto& [language, wanted] : known) {
    INFO(language);
    CHECK(tags(language) == wanted);
  }
}

TEST_CASE("what is no language has no tags", "[language_tags]") {
  for (const char* broken : {"", "x", "-", "und", "english", "1", "e-n"}) {
    INFO(broken);
    CHECK(tags(broken).empty());
  }
}

TEST_CASE("every language of ISO 639 has a tag, by two letters the same as by three", "[language_tags]") {
  std::size_t languages = 0;
  for (const char* const* at = uloc_getISOLanguages(); *at != nullptr; ++at, ++languages) {
    INFO(*at);
    const std::string found = tags(*at);
    CHECK((found.size() >= 4 || std::string_view(*at) == "und"));
    const std::string three = uloc_getISO3Language(*at);
    if (std::string_view(*at) != "zh" && three.size() == 3) CHECK(tags(three) == found);
  }
  CHECK(languages > 400);
}

TEST_CASE("the table is as the registry writes it", "[language_tags]") {
  const std::pair<std::string_view, std::string_view> rows[] = {
#include "text/shaping/scripts/language_tags.inc"
  };
  std::set<std::string> seen;
  for (const auto& [tag, languages] : rows) {
    INFO(tag);
    CHECK(tag.size() == 4);
    CHECK((languages.size() + 1) % 4 == 0);
    for (std::size_t at = 0; at < languages.size(); at += 4) {
      const std::string language(languages.substr(at, 3));
      INFO(language);
      CHECK(language.find_first_not_of("abcdefghijklmnopqrstuvwxyz") == std::string::npos);
      CHECK(seen.insert(std::string(tag) + language).second);
      if (language != "zho") CHECK(tags(language).find(tag) != std::string::npos);
    }
  }
}
