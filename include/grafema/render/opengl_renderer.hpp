// SPDX-License-Identifier: MIT
// Draws quads with OpenGL 3.3 core or OpenGL ES 3.0.
#pragma once

#include <cstdint>
#include <memory>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/draw/quads.hpp"
#include "grafema/render/blending.hpp"

namespace grafema {

/// What was sent and drawn since the renderer was made.
struct OpenGLWork {
  std::uint64_t draw_calls = 0;
  std::uint64_t page_bytes = 0;    ///< of pages, to textures
  std::uint64_t stream_bytes = 0;  ///< of quads and layer records, each frame
};

/// Needs a current context in every call, the same one or one that shares with it. Belongs to that context's
/// thread.
///
/// What it changes and leaves changed: the program, the vertex array, GL_ARRAY_BUFFER, textures of units 0
/// and 1 and the active unit, GL_BLEND on with (ONE, ONE_MINUS_SRC_ALPHA), GL_UNPACK_ALIGNMENT 1,
/// GL_UNPACK_ROW_LENGTH, SKIP_ROWS and SKIP_PIXELS 0. Depth, stencil, scissor, culling, viewport, framebuffer
/// and GL_FRAMEBUFFER_SRGB stay as the game has them: for Blending::linear the framebuffer must encode sRGB
/// (enabled in OpenGL, always so in ES) or hold floats.
class GRAFEMA_API OpenGLRenderer {
 public:
  /// Compiles the shaders. Fails with `unsupported` where the context is older than 3.3 core or ES 3.0, or
  /// refuses them.
  static Result<OpenGLRenderer> make();
  ~OpenGLRenderer();
  OpenGLRenderer(OpenGLRenderer&&) noexcept;
  OpenGLRenderer& operator=(OpenGLRenderer&&) noexcept;

  /// Sends the parts of pages that are new. Fails with `does_not_fit` where a page or their number is larger
  /// than the device allows; nothing is sent then.
  Result<void> sync(GlyphSource& source);
  /// Draws all batches into the bound framebuffer, one call each.
  void draw(const QuadList& list, Blending blending);
  /// After the context was lost: frees nothing there. Make a new renderer; its first `sync` sends everything
  /// again.
  void abandon();

  const OpenGLWork& work() const;

 private:
  struct State;
  explicit OpenGLRenderer(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace grafema
