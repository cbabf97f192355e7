// SPDX-License-Identifier: MIT
// Programs, textures and draw calls.
#include "grafema/render/opengl_renderer.hpp"

#include <epoxy/gl.h>
#include <fmt/format.h>

#include <algorithm>
#include <cstring>

#include "render/opengl/context_state.hpp"
#include "render/opengl/programs.hpp"

namespace grafema {
namespace {

using detail::Features;
using detail::kPrograms;
using detail::Program;

constexpr int kRecordsPerRow = 32, kTexelsPerRecord = 6;

/// All pages of a kind of one source: layers of one texture.
struct PageArray {
  GLuint texture = 0;
  int width = 0, height = 0, layers = 0;
  PixelFormat format = PixelFormat::r8;
};

/// What the device holds of one source.
struct HeldSource {
  std::weak_ptr<const SourceId> life;
  SourceId id{};
  PageArray arrays[kQuadKinds];
  std::vector<std::uint64_t> revisions;  // of its pages, as they were sent; 0: not yet

  void free() {
    for (PageArray& array : arrays) glDeleteTextures(1, &array.texture);
  }
};

}  // namespace

struct OpenGLRenderer::State {
  GLuint vertices = 0, stream = 0, records = 0;
  Program programs[kPrograms];  // made when they are first needed
  bool abandoned = false;
  int record_rows = 0;
  std::vector<HeldSource> sources;  // the one synchronized last stands last
  OpenGLWork work;
  std::vector<float> record_texels, wide_texels;

  void set_up_vertices();
  void send_records(const QuadList& list);
  void make_array(PageArray& array) const;
  void send(const ImageView& pixels, const PageArray& array, std::uint16_t layer, const PixelRect& rect);
  void send_changes(const GlyphSource& source, HeldSource& held);
  HeldSource& hold(const GlyphSource& source);
  const HeldSource* find(SourceId id) const;
  ~State() {
    // Abandoned or never made; or the context is gone, and with it all that was in it.
    if (abandoned || vertices == 0 || !detail::has_current_context()) return;
    for (const Program& program : programs) glDeleteProgram(program.name);
    glDeleteVertexArrays(1, &vertices);
    glDeleteBuffers(1, &stream);
    glDeleteTextures(1, &records);
    for (HeldSource& held : sources) held.free();
  }
};

OpenGLRenderer::OpenGLRenderer(std::unique_ptr<State> state) : state_(std::move(state)) {}
OpenGLRenderer::~OpenGLRenderer() = default;
OpenGLRenderer::OpenGLRenderer(OpenGLRenderer&&) noexcept = default;
OpenGLRenderer& OpenGLRenderer::operator=(OpenGLRenderer&&) noexcept = default;
const OpenGLWork& OpenGLRenderer::work() const { return state_->work; }

Result<OpenGLRenderer> OpenGLRenderer::make() {
  if (!detail::has_current_context()) {
    return fail(make_error(ErrorKind::unsupported, "a current OpenGL context on this thread", "none"));
  }
  const int version = epoxy_gl_version(), least = epoxy_is_desktop_gl() ? 33 : 30;
  if (version < least) {
    return fail(make_error(ErrorKind::unsupported, "OpenGL 3.3 or OpenGL ES 3.0",
                           fmt::format("version {}.{}", version / 10, version % 10)));
  }
  auto state = std::make_unique<State>();
  std::string complaint;
  const detail::StateGuard guard;
  // The commonest one, which tells whether the driver takes the shaders.
  const QuadKind kind = QuadKind::channels_with_distance;
  Program& program = state->programs[Features{}.index(kind)];
  program = detail::make_program(kind, {}, complaint);
  if (program.name == 0) {
    return fail(make_error(ErrorKind::unsupported, "a driver that takes the shaders", complaint));
  }
  glGenTextures(1, &state->records);
  state->set_up_vertices();
  return OpenGLRenderer(std::move(state));
}

void OpenGLRenderer::State::set_up_vertices() {
  glGenVertexArrays(1, &vertices);
  glGenBuffers(1, &stream);
  glBindVertexArray(vertices);
  for (GLuint i = 0; i < 7; ++i) {
    glEnableVertexAttribArray(i);
    glVertexAttribDivisor(i, 1);
  }
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

void nearest_and_clamped(GLenum target) {
  glTexParameteri(target, GL_TEXTURE_MIN_FILTER, GL_NEAREST);
  glTexParameteri(target, GL_TEXTURE_MAG_FILTER, GL_NEAREST);
  glTexParameteri(target, GL_TEXTURE_WRAP_S, GL_CLAMP_TO_EDGE);
  glTexParameteri(target, GL_TEXTURE_WRAP_T, GL_CLAMP_TO_EDGE);
}

void unpack_rows(int row_length, int x, int y) {
  glPixelStorei(GL_UNPACK_ROW_LENGTH, row_length);
  glPixelStorei(GL_UNPACK_SKIP_PIXELS, x);
  glPixelStorei(GL_UNPACK_SKIP_ROWS, y);
}

/// What pages of a format become on the device. 16-bit channels become floats, which ES 3.0 can hold and 16
/// bits can't lose.
struct DeviceFormat {
  GLint internal;
  GLenum format, type;
};

DeviceFormat device_format(PixelFormat format) {
  if (format == PixelFormat::r16) return {GL_R32F, GL_RED, GL_FLOAT};
  if (format == PixelFormat::rgb16) return {GL_RGB32F, GL_RGB, GL_FLOAT};
  if (format == PixelFormat::rgba16) return {GL_RGBA32F, GL_RGBA, GL_FLOAT};
  if (format == PixelFormat::rgb8) return {GL_RGB8, GL_RGB, GL_UNSIGNED_BYTE};
  if (format == PixelFormat::rgba8) return {GL_RGBA8, GL_RGBA, GL_UNSIGNED_BYTE};
  return {GL_R8, GL_RED, GL_UNSIGNED_BYTE};
}

}  // namespace

void OpenGLRenderer::State::make_array(PageArray& array) const {
  if (array.texture == 0) glGenTextures(1, &array.texture);
  glBindTexture(GL_TEXTURE_2D_ARRAY, array.texture);
  nearest_and_clamped(GL_TEXTURE_2D_ARRAY);
  const DeviceFormat f = device_format(array.format);
  unpack_rows(0, 0, 0);
  glTexImage3D(GL_TEXTURE_2D_ARRAY, 0, f.internal, array.width, array.height, array.layers, 0, f.format,
               f.type, nullptr);
}

void OpenGLRenderer::State::send(const ImageView& pixels, const PageArray& array, std::uint16_t layer,
                                 const PixelRect& rect) {
  const DeviceFormat f = device_format(array.format);
  glBindTexture(GL_TEXTURE_2D_ARRAY, array.texture);
  const void* data = pixels.data;
  const bool is_wide = bits_per_channel(array.format) == 16;
  if (is_wide) {
    wide_texels.clear();
    const auto channels = static_cast<std::size_t>(channel_count(array.format));
    for (int y = rect.y; y < rect.y + rect.height; ++y) {
      for (std::size_t i = 0; i < static_cast<std::size_t>(rect.width) * channels; ++i) {
        std::uint16_t wide = 0;
        std::memcpy(&wide, pixels.row(y) + (static_cast<std::size_t>(rect.x) * channels + i) * 2, 2);
        wide_texels.push_back(static_cast<float>(wide) / 65535.0F);
      }
    }
    unpack_rows(rect.width, 0, 0);
    data = wide_texels.data();
  } else {
    unpack_rows(pixels.width, rect.x, rect.y);
  }
  glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, rect.x, rect.y, layer, rect.width, rect.height, 1, f.format, f.type,
                  data);
  const std::size_t texel = bytes_per_pixel(array.format) * (is_wide ? 2 : 1);
  work.page_bytes += static_cast<std::uint64_t>(rect.width) * static_cast<std::uint64_t>(rect.height) * texel;
}

