// SPDX-License-Identifier: MIT
// The vertex shader: glyphs of a scene, placed as render/software/scene_quads.cpp does.
#pragma once

namespace grafema::detail {

/// What a program is made for; each is a definition before the shaders: KINDS
/// kinds of pages, KIND_0 to KIND_3 (as TexelKind), GAMMA for Blending::gamma, CONTRAST, HOLLOW and
/// EFFECTS where a layer leaves the letter out, or grows or blurs it, FILLS where a layer has more than one
/// color, GRADIENTS and IMAGES where it has stops or an image, SWEEPS where it draws the letter out, MOVES
/// and CLIPS where a label has a motion, or is cut off, MAGNIFIED, MINIFIED and MIPMAPS as
/// SceneFeature::magnified, SceneFeature::minified and SceneFeature::mipmapped, JOINS for what goes into a
/// mask, FADES for what lies on a intermediate target, COMPOSITE 1 for composites of masks and 2 for those of
/// intermediate targets.
constexpr const char* kGlyphVertices = R"(
layout(location = 0) in uint entry;
uniform highp usampler2DArray glyphs;  // two texels a glyph
uniform highp usampler2DArray rows;    // four texels a label
uniform float clock;
uniform ivec4 arrays;                  // the numbers of the arrays that the program has at hand
#if FILLS || MOVES || HAS_COLOR
uniform highp sampler2DArray heads;    // a texel a label
#endif
#if FILLS
uniform highp sampler2DArray boxes;    // two texels a glyph
#endif
#if CLIPS
uniform highp sampler2DArray clips;    // three texels a clip
#endif
#if MOVES
uniform highp sampler2DArray motions;  // three texels a record
#endif

ivec3 place_of(int texel) { return ivec3(texel & 1023, (texel >> 10) & 1023, texel >> 20); }

vec4 tint_of(uint bytes) {
  return vec4(float(bytes & 255u), float((bytes >> 8) & 255u), float((bytes >> 16) & 255u), float(bytes >> 24)) / 255.0;
}

struct Move {
  mat2 turn;
  vec2 by;
  vec4 tint;
};

#if MOVES
float soft(float t) { return t * t * (3.0 - 2.0 * t); }

float sine_of_turns(float turns) {
  float f = turns - floor(turns + 0.5);
  if (abs(f) > 0.25) f = (f < 0.0 ? -0.5 : 0.5) - f;
  float x = f * 6.2831853, s = x * x;
  return x * (1.0 + s * (-1.0 / 6.0 + s * (1.0 / 120.0 + s * (-1.0 / 5040.0 + s / 362880.0))));
}

float scattered(int step, uint index, uint seed) {
  uint h = uint(step) * 0x9E3779B9u + index * 0x85EBCA6Bu + seed * 0xC2B2AE35u + 1u;
  h = (h ^ (h >> 16)) * 0x7FEB352Du;
  h = (h ^ (h >> 15)) * 0x846CA68Bu;
  h ^= h >> 16;
  return float(h >> 8) / 8388608.0 - 1.0;
}

// a: kind, amplitude, period, phase; b: lead, start, stop, seed.
float value_of(int easing, vec4 a, vec4 b, uint index, float seconds) {
  float t = clamp((seconds - b.y) / a.z + b.x - a.w * float(index), -1e9, 1e9);
  float once = clamp(t, 0.0, 1.0), left = 1.0 - once;
  float step = floor(t), within = t - step;
  int number = int(step);
  if (easing == 0) return sine_of_turns(t);
  if (easing == 1) return within < 0.25 ? 4.0 * within : within < 0.75 ? 2.0 - 4.0 * within : 4.0 * within - 4.0;
  if (easing == 2) return within < 0.5 ? 1.0 : -1.0;
  if (easing == 3) return scattered(number, index, uint(b.w));
  if (easing == 4) {
    float from = scattered(number, index, uint(b.w)), to = scattered(number + 1, index, uint(b.w));
    return from + (to - from) * soft(within);
  }
  if (easing == 5) return 1.0 - soft(once);
  if (easing == 6) return left * left * (1.0 - 3.0 * once);
  if (easing == 8) return within < 0.5 ? 8.0 * within * (1.0 - 2.0 * within) : 0.0;
  if (easing == 9) return floor(within * 4.0) / 3.0;
  if (easing == 10) return within < 1.0 / 3.0 ? 1.0 - soft(1.0 - abs(6.0 * within - 1.0)) : 1.0;
  if (easing == 11) return within;
  if (easing == 12) return scattered(0, index, uint(b.w)) * (1.0 - soft(once));
  return soft(once);
}

void turn_about(inout Move move, vec2 pivot, mat2 by) {
  vec2 at = move.turn * pivot + move.by;
  move.turn = by * move.turn;
  move.by = by * (move.by - at) + at;
}

Move move_of(int motion, uint index, vec4 head, vec2 middle, vec2 baseline, float seconds) {
  Move move = Move(mat2(1.0), vec2(0.0), vec4(1.0));
  if (motion == 0) return move;
  vec4 first = texelFetch(motions, place_of(motion * 3), 0);
  if (first.x < 0.0) {
    vec4 more = texelFetch(motions, place_of(motion * 3 + 1), 0);
    return Move(mat2(first.y, more.x, first.z, more.y), vec2(first.w, more.z), texelFetch(motions, place_of(motion * 3 + 2), 0));
  }
  for (int t = 1; t <= int(first.x); ++t) {
    vec4 a = texelFetch(motions, place_of((motion + t) * 3), 0), b = texelFetch(motions, place_of((motion + t) * 3 + 1), 0);
    int what = int(a.x), kind = what & 15, easing = (what >> 4) & 15, pivot_kind = (what >> 8) & 3;
    bool goes_on = easing < 5 || (easing >= 8 && easing <= 11), waits = (what & 2048) != 0;
    bool at_rest = (easing != 7 && seconds >= b.z) || (seconds < b.y && (waits || (goes_on && easing != 7)));
    if (at_rest) continue;
    float value = a.y * value_of(easing, a, b, (what & 1024) != 0 ? 0u : index, seconds);
    float share = clamp(easing < 5 ? (a.y + value) / 2.0 : value, 0.0, 1.0);
    vec2 pivot = pivot_kind == 0 ? middle : pivot_kind == 1 ? baseline : pivot_kind == 2 ? head.xy / 2.0 :
                 baseline - vec2(0.0, head.z);
    if (kind == 0) move.by.x += value * head.z;
    if (kind == 1) move.by.y += value * head.z;
    if (kind == 2) {
      float sine = sine_of_turns(value / 360.0), cosine = sine_of_turns(value / 360.0 + 0.25);
      turn_about(move, pivot, mat2(cosine, sine, -sine, cosine));
    }
    if (kind == 3) turn_about(move, pivot, mat2(1.0 + value, 0.0, 0.0, 1.0 + value));
    if (kind == 4) turn_about(move, pivot, mat2(1.0 + value, 0.0, 0.0, 1.0));
    if (kind == 5) turn_about(move, pivot, mat2(1.0, 0.0, 0.0, 1.0 + value));
    if (kind == 6) {
      float angle = clamp(value, -80.0, 80.0) / 360.0;
      turn_about(move, pivot, mat2(1.0, 0.0, -sine_of_turns(angle) / sine_of_turns(angle + 0.25), 1.0));
    }
    if (kind == 7) move.tint *= 1.0 + (texelFetch(motions, place_of((motion + t) * 3 + 2), 0) - 1.0) * share;
    if (kind == 8) move.tint.a *= 1.0 - share;
  }
  return move;
}
#endif

bool find_quad() {
  if (entry == 0xFFFFFFFFu) return false;
  int glyph = int(entry >> 3);
  uvec4 a = texelFetch(glyphs, place_of(glyph * 2), 0), b = texelFetch(glyphs, place_of(glyph * 2 + 1), 0);
  int row = int(b.x);
  uvec4 moving = texelFetch(rows, place_of(row * 4 + 3), 0);
  if (moving.x >> 24 == 0u) return false;
  record = int((b.y & 65535u) + (entry & 7u));
  quad_page = int((b.y >> 16) & 2047u);
#if KINDS > 1
  int array = int(b.y >> 27);
  slot = array == arrays.x ? 0 : array == arrays.y ? 1 : array == arrays.z ? 2 : 3;
#endif
  quad_cell = uvec4(a.z & 65535u, a.z >> 16, a.w & 65535u, a.w >> 16);
  vec4 placed = record_texel(record * 8 + 6), layer = record_texel(record * 8 + 1);
  float pixel = placed.x, lean = placed.y;
  vec2 at = uintBitsToFloat(a.xy), size = (vec2(quad_cell.zw) + 1.0) * pixel;
  float left = -lean * size.y;
#if MOVES || FILLS || HAS_COLOR
  vec4 head = texelFetch(heads, place_of(row), 0);
#endif
  float moved = record_texel(record * 8).w == 2.0 ? 0.0 : pixel;  // an inset stands where the letter does
  vec2 shift = vec2(layer.x - lean * layer.y, layer.y) * moved;
#if FILLS || HAS_COLOR
  vec4 box = vec4(0.0, 0.0, head.xy);
#if FILLS
  int which = int(record_texel(record * 8 + 7).z);
  if (which != 0 && head.w > 0.0) {
    box = texelFetch(boxes, place_of((int(head.w) + int(b.z & 65535u)) * 2 + which - 1), 0);
  }
#endif
  vec4 on_fill = place_on_fill(record, box, clock - uintBitsToFloat(moving.y));
  box_low = (at + shift) * on_fill.xy + on_fill.zw, box_high = (at + shift + size) * on_fill.xy + on_fill.zw;
#endif
#if MOVES
  vec2 baseline = vec2(float(int(b.w << 16) >> 16), float(int(b.w) >> 16)) / 8.0 * pixel;
  Move move = move_of(int(b.z >> 16), b.z & 65535u, head, at + vec2(size.x + left, size.y) / 2.0, at + baseline,
                      clock - uintBitsToFloat(moving.y));
#else
  Move move = Move(mat2(1.0), vec2(0.0), vec4(1.0));
#endif
  vec2 own_origin = move.turn * at + move.by + shift;
  vec2 own_across = move.turn * vec2(size.x, 0.0), own_down = move.turn * vec2(left, size.y);
  vec4 map_across = uintBitsToFloat(texelFetch(rows, place_of(row * 4), 0));
  vec4 map_down = uintBitsToFloat(texelFetch(rows, place_of(row * 4 + 1), 0));
  vec4 map_origin = uintBitsToFloat(texelFetch(rows, place_of(row * 4 + 2), 0));
  quad_origin = map_across * own_origin.x + map_down * own_origin.y + map_origin;
  quad_across = map_across * own_across.x + map_down * own_across.y;
  quad_down = map_across * own_down.x + map_down * own_down.y;
  vec4 row_tint = tint_of(moving.x);
#if JOINS
  row_tint = vec4(1.0);
#elif FADES
  row_tint.a = 1.0;  // its composite's
#endif
  quad_tint = floor(clamp(move.tint * row_tint, 0.0, 1.0) * 255.0 + 0.5) / 255.0;
#if CLIPS
  int clip = int(moving.z);
  cut_u = vec3(0.0, 0.0, 0.5), cut_v = cut_u, cut_w = vec3(0.0, 0.0, 1.0);
  if (clip != 0) {
    cut_u = texelFetch(clips, place_of(clip * 3), 0).xyz;
    cut_v = texelFetch(clips, place_of(clip * 3 + 1), 0).xyz;
    vec4 last = texelFetch(clips, place_of(clip * 3 + 2), 0);
    cut_w = last.xyz;
    cut_own = last.w > 0.0;
  }
  cut_at = vec4(own_origin, own_across), cut_down = own_down;
#endif
  return true;
}
)";

