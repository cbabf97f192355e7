// SPDX-License-Identifier: MIT
// Fonts packed as WOFF2 unpack to the same outlines, metrics and tables.
#include "grafema/files/web_font_file.hpp"

#include <catch2/catch.hpp>

#include "grafema/files/files.hpp"
#include "support/font_builder.hpp"
#include "support/same_face.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

std::vector<std::byte> file_of(const std::string& path) {
  const FontData data = *FontData::read(path);
  return {data.bytes().begin(), data.bytes().end()};
}

/// Every table but those that packing writes anew is the same.
void check_packed(const std::vector<std::byte>& file) {
  const auto packed = make_web_font(file);
  REQUIRE(packed.has_value());
  CHECK(find_container(*packed) == Container::woff2);
  CHECK(packed->size() * 10 < file.size() * 8);
  const auto whole = *Face::open(FontData::borrow(file)), face = *Face::open(FontData::copy(*packed));
  CHECK(face->table_tags() == whole->table_tags());
  for (const Tag tag : whole->table_tags()) {
    if (tag == grafema::tag("glyf") || tag == grafema::tag("loca") || tag == grafema::tag("head")) continue;
    const auto a = whole->table(tag), b = face->table(tag);
    INFO(to_string(tag));
    CHECK(std::equal(a.begin(), a.end(), b.begin(), b.end()));
  }
  REQUIRE(face->glyph_count() == whole->glyph_count());
  Contours a, b;
  for (std::uint32_t g = 0; g < face->glyph_count(); ++g) {
    const bool read = whole->read_outline(GlyphId{g}, a).has_value();
    CHECK(face->read_outline(GlyphId{g}, b).has_value() == read);
    if (read && !(a == b)) FAIL("outline of glyph " << g);
  }
}

}  // namespace

TEST_CASE("a packed font is the same font", "[web_font]") {
  check_packed(file_of(test::dejavu_path("DejaVuSans.ttf")));  // composites with instructions
  for (const char* name : {"quillmere_sans.ttf", "quillmere_sans_variable.ttf", "quillmere_dot.ttf"}) {
    check_packed(file_of(std::string(GRAFEMA_SOURCE_DIR "/data/faces/") + name));
  }
}

TEST_CASE("outlines that can't be transformed go as they are", "[web_font]") {
  test::FontBuilder builder;
  std::vector<std::byte>& loca = builder.table("loca");
  loca.resize(loca.size() - 4);  // the end of the last glyph is missing
  const auto packed = make_web_font(builder.bytes());
  REQUIRE(packed.has_value());
  const auto face = *Face::open(FontData::copy(*packed));
  const auto glyf = face->table(tag("glyf"));
  CHECK(std::equal(glyf.begin(), glyf.end(), builder.table("glyf").begin(), builder.table("glyf").end()));
}

TEST_CASE("a glyph of more points than readers take goes as it is", "[web_font]") {
  // A flag that repeats 256 times, 256 times over: 65,536 points in one place.
  std::vector<std::byte> glyph = test::words({1, 0, 0, 0, 0, -1, 0});
  for (int i = 0; i < 256; ++i) glyph.push_back(std::byte{0x39}), glyph.push_back(std::byte{0xFF});
  test::FontBuilder builder;
  builder.table("glyf") = glyph;
  std::vector<std::byte>& loca = builder.table("loca");
  for (std::size_t i = 0; i < loca.size(); i += 4) {
    const std::size_t end = i == 0 ? 0 : glyph.size();
    for (std::size_t b = 0; b < 4; ++b) loca[i + b] = static_cast<std::byte>(end >> (8 * (3 - b)));
  }
  const auto packed = make_web_font(builder.bytes());
  REQUIRE(packed.has_value());
  const auto face = Face::open(FontData::copy(*packed));
  REQUIRE(face.has_value());
  CHECK((*face)->table(tag("glyf")).size() == glyph.size());
}

TEST_CASE("a composite of another negative count is packed as one", "[web_font]") {
  test::FontBuilder builder;
  const std::vector<std::byte> glyph = test::words({-5, 0, 0, 0, 0, 2, 2, 0});  // glyph 2 in its place
  std::vector<std::byte>&glyf = builder.table("glyf"), &loca = builder.table("loca");
  const std::size_t at =
      static_cast<std::size_t>(loca[34 * 4 + 2]) << 8 | static_cast<std::size_t>(loca[34 * 4 + 3]);
  std::copy(glyph.begin(), glyph.end(), glyf.begin() + static_cast<std::ptrdiff_t>(at));
  const auto whole = builder.face();
  const auto packed = make_web_font(builder.bytes());
  REQUIRE(packed.has_value());
  const auto face = Face::open(FontData::copy(*packed));
  REQUIRE(face.has_value());
  Contours a, b;
  REQUIRE(whole->read_outline(GlyphId{34}, a).has_value());
  REQUIRE((*face)->read_outline(GlyphId{34}, b).has_value());
  CHECK((a == b && !a.points.empty()));
}

TEST_CASE("what is no font is not packed", "[web_font]") {
  CHECK(make_web_font({}).error().kind == ErrorKind::damaged);
  std::vector<std::byte> cut = test::dot_bytes();
  cut.resize(cut.size() / 2);
  CHECK(make_web_font(cut).error().kind == ErrorKind::damaged);
}
