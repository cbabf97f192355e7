// SPDX-License-Identifier: MIT
// The shaders; a version line and definitions are put before them. They do what render/software does.
#pragma once

namespace grafema::detail {

/// What a program is made for; each is a definition of 0 or more before the shaders:
/// KIND as QuadKind, GAMMA for Blending::gamma, HOLLOW and EFFECTS where a layer leaves the letter out, or
/// grows or blurs it, FILLS where a layer has more than one color.
constexpr const char* kVertexShader = R"(
layout(location = 0) in vec4 origin;
layout(location = 1) in vec4 across;
layout(location = 2) in vec4 down;
layout(location = 3) in uvec4 cell;
layout(location = 4) in ivec4 box;
layout(location = 5) in vec4 tint;
layout(location = 6) in uvec2 layer_page;
uniform highp sampler2D records;  // six texels a record, 32 records a row
uniform int first_record;
uniform vec2 viewport;

out vec2 texel;
flat out ivec4 cell_rect;   // the first texel and the last
flat out int page;
flat out vec4 shape;        // grow, blur, reach, hollow
flat out vec4 more;         // shift x, shift y, front
flat out vec4 paint;        // of one color: light, or sRGB for GAMMA, and alpha
#if FILLS || KIND == 4
out vec2 place;
flat out vec4 corner_0, corner_1, corner_2, corner_3, tint_color;
#endif

float to_linear(float v) { return v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4); }

// The share of a quad's sides that a layer leaves empty: cells hold the reach of their pictures, layers often need
// less. As QuadShader::margin.
vec2 empty_share(vec4 shape) {
#if KIND >= 1 && KIND <= 3 || KIND == 5
  if (across.w != 0.0 || down.w != 0.0) return vec2(0.0);
  vec2 size = vec2(cell.zw) + 1.0, pixels = viewport / (2.0 * origin.w);
  vec2 x = across.xy * pixels / size.x, y = down.xy * pixels / size.y;
  float footprint = sqrt(0.5 * (dot(x, x) + dot(y, y))) / max(abs(x.x * y.y - x.y * y.x), 1e-9);
  float n = footprint < 1.3 ? 1.0 : footprint < 2.6 ? 2.0 : footprint < 3.9 ? 3.0 : 4.0;
  float margin = shape.z - shape.x - shape.y - footprint / n * (0.5 + n / 2.0) - 1.0;
  return margin > 0.0 ? min((margin + 0.5) / size, vec2(0.5)) : vec2(0.0);
#else
  return vec2(0.0);
#endif
}

void main() {
  int number = int(layer_page.x) + first_record;
  ivec2 at = ivec2((number % 32) * 6, number / 32);
  shape = texelFetch(records, at, 0);
  vec2 corner = vec2(float(gl_VertexID & 1), float(gl_VertexID >> 1)), empty = empty_share(shape);
  corner = mix(empty, 1.0 - empty, corner);
  gl_Position = origin + across * corner.x + down * corner.y;
  texel = vec2(cell.xy) - 0.5 + corner * (vec2(cell.zw) + 1.0);
  cell_rect = ivec4(cell.xy, cell.xy + cell.zw - 1u);
  page = int(layer_page.y);
  more = texelFetch(records, at + ivec2(1, 0), 0);
  vec4 fill = texelFetch(records, at + ivec2(2, 0), 0);
  vec3 srgb = fill.rgb / (fill.a > 0.0 ? fill.a : 1.0) * tint.rgb;
#if GAMMA
  paint = vec4(srgb, fill.a * tint.a);
#else
  paint = vec4(to_linear(srgb.r), to_linear(srgb.g), to_linear(srgb.b), fill.a * tint.a);
#endif
#if FILLS || KIND == 4
  place = mix(vec2(box.xy), vec2(box.zw), corner) / 4096.0;
  corner_0 = fill;
  corner_1 = texelFetch(records, at + ivec2(3, 0), 0);
  corner_2 = texelFetch(records, at + ivec2(4, 0), 0);
  corner_3 = texelFetch(records, at + ivec2(5, 0), 0);
  tint_color = tint;
#endif
}
)";

constexpr const char* kFragmentShader = R"(
uniform highp sampler2DArray pages;

in vec2 texel;
flat in ivec4 cell_rect;
flat in int page;
flat in vec4 shape;
flat in vec4 more;
flat in vec4 paint;
#if FILLS || KIND == 4
in vec2 place;
flat in vec4 corner_0, corner_1, corner_2, corner_3, tint_color;
#endif
out vec4 color_out;

float to_linear(float v) { return v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4); }
float to_srgb(float v) { return v <= 0.0031308 ? v * 12.92 : 1.055 * pow(v, 1.0 / 2.4) - 0.055; }
vec3 to_linear(vec3 c) { return vec3(to_linear(c.r), to_linear(c.g), to_linear(c.b)); }
vec3 to_srgb(vec3 c) { return vec3(to_srgb(c.r), to_srgb(c.g), to_srgb(c.b)); }

vec4 tap(ivec2 at) {
  vec4 c = texelFetch(pages, ivec3(at, page), 0);
#if KIND == 4
  c.rgb = to_linear(c.rgb) * c.a;
#endif
  return c;
}

