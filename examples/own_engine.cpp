// SPDX-License-Identifier: MIT
// A scene drawn by an engine of its own: tables in buffers, what changed sent, one call a batch.
#include <iostream>

#include "grafema/grafema.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "own_device.hpp"
#include "own_shaders.hpp"

using namespace grafema;

/// What changed of a table since the device had `had`.
template <class T>
void send(const SceneMemory& memory, SceneTable table, std::span<const T> items, std::uint64_t had,
          own::Buffer& to) {
  if (!to.has_room(items.size_bytes())) had = 0;
  IndexRange ranges[16];
  for (const IndexRange& r : std::span(ranges).first(memory.changes_since(table, had, ranges))) {
    to.send(items.data(), r.first * sizeof(T), r.end * sizeof(T));
  }
}

int main(int argc, char** argv) {
  TextContext context(FontStack{built_in_face()}, nullptr);
  TextScene labels(context);
  Label name = labels.add("Tomek Oyelaran"), line = labels.add("4 Lantern");
  name.set_size(48);
  line.set_size(36);
  auto offscreen = OpenGLOffscreen::make(640, 160);
  if (!offscreen) return std::cerr << describe(offscreen.error()) << '\n', 1;
  const GLuint program = own::make_program(own::kVertex, own::kFragment);
  own::Buffer glyphs(GL_RGBA32UI), rows(GL_RGBA32UI), layers(GL_RGBA32F), order(GL_R32UI);
  std::uint64_t had = 0;
  for (int frame = 0; frame < 30; ++frame) {
    const auto t = static_cast<float>(frame);
    name.move_to({30 + t * 3, 20});
    line.set_placement({.at = {320, 115}, .anchor = {0.5F, 0.5F}, .rotate = t / 4});
    if (!labels.update({.width = 640, .height = 160}, frame / 60.0)) return 1;
    const SceneMemory& memory = labels.memory();
    send(memory, SceneTable::glyphs, memory.glyphs(), had, glyphs),
        send(memory, SceneTable::rows, memory.rows(), had, rows);
    send(memory, SceneTable::layers, memory.layers(), had, layers),
        send(memory, SceneTable::order, memory.order(), had, order);
    had = memory.revision();
    if (frame == 0) own::show_page(memory.arrays()[0].source->pixels(0));  // all of these glyphs are on one
    glyphs.show(program, "glyphs", 1), rows.show(program, "rows", 2), layers.show(program, "layers", 3);
    glClearColor(0.9F, 0.84F, 0.7F, 1), glClear(GL_COLOR_BUFFER_BIT);
    for (const SceneBatch& batch : memory.batches()) own::draw_numbers(order, batch.first, batch.count);
  }
  return save_png(argc > 1 ? argv[argc - 1] : "own_engine.png", offscreen->read()) &&
                 offscreen->complaints().empty()
             ? 0
             : 1;
}
