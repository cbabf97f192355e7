// SPDX-License-Identifier: MIT
// Blending of single pixels.
#pragma once

#include "grafema/base/color.hpp"
#include "grafema/base/image.hpp"

namespace grafema::detail {

/// Blends a color over a pixel of an rgba8 picture with straight alpha, in linear light, so strongly.
GRAFEMA_API void blend_color(Image& target, int x, int y, const Color& color, float strength);

}  // namespace grafema::detail
