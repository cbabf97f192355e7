// SPDX-License-Identifier: MIT
// Draws scenes with OpenGL 3.3 core or OpenGL ES 3.0.
#pragma once

#include <cstdint>
#include <memory>

#include "grafema/draw/scene_memory.hpp"
#include "grafema/render/blending.hpp"

namespace grafema {

/// What was sent and drawn since the renderer was made.
struct OpenGLWork {
  std::uint64_t draw_calls = 0;
  std::uint64_t page_bytes = 0;    ///< of pages, to textures
  std::uint64_t stream_bytes = 0;  ///< of tables: what changed
};

/// Needs a current context in every call, the same one or one that shares with it. Belongs to that context's
/// thread.
///
/// It leaves the game's OpenGL state as it found it. While it works it has settings of its own for: program,
/// vertex array, GL_ARRAY_BUFFER and GL_PIXEL_UNPACK_BUFFER, the active texture unit, textures (2D and 2D
/// array) and samplers of units 0 to 18, blending (on; ONE, ONE_MINUS_SRC_ALPHA; FUNC_ADD),
/// GL_CULL_FACE, sample coverage and alpha to coverage, GL_RASTERIZER_DISCARD, GL_COLOR_LOGIC_OP and
/// GL_POLYGON_SMOOTH (off), polygon mode (fill) and pixel unpacking. The game's own settings hold for depth,
/// stencil, scissor, color mask, viewport, framebuffer and GL_FRAMEBUFFER_SRGB, but while something is
/// painted on framebuffers of the renderer's own: layers that are joined, and labels that fade as one thing.
/// For Blending::linear the framebuffer must encode sRGB (enabled in OpenGL, always so in ES) or hold floats.
///
/// One renderer draws any number of scenes, and any number of renderers one scene.
class GRAFEMA_API OpenGLRenderer {
 public:
  /// Compiles the shaders. Fails with `unsupported` where no context is current, or it is older than 3.3 core
  /// or ES 3.0, or refuses them.
  static Result<OpenGLRenderer> make();
  /// Where no context is current, what it had there is left to the end of the context.
  ~OpenGLRenderer();
  OpenGLRenderer(OpenGLRenderer&&) noexcept;
  OpenGLRenderer& operator=(OpenGLRenderer&&) noexcept;

  /// Draws a scene into the bound framebuffer: sends what changed of its sources' pages and of its tables
  /// since this renderer drew it last, then draws each batch with one call. The first scene with a kind of
  /// pictures, a way of blending or layers of a sort (hollow, grown or blurred, of several colors) that none
  /// had before makes a program for them. Fails with `does_not_fit` where the device can't hold it, and
  /// `unsupported` where no context is current; nothing is drawn then.
  Result<void> draw(const SceneMemory& scene, Blending blending);
  /// After the context was lost: frees nothing there. Make a new renderer; its first `draw` sends everything
  /// again.
  void abandon();

  const OpenGLWork& work() const;

 private:
  struct State;
  explicit OpenGLRenderer(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace grafema
