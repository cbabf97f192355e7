// SPDX-License-Identifier: MIT
// Planes of things as placements.
#include "grafema/draw/place_on.hpp"

#include <algorithm>
#include <cmath>

namespace grafema {
namespace {

WorldPoint operator+(const WorldPoint& a, const WorldPoint& b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
WorldPoint operator*(const WorldPoint& a, float by) { return {a.x * by, a.y * by, a.z * by}; }
float dot(const WorldPoint& a, const WorldPoint& b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
float length_of(const WorldPoint& a) { return std::sqrt(dot(a, a)); }
WorldPoint cross(const WorldPoint& a, const WorldPoint& b) {
  return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x};
}

WorldPoint direction(const Matrix4& m, const WorldPoint& p) {
  const auto row = [&](std::size_t r) { return m.m[r] * p.x + m.m[4 + r] * p.y + m.m[8 + r] * p.z; };
  return {row(0), row(1), row(2)};
}

WorldPoint point(const Matrix4& m, const WorldPoint& p) {
  return direction(m, p) + WorldPoint{m.m[12], m.m[13], m.m[14]};
}

/// A label's plane: its x axis, its y axis, upward, and where its anchor stands.
Matrix4 plane(const WorldPoint& x, const WorldPoint& y, const WorldPoint& normal, const WorldPoint& at) {
  Matrix4 out;
  out.m = {x.x, x.y, x.z, 0, y.x, y.y, y.z, 0, normal.x, normal.y, normal.z, 0, at.x, at.y, at.z, 1};
  return out;
}

/// Where the camera stands; its turn has no scale.
WorldPoint eye_of(const Matrix4& camera) {
  const auto& m = camera.m;
  return {-(m[0] * m[12] + m[1] * m[13] + m[2] * m[14]), -(m[4] * m[12] + m[5] * m[13] + m[6] * m[14]),
          -(m[8] * m[12] + m[9] * m[13] + m[10] * m[14])};
}

}  // namespace

Result<Placement> on_quad(const WorldQuad& quad, float pixels, PixelPoint at, float lift) {
  const float wide = length_of(quad.across), high = length_of(quad.down);
  const WorldPoint normal = cross(quad.down, quad.across);
  const float area = length_of(normal);
  const bool is_good = std::isfinite(area) && area > 0 && std::isfinite(at.x) && std::isfinite(at.y) &&
                       std::isfinite(lift) && std::isfinite(length_of(quad.top_left)) &&
                       std::isfinite(pixels) && pixels > 0;
  if (!is_good) {
    return bad_value("a quad with an area, finite numbers and pixels above 0");
  }
  const WorldPoint x = quad.across * (1 / wide), y = quad.down * (-1 / high), front = normal * (1 / area);
  Placement out;
  out.kind = PlaceKind::world, out.anchor = at, out.world_per_pixel = 1 / pixels;
  out.world = plane(x, y, front, quad.top_left + quad.across * at.x + quad.down * at.y + front * lift);
  return out;
}

WorldQuad side_of_box(const Matrix4& world, const WorldPoint& h, BoxSide side) {
  struct Side {
    WorldPoint corner, across, down;
  };
  const auto find = [&]() -> Side {
    switch (side) {
      case BoxSide::front:
        return {{-h.x, h.y, h.z}, {2 * h.x, 0, 0}, {0, -2 * h.y, 0}};
      case BoxSide::back:
        return {{h.x, h.y, -h.z}, {-2 * h.x, 0, 0}, {0, -2 * h.y, 0}};
      case BoxSide::left:
        return {{-h.x, h.y, -h.z}, {0, 0, 2 * h.z}, {0, -2 * h.y, 0}};
      case BoxSide::right:
        return {{h.x, h.y, h.z}, {0, 0, -2 * h.z}, {0, -2 * h.y, 0}};
      case BoxSide::top:
        return {{-h.x, h.y, -h.z}, {2 * h.x, 0, 0}, {0, 0, 2 * h.z}};
      case BoxSide::bottom:
        break;
    }
    return {{-h.x, -h.y, h.z}, {2 * h.x, 0, 0}, {0, 0, -2 * h.z}};
  };
  const Side own = find();
  return {point(world, own.corner), direction(world, own.across), direction(world, own.down)};
}

bool is_front_seen(const Placement& placement, const View& view) {
  if (placement.kind != PlaceKind::world) return true;
  const auto& m = placement.world.m;
  const WorldPoint x{m[0], m[1], m[2]}, y{m[4], m[5], m[6]}, at{m[12], m[13], m[14]};
  const WorldPoint front = cross(x, y);
  // Without perspective all of it is looked at along one direction.
  const bool is_flat = view.projection.m[11] == 0;
  const auto& c = view.camera.m;
  const WorldPoint back{c[2], c[6], c[10]};
  const WorldPoint to_eye = is_flat ? back : eye_of(view.camera) + at * -1;
  return dot(front, to_eye) > 0;
}

Placement upright_sign(const WorldPoint& at, const View& view, float pixels, PixelPoint anchor) {
  const WorldPoint eye = eye_of(view.camera);
  WorldPoint front{eye.x - at.x, 0, eye.z - at.z};
  const float length = length_of(front);
  front = length > 1e-6F ? front * (1 / length) : WorldPoint{0, 0, 1};
  const WorldPoint up{0, 1, 0}, right = cross(up, front);
  Placement out;
  out.kind = PlaceKind::world, out.anchor = anchor, out.world_per_pixel = 1 / std::max(pixels, 1e-6F);
  out.world = plane(right, up, front, at);
  return out;
}

std::optional<float> size_on_screen(const WorldPoint& at, const View& view) {
  const WorldPoint seen = point(view.camera, at);
  const auto& p = view.projection.m;
  const float w = p[3] * seen.x + p[7] * seen.y + p[11] * seen.z + p[15];
  if (!(w > 0) || p[5] == 0) return std::nullopt;
  // A world unit upward is p[5] / w of half the target's height.
  return 2 * view.content_scale * w / (std::abs(p[5]) * view.height);
}

Result<std::optional<PixelPoint>> point_of(const Rect& box, const Placement& placement, PixelPoint at,
                                           const View& view) {
  const Result<LabelMap> map = map_label(box, placement, view);
  if (!map) return fail(map.error());
  const std::optional<PixelPoint> device =
      to_device(*map, {box.left + at.x * box.width(), box.top + at.y * box.height()}, view);
  if (!device) return std::optional<PixelPoint>();
  return std::optional(PixelPoint{device->x / view.content_scale, device->y / view.content_scale});
}

}  // namespace grafema
