// SPDX-License-Identifier: MIT
// The shaders; the version line is put before them. They do what render/software does, line by line.
#pragma once

namespace grafema::detail {

constexpr const char* kVertexShader = R"(
layout(location = 0) in vec4 origin;
layout(location = 1) in vec4 across;
layout(location = 2) in vec4 down;
layout(location = 3) in uvec4 cell;
layout(location = 4) in ivec4 box;
layout(location = 5) in vec4 tint;
layout(location = 6) in uvec2 layer_page;

out vec2 texel;
out vec2 place;
flat out ivec4 cell_rect;
flat out vec4 tint_color;
flat out ivec2 layer_and_page;
uniform int first_record;

void main() {
  vec2 corner = vec2(float(gl_VertexID & 1), float(gl_VertexID >> 1));
  gl_Position = origin + across * corner.x + down * corner.y;
  texel = vec2(cell.xy) - 0.5 + corner * (vec2(cell.zw) + 1.0);
  place = mix(vec2(box.xy), vec2(box.zw), corner) / 4096.0;
  cell_rect = ivec4(cell);
  tint_color = tint;
  layer_and_page = ivec2(layer_page) + ivec2(first_record, 0);
}
)";

constexpr const char* kFragmentShader = R"(
uniform highp sampler2DArray pages;
uniform highp sampler2D records;  // six texels a record, 32 records a row
uniform int kind;                 // as QuadKind: 0 coverage, 1 distance, 2 three channels, 3 those and the distance, 4 color
uniform int gamma_target;

in vec2 texel;
in vec2 place;
flat in ivec4 cell_rect;
flat in vec4 tint_color;
flat in ivec2 layer_and_page;
out vec4 color_out;

vec4 record(int part) {
  return texelFetch(records, ivec2((layer_and_page.x % 32) * 6 + part, layer_and_page.x / 32), 0);
}

float to_linear(float v) { return v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4); }
float to_srgb(float v) { return v <= 0.0031308 ? v * 12.92 : 1.055 * pow(v, 1.0 / 2.4) - 0.055; }
vec3 to_linear(vec3 c) { return vec3(to_linear(c.r), to_linear(c.g), to_linear(c.b)); }
vec3 to_srgb(vec3 c) { return vec3(to_srgb(c.r), to_srgb(c.g), to_srgb(c.b)); }

bool outside(ivec2 at) { return any(lessThan(at, cell_rect.xy)) || any(greaterThanEqual(at, cell_rect.xy + cell_rect.zw)); }

float tap(ivec2 at) {
  if (outside(at)) return 0.0;
  return texelFetch(pages, ivec3(at, layer_and_page.y), 0).r;
}

vec4 color_tap(ivec2 at) {
  if (outside(at)) return vec4(0.0);
  vec4 c = texelFetch(pages, ivec3(at, layer_and_page.y), 0);
  return vec4(to_linear(c.rgb) * c.a, c.a);
}

float sample_at(vec2 at) {
  vec2 p = at - 0.5, f = fract(p);
  ivec2 i = ivec2(floor(p));
  return mix(mix(tap(i), tap(i + ivec2(1, 0)), f.x), mix(tap(i + ivec2(0, 1)), tap(i + ivec2(1, 1)), f.x), f.y);
}

vec4 channels_tap(ivec2 at) {
  if (outside(at)) return vec4(0.0);
  return texelFetch(pages, ivec3(at, layer_and_page.y), 0);
}

vec4 channels_at(vec2 at) {
  vec2 p = at - 0.5, f = fract(p);
  ivec2 i = ivec2(floor(p));
  return mix(mix(channels_tap(i), channels_tap(i + ivec2(1, 0)), f.x), mix(channels_tap(i + ivec2(0, 1)), channels_tap(i + ivec2(1, 1)), f.x), f.y);
}

float median(vec3 v) { return max(min(v.r, v.g), min(max(v.r, v.g), v.b)); }

// The distance to the edge of the letter itself.
float edge_at(vec2 at) { return kind == 1 ? sample_at(at) : median(channels_at(at).rgb); }

// The distance that a layer takes: effects take the true one where there is one.
float layer_at(vec2 at, vec4 shape) {
  if (kind != 3) return edge_at(at);
  vec4 v = channels_at(at);
  return shape.x == 0.0 && shape.y == 0.0 ? median(v.rgb) : v.a;
}

vec4 color_at(vec2 at) {
  vec2 p = at - 0.5, f = fract(p);
  ivec2 i = ivec2(floor(p));
  return mix(mix(color_tap(i), color_tap(i + ivec2(1, 0)), f.x), mix(color_tap(i + ivec2(0, 1)), color_tap(i + ivec2(1, 1)), f.x), f.y);
}

float strength_at(vec4 shape, float distance_in, float own, float pixel) {
  float room = max(shape.z - abs(shape.x) - shape.y, 1.0 / 64.0);
  float half_width = min(pixel / 2.0, room) + shape.y;
  float t = clamp(0.5 + (distance_in + shape.x) / (2.0 * half_width), 0.0, 1.0);
  float strength = shape.y > 0.0 ? t * t * (3.0 - 2.0 * t) : t;
  if (shape.w > 0.0) strength *= 1.0 - clamp(0.5 + own / pixel, 0.0, 1.0);
  return strength;
}

void main() {
  vec4 shape = record(0), more = record(1);  // grow, blur, reach, hollow; shift x, shift y, front
  vec2 dx = dFdx(texel), dy = dFdy(texel);
  float footprint = max(sqrt(0.5 * (dot(dx, dx) + dot(dy, dy))), 1e-6);
  int n = footprint < 1.3 ? 1 : footprint < 2.6 ? 2 : footprint < 3.9 ? 3 : 4;
  float pixel = footprint / float(n), share = 1.0 / float(n * n);
  float strength = 0.0;
  vec4 color = vec4(0.0);
  for (int j = 0; j < n; ++j) {
    for (int i = 0; i < n; ++i) {
      vec2 p = texel + dx * ((float(i) + 0.5) / float(n) - 0.5) + dy * ((float(j) + 0.5) / float(n) - 0.5);
      if (kind >= 1 && kind <= 3) {
        float own = shape.w > 0.0 ? (edge_at(p + more.xy) - 0.5) * 2.0 * shape.z : 0.0;
        strength += strength_at(shape, (layer_at(p, shape) - 0.5) * 2.0 * shape.z, own, pixel) * share;
      } else if (kind == 0) {
        strength += sample_at(p) * share;
      } else {
        color += color_at(p) * share;
      }
    }
  }
  vec2 at = clamp(place, 0.0, 1.0);
  vec4 fill = mix(mix(record(2), record(3), at.x), mix(record(5), record(4), at.x), at.y);
  vec3 srgb = fill.rgb / (fill.a > 0.0 ? fill.a : 1.0) * tint_color.rgb;
  float alpha = fill.a * tint_color.a;
  if (kind == 4) strength = color.a;
  if (kind == 4 && more.z > 0.0) {
    vec3 light = color.rgb * to_linear(tint_color.rgb);
    if (gamma_target == 1) light = strength > 0.0 ? to_srgb(light / strength) * strength : vec3(0.0);
    color_out = vec4(light, strength) * alpha;
  } else if (gamma_target == 1) {
    float luma = dot(srgb, vec3(0.299, 0.587, 0.114));
    strength += CONTRAST * (2.0 * luma - 1.0) * strength * (1.0 - strength);
    color_out = vec4(srgb, 1.0) * alpha * strength;
  } else {
    color_out = vec4(to_linear(srgb), 1.0) * alpha * strength;
  }
}
)";

}  // namespace grafema::detail
