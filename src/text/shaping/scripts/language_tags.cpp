// SPDX-License-Identifier: MIT
// From BCP 47 to OpenType: the registered exceptions, else the ISO 639-3 code in capitals.
#include "text/shaping/scripts/language_tags.hpp"

#include <unicode/uloc.h>

#include <algorithm>
#include <array>
#include <string>

namespace grafema::detail {
namespace {

struct Exception {
  std::string_view language, tags;  ///< tags of four letters, side by side
};

// Languages whose registered tag is not their ISO 639-3 code in capitals. Ascending.
constexpr Exception kExceptions[] = {
    {"am", "AMH "},     {"ar", "ARA "},  {"as", "ASM "},     {"av", "AVR "},     {"az", "AZE "},
    {"ba", "BSH "},     {"be", "BEL "},  {"bg", "BGR "},     {"bn", "BEN "},     {"bo", "TIB "},
    {"br", "BRE "},     {"bs", "BOS "},  {"ca", "CAT "},     {"ce", "CHE "},     {"cs", "CSY "},
    {"cu", "CSL "},     {"cv", "CHU "},  {"cy", "WEL "},     {"da", "DAN "},     {"de", "DEU "},
    {"dv", "DIV DHV "}, {"dz", "DZN "},  {"el", "ELL "},     {"es", "ESP "},     {"et", "ETI "},
    {"eu", "EUQ "},     {"fa", "FAR "},  {"fi", "FIN "},     {"fil", "PIL "},    {"fo", "FOS "},
    {"fr", "FRA "},     {"fy", "FRI "},  {"ga", "IRI "},     {"gd", "GAE "},     {"gl", "GAL "},
    {"gu", "GUJ "},     {"ha", "HAU "},  {"haw", "HAW "},    {"he", "IWR "},     {"hi", "HIN "},
    {"hr", "HRV "},     {"hsb", "USB "}, {"hu", "HUN "},     {"hy", "HYE HYE0"}, {"id", "IND "},
    {"ig", "IBO "},     {"inh", "ING "}, {"is", "ISL "},     {"it", "ITA "},     {"iu", "INU "},
    {"ja", "JAN "},     {"jv", "JAV "},  {"ka", "KAT "},     {"kk", "KAZ "},     {"kl", "GRN "},
    {"km", "KHM "},     {"kn", "KAN "},  {"ko", "KOR "},     {"kok", "KOK "},    {"ks", "KSH "},
    {"ku", "KUR "},     {"ky", "KIR "},  {"la", "LAT "},     {"lb", "LTZ "},     {"lo", "LAO "},
    {"lt", "LTH "},     {"lv", "LVI "},  {"mg", "MLG "},     {"mi", "MRI "},     {"mk", "MKD "},
    {"ml", "MAL MLR "}, {"mn", "MNG "},  {"mo", "MOL ROM "}, {"mr", "MAR "},     {"ms", "MLY "},
    {"mt", "MTS "},     {"my", "BRM "},  {"nb", "NOR "},     {"ne", "NEP "},     {"nl", "NLD "},
    {"nn", "NYN "},     {"no", "NOR "},  {"oc", "OCI "},     {"or", "ORI "},     {"os", "OSS "},
    {"pa", "PAN "},     {"pl", "PLK "},  {"ps", "PAS "},     {"pt", "PTG "},     {"rm", "RMS "},
    {"ro", "ROM "},     {"ru", "RUS "},  {"sa", "SAN "},     {"sd", "SND "},     {"se", "NSM "},
    {"si", "SNH "},     {"sk", "SKY "},  {"sl", "SLV "},     {"sma", "SSM "},    {"smj", "LSM "},
    {"smn", "ISM "},    {"sms", "SKS "}, {"so", "SML "},     {"sq", "SQI "},     {"sr", "SRB "},
    {"sv", "SVE "},     {"sw", "SWK "},  {"syr", "SYR "},    {"ta", "TAM "},     {"te", "TEL "},
    {"tg", "TAJ "},     {"th", "THA "},  {"ti", "TGY "},     {"tk", "TKM "},     {"tn", "TNA "},
    {"tr", "TRK "},     {"tt", "TAT "},  {"ug", "UYG "},     {"uk", "UKR "},     {"ur", "URD "},
    {"uz", "UZB "},     {"vi", "VIT "},  {"wo", "WLF "},     {"xh", "XHS "},     {"yi", "JII "},
    {"yo", "YBA "},     {"zu", "ZUL "},
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
  for (char& c : out) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c;
  return out;
}

/// Chinese is registered by its script and region.
Tag chinese_tag(const std::string& whole) {
  const auto has = [&](std::string_view part) { return whole.find(part) != std::string::npos; };
  if (has("-hk")) return tag("ZHH ");
  if (has("-mo")) return tag("ZHH ");
  if (has("-hant") || has("-tw")) return tag("ZHT ");
  return tag("ZHS ");
}

}  // namespace

std::vector<Tag> language_tags(std::string_view bcp47) {
  std::vector<Tag> out;
  const std::string whole = lower(bcp47);
  const std::string language = whole.substr(0, whole.find_first_of("-_"));
  if (language.size() < 2 || language.size() > 3) return out;
  if (language == "zh") return {chinese_tag(whole)};
  if (language == "ro" && whole.find("-md") != std::string::npos) out.push_back(tag("MOL "));
  const auto* found =
      std::lower_bound(std::begin(kExceptions), std::end(kExceptions), language,
                       [](const Exception& e, const std::string& l) { return e.language < l; });
  if (found != std::end(kExceptions) && found->language == language) {
    for (std::size_t at = 0; at < found->tags.size(); at += 4)
      out.push_back(tag_of(found->tags.substr(at, 4)));
    return out;
  }
  std::string three = language.size() == 3 ? language : uloc_getISO3Language(language.c_str());
  for (char& c : three) c = c >= 'a' && c <= 'z' ? static_cast<char>(c - 32) : c;
  if (three.size() == 3) out.push_back(tag_of(three));
  return out;
}

}  // namespace grafema::detail
