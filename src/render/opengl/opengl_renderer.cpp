// SPDX-License-Identifier: MIT
// Draw calls for lists of quads and for sets of labels.
#include "grafema/render/opengl_renderer.hpp"

#include <epoxy/gl.h>
#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <cstring>

#include "render/batch_walk.hpp"
#include "render/opengl/context_state.hpp"
#include "render/opengl/held_images.hpp"
#include "render/opengl/held_pages.hpp"
#include "render/opengl/held_planes.hpp"
#include "render/opengl/held_set.hpp"
#include "render/opengl/programs.hpp"

namespace grafema {
namespace {

using detail::HeldSource;
using detail::PageArray;
using detail::Program;
using detail::ProgramKey;

constexpr int kRecordsPerRow = 32, kTexelsPerRecord = 8;

tl::unexpected<Error> no_context() {
  return fail(make_error(ErrorKind::unsupported, "a current OpenGL context on this thread", "none"));
}

}  // namespace

namespace {

/// What of a frame all batches share.
struct Frame {
  bool gamma = false;
  detail::LightVectors lights = {};
};

}  // namespace

struct OpenGLRenderer::State {
  GLuint vertices = 0, stream = 0, records = 0, set_vertices = 0;
  detail::Programs programs;
  detail::HeldPages pages;
  detail::HeldImages images;
  detail::HeldPlanes planes;
  std::vector<detail::HeldSet> sets;
  bool abandoned = false;
  int record_rows = 0;
  OpenGLWork work;
  std::vector<float> record_texels;

  void set_up_vertices();
  void send_records(const QuadList& list);
  detail::HeldSet& hold(const SetMemory& set);
  void bind_images(const LayerImages& of, bool is_set);
  void bind_plane(const Program& program, bool is_set, QuadKind cover, const GLint* viewport);
  void draw_batch(const QuadList& list, const Batch& batch, const Frame& frame, const HeldSource& held,
                  const GLint* viewport, bool is_emptied);
  void draw_batch(const SetMemory& set, const SetBatch& batch, const Frame& frame, const GLint* viewport,
                  bool is_emptied);
  template <class Batch, class KindOf, class Draw>
  void draw_all(std::span<const Batch> batches, const GLint* viewport, KindOf kind_of, Draw draw);
  ~State() {
    // Abandoned or never made; or the context is gone, and with it all that was in it.
    if (abandoned || vertices == 0 || !detail::has_current_context()) return;
    programs.free();
    glDeleteVertexArrays(1, &vertices);
    glDeleteVertexArrays(1, &set_vertices);
    glDeleteBuffers(1, &stream);
    glDeleteTextures(1, &records);
    pages.free();
    images.free();
    planes.free();
    for (detail::HeldSet& set : sets) set.free();
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
  const detail::StateGuard guard(detail::kListUnits);
  // The commonest one, which tells whether the driver takes the shaders.
  ProgramKey key;
  key.kinds[0] = QuadKind::channels_with_distance;
  if (state->programs.use(key, &complaint).name == 0) {
    return fail(make_error(ErrorKind::unsupported, "a driver that takes the shaders", complaint));
  }
  glGenTextures(1, &state->records);
  state->set_up_vertices();
  return OpenGLRenderer(std::move(state));
}

void OpenGLRenderer::State::set_up_vertices() {
  constexpr GLuint kQuadFields = 7;
  glGenVertexArrays(1, &vertices);
  glGenVertexArrays(1, &set_vertices);
  glGenBuffers(1, &stream);
  glBindVertexArray(vertices);
  for (GLuint i = 0; i < kQuadFields; ++i) {
    glEnableVertexAttribArray(i);
    glVertexAttribDivisor(i, 1);
  }
  glBindVertexArray(set_vertices);
  glEnableVertexAttribArray(0);
  glVertexAttribDivisor(0, 1);
}

namespace {

/// Points the attributes at the quads from `first` on; where a batch begins has no other way in OpenGL 3.3.
void point_at(std::size_t first) {
  const auto at = [first](std::size_t offset) {
    return reinterpret_cast<const void*>(first * sizeof(GlyphQuad) + offset);  // NOLINT: OpenGL wants it so
  };
  constexpr GLsizei kStride = sizeof(GlyphQuad);
  glVertexAttribPointer(0, 4, GL_FLOAT, GL_FALSE, kStride, at(offsetof(GlyphQuad, origin)));
  glVertexAttribPointer(1, 4, GL_FLOAT, GL_FALSE, kStride, at(offsetof(GlyphQuad, across)));
  glVertexAttribPointer(2, 4, GL_FLOAT, GL_FALSE, kStride, at(offsetof(GlyphQuad, down)));
  glVertexAttribIPointer(3, 4, GL_UNSIGNED_SHORT, kStride, at(offsetof(GlyphQuad, cell)));
  glVertexAttribIPointer(4, 4, GL_SHORT, kStride, at(offsetof(GlyphQuad, box)));
  glVertexAttribPointer(5, 4, GL_UNSIGNED_BYTE, GL_TRUE, kStride, at(offsetof(GlyphQuad, tint)));
  glVertexAttribIPointer(6, 2, GL_UNSIGNED_SHORT, kStride, at(offsetof(GlyphQuad, record)));
}

}  // namespace

Result<void> OpenGLRenderer::sync(GlyphSource& source) {
  if (!detail::has_current_context()) return no_context();
  const detail::StateGuard guard(detail::kListUnits);
  return state_->pages.sync(source, state_->work.page_bytes);
}

void OpenGLRenderer::State::send_records(const QuadList& list) {
  const int rows = static_cast<int>((list.record_count + kRecordsPerRow - 1) / kRecordsPerRow);
  constexpr int kWidth = kRecordsPerRow * kTexelsPerRecord;
  record_texels.resize(static_cast<std::size_t>(rows * kWidth * 4));
  std::memcpy(record_texels.data(), list.records.data(), list.record_count * sizeof(LayerRecord));
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(detail::kRecordUnit));
  glBindTexture(GL_TEXTURE_2D, records);
  detail::unpack_rows(0, 0, 0);
  if (rows > record_rows) {
    detail::set_nearest_and_clamped(GL_TEXTURE_2D);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA32F, kWidth, rows, 0, GL_RGBA, GL_FLOAT, record_texels.data());
    record_rows = rows;
  } else {
    glTexSubImage2D(GL_TEXTURE_2D, 0, 0, 0, kWidth, rows, GL_RGBA, GL_FLOAT, record_texels.data());
  }
  work.stream_bytes += record_texels.size() * 4;
}

