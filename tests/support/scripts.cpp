// SPDX-License-Identifier: MIT
// Opens the faces of scripts and makes texts of them.
#include "support/scripts.hpp"

#include <algorithm>

#include "grafema/base/utf8.hpp"

namespace grafema::test {
namespace {

constexpr const char* kTrueType = "/usr/share/fonts/truetype/";

constexpr ScriptFace kFaces[] = {
    {"Devanagari", "lohit-devanagari/Lohit-Devanagari.ttf", 0x0900, 0x097F, 0x094D, 0x0915},
    {"Bengali", "lohit-bengali/Lohit-Bengali.ttf", 0x0980, 0x09FF, 0x09CD, 0x0995},
    {"Gurmukhi", "lohit-punjabi/Lohit-Gurmukhi.ttf", 0x0A00, 0x0A7F, 0x0A4D, 0x0A15},
    {"Gujarati", "lohit-gujarati/Lohit-Gujarati.ttf", 0x0A80, 0x0AFF, 0x0ACD, 0x0A95},
    {"Oriya", "lohit-oriya/Lohit-Odia.ttf", 0x0B00, 0x0B7F, 0x0B4D, 0x0B15},
    {"Tamil", "lohit-tamil-classical/Lohit-Tamil-Classical.ttf", 0x0B80, 0x0BFF, 0x0BCD, 0x0B95},
    {"Telugu", "lohit-telugu/Lohit-Telugu.ttf", 0x0C00, 0x0C7F, 0x0C4D, 0x0C15},
    {"Kannada", "lohit-kannada/Lohit-Kannada.ttf", 0x0C80, 0x0CFF, 0x0CCD, 0x0C95},
    {"Malayalam", "lohit-malayalam/Lohit-Malayalam.ttf", 0x0D00, 0x0D7F, 0x0D4D, 0x0D15},
    {"Sinhala", "sinhala/lklug.ttf", 0x0D80, 0x0DFF, 0x0DCA, 0x0D9A},
    {"Thai", "tlwg/Waree.ttf", 0x0E00, 0x0E5B, 0, 0x0E01},
    {"Lao", "dejavu/DejaVuSans.ttf", 0x0E80, 0x0EDF, 0, 0x0E81},
    {"Tibetan", "tibetan/DDC_Uchen.ttf", 0x0F00, 0x0FDA, 0, 0x0F40},
    {"Myanmar", "padauk/Padauk-Regular.ttf", 0x1000, 0x109F, 0x1039, 0x1000},
    {"Khmer", "mondulkiri/Mo5V56MO.ttf", 0x1780, 0x17F9, 0x17D2, 0x1780},
    {"Lepcha", "mingzat/Mingzat-Regular.ttf", 0x1C00, 0x1C4F, 0, 0x1C00},
    {"Meetei Mayek", "eeyek/Eeyek-Regular.ttf", 0xABC0, 0xABF9, 0xABED, 0xABC0},
    {"Arabic", "dejavu/DejaVuSans.ttf", 0x0620, 0x06FF, 0, 0x0628},
    {"Hebrew", "dejavu/DejaVuSans.ttf", 0x0591, 0x05F4, 0, 0x05D0},
    {"N'Ko", "dejavu/DejaVuSans.ttf", 0x07C0, 0x07FA, 0, 0x07CA},
};

}  // namespace

std::span<const ScriptFace> script_faces() { return kFaces; }

const ScriptFace& script_face(const std::string& name) {
  const auto* const found =
      std::find_if(std::begin(kFaces), std::end(kFaces), [&](const ScriptFace& s) { return name == s.name; });
  REQUIRE(found != std::end(kFaces));
  return *found;
}

std::shared_ptr<const Face> face_at(const std::string& path) {
  const auto data = FontData::read(kTrueType + path);
  REQUIRE(data.has_value());
  const auto face = Face::open(*data);
  REQUIRE(face.has_value());
  return *face;
}

std::shared_ptr<const Face> face_of(const ScriptFace& script) { return face_at(script.path); }

std::vector<std::byte> bytes_without(const std::string& path, const std::string& table) {
  const auto data = FontData::read(kTrueType + path);
  REQUIRE(data.has_value());
  std::vector<std::byte> bytes(data->bytes().begin(), data->bytes().end());
  constexpr std::size_t kDirectory = 12, kRecord = 16;
  const auto count = std::to_integer<std::size_t>(bytes[4]) << 8 | std::to_integer<std::size_t>(bytes[5]);
  for (std::size_t i = 0; i < count; ++i) {
    std::byte* const tag = &bytes[kDirectory + i * kRecord];
    const auto same = [&](std::size_t k) { return std::to_integer<char>(tag[k]) == table[k]; };
    if (same(0) && same(1) && same(2) && same(3)) tag[0] = std::byte{'#'};
  }
  return bytes;
}

std::shared_ptr<const Face> face_without(const std::string& path, const std::string& table) {
  const auto face = Face::open(FontData::copy(bytes_without(path, table)));
  REQUIRE(face.has_value());
  return *face;
}

std::string utf8(std::u32string_view characters) {
  std::string out;
  for (const char32_t c : characters) append_utf8(out, c);
  return out;
}

std::string random_syllables(const ScriptFace& script, const Face& face, std::mt19937& random) {
  const auto below = [&](std::uint32_t n) { return static_cast<std::uint32_t>(random() % n); };
  const auto any = [&] {
    for (int tries = 0; tries < 20; ++tries) {
      const char32_t c = script.first + below(static_cast<std::uint32_t>(script.last - script.first + 1));
      if (face.find_glyph(c) != kMissingGlyph) return c;
    }
    return script.letter;
  };
  std::u32string text;
  for (std::uint32_t n = 1 + below(8); n > 0; --n) {
    switch (below(10)) {
      case 0:
        text += below(2) == 0 ? U'\u200D' : U'\u200C';
        break;
      case 1:
        text += below(4) == 0 ? U'x' : U' ';
        break;
      case 2:
      case 3:
        if (script.virama != 0) text += script.virama;
        break;
      default:
        text += any();
        break;
    }
  }
  return utf8(text);
}

}  // namespace grafema::test
