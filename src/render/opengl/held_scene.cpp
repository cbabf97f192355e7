// SPDX-License-Identifier: MIT
// Sends ranges of tables as rectangles of textures.
#include "render/opengl/held_scene.hpp"

#include <algorithm>
#include <cstring>

#include "render/opengl/held_pages.hpp"
#include "render/opengl/programs.hpp"

namespace grafema::detail {
namespace {

constexpr int kLine = 1024, kLines = 1024;  // texels; every device has room for as much
constexpr std::size_t kTexel = 16;          // bytes of four numbers
constexpr std::size_t kMaxRanges = 32;

/// How a table lies in memory.
struct TableView {
  const void* data = nullptr;
  std::size_t items = 0;
  int texels = 0;         ///< of an item
  bool is_whole = false;  ///< whole numbers, as they are
};

template <class T>
TableView view_of(std::span<const T> items, bool is_whole) {
  return {items.data(), items.size(), static_cast<int>(sizeof(T) / kTexel), is_whole};
}

TableView view_of(const SceneMemory& scene, SceneTable table) {
  switch (table) {
    case SceneTable::glyphs:
      return view_of(scene.glyphs(), true);
    case SceneTable::rows:
      return view_of(scene.rows(), true);
    case SceneTable::heads:
      return view_of(scene.heads(), false);
    case SceneTable::clips:
      return view_of(scene.clips(), false);
    case SceneTable::motions:
      return view_of(scene.motions(), false);
    case SceneTable::boxes:
      return view_of(scene.boxes(), false);
    default:
      return {};
  }
}

int unit_of(SceneTable table) {
  switch (table) {
    case SceneTable::glyphs:
      return kGlyphUnit;
    case SceneTable::rows:
      return kRowUnit;
    case SceneTable::heads:
      return kHeadUnit;
    case SceneTable::clips:
      return kClipUnit;
    case SceneTable::motions:
      return kMotionUnit;
    case SceneTable::boxes:
      return kBoxUnit;
    default:
      return kRecordUnit;
  }
}

tl::unexpected<Error> too_large(const char* what) {
  return fail(make_error(ErrorKind::does_not_fit, "a set that the device can hold", what));
}

bool is_out_of_memory() {
  bool out = false;
  while (const GLenum error = glGetError()) out = out || error == GL_OUT_OF_MEMORY;
  return out;
}

/// Texels `first` to before `end` as one rectangle, or up to two a layer.
void send_texels(const TableView& view, std::size_t first, std::size_t end) {
  const auto* bytes = static_cast<const char*>(view.data);
  const GLenum format = view.is_whole ? GL_RGBA_INTEGER : GL_RGBA,
               type = view.is_whole ? GL_UNSIGNED_INT : GL_FLOAT;
  while (first < end) {
    const auto x = static_cast<int>(first % kLine), line = static_cast<int>(first / kLine);
    const int y = line % kLines;
    const std::size_t left = end - first;
    int width = 0, height = 1;
    if (x == 0 && left >= kLine) {
      width = kLine;
      height = static_cast<int>(std::min<std::size_t>(left / kLine, static_cast<std::size_t>(kLines - y)));
    } else {
      width = static_cast<int>(std::min<std::size_t>(left, static_cast<std::size_t>(kLine - x)));
    }
    glTexSubImage3D(GL_TEXTURE_2D_ARRAY, 0, x, y, line / kLines, width, height, 1, format, type,
                    bytes + first * kTexel);
    first += static_cast<std::size_t>(width) * static_cast<std::size_t>(height);
  }
}

}  // namespace

Result<void> HeldScene::send(const SceneMemory& scene, std::uint64_t& bytes_sent) {
  if (revision_ == scene.revision()) return {};
  unpack_rows(0, 0, 0);
  for (const SceneTable table : {SceneTable::glyphs, SceneTable::rows, SceneTable::heads, SceneTable::clips,
                                 SceneTable::motions, SceneTable::boxes}) {
    if (const Result<void> sent = send_table(scene, table, bytes_sent); !sent) return sent;
  }
  send_layers(scene, bytes_sent);
  if (const Result<void> sent = send_order(scene, bytes_sent); !sent) return sent;
  revision_ = scene.revision();
  return {};
}

Result<void> HeldScene::send_table(const SceneMemory& scene, SceneTable table, std::uint64_t& bytes_sent) {
  const TableView view = view_of(scene, table);
  DeviceTable& held = tables_[static_cast<std::size_t>(table)];
  const std::size_t texels = view.items * static_cast<std::size_t>(view.texels);
  const auto lines = static_cast<int>((texels + kLine - 1) / kLine);
  std::uint64_t since = revision_;
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit_of(table)));
  if (held.texture == 0 || lines > held.lines * held.layers) {
    GLint most = 0;
    glGetIntegerv(GL_MAX_ARRAY_TEXTURE_LAYERS, &most);
    held.layers = std::max(1, (lines + kLines - 1) / kLines);
    held.lines = held.layers > 1 ? kLines : std::clamp(lines + lines / 4, 1, kLines);
    if (held.layers > most) return too_large("more glyphs or labels than its textures have layers for");
    if (held.texture == 0) glGenTextures(1, &held.texture);
    glBindTexture(GL_TEXTURE_2D_ARRAY, held.texture);
    set_nearest_and_clamped(GL_TEXTURE_2D_ARRAY);
    (void)is_out_of_memory();
    glTexImage3D(GL_TEXTURE_2D_ARRAY, 0, view.is_whole ? GL_RGBA32UI : GL_RGBA32F, kLine, held.lines,
                 held.layers, 0, view.is_whole ? GL_RGBA_INTEGER : GL_RGBA,
                 view.is_whole ? GL_UNSIGNED_INT : GL_FLOAT, nullptr);
    if (is_out_of_memory()) {
      held.lines = held.layers = 0;
      revision_ = 0;
      return too_large("out of memory");
    }
    since = 0;
  }
  glBindTexture(GL_TEXTURE_2D_ARRAY, held.texture);
  IndexRange ranges[kMaxRanges];
  const std::size_t count = scene.changes_since(table, since, ranges);
  for (const IndexRange& range : std::span(ranges).first(count)) {
    const auto each = static_cast<std::size_t>(view.texels);
    send_texels(view, range.first * each, range.end * each);
    bytes_sent += (range.end - range.first) * each * kTexel;
  }
  return {};
}

