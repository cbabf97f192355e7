// SPDX-License-Identifier: MIT
// Draws triangles with a depth buffer, four samples a pixel.
#include "grafema/sheet/solid_preview.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/light.hpp"

namespace grafema {
namespace {

using Vector = std::array<float, 3>;

float dot(const Vector& a, const Vector& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }

/// Turns about the upright axis, then about the one to the right.
class SolidView {
 public:
  SolidView(float yaw, float pitch) {
    constexpr float kDegree = 3.14159265F / 180;
    cy_ = std::cos(yaw * kDegree), sy_ = std::sin(yaw * kDegree);
    cp_ = std::cos(pitch * kDegree), sp_ = std::sin(pitch * kDegree);
  }
  Vector turn(const Vector& v) const {
    const float x = v[0] * cy_ + v[2] * sy_, z = v[2] * cy_ - v[0] * sy_;
    return {x, v[1] * cp_ - z * sp_, v[1] * sp_ + z * cp_};
  }

 private:
  float cy_, sy_, cp_, sp_;
};

/// What a sample of the picture sees.
struct DepthSample {
  float depth = -1e30F;
  Vector light{};
};

class DepthCanvas {
 public:
  DepthCanvas(int width, int height, const Vector& ground) : width_(width), height_(height) {
    samples_.assign(static_cast<std::size_t>(width) * static_cast<std::size_t>(height), {-1e30F, ground});
  }

  /// A triangle in samples, y down, seen from its front alone; `shade` gives the light of a normal.
  template <class Shade>
  void fill(const std::array<Vector, 3>& p, const std::array<Vector, 3>& normals, Shade shade) {
    const float area = (p[1][0] - p[0][0]) * (p[2][1] - p[0][1]) - (p[2][0] - p[0][0]) * (p[1][1] - p[0][1]);
    if (!(area < 0)) return;  // y runs down: what is counterclockwise in space is clockwise here
    const auto [left, right] = std::minmax({p[0][0], p[1][0], p[2][0]});
    const auto [top, bottom] = std::minmax({p[0][1], p[1][1], p[2][1]});
    const int x0 = std::max(0, static_cast<int>(left)),
              x1 = std::min(width_ - 1, static_cast<int>(right) + 1), y0 = std::max(0, static_cast<int>(top)),
              y1 = std::min(height_ - 1, static_cast<int>(bottom) + 1);
    for (int y = y0; y <= y1; ++y) {
      for (int x = x0; x <= x1; ++x) {
        const float sx = static_cast<float>(x) + 0.5F, sy = static_cast<float>(y) + 0.5F;
        const auto edge = [&](std::size_t a, std::size_t b) {
          return (p[b][0] - p[a][0]) * (sy - p[a][1]) - (sx - p[a][0]) * (p[b][1] - p[a][1]);
        };
        const std::array<float, 3> w = {edge(1, 2) / area, edge(2, 0) / area, edge(0, 1) / area};
        if (w[0] < 0 || w[1] < 0 || w[2] < 0) continue;
        const float depth = w[0] * p[0][2] + w[1] * p[1][2] + w[2] * p[2][2];
        DepthSample& sample = samples_[static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) +
                                       static_cast<std::size_t>(x)];
        if (depth <= sample.depth) continue;
        Vector normal{};
        for (std::size_t c = 0; c < 3; ++c)
          normal[c] = w[0] * normals[0][c] + w[1] * normals[1][c] + w[2] * normals[2][c];
        sample = {depth, shade(normal)};
      }
    }
  }

  /// The mean light of a square of `side` samples.
  Vector mean(int x, int y, int side) const {
    Vector sum{};
    for (int v = y * side; v < (y + 1) * side; ++v) {
      for (int u = x * side; u < (x + 1) * side; ++u) {
        const Vector& light = samples_[static_cast<std::size_t>(v) * static_cast<std::size_t>(width_) +
                                       static_cast<std::size_t>(u)]
                                  .light;
        for (std::size_t c = 0; c < 3; ++c) sum[c] += light[c] / static_cast<float>(side * side);
      }
    }
    return sum;
  }

