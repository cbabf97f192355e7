// SPDX-License-Identifier: MIT
// What is painted beside the target: in what order, with what of the game's settings, and at what cost.
#include <epoxy/gl.h>

#include <array>
#include <catch2/catch.hpp>
#include <random>

#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr View kPlanesView{.width = 300, .height = 120};
constexpr Color kPlanesBackdrop{0.44F, 0.56F, 0.69F, 1};

const std::shared_ptr<const Atlas>& plane_atlas() {
  static const auto atlas = test::atlas_of(test::dejavu(), PictureKind::distance_rgba, 32);
  return atlas;
}

Look three_layers(bool join) {
  Look look;
  look.add({.shift = {3, 3}, .grow = 1, .blur = 2, .join = join, .fill = Fill::solid({0, 0, 0, 0.6F})});
  look.add({.grow = 2, .join = join, .fill = Fill::solid({0.1F, 0.1F, 0.3F, 1})});
  look.add({.fill = Fill::solid({1, 0.8F, 0.3F, 1})});
  return look;
}

/// Whether each batch beside the target has a composite behind it, and each cover something to show.
template <class Batches, class KindOf>
void check_order(const Batches& batches, KindOf kind_of) {
  bool shape = false, sheet = false;
  for (const auto& batch : batches) {
    const TexelKind kind = kind_of(batch);
    if (batch.target == RenderTarget::mask) shape = true;
    if (batch.target == RenderTarget::intermediate) sheet = true;
    if (kind == TexelKind::mask) {
      CHECK(shape);
      CHECK(batch.target == (sheet ? RenderTarget::intermediate : RenderTarget::frame));
      CHECK(batch.count == 1);
      shape = false;
    } else {
      CHECK((!shape || batch.target == RenderTarget::mask));
    }
    if (kind == TexelKind::intermediate) {
      CHECK((sheet && batch.target == RenderTarget::frame && batch.count == 1));
      sheet = false;
    }
  }
  CHECK_FALSE((shape || sheet));
}

/// All that a renderer might leave changed behind itself.
std::vector<GLint> settings() {
  std::vector<GLint> out;
  for (const GLenum name :
       {GL_DRAW_FRAMEBUFFER_BINDING, GL_CURRENT_PROGRAM, GL_ACTIVE_TEXTURE, GL_BLEND_SRC_RGB,
        GL_BLEND_DST_RGB, GL_BLEND_EQUATION_RGB, GL_TEXTURE_BINDING_2D}) {
    GLint value = 0;
    glGetIntegerv(name, &value);
    out.push_back(value);
  }
  GLint four[4] = {};
  for (const GLenum name : {GL_VIEWPORT, GL_SCISSOR_BOX}) {
    glGetIntegerv(name, four);
    out.insert(out.end(), four, four + 4);
  }
  GLboolean mask[4] = {};
  glGetBooleanv(GL_COLOR_WRITEMASK, mask);
  out.insert(out.end(), mask, mask + 4);
  for (const GLenum name : {GL_BLEND, GL_DEPTH_TEST, GL_STENCIL_TEST, GL_SCISSOR_TEST}) {
    out.push_back(glIsEnabled(name));
  }
  return out;
}

}  // namespace

