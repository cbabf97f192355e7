// SPDX-License-Identifier: MIT
// Diffuse and specular light; the shader of the OpenGL renderer does the same, line by line.
#include "grafema/draw/lighting.hpp"

#include <algorithm>
#include <cmath>

#include "draw/light_math.hpp"

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
  if (lighting.count > Lighting::kMostLights || !finite ||
      !std::all_of(lighting.lights.begin(), lighting.lights.begin() + lighting.count, is_good)) {
    return fail(make_error(ErrorKind::bad_value, "at most 8 lights of finite numbers, before the screen"));
  }
  return {};
}

detail::LightVectors detail::light_vectors(const Lighting& lighting, float content_scale) {
  LightVectors out;
  const Color& a = lighting.ambient;
  out.ambient = {to_linear(a.red), to_linear(a.green), to_linear(a.blue)};
  out.count = std::min<std::size_t>(lighting.count, Lighting::kMostLights);
  for (std::size_t i = 0; i < out.count; ++i) {
    const Light& l = lighting.lights[i];
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

std::array<float, 3> detail::lit_color(std::array<float, 3> linear, const Surface& surface, float inside,
                                       PixelPoint rise, PixelPoint device, const LightVectors& lights) {
  constexpr float kSteepest = 8;
  // The slope of the profile: a straight one, or that of an ellipse.
  float slope = 0;
  if (inside < surface.width) {  // pixels on the edge see where it begins
    const float t = std::max(inside, 0.0F) / surface.width,
                bow = (1 - t) / std::sqrt(std::max(t * (2 - t), 0.04F));
    slope =
        std::clamp(surface.height / surface.width * (1 + (bow - 1) * surface.round), -kSteepest, kSteepest);
  }
  const Vector normal = normalized({-slope * rise.x, -slope * rise.y, 1});
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
  for (std::size_t c = 0; c < 3; ++c) linear[c] = std::clamp(linear[c] * diffuse[c] + shine[c], 0.0F, 1.0F);
  return linear;
}

Color lit(const Color& color, const Surface& surface, float inside, PixelPoint rise, PixelPoint device,
          const Lighting& lighting, float content_scale) {
  const auto out =
      detail::lit_color({to_linear(color.red), to_linear(color.green), to_linear(color.blue)}, surface,
                        inside, rise, device, detail::light_vectors(lighting, content_scale));
  return {to_srgb(out[0]), to_srgb(out[1]), to_srgb(out[2]), color.alpha};
}

}  // namespace grafema
