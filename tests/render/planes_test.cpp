// SPDX-License-Identifier: MIT
// What is painted beside the target: in what order, with what of the game's settings, and at what cost.
#include <epoxy/gl.h>

#include <array>
#include <catch2/catch.hpp>
#include <random>

#include "grafema/draw/label_set.hpp"
#include "grafema/draw/ready_motions.hpp"
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

/// Whether each batch beside the target has a cover behind it, and each cover something to show.
template <class Batches, class KindOf>
void check_order(const Batches& batches, KindOf kind_of) {
  bool shape = false, sheet = false;
  for (const auto& batch : batches) {
    const QuadKind kind = kind_of(batch);
    if (batch.onto == Onto::shape) shape = true;
    if (batch.onto == Onto::sheet) sheet = true;
    if (kind == QuadKind::joined) {
      CHECK(shape);
      CHECK(batch.onto == (sheet ? Onto::sheet : Onto::target));
      CHECK(batch.count == 1);
      shape = false;
    } else {
      CHECK((!shape || batch.onto == Onto::shape));
    }
    if (kind == QuadKind::faded) {
      CHECK((sheet && batch.onto == Onto::target && batch.count == 1));
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
  LabelSet set(scene.context);
  std::vector<SetLabel> labels;
  std::vector<std::unique_ptr<Label>> owned;
  std::vector<Label*> list;
  for (int i = 0; i < 12; ++i) {
    const std::string text =
        std::string(static_cast<std::size_t>(below(6)), 'W') + std::to_string(below(1000));
    const float opacity = below(2) == 0 ? 1.0F : static_cast<float>(below(11)) / 10;
    labels.push_back(set.add(text));
    owned.push_back(std::make_unique<Label>(scene.context, text));
    const LookId look = looks[static_cast<std::size_t>(below(3))];
    labels.back().set_look(look), owned.back()->set_look(look);
    labels.back().set_opacity(opacity), owned.back()->set_opacity(opacity);
    if (below(4) == 0) labels.back().set_motion(sway()), owned.back()->set_motion(sway());
    const Placement there{.at = {static_cast<float>(below(280)), static_cast<float>(below(100))}};
    REQUIRE(
        (labels.back().set_placement(there).has_value() && owned.back()->set_placement(there).has_value()));
    list.push_back(owned.back().get());
  }
  for (int step = 0; step < 8; ++step) {
    REQUIRE(set.update(kPlanesView, step * 0.1).has_value());
    const SetMemory& memory = set.memory();
    check_order(memory.batches, [&](const SetBatch& batch) {
      for (std::size_t a = 0; a < memory.arrays.size(); ++a) {
        if (batch.is_cover && (batch.arrays >> a & 1U) != 0) return memory.arrays[a].kind;
      }
      return QuadKind::coverage;
    });
    QuadBuffer quads;
    REQUIRE(emit_quads(scene.context, list, kPlanesView, quads).has_value());
    check_order(quads.list().batches.first(quads.list().batch_count),
                [](const Batch& batch) { return batch.kind; });
    const Image as_quads =
        test::in_software(scene.context, list, kPlanesView, Blending::linear, kPlanesBackdrop);
    Image in_set = test::filled(kPlanesView, kPlanesBackdrop);
    REQUIRE(draw_in_software(memory, kPlanesView, Blending::linear, in_set).has_value());
    INFO(test::first_difference(as_quads, in_set, 4));
    CHECK(test::share_that_differs(as_quads, in_set, 4) <= 0.001);
    for (Label* label : list) label->set_time((step + 1) * 0.1);
    const auto one = static_cast<std::size_t>(below(12));
    const float opacity = static_cast<float>(below(11)) / 10;
    labels[one].set_opacity(opacity), owned[one]->set_opacity(opacity);
    labels[(one + 3) % 12].set_text("Quay"), owned[(one + 3) % 12]->set_text("Quay");
  }
}

TEST_CASE("planes leave the game's settings as they were, and heed them where they are shown",
          "[render][opengl][join]") {
  auto offscreen = OpenGLOffscreen::make(300, 120, OpenGLFlavor::core_33, Blending::linear);
  REQUIRE(offscreen.has_value());
  auto renderer = OpenGLRenderer::make();
  REQUIRE(renderer.has_value());
  test::Scene scene(plane_atlas());
  LabelSet set(scene.context);
  SetLabel label = set.add("Pale Orchard");
  label.set_look(*scene.context.looks().set("joined", three_layers(true)));
  label.set_opacity(0.6F);
  REQUIRE(label.set_size(40).has_value());
  REQUIRE(label.set_placement({.at = {12, 30}}).has_value());
  REQUIRE(set.update(kPlanesView, 0).has_value());
  Image whole = test::filled(kPlanesView, kPlanesBackdrop);
  REQUIRE(draw_in_software(set.memory(), kPlanesView, Blending::linear, whole).has_value());
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
  LabelSet set(scene.context);
  SetLabel label = set.add("Weir");
  Look look = three_layers(true);
  look.layers[2].surface = {.width = 3, .height = 2, .round = 1}, look.layers[2].join = true;
  label.set_look(*scene.context.looks().set("joined", look));
  label.set_opacity(0.7F);
  REQUIRE(label.set_placement({.at = {14, 12}}).has_value());
  for (const auto& [left, bottom, width, height] :
       {std::array{100, 40, 120, 60}, std::array{0, 0, 300, 120}, std::array{20, 10, 120, 60}}) {
    const View view{.width = static_cast<float>(width), .height = static_cast<float>(height)};
    REQUIRE(set.update(view, 0).has_value());
    Image expected = test::filled(view, kPlanesBackdrop);
    REQUIRE(draw_in_software(set.memory(), view, Blending::linear, expected).has_value());
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
  LabelSet set(scene.context);
  SetLabel label = set.add("1204");
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
  LabelSet fresh(scene.context);
  SetLabel same = fresh.add("3018");
  same.set_look(*scene.context.looks().read("apart"));
  same.set_opacity(1 - 49.0F / 60);
  REQUIRE(fresh.update(kPlanesView, 0).has_value());
  Image a = test::filled(kPlanesView, kPlanesBackdrop), b = test::filled(kPlanesView, kPlanesBackdrop);
  REQUIRE(draw_in_software(set.memory(), kPlanesView, Blending::linear, a).has_value());
  REQUIRE(draw_in_software(fresh.memory(), kPlanesView, Blending::linear, b).has_value());
  CHECK(test::share_that_differs(a, b, 0) == 0);
  CHECK(test::share_that_differs(a, test::filled(kPlanesView, kPlanesBackdrop), 4) > 0.002);
}
