// SPDX-License-Identifier: MIT
// Rulers and boxes over a drawn label.
#include <algorithm>
#include <cmath>
#include <string>

#include "grafema/draw/paint.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/sheet/guides.hpp"
#include "text/placing/glyph_room.hpp"

namespace grafema {
namespace {

constexpr Color kRuler{0.55F, 0.55F, 0.58F, 0.9F}, kBand{0.13F, 0.14F, 0.17F, 0.85F};
constexpr Color kBaseline{0.90F, 0.22F, 0.27F, 0.9F}, kAdvance{0.23F, 0.51F, 0.96F, 0.9F};
constexpr Color kBox{0.45F, 0.66F, 0.95F, 0.55F}, kCaret{0.66F, 0.33F, 0.80F, 0.95F};
constexpr Color kClusters[] = {{0.93F, 0.55F, 0.15F, 0.9F}, {0.55F, 0.27F, 0.05F, 0.9F}};
constexpr Color kInk{0.13F, 0.72F, 0.40F, 0.9F}, kAnchor{1.0F, 0.72F, 0.01F, 1};
constexpr float kBandWidth = 16;

/// A line of one pixel between two points of the target.
void stroke(Image& target, PixelPoint a, PixelPoint b, const Color& color) {
  const float length = std::sqrt((b.x - a.x) * (b.x - a.x) + (b.y - a.y) * (b.y - a.y));
  if (!(length > 0) || !(length < 1e6F)) return;
  const float nx = (a.y - b.y) / length / 2, ny = (b.x - a.x) / length / 2;
  Contours line;
  line.move_to({a.x + nx, a.y + ny});
  line.line_to({b.x + nx, b.y + ny});
  line.line_to({b.x - nx, b.y - ny});
  line.line_to({a.x - nx, a.y - ny});
  line.close();
  const FontRect box = bounds(line);
  const auto bound = [](float v, int limit) { return std::clamp(v, 0.0F, static_cast<float>(limit)); };
  const PixelRect cell = rounded_out({bound(box.x_min, target.width()), bound(box.y_min, target.height()),
                                      bound(box.x_max, target.width()), bound(box.y_max, target.height())});
  if (cell.empty()) return;
  std::vector<float> area(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
  RasterScratch scratch;
  if (rasterize_coverage(line, {}, cell, area, scratch)) blend(target, cell, area, Fill::solid(color), {});
}

/// A frame of one pixel on the outside of an upright box.
void frame(Image& target, const Rect& box, const Color& color) {
  const Rect r = box.grown(0.5F);
  const PixelPoint corners[] = {{r.left, r.top}, {r.right, r.top}, {r.right, r.bottom}, {r.left, r.bottom}};
  for (std::size_t i = 0; i < 4; ++i) stroke(target, corners[i], corners[(i + 1) % 4], color);
}

/// The guides of one placed label.
class LabelGuides {
 public:
  LabelGuides(Image& target, const LabelMap& map, const View& view)
      : target_(target), map_(map), view_(view) {}

  void line(PixelPoint a, PixelPoint b, const Color& color) {
    const auto from = to_device(map_, a, view_), to = to_device(map_, b, view_);
    if (from && to) stroke(target_, *from, *to, color);
  }

  /// Half a device pixel outside of the box, so that an upright frame covers whole pixels.
  void box(const Rect& box, const Color& color) {
    if (box.empty()) return;
    const auto a = to_device(map_, {0, 0}, view_), b = to_device(map_, {1, 0}, view_);
    const float pixel = a && b ? std::sqrt((b->x - a->x) * (b->x - a->x) + (b->y - a->y) * (b->y - a->y)) : 0;
    const Rect r = box.grown(pixel > 0 ? 0.5F / pixel : 0);
    const PixelPoint corners[] = {{r.left, r.top}, {r.right, r.top}, {r.right, r.bottom}, {r.left, r.bottom}};
    for (std::size_t i = 0; i < 4; ++i) line(corners[i], corners[(i + 1) % 4], color);
  }

 private:
  Image& target_;
  const LabelMap& map_;
  const View& view_;
};

/// Bars below a line, one a cluster, by turns light and dark.
void draw_clusters(LabelGuides& guides, const Paragraph& paragraph) {
  constexpr float kBelow = 2, kInset = 0.5F;
  for (const Line& line : paragraph.lines) {
    std::size_t number = 0;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph;) {
      const PlacedGlyph& first = paragraph.glyphs[g];
      Rect room = detail::glyph_room(paragraph, line, first);
      for (; g < line.end_glyph && paragraph.glyphs[g].text_start == first.text_start; ++g) {
        const Rect own = detail::glyph_room(paragraph, line, paragraph.glyphs[g]);
        room.right = std::max(room.right, own.right), room.bottom = std::max(room.bottom, own.bottom);
      }
      if (room.empty()) continue;
      // Below the line; beside a vertical one, where its letters have their feet.
      const bool down = paragraph.writing != WritingMode::horizontal;
      for (const float row : {0.0F, 1.0F}) {
        const float y = room.bottom + kBelow + row, x = room.left - kBelow - row;
        const PixelPoint from = down ? PixelPoint{x, room.top + kInset} : PixelPoint{room.left + kInset, y},
                         to = down ? PixelPoint{x, room.bottom - kInset} : PixelPoint{room.right - kInset, y};
        guides.line(from, to, kClusters[number % 2]);
      }
      ++number;
    }
  }
}

/// Ticks at the top and the bottom of the line; the one at the top leans to where the text goes on.
void draw_carets(LabelGuides& guides, const Paragraph& paragraph, std::string_view text) {
  constexpr float kTick = 5;
  std::vector<CaretStop> stops;
  caret_stops(paragraph, text, stops);
  for (const CaretStop& stop : stops) {
    const Line& line = paragraph.lines[stop.line];
    const float lean = stop.right_to_left ? -kTick : kTick, bottom = line.top + line.height;
    if (paragraph.writing != WritingMode::horizontal) {
      const float right = line.left + line.width;
      guides.line({right, stop.x}, {right + kTick, stop.x + lean}, kCaret);
      guides.line({line.left, stop.x}, {line.left + kTick, stop.x}, kCaret);
      continue;
    }
    guides.line({stop.x, line.top}, {stop.x + lean, line.top - kTick}, kCaret);
    guides.line({stop.x, bottom}, {stop.x, bottom - kTick}, kCaret);
  }
}

void draw_tab_stops(LabelGuides& guides, const Paragraph& paragraph) {
  constexpr float kDash = 4;
  const float bottom = paragraph.advance_box.bottom + kDash;
  for (const float x : paragraph.tab_stops) {
    for (float y = paragraph.advance_box.top - kDash; y < bottom; y += 2 * kDash) {
      guides.line({x, y}, {x, std::min(y + kDash, bottom)}, kRuler);
    }
  }
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

void draw_guides(Image& target, const FontStack& stack, std::string_view text, const Paragraph& paragraph,
                 const Placement& placement, const View& view) {
  const Insets& safe = view.safe;
  if (!(safe == Insets{})) {
    frame(target, {safe.left, safe.top, view.width - safe.right, view.height - safe.bottom}, kRuler);
  }
  const Result<LabelMap> map = map_label(paragraph.box, placement, view);
  if (map) {
    LabelGuides guides(target, *map, view);
    if (!(paragraph.box == paragraph.advance_box)) guides.box(paragraph.box, kBox);
    for (const Line& line : paragraph.lines) guides.box(line_box(line), kBox);
    draw_tab_stops(guides, paragraph);
    draw_clusters(guides, paragraph);
    draw_carets(guides, paragraph, text);
    guides.box(paragraph.advance_box, kAdvance);
    guides.box(ink_box(stack, paragraph), kInk);
    for (const Line& line : paragraph.lines) {
      if (paragraph.writing != WritingMode::horizontal) {
        const float x = line.baseline + 0.5F;
        guides.line({x, line.top - 4}, {x, line.top + line.height + 4}, kBaseline);
        continue;
      }
      guides.line({line.left - 4, line.baseline + 0.5F}, {line.left + line.width + 4, line.baseline + 0.5F},
                  kBaseline);
    }
  }
  draw_rulers(target);
  const Rect& box = paragraph.box;
  const PixelPoint own{box.left + placement.anchor.x * box.width(),
                       box.top + placement.anchor.y * box.height()};
  const std::optional<PixelPoint> anchor = map ? to_device(*map, own, view) : std::nullopt;
  if (!anchor) return;
  paint_rect(target, {anchor->x - 8, anchor->y - 1, anchor->x + 8, anchor->y + 1}, kAnchor);
  paint_rect(target, {anchor->x - 1, anchor->y - 8, anchor->x + 1, anchor->y + 8}, kAnchor);
}

}  // namespace grafema
