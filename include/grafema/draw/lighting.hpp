// SPDX-License-Identifier: MIT
// Light on the surface of layers, in the words of SVG's lighting filters.
#pragma once

#include <array>
#include <cstdint>
#include <memory>

#include "grafema/base/color.hpp"
#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/raster/fill_image.hpp"

namespace grafema {

/// How a layer rises from its edge inward, and what it makes of light. Lengths are those of its look.
struct Surface {
  float width = 0;      ///< from the edge to where it is level; 0: the layer takes no light
  float height = 0;     ///< how high it is there (surfaceScale); below 0: a hollow
  float round = 0;      ///< 0: a straight slope, 1: a quarter of an ellipse
  float diffuse = 1;    ///< diffuseConstant
  float specular = 0;   ///< specularConstant
  float exponent = 20;  ///< specularExponent, 1 to 128
  /// A picture of normals (as glTF has them: red to the right, green up, blue outward) that repeats over each
  /// letter from its corner, `grain_scale` long a pixel of it (of looks in ems: so that it is as many ems
  /// high), `grain_strength` times as steep.
  std::shared_ptr<const FillImage> grain = nullptr;
  float grain_scale = 1, grain_strength = 1;
  /// A picture of what stands around, as a ball shows it: its middle lies before the screen, its rim behind.
  /// The surface mirrors so much of it, 0..1.
  std::shared_ptr<const FillImage> mirror = nullptr;
  float mirror_strength = 0.5F;
  bool operator==(const Surface&) const = default;
};

enum class LightKind : std::uint8_t { distant, point };

struct Light {
  LightKind kind = LightKind::distant;
  float azimuth = 225;   ///< distant: where it comes from, degrees clockwise on the screen, 0 from the right
  float elevation = 45;  ///< and how high above the screen it stands
  PixelPoint at = {};    ///< point: layout pixels of the view
  float z = 100;         ///< and how far before the screen; above 0, so that it is never within a surface
  Color color = {1, 1, 1, 1};
  bool operator==(const Light&) const = default;
};

/// What shines on labels (Filter Effects 1, sections 9.13 and 9.24). Fills are multiplied by `ambient` and by
/// what lights give, in linear light.
struct Lighting {
  static constexpr std::size_t kMaxLights = 8;
  std::array<Light, kMaxLights> lights = {Light{}};
  std::uint8_t count = 1;
  Color ambient = {0.55F, 0.55F, 0.55F, 1};
  bool operator==(const Lighting&) const = default;
};

/// Fails with `bad_value` where a number is not finite, there are more than eight lights, or one stands
/// behind the screen or on it.
GRAFEMA_API Result<void> check_lighting(const Lighting& lighting);

/// What a color of a surface looks like at a point of the view, device pixels, that lies `inside` the edge,
/// as far as its width counts; grain and mirror are left out. `rise` is where the surface rises to, right and
/// down on the screen, at most 1 long. `content_scale` is that of the view.
GRAFEMA_API Color lit(const Color& color, const Surface& surface, float inside, PixelPoint rise,
                      PixelPoint device, const Lighting& lighting, float content_scale = 1);

}  // namespace grafema
