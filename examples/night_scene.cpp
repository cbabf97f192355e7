// SPDX-License-Identifier: MIT
// A street of Quillmere at night, in a window, or without one by --frames N --shot PNG.
#define GLFW_INCLUDE_NONE
#include <GLFW/glfw3.h>
#include <epoxy/gl.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <iostream>
#include <memory>
#include <string>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/files/files.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "grafema/render/software_renderer.hpp"
#include "night_labels.hpp"

namespace {

using namespace grafema;

void draw_frame(NightScene& scene, OpenGLRenderer& renderer, const View& view, double seconds) {
  scene.move(seconds);
  scene.draw(
      [&](const SceneMemory& words) {
        const auto drawn = renderer.draw(words, Blending::linear);
        if (!drawn) std::cerr << describe(drawn.error()) << '\n';
      },
      view);
}

/// The frame as it is, with its words painted by the software renderer: what a shot is held against. Words
/// that a tram hides are not hidden there.
bool save_reference(NightScene& scene, OpenGLOffscreen& offscreen, const View& view, const char* path) {
  scene.draw(
      [&](const SceneMemory& words) {
        Image image = offscreen.read();
        if (draw_in_software(words, Blending::linear, image)) offscreen.put(image);
      },
      view);
  const auto saved = save_png(path, offscreen.read());
  if (!saved) std::cerr << describe(saved.error()) << '\n';
  return saved.has_value();
}

int draw_headless(TextContext& context, const View& view, int frames, const char* shot,
                  const char* reference) {
  auto offscreen = OpenGLOffscreen::make(static_cast<int>(view.width), static_cast<int>(view.height));
  if (!offscreen) return std::cerr << describe(offscreen.error()) << '\n', 1;
  offscreen->add_depth();
  auto renderer = OpenGLRenderer::make();
  if (!renderer) return std::cerr << describe(renderer.error()) << '\n', 1;
  NightScene scene(context);
  for (int frame = 0; frame < frames; ++frame) draw_frame(scene, *renderer, view, frame / 60.0);
  scene.report();
  const auto saved = save_png(shot, offscreen->read());
  if (!saved) std::cerr << describe(saved.error()) << '\n';
  if (reference != nullptr && !save_reference(scene, *offscreen, view, reference)) return 1;
  for (const std::string& complaint : offscreen->complaints()) {
    std::fprintf(stderr, "OpenGL: %s\n", complaint.c_str());
  }
  return saved && offscreen->complaints().empty() ? 0 : 1;
}

int draw_in_window(TextContext& context, View view, int frames) {
  if (glfwInit() == GLFW_FALSE) {
    return std::fprintf(stderr, "no window system; try --frames 60 --shot night.png\n"), 1;
  }
  glfwWindowHint(GLFW_CONTEXT_VERSION_MAJOR, 3);
  glfwWindowHint(GLFW_CONTEXT_VERSION_MINOR, 3);
  glfwWindowHint(GLFW_OPENGL_PROFILE, GLFW_OPENGL_CORE_PROFILE);
  glfwWindowHint(GLFW_SRGB_CAPABLE, GLFW_TRUE);
  GLFWwindow* window = glfwCreateWindow(static_cast<int>(view.width), static_cast<int>(view.height),
                                        "Last Tram to Quillmere", nullptr, nullptr);
  if (window == nullptr) return std::fprintf(stderr, "no window with OpenGL 3.3\n"), 1;
  glfwMakeContextCurrent(window);
  glEnable(GL_FRAMEBUFFER_SRGB);
  int drawn = 0;
  {
    auto renderer = OpenGLRenderer::make();
    if (!renderer) return std::cerr << describe(renderer.error()) << '\n', 1;
    NightScene scene(context);
    while (glfwWindowShouldClose(window) == GLFW_FALSE && (frames == 0 || drawn < frames)) {
      int width = 0, height = 0;
      glfwGetFramebufferSize(window, &width, &height);
      view.width = static_cast<float>(std::max(width, 1)),
      view.height = static_cast<float>(std::max(height, 1));
      glViewport(0, 0, width, height);
      draw_frame(scene, *renderer, view, frames > 0 ? drawn / 60.0 : glfwGetTime());
      glfwSwapBuffers(window);
      glfwPollEvents();
      ++drawn;
    }
  }
  glfwTerminate();
  std::printf("%d frames\n", drawn);
  return 0;
}

}  // namespace

/// --reference PNG saves the last frame once more, its words painted in software.
int main(int argc, char** argv) {
  int frames = 0;
  const char *shot = nullptr, *reference = nullptr;
  for (int i = 1; i + 1 < argc; i += 2) {
    if (std::strcmp(argv[i], "--frames") == 0) frames = std::atoi(argv[i + 1]);
    if (std::strcmp(argv[i], "--shot") == 0) shot = argv[i + 1];
    if (std::strcmp(argv[i], "--reference") == 0) reference = argv[i + 1];
  }
  FontStack fonts;
  const auto atlas = bake_letters(fonts);
  TextContext context(fonts, std::make_shared<AtlasSource>(atlas));
  const auto looks = load_looks(GRAFEMA_DEMO_DATA "/looks.json", context.looks());
  if (!looks) return std::cerr << describe(looks.error()) << '\n', 1;
  const View view{.width = 1280, .height = 800, .safe = {24, 20, 24, 20}};
  return shot != nullptr ? draw_headless(context, view, std::max(frames, 1), shot, reference)
                         : draw_in_window(context, view, frames);
}
