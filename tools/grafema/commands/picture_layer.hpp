// SPDX-License-Identifier: MIT
// A picture drawn over the whole framebuffer: backdrops below and guides above the text.
#pragma once

#include "grafema/base/image.hpp"

namespace grafema::tool {

/// Needs a current OpenGL context as long as it lives.
class PictureLayer {
 public:
  PictureLayer() = default;
  ~PictureLayer();
  PictureLayer(const PictureLayer&) = delete;
  PictureLayer& operator=(const PictureLayer&) = delete;

  /// rgba8 with straight alpha.
  void set(const Image& image);
  /// Blends it over the framebuffer in linear light.
  void draw();

 private:
  unsigned texture_ = 0, program_ = 0, array_ = 0;
};

}  // namespace grafema::tool