constexpr const char* kVertexHead = R"(
uniform vec2 viewport;

int record, quad_page, slot = 0;
vec4 quad_origin, quad_across, quad_down, quad_tint;
uvec4 quad_cell;
vec2 box_low, box_high;
vec3 cut_u, cut_v, cut_w;
bool cut_own = false;
vec4 cut_at;
vec2 cut_down;
)";

constexpr const char* kVertexMain = R"(
out vec2 texel;
flat out ivec4 cell_rect;   // the first texel and the last
flat out int page;
flat out vec4 shape;        // grow, blur, reach, cut
flat out vec4 more;         // shift x, shift y, front, fill
#if EFFECTS
flat out vec4 edge;         // line, sharp, sweep x, sweep y
#endif
#if FILL_RECORDS
flat out int fill_first;    // texel of its FillRecord; below 0: none
#endif
#if HAS_PANELS
flat out int panel_first;   // texel of its PanelRecord
#endif
flat out vec4 paint;        // of one color: light, or sRGB for GAMMA, and alpha
#if FILLS || HAS_COLOR
out vec2 place;
flat out vec4 corner_0, corner_1, corner_2, corner_3, tint_color;
#endif
#if KINDS > 1
flat out int page_slot;
#endif
#if CLIPS
out vec3 cut;
#endif

