// SPDX-License-Identifier: MIT
// Draws the quads of a label with an OpenGL loop and a shader of its own.
#include <epoxy/gl.h>

#include <cstddef>
#include <cstdio>
#include <iostream>
#include <memory>
#include <string>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/emit.hpp"
#include "grafema/draw/quads.hpp"
#include "grafema/files/files.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "own_device.hpp"

using namespace grafema;

namespace {

constexpr const char* kVertex = R"(#version 330 core
layout(location = 0) in vec4 origin;
layout(location = 1) in vec4 across;
layout(location = 2) in vec4 down;
layout(location = 3) in vec4 cell;
out vec2 texel;
void main() {
  vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  gl_Position = origin + across * corner.x + down * corner.y;
  texel = cell.xy - 0.5 + corner * (cell.zw + 1.0);  // the quad is half a texel wider than its cell
})";

constexpr const char* kFragment = R"(#version 330 core
uniform sampler2D page;
uniform float reach;
in vec2 texel;
out vec4 color;
void main() {
  vec3 c = texture(page, texel / vec2(textureSize(page, 0))).rgb;  // the median of three channels is the distance
  float inside = (max(min(c.r, c.g), min(max(c.r, c.g), c.b)) - 0.5) * 2.0 * reach;
  float pixel = length(fwidth(texel)) * 0.7;
  color = vec4(0.89, 0.45, 0.03, 1.0) * clamp(0.5 + inside / pixel, 0.0, 1.0);
})";

void send_page(const GlyphSource& source) {
  GLuint texture = 0;
  glGenTextures(1, &texture);
  glBindTexture(GL_TEXTURE_2D, texture);
  const ImageView page = source.pixels(0);
  glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, page.width, page.height, 0, GL_RGBA, GL_UNSIGNED_BYTE, page.data);
  glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
}

void draw(const QuadList& list) {
  GLuint array = 0, buffer = 0;
  glGenVertexArrays(1, &array), glBindVertexArray(array);
  glGenBuffers(1, &buffer), glBindBuffer(GL_ARRAY_BUFFER, buffer);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(list.quad_count * sizeof(GlyphQuad)),
               list.quads.data(), GL_STREAM_DRAW);
  const std::pair<GLenum, std::size_t> fields[] = {{GL_FLOAT, offsetof(GlyphQuad, origin)},
                                                   {GL_FLOAT, offsetof(GlyphQuad, across)},
                                                   {GL_FLOAT, offsetof(GlyphQuad, down)},
                                                   {GL_UNSIGNED_SHORT, offsetof(GlyphQuad, cell)}};
  for (GLuint i = 0; i < 4; ++i) {
    glEnableVertexAttribArray(i);
    glVertexAttribPointer(i, 4, fields[i].first, GL_FALSE, sizeof(GlyphQuad),
                          reinterpret_cast<const void*>(fields[i].second));
    glVertexAttribDivisor(i, 1);
  }
  glEnable(GL_BLEND);
  glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(list.quad_count));
}

}  // namespace

int main(int argc, char** argv) {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = *read_character_set("ascii");
  auto atlas = bake(recipe);  // of the standard kind: distance_rgba
  if (!atlas) return std::cerr << describe(atlas.error()) << '\n', 1;
  auto offscreen = OpenGLOffscreen::make(640, 160);
  if (!offscreen) return std::cerr << describe(offscreen.error()) << '\n', 1;
  const auto source = std::make_shared<AtlasSource>(std::make_shared<const Atlas>(*std::move(atlas)));
  TextContext context(FontStack{recipe.faces[0]}, source);
  Label label(context, "4 Lantern  23:04");
  const View view{.width = 640, .height = 160};
  if (!label.set_size(60) || !label.set_placement({.at = {320, 80}, .anchor = {0.5F, 0.5F}, .rotate = -4})) {
    return 1;
  }

  Label* const labels[] = {&label};
  QuadBuffer quads;
  if (const auto emitted = emit_quads(context, labels, view, quads); !emitted) {
    return std::cerr << describe(emitted.error()) << '\n', 1;
  }
  const QuadList& list = quads.list();

  const GLuint program = own::make_program(kVertex, kFragment);
  glClearColor(0.006F, 0.005F, 0.003F, 1);
  glClear(GL_COLOR_BUFFER_BIT);
  glUseProgram(program);
  glUniform1f(glGetUniformLocation(program, "reach"), list.records[0].reach);
  send_page(*source);
  draw(list);
  const auto saved = save_png(argc > 1 ? argv[argc - 1] : "own_renderer.png", offscreen->read());
  if (!saved) return std::cerr << describe(saved.error()) << '\n', 1;
  for (const std::string& complaint : offscreen->complaints()) {
    std::fprintf(stderr, "OpenGL: %s\n", complaint.c_str());
  }
  return offscreen->complaints().empty() ? 0 : 1;
}
