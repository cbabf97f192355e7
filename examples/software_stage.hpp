// SPDX-License-Identifier: MIT
// A stage that draws into a picture, without a graphics device.
#pragma once

#include <iostream>

#include "grafema/base/image.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/render/software_renderer.hpp"
#include "stage.hpp"

class SoftwareStage final : public Stage {
 public:
  SoftwareStage(int width, int height)
      : image_(*grafema::Image::make(width, height, grafema::PixelFormat::rgba8)) {}

  void fill(const grafema::Rect& box, const grafema::Color& color) override {
    grafema::paint_rect(image_, box, color);
  }

  void words(grafema::TextScene& scene, double seconds) override {
    const grafema::View view{.width = static_cast<float>(image_.width()),
                             .height = static_cast<float>(image_.height()),
                             .safe = {24, 20, 24, 20}};
    const auto updated = scene.update(view, seconds);
    const auto drawn =
        updated ? grafema::draw_in_software(scene.memory(), grafema::Blending::linear, image_) : updated;
    if (!drawn) std::cerr << grafema::describe(drawn.error()) << '\n';
  }

  const grafema::Image& image() const { return image_; }
  grafema::Image take() { return std::move(image_); }

 private:
  grafema::Image image_;
};
