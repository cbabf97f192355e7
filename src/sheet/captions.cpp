// SPDX-License-Identifier: MIT
// Lays captions out and paints them.
#include "grafema/sheet/captions.hpp"

#include <algorithm>
#include <cmath>

#include "grafema/draw/paint.hpp"

namespace grafema {
namespace {

constexpr float kCaptionSize = 12;  // Quillmere Dot stands on whole pixels at multiples of this

const FontStack& caption_stack() {
  static const FontStack stack{built_in_face()};
  return stack;
}

Paragraph lay_out_caption(std::string_view text, int scale) {
  ShapeCache cache;
  Paragraph paragraph;
  // The style is in range, so this can't fail.
  (void)lay_out(caption_stack(), text, {.size = kCaptionSize * static_cast<float>(std::clamp(scale, 1, 16))},
                cache, paragraph);
  return paragraph;
}

}  // namespace

float draw_caption(Image& target, std::string_view text, PixelPoint at, const Color& color, int scale) {
  const Paragraph paragraph = lay_out_caption(text, scale);
  const PixelPoint whole{std::floor(at.x + 0.5F), std::floor(at.y + 0.5F)};
  (void)paint(target, caption_stack(), paragraph, plain_look(color), whole);
  return paragraph.advance_box.width();
}

float caption_width(std::string_view text, int scale) {
  return lay_out_caption(text, scale).advance_box.width();
}

}  // namespace grafema
