// SPDX-License-Identifier: MIT
// What of a game's OpenGL state drawing touches, and whether there is a context at all.
#pragma once

#include <epoxy/gl.h>

namespace grafema::detail {

/// Whether a context of GLX or EGL is current on this thread. Asks only libraries that the process has loaded
/// already, so it is safe where there is no OpenGL.
bool has_current_context();

/// Keeps the state that the renderer changes, sets what it needs of it, and puts the game's back at the end.
class StateGuard {
 public:
  /// For texture units below `units`, at most kMaxUnits.
  explicit StateGuard(int units);
  ~StateGuard();
  StateGuard(const StateGuard&) = delete;
  StateGuard& operator=(const StateGuard&) = delete;

 private:
  static constexpr int kMaxUnits = 19, kSwitches = 8, kUnpack = 8;
  int units_;
  bool desktop_;
  GLint program_, vertex_array_, array_buffer_, unpack_buffer_, active_unit_;
  GLint pages_[kMaxUnits], flat_[kMaxUnits], samplers_[kMaxUnits];
  GLint blend_[6];  // functions of color and alpha, source and target; equations of color and alpha
  GLboolean switches_[kSwitches];
  GLint unpack_[kUnpack];
  GLint polygon_mode_[2];
};

}  // namespace grafema::detail
