// SPDX-License-Identifier: MIT
// A window with keys and mouse for scenes, and a stage that draws through OpenGL.
#define GLFW_INCLUDE_NONE
#include "scene_window.hpp"

#include <GLFW/glfw3.h>
#include <epoxy/gl.h>

#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <iostream>
#include <map>

#include "grafema/files/files.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "software_stage.hpp"

using namespace grafema;

namespace {

constexpr View kView{.width = 1280, .height = 800, .safe = {24, 20, 24, 20}};

class OpenGLStage final : public Stage {
 public:
  explicit OpenGLStage(OpenGLRenderer& renderer) : renderer_(renderer) {}

  void fill(const Rect& box, const Color& color) override {
    // Opaque colors alone: a cleared rectangle is not blended.
    glEnable(GL_SCISSOR_TEST);
    const PixelRect r = rounded_out(box);
    glScissor(r.x, static_cast<int>(kView.height) - r.y - r.height, r.width, r.height);
    glClearColor(to_linear(color.red), to_linear(color.green), to_linear(color.blue), 1);
    glClear(GL_COLOR_BUFFER_BIT);
    glDisable(GL_SCISSOR_TEST);
  }

  void words(TextScene& scene, double seconds) override {
    const auto updated = scene.update(kView, seconds);
    const auto drawn = updated ? renderer_.draw(scene.memory(), Blending::linear) : updated;
    if (!drawn) std::cerr << describe(drawn.error()) << '\n';
  }

