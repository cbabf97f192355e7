// SPDX-License-Identifier: MIT
// Sends images with all their levels.
#include "render/opengl/held_images.hpp"

#include <algorithm>

#include "render/opengl/held_pages.hpp"

namespace grafema::detail {
namespace {

GLuint send(const FillImage& image, std::uint64_t& bytes_sent) {
  GLuint texture = 0;
  glGenTextures(1, &texture);
  glBindTexture(GL_TEXTURE_2D, texture);
  unpack_rows(0, 0, 0);
  const auto set = [](GLenum name, GLint value) { glTexParameteri(GL_TEXTURE_2D, name, value); };
  set(GL_TEXTURE_MIN_FILTER, GL_LINEAR_MIPMAP_LINEAR), set(GL_TEXTURE_MAG_FILTER, GL_LINEAR);
  set(GL_TEXTURE_WRAP_S, GL_REPEAT), set(GL_TEXTURE_WRAP_T, GL_REPEAT);
  set(GL_TEXTURE_MAX_LEVEL, static_cast<GLint>(image.levels().size()) - 1);
  GLint number = 0;
  for (const Image& level : image.levels()) {
    glTexImage2D(GL_TEXTURE_2D, number++, GL_SRGB8_ALPHA8, level.width(), level.height(), 0, GL_RGBA,
                 GL_UNSIGNED_BYTE, level.bytes().data());
    bytes_sent += level.bytes().size();
  }
  return texture;
}

}  // namespace

void HeldImages::bind(int unit, const FillImage& image, std::uint64_t& bytes_sent) {
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit));
  auto at = std::find_if(held_.begin(), held_.end(), [&](const Held& h) { return h.id == image.id(); });
  if (at == held_.end()) {
    std::erase_if(held_, [](const Held& h) {
      if (h.image.expired()) glDeleteTextures(1, &h.texture);
      return h.image.expired();
    });
    at = held_.insert(held_.end(), {image.weak_from_this(), image.id(), send(image, bytes_sent)});
  }
  glBindTexture(GL_TEXTURE_2D, at->texture);
  glActiveTexture(GL_TEXTURE0);
}

void HeldImages::free() {
  for (const Held& held : held_) glDeleteTextures(1, &held.texture);
  held_.clear();
}

}  // namespace grafema::detail
