// SPDX-License-Identifier: MIT
// Words that melt look the same in both renderers, frame after frame.
#include <catch2/catch.hpp>

#include "grafema/draw/morph_text.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

TEST_CASE("a melting label with outline and shadow agrees in both renderers, turned too", "[render][morph]") {
  const auto flavor = GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30);
  const auto made = MorphText::make(FontStack{test::dejavu("DejaVuSans-Bold.ttf")},
                                    {"Pale Orchard", "Larkspur Halt", "Quay"},
                                    {.style = {.size = 40}, .kind = PictureKind::distance, .reach = 8});
  REQUIRE(made);
  MorphText& morph = **made;
  test::WhiteContext context(morph.fonts(), morph.source());
  Look look = plain_look({1, 0.8F, 0.3F, 1});
  look.count = 3;
  look.layers[2] = look.layers[0];
  look.layers[0].shift = {3, 3}, look.layers[0].blur = 3, look.layers[0].fill = Layer{}.fill;
  look.layers[1].grow = 2, look.layers[1].fill = plain_look({0.1F, 0.2F, 0.5F, 1}).layers[0].fill;
  TextScene words(context);
  Label label = words.add(morph.text());
  label.set_look(*context.looks().set("sign", look));
  REQUIRE(label.set_style(morph.label_style()));
  label.set_placement({.at = {30, 40}, .rotate = 9, .scale_x = 1.2F, .scale_y = 1.2F});
  const View view{.width = 420, .height = 180};
  for (const float t : {0.0F, 0.35F, 0.5F, 1.0F, 1.6F, 2.0F}) {
    INFO("at " << t);
    morph.show(t);
    const Image software = test::in_software(words, view, Blending::linear, {0.4F, 0.45F, 0.5F, 1});
    const Image device = test::in_opengl(words, view, Blending::linear, {0.4F, 0.45F, 0.5F, 1}, flavor);
    INFO(test::first_difference(software, device, 3));
    CHECK(test::share_that_differs(software, device, 3) < 0.002);
  }
}

TEST_CASE("a renderer that saw the frame before loads what changed and shows the new one",
          "[render][morph]") {
  Result<OpenGLOffscreen> offscreen = OpenGLOffscreen::make(260, 90);
  REQUIRE(offscreen);
  Result<OpenGLRenderer> renderer = OpenGLRenderer::make();
  REQUIRE(renderer);
  const auto made = MorphText::make(FontStack{test::dejavu()}, {"Halt", "Quay"}, {.style = {.size = 40}});
  REQUIRE(made);
  MorphText& morph = **made;
  test::WhiteContext context(morph.fonts(), morph.source());
  TextScene words(context);
  Label label = words.add(morph.text());
  REQUIRE(label.set_style(morph.label_style()));
  label.set_placement({.at = {20, 20}});
  label.set_look(*context.looks().set("white", plain_look({1, 1, 1, 1})));
  const View view{.width = 260, .height = 90};
  for (int frame = 0; frame <= 8; ++frame) {
    morph.show(static_cast<float>(frame) / 8);
    offscreen->put(test::filled(view, {0, 0, 0, 1}));
    REQUIRE(words.update(view, 0));
    REQUIRE(renderer->draw(words.memory(), Blending::linear));
    const Image device = offscreen->read();
    const Image software = test::in_software(words, view, Blending::linear, {0, 0, 0, 1});
    INFO("frame " << frame << ": " << test::first_difference(software, device, 3));
    CHECK(test::share_that_differs(software, device, 3) < 0.002);
  }
}
