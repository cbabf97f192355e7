// SPDX-License-Identifier: MIT
// A label drawn into memory, without a window or a device: the first test, in a dozen lines.
#include <grafema/grafema.hpp>
int main(int argc, char** argv) {
  grafema::TextContext context(grafema::FontStack{grafema::built_in_face()}, nullptr);
  grafema::TextScene labels(context);
  grafema::Label sign = labels.add("Last tram to Quillmere");
  sign.set_size(24);
  sign.move_to({20, 18});
  const grafema::View view{.width = 320, .height = 60};
  grafema::Image frame = *grafema::Image::make(320, 60, grafema::PixelFormat::rgba8);
  if (!labels.update(view, 0)) return 1;
  fill_image(frame, {0.96F, 0.93F, 0.86F, 1});  // labels are black until they have a look
  if (!draw_in_software(labels.memory(), grafema::Blending::linear, frame)) return 1;
  return grafema::save_png(argc > 1 ? argv[argc - 1] : "first_frame.png", frame) ? 0 : 1;
}
