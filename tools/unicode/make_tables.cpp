// SPDX-License-Identifier: MIT
// Prints a table of src/unicode/: make_tables TABLE | blocks BLOCKS_TXT.
#include <unicode/uchar.h>
#include <unicode/unorm2.h>
#include <unicode/uscript.h>
#include <unicode/utf16.h>

#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <string>

namespace {

constexpr UChar32 kLast = 0x10FFFF;

void print_head(const char* content) {
  std::printf("// SPDX-License-Identifier: MIT\n// Made by tools/unicode/make_tables.cpp: %s.\n", content);
}

/// OpenType tags are the ISO 15924 codes in lower case but for the registered exceptions.
std::string opentype_tag(UScriptCode script) {
  switch (script) {
    case USCRIPT_COMMON:
    case USCRIPT_INHERITED:
    case USCRIPT_UNKNOWN:
      return {};
    case USCRIPT_HIRAGANA:
    case USCRIPT_KATAKANA:
      return "kana";
    case USCRIPT_LAO:
      return "lao ";
    case USCRIPT_YI:
      return "yi  ";
    case USCRIPT_NKO:
      return "nko ";
    case USCRIPT_VAI:
      return "vai ";
    default:
      break;
  }
  std::string tag = uscript_getShortName(script);
  tag[0] = static_cast<char>(tag[0] + 32);
  return tag;
}

std::string tag_of(UChar32 character) {
  UErrorCode status = U_ZERO_ERROR;
  return opentype_tag(uscript_getScript(character, &status));
}

/// Calls `print(first, last, value)` for each longest run of characters that `value_of` gives the same value.
template <class ValueOf, class Print>
void for_each_run(ValueOf value_of, Print print) {
  for (UChar32 first = 0; first <= kLast;) {
    const auto value = value_of(first);
    UChar32 last = first;
    while (last < kLast && value_of(last + 1) == value) ++last;
    print(static_cast<unsigned>(first), static_cast<unsigned>(last), value);
    first = last + 1;
  }
}

void print_scripts() {
  print_head("first and last character, OpenType script tag");
  for_each_run(tag_of, [](unsigned first, unsigned last, const std::string& tag) {
    if (!tag.empty()) std::printf("{0x%X, 0x%X, tag(\"%s\")},\n", first, last, tag.c_str());
  });
}

template <class Holds>
void print_set(Holds holds) {
  for_each_run(holds, [](unsigned first, unsigned last, bool value) {
    if (value) std::printf("{0x%X, 0x%X},\n", first, last);
  });
}

bool is_invisible(UChar32 c) {
  return u_charType(c) == U_CONTROL_CHAR || u_hasBinaryProperty(c, UCHAR_DEFAULT_IGNORABLE_CODE_POINT) != 0;
}

bool is_mark(UChar32 c) { return (U_GET_GC_MASK(c) & U_GC_M_MASK) != 0; }

bool is_assigned(UChar32 c) {
  const int category = u_charType(c);
  return category != U_UNASSIGNED && category != U_CONTROL_CHAR && category != U_SURROGATE;
}

/// Hangul syllables are left out: arithmetic tells theirs.
void print_compositions() {
  UErrorCode status = U_ZERO_ERROR;
  const UNormalizer2* normal = unorm2_getNFCInstance(&status);
  for (UChar32 c = 0; c <= kLast; ++c) {
    if (c >= 0xAC00 && c <= 0xD7A3) continue;
    UChar parts[8] = {};
    status = U_ZERO_ERROR;
    const int32_t length = unorm2_getRawDecomposition(normal, c, parts, 8, &status);
    if (length <= 0 || U_FAILURE(status)) continue;
    int32_t at = 0;
    UChar32 first = 0, second = 0;
    U16_NEXT(parts, at, length, first);
    if (at < length) U16_NEXT(parts, at, length, second);
    std::printf("{0x%X, 0x%X, 0x%X},\n", static_cast<unsigned>(c), static_cast<unsigned>(first),
                static_cast<unsigned>(second));
  }
}

void print_mirrors() {
  for (UChar32 c = 0; c <= kLast; ++c) {
    const UChar32 other = u_charMirror(c);
    if (other != c) std::printf("{0x%X, 0x%X},\n", static_cast<unsigned>(c), static_cast<unsigned>(other));
  }
}

/// Lines of Blocks.txt read "0000..007F; Basic Latin".
int print_blocks(const char* path) {
  std::ifstream in(path);
  if (!in) {
    std::fprintf(stderr, "make_tables: can't read %s\n", path);
    return 3;
  }
  print_head("name, first and last character, how many are assigned");
  for (std::string line; std::getline(in, line);) {
    const std::size_t dots = line.find(".."), semicolon = line.find("; ");
    if (line.empty() || line[0] == '#' || dots == std::string::npos || semicolon == std::string::npos) {
      continue;
    }
    const long first = std::strtol(line.c_str(), nullptr, 16),
               last = std::strtol(line.c_str() + dots + 2, nullptr, 16);
    int assigned = 0;
    for (long c = first; c <= last; ++c) assigned += is_assigned(static_cast<UChar32>(c)) ? 1 : 0;
    if (assigned == 0) continue;
    std::printf("{\"%s\", 0x%lX, 0x%lX, %d},\n", line.substr(semicolon + 2).c_str(), first, last, assigned);
  }
  return 0;
}

}  // namespace

int main(int argc, char** argv) {
  const std::string table = argc > 1 ? argv[1] : "";
  if (table == "blocks" && argc == 3) return print_blocks(argv[2]);
  if (table == "scripts") {
    print_scripts();
  } else if (table == "invisible") {
    print_head("controls and default-ignorable characters, first and last");
    print_set(is_invisible);
  } else if (table == "assigned") {
    print_head("assigned characters that are neither controls nor surrogates, first and last");
    print_set(is_assigned);
  } else if (table == "compositions") {
    print_head("canonical decompositions: the whole, its first part, its second or 0");
    print_compositions();
  } else if (table == "marks") {
    print_head("combining marks (category M), first and last");
    print_set(is_mark);
  } else if (table == "mirrors") {
    print_head("a character and its mirror image in text from right to left");
    print_mirrors();
  } else {
    std::fputs(
        "usage: make_tables scripts | invisible | assigned | compositions | marks | mirrors | blocks "
        "BLOCKS_TXT\n",
        stderr);
    return 2;
  }
  return 0;
}
