// SPDX-License-Identifier: MIT
// Written files, byte by byte, as a strict reader would look at them.
#include <fmt/format.h>

#include <algorithm>
#include <catch2/catch.hpp>
#include <map>

#include "grafema/files/files.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

class Bytes {
 public:
  explicit Bytes(std::string bytes) : bytes_(std::move(bytes)) {}
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

struct Table {
  std::size_t at, size;
};

std::map<std::string, Table> read_directory(const Bytes& font) {
  std::map<std::string, Table> tables;
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
    const Table table{font.u32(record + 8), font.u32(record + 12)};
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

void check_outlines(const Bytes& font, const std::map<std::string, Table>& tables) {
  const Table glyf = tables.at("glyf"), loca = tables.at("loca"), head = tables.at("head"),
              maxp = tables.at("maxp");
  const std::uint32_t glyphs = font.u16(maxp.at + 4);
  CHECK(font.u16(head.at + 50) == 1);
  REQUIRE(loca.size == (glyphs + 1) * 4);
  std::uint32_t points = 0, contours = 0, parts = 0;
  std::int32_t low_x = 0, low_y = 0, high_x = 0, high_y = 0;
  bool any = false;
  for (std::uint32_t g = 0; g < glyphs; ++g) {
    const std::uint32_t begin = font.u32(loca.at + g * 4), end = font.u32(loca.at + g * 4 + 4);
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
    CHECK(font.s16(tables.at("hmtx").at + g * 4 + 2) == box[0]);  // the bearing that head's flags promise
    if (font.s16(at) >= 0) {
      contours = std::max(contours, font.u16(at));
      points = std::max(points, font.u16(at + 10 + (font.u16(at) - 1) * 2) + 1);
      continue;
    }
    std::uint32_t count = 0;
    for (std::size_t part = at + 10;; part += 8) {
      ++count;
      CHECK(font.u16(part + 2) < glyphs);
      if ((font.u16(part) & 0x20U) == 0) break;
    }
    parts = std::max(parts, count);
  }
  CHECK(font.u32(loca.at + glyphs * 4) == glyf.size);
  CHECK(font.u16(maxp.at + 6) == points);
  CHECK(font.u16(maxp.at + 8) == contours);
  CHECK(font.u16(maxp.at + 28) == parts);
  CHECK(font.u16(maxp.at + 30) == (parts > 0 ? 1 : 0));
  CHECK(std::array{font.s16(head.at + 36), font.s16(head.at + 38), font.s16(head.at + 40),
                   font.s16(head.at + 42)} == std::array{low_x, low_y, high_x, high_y});
}

}  // namespace

TEST_CASE("every shipped file is what the specification asks for", "[make_font][validity]") {
  for (const char* name : {"quillmere_dot", "quillmere_sans", "quillmere_sans_bold",
                           "quillmere_sans_variable", "quillmere_signs"}) {
    INFO(name);
    const auto text = load_text(fmt::format("{}/data/faces/{}.ttf", GRAFEMA_SOURCE_DIR, name));
    REQUIRE(text.has_value());
    const Bytes font(*text);
    CHECK(font.u32(0) == 0x00010000);
    const auto tables = read_directory(font);
    check_outlines(font, tables);
    const std::uint32_t glyphs = font.u16(tables.at("maxp").at + 4);
    CHECK(font.u16(tables.at("hhea").at + 34) == glyphs);
    CHECK(tables.at("hmtx").size == glyphs * 4);
    const Table os2 = tables.at("OS/2"), post = tables.at("post"), names = tables.at("name"),
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
