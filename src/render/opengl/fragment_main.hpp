// SPDX-License-Identifier: MIT
// The fragment shader's main functions: of letters, and of covers.
#pragma once

namespace grafema::detail {

/// What a pixel is painted with.
constexpr const char* kPaint = R"(
void paint_pixel(float strength, vec4 color, vec2 fill_step, vec2 dx, vec2 dy) {
#if HAS_COLOR
  bool is_color = kind_of(SLOT) == 4;
  if (is_color) strength = color.a;
#endif
#if CLIPS
  float seen = within_clip();
  strength *= seen, color *= seen;
#endif
#if FILLS || HAS_COLOR
  vec4 fill = fill_color(fill_step);
  vec3 srgb = fill.rgb / (fill.a > 0.0 ? fill.a : 1.0) * tint_color.rgb;
  float alpha = fill.a * tint_color.a;
#if HAS_COLOR
  if (is_color && more.z > 0.0) {
    vec3 light = color.rgb * to_linear(tint_color.rgb);
#if GAMMA
    light = strength > 0.0 ? to_srgb(light / strength) * strength : vec3(0.0);
#endif
    color_out = vec4(light, strength) * alpha;
    return;
  }
#endif
#if LIT
  vec3 linear = with_light(to_linear(srgb), dx, dy);
#if GAMMA
  vec4 own = vec4(to_srgb(linear), alpha);
#else
  vec4 own = vec4(linear, alpha);
#endif
#elif GAMMA
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

/// Letters: of them the strength is blended, or of a joined layer the parts are kept.
constexpr const char* kFragmentMain = R"(
#if JOINS
// What the shape of a joined layer keeps of a letter: how much of the pixel its grown edge holds, and the inner
// one of its band, and how much is the letter itself.
vec3 parts_of(float strength) {
#if HOLLOW
  if (shape.w == 2.0) return vec3(0.0, 0.0, strength);
#endif
  return vec3(strength, 0.0, 0.0);
}
vec3 parts_at(vec4 v, vec2 at, float pixel) {
  int kind = kind_of(SLOT);
  float own = 0.0;
  if (kind == 4) return vec3(v.a, 0.0, 0.0);
#if HOLLOW
  if (shape.w == 2.0) return vec3(edges_of(sample_at(at - more.xy), pixel).x, 0.0, own_share(v, pixel));
  if (shape.w == 1.0) own = own_share(sample_at(at + more.xy), pixel);
#endif
#if SWEEPS
  if (edge.z != 0.0 || edge.w != 0.0) v = swept_sample(at, pixel);
#endif
  return vec3(edges_of(v, pixel), own);
}
#endif

void main() {
  vec2 dx = dFdx(texel), dy = dFdy(texel);
#if IMAGES
  vec2 fill_step = max(abs(dFdx(place)), abs(dFdy(place)));
#else
  vec2 fill_step = vec2(0.0);
#endif
#if MINIFIED
  vec2 sides = vec2(length(dx), length(dy));
  ivec2 n = samples_of(sides);
#if MIPMAPS
  for (int level = 1; level <= 2; ++level) {
    bool is_needed = level == 1 ? kind_of(SLOT) < 5 && is_far(sides) : n.x * n.y > 16;
    if (!is_needed || !go_to_level(level)) break;
    n = samples_of(sides * unit);
  }
#endif
  if (n.x * n.y > 16) {
    int fewer = min(min(n.x, n.y), 4);
    n = n.x < n.y ? ivec2(fewer, min(n.y, 16 / fewer)) : ivec2(min(n.x, 16 / fewer), fewer);
  }
  vec2 wide = sides / vec2(n);
  float pixel = max(sqrt(0.5 * dot(wide, wide)), 1e-6), share = 1.0 / float(n.x * n.y);
#else
  float pixel = max(sqrt(0.5 * (dot(dx, dx) + dot(dy, dy))), 1e-6);
#endif
  vec4 color = vec4(0.0);
  float strength = 0.0;
#if JOINS
  vec3 parts = vec3(0.0);
#define ADD_SAMPLE(v, p, share) parts += parts_at(v, p, pixel) * (share)
#else
#define ADD_SAMPLE(v, p, share) strength += strength_at(v, p, pixel) * (share)
#endif
#if MINIFIED
  int count = n.x * n.y, first = 0;
#if MIPMAPS
  if (unit < 1.0) {
    vec2 middle = vec2(cell.xy) + (texel - vec2(cell_rect.xy)) * unit;
    for (int k = 0; k < count; ++k) {
      vec2 step = (vec2(float(k % n.x), float(k / n.x)) + 0.5) / vec2(n) - 0.5;
      color += mipmap_at(middle + (dx * step.x + dy * step.y) * unit) * share;
    }
    strength = color.a;
#if JOINS
    parts = parts_of(strength);
#endif
    first = count;
  }
#endif
  // A loop of one round costs some drivers as much as several: pixels of one sample go round it.
  if (count == 1 && first == 0) {
    color = sample_at(texel);
    ADD_SAMPLE(color, texel, 1.0);
    first = 1;
  }
#if HAS_BARS
  bool is_wide_bar = kind_of(SLOT) == 5 && pixel > 1.3, has_sweep = false;
#if SWEEPS
  has_sweep = edge.z != 0.0 || edge.w != 0.0;
#endif
  vec2 half_sample = 0.5 * (abs(dx) / float(n.x) + abs(dy) / float(n.y));
#endif
  for (int k = first; k < count; ++k) {
    vec2 step = (vec2(float(k % n.x), float(k / n.x)) + 0.5) / vec2(n) - 0.5;
    vec2 p = texel + dx * step.x + dy * step.y;
#if HAS_BARS
    if (is_wide_bar && !has_sweep) {
#if JOINS
      parts += parts_of(wide_bar_at(p, half_sample)) * share;
#else
      strength += wide_bar_at(p, half_sample) * share;
#endif
      continue;
    }
#endif
    vec4 v = sample_at(p);
    color += v * share;
    ADD_SAMPLE(v, p, share);
  }
#else
  color = sample_at(texel);
  ADD_SAMPLE(color, texel, 1.0);
#endif
#if JOINS
  float inside = 0.0;
#if LIT
  float whole = max(sqrt(0.5 * (dot(dx, dx) + dot(dy, dy))), 1e-6);
  inside = max((distance_at(texel) + shape.x) / whole + 2.0, 0.0) / 64.0;  // eight bits hold it, if need be
#endif
  color_out = vec4(parts * paint.a, inside);
#else
  paint_pixel(strength, color, fill_step, dx, dy);
#endif
}
)";

/// Composites: what lies on shape or sheet.
constexpr const char* kCoverMain = R"(
void main() {
#if EMPTIES
  color_out = vec4(0.0);
  return;
#endif
  vec4 there = plane_at(ivec2(0));
#if COMPOSITE == 2
  color_out = there * paint.a;
#else
  float strength = shape.w == 2.0 ? there.b * (1.0 - there.r) : max(there.r - there.g, 0.0);
  if (shape.w == 1.0) strength *= 1.0 - there.b;
#if IMAGES
  vec2 fill_step = max(abs(dFdx(place)), abs(dFdy(place)));
#else
  vec2 fill_step = vec2(0.0);
#endif
  paint_pixel(strength, vec4(0.0), fill_step, dFdx(texel), dFdy(texel));
#endif
}
)";

}  // namespace grafema::detail
