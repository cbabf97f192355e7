// SPDX-License-Identifier: MIT
// Many pictures on one sheet.
#pragma once

#include <span>
#include <string>

#include "grafema/base/image.hpp"

namespace grafema {

struct NamedImage {
  std::string name = {};
  const Image* image = nullptr;
};

/// All pictures on one sheet, made smaller where they are wider than `column` pixels, each with its name
/// below.
GRAFEMA_API Result<Image> draw_contact_sheet(std::span<const NamedImage> images, int columns = 3,
                                             int column = 420);

/// A copy with sides of at most `max_width` x `max_height`, averaged in linear light; the picture itself
/// where it fits.
GRAFEMA_API Result<Image> shrunk(const Image& image, int max_width, int max_height);

}  // namespace grafema
