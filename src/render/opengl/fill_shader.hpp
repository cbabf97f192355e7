// SPDX-License-Identifier: MIT
// Fills in shaders, as raster/fill_math does them: places in vertices, colors in pixels.
#pragma once

namespace grafema::detail {

/// Reads the table of layer records, eight texels each, 32 records a row.
constexpr const char* kRecordTexels = R"(
uniform highp sampler2D records;
vec4 record_texel(int at) { return texelFetch(records, ivec2(at & 255, at >> 8), 0); }
)";

/// Where points lie on a layer's fill: `place = point * xy + zw`.
constexpr const char* kFillPlaces = R"(
#if GRADIENTS
vec4 linear_place(vec4 way, float to_corner, vec2 low, vec2 size) {
  vec2 d = way.xy;
  if (to_corner > 0.0) {
    d *= size.yx;
    float length_of = length(d);
    d = length_of > 0.0 ? d / length_of : vec2(0.0, 1.0);
  }
  vec2 scale = d / max(abs(d.x) * size.x + abs(d.y) * size.y, 1e-6), middle = low + size / 2.0;
  return vec4(scale, vec2(0.5, 0.0) - middle * scale);
}
vec4 radial_place(vec4 form, int extent, vec2 low, vec2 size) {
  vec2 radius = form.zw * size;
  if (extent != 0) {
    vec2 before = abs(form.xy) * size, behind = abs(1.0 - form.xy) * size;
    vec2 near = min(before, behind), away = max(before, behind);
    radius = vec2(extent == 1 ? min(near.x, near.y) : extent == 2 ? max(away.x, away.y)
                  : extent == 3 ? length(near) : length(away));
  }
  vec2 scale = 1.0 / max(radius, vec2(1e-6));
  return vec4(scale, -(low + form.xy * size) * scale);
}
#endif
#if IMAGES
vec4 image_place(vec4 form, vec4 how, vec2 image, vec2 low, vec2 size, float seconds) {
  vec2 by = size / image, copy = image;
  if (how.x == 1.0) copy = size;
  if (how.x == 2.0) copy = image * max(by.x, by.y);
  if (how.x == 3.0) copy = image * min(by.x, by.y);
  copy = max(copy * form.xy, vec2(1e-3));
  vec2 moved = (form.zw + how.zw * seconds) / copy;
  if (how.y > 0.0) moved -= floor(moved);
  return vec4(1.0 / copy, -low / copy - moved);
}
#endif

vec4 place_on_fill(int layer, vec4 box, float seconds) {
#if FILL_RECORDS
  int by = int(record_texel(layer * 8 + 1).w), at = (layer + by) * 8, kind = by != 0 ? int(record_texel(at).x) : 0;
  if (kind != 0) {
    vec4 form = record_texel(at + 1), how = record_texel(at + 2);
    vec2 size = max(box.zw - box.xy, vec2(1e-6));
#if IMAGES
    vec4 more_of_image = record_texel(at + 3);
    if (kind == 3 && more_of_image.z + more_of_image.w <= 0.0)
      return image_place(form, how, record_texel(at + 3).xy, box.xy, size, seconds);
#endif
#if GRADIENTS
    if (kind == 1) return linear_place(form, how.x, box.xy, size);
    if (kind == 2) return radial_place(form, int(how.x), box.xy, size);
#endif
  }
#endif
  vec2 sides = box.zw - box.xy, scale = vec2(sides.x > 0.0 ? 1.0 / sides.x : 0.0, sides.y > 0.0 ? 1.0 / sides.y : 0.0);
  return vec4(scale, -box.xy * scale);
}
)";

