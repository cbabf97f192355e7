// SPDX-License-Identifier: MIT
// A street of Quillmere at night: station signs in perspective, trams with driver names that follow them, and a HUD.
// Opens a window; with --frames N --shot PNG it draws N frames without one and saves the last.
#define GLFW_INCLUDE_NONE
#include <GLFW/glfw3.h>
#include <epoxy/gl.h>

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <memory>
#include <string>
#include <vector>

#include "grafema/character_sets.hpp"
#include "grafema/files.hpp"
#include "grafema/opengl_offscreen.hpp"
#include "grafema/opengl_renderer.hpp"
#include "street.hpp"

namespace {

using namespace grafema;

/// Every label of the scene, and what moves them.
class NightScene {
 public:
  NightScene(TextContext& context) : context_(context) { make_looks(), make_signs(), make_trams(), make_hud(); }

  void move(double seconds) {
    street_.move(seconds);
    for (std::size_t i = 0; i < street_.trams.size(); ++i) {
      const Tram& tram = street_.trams[i];
      place(*names_[i], {.anchor = {0.5F, 1}, .kind = PlaceKind::facing, .world = translation(tram.x, 3.55F, tram.z), .world_per_pixel = 0.012F});
      place(*numbers_[i], {.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = translation(tram.x, 2.72F, tram.z + 1.53F), .world_per_pixel = 0.008F});
    }
    const int minutes = 23 * 60 + 4 + static_cast<int>(seconds / 60), late = 3 + static_cast<int>(seconds / 30);
    char text[32];
    std::snprintf(text, sizeof text, "%d:%02d", minutes / 60 % 24, minutes % 60);
    clock_->set_text(text);
    std::snprintf(text, sizeof text, late == 1 ? "%d minute late" : "%d minutes late", late);
    badge_->set_text(text);
    title_->set_time(seconds);
  }

  /// What should not go unsaid: characters without a picture, looks that need more reach.
  void report() const {
    for (const Note& note : notes_.all()) std::fprintf(stderr, "note: %s\n", describe(note).c_str());
  }

  /// The street first, then what stands in it, then what lies on the glass.
  void draw(OpenGLRenderer& renderer, const View& view) {
    View seen = view;
    seen.camera = street_.camera();
    seen.projection = perspective(58, view.width / view.height, 0.1F, 200);
    street_.draw(seen);
    glEnable(GL_DEPTH_TEST);  // a tram that passes hides the signs behind it
    glDepthMask(GL_FALSE);
    show(renderer, world_, seen);
    glDisable(GL_DEPTH_TEST);
    show(renderer, hud_, seen);
  }

 private:
  void make_looks() {
    const auto looks = load_looks(GRAFEMA_DEMO_DATA "/looks.json");
    if (!looks) std::fprintf(stderr, "%s\n", describe(looks.error()).c_str());
    if (looks) {
      for (const NamedLook& look : *looks) context_.looks().set(look.name, look.look);
    }
  }

  Label* add(std::vector<Label*>& list, const char* text, const char* look, float size) {
    labels_.push_back(std::make_unique<Label>(context_, text));
    Label* label = labels_.back().get();
    label->set_look(context_.looks().find(look).value_or(LookId{}));
    if (!label->set_size(size)) std::fprintf(stderr, "%s: size refused\n", text);
    list.push_back(label);
    return label;
  }

  static void place(Label& label, const Placement& placement) {
    if (const auto placed = label.set_placement(placement); !placed) std::fprintf(stderr, "%s\n", describe(placed.error()).c_str());
  }

  void make_signs() {
    for (const Sign& sign : street_.signs) {
      Label* label = add(world_, sign.text, sign.late ? "sign-late" : "sign", 48);
      place(*label, {.anchor = {0.5F, 0.5F}, .kind = PlaceKind::world, .world = sign.label_plane(), .world_per_pixel = 0.009F});
    }
  }

  void make_trams() {
    for (const Tram& tram : street_.trams) {
      numbers_.push_back(add(world_, tram.line, "clock", 48));
      names_.push_back(add(world_, tram.driver, "name-tag", 32));
    }
  }

  void make_hud() {
    clock_ = add(hud_, "", "clock", 72);
    place(*clock_, pinned({1, 0}));
    badge_ = add(hud_, "", "badge", 36);
    place(*badge_, pinned({0, 0}, {14, 14}));
    title_ = add(hud_, "Last Tram to Quillmere", "title", 76);
    title_->set_motion(sway(0.03F, 3));
    place(*title_, pinned({0.5F, 1}));
  }

