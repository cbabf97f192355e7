// SPDX-License-Identifier: MIT
// Maps labels to clip space and points back, with Eigen for the matrices.
#include <Eigen/Core>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>

#include "base/four.hpp"
#include "base/numbers.hpp"
#include "draw/label_map.hpp"

namespace grafema {
namespace {

using Eigen::Matrix3d;
using Eigen::Matrix4d;
using Eigen::Vector3d;
using Eigen::Vector4d;
using Columns = Eigen::Matrix<double, 4, 3>;  // of what x, y and 1 are multiplied by

Matrix4d to_eigen(const Matrix4& matrix) {
  Matrix4d out;
  for (int column = 0; column < 4; ++column) {
    for (int row = 0; row < 4; ++row) out(row, column) = matrix.m[static_cast<std::size_t>(column * 4 + row)];
  }
  return out;
}

bool is_finite(const Matrix4& matrix) {
  return std::all_of(matrix.m.begin(), matrix.m.end(), [](float v) { return std::isfinite(v); });
}

}  // namespace

namespace detail {

Result<void> check_view(const View& v) {
  if (!(v.width >= 1 && v.height >= 1 && v.width <= 65536 && v.height <= 65536)) {
    return bad_value("a target of 1 to 65536 pixels a side");
  }
  if (!(v.content_scale > 0) ||
      !all_finite({v.content_scale, v.safe.left, v.safe.top, v.safe.right, v.safe.bottom})) {
    return bad_value("a view of finite numbers");
  }
  if (!is_finite(v.camera) || !is_finite(v.projection)) return bad_value("matrices of finite numbers");
  return {};
}

Result<void> check_placement(const Placement& p) {
  if (!is_finite(p.world)) return bad_value("matrices of finite numbers");
  const bool good = detail::all_finite({p.at.x, p.at.y, p.anchor.x, p.anchor.y, p.pin.x, p.pin.y, p.rotate,
                                        p.scale_x, p.scale_y, p.shear, p.world_per_pixel});
  if (!good || std::abs(p.shear) > 80)
    return bad_value("a placement of finite numbers, shear within 80 degrees");
  return {};
}

}  // namespace detail

PixelPoint anchor_on_screen(const Placement& p, const View& v) {
  const double s = v.content_scale;
  PixelPoint at{static_cast<float>(p.at.x * s), static_cast<float>(p.at.y * s)};
  if (p.kind == PlaceKind::pinned) {
    at.x += v.safe.left + p.pin.x * (v.width - v.safe.left - v.safe.right);
    at.y += v.safe.top + p.pin.y * (v.height - v.safe.top - v.safe.bottom);
  }
  return at;
}

namespace {

/// Label pixels to pixels around the anchor: scaled, sheared, rotated.
Matrix3d around_anchor(const Rect& box, const Placement& p) {
  const double x = -(box.left + double{p.anchor.x} * box.width()),
               y = -(box.top + double{p.anchor.y} * box.height());
  // Scale, then shear: y is down, so what stands higher leans to the right.
  double lean_by = 0;
  if (p.shear != 0) {
    const detail::SineCosine lean = detail::sine_cosine(p.shear);
    lean_by = -lean.sine / lean.cosine;
  }
  const double xx = p.scale_x, xy = lean_by * p.scale_y, yy = p.scale_y;
  Matrix3d out;
  out << xx, xy, xx * x + xy * y, 0, yy, yy * y, 0, 0, 1;
  if (p.rotate == 0) return out;
  const detail::SineCosine turn = detail::sine_cosine(p.rotate);
  Matrix3d rotate = Matrix3d::Identity();
  rotate(0, 0) = rotate(1, 1) = turn.cosine;
  rotate(0, 1) = -turn.sine;
  rotate(1, 0) = turn.sine;
  return rotate * out;
}

Columns screen_columns(const Placement& p, const View& v) {
  const PixelPoint at = anchor_on_screen(p, v);
  const double s = v.content_scale;
  Columns out = Columns::Zero();
  out(0, 0) = 2 * s / v.width;
  out(1, 1) = -2 * s / v.height;
  out(0, 2) = 2 * double{at.x} / v.width - 1;
  out(1, 2) = 1 - 2 * double{at.y} / v.height;
  out(3, 2) = 1;
  return out;
}

Columns world_columns(const Placement& p, const View& v, const detail::ViewProduct& product) {
  const Eigen::Map<const Matrix4d> all(product.m.data());
  const Matrix4d world = to_eigen(p.world);
  const double unit = p.world_per_pixel;
  Columns out;
  out.col(2) = all * world.col(3);
  if (p.kind == PlaceKind::world) {
    out.col(0) = all * world.col(0) * unit;
    out.col(1) = all * world.col(1) * -unit;
  } else {  // in camera space the label's axes are those of the screen
    const Matrix4d projection = to_eigen(v.projection);
    out.col(0) = projection.col(0) * unit;
    out.col(1) = projection.col(1) * -unit;
  }
  return out;
}

/// The commonest case without matrices: labels that stand upright on the screen.
LabelMap map_upright(const Rect& box, const Placement& p, const View& v) {
  const PixelPoint at = anchor_on_screen(p, v);
  const float across = 2 * v.content_scale / v.width * p.scale_x,
              down = -2 * v.content_scale / v.height * p.scale_y;
  LabelMap map;
  map.across[0] = across;
  map.down[1] = down;
  map.origin = {2 * at.x / v.width - 1 - (box.left + p.anchor.x * box.width()) * across,
                1 - 2 * at.y / v.height - (box.top + p.anchor.y * box.height()) * down, 0, 1};
  return map;
}

/// x, y and w of the map: a plane's points to homogeneous device directions.
Matrix3d plane_of(const LabelMap& map) {
  Matrix3d out;
  const std::array<std::size_t, 3> rows = {0, 1, 3};
  for (int r = 0; r < 3; ++r) {
    const std::size_t row = rows[static_cast<std::size_t>(r)];
    out(r, 0) = map.across[row];
    out(r, 1) = map.down[row];
    out(r, 2) = map.origin[row];
  }
  return out;
}

}  // namespace

Result<LabelMap> map_label(const Rect& box, const Placement& placement, const View& view) {
  return detail::map_kept(box, placement, view, nullptr);
}

Result<LabelMap> detail::map_kept(const Rect& box, const Placement& placement, const View& view,
                                  const Rect* kept) {
  if (const Result<void> checked = detail::check_view(view); !checked) return fail(checked.error());
  if (const Result<void> checked = detail::check_placement(placement); !checked) return fail(checked.error());
  return detail::map_checked(box, placement, view, detail::ViewProduct(view), kept);
}

detail::ViewProduct::ViewProduct(const View& view) {
  Eigen::Map<Matrix4d> all(m.data());
  all = to_eigen(view.projection) * to_eigen(view.camera);
}

namespace {

LabelMap map_freely(const Rect& box, const Placement& placement, const View& view,
                    const detail::ViewProduct& product) {
  const bool on_screen = placement.kind == PlaceKind::screen || placement.kind == PlaceKind::pinned;
  if (on_screen && placement.rotate == 0 && placement.shear == 0) return map_upright(box, placement, view);
  const Columns to_clip =
      on_screen ? screen_columns(placement, view) : world_columns(placement, view, product);
  const Columns all = to_clip * around_anchor(box, placement);
  LabelMap map;
  for (int row = 0; row < 4; ++row) {
    const auto i = static_cast<std::size_t>(row);
    map.across[i] = static_cast<float>(all(row, 0));
    map.down[i] = static_cast<float>(all(row, 1));
    map.origin[i] = static_cast<float>(all(row, 2));
  }
  return map;
}

/// Moves all that is seen by device pixels.
void shift(LabelMap& map, float right, float down, const View& view) {
  const std::array<float, 2> by = {2 * right / view.width, -2 * down / view.height};
  for (std::array<float, 4>* column : {&map.across, &map.down, &map.origin}) {
    for (std::size_t k = 0; k < 2; ++k) (*column)[k] += by[k] * (*column)[3];
  }
}

/// How far a stretch goes to lie within another; where it is longer, to begin where that begins.
float way_back(float low, float high, float from, float to) {
  const float right = std::max(from - low, 0.0F), left = std::max(high - to, 0.0F);
  return right > 0 || high - low > to - from ? from - low : -left;
}

void keep_inside(LabelMap& map, const Rect& box, const View& view) {
  const Rect seen = device_bounds(map, box, view);
  if (seen.empty()) return;
  shift(map, way_back(seen.left, seen.right, view.safe.left, view.width - view.safe.right),
        way_back(seen.top, seen.bottom, view.safe.top, view.height - view.safe.bottom), view);
}

Placement in_whole_pixels(Placement placement, const View& view) {
  for (float* scale : {&placement.scale_x, &placement.scale_y}) {
    const float pixels = std::round(std::abs(*scale) * view.content_scale);
    *scale = std::copysign(std::max(pixels, 1.0F) / view.content_scale, *scale);
  }
  return placement;
}

void snap(LabelMap& map, const View& view) {
  const bool is_upright = map.across[1] == 0 && map.across[3] == 0 && map.down[0] == 0 && map.down[3] == 0;
  const float w = map.origin[3];
  if (!is_upright || !(w > 0)) return;
  const float x = (map.origin[0] / w + 1) / 2 * view.width, y = (1 - map.origin[1] / w) / 2 * view.height;
  shift(map, std::round(x) - x, std::round(y) - y, view);
}

}  // namespace

LabelMap detail::map_checked(const Rect& box, const Placement& placement, const View& view,
                             const ViewProduct& product, const Rect* kept) {
  const bool on_screen = placement.kind == PlaceKind::screen || placement.kind == PlaceKind::pinned;
  LabelMap map = map_freely(
      box, placement.pixelated && on_screen ? in_whole_pixels(placement, view) : placement, view, product);
  if (placement.keep_inside) keep_inside(map, kept != nullptr ? *kept : box, view);
  if (placement.snap || placement.pixelated) snap(map, view);
  return map;
}

namespace {

/// The corners of a rectangle in clip space, in turn around it.
std::array<Vector4d, 4> clip_corners(const LabelMap& map, const Rect& rect) {
  const auto at = [&map](float x, float y) {
    Vector4d out;
    for (std::size_t row = 0; row < 4; ++row) {
      out[static_cast<int>(row)] = double{map.across[row]} * x + double{map.down[row]} * y + map.origin[row];
    }
    return out;
  };
  return {at(rect.left, rect.top), at(rect.right, rect.top), at(rect.right, rect.bottom),
          at(rect.left, rect.bottom)};
}

}  // namespace

bool detail::is_outside(const LabelMap& map, const Rect& rect) {
  if (rect.empty()) return true;
  // Upright labels on the screen, the commonest, without matrices.
  if (map.across[1] == 0 && map.across[3] == 0 && map.down[0] == 0 && map.down[3] == 0 &&
      map.origin[3] == 1) {
    const float x0 = map.origin[0] + map.across[0] * rect.left,
                x1 = map.origin[0] + map.across[0] * rect.right, y0 = map.origin[1] + map.down[1] * rect.top,
                y1 = map.origin[1] + map.down[1] * rect.bottom;
    return std::max(x0, x1) < -1 || std::min(x0, x1) > 1 || std::max(y0, y1) < -1 || std::min(y0, y1) > 1;
  }
  const std::array<Vector4d, 4> corners = clip_corners(map, rect);
  for (int axis = 0; axis < 3; ++axis) {
    for (const double side : {-1.0, 1.0}) {
      if (std::all_of(corners.begin(), corners.end(),
                      [&](const Vector4d& c) { return c[axis] * side > c[3]; })) {
        return true;
      }
    }
  }
  return false;
}

float detail::largest_scale(const LabelMap& map, const Rect& rect, const View& view) {
  const float half_width = view.width / 2, half_height = view.height / 2;
  const auto length = [&](const std::array<float, 4>& side, float reach) {
    const float x = (std::abs(side[0]) + std::abs(side[3]) * reach) * half_width,
                y = (std::abs(side[1]) + std::abs(side[3]) * reach) * half_height;
    return std::sqrt(x * x + y * y);
  };
  if (map.across[3] == 0 && map.down[3] == 0) {
    const float w = std::max(std::abs(map.origin[3]), 1e-6F);
    return std::max(length(map.across, 0), length(map.down, 0)) / w;
  }
  // x / w changes by (x' - w' x / w) / w; where it is seen x / w is at most 1.
  float nearest = INFINITY;
  for (const float x : {rect.left, rect.right}) {
    for (const float y : {rect.top, rect.bottom}) {
      nearest = std::min(nearest, map.across[3] * x + map.down[3] * y + map.origin[3]);
    }
  }
  return std::max(length(map.across, 1), length(map.down, 1)) / std::max(nearest, 1e-3F);
}

detail::PixelSteps detail::longest_steps(const LabelMap& map, const Rect& rect, const View& view) {
  const float half_width = view.width / 2, half_height = view.height / 2;
  if (map.across[1] == 0 && map.across[3] == 0 && map.down[0] == 0 && map.down[3] == 0 &&
      map.origin[3] == 1) {
    return {1 / std::abs(map.across[0] * half_width), 1 / std::abs(map.down[1] * half_height)};
  }
  // At all four corners at once: how the point on the device moves with x and y of the label.
  const Four x = {rect.left, rect.right, rect.left, rect.right},
             y = {rect.top, rect.top, rect.bottom, rect.bottom};
  const auto at = [&](std::size_t k) { return x * map.across[k] + y * map.down[k] + map.origin[k]; };
  const Four w = at(3), by = 1 / larger(w, all(1e-6F)), left = at(0) * by, up = at(1) * by;
  const auto move = [&](const std::array<float, 4>& side, std::size_t k, Four place, float half) {
    return (side[k] - side[3] * place) * by * half;
  };
  const Four across_x = move(map.across, 0, left, half_width),
             across_y = move(map.across, 1, up, half_height), down_x = move(map.down, 0, left, half_width),
             down_y = move(map.down, 1, up, half_height);
  const Four area = across_x * down_y - across_y * down_x, square = larger(area * area, all(1e-24F));
  const auto seen = w > all(1e-6F);
  const auto most = [&](Four squares) {
    const Four v = select(seen, squares / square, Four{});
    return std::sqrt(std::max({v[0], v[1], v[2], v[3]}));
  };
  return {most(across_y * across_y + down_y * down_y), most(across_x * across_x + down_x * down_x)};
}

Rect device_bounds(const LabelMap& map, const Rect& rect, const View& view) {
  const std::array<Vector4d, 4> corners = clip_corners(map, rect);
  Rect around{INFINITY, INFINITY, -INFINITY, -INFINITY};
  bool any = false;
  const auto add = [&](const Vector4d& p) {
    if (!(p[3] > 1e-9)) return;
    any = true;
    const auto x = static_cast<float>((p[0] / p[3] + 1) / 2 * view.width),
               y = static_cast<float>((1 - p[1] / p[3]) / 2 * view.height);
    around = {std::min(around.left, x), std::min(around.top, y), std::max(around.right, x),
              std::max(around.bottom, y)};
  };
  for (std::size_t i = 0; i < 4; ++i) {
    const Vector4d &from = corners[i], &to = corners[(i + 1) % 4];
    const double a = from[2] + from[3], b = to[2] + to[3];  // in front of the near plane where above 0
    if (a >= 0) add(from);
    if ((a < 0) != (b < 0)) add(from + (to - from) * (a / (a - b)));
  }
  return any ? around : Rect{};
}

std::optional<PixelPoint> to_device(const LabelMap& map, PixelPoint point, const View& view) {
  const Vector3d clip = plane_of(map) * Vector3d(point.x, point.y, 1);
  if (!(clip.z() > 1e-9)) return std::nullopt;
  return PixelPoint{static_cast<float>((clip.x() / clip.z() + 1) / 2 * view.width),
                    static_cast<float>((1 - clip.y() / clip.z()) / 2 * view.height)};
}

std::optional<PixelPoint> from_device(const LabelMap& map, PixelPoint device, const View& view) {
  const Matrix3d plane = plane_of(map);
  const double determinant = plane.determinant();
  if (!std::isfinite(determinant) || std::abs(determinant) < 1e-18) return std::nullopt;
  const Vector3d seen = plane.inverse() * Vector3d(2 * double{device.x} / view.width - 1,
                                                   1 - 2 * double{device.y} / view.height, 1);
  if (std::abs(seen.z()) < 1e-18) return std::nullopt;
  const Vector3d point = seen / seen.z();
  if (!((plane * point).z() > 1e-9)) return std::nullopt;  // that point lies behind the camera
  return PixelPoint{static_cast<float>(point.x()), static_cast<float>(point.y())};
}

}  // namespace grafema