 private:
  int width_, height_;
  std::vector<DepthSample> samples_;
};

Vector linear(const Color& color) {
  return {to_linear(color.red), to_linear(color.green), to_linear(color.blue)};
}

/// Light from the upper left, from the right, and a shine that a rough surface spreads.
Vector shaded(const SolidMaterial& material, const Vector& base, Vector normal) {
  const float length = std::sqrt(std::max(dot(normal, normal), 1e-12F));
  for (float& c : normal) c /= length;
  constexpr Vector kKey = {-0.45F, 0.55F, 0.70F}, kFill = {0.80F, 0.10F, 0.59F},
                   kHalf = {-0.24F, 0.30F, 0.92F};
  const float key = std::max(dot(normal, kKey), 0.0F), fill = std::max(dot(normal, kFill), 0.0F);
  const float shine = std::pow(std::max(dot(normal, kHalf), 0.0F), 4 + 60 * (1 - material.roughness)) *
                      (1 - material.roughness);
  Vector out{};
  for (std::size_t c = 0; c < 3; ++c) {
    const float mirrored = material.metallic * base[c] + (1 - material.metallic) * 0.2F;
    out[c] = base[c] * (0.12F + 0.85F * key + 0.18F * fill) + mirrored * shine;
  }
  return out;
}

}  // namespace

Result<Image> draw_solid_preview(const SolidText& text, const ModelOptions& materials,
                                 const SolidPreviewOptions& options) {
  constexpr int kSamples = 2;
  if (text.mesh.indices.empty()) return bad_value("letters to draw");
  if (std::min(options.width, options.height) < 16 || std::max(options.width, options.height) > 8192) {
    return bad_value("a picture of 16 to 8192 pixels", fmt::format("{} x {}", options.width, options.height));
  }
  if (!(std::abs(options.yaw) <= 80 && std::abs(options.pitch) <= 80)) {
    return bad_value("letters turned by at most 80 degrees");
  }
  Result<Image> image = Image::make(options.width, options.height, PixelFormat::rgba8);
  if (!image) return image;
  const SolidView view(options.yaw, options.pitch);
  std::vector<Vector> points, normals;
  Vector low{1e30F, 1e30F, 1e30F}, high{-1e30F, -1e30F, -1e30F};
  for (const MeshVertex& vertex : text.mesh.vertices) {
    points.push_back(view.turn(vertex.position));
    normals.push_back(view.turn(vertex.normal));
    for (std::size_t c = 0; c < 3; ++c) {
      low[c] = std::min(low[c], points.back()[c]), high[c] = std::max(high[c], points.back()[c]);
    }
  }
  const auto width = static_cast<float>(options.width * kSamples),
             height = static_cast<float>(options.height * kSamples);
  const float scale =
      0.88F * std::min(width / std::max(high[0] - low[0], 1e-6F), height / std::max(high[1] - low[1], 1e-6F));
  for (Vector& p : points) {
    p = {width / 2 + (p[0] - (low[0] + high[0]) / 2) * scale,
         height / 2 - (p[1] - (low[1] + high[1]) / 2) * scale, p[2]};
  }
  DepthCanvas canvas(options.width * kSamples, options.height * kSamples, linear(options.ground));
  for (const MeshPart& part : text.mesh.parts) {
    const bool side = part.surface == MeshSurface::side, bevel = part.surface == MeshSurface::bevel;
    const SolidMaterial& material = side ? materials.side : bevel ? materials.bevel : materials.front;
    const std::optional<Color>& own = text.letters[part.letter].color;
    const Vector base = linear(own && !side ? *own : material.color);
    for (std::uint32_t i = part.first; i + 2 < part.first + part.count; i += 3) {
      const std::uint32_t* corner = text.mesh.indices.data() + i;
      canvas.fill({points[corner[0]], points[corner[1]], points[corner[2]]},
                  {normals[corner[0]], normals[corner[1]], normals[corner[2]]},
                  [&](const Vector& normal) { return shaded(material, base, normal); });
    }
  }
  for (int y = 0; y < image->height(); ++y) {
    std::uint8_t* pixel = image->row(y);
    for (int x = 0; x < image->width(); ++x, pixel += 4) {
      const Vector light = canvas.mean(x, y, kSamples);
      for (std::size_t c = 0; c < 3; ++c) pixel[c] = detail::to_byte(to_srgb(std::min(light[c], 1.0F)));
      pixel[3] = 255;
    }
  }
  return image;
}

}  // namespace grafema
