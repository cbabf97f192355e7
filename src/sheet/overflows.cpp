// SPDX-License-Identifier: MIT
// Draws texts over the boxes that are too small for them, two in a row.
#include "grafema/sheet/overflows.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "grafema/draw/paint.hpp"
#include "grafema/sheet/captions.hpp"

namespace grafema {
namespace {

constexpr Color kNight{0.055F, 0.075F, 0.16F, 1}, kBoxColor{0.13F, 0.17F, 0.32F, 1},
    kCaption{0.85F, 0.8F, 0.68F, 1}, kOut{1, 0.35F, 0.3F, 0.35F}, kText{0.97F, 0.95F, 0.88F, 1},
    kEdge{0.95F, 0.7F, 0.25F, 1};
constexpr float kMargin = 24, kCaptionRoom = 22, kLongest = 2000;

/// A fault laid out, and the room that it takes.
struct Cell {
  const MessageFault* fault = nullptr;
  FontStack fonts;
  Paragraph paragraph;
  Rect box, room;
  Look look;
  LookOf look_of;
};

Cell lay_out_fault(const MessageFault& fault, const MessageCheck& check, const LookBook& looks,
                   ShapeCache& cache) {
  Cell cell;
  cell.fault = &fault;
  const NamedStyle* named = check.styles != nullptr ? check.styles->find(fault.style) : nullptr;
  TextStyle style = named != nullptr ? named->text : TextStyle{};
  style.language = fault.language;
  style.max_lines = 0;
  if (style.overflow == Overflow::clip || style.overflow == Overflow::ellipsis)
    style.overflow = Overflow::show;
  cell.fonts = named != nullptr ? restyle(check.fonts, named->span.font, check.families) : check.fonts;
  (void)lay_out(cell.fonts, fault.shown, style, cache, cell.paragraph, nullptr, check.families);
  const auto look = named != nullptr ? looks.read(named->span.look) : Result<LookId>(fail({}));
  cell.look = look ? looks.get(*look) : plain_look(kText);
  cell.box = {0, 0, style.wrap.value_or(cell.paragraph.advance_box.width()),
              style.box_height.value_or(cell.paragraph.advance_box.height())};
  cell.room = enclosing(cell.box, cell.paragraph.advance_box);
  cell.room.right = std::min(cell.room.right, kLongest),
  cell.room.bottom = std::min(cell.room.bottom, kLongest);
  std::vector<const Look*> own;
  for (const PlacedStyle& placed : cell.paragraph.styles) {
    const auto found = placed.look == PlacedStyle::kNone
                           ? Result<LookId>(fail({}))
                           : looks.read(fault.shown.spans[placed.look].style.look);
    own.push_back(found ? &looks.get(*found) : nullptr);
  }
  cell.look_of = [own = std::move(own)](std::size_t index) { return own[index]; };
  return cell;
}

void draw_cell(Image& image, const Cell& cell, PixelPoint at) {
  const MessageFault& f = *cell.fault;
  draw_caption(image, fmt::format("{}  {}  {}", f.language, f.id, f.text), at, kCaption);
  const PixelPoint origin{at.x - cell.room.left, at.y + kCaptionRoom - cell.room.top};
  const Rect box = cell.box.moved(origin), room = cell.room.moved(origin);
  paint_rect(image, box, kBoxColor);
  paint_rect(image, {std::min(room.right, box.right), room.top, room.right, room.bottom}, kOut);
  paint_rect(image, {room.left, room.top, std::max(room.left, box.left), room.bottom}, kOut);
  paint_rect(image, {box.left, std::min(room.bottom, box.bottom), box.right, room.bottom}, kOut);
  paint_rect(image, {box.left, room.top, box.right, std::max(room.top, box.top)}, kOut);
  for (const Rect& edge : {Rect{box.left, box.top, box.right, box.top + 1},
                           Rect{box.left, box.bottom - 1, box.right, box.bottom},
                           Rect{box.left, box.top, box.left + 1, box.bottom},
                           Rect{box.right - 1, box.top, box.right, box.bottom}}) {
    paint_rect(image, edge, kEdge);
  }
  (void)paint(image, cell.fonts, cell.paragraph, cell.look, origin, nullptr, {}, cell.look_of);
}

}  // namespace

Result<Image> draw_overflows(std::span<const MessageFault> faults, const MessageCheck& check,
                             const LookBook& looks, std::size_t most) {
  std::vector<const MessageFault*> worst;
  for (const MessageFault& fault : faults) {
    if (fault.kind == MessageFaultKind::overflow) worst.push_back(&fault);
  }
  std::stable_sort(worst.begin(), worst.end(), [](const MessageFault* a, const MessageFault* b) {
    return a->over_x + a->over_y > b->over_x + b->over_y;
  });
  worst.resize(std::min(worst.size(), most));
  ShapeCache cache;
  std::vector<Cell> cells;
  float widest = 560;
  for (const MessageFault* fault : worst) {
    cells.push_back(lay_out_fault(*fault, check, looks, cache));
    const float caption = caption_width(fmt::format("{}  {}  {}", fault->language, fault->id, fault->text));
    widest = std::max({widest, cells.back().room.width(), caption});
  }
  std::vector<float> tops = {kMargin};
  for (std::size_t i = 0; i < cells.size(); i += 2) {
    const float second = i + 1 < cells.size() ? cells[i + 1].room.height() : 0;
    tops.push_back(tops.back() + kCaptionRoom + std::max(cells[i].room.height(), second) + kMargin);
  }
  if (cells.empty()) tops.push_back(kMargin * 3);
  Result<Image> image = Image::make(static_cast<int>(2 * widest + 3 * kMargin), static_cast<int>(tops.back()),
                                    PixelFormat::rgba8);
  if (!image) return image;
  fill_image(*image, kNight);
  if (cells.empty()) draw_caption(*image, "Every message fits its box.", {kMargin, kMargin}, kCaption);
  for (std::size_t i = 0; i < cells.size(); ++i) {
    draw_cell(*image, cells[i], {kMargin + (i % 2 == 0 ? 0 : widest + kMargin), tops[i / 2]});
  }
  return image;
}

}  // namespace grafema
