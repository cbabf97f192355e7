// SPDX-License-Identifier: MIT
// grafema view: the label in a window that follows its files, or one picture through OpenGL.
#define GLFW_INCLUDE_NONE
#include <GLFW/glfw3.h>
#include <epoxy/gl.h>
#include <fmt/format.h>

#include "commands/viewer.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/software_renderer.hpp"

namespace grafema::tool {
namespace {

struct ViewCommand {
  ViewOptions view;
  std::string shot, keys;
  long frames = 0;
};

int take_shot(const ViewCommand& options) {
  check_output(options.shot, {".png"});
  const Picture picture = make_picture(options.view.layout, options.view.look, options.view.place);
  OpenGLOffscreen offscreen = value_or_give_up(
      OpenGLOffscreen::make(static_cast<int>(picture.view.width), static_cast<int>(picture.view.height)));
  Viewer viewer(options.view);
  viewer.draw(picture.seconds, false);
  Image image = offscreen.read();
  to_straight_alpha(image, Blending::linear);
  value_or_give_up(save_png(options.shot, image));
  for (const std::string& complaint : offscreen.complaints()) {
    throw Failure{bad_output, "OpenGL: " + complaint};
  }
  return report(viewer.notes(), options.view.layout.strict);
}

struct WindowCloser {
  void operator()(GLFWwindow* window) const {
    glfwDestroyWindow(window);
    glfwTerminate();
  }
};
using Window = std::unique_ptr<GLFWwindow, WindowCloser>;

Window open_window(int width, int height) {
  if (glfwInit() == GLFW_FALSE) throw Failure{bad_output, "no window system; --shot PNG draws without one"};
  glfwWindowHint(GLFW_CONTEXT_VERSION_MAJOR, 3);
  glfwWindowHint(GLFW_CONTEXT_VERSION_MINOR, 3);
  glfwWindowHint(GLFW_OPENGL_PROFILE, GLFW_OPENGL_CORE_PROFILE);
  glfwWindowHint(GLFW_SRGB_CAPABLE, GLFW_TRUE);
  glfwWindowHint(GLFW_RESIZABLE, GLFW_FALSE);
  Window window(glfwCreateWindow(width, height, "grafema view", nullptr, nullptr));
  if (!window) throw Failure{bad_output, "no window with OpenGL 3.3; --shot PNG draws without one"};
  glfwMakeContextCurrent(window.get());
  glfwSwapInterval(1);
  glEnable(GL_FRAMEBUFFER_SRGB);
  return window;
}

/// Letters as they are typed; Escape closes.
void on_character(GLFWwindow* window, unsigned character) {
  const char key = character < 0x80
                       ? static_cast<char>(character >= 'a' && character <= 'z' ? character - 32 : character)
                       : '\0';
  static_cast<Viewer*>(glfwGetWindowUserPointer(window))->press(key == '=' ? '+' : key);
}

void on_key(GLFWwindow* window, int key, int, int action, int) {
  if (key == GLFW_KEY_ESCAPE && action == GLFW_PRESS) glfwSetWindowShouldClose(window, GLFW_TRUE);
}

int show_window(ViewCommand options) {
  PlacementOptions& place = options.view.place;
  if (place.canvas.empty()) place.canvas = "960x540";
  if (place.anchor.empty() && place.at.empty() && place.pin.empty()) place.anchor = "0.5,0.5";
  if (place.backdrop == "transparent") place.backdrop = "#1b2350";
  const PageSize size = to_size(place.canvas, "--canvas");
  const Window window = open_window(size.width, size.height);
  Viewer viewer(options.view);
  glfwSetWindowUserPointer(window.get(), &viewer);
  glfwSetCharCallback(window.get(), on_character);
  glfwSetKeyCallback(window.get(), on_key);
  int frame = 0;
  for (; glfwWindowShouldClose(window.get()) == GLFW_FALSE && (options.frames == 0 || frame < options.frames);
       ++frame) {
    if (static_cast<std::size_t>(frame) < options.keys.size()) {
      viewer.press(options.keys[static_cast<std::size_t>(frame)]);
    }
    constexpr int kFramesBetweenLooks = 15;
    if (frame % kFramesBetweenLooks == 0) viewer.follow_files();
    int width = 0, height = 0;
    glfwGetWindowSize(window.get(), &width, &height);
    if (width != viewer.width() || height != viewer.height()) {
      glfwSetWindowSize(window.get(), viewer.width(), viewer.height());
    }
    double x = 0, y = 0;
    glfwGetCursorPos(window.get(), &x, &y);
    viewer.set_pointer(x, y);
    viewer.draw(glfwGetTime(), true);
    glfwSwapBuffers(window.get());
    glfwPollEvents();
  }
  fmt::print("{}\n", viewer.command());
  return report(viewer.notes(), options.view.layout.strict);
}

}  // namespace

void add_view(CommandLine& line) {
  auto options = std::make_shared<ViewCommand>();
  Arguments& arguments = line.add("view", "The label in a window that follows its files", [options] {
    return options->shot.empty() ? show_window(*options) : take_shot(*options);
  });
  options->view.layout.add_to(arguments);
  options->view.look.add_to(arguments);
  options->view.place.add_to(arguments);
  arguments.heading("Window");
  arguments.option("--shot", options->shot, "PNG", "Draw one picture off screen through OpenGL, and end");
  arguments.whole("--frames", options->frames, 0, 1'000'000, "N", "Close the window after so many frames");
  arguments.option("--keys", options->keys, "KEYS", "Press these keys, one a frame");
  arguments.example(
      "Keys: + - size, L look, A anchor, G guides, B backdrop, D device size, S safe area, Escape.\n"
      "Example: grafema view --text \"Pale Orchard\" --size 64 --look data/demo/looks.json#sign");
}

}  // namespace grafema::tool