float to_linear(float v) { return v <= 0.04045 ? v / 12.92 : pow((v + 0.055) / 1.055, 2.4); }

int kind_of(int s) { return s == 0 ? KIND_0 : s == 1 ? KIND_1 : s == 2 ? KIND_2 : KIND_3; }

// How a point of the plane moves on the page from a pixel to the next, right and down, in texels.
mat2 texel_steps(vec4 point) {
  vec2 size = vec2(quad_cell.zw) + 1.0, pixels = viewport / (2.0 * point.w);
  vec2 x = (quad_across.xy - quad_across.w * point.xy / point.w) * pixels / size.x;
  vec2 y = (quad_down.xy - quad_down.w * point.xy / point.w) * pixels / size.y;
  float area = x.x * y.y - x.y * y.x;
  return mat2(y.y, -x.y, -y.x, x.x) / (abs(area) > 1e-12 ? area : 1e-12);
}

// The share of a quad's sides that a layer leaves empty at a corner: cells hold the reach of their pictures, layers
// often need less. As QuadShader::margin. Below 0 where a pixel beyond the quad shows some of it, as
// QuadLevels::Choice::beyond.
vec2 empty_share(vec2 corner) {
  vec4 point = quad_origin + quad_across * corner.x + quad_down * corner.y;
  if (point.w <= 0.0) return vec2(0.0);
#if COMPOSITE  // letters that are small paint up to two pixels beyond their quads
  mat2 to_next = texel_steps(point);
  return -min(2.0 * (abs(to_next[0]) + abs(to_next[1])) / (vec2(quad_cell.zw) + 1.0), vec2(1000.0));
#endif
  bool is_flat = quad_across.w == 0.0 && quad_down.w == 0.0;
  int kind = kind_of(slot);
  bool has_reach = kind != 0 && kind != 4 && is_flat;
#if !MINIFIED
  if (!has_reach) return vec2(0.0);
#endif
  mat2 steps = texel_steps(point);
  vec2 size = vec2(quad_cell.zw) + 1.0, half_pixel = 0.5 * (abs(steps[0]) + abs(steps[1]));
  vec2 sides = vec2(length(steps[0]), length(steps[1]));
#if MINIFIED
  vec2 n = min(floor(sides / 1.3) + 1.0, 16.0);
  if (n.x * n.y > 16.0) has_reach = false;
#else
  vec2 n = vec2(1.0);
#endif
  if (has_reach) {
    vec2 wide = sides / n;
    float outward = shape.x * (record_texel(record * 8 + 6).w > 0.0 ? SHARP_REACH : 1.0) + shape.y;
    if (shape.w == 2.0) outward = 0.0;
    float margin = shape.z - outward - sqrt(0.5 * dot(wide, wide)) * 0.5 - max(half_pixel.x, half_pixel.y) - 1.0;
    if (margin > 0.0) return min((margin + 0.5) / size, vec2(0.5));
  }
#if MINIFIED
  if (n.x * n.y == 1.0) return vec2(0.0);
  float whole = 0.5;
#if MIPMAPS
  vec2 near_count = floor(sides / 1.6) + 1.0, far_count = floor(sides / 4.0 / 1.3) + 1.0;
  if (near_count.x * near_count.y > 16.0) whole = far_count.x * far_count.y > 16.0 ? 8.0 : 2.0;
#endif
  vec2 beyond = min((half_pixel + whole - 0.5) / size, vec2(1000.0)), at = mix(-beyond, 1.0 + beyond, corner);
  vec4 there = quad_origin + quad_across * at.x + quad_down * at.y;
  return there.w > 0.5 * point.w ? -beyond : vec2(0.0);
#else
  return vec2(0.0);
#endif
}

