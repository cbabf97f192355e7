// SPDX-License-Identifier: MIT
// What the OpenGL renderer sends and draws, and what it refuses.
#include <catch2/catch.hpp>

#include <epoxy/egl.h>
#include <epoxy/gl.h>

#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kOpenglView{.width = 200, .height = 100};

/// A source with one page of any size, whose pixels and changes the test sets.
class OnePage final : public GlyphSource {
 public:
  OnePage(int width, int height) : info_{PictureKind::coverage, PixelFormat::r8, width, height, 0} {
    if (width < 5000) image_ = *Image::make(width, height, PixelFormat::r8);
  }
  Image image_;
  /// Says that a rectangle is new.
  void change(const PixelRect& rect) { changed_ = rect, ++info_.revision; }

  std::uint64_t epoch() const noexcept override { return 1; }
  void resolve(std::span<const GlyphKey>, std::span<GlyphPicture> out) override {
    for (GlyphPicture& sprite : out) {
      sprite.state = PictureState::ready;
      sprite.kind = PictureKind::coverage;
      sprite.cell = {0, 0, static_cast<std::uint16_t>(info_.width), static_cast<std::uint16_t>(info_.height)};
      sprite.offset = {0, -9};
      sprite.size = 12;
    }
  }
  void keep(std::span<const std::uint16_t>) noexcept override {}
  std::span<const PageInfo> pages() const noexcept override { return {&info_, 1}; }
  ImageView pixels(std::uint16_t) const override { return image_.view(); }
  std::size_t changes_since(std::uint16_t, std::uint64_t revision,
                            std::span<PixelRect> out) const noexcept override {
    if (revision == info_.revision) return 0;
    out[0] = revision + 1 == info_.revision && revision != 0 ? changed_
                                                             : PixelRect{0, 0, info_.width, info_.height};
    return 1;
  }

 private:
  PageInfo info_;
  PixelRect changed_;
};

}  // namespace

TEST_CASE("only changed rectangles are sent, right for rows of odd width", "[opengl]") {
  auto offscreen = OpenGLOffscreen::make(200, 100);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  auto source = std::make_shared<OnePage>(13, 7);
  test::WhiteContext context(FontStack{built_in_face()}, source);
  TextScene words(context);
  Label label = words.add("a");
  label.set_size(12);
  label.move_to({10, 10});
  const auto draw = [&] {
    offscreen->put(*Image::make(200, 100, PixelFormat::rgba8));
    REQUIRE(words.update(kOpenglView, 0).has_value());
    REQUIRE(renderer->draw(words.memory(), Blending::linear).has_value());
    return renderer->work().page_bytes;
  };
  CHECK(draw() == 13 * 7);
  for (int y = 2; y < 5; ++y) {
    for (int x = 3; x < 8; ++x) source->image_.row(y)[x] = 255;
  }
  source->change({3, 2, 5, 3});
  CHECK(draw() == 13 * 7 + 15);
  CHECK(draw() == 13 * 7 + 15);
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
  for (int i = 0; i < 100; ++i) (void)scene.words.add("tram");
  REQUIRE(scene.words.update(kOpenglView, 0).has_value());
  REQUIRE(renderer->draw(scene.words.memory(), Blending::linear).has_value());
  CHECK(renderer->work().draw_calls == 1);
  CHECK(renderer->work().stream_bytes >= 400 * sizeof(GlyphRecord));
}

TEST_CASE("pages larger than the device allows are refused", "[opengl]") {
  auto offscreen = OpenGLOffscreen::make(8, 8);
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::WhiteContext context(FontStack{built_in_face()}, std::make_shared<OnePage>(1 << 20, 4));
  TextScene words(context);
  (void)words.add("a");
  REQUIRE(words.update(kOpenglView, 0).has_value());
  const auto synced = renderer->draw(words.memory(), Blending::linear);
  REQUIRE_FALSE(synced.has_value());
  CHECK(synced.error().kind == ErrorKind::does_not_fit);
  CHECK_THAT(describe(synced.error()), Catch::Contains("--page"));
  CHECK(renderer->work().page_bytes == 0);
}

TEST_CASE("after a lost context everything is sent again and drawn the same", "[opengl]") {
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  Label label = scene.words.add("Tinker");
  label.set_placement({.at = {20, 20}});
  std::uint64_t bytes = 0, hash = 0;
  for (int life = 0; life < 2; ++life) {
    auto offscreen = OpenGLOffscreen::make(200, 100);
    auto renderer = OpenGLRenderer::make();
    REQUIRE(renderer.has_value());
    offscreen->put(*Image::make(200, 100, PixelFormat::rgba8));
    REQUIRE(scene.words.update(kOpenglView, 0).has_value());
    REQUIRE(renderer->draw(scene.words.memory(), Blending::linear).has_value());
    const Image image = offscreen->read();
    if (life == 1) {
      CHECK(renderer->work().page_bytes == bytes);
      CHECK(pixel_hash(image) == hash);
    }
    bytes = renderer->work().page_bytes;
    hash = pixel_hash(image);
    CHECK(bytes > 0);
    // Both ways of leaving a context that is gone are safe.
    if (life == 0) renderer->abandon();
  }
}

