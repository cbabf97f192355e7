// SPDX-License-Identifier: MIT
// What any engine has: programs, buffers that shaders read, textures.
#pragma once

#include <epoxy/gl.h>

#include <cstddef>
#include <span>
#include <utility>

#include "grafema/base/image.hpp"

namespace own {

inline GLuint make_program(const char* vertex, const char* fragment) {
  const GLuint program = glCreateProgram();
  for (const auto& [type, text] :
       {std::pair(GL_VERTEX_SHADER, vertex), std::pair(GL_FRAGMENT_SHADER, fragment)}) {
    const GLuint shader = glCreateShader(static_cast<GLenum>(type));
    glShaderSource(shader, 1, &text, nullptr);
    glCompileShader(shader);
    glAttachShader(program, shader);
    glDeleteShader(shader);
  }
  glLinkProgram(program);
  glUseProgram(program);
  return program;
}

/// A buffer that keeps a copy of an array; shaders read it as texels of a format.
class Buffer {
 public:
  explicit Buffer(GLenum format) : format_(format) { glGenBuffers(1, &name_), glGenTextures(1, &texture_); }
  Buffer(const Buffer&) = delete;
  Buffer& operator=(const Buffer&) = delete;
  ~Buffer() { glDeleteBuffers(1, &name_), glDeleteTextures(1, &texture_); }

  /// False where it had to be made anew, larger: then all of the array has to be sent.
  bool has_room(std::size_t bytes) {
    glBindBuffer(GL_ARRAY_BUFFER, name_);
    if (bytes <= room_) return true;
    room_ = bytes * 2;
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(room_), nullptr, GL_DYNAMIC_DRAW);
    return false;
  }
  void send(const void* array, std::size_t from, std::size_t to) const {
    glBindBuffer(GL_ARRAY_BUFFER, name_);
    glBufferSubData(GL_ARRAY_BUFFER, static_cast<GLintptr>(from), static_cast<GLsizeiptr>(to - from),
                    static_cast<const char*>(array) + from);
  }
  void show(GLuint program, const char* as, int unit) const {
    glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
    glBindTexture(GL_TEXTURE_BUFFER, texture_);
    glTexBuffer(GL_TEXTURE_BUFFER, format_, name_);
    glUniform1i(glGetUniformLocation(program, as), unit);
  }
  GLuint name() const { return name_; }

 private:
  GLenum format_;
  GLuint name_ = 0, texture_ = 0;
  std::size_t room_ = 0;
};

/// A page of four channels as a texture array of one layer, at unit 0.
inline void show_page(const grafema::ImageView& page) {
  GLuint texture = 0;
  glActiveTexture(GL_TEXTURE0);
  glGenTextures(1, &texture), glBindTexture(GL_TEXTURE_2D_ARRAY, texture);
  glTexParameteri(GL_TEXTURE_2D_ARRAY, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
  glTexImage3D(GL_TEXTURE_2D_ARRAY, 0, GL_RGBA8, page.width, page.height, 1, 0, GL_RGBA, GL_UNSIGNED_BYTE,
               page.data);
}

/// Draws four corners for each number of a buffer from `first` on, blended over what is there.
inline void draw_numbers(const Buffer& numbers, std::size_t first, std::size_t count) {
  static const GLuint vertices = [] {
    GLuint made = 0;
    glGenVertexArrays(1, &made);
    return made;
  }();
  glBindVertexArray(vertices);
  glBindBuffer(GL_ARRAY_BUFFER, numbers.name());
  glEnableVertexAttribArray(0), glVertexAttribDivisor(0, 1);
  glVertexAttribIPointer(0, 1, GL_UNSIGNED_INT, 4, reinterpret_cast<const void*>(first * 4));
  glEnable(GL_BLEND), glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(count));
}

}  // namespace own
