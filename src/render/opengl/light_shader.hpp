// SPDX-License-Identifier: MIT
// Light on surfaces in shaders, as draw/lighting.cpp and QuadShader::with_light do it.
#pragma once

namespace grafema::detail {

constexpr const char* kLights = R"(
#if LIT
uniform vec4 light_places[8];  // device pixels where w is 1, else the direction
uniform vec3 light_colors[8], light_ambient;
uniform int light_count;
uniform vec2 light_origin;     // of device pixels: the viewport's top left corner, in the window

uniform vec2 viewport;
#if GRAIN
uniform sampler2D grain_image;

// As `grain_at`, turned to the device and `strength` times as steep.
vec2 grain_tilt(vec4 shine_of, float strength, vec2 dx, vec2 dy) {
  if (shine_of.z <= 0.0) return vec2(0.0);
#if COMPOSITE
  vec2 corner = vec2(cell_rect.xy);
#else
  vec2 corner = vec2(cell_rect.xy) + shape.z;
#endif
  vec2 size = vec2(textureSize(grain_image, 0)), place = (texel - corner) / shine_of.z / size;
  vec2 texels = max(abs(dx), abs(dy)) / shine_of.z;
  float level = clamp(log2(max(max(texels.x, texels.y), 1e-6)), 0.0, floor(log2(max(size.x, size.y)) + 1e-4));
  vec3 part = to_srgb(textureLod(grain_image, place, level).rgb) * 2.0 - 1.0;
  vec2 tilt = vec2(abs(part.x) < 1.5 / 255.0 ? 0.0 : part.x, abs(part.y) < 1.5 / 255.0 ? 0.0 : -part.y) / max(part.z, 0.2) * strength;
  vec2 seen = vec2(dot(tilt, dx), -dot(tilt, dy));
  float length_of = length(seen);
  return length_of > 1e-6 ? seen / length_of * length(tilt) : vec2(0.0);
}
#endif
#if MIRROR
uniform sampler2D mirror_image;

// As `mirrored`.
vec3 mirrored(vec3 normal, vec2 device) {
  vec3 eye = normalize(vec3(viewport / 2.0 - device, viewport.y));
  vec3 ray = 2.0 * dot(normal, eye) * normal - eye;
  vec2 at = normalize(vec3(ray.xy, max(ray.z + 1.0, 1e-3))).xy / 2.0 + 0.5;
  vec2 size = vec2(textureSize(mirror_image, 0));
  float most = floor(log2(max(size.x, size.y)) + 1e-4), level = clamp(log2(max(size.x, size.y) / 64.0), 0.0, most);
  vec2 low = vec2(textureSize(mirror_image, int(level))), high = vec2(textureSize(mirror_image, min(int(level) + 1, int(most))));
  vec3 a = textureLod(mirror_image, clamp(at, 0.5 / low, 1.0 - 0.5 / low), floor(level)).rgb;
  vec3 b = textureLod(mirror_image, clamp(at, 0.5 / high, 1.0 - 0.5 / high), min(floor(level) + 1.0, most)).rgb;
  return mix(a, b, fract(level));
}
#endif

vec3 lit_color(vec3 linear, vec4 lengths, vec4 shine_of, float inside, vec2 rise, vec2 tilt, vec2 device) {
  float slope = 0.0;
  if (inside < lengths.x) {
    float t = max(inside, 0.0) / lengths.x, bow = (1.0 - t) / sqrt(max(t * (2.0 - t), 0.04));
    slope = clamp(lengths.y / lengths.x * (1.0 + (bow - 1.0) * lengths.z), -8.0, 8.0);
  }
  vec3 normal = normalize(vec3(tilt - slope * rise, 1.0)), diffuse = light_ambient, shine = vec3(0.0);
  for (int i = 0; i < light_count; ++i) {
    vec4 place = light_places[i];
    vec3 to = place.w > 0.0 ? normalize(place.xyz - vec3(device, 0.0)) : place.xyz;
    diffuse += max(dot(normal, to), 0.0) * lengths.w * light_colors[i];
    float part = max(dot(normal, normalize(to + vec3(0.0, 0.0, 1.0))), 0.0);
    if (shine_of.x > 0.0) shine += shine_of.x * pow(part, shine_of.y) * light_colors[i];
  }
  linear *= diffuse;
#if MIRROR
  linear = mix(linear, mirrored(normal, device), shine_of.w);
#endif
  return clamp(linear + shine, 0.0, 1.0);
}

#if !COMPOSITE
float distance_at(vec2 at) {
#if EFFECTS
  return (grown_edge_of(sample_at(at)) - 0.5) * 2.0 * shape.z;
#else
  vec4 v = sample_at(at);
  return ((kind_of(SLOT) == 3 ? v.a : edge_of(v)) - 0.5) * 2.0 * shape.z;
#endif
}

#endif

// `dx` and `dy` are the page's steps to the next pixel, right and up.
vec3 with_light(vec3 linear, vec2 dx, vec2 dy) {
  int kind = kind_of(SLOT);
  if (fill_first < 0 || kind == 0 || kind == 4) return linear;
  vec4 lengths = record_texel(fill_first + 6);
  if (lengths.x <= 0.0) return linear;
#if COMPOSITE  // what the shape holds of pixels beside this one; a texel of a composite is a pixel of the label
  vec2 grow = vec2(plane_at(ivec2(1, 0)).a - plane_at(ivec2(-1, 0)).a, plane_at(ivec2(0, -1)).a - plane_at(ivec2(0, 1)).a) * 32.0;
  vec2 rise = grow / max(length(grow), 1.0);
  float inside = (plane_at(ivec2(0)).a * 64.0 - 2.0) * sqrt(0.5 * (dot(dx, dx) + dot(dy, dy)));
#else
  vec2 at = texel;
  float by = max(1.0, 0.5 * max(length(dx), length(dy)));
  vec2 grow = vec2(distance_at(at + vec2(by, 0.0)) - distance_at(at - vec2(by, 0.0)),
                   distance_at(at + vec2(0.0, by)) - distance_at(at - vec2(0.0, by))) / (2.0 * by);
  vec2 rise = vec2(dot(grow, dx), -dot(grow, dy));
  float steep = min(length(grow), 1.0), length_of = length(rise);
  rise = length_of > 1e-6 ? rise / length_of * steep : vec2(0.0);
  float inside = distance_at(at) + shape.x;
#endif
  vec2 device = vec2(gl_FragCoord.x - light_origin.x, light_origin.y - gl_FragCoord.y);
  vec4 shine_of = record_texel(fill_first + 7);
  vec2 tilt = vec2(0.0);
#if GRAIN
  tilt = grain_tilt(shine_of, record_texel(fill_first).w, dx, dy);
#endif
  return lit_color(linear, lengths, shine_of, inside, rise, tilt, device);
}
#endif
)";

}  // namespace grafema::detail