TEST_CASE("whatever labels there are, covers stand where renderers look for them", "[set][join][property]") {
  const unsigned seed = GENERATE(range(1U, 13U));
  CAPTURE(seed);
  std::mt19937 random(seed);
  const auto below = [&random](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
  test::Scene scene(plane_atlas());
  const std::array<LookId, 3> looks = {*scene.context.looks().set("joined", three_layers(true)),
                                       *scene.context.looks().set("apart", three_layers(false)),
                                       *scene.context.looks().set("plain", plain_look({1, 1, 1, 1}))};
  TextScene set(scene.context);
  std::vector<Label> labels;
  std::vector<std::string> texts(12);
  std::vector<LookId> of(12);
  std::vector<float> opacities(12);
  std::vector<Placement> places(12);
  std::vector<bool> moves(12);
  const auto tell = [&](Label label, std::size_t i) {
    label.set_look(of[i]);
    label.set_opacity(opacities[i]);
    if (moves[i]) label.set_motion(sway());
    label.set_placement(places[i]);
  };
  for (std::size_t i = 0; i < 12; ++i) {
    texts[i] = std::string(static_cast<std::size_t>(below(6)), 'W') + std::to_string(below(1000));
    opacities[i] = below(2) == 0 ? 1.0F : static_cast<float>(below(11)) / 10;
    of[i] = looks[static_cast<std::size_t>(below(3))];
    moves[i] = below(4) == 0;
    places[i].at = {static_cast<float>(below(280)), static_cast<float>(below(100))};
    labels.push_back(set.add(texts[i]));
    tell(labels.back(), i);
  }
  for (int step = 0; step < 8; ++step) {
    const Image lived = test::in_software(set, kPlanesView, Blending::linear, kPlanesBackdrop, step * 0.1);
    const SceneMemory& memory = set.memory();
    check_order(memory.batches(), [&](const SceneBatch& batch) {
      for (std::size_t a = 0; a < memory.arrays().size(); ++a) {
        if (batch.is_composite && (batch.arrays >> a & 1U) != 0) return memory.arrays()[a].kind;
      }
      return TexelKind::coverage;
    });
    TextScene fresh(scene.context);
    for (std::size_t i = 0; i < 12; ++i) tell(fresh.add(texts[i]), i);
    const Image wanted = test::in_software(fresh, kPlanesView, Blending::linear, kPlanesBackdrop, step * 0.1);
    INFO(test::first_difference(lived, wanted, 0));
    CHECK(test::share_that_differs(lived, wanted, 0) == 0);
    const auto one = static_cast<std::size_t>(below(12));
    opacities[one] = static_cast<float>(below(11)) / 10;
    labels[one].set_opacity(opacities[one]);
    texts[(one + 3) % 12] = "Quay";
    labels[(one + 3) % 12].set_text("Quay");
  }
}

TEST_CASE("planes leave the game's settings as they were, and heed them where they are shown",
          "[render][opengl][join]") {
  auto offscreen = OpenGLOffscreen::make(300, 120, OpenGLFlavor::core_33, Blending::linear);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::Scene scene(plane_atlas());
  TextScene set(scene.context);
  Label label = set.add("Pale Orchard");
  label.set_look(*scene.context.looks().set("joined", three_layers(true)));
  label.set_opacity(0.6F);
  label.set_size(40);
  label.set_placement({.at = {12, 30}});
  REQUIRE(set.update(kPlanesView, 0).has_value());
  Image whole = test::filled(kPlanesView, kPlanesBackdrop);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, whole).has_value());
  offscreen->put(test::filled(kPlanesView, kPlanesBackdrop));
  glEnable(GL_SCISSOR_TEST);
  glScissor(60, 0, 100, 120);
  glColorMask(GL_TRUE, GL_FALSE, GL_TRUE, GL_TRUE);
  const std::vector<GLint> before = settings();
  REQUIRE(renderer->draw(set.memory(), Blending::linear).has_value());
  CHECK(settings() == before);
  glDisable(GL_SCISSOR_TEST);
  glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
  const Image seen = offscreen->read();
  const Image backdrop = test::filled(kPlanesView, kPlanesBackdrop);
  int beyond = 0, green = 0, wrong = 0;
  for (int y = 0; y < 120; ++y) {
    for (int x = 0; x < 300; ++x) {
      const bool is_in = x >= 60 && x < 160;
      beyond += !is_in && seen.value(x, y, 0) != backdrop.value(x, y, 0) ? 1 : 0;
      green += seen.value(x, y, 1) != backdrop.value(x, y, 1) ? 1 : 0;
      wrong += is_in && std::abs(static_cast<int>(seen.value(x, y, 0)) -
                                 static_cast<int>(whole.value(x, y, 0))) > 3
                   ? 1
                   : 0;
    }
  }
  CHECK(beyond == 0);
  CHECK(green == 0);
  CHECK(wrong <= 20);
}

