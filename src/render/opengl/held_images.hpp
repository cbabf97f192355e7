// SPDX-License-Identifier: MIT
// Images that letters are filled with, on the device.
#pragma once

#include <epoxy/gl.h>

#include <memory>
#include <vector>

#include "grafema/raster/fill_image.hpp"

namespace grafema::detail {

class HeldImages {
 public:
  /// Sends the image where that has not been done, and frees what no look uses any more.
  void bind(int unit, const FillImage& image, std::uint64_t& bytes_sent);
  void free();
  void forget() { held_.clear(); }

 private:
  struct Held {
    std::weak_ptr<const FillImage> image;
    std::uint64_t id = 0;
    GLuint texture = 0;
  };
  std::vector<Held> held_;
};

}  // namespace grafema::detail