/// A plane is emptied by the cover that will show it, drawn onto it as nothing.
template <class Batch, class KindOf, class Draw>
void OpenGLRenderer::State::draw_all(std::span<const Batch> batches, const GLint* viewport, KindOf kind_of,
                                     Draw draw) {
  const bool has_planes = std::any_of(batches.begin(), batches.end(),
                                      [](const Batch& batch) { return batch.onto != Onto::target; });
  if (has_planes && !planes.prepare(viewport[2], viewport[3])) return;
  detail::PlaneGuide guide(planes, viewport);
  const auto empty = [&](Onto plane, const Batch& cover) {
    guide.go_to(plane);
    glDisable(GL_BLEND);
    draw(cover, guide.viewport(), true);
    glEnable(GL_BLEND);
  };
  detail::walk_batches(batches, kind_of, empty, [&](const Batch& batch) {
    guide.go_to(batch.onto);
    draw(batch, guide.viewport(), false);
  });
}

void OpenGLRenderer::State::bind_images(const LayerImages& of, bool is_set) {
  int number = 0;
  for (const FillImage* image : {of.fill, of.grain, of.mirror}) {
    const int unit = detail::image_unit(is_set, number++);
    if (image != nullptr) images.bind(unit, *image, work.page_bytes);
  }
}

void OpenGLRenderer::State::bind_plane(const Program& program, bool is_set, QuadKind cover,
                                       const GLint* viewport) {
  if (!is_cover(cover)) return;
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(detail::plane_unit(is_set)));
  const Onto plane = cover == QuadKind::joined ? Onto::shape : Onto::sheet;
  glBindTexture(GL_TEXTURE_2D, planes.texture(plane));
  glActiveTexture(GL_TEXTURE0);
  glUniform2f(program.plane_origin, static_cast<float>(viewport[0]), static_cast<float>(viewport[1]));
}

void OpenGLRenderer::draw(const QuadList& list, Blending blending) {
  if (list.quad_count == 0 || list.record_count == 0) return;
  State& s = *state_;
  const HeldSource* held = detail::has_current_context() ? s.pages.find(list.source) : nullptr;
  if (held == nullptr) return;
  const detail::StateGuard guard(detail::kListUnits);
  GLint viewport[4] = {};
  glGetIntegerv(GL_VIEWPORT, viewport);
  s.send_records(list);
  glBindVertexArray(s.vertices);
  glBindBuffer(GL_ARRAY_BUFFER, s.stream);
  const std::size_t bytes = list.quad_count * sizeof(GlyphQuad);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(bytes), list.quads.data(), GL_STREAM_DRAW);
  s.work.stream_bytes += bytes;
  const Frame frame{blending == Blending::gamma, detail::light_vectors(list.lighting, list.content_scale)};
  glActiveTexture(GL_TEXTURE0);
  s.draw_all(
      std::span<const Batch>(list.batches.first(list.batch_count)), viewport,
      [](const Batch& batch) { return batch.kind; },
      [&](const Batch& batch, const GLint* on, bool is_emptied) {
        s.draw_batch(list, batch, frame, *held, on, is_emptied);
      });
}