Result<void> OpenGLRenderer::sync(GlyphSource& source) {
  if (!detail::has_current_context()) {
    return fail(make_error(ErrorKind::unsupported, "a current OpenGL context on this thread", "none"));
  }
  GLint most_side = 0, most_layers = 0;
  glGetIntegerv(GL_MAX_TEXTURE_SIZE, &most_side);
  glGetIntegerv(GL_MAX_ARRAY_TEXTURE_LAYERS, &most_layers);
  PageArray wanted[kQuadKinds];
  for (const PageInfo& page : source.pages()) {
    if (page.width == 0) continue;  // given back
    PageArray& array = wanted[static_cast<std::size_t>(quad_kind(page.kind))];
    array.width = page.width, array.height = page.height, array.format = page.format;
    array.layers = std::max(array.layers, page.array_layer + 1);
    if (page.width > most_side || page.height > most_side || array.layers > most_layers) {
      return fail(make_error(ErrorKind::does_not_fit,
                             "pages that the device can hold; bake with a smaller --page",
                             fmt::format("{}x{}, the device allows {} a side and {} layers", page.width,
                                         page.height, most_side, most_layers)));
    }
  }
  const detail::StateGuard guard;
  HeldSource& held = state_->hold(source);
  held.revisions.resize(source.pages().size());
  glActiveTexture(GL_TEXTURE0);
  for (std::size_t kind = 0; kind < kQuadKinds; ++kind) {
    PageArray& have = held.arrays[kind];
    const PageArray& want = wanted[kind];
    const bool same = have.width == want.width && have.height == want.height && have.layers == want.layers &&
                      have.format == want.format;
    if (same || want.layers == 0) continue;
    const GLuint texture = have.texture;
    have = want;
    have.texture = texture;
    state_->make_array(have);
    for (std::size_t i = 0; i < held.revisions.size(); ++i) {
      if (static_cast<std::size_t>(quad_kind(source.pages()[i].kind)) == kind) held.revisions[i] = 0;
    }
  }
  state_->send_changes(source, held);
  return {};
}

