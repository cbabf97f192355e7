// SPDX-License-Identifier: MIT
// Fonts cut short, changed at random, or absurd by construction: an error or a smaller face.
#include <algorithm>
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/base/utf8.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/write/make_font.hpp"
#include "support/font_builder.hpp"
#include "support/support.hpp"

using namespace grafema;

namespace {

/// What a face offers, all of it asked for.
struct Used {
  std::size_t drawn = 0;  ///< glyphs that had an outline
  bool sound = true;      ///< every number is finite, every glyph is one of the face, every text is UTF-8
};

bool is_finite(const Contours& outline) {
  return std::all_of(outline.points.begin(), outline.points.end(),
                     [](FontPoint p) { return std::isfinite(p.x) && std::isfinite(p.y); });
}

bool is_sound(const FaceNames& names) {
  const std::string* all[] = {&names.family,      &names.style,       &names.full_name, &names.version,
                              &names.copyright,   &names.license,     &names.trademark, &names.designer,
                              &names.description, &names.license_url, &names.sample};
  return std::none_of(std::begin(all), std::end(all),
                      [](const std::string* text) { return find_invalid_utf8(*text).has_value(); });
}

bool is_sound(const FaceFacts& facts) {
  const float all[] = {facts.cap_height,
                       facts.x_height,
                       facts.underline_position,
                       facts.underline_thickness,
                       facts.strikeout_position,
                       facts.strikeout_thickness,
                       facts.slant,
                       facts.crisp_size};
  return std::all_of(std::begin(all), std::end(all), [](float v) { return std::isfinite(v); });
}

Used use(const Face& face) {
  Used used;
  Contours outline;
  for (std::uint32_t g = 0; g < std::min(face.glyph_count(), 300U); ++g) {
    const bool read = face.read_outline(GlyphId{g}, outline).has_value();
    used.drawn += read && !outline.commands.empty() ? 1 : 0;
    used.sound = used.sound && (!read || is_finite(outline)) && std::isfinite(face.advance(GlyphId{g})) &&
                 std::isfinite(face.kerning(GlyphId{g}, GlyphId{g / 2}, tag("latn")));
  }
  for (const auto& [character, glyph] : face.characters()) {
    used.sound = used.sound && character <= 0x10FFFF && index_of(glyph) < face.glyph_count();
  }
  const std::vector<Tag> features = face.features();
  used.sound = used.sound && is_sound(face.names()) && is_sound(face.facts()) && face.units_per_em() > 0 &&
               std::is_sorted(features.begin(), features.end());
  return used;
}

Used open_and_use(const std::vector<std::byte>& bytes) {
  const auto face = Face::open(FontData::borrow(bytes));
  return face ? use(**face) : Used{};
}

/// A font of a few letters, small enough to be cut at every byte.
std::vector<std::byte> small_font() {
  FontDrawing drawing;
  drawing.names.family = "Tiny";
  drawing.names.style = "Regular";
  drawing.lines = {800, 200, 0};
  for (char32_t c = 0x40; c < 0x46; ++c) {
    DrawnGlyph glyph;
    if (c > 0x40) glyph.characters = {c};
    glyph.outline = test::polygon({{0, 0}, {0, 700}, {static_cast<float>(c * 6), 700}, {400, 0}});
    glyph.advance = 500;
    drawing.glyphs.push_back(glyph);
  }
  drawing.kerning = {{U'A', U'B', -50}, {U'B', U'A', 20}};
  return *make_font(drawing);
}

}  // namespace

TEST_CASE("a font cut at any byte is an error or a smaller face", "[face][property]") {
  const std::vector<std::byte> whole = small_font();
  CHECK(open_and_use(whole).drawn == 6);
  std::size_t refused = 0;
  for (std::size_t length = 0; length < whole.size(); ++length) {
    // A copy of its own, so that a sanitizer sees any step past the end.
    const std::vector<std::byte> cut(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length));
    const auto face = Face::open(FontData::borrow(cut));
    refused += face ? 0 : 1;
    if (!face) continue;
    const Used used = use(**face);
    CHECK(used.drawn <= 6);
    CHECK(used.sound);
  }
  CHECK(refused > 100);
}

TEST_CASE("the built-in font cut at many places is never read past its end", "[face][property]") {
  const std::vector<std::byte> whole = test::dot_bytes();
  for (std::size_t length = 0; length < whole.size(); length += 13) {
    const std::vector<std::byte> cut(whole.begin(), whole.begin() + static_cast<std::ptrdiff_t>(length));
    CHECK(open_and_use(cut).sound);
  }
  CHECK(open_and_use(whole).drawn == 130);
}

TEST_CASE("random bytes changed are an error or another face", "[face][property]") {
  const std::vector<std::byte> whole = small_font();
  const unsigned seed = GENERATE(range(0U, 8U));
  std::mt19937 random(seed);
  for (int round = 0; round < 250; ++round) {
    std::vector<std::byte> changed = whole;
    for (unsigned i = 0; i <= random() % 6; ++i) {
      changed[random() % changed.size()] = static_cast<std::byte>(random());
    }
    CHECK(open_and_use(changed).sound);
  }
}

TEST_CASE("random bytes of a large real face changed are survived", "[face][property]") {
  const auto data = FontData::read(test::dejavu_path("DejaVuSansMono.ttf"));
  REQUIRE(data.has_value());
  std::vector<std::byte> bytes(data->bytes().begin(), data->bytes().end());
  std::mt19937 random(99);
  for (int round = 0; round < 30; ++round) {
    std::vector<std::byte> changed = bytes;
    for (int i = 0; i < 2000; ++i) {
      changed[300 + random() % (changed.size() - 300)] = static_cast<std::byte>(random());
    }
    CHECK(open_and_use(changed).sound);
  }
}

TEST_CASE("files that are no fonts are told from damaged ones", "[face]") {
  const auto kind = [](std::string_view text) {
    return Face::open(FontData::copy(std::as_bytes(std::span(text.data(), text.size())))).error().kind;
  };
  CHECK(kind("") == ErrorKind::not_a_font);
  CHECK(kind("\x89PNG\r\n") == ErrorKind::not_a_font);
  CHECK(kind("The night tram leaves at 23:04") == ErrorKind::not_a_font);
  CHECK(kind(std::string_view("\0\1\0\0\0\7", 6)) == ErrorKind::damaged);
}

TEST_CASE("a missing or empty required table is named", "[face]") {
  const std::string name = GENERATE("head", "hhea", "maxp", "hmtx");
  test::FontBuilder builder;
  builder.remove(name);
  const auto face = Face::open(FontData::own(builder.bytes()));
  REQUIRE_FALSE(face.has_value());
  CHECK(to_string(face.error().table) == name);
}

TEST_CASE("a composite that holds itself is refused", "[glyf]") {
  test::FontBuilder builder;
  // Glyph 0 becomes a composite of glyph 0: header, then flags "offsets", glyph 0, offsets 0 0.
  const std::vector<std::byte> loop = test::words({-1, 0, 0, 0, 0, 0x0002, 0, 0});
  std::copy(loop.begin(), loop.end(), builder.table("glyf").begin());
  Contours outline;
  const auto read = builder.face()->read_outline(GlyphId{0}, outline);
  REQUIRE_FALSE(read.has_value());
  CHECK(read.error().table == tag("glyf"));
  CHECK(outline.commands.empty());
}
