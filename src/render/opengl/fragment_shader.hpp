// SPDX-License-Identifier: MIT
// The fragment shader; a version line and definitions are put before it. It does what render/software does.
#pragma once

namespace grafema::detail {

/// What it is given, and how light becomes sRGB; the colors of fills stand behind it.
constexpr const char* kFragmentHead = R"(
uniform highp sampler2DArray pages_0;
#if KINDS > 1
uniform highp sampler2DArray pages_1, pages_2, pages_3;
#endif
#if MIPMAPS
uniform highp sampler2DArray mipmaps_0;  // GlyphSource::mipmap_pixels
#if KINDS > 1
uniform highp sampler2DArray mipmaps_1, mipmaps_2, mipmaps_3;
#endif
#endif

in vec2 texel;
flat in ivec4 cell_rect;
flat in int page;
flat in vec4 shape;
flat in vec4 more;
flat in vec4 paint;
#if EFFECTS
flat in vec4 edge;
#endif
#if FILL_RECORDS
flat in int fill_first;
#endif
#if HAS_PANELS
flat in int panel_first;
#endif
#if FILLS || HAS_COLOR
in vec2 place;
flat in vec4 corner_0, corner_1, corner_2, corner_3, tint_color;
#endif
#if KINDS > 1
flat in int page_slot;
#define SLOT page_slot
#else
#define SLOT 0
#endif
#if CLIPS
in vec3 cut;
#endif
#if COMPOSITE
uniform highp sampler2D plane;  // the shape or the intermediate target, as large as the viewport
uniform vec2 plane_origin;      // where it begins in the window
vec4 plane_at(ivec2 beside) {
  ivec2 at = ivec2(gl_FragCoord.xy - plane_origin) + beside;
  return texelFetch(plane, clamp(at, ivec2(0), textureSize(plane, 0) - 1), 0);
}
#endif
out vec4 color_out;

// A constant where there is one kind alone.
int kind_of(int s) { return s == 0 ? KIND_0 : s == 1 ? KIND_1 : s == 2 ? KIND_2 : KIND_3; }

float to_linear(float v) { return v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4); }
float to_srgb(float v) { return v <= 0.0031308 ? v * 12.92 : 1.055 * pow(v, 1.0 / 2.4) - 0.055; }
vec3 to_linear(vec3 c) { return vec3(to_linear(c.r), to_linear(c.g), to_linear(c.b)); }
vec3 to_srgb(vec3 c) { return vec3(to_srgb(c.r), to_srgb(c.g), to_srgb(c.b)); }
)";

/// How strongly a layer paints.
constexpr const char* kStrengths = R"(
#if MAGNIFIED || PIXELATED
// Between two texels a texture unit knows 256 places, which show on large ones.
vec4 texel_at(ivec2 at) {
  at = clamp(at, cell_rect.xy, cell_rect.zw);
#if KINDS > 1
  if (SLOT == 1) return texelFetch(pages_1, ivec3(at, page), 0);
  if (SLOT == 2) return texelFetch(pages_2, ivec3(at, page), 0);
  if (SLOT == 3) return texelFetch(pages_3, ivec3(at, page), 0);
#endif
  return texelFetch(pages_0, ivec3(at, page), 0);
}
vec4 mixed_at(vec2 at) {
  vec2 p = at - 0.5, low = floor(p), f = p - low;
  ivec2 i = ivec2(low);
  return mix(mix(texel_at(i), texel_at(i + ivec2(1, 0)), f.x),
             mix(texel_at(i + ivec2(0, 1)), texel_at(i + ivec2(1, 1)), f.x), f.y);
}
#else
// Mixed by the texture unit; `at` is at least half a texel inside the cell.
vec4 mixed_at(vec2 at) {
#if KINDS > 1
  if (SLOT == 1) return texture(pages_1, vec3(at / vec2(textureSize(pages_1, 0).xy), page));
  if (SLOT == 2) return texture(pages_2, vec3(at / vec2(textureSize(pages_2, 0).xy), page));
  if (SLOT == 3) return texture(pages_3, vec3(at / vec2(textureSize(pages_3, 0).xy), page));
#endif
  return texture(pages_0, vec3(at / vec2(textureSize(pages_0, 0).xy), page));
}
#endif

#if HAS_BARS
// What a picture of the bar would hold.
vec4 bar_at(vec2 at) {
  vec2 half_size = vec2(cell_rect.zw - cell_rect.xy + 1) * 0.5;
  vec2 side = abs(at - vec2(cell_rect.xy) - half_size) - (half_size - shape.z);
  float outside = length(max(side, 0.0)) + min(max(side.x, side.y), 0.0);
  return vec4(0.5 - outside / (2.0 * shape.z));
}

