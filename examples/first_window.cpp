// SPDX-License-Identifier: MIT
// A label that moves, outlined, its glyphs made as they are needed: the first program, in fifteen lines.
#include <cmath>
#include <grafema/grafema.hpp>
#include <grafema/window/text_window.hpp>
int main(int argc, char** argv) {
  grafema::TextWindow window("First window", argc, argv);  // --frames N --shot PNG: a picture instead
  grafema::TextContext context(grafema::FontStack{grafema::built_in_face()},
                               nullptr);  // or face_or_built_in("my.ttf")
  grafema::TextScene labels(context);
  grafema::Label sign = labels.add("Last tram to Quillmere");
  const grafema::Look outlined = grafema::outlined_look({1, 0.7F, 0.2F, 1}, {0.3F, 0.15F, 0.5F, 1}, 4);
  sign.set_size(72);  // six times 12: the pixel face stays crisp
  sign.set_look(*context.looks().set("sign", outlined));
  while (window.next() && window.draw(labels))
    sign.move_to({160 + 120 * std::sin(static_cast<float>(window.seconds())), 350});
  return window.result() ? 0 : 1;
}