TEST_CASE("sizes that no framebuffer has are refused", "[opengl]") {
  CHECK_FALSE(OpenGLOffscreen::make(0, 10).has_value());
  CHECK_FALSE(OpenGLOffscreen::make(1 << 20, 10).has_value());
}

namespace {

/// All that the renderer says it leaves as it was, as text.
std::string state_text() {
  std::string text;
  for (const GLenum name :
       {GL_CURRENT_PROGRAM, GL_VERTEX_ARRAY_BINDING, GL_ARRAY_BUFFER_BINDING, GL_PIXEL_UNPACK_BUFFER_BINDING,
        GL_ACTIVE_TEXTURE, GL_BLEND_SRC_RGB, GL_BLEND_DST_RGB, GL_BLEND_SRC_ALPHA, GL_BLEND_DST_ALPHA,
        GL_BLEND_EQUATION_RGB, GL_BLEND_EQUATION_ALPHA, GL_UNPACK_ALIGNMENT, GL_UNPACK_ROW_LENGTH,
        GL_UNPACK_SKIP_PIXELS, GL_UNPACK_SKIP_ROWS, GL_UNPACK_SKIP_IMAGES, GL_UNPACK_IMAGE_HEIGHT}) {
    GLint value[4] = {};
    glGetIntegerv(name, value);
    text += std::to_string(value[0]) + " ";
  }
  GLint active = 0;
  glGetIntegerv(GL_ACTIVE_TEXTURE, &active);
  for (GLenum unit = 0; unit < 3; ++unit) {
    glActiveTexture(GL_TEXTURE0 + unit);
    for (const GLenum name : {GL_TEXTURE_BINDING_2D, GL_TEXTURE_BINDING_2D_ARRAY, GL_SAMPLER_BINDING}) {
      GLint value = 0;
      glGetIntegerv(name, &value);
      text += std::to_string(value) + " ";
    }
  }
  glActiveTexture(static_cast<GLenum>(active));
  for (const GLenum name : {GL_BLEND, GL_CULL_FACE, GL_SAMPLE_ALPHA_TO_COVERAGE, GL_SAMPLE_COVERAGE,
                            GL_RASTERIZER_DISCARD, GL_DEPTH_TEST, GL_SCISSOR_TEST, GL_STENCIL_TEST}) {
    text += glIsEnabled(name) != 0 ? "on " : "off ";
  }
  if (epoxy_is_desktop_gl()) {
    GLint mode[2] = {};
    glGetIntegerv(GL_POLYGON_MODE, mode);
    text += std::to_string(mode[0]);
    for (const GLenum name : {GL_COLOR_LOGIC_OP, GL_SAMPLE_ALPHA_TO_ONE, GL_POLYGON_SMOOTH}) {
      text += glIsEnabled(name) != 0 ? " on" : " off";
    }
  }
  return text;
}

/// State as a game may have left it: each of it alone would spoil text or its pages.
void make_hostile(GLuint (&names)[5]) {
  glGenTextures(2, names);
  glGenBuffers(2, names + 2);
  glGenSamplers(1, names + 4);
  glActiveTexture(GL_TEXTURE0);
  glBindTexture(GL_TEXTURE_2D_ARRAY, names[0]);
  glBindSampler(0, names[4]);
  glActiveTexture(GL_TEXTURE1);
  glBindTexture(GL_TEXTURE_2D, names[1]);
  glBindSampler(1, names[4]);
  glActiveTexture(GL_TEXTURE2);
  glSamplerParameteri(names[4], GL_TEXTURE_MIN_FILTER, GL_LINEAR_MIPMAP_LINEAR);
  glBindBuffer(GL_ARRAY_BUFFER, names[2]);
  glBindBuffer(GL_PIXEL_UNPACK_BUFFER, names[3]);
  glEnable(GL_CULL_FACE);
  glCullFace(GL_BACK);
  glFrontFace(GL_CCW);
  glDisable(GL_BLEND);
  glBlendFuncSeparate(GL_ZERO, GL_ONE, GL_DST_COLOR, GL_SRC_ALPHA);
  glBlendEquationSeparate(GL_FUNC_REVERSE_SUBTRACT, GL_MIN);
  glPixelStorei(GL_UNPACK_ALIGNMENT, 8);
  glPixelStorei(GL_UNPACK_ROW_LENGTH, 3);
  glPixelStorei(GL_UNPACK_SKIP_PIXELS, 5);
  glPixelStorei(GL_UNPACK_SKIP_ROWS, 7);
  glPixelStorei(GL_UNPACK_SKIP_IMAGES, 2);
  glPixelStorei(GL_UNPACK_IMAGE_HEIGHT, 11);
  glEnable(GL_RASTERIZER_DISCARD);
  glEnable(GL_SAMPLE_COVERAGE);
  if (!epoxy_is_desktop_gl()) return;
  glPixelStorei(GL_UNPACK_SWAP_BYTES, 1);
  glPolygonMode(GL_FRONT_AND_BACK, GL_LINE);
  glEnable(GL_COLOR_LOGIC_OP);
  glLogicOp(GL_CLEAR);
}

}  // namespace

