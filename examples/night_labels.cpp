// SPDX-License-Identifier: MIT
// Makes, moves and draws the labels of the night scene.
#include "night_labels.hpp"

#include <epoxy/gl.h>

#include <cstdio>
#include <iostream>

#include "demo_face.hpp"
#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/files/files.hpp"
#include "grafema/unicode/character_sets.hpp"

using namespace grafema;

namespace {

/// "Night tram 12"
constexpr char32_t kNeonSign[] = U"\u591C\u884C12";
constexpr const char* kJapaneseFace = "/usr/share/fonts/opentype/ipaexfont-gothic/ipaexg.ttf";

}  // namespace

NightScene::NightScene(TextContext& context) : context_(context), world_(context), hud_(context) {
  make_signs();
  make_trams();
  make_hud();
}

void NightScene::move(double seconds) {
  street_.move(seconds);
  for (std::size_t i = 0; i < street_.trams.size(); ++i) {
    const Tram& tram = street_.trams[i];
    names_[i].set_placement({.anchor = {0.5F, 1},
                             .kind = PlaceKind::facing,
                             .world_per_pixel = 0.012F,
                             .world = translation({tram.x, 3.55F, tram.z})});
    numbers_[i].set_placement({.anchor = {0.5F, 0.5F},
                               .kind = PlaceKind::world,
                               .world_per_pixel = 0.008F,
                               .world = translation({tram.x, 2.72F, tram.z + 1.53F})});
  }
  const int minutes = 23 * 60 + 4 + static_cast<int>(seconds / 60), late = 3 + static_cast<int>(seconds / 30);
  char text[32];
  std::snprintf(text, sizeof text, "%d:%02d", minutes / 60 % 24, minutes % 60);
  clock_.set_text(text);
  std::snprintf(text, sizeof text, late == 1 ? "%d minute late" : "%d minutes late", late);
  badge_.set_text(text);
  seconds_ = seconds;
}

void NightScene::report() const {
  for (const Note& note : notes_.all()) std::fprintf(stderr, "note: %s\n", describe(note).c_str());
}

void NightScene::draw(const Painter& paint, const View& view) {
  View seen = view;
  seen.camera = street_.camera();
  seen.projection = perspective(58, view.width / view.height, 0.1F, 200);
  street_.draw(seen);
  glEnable(GL_DEPTH_TEST);  // a tram that passes hides the signs behind it
  glDepthMask(GL_FALSE);
  show(paint, world_, seen);
  glDisable(GL_DEPTH_TEST);
  show(paint, hud_, seen);
}

Label NightScene::add(TextScene& scene, const char* text, const char* look, float size) {
  Label label = scene.add(text);
  label.set_look(context_.looks().read(look).value_or(LookId{}));
  label.set_size(size);
  return label;
}

void NightScene::make_signs() {
  for (const Sign& sign : street_.signs) {
    if (sign.neon) {
      make_neon(sign);
      continue;
    }
    Label label = add(world_, sign.text, sign.late ? "sign-late" : "sign", 48);
    label.set_placement({.anchor = {0.5F, 0.5F},
                         .kind = PlaceKind::world,
                         .world_per_pixel = 0.009F,
                         .world = sign.label_plane()});
  }
}

/// A sign whose letters stand one below the other: in Japanese where the baked faces have it.
void NightScene::make_neon(const Sign& sign) {
  const bool has_kanji = context_.fonts().find(kNeonSign[0]).glyph != kMissingGlyph;
  std::string text;
  for (const char32_t c : has_kanji ? std::u32string(kNeonSign) : U"") append_utf8(text, c);
  Label label = add(world_, has_kanji ? text.c_str() : sign.text, "neon", 48);
  TextStyle style{.size = 84, .writing = WritingMode::vertical_rl, .stance = LetterStance::upright};
  if (!has_kanji) style.size = 40;
  style.digits_across = 2;
  if (!label.set_style(style)) std::fprintf(stderr, "%s: style refused\n", sign.text);
  label.set_placement({.anchor = {0.5F, 0.5F},
                       .kind = PlaceKind::world,
                       .world_per_pixel = 0.009F,
                       .world = sign.label_plane()});
}

void NightScene::make_trams() {
  for (const Tram& tram : street_.trams) {
    numbers_.push_back(add(world_, tram.line, "clock", 48));
    names_.push_back(add(world_, tram.driver, "name-tag", 32));
  }
}

void NightScene::make_hud() {
  clock_ = add(hud_, "", "clock", 72);
  clock_.set_placement(pinned({1, 0}));
  badge_ = add(hud_, "", "badge", 36);
  badge_.set_placement(pinned({0, 0}, {14, 14}));
  Label title = add(hud_, "Last Tram to Quillmere", "title", 76);
  title.set_motion(sway(0.03F, 3));
  title.set_placement(pinned({0.5F, 1}));
}

void NightScene::show(const Painter& paint, TextScene& scene, const View& view) {
  if (const auto updated = scene.update(view, seconds_, &notes_); !updated) {
    std::cerr << describe(updated.error()) << '\n';
  }
  paint(scene.memory());
}

std::shared_ptr<const Atlas> bake_letters(FontStack& fonts) {
  const auto face = demo_face(true);
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters = *read_character_set("latin1");
  recipe.characters.push_back(0x2019);  // the apostrophe of Tinker's Weir
  recipe.size = 56;
  recipe.reach = 8;
  fonts = FontStack{face};
  if (const auto japanese = open_face(kJapaneseFace)) {
    recipe.faces.push_back(*japanese);
    recipe.characters.insert(recipe.characters.end(), kNeonSign, kNeonSign + 2);
    fonts.add(*japanese);
  }
  return or_built_in(bake(recipe));
}