#if MINIFIED
// How much of a sample a bar composites that is thinner than the sample is wide.
float share_of_bar(vec2 at, vec2 half_sample, float grow) {
  vec2 low = vec2(cell_rect.xy) + shape.z - grow, high = vec2(cell_rect.zw) + 1.0 - shape.z + grow;
  vec2 within = min(high, at + half_sample) - max(low, at - half_sample);
  vec2 share = clamp(within / (2.0 * half_sample), 0.0, 1.0);
  return share.x * share.y;
}
float wide_bar_at(vec2 at, vec2 half_sample) {
  vec2 hard = max(half_sample, vec2(1e-6)), soft = max(half_sample + shape.y, vec2(1e-6));
#if HOLLOW
  if (shape.w == 2.0) return share_of_bar(at, hard, 0.0) * (1.0 - share_of_bar(at - more.xy, soft, -shape.x));
#endif
  float strength = share_of_bar(at, soft, shape.x);
#if EFFECTS
  if (edge.x > 0.0) strength = max(strength - share_of_bar(at, soft, shape.x - edge.x), 0.0);
#endif
#if HOLLOW
  if (shape.w == 1.0) strength *= 1.0 - share_of_bar(at + more.xy, hard, 0.0);
#endif
  return strength;
}
#endif
#endif

#if HAS_PANELS
float to_segment(vec2 p, vec2 a, vec2 b) {
  vec2 d = b - a;
  float t = clamp(dot(p - a, d) / max(dot(d, d), 1e-12), 0.0, 1.0);
  return length(p - a - d * t);
}
float cross_of(vec2 a, vec2 b) { return a.x * b.y - a.y * b.x; }

// As `distance_to` of a PanelShape.
vec4 panel_at(vec2 at) {
  vec4 radii = record_texel(panel_first), beyond = record_texel(panel_first + 1);
  vec2 low = vec2(cell_rect.xy) + shape.z + beyond.xy, high = vec2(cell_rect.zw) + 1.0 - shape.z - beyond.zw;
  vec2 half_size = (high - low) / 2.0, p = at - low, from = p - half_size;
  float radius = from.y < 0.0 ? (from.x < 0.0 ? radii.x : radii.y) : (from.x < 0.0 ? radii.w : radii.z);
  vec2 q = abs(from) - half_size + radius;
  float inside = radius - length(max(q, 0.0)) - min(max(q.x, q.y), 0.0);
  vec4 more_pointer = record_texel(panel_first + 3);
  if (more_pointer.z > 0.0) {
    vec4 pointer = record_texel(panel_first + 2);
    vec2 a = pointer.xy, b = pointer.zw, c = more_pointer.xy;
    vec3 side = vec3(cross_of(b - a, p - a), cross_of(c - b, p - b), cross_of(a - c, p - c));
    bool is_within = all(greaterThanEqual(side, vec3(0.0))) || all(lessThanEqual(side, vec3(0.0)));
    float away = min(min(to_segment(p, a, b), to_segment(p, b, c)), to_segment(p, c, a));
    inside = max(inside, is_within ? away : -away);
  }
  return vec4(0.5 + inside / (2.0 * shape.z));
}
#endif

// Mixed between four texels; those outside the cell count as empty.
vec4 sample_at(vec2 at) {
#if HAS_PANELS
  if (kind_of(SLOT) == 6) return panel_at(at);
#endif
#if HAS_BARS
  if (kind_of(SLOT) == 5) return bar_at(at);
#endif
#if PIXELATED
  vec2 whole = floor(at);
  bool is_there = all(greaterThanEqual(whole, vec2(cell_rect.xy))) && all(lessThanEqual(whole, vec2(cell_rect.zw)));
  return is_there ? texel_at(ivec2(whole)) : vec4(0.0);
#endif
  vec2 inside = clamp(at, vec2(cell_rect.xy) + 0.5, vec2(cell_rect.zw) + 0.5), share = max(1.0 - abs(at - inside), 0.0);
  return mixed_at(inside) * (share.x * share.y);
}

// The distance to the edge of the letter itself, as it is stored.
float edge_of(vec4 v) {
  int kind = kind_of(SLOT);
  return kind == 1 || kind == 5 ? v.r : max(min(v.r, v.g), min(max(v.r, v.g), v.b));
}

float soft_edge(float distance, float half_width) {
  float t = clamp(0.5 + distance / (2.0 * half_width), 0.0, 1.0);
#if EFFECTS
  if (shape.y > 0.0) t = t * t * (3.0 - 2.0 * t);
#endif
  return t;
}

#if EFFECTS
// The one that effects follow: the true distance where there is one, unless corners are to stay.
float grown_edge_of(vec4 v) {
  if (kind_of(SLOT) != 3) return edge_of(v);
  return edge.y == 0.0 ? v.a : min(edge_of(v), v.a + max(shape.x, 0.0) * (SHARP_REACH - 1.0) / (2.0 * shape.z));
}
#endif

