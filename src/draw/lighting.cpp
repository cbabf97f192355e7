// SPDX-License-Identifier: MIT
// Diffuse and specular light; the shader of the OpenGL renderer does the same, line by line.
#include "grafema/draw/lighting.hpp"

#include <algorithm>
#include <cmath>

#include "draw/light_math.hpp"
#include "raster/fill_math.hpp"

namespace grafema {
namespace {

using detail::Vector;

Vector normalized(Vector v) {
  const float length = std::sqrt(v.x * v.x + v.y * v.y + v.z * v.z);
  return {v.x / length, v.y / length, v.z / length};
}

float dot(Vector a, Vector b) { return a.x * b.x + a.y * b.y + a.z * b.z; }

}  // namespace

Result<void> check_lighting(const Lighting& lighting) {
  const auto is_good = [](const Light& l) {
    for (const float v :
         {l.azimuth, l.elevation, l.at.x, l.at.y, l.z, l.color.red, l.color.green, l.color.blue}) {
      if (!std::isfinite(v)) return false;
    }
    return l.kind == LightKind::distant || l.z > 0;
  };
  const Color& a = lighting.ambient;
  const bool finite = std::isfinite(a.red) && std::isfinite(a.green) && std::isfinite(a.blue);
  if (lighting.count > Lighting::kMaxLights || !finite ||
      !std::all_of(lighting.lights.begin(), lighting.lights.begin() + lighting.count, is_good)) {
    return bad_value("at most 8 lights of finite numbers, before the screen");
  }
  return {};
}

detail::LightVectors detail::light_vectors(const Lighting& lighting, float content_scale, float width,
                                           float height) {
  LightVectors out;
  out.middle = {width / 2, height / 2}, out.away = height;
  const Color& a = lighting.ambient;
  out.ambient = {to_linear(a.red), to_linear(a.green), to_linear(a.blue)};
  out.count = std::min<std::size_t>(lighting.count, Lighting::kMaxLights);
  for (std::size_t i = 0; i < out.count; ++i) {
    const grafema::Light& l = lighting.lights[i];
    out.colors[i] = {to_linear(l.color.red), to_linear(l.color.green), to_linear(l.color.blue)};
    out.is_point[i] = l.kind == LightKind::point ? 1.0F : 0.0F;
    constexpr float kDegree = 3.14159265F / 180;
    out.places[i] = l.kind == LightKind::point
                        ? Vector{l.at.x * content_scale, l.at.y * content_scale, l.z * content_scale}
                        : Vector{std::cos(l.azimuth * kDegree) * std::cos(l.elevation * kDegree),
                                 std::sin(l.azimuth * kDegree) * std::cos(l.elevation * kDegree),
                                 std::sin(l.elevation * kDegree)};
  }
  return out;
}

PixelPoint detail::grain_at(const FillImage& grain, PixelPoint place, PixelPoint wide) {
  const auto width = static_cast<float>(grain.width()), height = static_cast<float>(grain.height());
  const std::array<float, 4> light =
      light_at(grain, {place.x / width, place.y / height}, {wide.x / width, wide.y / height}, true);
  const auto part = [&](std::size_t c) { return to_srgb(light[c]) * 2 - 1; };
  const float out = std::max(part(2), 0.2F);
  // The middle of a byte's range, which stands for no slope, is no byte.
  const auto lean = [](float v) { return std::abs(v) < 1.5F / 255 ? 0.0F : v; };
  return {lean(part(0)) / out, -lean(part(1)) / out};
}

namespace {

/// The slope of the profile: a straight one, or that of an ellipse.
float slope_of(const Surface& surface, float inside) {
  constexpr float kSteepest = 8;
  if (!(inside < surface.width)) return 0;  // pixels on the edge see where it begins
  const float t = std::max(inside, 0.0F) / surface.width,
              bow = (1 - t) / std::sqrt(std::max(t * (2 - t), 0.04F));
  return std::clamp(surface.height / surface.width * (1 + (bow - 1) * surface.round), -kSteepest, kSteepest);
}

/// What a ball of the same normal shows of its surroundings, from the level that is at most 64 pixels wide.
std::array<float, 3> mirrored(const FillImage& image, Vector normal, PixelPoint device,
                              const detail::LightVectors& lights) {
  const Vector eye = lights.away > 0
                         ? normalized({lights.middle.x - device.x, lights.middle.y - device.y, lights.away})
                         : Vector{0, 0, 1};
  const float along = 2 * dot(normal, eye);
  const Vector half = normalized(
      {along * normal.x - eye.x, along * normal.y - eye.y, std::max(along * normal.z - eye.z + 1, 1e-3F)});
  const std::array<float, 4> light =
      detail::light_at(image, {half.x / 2 + 0.5F, half.y / 2 + 0.5F}, {1.0F / 64, 1.0F / 64}, false);
  return {light[0], light[1], light[2]};
}

}  // namespace

std::array<float, 3> detail::lit_color(std::array<float, 3> linear, const SurfacePoint& point,
                                       const LightVectors& lights) {
  const Surface& surface = point.surface;
  const PixelPoint device = point.device;
  const float slope = slope_of(surface, point.inside);
  const Vector normal =
      normalized({point.tilt.x - slope * point.rise.x, point.tilt.y - slope * point.rise.y, 1});
  std::array<float, 3> diffuse = lights.ambient, shine = {};
  for (std::size_t i = 0; i < lights.count; ++i) {
    const Vector& place = lights.places[i];
    const Vector to =
        lights.is_point[i] > 0 ? normalized({place.x - device.x, place.y - device.y, place.z}) : place;
    const float lambert = std::max(dot(normal, to), 0.0F) * surface.diffuse;
    const float half = std::max(dot(normal, normalized({to.x, to.y, to.z + 1})), 0.0F);
    const float glint = surface.specular > 0 ? surface.specular * std::pow(half, surface.exponent) : 0.0F;
    for (std::size_t c = 0; c < 3; ++c) {
      diffuse[c] += lambert * lights.colors[i][c], shine[c] += glint * lights.colors[i][c];
    }
  }
  for (std::size_t c = 0; c < 3; ++c) linear[c] *= diffuse[c];
  if (point.mirror != nullptr && point.mirrored > 0) {
    const std::array<float, 3> seen = mirrored(*point.mirror, normal, device, lights);
    for (std::size_t c = 0; c < 3; ++c) linear[c] += (seen[c] - linear[c]) * point.mirrored;
  }
  for (std::size_t c = 0; c < 3; ++c) linear[c] = std::clamp(linear[c] + shine[c], 0.0F, 1.0F);
  return linear;
}

Color lit(const Color& color, const Surface& surface, float inside, PixelPoint rise, PixelPoint device,
          const Lighting& lighting, float content_scale) {
  const auto out = detail::lit_color({to_linear(color.red), to_linear(color.green), to_linear(color.blue)},
                                     {.surface = surface, .inside = inside, .rise = rise, .device = device},
                                     detail::light_vectors(lighting, content_scale));
  return {to_srgb(out[0]), to_srgb(out[1]), to_srgb(out[2]), color.alpha};
}

}  // namespace grafema
