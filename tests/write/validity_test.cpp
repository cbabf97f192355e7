// SPDX-License-Identifier: MIT
// Written files, byte by byte, as a strict reader would look at them.
#include <fmt/format.h>

#include <algorithm>
#include <catch2/catch.hpp>
#include <map>

#include "grafema/files/files.hpp"
#include "grafema/write/make_subset.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

class FontBytes {
 public:
  explicit FontBytes(std::string bytes) : bytes_(std::move(bytes)) {}
  std::uint32_t u8(std::size_t at) const {
    REQUIRE(at < bytes_.size());
    return static_cast<std::uint8_t>(bytes_[at]);
  }
  std::uint32_t u16(std::size_t at) const { return u8(at) << 8 | u8(at + 1); }
  std::int32_t s16(std::size_t at) const { return static_cast<std::int16_t>(u16(at)); }
  std::uint32_t u32(std::size_t at) const { return u16(at) << 16 | u16(at + 2); }
  std::size_t size() const { return bytes_.size(); }

 private:
  std::string bytes_;
};

struct FontTable {
  std::size_t at, size;
};

std::map<std::string, FontTable> read_directory(const FontBytes& font) {
  std::map<std::string, FontTable> tables;
  const std::uint32_t count = font.u16(4);
  std::uint32_t power = 1, log = 0;
  while (power * 2 <= count) power *= 2, ++log;
  CHECK(font.u16(6) == power * 16);
  CHECK(font.u16(8) == log);
  CHECK(font.u16(10) == (count - power) * 16);
  std::string before;
  std::size_t end = 12 + count * 16;
  for (std::uint32_t i = 0; i < count; ++i) {
    const std::size_t record = 12 + i * 16;
    std::string tag;
    for (std::size_t k = 0; k < 4; ++k) tag += static_cast<char>(font.u8(record + k));
    CHECK(before < tag);
    before = tag;
    const FontTable table{font.u32(record + 8), font.u32(record + 12)};
    CHECK(table.at == end);  // in their order, each on four bytes, nothing between
    end = table.at + (table.size + 3) / 4 * 4;
    std::uint32_t sum = 0;
    for (std::size_t w = 0; w < table.size; w += 4) {
      // The adjustment of head counts as 0.
      if (!(tag == "head" && w == 8)) sum += font.u32(table.at + w);
    }
    CHECK(sum == font.u32(record + 4));
    tables[tag] = table;
  }
  CHECK(end == font.size());
  std::uint32_t whole = 0;
  for (std::size_t w = 0; w < font.size(); w += 4) whole += font.u32(w);
  CHECK(whole == 0xB1B0AFBAU);
  return tables;
}

void check_outlines(const FontBytes& font, const std::map<std::string, FontTable>& tables) {
  const FontTable glyf = tables.at("glyf"), loca = tables.at("loca"), head = tables.at("head"),
                  maxp = tables.at("maxp");
  const std::uint32_t glyphs = font.u16(maxp.at + 4);
  const bool wide = font.u16(head.at + 50) == 1, starts_at_bearing = (font.u16(head.at + 16) & 2U) != 0;
  REQUIRE(loca.size == (glyphs + 1) * (wide ? 4 : 2));
  const auto offset = [&](std::uint32_t g) {
    return wide ? font.u32(loca.at + g * 4) : font.u16(loca.at + g * 2) * 2;
  };
  const std::uint32_t long_count = font.u16(tables.at("hhea").at + 34);
  std::uint32_t points = 0, contours = 0, parts = 0;
  std::int32_t low_x = 0, low_y = 0, high_x = 0, high_y = 0;
  bool any = false;
  for (std::uint32_t g = 0; g < glyphs; ++g) {
    const std::uint32_t begin = offset(g), end = offset(g + 1);
    REQUIRE(begin <= end);
    if (begin == end) continue;
    const std::size_t at = glyf.at + begin;
    const std::array<std::int32_t, 4> box = {font.s16(at + 2), font.s16(at + 4), font.s16(at + 6),
                                             font.s16(at + 8)};
    CHECK(box[0] <= box[2]);
    CHECK(box[1] <= box[3]);
    low_x = any ? std::min(low_x, box[0]) : box[0], low_y = any ? std::min(low_y, box[1]) : box[1];
    high_x = any ? std::max(high_x, box[2]) : box[2], high_y = any ? std::max(high_y, box[3]) : box[3];
    any = true;
    const std::size_t bearing = g < long_count ? g * 4 + 2 : long_count * 4 + (g - long_count) * 2;
    if (starts_at_bearing) CHECK(font.s16(tables.at("hmtx").at + bearing) == box[0]);
    if (font.s16(at) >= 0) {
      contours = std::max(contours, font.u16(at));
      points = std::max(points, font.u16(at + 10 + (font.u16(at) - 1) * 2) + 1);
      continue;
    }
    std::uint32_t count = 0;
    for (std::size_t part = at + 10;;) {
      const std::uint32_t flags = font.u16(part);
      ++count;
      CHECK(font.u16(part + 2) < glyphs);
      if ((flags & 0x20U) == 0) break;
      part += 4 + ((flags & 1U) != 0 ? 4 : 2) +
              ((flags & 8U) != 0      ? 2
               : (flags & 0x40U) != 0 ? 4
               : (flags & 0x80U) != 0 ? 8
                                      : 0);
    }
    parts = std::max(parts, count);
  }
  CHECK(offset(glyphs) == glyf.size);
  CHECK(font.u16(maxp.at + 6) == points);
  CHECK(font.u16(maxp.at + 8) == contours);
  CHECK(font.u16(maxp.at + 28) == parts);
  CHECK((font.u16(maxp.at + 30) > 0) >= (parts > 0));
  CHECK(std::array{font.s16(head.at + 36), font.s16(head.at + 38), font.s16(head.at + 40),
                   font.s16(head.at + 42)} == std::array{low_x, low_y, high_x, high_y});
}

}  // namespace

