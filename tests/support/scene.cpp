// SPDX-License-Identifier: MIT
// Scenes, cameras and pictures for tests of drawing.
#include "support/scene.hpp"

#include <cmath>

#include "grafema/atlas/bake.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::test {

std::shared_ptr<const Atlas> atlas_of(const std::shared_ptr<const Face>& face, PictureKind kind, float size,
                                      int bits) {
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters = *read_character_set("ascii");
  recipe.kind = kind;
  recipe.size = size;
  recipe.bits = bits;
  Result<Atlas> atlas = bake(recipe);
  REQUIRE(atlas.has_value());
  return std::make_shared<const Atlas>(*std::move(atlas));
}

std::shared_ptr<const Atlas> color_atlas() {
  Atlas atlas;
  const auto face = built_in_face();
  atlas.pages.push_back({*Image::make(64, 32, PixelFormat::rgba8), PictureKind::color});
  Image& page = atlas.pages[0].image;
  for (int y = 0; y < 32; ++y) {
    for (int x = 0; x < 32; ++x) {
      std::uint8_t* disk = page.row(y) + x * 4;
      const double r = std::hypot(x - 15.5, y - 15.5);
      disk[0] = x < 16 ? 220 : 20, disk[2] = x < 16 ? 20 : 220,
      disk[3] = static_cast<std::uint8_t>(std::clamp(15.5 - r, 0.0, 1.0) * 255);
      std::uint8_t* square = disk + 32 * 4;
      square[0] = square[1] = 200, square[3] = 128;
    }
  }
  atlas.faces.push_back({face->id(), "Quillmere Dot", "Regular", "", ""});
  atlas.strikes.push_back({0, PictureKind::color, 32, 0, 0, {24, 8, 0}});
  for (int i = 0; i < 2; ++i) {
    AtlasGlyph glyph;
    glyph.glyph = face->find_glyph(i == 0 ? U'A' : U'B');
    glyph.codepoints = {i == 0 ? U'A' : U'B'};
    glyph.page = 0;
    glyph.cell = {32 * i, 0, 32, 32};
    glyph.offset = {0, -24};
    glyph.advance = 34;
    atlas.glyphs.push_back(glyph);
  }
  return std::make_shared<const Atlas>(std::move(atlas));
}

Image filled(const View& view, const Color& color) {
  Image image = *Image::make(static_cast<int>(view.width), static_cast<int>(view.height), PixelFormat::rgba8);
  fill_image(image, color);
  return image;
}

Image in_software(TextScene& words, const View& view, Blending blending, const Color& backdrop,
                  double seconds) {
  Image image = filled(view, backdrop);
  REQUIRE(words.update(view, seconds).has_value());
  REQUIRE(draw_in_software(words.memory(), blending, image).has_value());
  return image;
}

Image in_opengl(TextScene& words, const View& view, Blending blending, const Color& backdrop,
                OpenGLFlavor flavor, double seconds) {
  auto offscreen =
      OpenGLOffscreen::make(static_cast<int>(view.width), static_cast<int>(view.height), flavor, blending);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  INFO((renderer ? "" : describe(renderer.error())));
  REQUIRE(renderer.has_value());
  offscreen->put(filled(view, backdrop));
  REQUIRE(words.update(view, seconds).has_value());
  REQUIRE(renderer->draw(words.memory(), blending).has_value());
  Image image = offscreen->read();
  for (const std::string& complaint : offscreen->complaints()) {
    INFO(complaint);
    CHECK(offscreen->complaints().empty());
  }
  return image;
}

std::vector<DrawnGlyph> all_drawn(const SceneMemory& memory) {
  std::vector<DrawnGlyph> out;
  for (const SceneBatch& batch : memory.batches()) {
    for (const std::uint32_t entry : memory.order().subspan(batch.first, batch.count)) {
      if (entry == kNoGlyph) continue;
      const GlyphRecord& glyph = memory.glyphs()[entry / 8];
      const LabelRow& row = memory.rows()[glyph.row];
      if (row.tint[3] == 0) continue;
      out.push_back(
          {glyph, memory.layers()[glyph.record + entry % 8], row, memory.arrays()[glyph.page / 2048U].kind});
    }
  }
  return out;
}

std::size_t drawn_glyphs(const SceneMemory& memory) { return all_drawn(memory).size(); }

PixelPoint corner_of(const DrawnGlyph& drawn, const View& view, float x, float y) {
  const GlyphRecord& glyph = drawn.glyph;
  const LayerRecord& layer = drawn.layer;
  const LabelRow& row = drawn.row;
  const float wide = static_cast<float>(glyph.cell[2] + 1) * layer.pixel,
              high = static_cast<float>(glyph.cell[3] + 1) * layer.pixel;
  const float px = glyph.x + x * wide + layer.shift_x * layer.pixel - layer.lean * y * high,
              py = glyph.y + y * high + layer.shift_y * layer.pixel;
  const auto at = [&](std::size_t k) { return row.across[k] * px + row.down[k] * py + row.origin[k]; };
  return {(at(0) / at(3) + 1) / 2 * view.width, (1 - at(1) / at(3)) / 2 * view.height};
}

std::string first_difference(const Image& a, const Image& b, int most) {
  for (int y = 0; y < a.height(); ++y) {
    for (int x = 0; x < a.width(); ++x) {
      for (int c = 0; c < 4; ++c) {
        if (std::abs(a.value(x, y, c) - b.value(x, y, c)) <= most) continue;
        return "channel " + std::to_string(c) + " at " + std::to_string(x) + ", " + std::to_string(y) + ": " +
               std::to_string(a.value(x, y, c)) + " and " + std::to_string(b.value(x, y, c));
      }
    }
  }
  return {};
}

double share_that_differs(const Image& a, const Image& b, int most) {
  REQUIRE(a.width() == b.width());
  REQUIRE(a.height() == b.height());
  int count = 0;
  for (int y = 0; y < a.height(); ++y) {
    for (int x = 0; x < a.width(); ++x) {
      int worst = 0;
      for (int c = 0; c < 4; ++c) worst = std::max(worst, std::abs(a.value(x, y, c) - b.value(x, y, c)));
      count += worst > most ? 1 : 0;
    }
  }
  return static_cast<double>(count) / (a.width() * a.height());
}

Matrix4 multiplied(const Matrix4& a, const Matrix4& b) {
  Matrix4 out;
  for (std::size_t c = 0; c < 4; ++c) {
    for (std::size_t r = 0; r < 4; ++r) {
      out.m[c * 4 + r] = 0;
      for (std::size_t k = 0; k < 4; ++k) out.m[c * 4 + r] += a.m[k * 4 + r] * b.m[c * 4 + k];
    }
  }
  return out;
}

Matrix4 perspective(float degrees, float aspect, float near, float far) {
  const float f = 1 / std::tan(degrees * 3.14159265F / 360);
  return {{f / aspect, 0, 0, 0, 0, f, 0, 0, 0, 0, (far + near) / (near - far), -1, 0, 0,
           2 * far * near / (near - far), 0}};
}

Matrix4 moved(float x, float y, float z) { return {{1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, x, y, z, 1}}; }

Matrix4 turned_about_y(float degrees) {
  const float c = std::cos(degrees * 3.14159265F / 180), s = std::sin(degrees * 3.14159265F / 180);
  return {{c, 0, -s, 0, 0, 1, 0, 0, s, 0, c, 0, 0, 0, 0, 1}};
}

}  // namespace grafema::test
