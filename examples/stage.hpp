// SPDX-License-Identifier: MIT
// What a scene is drawn on, and what a scene is: shared by the examples with words on a screen.
#pragma once

#include <functional>
#include <memory>
#include <string>

#include "grafema/draw/text_scene.hpp"

/// Paints rectangles and words in their order.
class Stage {
 public:
  virtual ~Stage() = default;
  virtual void fill(const grafema::Rect& box, const grafema::Color& color) = 0;
  virtual void words(grafema::TextScene& scene, double seconds) = 0;
};

/// Keys that a scene may be told of, beside characters.
enum class Key {
  left,
  right,
  up,
  down,
  home,
  end,
  page_up,
  page_down,
  backspace,
  erase,
  enter,
  undo,
  redo,
  copy,
  cut,
  paste,
  all,
  other
};

class Scene {
 public:
  virtual ~Scene() = default;
  /// Everything as it is `seconds` after the beginning; never called with less than before.
  virtual void step(double seconds) = 0;
  virtual void draw(Stage& stage) = 0;
  virtual void type(char32_t /*character*/) {}
  virtual void press(Key /*key*/, bool /*word*/, bool /*extends*/) {}
  virtual void click(grafema::PixelPoint /*at*/, int /*clicks*/, bool /*extends*/) {}
  virtual void drag(grafema::PixelPoint /*at*/) {}
  /// What the example prints at its end.
  virtual std::string report() const { return {}; }
};

/// The text of a file of data/demo by its name, as "looks.json".
using DemoReader = std::function<std::string(const std::string& name)>;

/// A sans, regular and bold, with faces for Thai and Japanese where the system has them.
grafema::FontBook demo_fonts();
/// Fonts, looks and styles of the demo in a context of their own.
std::unique_ptr<grafema::TextContext> demo_context(const DemoReader& read);

/// Each 1280x800. Two people at a stop who speak letter by letter.
std::unique_ptr<Scene> make_speech(const DemoReader& read);
/// A log that the player types into.
std::unique_ptr<Scene> make_typed_log(const DemoReader& read);
/// A departure board that changes its values every second and its language every four.
std::unique_ptr<Scene> make_ticker(const DemoReader& read);
