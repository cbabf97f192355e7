// SPDX-License-Identifier: MIT
// Placements on quads, the sides of boxes and signs of the world, and at a point of another label.
#pragma once

#include <optional>

#include "grafema/draw/placement.hpp"

namespace grafema {

/// A rectangle in the world, seen from its front.
struct WorldQuad {
  WorldPoint top_left, across = {1, 0, 0}, down = {0, -1, 0};  ///< its sides, from that corner
};

/// A label that lies on the quad: its point `at`, in fractions of its box, stands at the same fraction of the
/// quad. `pixels` of the label are a world unit long. `lift` moves it that far towards who looks, so that it
/// does not lie within the surface; where text is depth tested, that is its depth bias. Fails with
/// `bad_value` where the quad has no area, a number is not finite, or `pixels` is not above 0.
GRAFEMA_API Result<Placement> on_quad(const WorldQuad& quad, float pixels, PixelPoint at = {0.5F, 0.5F},
                                      float lift = 0);

enum class BoxSide : std::uint8_t { front, back, left, right, top, bottom };

/// A side of a box around the origin, `half` as wide, high and deep, that `world` puts into the world: +x is
/// its right, +y its top, +z its front. Text on the sides stands upright, on top it reads from the front.
GRAFEMA_API WorldQuad side_of_box(const Matrix4& world, const WorldPoint& half, BoxSide side);

/// Whether the front of a label in the world is seen: one-sided labels are hidden where it is not.
GRAFEMA_API bool is_front_seen(const Placement& placement, const View& view);

/// A sign at a point of the world that turns to the camera about the world's y axis alone, `pixels` of it a
/// world unit long (above 0). PlaceKind::facing lies in the plane of the screen instead.
GRAFEMA_API Placement upright_sign(const WorldPoint& at, const View& view, float pixels,
                                   PixelPoint anchor = {0.5F, 1});

/// The `world_per_pixel` by which a label at a point of the world is as large on the screen as one that
/// stands on it: a layout pixel is a layout pixel. Nothing where it lies behind the camera.
GRAFEMA_API std::optional<float> size_on_screen(const WorldPoint& at, const View& view);

/// The layout pixel of the screen where a point of another label is seen, in fractions of its box:
/// `Placement::at` for what stands there. Nothing where it lies behind the camera. Fails with `bad_value` as
/// `map_label` does.
GRAFEMA_API Result<std::optional<PixelPoint>> point_of(const Rect& box, const Placement& placement,
                                                       PixelPoint at, const View& view);

}  // namespace grafema
