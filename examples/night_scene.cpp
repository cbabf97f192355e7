// SPDX-License-Identifier: MIT
// A street of Quillmere at night, in a window; --frames N --shot PNG draws N frames without one.
#define GLFW_INCLUDE_NONE
#include <GLFW/glfw3.h>
#include <epoxy/gl.h>

#include <algorithm>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <string>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/files/files.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "night_labels.hpp"

namespace {

using namespace grafema;

void draw_frame(NightScene& scene, OpenGLRenderer& renderer, const View& view, double seconds) {
  scene.move(seconds);
  scene.draw(renderer, view);
}

int draw_headless(TextContext& context, const std::string& looks, const View& view, int frames,
                  const char* shot) {
  auto offscreen = OpenGLOffscreen::make(static_cast<int>(view.width), static_cast<int>(view.height));
  if (!offscreen) return std::fprintf(stderr, "%s\n", describe(offscreen.error()).c_str()), 1;
  offscreen->add_depth();
  auto renderer = OpenGLRenderer::make();
  if (!renderer || !renderer->sync(context.source())) return std::fprintf(stderr, "no OpenGL renderer\n"), 1;
  NightScene scene(context, looks);
  for (int frame = 0; frame < frames; ++frame) draw_frame(scene, *renderer, view, frame / 60.0);
  scene.report();
  const auto saved = save_png(shot, offscreen->read());
  if (!saved) std::fprintf(stderr, "%s\n", describe(saved.error()).c_str());
  for (const std::string& complaint : offscreen->complaints()) {
    std::fprintf(stderr, "OpenGL: %s\n", complaint.c_str());
  }
  return saved && offscreen->complaints().empty() ? 0 : 1;
}

int draw_in_window(TextContext& context, const std::string& looks, View view, int frames) {
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
    if (!renderer || !renderer->sync(context.source())) {
      return std::fprintf(stderr, "no OpenGL renderer\n"), 1;
    }
    NightScene scene(context, looks);
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

int main(int argc, char** argv) {
  int frames = 0;
  const char* shot = nullptr;
  for (int i = 1; i + 1 < argc; i += 2) {
    if (std::strcmp(argv[i], "--frames") == 0) frames = std::atoi(argv[i + 1]);
    if (std::strcmp(argv[i], "--shot") == 0) shot = argv[i + 1];
  }
  FontStack fonts;
  const auto atlas = bake_letters(fonts);
  const auto looks = load_text(GRAFEMA_DEMO_DATA "/looks.json");
  if (!looks) return std::fprintf(stderr, "%s\n", describe(looks.error()).c_str()), 1;
  TextContext context(fonts, std::make_shared<AtlasSource>(atlas));
  const View view{.width = 1280, .height = 800, .safe = {24, 20, 24, 20}};
  return shot != nullptr ? draw_headless(context, *looks, view, std::max(frames, 1), shot)
                         : draw_in_window(context, *looks, view, frames);
}
