// SPDX-License-Identifier: MIT
// Opens a face, measures, centers, draws and saves: the first board of a game, from font file to PNG.
#include <cstdio>
#include <iostream>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/files/files.hpp"

int main(int argc, char** argv) {
  using namespace grafema;

  // A face of your own: face_or_built_in("my.ttf", &notes). The built-in one is always there.
  const FontStack stack{built_in_face()};

  Image board = *Image::make(640, 160, PixelFormat::rgba8);
  fill_image(board, {0.04F, 0.04F, 0.03F, 1});

  ShapeCache cache;
  Paragraph words;
  Notes notes;
  const TextStyle style{.size = 48,
                        .align = TextAlign::center};  // 48 is four times 12: the pixel face stays crisp
  if (!lay_out(stack, "4 Lantern\nFoxglove Cross", style, cache, words, &notes)) return 1;
  std::printf("%.0f x %.0f pixels\n", static_cast<double>(words.advance_box.width()),
              static_cast<double>(words.advance_box.height()));

  Look look;  // back to front: a soft shadow, then amber letters
  look.add({.shift = {0, 4}, .grow = 2, .blur = 6, .fill = Fill::solid({1, 0.4F, 0, 0.5F})});
  look.add({.fill = Fill::solid({1, 0.69F, 0, 1})});

  const Placement middle{.at = {320, 80}, .anchor = {0.5F, 0.5F}};
  if (!paint(board, stack, words, look, label_origin(words.advance_box, middle), &notes)) return 1;
  for (const Note& note : notes.all()) std::fprintf(stderr, "note: %s\n", describe(note).c_str());

  const auto saved = save_png(argc > 1 ? argv[argc - 1] : "first_board.png", board);
  if (!saved) std::cerr << describe(saved.error()) << '\n';
  return saved ? 0 : 1;
}
