// SPDX-License-Identifier: MIT
// Rulers and boxes over a drawn label.
#include <cmath>
#include <string>

#include "grafema/sheet.hpp"

namespace grafema {
namespace {

constexpr Color kRuler{0.55F, 0.55F, 0.58F, 0.9F}, kBand{0.13F, 0.14F, 0.17F, 0.85F};
constexpr Color kBaseline{0.90F, 0.22F, 0.27F, 0.9F}, kAdvance{0.23F, 0.51F, 0.96F, 0.9F};
constexpr Color kInk{0.13F, 0.72F, 0.40F, 0.9F}, kAnchor{1.0F, 0.72F, 0.01F, 1};
constexpr float kBandWidth = 16;

/// A frame of one pixel on the outside of a box.
void frame(Image& target, const Rect& box, const Color& color) {
  if (box.empty()) return;
  const Rect outer = box.grown(1);
  paint_rect(target, {outer.left, outer.top, outer.right, box.top}, color);
  paint_rect(target, {outer.left, box.bottom, outer.right, outer.bottom}, color);
  paint_rect(target, {outer.left, box.top, box.left, box.bottom}, color);
  paint_rect(target, {box.right, box.top, outer.right, box.bottom}, color);
}

/// Ticks every 10 pixels, longer every 50, a number every 100.
void draw_rulers(Image& target) {
  const auto width = static_cast<float>(target.width()), height = static_cast<float>(target.height());
  paint_rect(target, {0, 0, width, kBandWidth}, kBand);
  paint_rect(target, {0, kBandWidth, kBandWidth, height}, kBand);
  for (int at = 10; at < std::max(target.width(), target.height()); at += 10) {
    const float length = at % 100 == 0 ? kBandWidth : at % 50 == 0 ? 8.0F : 4.0F;
    const auto p = static_cast<float>(at);
    paint_rect(target, {p, 0, p + 1, length}, kRuler);
    paint_rect(target, {0, p, length, p + 1}, kRuler);
    if (at % 100 != 0) continue;
    draw_caption(target, std::to_string(at), {p + 3, 2}, {1, 1, 1, 1});
    draw_caption(target, std::to_string(at), {1, p + 1}, {1, 1, 1, 1});
  }
}

}  // namespace

void draw_guides(Image& target, const FontStack& stack, const Paragraph& paragraph, PixelPoint origin, PixelPoint anchor) {
  frame(target, paragraph.advance_box.moved(origin), kAdvance);
  const Rect ink = ink_box(stack, paragraph);
  if (!ink.empty()) frame(target, ink.moved(origin), kInk);
  for (const Line& line : paragraph.lines) {
    const float y = origin.y + line.baseline, x = origin.x + line.left;
    paint_rect(target, {x - 4, y, x + line.width + 4, y + 1}, kBaseline);
  }
  draw_rulers(target);
  paint_rect(target, {anchor.x - 8, anchor.y - 1, anchor.x + 8, anchor.y + 1}, kAnchor);
  paint_rect(target, {anchor.x - 1, anchor.y - 8, anchor.x + 1, anchor.y + 8}, kAnchor);
}

}  // namespace grafema
