// SPDX-License-Identifier: MIT
// Textures as large as the viewport that are painted on before a composite shows them on the target.
#pragma once

#include <epoxy/gl.h>

#include <cstdint>

#include "grafema/draw/layer_record.hpp"

namespace grafema::detail {

class HeldPlanes {
 public:
  /// Makes both as large as the viewport, where they are not. False where the device can't.
  bool prepare(int width, int height);
  GLuint texture(RenderTarget plane) const { return textures_[index_of(plane)]; }
  GLuint framebuffer(RenderTarget plane) const { return framebuffers_[index_of(plane)]; }
  void free();
  void forget() { *this = {}; }

 private:
  static std::size_t index_of(RenderTarget plane) { return plane == RenderTarget::mask ? 0 : 1; }
  bool make(GLenum shape_format, GLenum sheet_format);

  int width_ = 0, height_ = 0;
  GLuint textures_[2] = {}, framebuffers_[2] = {};
};

/// Goes from the game's framebuffer to planes and back. The game's settings are asked for when the first
/// plane is gone to, and are as they were when it is destroyed.
class PlaneGuide {
 public:
  PlaneGuide(const HeldPlanes& planes, const GLint* viewport) : planes_(planes), viewport_(viewport) {}
  ~PlaneGuide() { go_to(RenderTarget::frame); }
  PlaneGuide(const PlaneGuide&) = delete;
  PlaneGuide& operator=(const PlaneGuide&) = delete;

  void go_to(RenderTarget plane);
  /// Where the viewport begins and how large it is, on what is drawn onto now.
  const GLint* viewport() const { return at_ == RenderTarget::frame ? viewport_ : of_planes_; }

 private:
  void leave_target();
  void return_to_target();

  const HeldPlanes& planes_;
  const GLint* viewport_;
  GLint of_planes_[4] = {};
  RenderTarget at_ = RenderTarget::frame;
  GLint framebuffer_ = 0;
  GLboolean depth_ = 0, stencil_ = 0, scissor_ = 0, mask_[4] = {};
};

}  // namespace grafema::detail
