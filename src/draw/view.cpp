// SPDX-License-Identifier: MIT
// Cameras: what stands where, and how wide they see.
#include "grafema/draw/view.hpp"

#include <Eigen/Core>
#include <Eigen/Geometry>
#include <cmath>

namespace grafema {
namespace {

using Eigen::Vector3d;

Vector3d to_eigen(const WorldPoint& p) { return {p.x, p.y, p.z}; }

/// `v` at length 1; `otherwise` where it has none.
Vector3d direction(const Vector3d& v, const Vector3d& otherwise) {
  const double length = v.norm();
  return length > 1e-12 ? Vector3d(v / length) : otherwise;
}

}  // namespace

Matrix4 operator*(const Matrix4& a, const Matrix4& b) {
  Matrix4 out;
  for (std::size_t column = 0; column < 4; ++column) {
    for (std::size_t row = 0; row < 4; ++row) {
      double sum = 0;
      for (std::size_t k = 0; k < 4; ++k) sum += double{a.m[k * 4 + row]} * b.m[column * 4 + k];
      out.m[column * 4 + row] = static_cast<float>(sum);
    }
  }
  return out;
}

Matrix4 orthographic(float height, float aspect, float depth) {
  Matrix4 out;
  const double high = height > 0 ? height : 1, wide = high * (aspect > 0 ? aspect : 1);
  out.m[0] = static_cast<float>(2 / wide);
  out.m[5] = static_cast<float>(2 / high);
  out.m[10] = -1 / (depth > 0 ? depth : 1.0F);
  return out;
}

Matrix4 perspective(float degrees, float aspect, float near, float far) {
  constexpr double kHalfDegree = 3.14159265358979323846 / 360;
  const double f = 1 / std::tan(double{degrees} * kHalfDegree), depth = double{near} - far;
  Matrix4 out;
  out.m = {};
  out.m[0] = static_cast<float>(f / aspect);
  out.m[5] = static_cast<float>(f);
  out.m[10] = static_cast<float>((double{far} + near) / depth);
  out.m[11] = -1;
  out.m[14] = static_cast<float>(2.0 * far * near / depth);
  return out;
}

Matrix4 look_at(const WorldPoint& eye, const WorldPoint& target, const WorldPoint& up) {
  const Vector3d at = to_eigen(eye), back = direction(at - to_eigen(target), Vector3d(0, 0, 1));
  const Vector3d side = std::abs(back.y()) < 0.9 ? Vector3d(0, 1, 0) : Vector3d(1, 0, 0);
  const Vector3d right = direction(to_eigen(up).cross(back), side.cross(back).normalized());
  const Vector3d above = back.cross(right);
  Matrix4 out;
  const std::array<Vector3d, 3> rows = {right, above, back};
  for (std::size_t row = 0; row < 3; ++row) {
    for (std::size_t column = 0; column < 3; ++column) {
      out.m[column * 4 + row] = static_cast<float>(rows[row][static_cast<int>(column)]);
    }
    out.m[12 + row] = static_cast<float>(-rows[row].dot(at));
  }
  return out;
}

Matrix4 translation(const WorldPoint& by) {
  Matrix4 out;
  out.m[12] = by.x, out.m[13] = by.y, out.m[14] = by.z;
  return out;
}

}  // namespace grafema
