// SPDX-License-Identifier: MIT
// A quad seen from the device: which of its points a pixel shows, and what of it is cut off.
#pragma once

#include <Eigen/Core>
#include <Eigen/LU>
#include <algorithm>
#include <array>
#include <cmath>

#include "render/software/paint_quads.hpp"
#include "render/software/scene_quads.hpp"

namespace grafema::detail {

/// A part of a quad's plane in fractions of its sides: 0 to 1 is the quad.
struct PlanePart {
  double left = 0, top = 0, right = 1, bottom = 1;
  bool holds(double a, double b) const { return a >= left && a < right && b >= top && b < bottom; }
  bool empty() const { return !(right > left && bottom > top); }
};

/// A quad seen from the device: which point of it each pixel shows.
class Seen {
 public:
  Seen(const GlyphQuad& quad, const View& view) : quad_(quad) {
    // Fractions a, b of the quad to homogeneous device pixels.
    const std::array<const std::array<float, 4>*, 3> columns = {&quad.across, &quad.down, &quad.origin};
    for (int c = 0; c < 3; ++c) {
      const auto& v = *columns[static_cast<std::size_t>(c)];
      plane_(0, c) = (double{v[0]} + v[3]) / 2 * view.width;
      plane_(1, c) = (double{v[3]} - v[1]) / 2 * view.height;
      plane_(2, c) = v[3];
    }
    const double determinant = plane_.determinant();
    valid_ = std::isfinite(determinant) && determinant != 0;
    if (valid_) inverse_ = plane_.inverse();
    // Near and far are asked for each pixel, but where all of the quad is as far away.
    affine_ = quad.across[3] == 0 && quad.down[3] == 0 && quad.across[2] == 0 && quad.down[2] == 0;
    const float z = quad.origin[2], w = quad.origin[3];
    if (affine_ && !(w > 0 && z >= -w && z <= w)) valid_ = false;
  }

  /// Of an affine quad the fractions at a point are a = a.x x + a.y y + a.z, and b likewise.
  Eigen::Vector3d across() const { return inverse_.row(0) / inverse_(2, 2); }
  Eigen::Vector3d down() const { return inverse_.row(1) / inverse_(2, 2); }

  bool valid() const { return valid_; }
  bool affine() const { return affine_; }

  /// The fractions seen at a device point; false where they lie behind the camera or outside near and far.
  bool find(double x, double y, double& a, double& b) const {
    fractions(x, y, a, b);
    if (affine_) return true;
    const double w = plane_(2, 0) * a + plane_(2, 1) * b + plane_(2, 2);
    const double z = quad_.across[2] * a + quad_.down[2] * b + quad_.origin[2];
    return w > 0 && z >= -w && z <= w;
  }

  /// The fractions seen there, wherever that lies.
  void fractions(double x, double y, double& a, double& b) const {
    const Eigen::Vector3d p = inverse_ * Eigen::Vector3d(x, y, 1);
    a = p.x() / p.z(), b = p.y() / p.z();
  }

  /// The point of the page seen there, wherever that lies.
  Texel texel(double x, double y) const {
    const Eigen::Vector3d p = inverse_ * Eigen::Vector3d(x, y, 1);
    return {static_cast<float>(quad_.cell[0] - 0.5 + p.x() / p.z() * (quad_.cell[2] + 1)),
            static_cast<float>(quad_.cell[1] - 0.5 + p.y() / p.z() * (quad_.cell[3] + 1))};
  }

  /// Whether a pixel that shows one of its corners takes several samples.
  bool is_small() const;

  /// The pixels of some rows of the target that may show a part of its plane.
  PixelRect bounds(const PixelRect& rows, const PlanePart& part) const {
    double left = rows.width, top = rows.y + rows.height, right = 0, bottom = 0;
    for (int corner = 0; corner < 4; ++corner) {
      const Eigen::Vector3d p = plane_ * Eigen::Vector3d((corner & 1) == 0 ? part.left : part.right,
                                                         corner >> 1 == 0 ? part.top : part.bottom, 1);
      if (!(p.z() > 1e-6)) return rows;  // it crosses the camera's plane
      left = std::min(left, p.x() / p.z()), right = std::max(right, p.x() / p.z());
      top = std::min(top, p.y() / p.z()), bottom = std::max(bottom, p.y() / p.z());
    }
    const auto bound = [](double v, int low, int high) {
      return static_cast<int>(std::clamp(v, static_cast<double>(low), static_cast<double>(high)));
    };
    const int last = rows.y + rows.height, x = bound(std::floor(left), 0, rows.width),
              y = bound(std::floor(top), rows.y, last);
    return {x, y, bound(std::ceil(right), 0, rows.width) - x, bound(std::ceil(bottom), rows.y, last) - y};
  }

 private:
  const GlyphQuad& quad_;
  Eigen::Matrix3d plane_, inverse_;
  bool valid_ = false, affine_ = false;
};

/// How much of a pixel lies within a clip: a line one pixel wide goes from all to nothing.
class Cutter {
 public:
  Cutter(const QuadCut& cut, const Seen& seen) : cut_(cut), seen_(seen) {}

  float at(int x, int y) const {
    const double x0 = (x & ~1) + 0.5, y0 = (y & ~1) + 0.5;
    const Place here = find(x + 0.5, y + 0.5);
    const Place left = find(x0, y + 0.5), right = find(x0 + 1, y + 0.5);
    const Place above = find(x + 0.5, y0), below = find(x + 0.5, y0 + 1);
    if (!here.in_front) return 0;
    return within(here.u, std::hypot(right.u - left.u, below.u - above.u)) *
           within(here.v, std::hypot(right.v - left.v, below.v - above.v));
  }

 private:
  struct Place {
    double u, v;
    bool in_front;
  };
  Place find(double x, double y) const {
    double a = 0, b = 0;
    seen_.fractions(x, y, a, b);
    const auto sum = [&](std::size_t k) { return cut_.origin[k] + a * cut_.across[k] + b * cut_.down[k]; };
    return {sum(0) / sum(2), sum(1) / sum(2), sum(2) > 0};
  }
  static float within(double v, double step) {
    const double pixels = (0.5 - std::abs(v - 0.5)) / std::max(step, 1e-9);
    return static_cast<float>(std::clamp(pixels + 0.5, 0.0, 1.0));
  }

  QuadCut cut_;  // a copy: the one given may be a temporary
  const Seen& seen_;
};

/// Derivatives are those of the pair of pixels that a pixel belongs to, as graphics hardware takes them.
inline Footprint footprint_at(const Seen& seen, int x, int y) {
  const double x0 = (x & ~1) + 0.5, y0 = (y & ~1) + 0.5;
  const Texel left = seen.texel(x0, y + 0.5), right = seen.texel(x0 + 1, y + 0.5);
  const Texel above = seen.texel(x + 0.5, y0), below = seen.texel(x + 0.5, y0 + 1);
  return {{right.x - left.x, right.y - left.y}, {below.x - above.x, below.y - above.y}};
}

inline bool Seen::is_small() const {
  for (int corner = 0; corner < 4; ++corner) {
    const Eigen::Vector3d p = plane_ * Eigen::Vector3d(corner & 1, corner >> 1, 1);
    if (!(p.z() > 1e-6)) return true;
    const double x = std::clamp(p.x() / p.z(), -1e6, 1e6), y = std::clamp(p.y() / p.z(), -1e6, 1e6);
    if (!footprint_at(*this, static_cast<int>(x), static_cast<int>(y)).is_one_sample()) return true;
  }
  return false;
}

}  // namespace grafema::detail
