// SPDX-License-Identifier: MIT
// A set of labels drawn by an engine of its own: tables in buffers, what changed sent, one call a batch.
#include <epoxy/gl.h>

#include <cmath>
#include <cstdio>

#include "grafema/grafema.hpp"
#include "grafema/render/opengl_offscreen.hpp"

using namespace grafema;

namespace {

constexpr const char* kVertex = R"(#version 330 core
layout(location = 0) in uint entry;
uniform usamplerBuffer glyphs, rows;
uniform samplerBuffer layers;
out vec2 texel;
flat out float page, reach;
flat out vec4 paint;
void main() {
  gl_Position = vec4(0.0, 0.0, 2.0, 1.0);  // not seen
  if (entry == 0xFFFFFFFFu) return;
  uvec4 a = texelFetch(glyphs, int(entry >> 3) * 2), b = texelFetch(glyphs, int(entry >> 3) * 2 + 1);
  int row = int(b.x) * 4, layer = int((b.y & 65535u) + (entry & 7u)) * 7;
  vec4 cell = vec4(a.z & 65535u, a.z >> 16, a.w & 65535u, a.w >> 16);
  vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1), size = cell.zw + 1.0;
  vec2 p = uintBitsToFloat(a.xy) + corner * size * texelFetch(layers, layer + 6).x;
  gl_Position = uintBitsToFloat(texelFetch(rows, row)) * p.x + uintBitsToFloat(texelFetch(rows, row + 1)) * p.y +
                uintBitsToFloat(texelFetch(rows, row + 2));
  texel = cell.xy - 0.5 + corner * size;
  page = float((b.y >> 16) & 2047u);
  reach = texelFetch(layers, layer).z;
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

GLuint make_program() {
  const GLuint program = glCreateProgram();
  for (const auto& [type, text] :
       {std::pair(GL_VERTEX_SHADER, kVertex), std::pair(GL_FRAGMENT_SHADER, kFragment)}) {
    const GLuint shader = glCreateShader(static_cast<GLenum>(type));
    glShaderSource(shader, 1, &text, nullptr);
    glCompileShader(shader);
    glAttachShader(program, shader);
  }
  glLinkProgram(program);
  glUseProgram(program);
  return program;
}

/// A table on the device: a buffer, and the texture that the shader reads it by.
struct Table {
  SetTable which;
  GLenum format;
  GLuint buffer = 0;
  std::size_t room = 0;

  void send(const SetMemory& memory, std::uint64_t had, const void* data, std::size_t count,
            std::size_t each) {
    if (buffer == 0) glGenBuffers(1, &buffer);
    glBindBuffer(GL_ARRAY_BUFFER, buffer);
    if (count > room) {
      room = count * 2, had = 0;
      glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(room * each), nullptr, GL_DYNAMIC_DRAW);
    }
    IndexRange ranges[16];
    for (const IndexRange& r : std::span(ranges).first(memory.changes_since(which, had, ranges))) {
      glBufferSubData(GL_ARRAY_BUFFER, static_cast<GLintptr>(r.first * each),
                      static_cast<GLsizeiptr>((r.end - r.first) * each),
                      static_cast<const char*>(data) + r.first * each);
    }
  }
  void show(GLuint program, const char* name, int unit) const {
    GLuint texture = 0;
    glGenTextures(1, &texture);
    glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
    glBindTexture(GL_TEXTURE_BUFFER, texture);
    glTexBuffer(GL_TEXTURE_BUFFER, format, buffer);
    glUniform1i(glGetUniformLocation(program, name), unit);
  }
};

}  // namespace

int main(int argc, char** argv) {
  TextContext context(FontStack{built_in_face()}, nullptr);
  LabelSet labels(context);
  SetLabel name = labels.add("Tomek Oyelaran"), line = labels.add("4 Lantern");
  if (!name.set_size(48) || !line.set_size(36)) return 1;
  auto offscreen = OpenGLOffscreen::make(640, 160);
  if (!offscreen) return print_error(offscreen.error()), 1;
  const View view{.width = 640, .height = 160};
  Table glyphs{SetTable::glyphs, GL_RGBA32UI}, rows{SetTable::rows, GL_RGBA32UI},
      layers{SetTable::layers, GL_RGBA32F}, order{SetTable::order, GL_R32UI};
  std::uint64_t had = 0;  // what the device has
  for (int frame = 0; frame < 30; ++frame) {
    if (!name.move_to({30.0F + static_cast<float>(frame) * 3, 20})) return 1;
    if (!line.set_placement(
            {.at = {320, 115}, .anchor = {0.5F, 0.5F}, .rotate = static_cast<float>(frame) / 4}))
      return 1;
    if (!labels.update(view, frame / 60.0)) return 1;
    const SetMemory& m = labels.memory();
    glyphs.send(m, had, m.glyphs.data(), m.glyphs.size(), sizeof(GlyphRecord));
    rows.send(m, had, m.rows.data(), m.rows.size(), sizeof(LabelRow));
    layers.send(m, had, m.layers.data(), m.layers.size(), sizeof(LayerRecord));
    order.send(m, had, m.order.data(), m.order.size(), 4);
    had = m.revision();
  }
  const SetMemory& memory = labels.memory();
  const GLuint program = make_program();
  glyphs.show(program, "glyphs", 1), rows.show(program, "rows", 2), layers.show(program, "layers", 3);
  const ImageView page = memory.arrays[0].source->pixels(0);  // all of these glyphs are on one page
  GLuint texture = 0, vertices = 0;
  glActiveTexture(GL_TEXTURE0);
  glGenTextures(1, &texture), glBindTexture(GL_TEXTURE_2D_ARRAY, texture);
  glTexParameteri(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
  glTexImage3D(GL_TEXTURE_2D_ARRAY, 0, GL_RGBA8, page.width, page.height, 1, 0, GL_RGBA, GL_UNSIGNED_BYTE,
               page.data);
  glGenVertexArrays(1, &vertices), glBindVertexArray(vertices);
  glBindBuffer(GL_ARRAY_BUFFER, order.buffer);
  glEnableVertexAttribArray(0), glVertexAttribDivisor(0, 1);
  glEnable(GL_BLEND), glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  glClearColor(0.002F, 0.003F, 0.01F, 1), glClear(GL_COLOR_BUFFER_BIT);
  for (const SetBatch& batch : memory.batches) {
    glVertexAttribIPointer(0, 1, GL_UNSIGNED_INT, 4,
                           reinterpret_cast<const void*>(std::size_t{batch.first} * 4));
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(batch.count));
  }
  const auto saved = save_png(argc > 1 ? argv[1] : "own_engine.png", offscreen->read());
  if (!saved) print_error(saved.error());
  for (const std::string& complaint : offscreen->complaints())
    std::fprintf(stderr, "OpenGL: %s\n", complaint.c_str());
  return saved && offscreen->complaints().empty() ? 0 : 1;
}
