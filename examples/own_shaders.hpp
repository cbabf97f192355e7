// SPDX-License-Identifier: MIT
// Shaders that draw the glyphs of a scene from the tables of docs/formats/scene.md.
#pragma once

namespace own {

constexpr const char* kVertex = R"(#version 330 core
layout(location = 0) in uint entry;
uniform usamplerBuffer glyphs, rows;
uniform samplerBuffer layers;
out vec2 texel;
flat out float page, reach;
flat out vec4 paint;
void main() {
  uvec4 a = texelFetch(glyphs, int(entry >> 3) * 2), b = texelFetch(glyphs, int(entry >> 3) * 2 + 1);
  int row = int(b.x) * 4, layer = int((b.y & 65535u) + (entry & 7u)) * 8;
  vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1), size = vec2(a.w & 65535u, a.w >> 16) + 1.0;
  vec2 p = uintBitsToFloat(a.xy) + corner * size * texelFetch(layers, layer + 6).x;
  gl_Position = uintBitsToFloat(texelFetch(rows, row)) * p.x + uintBitsToFloat(texelFetch(rows, row + 1)) * p.y +
                uintBitsToFloat(texelFetch(rows, row + 2));
  if (entry == 0xFFFFFFFFu) gl_Position = vec4(0.0, 0.0, 2.0, 1.0);  // nothing
  texel = vec2(a.z & 65535u, a.z >> 16) - 0.5 + corner * size;
  page = float((b.y >> 16) & 2047u), reach = texelFetch(layers, layer).z;
  paint = texelFetch(layers, layer + 2) * (float(texelFetch(rows, row + 3).x >> 24) / 255.0);
})";

constexpr const char* kFragment = R"(#version 330 core
uniform sampler2DArray pages;
in vec2 texel;
flat in float page, reach;
flat in vec4 paint;
out vec4 color;
void main() {
  vec3 v = texture(pages, vec3(texel / vec2(textureSize(pages, 0).xy), page)).rgb;
  float inside = (max(min(v.r, v.g), min(max(v.r, v.g), v.b)) - 0.5) * 2.0 * reach;
  color = paint * clamp(0.5 + inside / (length(fwidth(texel)) * 0.7), 0.0, 1.0);
})";

}  // namespace own