/// The color at a place of a fill, premultiplied sRGB; `fill_first` is the first texel of its FillRecord.
constexpr const char* kFillColors = R"(
#if GRADIENTS
float stop_of(int i) {
  vec4 four = record_texel(fill_first + 4 + i / 4);
  int k = i % 4;
  return k == 0 ? four.x : k == 1 ? four.y : k == 2 ? four.z : four.w;
}
vec3 from_oklab(vec3 v) {
  vec3 c = vec3(v.x + 0.3963377774 * v.y + 0.2158037573 * v.z, v.x - 0.1055613458 * v.y - 0.0638541728 * v.z,
                v.x - 0.0894841775 * v.y - 1.2914855480 * v.z);
  c = c * c * c;
  return vec3(4.0767416621 * c.x - 3.3077115913 * c.y + 0.2309699292 * c.z,
              -1.2684380046 * c.x + 2.6097574011 * c.y - 0.3413193965 * c.z,
              -0.0041960863 * c.x - 0.7034186147 * c.y + 1.7076147010 * c.z);
}
vec4 gradient_color(vec4 what) {
  float t = what.x == 1.0 ? place.x + place.y : length(place);
  int count = int(what.z), above = 0;
  while (above < count && t >= stop_of(above)) ++above;
  vec4 color;
  if (above == 0 || above == count) {
    color = record_texel(fill_first + 8 + max(above - 1, 0));
  } else {
    float low = stop_of(above - 1), high = stop_of(above);
    color = mix(record_texel(fill_first + 7 + above), record_texel(fill_first + 8 + above), (t - low) / (high - low));
  }
  if (what.y == 0.0 || color.a <= 0.0) return color;
  vec3 light = color.rgb / color.a;
  if (what.y == 2.0) light = from_oklab(light);
  return vec4(to_srgb(clamp(light, 0.0, 1.0)) * color.a, color.a);
}
#endif
#if IMAGES
uniform sampler2D fill_image;

#if HAS_PANELS
// As `slice_place`.
float on_slices(float at, float side, float scale, float both, float image) {
  float high = floor(both / 4096.0), low = both - high * 4096.0, middle = max(image - low - high, 0.0);
  float by = min(side / max((low + high) * scale, 1e-6), 1.0) * scale, first = low * by, last = high * by;
  float x = clamp(at, 0.0, 1.0) * side;
  if (x < first) return x / by / image;
  if (side - x < last) return 1.0 - (side - x) / by / image;
  return (low + (x - first) / max(side - first - last, 1e-6) * middle) / image;
}
#endif

vec4 level_at(vec2 at, int level) {
  vec2 size = vec2(textureSize(fill_image, level));
  return textureLod(fill_image, clamp(at, 0.5 / size, 1.0 - 0.5 / size), float(level));
}
vec4 image_color(vec2 wide) {
  bool repeats = record_texel(fill_first + 2).y > 0.0, is_whole = repeats;
  vec4 of_image = record_texel(fill_first + 3);
  vec2 size = of_image.xy, at = place;
  if (of_image.z + of_image.w > 0.0) is_whole = true;
#if HAS_PANELS
  if (is_whole && !repeats && kind_of(SLOT) == 6) {
    vec4 beyond = record_texel(panel_first + 1), form = record_texel(fill_first + 1);
    vec2 sides = vec2(cell_rect.zw - cell_rect.xy) + 1.0 - 2.0 * shape.z - beyond.xy - beyond.zw;
    at = vec2(on_slices(place.x, sides.x, form.x, of_image.w, size.x), on_slices(place.y, sides.y, form.y, of_image.z, size.y));
    wide = wide * sides / form.xy / size;
  }
#endif
  vec2 texels = wide * size;
  float most = floor(log2(max(size.x, size.y)) + 1e-4);
  float level = clamp(log2(max(max(texels.x, texels.y), 1e-6)), 0.0, most);
  vec4 light;
  float share = 1.0;
  if (repeats) {
    light = textureLod(fill_image, at, level);
  } else {
    light = mix(level_at(at, int(level)), level_at(at, min(int(level) + 1, int(most))), fract(level));
    vec2 inside = clamp((0.5 - abs(at - 0.5)) / max(wide, vec2(1e-6)) + 0.5, 0.0, 1.0);
    if (!is_whole) share = inside.x * inside.y;
  }
  if (light.a <= 0.0 || share <= 0.0) return vec4(0.0);
  vec4 tint = record_texel(fill_first + 8);
  float whole = light.a * share * tint.a;
  return vec4(to_srgb(light.rgb / light.a) * tint.rgb * whole, whole);
}
#endif

vec4 fill_color(vec2 wide) {
#if FILL_RECORDS
  if (fill_first >= 0) {
    vec4 what = record_texel(fill_first);
#if IMAGES
    if (what.x == 3.0) return image_color(wide);
#endif
#if GRADIENTS
    if (what.x > 0.0) return gradient_color(what);
#endif
  }
#endif
  vec2 at = clamp(place, 0.0, 1.0);
  return mix(mix(corner_0, corner_1, at.x), mix(corner_3, corner_2, at.x), at.y);
}
)";

}  // namespace grafema::detail