TEST_CASE("planes follow a viewport that begins elsewhere and grows", "[render][opengl][join]") {
  auto offscreen = OpenGLOffscreen::make(300, 120, OpenGLFlavor::es_30, Blending::linear);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::Scene scene(plane_atlas());
  TextScene set(scene.context);
  Label label = set.add("Weir");
  Look look = three_layers(true);
  look.layers[2].surface = {.width = 3, .height = 2, .round = 1}, look.layers[2].join = true;
  label.set_look(*scene.context.looks().set("joined", look));
  label.set_opacity(0.7F);
  label.set_placement({.at = {14, 12}});
  for (const auto& [left, bottom, width, height] :
       {std::array{100, 40, 120, 60}, std::array{0, 0, 300, 120}, std::array{20, 10, 120, 60}}) {
    const View view{.width = static_cast<float>(width), .height = static_cast<float>(height)};
    REQUIRE(set.update(view, 0).has_value());
    Image expected = test::filled(view, kPlanesBackdrop);
    REQUIRE(draw_in_software(set.memory(), Blending::linear, expected).has_value());
    offscreen->put(test::filled(kPlanesView, kPlanesBackdrop));
    glViewport(left, bottom, width, height);
    REQUIRE(renderer->draw(set.memory(), Blending::linear).has_value());
    glViewport(0, 0, 300, 120);
    const Image all = offscreen->read();
    int wrong = 0;
    for (int y = 0; y < height; ++y) {
      for (int x = 0; x < width; ++x) {
        const int device_y = 120 - bottom - height + y;
        for (int c = 0; c < 3; ++c) {
          wrong += std::abs(static_cast<int>(all.value(left + x, device_y, c)) -
                            static_cast<int>(expected.value(x, y, c))) > 3
                       ? 1
                       : 0;
        }
      }
    }
    CHECK(wrong <= 60);
    CHECK(offscreen->complaints().empty());
  }
}

TEST_CASE("a label that fades costs its row, and a number in it no layout", "[set][join]") {
  test::Scene scene(plane_atlas());
  TextScene set(scene.context);
  Label label = set.add("1204");
  label.set_look(*scene.context.looks().set("apart", three_layers(false)));
  label.set_opacity(0.9F);
  REQUIRE(set.update(kPlanesView, 0).has_value());
  label.set_number(1205);  // its signs are learned
  REQUIRE(set.update(kPlanesView, 0).has_value());
  const std::uint64_t contents = set.work().contents, numbers = set.work().numbers;
  for (int step = 1; step < 50; ++step) {
    label.set_opacity(1 - static_cast<float>(step) / 60);
    label.set_number(1205 + step * 37);
    REQUIRE(set.update(kPlanesView, step / 60.0).has_value());
  }
  CHECK(set.work().contents == contents);
  CHECK(set.work().numbers == numbers + 49);
  TextScene fresh(scene.context);
  Label same = fresh.add("3018");
  same.set_look(*scene.context.looks().read("apart"));
  same.set_opacity(1 - 49.0F / 60);
  REQUIRE(fresh.update(kPlanesView, 0).has_value());
  Image a = test::filled(kPlanesView, kPlanesBackdrop), b = test::filled(kPlanesView, kPlanesBackdrop);
  REQUIRE(draw_in_software(set.memory(), Blending::linear, a).has_value());
  REQUIRE(draw_in_software(fresh.memory(), Blending::linear, b).has_value());
  CHECK(test::share_that_differs(a, b, 0) == 0);
  CHECK(test::share_that_differs(a, test::filled(kPlanesView, kPlanesBackdrop), 4) > 0.002);
}