void OpenGLRenderer::State::draw_batch(const QuadList& list, const Batch& batch, const Frame& frame,
                                       const HeldSource& held, const GLint* viewport, bool is_emptied) {
  if (batch.far) pages.sync_far(list.source, work.page_bytes);
  const PageArray* array = held.find(batch.kind, batch.part);
  if ((array == nullptr && has_page(batch.kind)) || batch.count == 0) return;
  if (batch.far && array != nullptr) detail::bind_at(detail::kFarUnit, array->far);
  detail::bind_at(0, array != nullptr ? array->texture : 0);  // bars have no pages
  const bool has_far = array == nullptr || array->far != 0;   // bars need none
  bind_images(batch.images, false);
  ProgramKey key;
  key.gamma = frame.gamma, key.empties = is_emptied;
  key.kinds[0] = batch.kind;
  key.features = batch.features | (batch.magnified ? kNear : 0U) |
                 (batch.minified || batch.far ? kMinified : 0U) | (batch.far && has_far ? kFar : 0U);
  const Program& program = programs.use(key);
  glUniform2f(program.viewport, static_cast<float>(viewport[2]), static_cast<float>(viewport[3]));
  detail::set_lights(program, frame.lights, viewport);
  if (!is_emptied) bind_plane(program, false, batch.kind, viewport);
  glUniform1i(program.first_record, static_cast<GLint>(batch.first_record));
  point_at(batch.first);
  glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(batch.count));
  ++work.draw_calls;
}

/// What is held of a set; frees what is held of those that are gone.
detail::HeldSet& OpenGLRenderer::State::hold(const SetMemory& set) {
  std::erase_if(sets, [](detail::HeldSet& held) {
    if (held.is_gone()) held.free();
    return held.is_gone();
  });
  const auto at =
      std::find_if(sets.begin(), sets.end(), [&set](const detail::HeldSet& held) { return held.is_of(set); });
  if (at != sets.end()) return *at;
  sets.emplace_back(set);
  return sets.back();
}

Result<void> OpenGLRenderer::draw(const SetMemory& set, Blending blending) {
  State& s = *state_;
  if (!detail::has_current_context()) return no_context();
  const detail::StateGuard guard(detail::kSetUnits);
  for (const SetArray& array : set.arrays) {
    if (array.source == nullptr) continue;
    if (const Result<void> synced = s.pages.sync(*array.source, s.work.page_bytes); !synced) return synced;
  }
  detail::HeldSet& held = s.hold(set);
  if (const Result<void> sent = held.send(set, s.work.stream_bytes); !sent) return sent;
  if (set.batches.empty()) return {};
  GLint viewport[4] = {};
  glGetIntegerv(GL_VIEWPORT, viewport);
  held.bind();
  glBindVertexArray(s.set_vertices);
  glBindBuffer(GL_ARRAY_BUFFER, held.order());
  const Frame frame{blending == Blending::gamma, detail::light_vectors(set.lighting, set.content_scale)};
  s.draw_all(
      set.batches, viewport, [&](const SetBatch& batch) { return detail::kind_of(set, batch); },
      [&](const SetBatch& batch, const GLint* on, bool is_emptied) {
        s.draw_batch(set, batch, frame, on, is_emptied);
      });
  return {};
}

void OpenGLRenderer::State::draw_batch(const SetMemory& set, const SetBatch& batch, const Frame& frame,
                                       const GLint* viewport, bool is_emptied) {
  ProgramKey key;
  key.is_set = true;
  key.gamma = frame.gamma, key.empties = is_emptied;
  key.features = batch.features;
  key.kind_count = 0;
  GLint numbers[SetBatch::kMaxArrays] = {-1, -1, -1, -1};
  for (std::uint32_t left = batch.arrays; left != 0 && key.kind_count < SetBatch::kMaxArrays;
       left &= left - 1) {
    const int number = std::countr_zero(left);
    const SetArray& array = set.arrays[static_cast<std::size_t>(number)];
    const bool wants_far = array.source != nullptr && (batch.features & kFar) != 0;
    if (wants_far) pages.sync_far(array.source->id(), work.page_bytes);
    const HeldSource* source = array.source != nullptr ? pages.find(array.source->id()) : nullptr;
    const PageArray* found = source != nullptr ? source->find(array.kind, array.part) : nullptr;
    if (wants_far && found != nullptr) detail::bind_at(detail::kFarUnit + key.kind_count, found->far);
    detail::bind_at(key.kind_count, found != nullptr ? found->texture : 0);
    if (found != nullptr && found->far == 0 && wants_far) key.features &= ~kFar;
    numbers[key.kind_count] = number;
    key.kinds[key.kind_count++] = array.kind;
  }
  if ((batch.features & kFar) != 0) key.features |= kMinified;
  if (key.kind_count == 0) return;
  bind_images(batch.images, true);
  const Program& program = programs.use(key);
  if (program.name == 0) return;
  glUniform2f(program.viewport, static_cast<float>(viewport[2]), static_cast<float>(viewport[3]));
  detail::set_lights(program, frame.lights, viewport);
  if (!is_emptied) bind_plane(program, true, key.kinds[0], viewport);
  glUniform1f(program.clock, set.clock);
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
  state_->sets.clear();
}

}  // namespace grafema