/// The entry of a source, which is then the last; frees those whose source is gone.
HeldSource& OpenGLRenderer::State::hold(const GlyphSource& source) {
  std::erase_if(sources, [](HeldSource& held) {
    const bool gone = held.life.expired();
    if (gone) held.free();
    return gone;
  });
  const auto at = std::find_if(sources.begin(), sources.end(),
                               [&source](const HeldSource& held) { return held.id == source.id(); });
  if (at != sources.end()) {
    std::rotate(at, at + 1, sources.end());
  } else {
    sources.push_back({source.life(), source.id(), {}, {}});
  }
  return sources.back();
}

const HeldSource* OpenGLRenderer::State::find(SourceId id) const {
  if (sources.empty()) return nullptr;
  if (id == SourceId{}) return &sources.back();
  const auto at =
      std::find_if(sources.begin(), sources.end(), [id](const HeldSource& held) { return held.id == id; });
  return at != sources.end() ? &*at : nullptr;
}

void OpenGLRenderer::State::send_changes(const GlyphSource& source, HeldSource& held) {
  PixelRect changes[32];
  for (std::size_t i = 0; i < held.revisions.size(); ++i) {
    const PageInfo& page = source.pages()[i];
    if (page.width == 0) continue;
    const auto number = static_cast<std::uint16_t>(i);
    const std::size_t count = source.changes_since(number, held.revisions[i], changes);
    for (const PixelRect& rect : std::span(changes).first(count)) {
      send(source.pixels(number), held.arrays[static_cast<std::size_t>(quad_kind(page.kind))],
           page.array_layer, rect);
    }
    held.revisions[i] = page.revision;
  }
}

void OpenGLRenderer::State::send_records(const QuadList& list) {
  const int rows = static_cast<int>((list.record_count + kRecordsPerRow - 1) / kRecordsPerRow);
  constexpr int kWidth = kRecordsPerRow * kTexelsPerRecord;
  record_texels.resize(static_cast<std::size_t>(rows * kWidth * 4));
  std::memcpy(record_texels.data(), list.records.data(), list.record_count * sizeof(LayerRecord));
  glActiveTexture(GL_TEXTURE1);
  glBindTexture(GL_TEXTURE_2D, records);
  unpack_rows(0, 0, 0);
  if (rows > record_rows) {
    nearest_and_clamped(GL_TEXTURE_2D);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA32F, kWidth, rows, 0, GL_RGBA, GL_FLOAT, record_texels.data());
    record_rows = rows;
  } else {
    glTexSubImage2D(GL_TEXTURE_2D, 0, 0, 0, kWidth, rows, GL_RGBA, GL_FLOAT, record_texels.data());
  }
  work.stream_bytes += record_texels.size() * 4;
}

void OpenGLRenderer::draw(const QuadList& list, Blending blending) {
  if (list.quad_count == 0 || list.record_count == 0) return;
  State& s = *state_;
  const HeldSource* held = detail::has_current_context() ? s.find(list.source) : nullptr;
  if (held == nullptr) return;
  const detail::StateGuard guard;
  GLint viewport[4] = {};
  glGetIntegerv(GL_VIEWPORT, viewport);
  const Features features = detail::features_of(list, blending);
  s.send_records(list);
  glBindVertexArray(s.vertices);
  glBindBuffer(GL_ARRAY_BUFFER, s.stream);
  const std::size_t bytes = list.quad_count * sizeof(GlyphQuad);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(bytes), list.quads.data(), GL_STREAM_DRAW);
  s.work.stream_bytes += bytes;
  glActiveTexture(GL_TEXTURE0);
  for (const Batch& batch : list.batches.first(list.batch_count)) {
    const PageArray& array = held->arrays[static_cast<std::size_t>(batch.kind)];
    if ((array.texture == 0 && batch.kind != QuadKind::bar) || batch.count == 0) continue;
    glBindTexture(GL_TEXTURE_2D_ARRAY, array.texture);  // 0 for bars, which have no pages
    Program& program = s.programs[features.index(batch.kind)];
    std::string complaint;
    if (program.name == 0) program = detail::make_program(batch.kind, features, complaint);
    glUseProgram(program.name);
    glUniform2f(program.viewport, static_cast<float>(viewport[2]), static_cast<float>(viewport[3]));
    glUniform1i(program.first_record, static_cast<GLint>(batch.first_record));
    point_at(batch.first);
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(batch.count));
    ++s.work.draw_calls;
  }
}

void OpenGLRenderer::abandon() {
  state_->abandoned = true;
  state_->sources.clear();
}

}  // namespace grafema