void main() {
  if (!find_quad()) {
    gl_Position = vec4(0.0, 0.0, 2.0, 1.0);  // behind everything: a glyph that is not shown
    return;
  }
  int at = record * 8;
  shape = record_texel(at);
  vec2 corner = vec2(float(gl_VertexID & 1), float(gl_VertexID >> 1)), empty = empty_share(corner);
#if SWEEPS
  vec2 swept = record_texel(at + 7).xy / (vec2(quad_cell.zw) + 1.0);
  vec2 low = min(swept, 0.0), high = max(swept, 0.0);
#else
  vec2 low = vec2(0.0), high = vec2(0.0);
#endif
#if JOINS && HOLLOW  // where other letters must know of this one
  vec2 also = record_texel(at + 1).xy / (vec2(quad_cell.zw) + 1.0) * (shape.w == 1.0 ? -1.0 : shape.w == 2.0 ? 1.0 : 0.0);
  if (also != vec2(0.0)) empty = min(empty, vec2(0.0));
  low = min(low, also), high = max(high, also);
#endif
  corner = mix(empty + low, 1.0 - empty + high, corner);
  gl_Position = quad_origin + quad_across * corner.x + quad_down * corner.y;
  texel = vec2(quad_cell.xy) - 0.5 + corner * (vec2(quad_cell.zw) + 1.0);
  cell_rect = ivec4(quad_cell.xy, quad_cell.xy + quad_cell.zw - 1u);
  page = quad_page;
#if KINDS > 1
  page_slot = slot;
#endif
#if CLIPS
  vec3 point = cut_own ? vec3(cut_at.xy + cut_at.zw * corner.x + cut_down * corner.y, 1.0) : gl_Position.xyw;
  cut = vec3(dot(cut_u, point), dot(cut_v, point), dot(cut_w, point));
#endif
  more = record_texel(at + 1);
#if EFFECTS
  edge = vec4(record_texel(at + 6).zw, record_texel(at + 7).xy);
#endif
#if HAS_PANELS
  panel_first = (record + int(record_texel(at + 7).w)) * 8;
#endif
#if FILL_RECORDS
  fill_first = more.w > 0.0 ? (record + int(more.w)) * 8 : -1;
#endif
  vec4 fill = record_texel(at + 2);
  vec3 srgb = fill.rgb / (fill.a > 0.0 ? fill.a : 1.0) * quad_tint.rgb;
#if JOINS || COMPOSITE == 2
  paint = quad_tint;
#elif GAMMA
  paint = vec4(srgb, fill.a * quad_tint.a);
#else
  paint = vec4(to_linear(srgb.r), to_linear(srgb.g), to_linear(srgb.b), fill.a * quad_tint.a);
#endif
#if FILLS || HAS_COLOR
  place = mix(box_low, box_high, corner);
  corner_0 = fill;
  corner_1 = record_texel(at + 3);
  corner_2 = record_texel(at + 4);
  corner_3 = record_texel(at + 5);
  tint_color = quad_tint;
#endif
}
)";

}  // namespace grafema::detail