  void show(OpenGLRenderer& renderer, std::vector<Label*>& labels, const View& view) {
    QuadList list{quads_, batches_, layers_};
    for (int round = 0; round < 2; ++round) {  // the second with the room that the first asked for
      if (const auto emitted = emit_quads(context_, labels, view, list, &notes_); !emitted) std::fprintf(stderr, "%s\n", describe(emitted.error()).c_str());
      if (list.complete()) break;
      quads_.resize(list.quads_needed), batches_.resize(list.batches_needed), layers_.resize(list.layers_needed);
      list = {quads_, batches_, layers_};
    }
    renderer.draw(list, Blending::linear);
  }

  TextContext& context_;
  Street street_;
  std::vector<std::unique_ptr<Label>> labels_;
  std::vector<Label*> world_, hud_, names_, numbers_;
  Label *clock_ = nullptr, *badge_ = nullptr, *title_ = nullptr;
  Notes notes_;
  std::vector<GlyphQuad> quads_;
  std::vector<Batch> batches_;
  std::vector<LayerRecord> layers_;
};

/// A bold sans where the system has one, else the face of the library; one atlas of distances serves all sizes.
std::shared_ptr<const Atlas> bake_letters(FontStack& fonts) {
  const auto data = FontData::read("/usr/share/fonts/truetype/dejavu/DejaVuSans-Bold.ttf");
  const auto face = data ? Face::open(*data).value_or(built_in_face()) : built_in_face();
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters = *read_character_set("latin1");
  recipe.characters.push_back(0x2019);  // the apostrophe of Tinker's Weir
  recipe.size = 56;
  recipe.reach = 8;
  auto atlas = bake(recipe);
  if (!atlas) std::fprintf(stderr, "%s\n", describe(atlas.error()).c_str());
  if (!atlas) std::exit(1);
  fonts.faces = {face};
  return std::make_shared<const Atlas>(*std::move(atlas));
}

void draw_frame(NightScene& scene, OpenGLRenderer& renderer, const View& view, double seconds) {
  scene.move(seconds);
  scene.draw(renderer, view);
}

int draw_headless(TextContext& context, const View& view, int frames, const char* shot) {
  auto offscreen = OpenGLOffscreen::make(static_cast<int>(view.width), static_cast<int>(view.height));
  if (!offscreen) return std::fprintf(stderr, "%s\n", describe(offscreen.error()).c_str()), 1;
  offscreen->add_depth();
  auto renderer = OpenGLRenderer::make();
  if (!renderer || !renderer->sync(context.source())) return std::fprintf(stderr, "no OpenGL renderer\n"), 1;
  NightScene scene(context);
  for (int frame = 0; frame < frames; ++frame) draw_frame(scene, *renderer, view, frame / 60.0);
  scene.report();
  const auto saved = save_png(shot, offscreen->read());
  if (!saved) std::fprintf(stderr, "%s\n", describe(saved.error()).c_str());
  for (const std::string& complaint : offscreen->complaints()) std::fprintf(stderr, "OpenGL: %s\n", complaint.c_str());
  return saved && offscreen->complaints().empty() ? 0 : 1;
}

int draw_in_window(TextContext& context, View view, int frames) {
  if (glfwInit() == GLFW_FALSE) return std::fprintf(stderr, "no window system; try --frames 60 --shot night.png\n"), 1;
  glfwWindowHint(GLFW_CONTEXT_VERSION_MAJOR, 3);
  glfwWindowHint(GLFW_CONTEXT_VERSION_MINOR, 3);
  glfwWindowHint(GLFW_OPENGL_PROFILE, GLFW_OPENGL_CORE_PROFILE);
  glfwWindowHint(GLFW_SRGB_CAPABLE, GLFW_TRUE);
  GLFWwindow* window = glfwCreateWindow(static_cast<int>(view.width), static_cast<int>(view.height), "Last Tram to Quillmere", nullptr, nullptr);
  if (window == nullptr) return std::fprintf(stderr, "no window with OpenGL 3.3\n"), 1;
  glfwMakeContextCurrent(window);
  glEnable(GL_FRAMEBUFFER_SRGB);
  int drawn = 0;
  {
    auto renderer = OpenGLRenderer::make();
    if (!renderer || !renderer->sync(context.source())) return std::fprintf(stderr, "no OpenGL renderer\n"), 1;
    NightScene scene(context);
    while (glfwWindowShouldClose(window) == GLFW_FALSE && (frames == 0 || drawn < frames)) {
      int width = 0, height = 0;
      glfwGetFramebufferSize(window, &width, &height);
      view.width = static_cast<float>(std::max(width, 1)), view.height = static_cast<float>(std::max(height, 1));
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
  TextContext context(fonts, std::make_shared<AtlasSource>(atlas));
  const View view{.width = 1280, .height = 800, .safe = {24, 20, 24, 20}};
  return shot != nullptr ? draw_headless(context, view, std::max(frames, 1), shot) : draw_in_window(context, view, frames);
}