TEST_CASE("every shipped file is what the specification asks for", "[make_font][validity]") {
  for (const char* name : {"quillmere_dot", "quillmere_dot_europe", "quillmere_sans", "quillmere_sans_bold",
                           "quillmere_sans_variable", "quillmere_signs"}) {
    INFO(name);
    const auto text = load_text(fmt::format("{}/data/faces/{}.ttf", GRAFEMA_SOURCE_DIR, name));
    REQUIRE(text.has_value());
    const FontBytes font(*text);
    CHECK(font.u32(0) == 0x00010000);
    const auto tables = read_directory(font);
    check_outlines(font, tables);
    CHECK(font.u16(tables.at("head").at + 50) == 1);
    const std::uint32_t glyphs = font.u16(tables.at("maxp").at + 4);
    CHECK(font.u16(tables.at("hhea").at + 34) == glyphs);
    CHECK(tables.at("hmtx").size == glyphs * 4);
    const FontTable os2 = tables.at("OS/2"), post = tables.at("post"), names = tables.at("name"),
                    gasp = tables.at("gasp");
    CHECK(os2.size == 96);
    CHECK(font.u16(os2.at + 62) & 0xE0U);  // bold or regular
    CHECK(font.u16(gasp.at + 4) == 0xFFFF);
    if (font.u32(post.at) == 0x00020000) {
      CHECK(font.u16(post.at + 32) == glyphs);
      std::size_t at = post.at + 34 + glyphs * 2;
      for (std::uint32_t g = 1; g < glyphs; ++g) at += 1 + font.u8(at);
      CHECK(at == post.at + post.size);
    }
    const std::uint32_t count = font.u16(names.at + 2), strings = font.u16(names.at + 4);
    CHECK(strings == 6 + count * 12);
    std::uint32_t before = 0;
    for (std::uint32_t i = 0; i < count; ++i) {
      const std::size_t record = names.at + 6 + i * 12;
      const std::uint32_t id = font.u16(record + 6);
      CHECK((i == 0 || id > before));
      before = id;
      CHECK(strings + font.u16(record + 10) + font.u16(record + 8) <= names.size);
    }
    if (tables.contains("fvar")) {
      for (const char* needed : {"gvar", "avar", "STAT", "HVAR"}) CHECK(tables.contains(needed));
      CHECK(font.u16(tables.at("gvar").at + 12) == glyphs);
    }
    Notes notes;
    const auto face = Face::open(FontData::own(
        std::vector<std::byte>(reinterpret_cast<const std::byte*>(text->data()),
                               reinterpret_cast<const std::byte*>(text->data()) + text->size())));
    REQUIRE(face.has_value());
    Contours outline;
    for (std::uint32_t g = 0; g < glyphs; ++g)
      CHECK((*face)->read_outline(GlyphId{static_cast<std::uint16_t>(g)}, outline).has_value());
  }
}

TEST_CASE("subsets are what the specification asks for", "[subset][validity]") {
  std::vector<std::string> paths = {test::dejavu_path("DejaVuSans.ttf"),
                                    test::dejavu_path("DejaVuSerif-Bold.ttf")};
  for (const char* name : {"quillmere_sans", "quillmere_sans_variable", "quillmere_signs"}) {
    paths.push_back(fmt::format("{}/data/faces/{}.ttf", GRAFEMA_SOURCE_DIR, name));
  }
  for (const std::string& path : paths) {
    INFO(path);
    const auto face = open_face(path);
    REQUIRE(face.has_value());
    SubsetRecipe recipe;
    for (const char32_t c : U"AVfiéÄ \uE000\uE001") recipe.characters.push_back(c);
    const auto subset = make_subset(**face, recipe);
    REQUIRE(subset.has_value());
    const FontBytes font(
        std::string(reinterpret_cast<const char*>(subset->font.data()), subset->font.size()));
    const auto tables = read_directory(font);
    check_outlines(font, tables);
    const std::uint32_t glyphs = font.u16(tables.at("maxp").at + 4),
                        advances = font.u16(tables.at("hhea").at + 34);
    CHECK(glyphs == subset->glyphs.size());
    CHECK(tables.at("hmtx").size == advances * 4 + (glyphs - advances) * 2);
    std::uint32_t widest = 0;
    for (std::uint32_t i = 0; i < advances; ++i)
      widest = std::max(widest, font.u16(tables.at("hmtx").at + i * 4));
    CHECK(font.u16(tables.at("hhea").at + 10) == widest);
    // Names ascend by platform, encoding, language and number.
    const FontTable names = tables.at("name");
    std::uint64_t before = 0;
    for (std::uint32_t i = 0; i < font.u16(names.at + 2); ++i) {
      const std::size_t record = names.at + 6 + i * 12;
      const std::uint64_t key = std::uint64_t{font.u32(record)} << 32 | font.u32(record + 4);
      CHECK((i == 0 || key > before));
      before = key;
      CHECK(font.u16(names.at + 4) + font.u16(record + 10) + font.u16(record + 8) <= names.size);
    }
  }
}
