// SPDX-License-Identifier: MIT
// Web fonts: what is unpacked draws as what was packed, and lies about lengths are refused.
#include "support/web_font_builder.hpp"

#include <catch2/catch.hpp>

#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::vector<std::byte> dejavu_bytes() {
  const auto data = FontData::read(test::dejavu_path("DejaVuSansMono.ttf"));
  REQUIRE(data.has_value());
  return {data->bytes().begin(), data->bytes().end()};
}

/// A font whose left side bearings are all its glyphs' xMin, as the transform of hmtx asks for; all advances
/// are long.
std::vector<std::byte> font_with_plain_bearings(const std::vector<std::byte>& bytes) {
  test::FontBuilder builder(bytes);
  const auto face = *Face::open(FontData::borrow(bytes));
  std::vector<std::byte> metrics;
  for (std::uint32_t g = 0; g < face->glyph_count(); ++g) {
    const std::vector<std::byte>& loca = builder.table("loca");
    const bool wide = builder.table("head").at(51) != std::byte{0};
    const auto number = [&](const std::vector<std::byte>& t, std::size_t at, std::size_t n) {
      std::size_t v = 0;
      for (std::size_t i = 0; i < n; ++i) v = v << 8 | static_cast<std::size_t>(t.at(at + i));
      return v;
    };
    const std::size_t begin = wide ? number(loca, g * 4, 4) : number(loca, g * 2, 2) * 2,
                      end = wide ? number(loca, g * 4 + 4, 4) : number(loca, g * 2 + 2, 2) * 2;
    const std::size_t x_min = begin == end ? 0 : number(builder.table("glyf"), begin + 2, 2);
    const auto record = test::words(
        {static_cast<int>(face->advance(GlyphId{g})), static_cast<int>(static_cast<std::int16_t>(x_min))});
    metrics.insert(metrics.end(), record.begin(), record.end());
  }
  builder.table("hmtx") = metrics;
  builder.put16("hhea", 34, static_cast<int>(face->glyph_count()));
  return builder.bytes();
}

void check_same(const Face& a, const Face& b) {
  REQUIRE(a.glyph_count() == b.glyph_count());
  Contours x, y;
  for (std::uint32_t g = 0; g < a.glyph_count(); ++g) {
    REQUIRE(a.read_outline(GlyphId{g}, x).has_value());
    REQUIRE(b.read_outline(GlyphId{g}, y).has_value());
    INFO("glyph " << g);
    REQUIRE(x == y);
    REQUIRE(a.advance(GlyphId{g}) == b.advance(GlyphId{g}));
  }
  CHECK(a.characters() == b.characters());
  CHECK(a.names().license == b.names().license);
}

}  // namespace

TEST_CASE("a web font draws as the font that was packed", "[woff][property]") {
  const std::vector<std::byte> font =
      font_with_plain_bearings(GENERATE(true, false) ? test::dot_bytes() : dejavu_bytes());
  const auto plain = *Face::open(FontData::borrow(font));
  const auto check = [&](const std::vector<std::byte>& packed, Container container) {
    CHECK(find_container(packed) == container);
    const auto face = Face::open(FontData::borrow(packed));
    REQUIRE(face.has_value());
    check_same(*plain, **face);
  };
  check(test::to_woff(font), Container::woff);
  check(test::to_woff2({font}, false), Container::woff2);
  check(test::to_woff2({font}, true), Container::woff2);
}

TEST_CASE("a packed collection has all its faces", "[woff]") {
  const std::vector<std::byte> one = font_with_plain_bearings(test::dot_bytes()),
                               two = font_with_plain_bearings(dejavu_bytes());
  const bool transformed = GENERATE(false, true);
  const FontData packed = FontData::own(test::to_woff2({one, two}, transformed));
  REQUIRE(*Face::count(packed) == 2);
  const Result<FontData> plain = unpack(packed);
  REQUIRE(plain.has_value());
  CHECK(find_container(plain->bytes()) == Container::collection);
  check_same(**Face::open(FontData::borrow(one)), **Face::open(*plain, 0));
  check_same(**Face::open(FontData::borrow(two)), **Face::open(packed, 1));
  CHECK(Face::open(packed, 2).error().kind == ErrorKind::bad_value);
}

TEST_CASE("a web font cut or changed anywhere is an error or a font", "[woff][property]") {
  const int which = GENERATE(0, 1, 2);
  const std::vector<std::byte> font = font_with_plain_bearings(test::dot_bytes());
  const std::vector<std::byte> whole = which == 0 ? test::to_woff(font) : test::to_woff2({font}, which == 2);
  std::size_t refused = 0;
  for (std::size_t length = 0; length < whole.size(); length += 7) {
    const std::vector<std::byte> cut(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length));
    refused += Face::open(FontData::borrow(cut)) ? 0 : 1;
  }
  CHECK(refused == (whole.size() + 6) / 7);
  std::mt19937 random(5);
  for (int round = 0; round < 400; ++round) {
    std::vector<std::byte> changed = whole;
    changed[random() % (round % 2 == 0 ? 200 : changed.size())] = static_cast<std::byte>(random());
    const Result<FontData> plain = unpack(FontData::borrow(changed));
    if (plain) CHECK(plain->bytes().size() < 8 * whole.size() + (std::size_t{16} << 20));
  }
}

TEST_CASE("a web font that claims to be huge is refused before memory is taken", "[woff]") {
  std::vector<std::byte> font = test::to_woff(test::dot_bytes());
  for (std::size_t i = 0; i < 4; ++i) {
    font[44 + 12 + i] = std::byte{0x7F};
  }  // the first table's unpacked length
  const auto refused = Face::open(FontData::borrow(font));
  REQUIRE_FALSE(refused.has_value());
  CHECK(describe(refused.error(), "night.woff").find("a file of this size can hold") != std::string::npos);
}
