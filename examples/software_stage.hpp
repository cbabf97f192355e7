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

  void words(grafema::TextContext& context, std::span<grafema::Label* const> labels) override {
    const grafema::View view{.width = static_cast<float>(image_.width()),
                             .height = static_cast<float>(image_.height()),
                             .safe = {24, 20, 24, 20}};
    if (!grafema::emit_quads(context, labels, view, quads_)) return;
    const auto drawn =
        grafema::draw_in_software(quads_.list(), context.source(), view, grafema::Blending::linear, image_);
    if (!drawn) std::cerr << grafema::describe(drawn.error()) << '\n';
  }

  const grafema::Image& image() const { return image_; }
  grafema::Image take() { return std::move(image_); }

 private:
  grafema::Image image_;
  grafema::QuadBuffer quads_;
};
