// SPDX-License-Identifier: MIT
// Reads names and turns them into UTF-8.
#include "font/characters/names.hpp"

#include "font/characters/text_encoding.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kHeaderBytes = 6, kRecordBytes = 12;

int rank(std::uint16_t platform, std::uint16_t encoding, std::uint16_t language) {
  if (find_encoding(platform, encoding, language) == TextEncoding::none) return 0;
  if (platform == 3) return language == 0x0409 ? 6 : (language & 0x3FF) == 9 ? 5 : 2;
  if (platform == 0) return 4;
  return language == 0 ? 3 : 1;
}

/// A text of `meta`: BCP 47 tags with commas between them.
std::string find_meta(const TableView& meta, Tag wanted) {
  const std::size_t count = meta.u32(12);
  for (std::size_t i = 0; i < count && meta.holds(16 + i * 12, 12); ++i) {
    const std::size_t record = 16 + i * 12, offset = meta.u32(record + 4), length = meta.u32(record + 8);
    if (Tag{meta.u32(record)} != wanted || !meta.holds(offset, length)) continue;
    std::string text(reinterpret_cast<const char*>(meta.bytes.data() + offset), length);
    for (char& c : text) c = c >= ' ' && c < 127 ? c : '?';
    return text;
  }
  return {};
}

}  // namespace

std::string find_name(const TableView& name, std::uint16_t id) {
  const std::size_t count = name.u16(2), storage = name.u16(4);
  int best = 0;
  std::string text;
  for (std::size_t i = 0; i < count && name.holds(kHeaderBytes + i * kRecordBytes, kRecordBytes); ++i) {
    const std::size_t record = kHeaderBytes + i * kRecordBytes;
    if (name.u16(record + 6) != id) continue;
    const std::uint16_t platform = name.u16(record), encoding = name.u16(record + 2),
                        language = name.u16(record + 4);
    const int value = rank(platform, encoding, language);
    const std::size_t length = name.u16(record + 8), offset = storage + name.u16(record + 10);
    if (value <= best || !name.holds(offset, length)) continue;
    std::string candidate =
        decode_text(find_encoding(platform, encoding, language), name.bytes.subspan(offset, length));
    if (candidate.empty()) continue;
    best = value;
    text = std::move(candidate);
  }
  while (!text.empty() && static_cast<unsigned char>(text.back()) <= ' ') text.pop_back();
  return text;
}

FaceNames read_names(const TableView& name, const TableView& meta) {
  enum Id : std::uint16_t {
    copyright,
    family,
    style,
    full = 4,
    version,
    postscript,
    trademark,
    manufacturer,
    designer,
    description,
    license = 13,
    url,
    typographic_family = 16,
    typographic_style,
    sample = 19,
  };
  FaceNames names;
  const auto first_of = [&name](std::uint16_t a, std::uint16_t b) {
    std::string text = find_name(name, a);
    return text.empty() ? find_name(name, b) : text;
  };
  names.family = first_of(typographic_family, family);
  names.style = first_of(typographic_style, style);
  names.full_name = find_name(name, full);
  names.version = find_name(name, version);
  names.postscript_name = find_name(name, postscript);
  names.copyright = find_name(name, copyright);
  names.trademark = find_name(name, trademark);
  names.manufacturer = find_name(name, manufacturer);
  names.designer = find_name(name, designer);
  names.description = find_name(name, description);
  names.license = find_name(name, license);
  names.license_url = find_name(name, url);
  names.sample = find_name(name, sample);
  names.design_languages = find_meta(meta, tag("dlng"));
  names.supported_languages = find_meta(meta, tag("slng"));
  return names;
}

}  // namespace grafema::detail
