// SPDX-License-Identifier: MIT
// Paints scenes on a picture: the reference that every other renderer is held against.
#pragma once

#include "grafema/base/image.hpp"
#include "grafema/base/workers.hpp"
#include "grafema/draw/scene_memory.hpp"
#include "grafema/render/blending.hpp"

namespace grafema {

/// Paints what a scene draws over `target`, whose size must be that of the view of its last update. `target`
/// is rgba8: sRGB with alpha, premultiplied as a render target has it (in linear light for Blending::linear).
/// Each glyph is rounded to 8 bits, as a target would. With workers, bands of rows are painted side by side;
/// the pixels are the same. (Joined layers that take light are painted by one alone.) Fails with `bad_value`
/// where the target has another size or format.
GRAFEMA_API Result<void> draw_in_software(const SceneMemory& scene, Blending blending, Image& target,
                                          Workers* workers = nullptr);

/// Turns a picture with straight alpha, as PNG has it, into one with premultiplied alpha, and back.
GRAFEMA_API void to_premultiplied_alpha(Image& target, Blending blending);
GRAFEMA_API void to_straight_alpha(Image& target, Blending blending);

}  // namespace grafema
