// SPDX-License-Identifier: MIT
// A window that shows scenes: for first programs, tools and examples. A game has one of its own.
#pragma once

#include <memory>
#include <string_view>

#include "grafema/draw/text_scene.hpp"
#include "grafema/render/opengl_renderer.hpp"

namespace grafema {

struct WindowOptions {
  int width = 1280, height = 800;             ///< of the window, in its system's units
  Color backdrop = {0.02F, 0.03F, 0.07F, 1};  ///< what each frame begins with
};

/// A window with OpenGL 3.3 in which colors mix as light does. With `--frames N --shot FILE` among the
/// arguments there is none: N frames, 60 a second, are laid out, the last are drawn off the screen, and the
/// very last is written as PNG.
/// `--frames N` alone closes the window after as many; `--size 640x400` is another size than that of the
/// options. What goes wrong is kept: `next` is then false, and
/// `result` says what it was. Belongs to the thread that made it.
class GRAFEMA_API TextWindow {
 public:
  TextWindow(std::string_view title, int argc, char** argv, const WindowOptions& options = {});
  ~TextWindow();
  TextWindow(const TextWindow&) = delete;
  TextWindow& operator=(const TextWindow&) = delete;

  /// Shows what was drawn and begins the next frame: takes events, clears. False when it is over: the window
  /// was closed, by Escape too, all frames are drawn, or something failed.
  bool next();
  /// The time of this frame since the first: seconds.
  double seconds() const;
  /// Of this frame: the window's size in pixels, and its content scale.
  const View& view() const;
  /// Brings a scene up to date for this frame and draws it over what was drawn before. False where that
  /// fails: see `result`.
  bool draw(TextScene& scene, Notes* notes = nullptr);
  /// The same through a camera of the game's; its size and content scale are those of `view`.
  bool draw(TextScene& scene, const View& seen, Notes* notes = nullptr);
  /// What went wrong first.
  Result<void> result() const;
  /// For what a game draws itself: the context is current.
  OpenGLRenderer& renderer();

 private:
  struct State;
  std::unique_ptr<State> state_;
};

}  // namespace grafema