 private:
  OpenGLRenderer& renderer_;
};

std::string read_demo(const std::string& name) {
  const auto text = load_text(std::string(GRAFEMA_DEMO_DATA "/") + name);
  if (!text) std::cerr << describe(text.error()) << '\n';
  return text.value_or(std::string());
}

struct Options {
  int frames = 0;
  double at = -1;
  const char *shot = nullptr, *reference = nullptr;
};

int draw_headless(Scene& scene, const Options& options) {
  auto offscreen = OpenGLOffscreen::make(1280, 800);
  if (!offscreen) return std::cerr << describe(offscreen.error()) << '\n', 1;
  auto renderer = OpenGLRenderer::make();
  if (!renderer) return std::cerr << describe(renderer.error()) << '\n', 1;
  const double end = options.at >= 0 ? options.at : options.frames / 60.0;
  for (double seconds = 0; seconds < end; seconds += 1 / 60.0) scene.step(seconds);
  scene.step(end);
  OpenGLStage stage(*renderer);
  scene.draw(stage);
  auto saved = save_png(options.shot, offscreen->read());
  if (saved && options.reference != nullptr) {
    SoftwareStage software(1280, 800);
    scene.draw(software);
    saved = save_png(options.reference, software.image());
  }
  if (!saved) std::cerr << describe(saved.error()) << '\n';
  for (const std::string& complaint : offscreen->complaints())
    std::fprintf(stderr, "OpenGL: %s\n", complaint.c_str());
  return saved && offscreen->complaints().empty() ? 0 : 1;
}

/// What the callbacks of a window need.
struct Input {
  Scene* scene;
  double last_click = -1;
  int clicks = 0;
  bool down = false;
};
Input& input_of(GLFWwindow* window) { return *static_cast<Input*>(glfwGetWindowUserPointer(window)); }

void on_key(GLFWwindow* window, int key, int, int action, int mods) {
  if (action == GLFW_RELEASE) return;
  if (key == GLFW_KEY_ESCAPE) glfwSetWindowShouldClose(window, GLFW_TRUE);
  static const std::map<int, Key> kPlain = {{GLFW_KEY_LEFT, Key::left},
                                            {GLFW_KEY_RIGHT, Key::right},
                                            {GLFW_KEY_UP, Key::up},
                                            {GLFW_KEY_DOWN, Key::down},
                                            {GLFW_KEY_HOME, Key::home},
                                            {GLFW_KEY_END, Key::end},
                                            {GLFW_KEY_PAGE_UP, Key::page_up},
                                            {GLFW_KEY_PAGE_DOWN, Key::page_down},
                                            {GLFW_KEY_BACKSPACE, Key::backspace},
                                            {GLFW_KEY_DELETE, Key::erase},
                                            {GLFW_KEY_ENTER, Key::enter}};
  static const std::map<int, Key> kWithControl = {{GLFW_KEY_Z, Key::undo},  {GLFW_KEY_Y, Key::redo},
                                                  {GLFW_KEY_C, Key::copy},  {GLFW_KEY_X, Key::cut},
                                                  {GLFW_KEY_V, Key::paste}, {GLFW_KEY_A, Key::all}};
  const bool control = (mods & GLFW_MOD_CONTROL) != 0, shift = (mods & GLFW_MOD_SHIFT) != 0;
  if (const auto plain = kPlain.find(key); plain != kPlain.end()) {
    input_of(window).scene->press(plain->second, control, shift);
  } else if (const auto with = kWithControl.find(key); control && with != kWithControl.end()) {
    input_of(window).scene->press(with->second, false, shift);
  }
}

PixelPoint pointer(GLFWwindow* window) {
  double x = 0, y = 0;
  glfwGetCursorPos(window, &x, &y);
  return {static_cast<float>(x), static_cast<float>(y)};
}

void on_button(GLFWwindow* window, int button, int action, int mods) {
  constexpr double kDouble = 0.35;  // seconds between the clicks of a double click
  if (button != GLFW_MOUSE_BUTTON_LEFT) return;
  Input& input = input_of(window);
  input.down = action == GLFW_PRESS;
  if (!input.down) return;
  input.clicks = glfwGetTime() - input.last_click < kDouble ? input.clicks + 1 : 1;
  input.last_click = glfwGetTime();
  input.scene->click(pointer(window), input.clicks, (mods & GLFW_MOD_SHIFT) != 0);
}

int draw_in_window(Scene& scene, const char* title, int frames) {
  if (glfwInit() == GLFW_FALSE)
    return std::fprintf(stderr, "no window system; try --frames 60 --shot scene.png\n"), 1;
  glfwWindowHint(GLFW_CONTEXT_VERSION_MAJOR, 3);
  glfwWindowHint(GLFW_CONTEXT_VERSION_MINOR, 3);
  glfwWindowHint(GLFW_OPENGL_PROFILE, GLFW_OPENGL_CORE_PROFILE);
  glfwWindowHint(GLFW_SRGB_CAPABLE, GLFW_TRUE);
  glfwWindowHint(GLFW_RESIZABLE, GLFW_FALSE);
  GLFWwindow* window = glfwCreateWindow(1280, 800, title, nullptr, nullptr);
  if (window == nullptr) return std::fprintf(stderr, "no window with OpenGL 3.3\n"), 1;
  glfwMakeContextCurrent(window);
  glfwSwapInterval(1);
  glEnable(GL_FRAMEBUFFER_SRGB);
  Input input{&scene};
  glfwSetWindowUserPointer(window, &input);
  glfwSetKeyCallback(window, on_key);
  glfwSetCharCallback(window, [](GLFWwindow* w, unsigned c) { input_of(w).scene->type(c); });
  glfwSetMouseButtonCallback(window, on_button);
  {
    auto renderer = OpenGLRenderer::make();
    if (!renderer) return std::cerr << describe(renderer.error()) << '\n', 1;
    OpenGLStage stage(*renderer);
    for (int drawn = 0; glfwWindowShouldClose(window) == GLFW_FALSE && (frames == 0 || drawn < frames);
         ++drawn) {
      scene.step(glfwGetTime());
      scene.draw(stage);
      glfwSwapBuffers(window);
      glfwPollEvents();
      if (input.down) scene.drag(pointer(window));
    }
  }
  glfwTerminate();
  std::printf("%s\n", scene.report().c_str());
  return 0;
}

}  // namespace

int run_scene(int argc, char** argv, const char* title, std::unique_ptr<Scene> (*make)(const DemoReader&)) {
  Options options;
  for (int i = 1; i + 1 < argc; i += 2) {
    if (std::strcmp(argv[i], "--frames") == 0) options.frames = std::atoi(argv[i + 1]);
    if (std::strcmp(argv[i], "--at") == 0) options.at = std::atof(argv[i + 1]);
    if (std::strcmp(argv[i], "--shot") == 0) options.shot = argv[i + 1];
    if (std::strcmp(argv[i], "--reference") == 0) options.reference = argv[i + 1];
  }
  const std::unique_ptr<Scene> scene = make(read_demo);
  return options.shot != nullptr ? draw_headless(*scene, options)
                                 : draw_in_window(*scene, title, options.frames);
}
