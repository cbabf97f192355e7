// SPDX-License-Identifier: MIT
// Draws solid letters on a floor with OpenGL: two lanterns that move, each with a shadow map.
#pragma once

#include <array>
#include <memory>

#include "grafema/draw/view.hpp"
#include "grafema/text/solid_text.hpp"

/// Owns buffers and programs; a context must be current wherever it is used.
class SolidScene {
 public:
  explicit SolidScene(const grafema::SolidText& text);
  ~SolidScene();
  SolidScene(const SolidScene&) = delete;
  SolidScene& operator=(const SolidScene&) = delete;

  /// Fills the whole view of the bound framebuffer, which takes linear light.
  void draw(const grafema::View& view, double seconds);

 private:
  struct State;
  std::unique_ptr<State> state_;
};
