// SPDX-License-Identifier: MIT
// Places glyphs of scenes: motion, then the label's row, then the clip.
#include "render/software/scene_quads.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "draw/content/fill_boxes.hpp"
#include "draw/glyph_move.hpp"
#include "draw/layer_record.hpp"
#include "raster/fill_math.hpp"

namespace grafema::detail {
namespace {

MotionTerm to_term(const MotionRecord& r) {
  const auto what = static_cast<unsigned>(r.kind);
  MotionTerm term;
  term.kind = static_cast<MotionKind>(what & 15U);
  term.easing = static_cast<MotionEasing>(what >> 4U & 15U);
  term.pivot = static_cast<MotionPivot>(what >> 8U & 3U);
  term.whole = (what & 1024U) != 0, term.waits = (what & 2048U) != 0;
  term.amplitude = r.amplitude, term.period = r.period, term.phase = r.phase;
  term.lead = r.lead, term.start = r.start, term.stop = r.stop;
  term.seed = static_cast<std::uint32_t>(r.seed);
  term.color = {r.color[0], r.color[1], r.color[2], r.color[3]};
  return term;
}

/// The corner of the cell, and its sides, in pixels of the label.
struct Cell {
  float x, y, width, height, left;  ///< `left`: how far its left side goes on its way down
};

GlyphMove move_of(const SceneMemory& scene, const GlyphRecord& glyph, const LabelRow& row, const Cell& cell,
                  float pixel) {
  GlyphMove move;
  if (glyph.motion == 0 || glyph.motion >= scene.motions().size()) return move;
  const MotionRecord& first = scene.motions()[glyph.motion];
  if (first.kind < 0) {  // placed by a function
    move.xx = first.amplitude, move.xy = first.period, move.dx = first.phase;
    move.yx = first.lead, move.yy = first.start, move.dy = first.stop;
    move.tint = first.color;
    return move;
  }
  const LabelHead& head = scene.heads()[row.head];
  GlyphAtRest rest;
  rest.index = glyph.index, rest.size = head.size;
  rest.label = {head.width / 2, head.height / 2};
  rest.middle = {cell.x + (cell.width + cell.left) / 2, cell.y + cell.height / 2};
  rest.baseline = {cell.x + static_cast<float>(glyph.baseline[0]) / 8 * pixel,
                   cell.y + static_cast<float>(glyph.baseline[1]) / 8 * pixel};
  const auto terms =
      std::min(static_cast<std::size_t>(first.kind), scene.motions().size() - 1 - glyph.motion);
  for (std::size_t t = 0; t < terms; ++t) {
    const MotionTerm term = to_term(scene.motions()[glyph.motion + 1 + t]);
    apply(std::span(&term, 1), rest, scene.clock() - row.begun, move);
  }
  return move;
}

std::array<float, 4> sum(const LabelRow& row, float across, float down, bool with_origin) {
  std::array<float, 4> out = {};
  for (std::size_t k = 0; k < 4; ++k) {
    out[k] = row.across[k] * across + row.down[k] * down + (with_origin ? row.origin[k] : 0.0F);
  }
  return out;
}

QuadCut cut_of(const ClipRecord& clip, const SceneQuad& made, const std::array<PixelPoint, 3>& own) {
  QuadCut cut;
  const std::array<const std::array<float, 4>*, 3> columns = {&made.quad.origin, &made.quad.across,
                                                              &made.quad.down};
  std::array<std::array<double, 3>*, 3> out = {&cut.origin, &cut.across, &cut.down};
  for (std::size_t c = 0; c < 3; ++c) {
    const bool is_own = clip.own > 0;
    const double x = is_own ? own[c].x : (*columns[c])[0], y = is_own ? own[c].y : (*columns[c])[1],
                 w = is_own ? (c == 0 ? 1.0 : 0.0) : (*columns[c])[3];
    *out[c] = {clip.u[0] * x + clip.u[1] * y + clip.u[2] * w, clip.v[0] * x + clip.v[1] * y + clip.v[2] * w,
               clip.divisor[0] * x + clip.divisor[1] * y + clip.divisor[2] * w};
  }
  return cut;
}

/// Where the sides of a cell lie on its layer's fill.
std::array<float, 4> place_on_fill(const SceneMemory& scene, std::uint32_t entry, std::size_t record,
                                   const Cell& cell, PixelPoint shift) {
  const GlyphRecord& glyph = scene.glyphs()[entry / 8];
  const LabelRow& row = scene.rows()[glyph.row];
  const LabelHead& head = scene.heads()[row.head];
  const std::optional<FillRecord> fill = fill_of(scene.layers(), record);
  Rect box{0, 0, head.width, head.height};
  const auto which = static_cast<FillBox>(static_cast<int>(scene.layers()[record].fill_box));
  const std::size_t at = static_cast<std::size_t>(head.boxes) + glyph.index;
  if (which != FillBox::label && head.boxes > 0 && at < scene.boxes().size())
    box = box_of(scene.boxes()[at], which);
  const FillPlace place = fill ? fill_place(*fill, box, scene.clock() - row.begun) : corner_place(box);
  const PixelPoint corner{cell.x + shift.x, cell.y + shift.y};
  const PixelPoint low = place(corner), high = place({corner.x + cell.width, corner.y + cell.height});
  return {low.x, low.y, high.x, high.y};
}

}  // namespace

namespace {

/// The row's, as far as it is not its composite's to show it.
std::array<std::uint8_t, 4> tint_in(const SceneBatch& batch, const LabelRow& row) {
  if (batch.target == RenderTarget::mask) return {255, 255, 255, 255};
  return {row.tint[0], row.tint[1], row.tint[2],
          has_any(batch.features, SceneFeature::fades) ? std::uint8_t{255} : row.tint[3]};
}

}  // namespace

std::optional<SceneQuad> find_scene_quad(const SceneMemory& scene, std::uint32_t entry,
                                         const SceneBatch& batch) {
  if (entry == kNoGlyph || entry / 8 >= scene.glyphs().size()) return std::nullopt;
  const GlyphRecord& glyph = scene.glyphs()[entry / 8];
  if (glyph.row >= scene.rows().size()) return std::nullopt;
  const LabelRow& row = scene.rows()[glyph.row];
  const std::size_t record = glyph.record + std::size_t{entry & 7U}, array = glyph.page / 2048U;
  if (row.tint[3] == 0 || record >= scene.layers().size() || array >= scene.arrays().size())
    return std::nullopt;
  const LayerRecord& layer = scene.layers()[record];
  SceneQuad out;
  out.array = scene.arrays()[array], out.array_number = array;
  out.quad.cell = glyph.cell;
  out.quad.record = static_cast<std::uint16_t>(record);
  out.quad.page = glyph.page % 2048U;

  Cell cell{glyph.x, glyph.y, static_cast<float>(glyph.cell[2] + 1) * layer.pixel,
            static_cast<float>(glyph.cell[3] + 1) * layer.pixel, 0};
  cell.left = -layer.lean * cell.height;
  const GlyphMove move = move_of(scene, glyph, row, cell, layer.pixel);
  // An inset stands where the letter does.
  const float moved = layer.cut == kInsetCut ? 0.0F : layer.pixel, shift_y = layer.shift_y * moved,
              shift_x = layer.shift_x * moved - layer.lean * shift_y;
  const PixelPoint corner = move({cell.x, cell.y});
  const std::array<PixelPoint, 3> own = {
      PixelPoint{corner.x + shift_x, corner.y + shift_y},
      PixelPoint{move.xx * cell.width, move.yx * cell.width},
      PixelPoint{move.xx * cell.left + move.xy * cell.height, move.yx * cell.left + move.yy * cell.height}};
  out.quad.origin = sum(row, own[0].x, own[0].y, true);
  out.quad.across = sum(row, own[1].x, own[1].y, false);
  out.quad.down = sum(row, own[2].x, own[2].y, false);
  const std::array<std::uint8_t, 4> tint = tint_in(batch, row);
  for (std::size_t c = 0; c < 4; ++c) {
    out.quad.tint[c] = to_byte(move.tint[c] * static_cast<float>(tint[c]) / 255.0F);
  }
  out.place = place_on_fill(scene, entry, record, cell, {shift_x, shift_y});
  if (row.clip != 0 && row.clip < scene.clips().size()) out.cut = cut_of(scene.clips()[row.clip], out, own);
  return out;
}

}  // namespace grafema::detail
