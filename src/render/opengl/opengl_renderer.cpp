// SPDX-License-Identifier: MIT
// Draw calls for scenes.
#include "grafema/render/opengl_renderer.hpp"

#include <epoxy/gl.h>
#include <fmt/format.h>

#include <algorithm>
#include <bit>

#include "render/batch_walk.hpp"
#include "render/opengl/context_state.hpp"
#include "render/opengl/held_images.hpp"
#include "render/opengl/held_pages.hpp"
#include "render/opengl/held_planes.hpp"
#include "render/opengl/held_scene.hpp"
#include "render/opengl/programs.hpp"

namespace grafema {
namespace {

using detail::HeldSource;
using detail::PageArray;
using detail::Program;
using detail::ProgramKey;

tl::unexpected<Error> no_context() {
  return fail(make_error(ErrorKind::unsupported, "a current OpenGL context on this thread", "none"));
}

/// What of a frame all batches share.
struct Frame {
  bool gamma = false;
  detail::LightVectors lights = {};
};

}  // namespace

struct OpenGLRenderer::State {
  GLuint vertices = 0;
  detail::Programs programs;
  detail::HeldPages pages;
  detail::HeldImages images;
  detail::HeldPlanes planes;
  std::vector<detail::HeldScene> scenes;
  bool abandoned = false;
  OpenGLWork work;

  void set_up_vertices();
  detail::HeldScene& hold(const SceneMemory& scene);
  void bind_images(const LayerImages& of);
  void bind_plane(const Program& program, TexelKind composite, const GLint* viewport);
  void draw_batch(const SceneMemory& scene, const SceneBatch& batch, const Frame& frame,
                  const GLint* viewport, bool is_emptied);
  template <class Draw>
  void draw_all(const SceneMemory& scene, const GLint* viewport, Draw draw);
  ~State() {
    // Abandoned or never made; or the context is gone, and with it all that was in it.
    if (abandoned || vertices == 0 || !detail::has_current_context()) return;
    programs.free();
    glDeleteVertexArrays(1, &vertices);
    pages.free();
    images.free();
    planes.free();
    for (detail::HeldScene& scene : scenes) scene.free();
  }
};

OpenGLRenderer::OpenGLRenderer(std::unique_ptr<State> state) : state_(std::move(state)) {}
OpenGLRenderer::~OpenGLRenderer() = default;
OpenGLRenderer::OpenGLRenderer(OpenGLRenderer&&) noexcept = default;
OpenGLRenderer& OpenGLRenderer::operator=(OpenGLRenderer&&) noexcept = default;
const OpenGLWork& OpenGLRenderer::work() const { return state_->work; }

Result<OpenGLRenderer> OpenGLRenderer::make() {
  if (!detail::has_current_context()) return no_context();
  const int version = epoxy_gl_version(), least = epoxy_is_desktop_gl() ? 33 : 30;
  if (version < least) {
    return fail(make_error(ErrorKind::unsupported, "OpenGL 3.3 or OpenGL ES 3.0",
                           fmt::format("version {}.{}", version / 10, version % 10)));
  }
  auto state = std::make_unique<State>();
  std::string complaint;
  const detail::StateGuard guard(detail::kUnits);
  // The commonest one, which tells whether the driver takes the shaders.
  ProgramKey key;
  key.kinds[0] = TexelKind::channels_with_distance;
  if (state->programs.use(key, &complaint).name == 0) {
    return fail(make_error(ErrorKind::unsupported, "a driver that takes the shaders", complaint));
  }
  state->set_up_vertices();
  return OpenGLRenderer(std::move(state));
}

void OpenGLRenderer::State::set_up_vertices() {
  glGenVertexArrays(1, &vertices);
  glBindVertexArray(vertices);
  glEnableVertexAttribArray(0);
  glVertexAttribDivisor(0, 1);
}

/// A plane is emptied by the composite that will show it, drawn onto it as nothing.
template <class Draw>
void OpenGLRenderer::State::draw_all(const SceneMemory& scene, const GLint* viewport, Draw draw) {
  const std::span<const SceneBatch> batches = scene.batches();
  const bool has_planes = std::any_of(batches.begin(), batches.end(), [](const SceneBatch& batch) {
    return batch.target != RenderTarget::frame;
  });
  if (has_planes && !planes.prepare(viewport[2], viewport[3])) return;
  detail::PlaneGuide guide(planes, viewport);
  const auto empty = [&](RenderTarget plane, const SceneBatch& composite) {
    guide.go_to(plane);
    glDisable(GL_BLEND);
    draw(composite, guide.viewport(), true);
    glEnable(GL_BLEND);
  };
  detail::walk_batches(scene, empty, [&](const SceneBatch& batch) {
    guide.go_to(batch.target);
    draw(batch, guide.viewport(), false);
  });
}

void OpenGLRenderer::State::bind_images(const LayerImages& of) {
  int number = 0;
  for (const FillImage* image : {of.fill, of.grain, of.mirror}) {
    const int unit = detail::image_unit(number++);
    if (image != nullptr) images.bind(unit, *image, work.page_bytes);
  }
}

void OpenGLRenderer::State::bind_plane(const Program& program, TexelKind composite, const GLint* viewport) {
  if (!is_composite(composite)) return;
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(detail::kPlaneUnit));
  const RenderTarget plane = composite == TexelKind::mask ? RenderTarget::mask : RenderTarget::intermediate;
  glBindTexture(GL_TEXTURE_2D, planes.texture(plane));
  glActiveTexture(GL_TEXTURE0);
  glUniform2f(program.plane_origin, static_cast<float>(viewport[0]), static_cast<float>(viewport[1]));
}