#if KIND == 5
// What a picture of the bar would hold.
vec4 sample_at(vec2 at) {
  vec2 half_size = vec2(cell_rect.zw - cell_rect.xy + 1) * 0.5;
  vec2 side = abs(at - vec2(cell_rect.xy) - half_size) - (half_size - shape.z);
  float outside = length(max(side, 0.0)) + min(max(side.x, side.y), 0.0);
  return vec4(0.5 - outside / (2.0 * shape.z));
}
#else
// Mixed between four texels; those outside the cell count as empty.
vec4 sample_at(vec2 at) {
  vec2 p = at - 0.5, low = floor(p), f = p - low;
  ivec2 i = ivec2(low), j = i + 1;
  vec2 first = vec2(greaterThanEqual(i, cell_rect.xy)) * vec2(lessThanEqual(i, cell_rect.zw)) * (1.0 - f);
  vec2 second = vec2(greaterThanEqual(j, cell_rect.xy)) * vec2(lessThanEqual(j, cell_rect.zw)) * f;
  i = clamp(i, cell_rect.xy, cell_rect.zw), j = clamp(j, cell_rect.xy, cell_rect.zw);
  return (tap(i) * first.x + tap(ivec2(j.x, i.y)) * second.x) * first.y +
         (tap(ivec2(i.x, j.y)) * first.x + tap(j) * second.x) * second.y;
}
#endif

// The distance to the edge of the letter itself, as it is stored.
float edge_of(vec4 v) {
#if KIND == 1
  return v.r;
#else
  return max(min(v.r, v.g), min(max(v.r, v.g), v.b));
#endif
}

float strength_at(vec2 at, float pixel) {
  vec4 v = sample_at(at);
#if KIND == 0
  return v.r;
#else
  float reading = edge_of(v);
#if KIND == 3 && EFFECTS
  if (shape.x != 0.0 || shape.y != 0.0) reading = v.a;
#endif
  float inside = (reading - 0.5) * 2.0 * shape.z;
  float room = max(shape.z - abs(shape.x) - shape.y, 1.0 / 64.0);
  float half_width = min(pixel / 2.0, room) + shape.y;
  float t = clamp(0.5 + (inside + shape.x) / (2.0 * half_width), 0.0, 1.0);
#if EFFECTS
  if (shape.y > 0.0) t = t * t * (3.0 - 2.0 * t);
#endif
#if HOLLOW
  if (shape.w > 0.0) t *= 1.0 - clamp(0.5 + (edge_of(sample_at(at + more.xy)) - 0.5) * 2.0 * shape.z / pixel, 0.0, 1.0);
#endif
  return t;
#endif
}

void main() {
  vec2 dx = dFdx(texel), dy = dFdy(texel);
  float footprint = max(sqrt(0.5 * (dot(dx, dx) + dot(dy, dy))), 1e-6);
  int n = footprint < 1.3 ? 1 : footprint < 2.6 ? 2 : footprint < 3.9 ? 3 : 4;
  float pixel = footprint / float(n), share = 1.0 / float(n * n);
  vec4 color = vec4(0.0);
  float strength = 0.0;
  // A loop of one round costs some drivers as much as several: pixels of one sample go round it.
#if KIND == 4
  if (n == 1) color = sample_at(texel);
#else
  if (n == 1) strength = strength_at(texel, pixel);
#endif
  for (int k = n == 1 ? 1 : 0; k < n * n; ++k) {
    vec2 step = (vec2(float(k % n), float(k / n)) + 0.5) / float(n) - 0.5;
    vec2 p = texel + dx * step.x + dy * step.y;
#if KIND == 4
    color += sample_at(p) * share;
#else
    strength += strength_at(p, pixel) * share;
#endif
  }
#if KIND == 4
  strength = color.a;
#endif
#if FILLS || KIND == 4
  vec2 at = clamp(place, 0.0, 1.0);
  vec4 fill = mix(mix(corner_0, corner_1, at.x), mix(corner_3, corner_2, at.x), at.y);
  vec3 srgb = fill.rgb / (fill.a > 0.0 ? fill.a : 1.0) * tint_color.rgb;
  float alpha = fill.a * tint_color.a;
#if KIND == 4
  if (more.z > 0.0) {
    vec3 light = color.rgb * to_linear(tint_color.rgb);
#if GAMMA
    light = strength > 0.0 ? to_srgb(light / strength) * strength : vec3(0.0);
#endif
    color_out = vec4(light, strength) * alpha;
    return;
  }
#endif
#if GAMMA
  vec4 own = vec4(srgb, alpha);
#else
  vec4 own = vec4(to_linear(srgb), alpha);
#endif
#else
  vec4 own = paint;
#endif
#if GAMMA
  float luma = dot(own.rgb, vec3(0.299, 0.587, 0.114));
  strength += CONTRAST * (2.0 * luma - 1.0) * strength * (1.0 - strength);
#endif
  color_out = vec4(own.rgb, 1.0) * own.a * strength;
}
)";

}  // namespace grafema::detail