/// Layers lie as those of quad lists do, 32 a row.
void HeldScene::send_layers(const SceneMemory& scene, std::uint64_t& bytes_sent) {
  constexpr std::size_t kEach = sizeof(LayerRecord) / sizeof(float), kPerRow = 32;
  DeviceTable& held = tables_[static_cast<std::size_t>(SceneTable::layers)];
  const auto rows = static_cast<int>((scene.layers().size() + kPerRow - 1) / kPerRow);
  IndexRange range[1];
  const bool is_new = held.texture == 0 || rows > held.lines;
  if (scene.changes_since(SceneTable::layers, is_new ? 0 : revision_, range) == 0 && !is_new) return;
  constexpr auto kWidth = static_cast<int>(kPerRow * kEach / 4);
  padded_.resize(static_cast<std::size_t>(rows) * kPerRow * kEach);
  if (!scene.layers().empty())
    std::memcpy(padded_.data(), scene.layers().data(), scene.layers().size_bytes());
  glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(kRecordUnit));
  if (held.texture == 0) glGenTextures(1, &held.texture);
  glBindTexture(GL_TEXTURE_2D, held.texture);
  if (is_new) {
    set_nearest_and_clamped(GL_TEXTURE_2D);
    held.lines = std::max(rows, 1), held.layers = 1;
    padded_.resize(static_cast<std::size_t>(held.lines) * kPerRow * kEach);
    glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA32F, kWidth, held.lines, 0, GL_RGBA, GL_FLOAT, padded_.data());
    bytes_sent += padded_.size() * sizeof(float);
    return;
  }
  const auto first = static_cast<int>(range[0].first / kPerRow),
             end = std::min(rows, static_cast<int>((range[0].end + kPerRow - 1) / kPerRow));
  glTexSubImage2D(GL_TEXTURE_2D, 0, 0, first, kWidth, end - first, GL_RGBA, GL_FLOAT,
                  padded_.data() + static_cast<std::size_t>(first) * kPerRow * kEach);
  bytes_sent += static_cast<std::uint64_t>(end - first) * kPerRow * sizeof(LayerRecord);
}

Result<void> HeldScene::send_order(const SceneMemory& scene, std::uint64_t& bytes_sent) {
  if (order_ == 0) glGenBuffers(1, &order_);
  glBindBuffer(GL_ARRAY_BUFFER, order_);
  std::uint64_t since = revision_;
  if (scene.order().size() > order_room_) {
    order_room_ = scene.order().size() + scene.order().size() / 4;
    (void)is_out_of_memory();
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(order_room_ * 4), nullptr, GL_DYNAMIC_DRAW);
    if (is_out_of_memory()) {
      order_room_ = 0, revision_ = 0;
      return too_large("out of memory");
    }
    since = 0;
  }
  IndexRange ranges[kMaxRanges];
  const std::size_t count = scene.changes_since(SceneTable::order, since, ranges);
  for (const IndexRange& range : std::span(ranges).first(count)) {
    const std::size_t bytes = std::size_t{range.end - range.first} * 4;
    glBufferSubData(GL_ARRAY_BUFFER, GLintptr{range.first} * 4, static_cast<GLsizeiptr>(bytes),
                    scene.order().data() + range.first);
    bytes_sent += bytes;
  }
  return {};
}

void HeldScene::bind() const {
  for (std::size_t t = 0; t < kSceneTables; ++t) {
    const auto table = static_cast<SceneTable>(t);
    if (table == SceneTable::order) continue;
    glActiveTexture(GL_TEXTURE0 + static_cast<GLenum>(unit_of(table)));
    glBindTexture(table == SceneTable::layers ? GL_TEXTURE_2D : GL_TEXTURE_2D_ARRAY, tables_[t].texture);
  }
}

void HeldScene::free() {
  for (const DeviceTable& table : tables_) glDeleteTextures(1, &table.texture);
  glDeleteBuffers(1, &order_);
}

}  // namespace grafema::detail
