// SPDX-License-Identifier: MIT
// A baked atlas as drawing and layout see it.
#include <catch2/catch.hpp>

#include "grafema/atlas/atlas_source.hpp"
#include "support/scene.hpp"

using namespace grafema;

TEST_CASE("every glyph of the atlas is resolved in bulk, others are absent", "[atlas_source][property]") {
  const auto atlas = test::atlas_of(test::dejavu());
  AtlasSource source(atlas);
  std::vector<GlyphKey> keys;
  for (const AtlasGlyph& glyph : atlas->glyphs) keys.push_back({atlas->faces[0].id, glyph.glyph});
  keys.push_back({atlas->faces[0].id, GlyphId{60000}});
  keys.push_back({FaceId{12345}, GlyphId{36}});
  std::vector<GlyphPicture> sprites(keys.size());
  source.resolve(keys, sprites);
  for (std::size_t i = 0; i < atlas->glyphs.size(); ++i) {
    const AtlasGlyph& glyph = atlas->glyphs[i];
    REQUIRE(sprites[i].state == (glyph.page ? PictureState::ready : PictureState::empty));
    if (!glyph.page) continue;
    CHECK(sprites[i].cell == std::array<std::uint16_t, 4>{static_cast<std::uint16_t>(glyph.cell.x),
                                                          static_cast<std::uint16_t>(glyph.cell.y),
                                                          static_cast<std::uint16_t>(glyph.cell.width),
                                                          static_cast<std::uint16_t>(glyph.cell.height)});
    CHECK(sprites[i].offset == glyph.offset);
    CHECK(sprites[i].reach == 6);
  }
  CHECK(sprites[keys.size() - 2].state == PictureState::absent);
  CHECK(sprites[keys.size() - 1].state == PictureState::absent);
}

TEST_CASE("a page is new to whoever has not its revision; it and the epoch move with the atlas alone",
          "[atlas_source]") {
  AtlasSource source(test::atlas_of(built_in_face())), other(test::atlas_of(built_in_face()));
  CHECK(source.id() != other.id());
  PixelRect changes[4];
  REQUIRE(source.changes_since(0, 0, changes) == 1);
  CHECK(changes[0] == PixelRect{0, 0, source.pages()[0].width, source.pages()[0].height});
  const std::uint64_t epoch = source.epoch(), revision = source.pages()[0].revision;
  CHECK(source.changes_since(0, revision, changes) == 0);
  CHECK(source.epoch() == epoch);
  source.replace(test::atlas_of(test::dejavu()));
  CHECK(source.epoch() != epoch);
  CHECK(source.changes_since(0, revision, changes) == 1);
}

TEST_CASE("an atlas gives the boxes that the face gives, within the rounding of cells",
          "[atlas_source][property]") {
  const auto face = test::dejavu();
  const auto kind = GENERATE(PictureKind::coverage, PictureKind::distance, PictureKind::distance_rgb,
                             PictureKind::distance_rgba);
  const FontStack alone = atlas_stack(test::atlas_of(face, kind, 48));
  for (const char32_t c : U"Ag.Wj") {
    if (c == 0) continue;
    const GlyphId glyph = face->find_glyph(c);
    const float scale = 48 / face->units_per_em();
    const FontRect whole = face->glyph_box(glyph), box = alone[0]->glyph_box(glyph);
    CHECK(box.x_min == Approx(whole.x_min * scale).margin(1.01));
    CHECK(box.y_min == Approx(whole.y_min * scale).margin(1.01));
    CHECK(box.x_max == Approx(whole.x_max * scale).margin(1.01));
    CHECK(box.y_max == Approx(whole.y_max * scale).margin(1.01));
  }
}

TEST_CASE("text measured from an atlas alone is what the face measures", "[atlas_source][property]") {
  const auto face = test::dejavu();
  const auto kind = GENERATE(PictureKind::coverage, PictureKind::distance);
  const auto atlas = test::atlas_of(face, kind, 48);
  const FontStack alone = atlas_stack(atlas), whole{{face}};
  ShapeCache cache;
  Paragraph a, b;
  for (const char* text : {"TRAMWAY Ty. LT", "Foxglove Cross", "7:15 (late)"}) {
    REQUIRE(lay_out(alone, text, {.size = 30, .tracking = 1}, cache, a).has_value());
    REQUIRE(lay_out(whole, text, {.size = 30, .tracking = 1}, cache, b).has_value());
    CHECK(a.advance_box.width() == Approx(b.advance_box.width()).epsilon(1e-5));
    CHECK(a.lines[0].baseline == Approx(b.lines[0].baseline));
    CHECK(index_of(a.glyphs[3].glyph) == index_of(b.glyphs[3].glyph));
    const Rect near = ink_box(alone, a), exact = ink_box(whole, b);
    CHECK(near.right == Approx(exact.right).margin(1));
    CHECK(near.top == Approx(exact.top).margin(1));
  }
  CHECK(alone[0]->face() == nullptr);
  CHECK(alone[0]->id() == face->id());
}