/// What is held of a scene; frees what is held of those that are gone.
detail::HeldScene& OpenGLRenderer::State::hold(const SceneMemory& scene) {
  std::erase_if(scenes, [](detail::HeldScene& held) {
    if (held.is_gone()) held.free();
    return held.is_gone();
  });
  const auto at = std::find_if(scenes.begin(), scenes.end(),
                               [&scene](const detail::HeldScene& held) { return held.is_of(scene); });
  if (at != scenes.end()) return *at;
  scenes.emplace_back(scene);
  return scenes.back();
}

Result<void> OpenGLRenderer::draw(const SceneMemory& scene, Blending blending) {
  State& s = *state_;
  if (!detail::has_current_context()) return no_context();
  const detail::StateGuard guard(detail::kUnits);
  for (const SceneArray& array : scene.arrays()) {
    if (array.source == nullptr) continue;
    if (const Result<void> synced = s.pages.sync(*array.source, s.work.page_bytes); !synced) return synced;
  }
  detail::HeldScene& held = s.hold(scene);
  if (const Result<void> sent = held.send(scene, s.work.stream_bytes); !sent) return sent;
  if (scene.batches().empty()) return {};
  GLint viewport[4] = {};
  glGetIntegerv(GL_VIEWPORT, viewport);
  held.bind();
  glBindVertexArray(s.vertices);
  glBindBuffer(GL_ARRAY_BUFFER, held.order());
  const Frame frame{blending == Blending::gamma,
                    detail::light_vectors(scene.lighting(), scene.view().content_scale)};
  s.draw_all(scene, viewport, [&](const SceneBatch& batch, const GLint* on, bool is_emptied) {
    s.draw_batch(scene, batch, frame, on, is_emptied);
  });
  return {};
}

void OpenGLRenderer::State::draw_batch(const SceneMemory& scene, const SceneBatch& batch, const Frame& frame,
                                       const GLint* viewport, bool is_emptied) {
  ProgramKey key;
  key.gamma = frame.gamma, key.empties = is_emptied;
  key.features = batch.features;
  key.kind_count = 0;
  GLint numbers[SceneBatch::kMaxArrays] = {-1, -1, -1, -1};
  for (std::uint32_t left = batch.arrays; left != 0 && key.kind_count < SceneBatch::kMaxArrays;
       left &= left - 1) {
    const int number = std::countr_zero(left);
    const SceneArray& array = scene.arrays()[static_cast<std::size_t>(number)];
    const bool wants_far = array.source != nullptr && has_any(batch.features, SceneFeature::mipmapped);
    if (wants_far) pages.sync_mipmaps(array.source->id(), work.page_bytes);
    const HeldSource* source = array.source != nullptr ? pages.find(array.source->id()) : nullptr;
    const PageArray* found = source != nullptr ? source->find(array.kind, array.part) : nullptr;
    if (wants_far && found != nullptr) detail::bind_at(detail::kMipmapUnit + key.kind_count, found->far);
    detail::bind_at(key.kind_count, found != nullptr ? found->texture : 0);
    if (found != nullptr && found->far == 0 && wants_far) key.features &= ~SceneFeature::mipmapped;
    numbers[key.kind_count] = number;
    key.kinds[key.kind_count++] = array.kind;
  }
  if (has_any(batch.features, SceneFeature::mipmapped)) key.features |= SceneFeature::minified;
  if (key.kind_count == 0) return;
  bind_images(batch.images);
  const Program& program = programs.use(key);
  if (program.name == 0) return;
  glUniform2f(program.viewport, static_cast<float>(viewport[2]), static_cast<float>(viewport[3]));
  detail::set_lights(program, frame.lights, viewport);
  if (!is_emptied) bind_plane(program, key.kinds[0], viewport);
  glUniform1f(program.clock, scene.clock());
  glUniform4iv(program.arrays, 1, numbers);
  const auto* first =
      reinterpret_cast<const void*>(std::size_t{batch.first} * 4);  // NOLINT: OpenGL wants it so
  glVertexAttribIPointer(0, 1, GL_UNSIGNED_INT, 4, first);
  glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(batch.count));
  ++work.draw_calls;
}

void OpenGLRenderer::abandon() {
  state_->abandoned = true;
  state_->pages.forget();
  state_->images.forget();
  state_->planes.forget();
  state_->scenes.clear();
}

}  // namespace grafema
