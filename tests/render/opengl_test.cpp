// SPDX-License-Identifier: MIT
// What the OpenGL renderer sends and draws, and what it refuses.
#include <catch2/catch.hpp>

#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kView{.width = 200, .height = 100};

/// A source with one page of any size, whose pixels and changes the test sets.
class OnePage final : public GlyphSource {
 public:
  OnePage(int width, int height) : info_{PictureKind::coverage, PixelFormat::r8, width, height, 0} {
    if (width < 5000) image_ = *Image::make(width, height, PixelFormat::r8);
  }
  std::vector<PageChange> changes;
  Image image_;

  std::uint64_t epoch() const noexcept override { return 1; }
  void resolve(std::span<const GlyphKey>, std::span<Sprite> out) override {
    for (Sprite& sprite : out) {
      sprite.state = SpriteState::ready;
      sprite.kind = PictureKind::coverage;
      sprite.cell = {0, 0, static_cast<std::uint16_t>(info_.width), static_cast<std::uint16_t>(info_.height)};
      sprite.offset = {0, -9};
      sprite.size = 12;
    }
  }
  void keep(std::span<const std::uint16_t>) noexcept override {}
  std::span<const PageInfo> pages() const noexcept override { return {&info_, 1}; }
  ImageView pixels(std::uint16_t) const override { return image_.view(); }
  std::size_t take_changes(std::span<PageChange> out) noexcept override {
    const std::size_t count = std::min(out.size(), changes.size());
    std::copy_n(changes.begin(), count, out.begin());
    changes.erase(changes.begin(), changes.begin() + static_cast<std::ptrdiff_t>(count));
    return count;
  }
  void touch_all() noexcept override { changes.assign(1, {0, {0, 0, info_.width, info_.height}}); }

 private:
  PageInfo info_;
};

}  // namespace

TEST_CASE("only changed rectangles are sent, right for rows of odd width", "[opengl]") {
  auto offscreen = OpenGLOffscreen::make(200, 100);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  auto source = std::make_shared<OnePage>(13, 7);
  REQUIRE(renderer->sync(*source).has_value());
  CHECK(renderer->work().page_bytes == 13 * 7);
  for (int y = 2; y < 5; ++y) {
    for (int x = 3; x < 8; ++x) source->image_.row(y)[x] = 255;
  }
  source->changes = {{0, {3, 2, 5, 3}}};
  REQUIRE(renderer->sync(*source).has_value());
  CHECK(renderer->work().page_bytes == 13 * 7 + 15);
  REQUIRE(renderer->sync(*source).has_value());
  CHECK(renderer->work().page_bytes == 13 * 7 + 15);
  TextContext context(FontStack{built_in_face()}, source);
  Label label(context, "a");
  REQUIRE(label.set_size(12).has_value());
  REQUIRE(label.set_placement({.at = {10, 10}}).has_value());
  Label* const labels[] = {&label};
  test::Quads quads;
  offscreen->put(*Image::make(200, 100, PixelFormat::rgba8));
  renderer->draw(quads.emit(context, labels, kView), Blending::linear);
  const Image image = offscreen->read();
  for (int y = 0; y < 7; ++y) {
    for (int x = 0; x < 13; ++x) {
      CHECK(image.value(10 + x, 10 + y, 3) == (x >= 3 && x < 8 && y >= 2 && y < 5 ? 255 : 0));
    }
  }
  CHECK(offscreen->complaints().empty());
}

TEST_CASE("a hundred labels are one draw call", "[opengl]") {
  auto offscreen = OpenGLOffscreen::make(200, 100);
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  REQUIRE(renderer->sync(*scene.source).has_value());
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> labels;
  for (int i = 0; i < 100; ++i) {
    owned.push_back(std::make_unique<Label>(scene.context, "tram"));
    labels.push_back(owned.back().get());
  }
  test::Quads quads;
  renderer->draw(quads.emit(scene.context, labels, kView), Blending::linear);
  CHECK(renderer->work().draw_calls == 1);
  CHECK(renderer->work().stream_bytes >= 400 * sizeof(GlyphQuad));
}

TEST_CASE("pages larger than the device allows are refused", "[opengl]") {
  auto offscreen = OpenGLOffscreen::make(8, 8);
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  OnePage source(1 << 20, 4);
  const auto synced = renderer->sync(source);
  REQUIRE_FALSE(synced.has_value());
  CHECK(synced.error().kind == ErrorKind::does_not_fit);
  CHECK_THAT(describe(synced.error()), Catch::Contains("--page"));
  CHECK(renderer->work().page_bytes == 0);
}

TEST_CASE("after a lost context everything is sent again and drawn the same", "[opengl]") {
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  Label label(scene.context, "Tinker");
  REQUIRE(label.set_placement({.at = {20, 20}}).has_value());
  Label* const labels[] = {&label};
  test::Quads quads;
  std::uint64_t bytes = 0, hash = 0;
  for (int life = 0; life < 2; ++life) {
    auto offscreen = OpenGLOffscreen::make(200, 100);
    auto renderer = OpenGLRenderer::make();
    REQUIRE(renderer.has_value());
    REQUIRE(renderer->sync(*scene.source).has_value());
    offscreen->put(*Image::make(200, 100, PixelFormat::rgba8));
    renderer->draw(quads.emit(scene.context, labels, kView), Blending::linear);
    const Image image = offscreen->read();
    if (life == 1) {
      CHECK(renderer->work().page_bytes == bytes);
      CHECK(pixel_hash(image) == hash);
    }
    bytes = renderer->work().page_bytes;
    hash = pixel_hash(image);
    CHECK(bytes > 0);
    if (life == 0) renderer->abandon();
  }
}

TEST_CASE("sizes that no framebuffer has are refused", "[opengl]") {
  CHECK_FALSE(OpenGLOffscreen::make(0, 10).has_value());
  CHECK_FALSE(OpenGLOffscreen::make(1 << 20, 10).has_value());
}