TEST_CASE("whatever state the game left, text is the same, and so is the state", "[opengl]") {
  const auto flavor = GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30);
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  Label label = scene.words.add("Tinker");
  label.set_placement({.at = {20, 20}});
  std::uint64_t clean = 0;
  for (const bool hostile : {false, true}) {
    auto offscreen = OpenGLOffscreen::make(200, 100, flavor);
    REQUIRE(offscreen.has_value());
    offscreen->put(*Image::make(200, 100, PixelFormat::rgba8));
    GLuint names[5] = {};
    if (hostile) make_hostile(names);
    const std::string before = state_text();
    auto renderer = OpenGLRenderer::make();
    REQUIRE(renderer.has_value());
    CHECK(state_text() == before);
    REQUIRE(scene.words.update(kOpenglView, 0).has_value());
    REQUIRE(renderer->draw(scene.words.memory(), Blending::linear).has_value());
    CHECK(state_text() == before);
    CHECK(glGetError() == GL_NO_ERROR);
    glBindBuffer(GL_PIXEL_UNPACK_BUFFER, 0);
    const Image image = offscreen->read();
    if (!hostile) clean = pixel_hash(image);
    CHECK(pixel_hash(image) == clean);
    int painted = 0;
    for (int y = 0; y < 100; ++y) {
      for (int x = 0; x < 200; ++x) painted += image.value(x, y, 3) > 0 ? 1 : 0;
    }
    CHECK(painted > 100);
    CHECK(offscreen->complaints().empty());
  }
}

TEST_CASE("two sources on one renderer, and two renderers on one source, show their own pages", "[opengl]") {
  auto offscreen = OpenGLOffscreen::make(200, 100);
  REQUIRE(offscreen.has_value());
  test::Scene small(test::atlas_of(built_in_face(), PictureKind::distance, 24)),
      large(test::atlas_of(test::dejavu(), PictureKind::distance, 32));
  for (test::Scene* scene : {&small, &large}) {
    Label label = scene->words.add("Tinker");
    label.move_to({20, 20});
    REQUIRE(scene->words.update(kOpenglView, 0).has_value());
  }
  const auto draw = [&](OpenGLRenderer& renderer, test::Scene& scene) {
    offscreen->put(*Image::make(200, 100, PixelFormat::rgba8));
    REQUIRE(renderer.draw(scene.words.memory(), Blending::linear).has_value());
    return pixel_hash(offscreen->read());
  };
  auto one = OpenGLRenderer::make(), both = OpenGLRenderer::make();
  REQUIRE((one.has_value() && both.has_value()));
  const std::uint64_t alone_small = draw(*one, small);
  CHECK(draw(*both, small) == alone_small);
  const std::uint64_t with_both = draw(*both, large);
  CHECK(with_both != alone_small);
  CHECK(draw(*one, large) == with_both);
  const std::uint64_t sent = both->work().page_bytes;
  CHECK(draw(*both, small) == alone_small);
  CHECK(draw(*both, large) == with_both);
  CHECK(both->work().page_bytes == sent);  // nothing changed, nothing is sent again
}

TEST_CASE("without a current context nothing aborts", "[opengl]") {
  test::Scene scene(test::atlas_of(built_in_face(), PictureKind::distance, 24));
  std::optional<OpenGLRenderer> left;
  {
    auto offscreen = OpenGLOffscreen::make(20, 10);
    REQUIRE(offscreen.has_value());
    auto renderer = OpenGLRenderer::make();
    REQUIRE(renderer.has_value());
    left = *std::move(renderer);
  }
  const auto made = OpenGLRenderer::make();
  REQUIRE_FALSE(made.has_value());
  CHECK(made.error().kind == ErrorKind::unsupported);
  (void)scene.words.add("a");
  REQUIRE(scene.words.update(kOpenglView, 0).has_value());
  CHECK_FALSE(left->draw(scene.words.memory(), Blending::linear).has_value());
  CHECK(left->work().draw_calls == 0);
  left.reset();
}

TEST_CASE("a refused offscreen context leaves the one that was current", "[opengl]") {
  auto first = OpenGLOffscreen::make(20, 10);
  REQUIRE(first.has_value());
  const EGLContext before = eglGetCurrentContext();
  CHECK_FALSE(OpenGLOffscreen::make(1 << 20, 10).has_value());
  CHECK(eglGetCurrentContext() == before);
  {
    auto second = OpenGLOffscreen::make(20, 10);
    REQUIRE(second.has_value());
    CHECK(eglGetCurrentContext() != before);
  }
  CHECK(eglGetCurrentContext() == EGL_NO_CONTEXT);
}
