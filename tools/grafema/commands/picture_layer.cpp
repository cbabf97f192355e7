// SPDX-License-Identifier: MIT
// Draws one texture over the framebuffer.
#include "commands/picture_layer.hpp"

#include <epoxy/gl.h>

namespace grafema::tool {
namespace {

constexpr const char* kVertex = R"(#version 330 core
out vec2 at;
void main() {
  at = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  gl_Position = vec4(at.x * 2.0 - 1.0, 1.0 - at.y * 2.0, 0.0, 1.0);
})";

constexpr const char* kFragment = R"(#version 330 core
uniform sampler2D picture;
in vec2 at;
out vec4 color;
void main() {
  vec4 light = texture(picture, at);
  color = vec4(light.rgb * light.a, light.a);
})";

}  // namespace

PictureLayer::~PictureLayer() {
  glDeleteTextures(1, &texture_);
  glDeleteProgram(program_);
  glDeleteVertexArrays(1, &array_);
}

void PictureLayer::set(const Image& image) {
  if (texture_ == 0) glGenTextures(1, &texture_);
  glActiveTexture(GL_TEXTURE0);
  glBindTexture(GL_TEXTURE_2D, texture_);
  glPixelStorei(GL_UNPACK_ALIGNMENT, 1);
  glTexImage2D(GL_TEXTURE_2D, 0, GL_SRGB8_ALPHA8, image.width(), image.height(), 0, GL_RGBA, GL_UNSIGNED_BYTE,
               image.row(0));
  glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
  glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
}

void PictureLayer::draw() {
  if (texture_ == 0) return;
  if (program_ == 0) {
    program_ = glCreateProgram();
    const auto add = [this](unsigned type, const char* text) {
      const unsigned shader = glCreateShader(type);
      glShaderSource(shader, 1, &text, nullptr);
      glCompileShader(shader);
      glAttachShader(program_, shader);
      glDeleteShader(shader);
    };
    add(GL_VERTEX_SHADER, kVertex);
    add(GL_FRAGMENT_SHADER, kFragment);
    glLinkProgram(program_);
    glGenVertexArrays(1, &array_);
  }
  glUseProgram(program_);
  glBindVertexArray(array_);
  glActiveTexture(GL_TEXTURE0);
  glBindTexture(GL_TEXTURE_2D, texture_);
  glEnable(GL_BLEND);
  glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  glDrawArrays(GL_TRIANGLE_STRIP, 0, 4);
}

}  // namespace grafema::tool
