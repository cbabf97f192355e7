// SPDX-License-Identifier: MIT
// An OpenGL context without a window, and a framebuffer to read back: for tests and screenshots.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "grafema/base/image.hpp"
#include "grafema/render/blending.hpp"

namespace grafema {

enum class OpenGLFlavor : std::uint8_t { core_33, es_30 };

/// Current on the thread that made it until it is destroyed, or another is made current. Made through EGL
/// without any surface.
class GRAFEMA_API OpenGLOffscreen {
 public:
  /// A context and a bound framebuffer of rgba8: one that encodes sRGB for Blending::linear, a plain one for
  /// gamma. Fails with `unsupported` where there is no such driver, `bad_value` for a size that it can't
  /// hold; the context that was current before then is so again.
  static Result<OpenGLOffscreen> make(int width, int height, OpenGLFlavor flavor = OpenGLFlavor::core_33,
                                      Blending blending = Blending::linear);
  ~OpenGLOffscreen();
  OpenGLOffscreen(OpenGLOffscreen&&) noexcept;
  OpenGLOffscreen& operator=(OpenGLOffscreen&&) noexcept;

  /// Gives the framebuffer a depth buffer of 24 bits.
  void add_depth();
  /// Fills the framebuffer with a picture of its size, rgba8, as it is.
  void put(const Image& image);
  /// The framebuffer's pixels, top row first.
  Image read() const;
  /// What KHR_debug complained about: errors and deprecated or undefined use.
  const std::vector<std::string>& complaints() const;

 private:
  struct State;
  explicit OpenGLOffscreen(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace grafema