// How much of a pixel lies within the layer's edge, and within the inner one of its band.
vec2 edges_of(vec4 v, float pixel) {
  int kind = kind_of(SLOT);
  if (kind == 0) return vec2(v.r, 0.0);
#if EFFECTS
  bool is_plain = shape.x == 0.0 && shape.y == 0.0 && shape.w != 2.0;
  float reading = is_plain ? edge_of(v) : grown_edge_of(v);
  float room = max(shape.z - max(abs(shape.x), abs(shape.x - edge.x)) - shape.y, 1.0 / 64.0);
#else
  float reading = edge_of(v), room = max(shape.z, 1.0 / 64.0);
#endif
  float inside = (reading - 0.5) * 2.0 * shape.z, half_width = min(pixel / 2.0, room) + shape.y;
#if HOLLOW
  if (shape.w == 2.0) return vec2(soft_edge(inside - shape.x, half_width), 0.0);
#endif
  float outer = soft_edge(inside + shape.x, half_width);
#if EFFECTS
  if (edge.x > 0.0) {
    float inner = (grown_edge_of(v) - 0.5) * 2.0 * shape.z + shape.x - edge.x;
    return vec2(outer, soft_edge(inner, half_width));
  }
#endif
  return vec2(outer, 0.0);
}

float strength_of(vec4 v, float pixel) {
  vec2 edges = edges_of(v, pixel);
#if HOLLOW
  if (shape.w == 2.0) return 1.0 - edges.x;
#endif
  return max(edges.x - edges.y, 0.0);
}

#if HOLLOW
float own_share(vec4 v, float pixel) {
  return clamp(0.5 + (edge_of(v) - 0.5) * 2.0 * shape.z / pixel, 0.0, 1.0);
}
#endif

#if SWEEPS
vec2 way_on_cell(float v, float by, float low, float high) {
  float a = (v - high) / by, b = (v - low) / by;
  return by == 0.0 ? vec2(0.0, 1.0) : vec2(min(a, b), max(a, b));
}

// As QuadShader::swept_sample.
vec4 swept_sample(vec2 at, float pixel) {
  int kind = kind_of(SLOT);
  vec2 sweep = edge.zw, high = vec2(cell_rect.zw) + 2.0, low = vec2(cell_rect.xy) - 1.0;
  vec2 x = way_on_cell(at.x, sweep.x, low.x, high.x), y = way_on_cell(at.y, sweep.y, low.y, high.y);
  float begin = max(max(x.x, y.x), 0.0), end = min(min(x.y, y.y), 1.0), whole = length(sweep), length_of = whole * (end - begin);
  if (begin > end) return vec4(0.0);
  float shortest = max(max(0.75, pixel * 0.75), length_of / 96.0), gone = 0.0, most = 0.0;
  for (int step = 0; step <= 96; ++step) {
    vec4 v = sample_at(at - sweep * (begin + gone / whole));
    float reading = kind == 0 ? v.r : grown_edge_of(v);
    most = max(most, reading);
    if (gone >= length_of || reading >= 1.0) break;
    float free = kind == 0 ? 0.0 : (0.5 - reading) * 2.0 * shape.z - shape.z / 2.0;
    gone = min(gone + max(free, shortest), length_of);
  }
  return vec4(most);
}
#endif

// Of a pixel whose middle is at `at`, where the page has `v`.
float strength_at(vec4 v, vec2 at, float pixel) {
#if HOLLOW
  if (shape.w == 2.0) {
    float own = own_share(v, pixel);
    return own > 0.0 ? own * strength_of(sample_at(at - more.xy), pixel) : 0.0;
  }
#endif
#if SWEEPS
  if (kind_of(SLOT) != 4 && (edge.z != 0.0 || edge.w != 0.0)) v = swept_sample(at, pixel);
#endif
  float t = strength_of(v, pixel);
#if HOLLOW
  if (shape.w == 1.0) t *= 1.0 - own_share(sample_at(at + more.xy), pixel);
#endif
  return t;
}

#if CLIPS
// How much of the pixel lies within the clip: a line one pixel wide goes from all to nothing.
float within_clip() {
  vec2 at = cut.xy / cut.z, x = dFdx(at), y = dFdy(at);
  vec2 step = max(sqrt(x * x + y * y), vec2(1e-9));
  vec2 share = clamp((0.5 - abs(at - 0.5)) / step + 0.5, 0.0, 1.0);
  return cut.z > 0.0 ? share.x * share.y : 0.0;
}
#endif

#if MINIFIED
// A sample stands for at most 1.3 texels: off the sizes that games use. As detail::Footprint.
ivec2 samples_of(vec2 texels) { return ivec2(min(texels / 1.3, vec2(15.0))) + 1; }

// One may stand for 1.6 texels before smaller pictures are taken, which are softer.
bool is_far(vec2 texels) {
  ivec2 n = ivec2(min(texels / 1.6, vec2(15.0))) + 1;
  return n.x * n.y > 16;
}
#endif
)";

}  // namespace grafema::detail
