// SPDX-License-Identifier: MIT
// The device that labels are shown on: its size, its safe area, its camera.
#pragma once

#include <array>

#include "grafema/base/export.hpp"
#include "grafema/base/geometry.hpp"

namespace grafema {

/// Sixteen numbers column by column, as OpenGL has them: element (row, column) is `m[column * 4 + row]`.
struct Matrix4 {
  std::array<float, 16> m = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};
  bool operator==(const Matrix4&) const = default;
};

/// Applies `b` first, then `a`.
GRAFEMA_API Matrix4 operator*(const Matrix4& a, const Matrix4& b);

/// A point or direction in the world; what its axes mean is the game's choice but for cameras: see `look_at`.
struct WorldPoint {
  float x = 0, y = 0, z = 0;
};

/// A View::projection that sees `degrees` from the bottom of the target to its top, `aspect` (width by
/// height) as wide, from `near` to `far` in front of the camera, both above 0.
GRAFEMA_API Matrix4 perspective(float degrees, float aspect, float near, float far);
/// A View::projection without perspective that sees `height` world units from the bottom of the target to its
/// top, `aspect` times as many across, `depth` before and behind the camera.
GRAFEMA_API Matrix4 orthographic(float height, float aspect, float depth = 100);
/// A View::camera that stands at `eye`, looks at `target` and has `up` upward on the screen. Where these
/// leave a direction open (`eye` at `target`, `up` along the view) some direction is taken.
GRAFEMA_API Matrix4 look_at(const WorldPoint& eye, const WorldPoint& target,
                            const WorldPoint& up = {0, 1, 0});
/// Moves by a vector.
GRAFEMA_API Matrix4 translation(const WorldPoint& by);

/// Distances from the device's edges, in device pixels.
struct Insets {
  float left = 0, top = 0, right = 0, bottom = 0;
  bool operator==(const Insets&) const = default;
};

/// What labels are seen through. Layout is in layout pixels; `content_scale` device pixels make one of them,
/// and stands nowhere else.
struct View {
  float width = 1280, height = 800;  ///< of the target, in device pixels
  float content_scale = 1;
  Insets safe = {};         ///< what a notch or an overscan edge covers
  Matrix4 camera = {};      ///< world to camera: right is +x, up is +y, ahead is -z
  Matrix4 projection = {};  ///< camera to clip space, as OpenGL has it
  bool operator==(const View&) const = default;
};

}  // namespace grafema
