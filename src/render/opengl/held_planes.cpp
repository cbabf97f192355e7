// SPDX-License-Identifier: MIT
// Makes planes and goes between them.
#include "render/opengl/held_planes.hpp"

namespace grafema::detail {
namespace {

void turn(GLenum name, GLboolean on) { on != 0 ? glEnable(name) : glDisable(name); }

}  // namespace

/// Half floats hold light and lengths; where they can't be drawn to, intermediate targets encode sRGB as the
/// target does.
bool HeldPlanes::prepare(int width, int height) {
  if (width == width_ && height == height_) return width > 0;
  free();
  width_ = width, height_ = height;
  if (width <= 0 || height <= 0) return false;
  GLint unit = 0, texture = 0, framebuffer = 0;
  glGetIntegerv(GL_ACTIVE_TEXTURE, &unit);
  glActiveTexture(GL_TEXTURE0);
  glGetIntegerv(GL_TEXTURE_BINDING_2D, &texture);
  glGetIntegerv(GL_DRAW_FRAMEBUFFER_BINDING, &framebuffer);
  const bool made = make(GL_RGBA16F, GL_RGBA16F) || make(GL_RGBA8, GL_SRGB8_ALPHA8);
  if (!made) free();
  glBindFramebuffer(GL_DRAW_FRAMEBUFFER, static_cast<GLuint>(framebuffer));
  glBindTexture(GL_TEXTURE_2D, static_cast<GLuint>(texture));
  glActiveTexture(static_cast<GLenum>(unit));
  return made;
}

bool HeldPlanes::make(GLenum shape_format, GLenum sheet_format) {
  glDeleteTextures(2, textures_);
  glDeleteFramebuffers(2, framebuffers_);
  glGenTextures(2, textures_);
  glGenFramebuffers(2, framebuffers_);
  const GLenum formats[] = {shape_format, sheet_format};
  bool is_good = true;
  for (int i = 0; i < 2; ++i) {
    glBindTexture(GL_TEXTURE_2D, textures_[i]);
    const GLenum type = formats[i] == GL_RGBA16F ? GL_HALF_FLOAT : GL_UNSIGNED_BYTE;
    glTexImage2D(GL_TEXTURE_2D, 0, static_cast<GLint>(formats[i]), width_, height_, 0, GL_RGBA, type,
                 nullptr);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
    glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
    glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffers_[i]);
    glFramebufferTexture2D(GL_DRAW_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_2D, textures_[i], 0);
    is_good = is_good && glCheckFramebufferStatus(GL_DRAW_FRAMEBUFFER) == GL_FRAMEBUFFER_COMPLETE;
  }
  return is_good;
}

void HeldPlanes::free() {
  glDeleteTextures(2, textures_);
  glDeleteFramebuffers(2, framebuffers_);
  *this = {};
}

void PlaneGuide::leave_target() {
  glGetIntegerv(GL_DRAW_FRAMEBUFFER_BINDING, &framebuffer_);
  depth_ = glIsEnabled(GL_DEPTH_TEST), stencil_ = glIsEnabled(GL_STENCIL_TEST);
  scissor_ = glIsEnabled(GL_SCISSOR_TEST);
  glGetBooleanv(GL_COLOR_WRITEMASK, mask_);
  glDisable(GL_DEPTH_TEST), glDisable(GL_STENCIL_TEST), glDisable(GL_SCISSOR_TEST);
  glColorMask(GL_TRUE, GL_TRUE, GL_TRUE, GL_TRUE);
  of_planes_[2] = viewport_[2], of_planes_[3] = viewport_[3];
  glViewport(0, 0, viewport_[2], viewport_[3]);
}

void PlaneGuide::return_to_target() {
  glBindFramebuffer(GL_DRAW_FRAMEBUFFER, static_cast<GLuint>(framebuffer_));
  glViewport(viewport_[0], viewport_[1], viewport_[2], viewport_[3]);
  turn(GL_DEPTH_TEST, depth_), turn(GL_STENCIL_TEST, stencil_), turn(GL_SCISSOR_TEST, scissor_);
  glColorMask(mask_[0], mask_[1], mask_[2], mask_[3]);
}

void PlaneGuide::go_to(RenderTarget plane) {
  if (plane == at_) return;
  if (at_ == RenderTarget::frame) leave_target();
  if (plane == RenderTarget::frame) {
    return_to_target();
  } else {
    glBindFramebuffer(GL_DRAW_FRAMEBUFFER, planes_.framebuffer(plane));
  }
  glBlendEquation(plane == RenderTarget::mask ? GL_MAX : GL_FUNC_ADD);
  at_ = plane;
}

}  // namespace grafema::detail
