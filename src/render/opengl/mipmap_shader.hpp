// SPDX-License-Identifier: MIT
// What small pictures of pages show in shaders, as render/software/quad_levels does it.
#pragma once

namespace grafema::detail {

constexpr const char* kMipmapSamples = R"(
#if MIPMAPS
// The cell on the smaller pictures, the first texel and the last, and how many of its texels there are to one of
// the page.
ivec4 cell;
float unit = 1.0;

// As `mipmap_cell`; false where the cell has no such picture.
bool go_to_level(int level) {
  ivec2 size = cell_rect.zw - cell_rect.xy + 1, quarter = (size + 3) / 4, at = cell_rect.xy / 2;
  if (level == 2) {
    if (max(size.x, size.y) < 6) return false;
    at += size.x >= 6 ? ivec2(quarter.x, 0) : ivec2(0, quarter.y);
    quarter = (size + 15) / 16;
  }
  cell = ivec4(at, at + quarter - 1);
  unit *= 0.25;
  return true;
}

vec4 mipmap_texel(ivec2 at) {
  at = clamp(at, cell.xy, cell.zw);
#if KINDS > 1
  if (SLOT == 1) return texelFetch(mipmaps_1, ivec3(at, page), 0);
  if (SLOT == 2) return texelFetch(mipmaps_2, ivec3(at, page), 0);
  if (SLOT == 3) return texelFetch(mipmaps_3, ivec3(at, page), 0);
#endif
  return texelFetch(mipmaps_0, ivec3(at, page), 0);
}

vec4 mipmap_mixed(vec2 at) {
#if KINDS > 1
  if (SLOT == 1) return texture(mipmaps_1, vec3(at / vec2(textureSize(mipmaps_1, 0).xy), page));
  if (SLOT == 2) return texture(mipmaps_2, vec3(at / vec2(textureSize(mipmaps_2, 0).xy), page));
  if (SLOT == 3) return texture(mipmaps_3, vec3(at / vec2(textureSize(mipmaps_3, 0).xy), page));
#endif
  return texture(mipmaps_0, vec3(at / vec2(textureSize(mipmaps_0, 0).xy), page));
}

// How much of a texel a layer paints that grows or blurs the letter, or paints a band of it; of an inset, what the
// thinned shape covers.
float painted(vec4 v) {
  vec4 lengths = shape * unit;
#if EFFECTS
  float line = edge.x * unit;
#else
  float line = 0.0;
#endif
  float room = max(lengths.z - max(abs(lengths.x), abs(lengths.x - line)) - lengths.y, 1.0 / 64.0);
  float distance = (v.g - 0.5) * 2.0 * lengths.z, half_width = min(v.b, room) + lengths.y;
  if (shape.w == 2.0) return soft_edge(distance - lengths.x, half_width);
  float outer = lengths.x == 0.0 && lengths.y == 0.0 ? v.r : soft_edge(distance + lengths.x, half_width);
  return line > 0.0 ? max(outer - soft_edge(distance + lengths.x - line, half_width), 0.0) : outer;
}

// What is outside the cell counts as empty.
vec4 mipmap_sample(vec2 at) {
  vec2 inside = clamp(at, vec2(cell.xy) + 0.5, vec2(cell.zw) + 0.5), share = max(1.0 - abs(at - inside), 0.0);
  return mipmap_mixed(inside) * (share.x * share.y);
}
float mipmap_painted(vec2 at) {
  vec2 inside = clamp(at, vec2(cell.xy) + 0.5, vec2(cell.zw) + 0.5), share = max(1.0 - abs(at - inside), 0.0);
  vec2 p = inside - 0.5, low = floor(p), f = p - low;
  ivec2 i = ivec2(low);
  return mix(mix(painted(mipmap_texel(i)), painted(mipmap_texel(i + ivec2(1, 0))), f.x),
             mix(painted(mipmap_texel(i + ivec2(0, 1))), painted(mipmap_texel(i + ivec2(1, 1))), f.x), f.y) *
         (share.x * share.y);
}

// What the layer paints of the shape that it is of, whatever is left out.
float mipmap_layer(vec2 at) {
  bool is_plain = kind_of(SLOT) == 0 || (shape.x == 0.0 && shape.y == 0.0);
#if EFFECTS
  is_plain = kind_of(SLOT) == 0 || (is_plain && edge.x == 0.0);
#endif
  return is_plain ? mipmap_sample(at).r : mipmap_painted(at);
}

// As MipmapShader::sample: light in color, else the strength.
vec4 mipmap_at(vec2 at) {
  int kind = kind_of(SLOT);
  if (kind == 4) return mipmap_sample(at);
#if HOLLOW
  if (kind != 0 && shape.w == 2.0) return vec4(mipmap_sample(at).r * (1.0 - mipmap_layer(at - more.xy * unit)));
#endif
  float strength = mipmap_layer(at);
#if SWEEPS
  vec2 sweep = edge.zw * unit;
  if (sweep.x != 0.0 || sweep.y != 0.0) {
    int steps = clamp(int(ceil(max(abs(sweep.x), abs(sweep.y)))), 1, 32);
    for (int i = 1; i <= steps; ++i) strength = max(strength, mipmap_layer(at - sweep * (float(i) / float(steps))));
  }
#endif
#if HOLLOW
  if (kind != 0 && shape.w == 1.0) strength *= 1.0 - mipmap_sample(at + more.xy * unit).r;
#endif
  return vec4(strength);
}
#endif
)";

}  // namespace grafema::detail
