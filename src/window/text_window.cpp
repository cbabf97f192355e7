// SPDX-License-Identifier: MIT
// Opens a window by GLFW, or none, and counts frames.
#define GLFW_INCLUDE_NONE
#include "grafema/window/text_window.hpp"

#include <GLFW/glfw3.h>
#include <epoxy/gl.h>

#include <cstdlib>
#include <cstring>
#include <optional>
#include <string>

#include "grafema/base/color.hpp"
#include "grafema/files/files.hpp"
#include "grafema/render/opengl_offscreen.hpp"

namespace grafema {

struct TextWindow::State {
  WindowOptions options;
  std::string shot;  ///< where the picture goes; empty: a window
  long frames = 0;   ///< 0: until it is closed
  long drawn = -1;   ///< frames before this one; -1 before the first
  std::optional<Error> failure;
  std::optional<OpenGLOffscreen> offscreen;
  GLFWwindow* window = nullptr;
  std::optional<OpenGLRenderer> renderer;
  View view;
  double begun = 0, now = 0;
  bool over = false;

  void fail_with(const Error& error) {
    if (!failure) failure = error;
  }
  void read_arguments(int argc, char** argv);
  void read_size(const char* text);
  void open(std::string_view title);
  void open_window(std::string_view title);
  void measure();
  void finish();
  /// Of the frames of a shot only the last is seen; a few before it are drawn too, for pictures that are made
  /// in between. The others are laid out alone.
  bool is_seen() const {
    constexpr long kDrawnOfShot = 3;
    return window != nullptr || drawn + kDrawnOfShot >= frames;
  }
};

/// WIDTHxHEIGHT
void TextWindow::State::read_size(const char* text) {
  constexpr long kMaxPixels = 8192;
  char* end = nullptr;
  const long width = std::strtol(text, &end, 10), height = *end == 'x' ? std::strtol(end + 1, &end, 10) : 0;
  const bool good = *end == '\0' && width >= 1 && width <= kMaxPixels && height >= 1 && height <= kMaxPixels;
  if (!good)
    return fail_with(make_error(ErrorKind::bad_value, "--size WIDTHxHEIGHT, sides of 1 to 8192", text));
  options.width = static_cast<int>(width), options.height = static_cast<int>(height);
}

void TextWindow::State::read_arguments(int argc, char** argv) {
  for (int i = 1; i + 1 < argc; ++i) {
    if (std::strcmp(argv[i], "--frames") == 0) frames = std::strtol(argv[i + 1], nullptr, 10);
    if (std::strcmp(argv[i], "--shot") == 0) shot = argv[i + 1];
    if (std::strcmp(argv[i], "--size") == 0) read_size(argv[i + 1]);
  }
  constexpr long kMaxFrames = 1000000;
  if (frames < 0 || frames > kMaxFrames) {
    fail_with(make_error(ErrorKind::bad_value, "--frames of 1 to 1000000"));
  } else if (!shot.empty() && frames == 0) {
    frames = 1;
  }
}

void TextWindow::State::open(std::string_view title) {
  if (!shot.empty()) {
    Result<OpenGLOffscreen> made = OpenGLOffscreen::make(options.width, options.height);
    if (!made) return fail_with(made.error());
    offscreen.emplace(*std::move(made));
    offscreen->add_depth();  // as windows have one
  } else {
    open_window(title);
  }
  if (failure) return;
  Result<OpenGLRenderer> made = OpenGLRenderer::make();
  if (!made) return fail_with(made.error());
  renderer.emplace(*std::move(made));
}

void TextWindow::State::open_window(std::string_view title) {
  if (glfwInit() == GLFW_FALSE) {
    return fail_with(make_error(ErrorKind::unsupported, "a window system, or --shot FILE"));
  }
  glfwWindowHint(GLFW_CONTEXT_VERSION_MAJOR, 3), glfwWindowHint(GLFW_CONTEXT_VERSION_MINOR, 3);
  glfwWindowHint(GLFW_OPENGL_PROFILE, GLFW_OPENGL_CORE_PROFILE);
  glfwWindowHint(GLFW_SRGB_CAPABLE, GLFW_TRUE);
  window = glfwCreateWindow(options.width, options.height, std::string(title).c_str(), nullptr, nullptr);
  if (window == nullptr) {
    return fail_with(make_error(ErrorKind::unsupported, "a window with OpenGL 3.3"));
  }
  glfwMakeContextCurrent(window);
  glfwSwapInterval(1);
  glEnable(GL_FRAMEBUFFER_SRGB);
}

/// Where the window is, and how large now.
void TextWindow::State::measure() {
  view.width = static_cast<float>(options.width), view.height = static_cast<float>(options.height);
  if (window == nullptr) return;
  int width = 0, height = 0;
  float scale_x = 1, scale_y = 1;
  glfwGetFramebufferSize(window, &width, &height);
  glfwGetWindowContentScale(window, &scale_x, &scale_y);
  view.width = static_cast<float>(std::max(width, 1)), view.height = static_cast<float>(std::max(height, 1));
  view.content_scale = scale_x;
  glViewport(0, 0, width, height);
}

void TextWindow::State::finish() {
  over = true;
  if (!offscreen || failure) return;
  if (const auto saved = save_png(shot, offscreen->read()); !saved) return fail_with(saved.error().error);
  if (!offscreen->complaints().empty()) {
    fail_with(make_error(ErrorKind::unsupported, "a driver without complaints", offscreen->complaints()[0]));
  }
}

TextWindow::TextWindow(std::string_view title, int argc, char** argv, const WindowOptions& options)
    : state_(std::make_unique<State>()) {
  state_->options = options;
  state_->read_arguments(argc, argv);
  if (!state_->failure) state_->open(title);
  if (!state_->failure) state_->measure();
}

TextWindow::~TextWindow() {
  state_->renderer.reset();
  if (state_->window != nullptr) glfwDestroyWindow(state_->window);
  if (state_->shot.empty()) glfwTerminate();
}

bool TextWindow::next() {
  State& s = *state_;
  if (s.failure || s.over) return false;
  if (s.window != nullptr && s.drawn >= 0) glfwSwapBuffers(s.window);
  ++s.drawn;
  if (s.window != nullptr) {
    glfwPollEvents();
    const bool closed =
        glfwWindowShouldClose(s.window) == GLFW_TRUE || glfwGetKey(s.window, GLFW_KEY_ESCAPE) == GLFW_PRESS;
    if (closed) return s.finish(), false;
  }
  if (s.frames > 0 && s.drawn >= s.frames) return s.finish(), false;
  if (s.window == nullptr) {
    s.now = static_cast<double>(s.drawn) / 60;
  } else {
    if (s.drawn == 0) s.begun = glfwGetTime();
    s.now = glfwGetTime() - s.begun;
  }
  s.measure();
  if (!s.is_seen()) return true;
  const Color& c = s.options.backdrop;
  glClearColor(to_linear(c.red), to_linear(c.green), to_linear(c.blue), c.alpha);
  glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
  return true;
}

double TextWindow::seconds() const { return state_->now; }
const View& TextWindow::view() const { return state_->view; }
OpenGLRenderer& TextWindow::renderer() { return *state_->renderer; }

bool TextWindow::draw(TextScene& scene, Notes* notes) { return draw(scene, state_->view, notes); }

bool TextWindow::draw(TextScene& scene, const View& seen, Notes* notes) {
  State& s = *state_;
  if (!s.renderer) return false;
  View view = seen;
  view.width = s.view.width, view.height = s.view.height, view.content_scale = s.view.content_scale;
  Result<void> done = scene.update(view, s.now, notes);
  if (done && s.is_seen()) done = s.renderer->draw(scene.memory(), Blending::linear);
  if (!done) s.fail_with(done.error());
  return done.has_value();
}

Result<void> TextWindow::result() const {
  if (state_->failure) return fail(*state_->failure);
  return {};
}

}  // namespace grafema
