// SPDX-License-Identifier: MIT
// What the pictures of `grafema demo` are drawn on.
#pragma once

#include <fmt/format.h>

#include <memory>
#include <vector>

#include "common.hpp"
#include "demo/demo_scenes.hpp"
#include "demo_face.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::tool {

/// The size of a whole screen.
constexpr int kWidth = 1280, kHeight = 800;

inline Color color(const char* text) { return to_color(text, "demo"); }

/// A picture that text is put on, a line at a time.
class DemoScene {
 public:
  DemoScene(const char* backdrop, int width = kWidth, int height = kHeight)
      : image_(value_or_give_up(Image::make(width, height, PixelFormat::rgba8))) {
    fill_image(image_, color(backdrop));
  }

  /// Puts the point `anchor` of the text's box at `at`; gives the box.
  Rect put(const std::shared_ptr<const Face>& face, std::string_view text, float size, const Look& look,
           const Placement& placement) {
    const FontStack stack{face, built_in_face()};
    Paragraph paragraph;
    value_or_give_up(lay_out(stack, text, {.size = size}, cache_, paragraph));
    const PixelPoint origin = label_origin(paragraph.box, placement);
    value_or_give_up(paint(image_, stack, paragraph, look, origin));
    return paragraph.advance_box.moved(origin);
  }

  void bar(const Rect& rect, const char* fill) { paint_rect(image_, rect, color(fill)); }
  Image& image() { return image_; }
  Image take() { return std::move(image_); }

 private:
  Image image_;
  ShapeCache cache_;
};

/// A label's picture from an atlas of the demo face by the software renderer.
struct LabelScene {
  std::shared_ptr<AtlasSource> source;
  std::unique_ptr<TextContext> context;
  std::unique_ptr<TextScene> scene;

  LabelScene(float size, float reach, PictureKind kind = PictureKind::distance_rgba)
      : LabelScene(bake_sans(size, reach, kind)) {}
  explicit LabelScene(const std::shared_ptr<const Atlas>& atlas)
      : source(std::make_shared<AtlasSource>(atlas)) {
    context = std::make_unique<TextContext>(atlas_stack(atlas), source);
    scene = std::make_unique<TextScene>(*context);
  }

  static std::shared_ptr<const Atlas> bake_sans(float size, float reach, PictureKind kind) {
    AtlasRecipe recipe;
    recipe.faces = {demo_face(reach > 4)};
    recipe.characters = value_or_give_up(read_character_set("ascii"));
    recipe.kind = kind;
    recipe.size = size;
    recipe.reach = reach;
    return std::make_shared<const Atlas>(value_or_give_up(bake(recipe)));
  }

  Label add(const char* text, float size, const Look& look, const Placement& placement) {
    Label label = scene->add(text);
    label.set_size(size);
    label.set_placement(placement);
    label.set_look(*context->looks().set(fmt::format("look {}", scene->size()), look));
    return label;
  }

  /// What it draws at a time.
  const SceneMemory& at(const View& view, double seconds = 0) {
    value_or_give_up(scene->update(view, seconds));
    return scene->memory();
  }
};

inline View view_of(const Image& image) {
  return {.width = static_cast<float>(image.width()), .height = static_cast<float>(image.height())};
}

}  // namespace grafema::tool
