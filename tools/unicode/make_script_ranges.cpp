// SPDX-License-Identifier: MIT
// Prints src/font/script_ranges.inc from ICU's Unicode data: ranges of characters and their OpenType script tags.
#include <unicode/uscript.h>

#include <cstdio>
#include <string>

namespace {

/// OpenType tags are the ISO 15924 codes in lower case but for the registered exceptions.
std::string opentype_tag(UScriptCode script) {
  switch (script) {
    case USCRIPT_COMMON:
    case USCRIPT_INHERITED:
    case USCRIPT_UNKNOWN: return {};
    case USCRIPT_HIRAGANA:
    case USCRIPT_KATAKANA: return "kana";
    case USCRIPT_LAO: return "lao ";
    case USCRIPT_YI: return "yi  ";
    case USCRIPT_NKO: return "nko ";
    case USCRIPT_VAI: return "vai ";
    default: break;
  }
  std::string tag = uscript_getShortName(script);
  tag[0] = static_cast<char>(tag[0] + 32);
  return tag;
}

std::string tag_of(UChar32 character) {
  UErrorCode status = U_ZERO_ERROR;
  return opentype_tag(uscript_getScript(character, &status));
}

}  // namespace

int main() {
  std::puts("// SPDX-License-Identifier: MIT\n// Made by tools/unicode/make_script_ranges.cpp: first and last character, OpenType script tag.");
  for (UChar32 first = 0; first <= 0x10FFFF;) {
    const std::string tag = tag_of(first);
    UChar32 last = first;
    while (last < 0x10FFFF && tag_of(last + 1) == tag) ++last;
    if (!tag.empty()) {
      std::printf("{0x%X, 0x%X, tag(\"%s\")},\n", static_cast<unsigned>(first), static_cast<unsigned>(last), tag.c_str());
    }
    first = last + 1;
  }
  return 0;
}
