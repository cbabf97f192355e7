// SPDX-License-Identifier: MIT
// Distance in three channels: each sees some runs of the boundary as if they went straight on past their corners.
#include <algorithm>
#include <cmath>

#include "base/four.hpp"
#include "raster/scratch.hpp"

namespace grafema {
namespace {

using detail::EdgePiece;
using detail::Four;

constexpr double kTolerance = 0.01;  // pixels, as for one channel

/// Where two runs are equally near, at their common corner, the one counts whose line is farther: it lies across the way.
/// This share of its squared distance decides, far below what can be seen.
constexpr float kTieShare = 1e-4F;

constexpr Four kSteps = {0.5F, 1.5F, 2.5F, 3.5F};

struct Planes {
  float *keys[3], *sides[3];
};

/// What a row of pixels learns from a piece that `kChannels` see. `kEnds`: the piece begins or ends a run, beyond which its
/// tangent goes on.
template <bool kEnds, int kChannels>
void see_row(const Planes& at, int first, int last, float row_center, const EdgePiece& p) {
  const float py = row_center - p.y;
  const Four zero = {}, one = detail::all(1);
  const Four along_x = detail::all(p.ex * p.inverse_square), along_y = detail::all(py * p.ey * p.inverse_square);
  const Four side_x = detail::all(p.ey * p.inverse_length), side_y = detail::all(py * p.ex * p.inverse_length);
  Four px = detail::all(static_cast<float>(first) - p.x) + kSteps;
  for (int x = first; x < last; x += 4) {
    const Four raw = px * along_x + along_y, t = detail::smaller(detail::larger(raw, zero), one);
    const Four dx = px - t * p.ex, dy = py - t * p.ey, square = dx * dx + dy * dy;
    Four side = side_y - px * side_x;
    if constexpr (kEnds) {
      if (p.begins_run) side = detail::select(raw < zero, py * p.begin_x - px * p.begin_y, side);
      if (p.ends_run) side = detail::select(raw > one, (py - p.ey) * p.end_x - (px - p.ex) * p.end_y, side);
    }
    const Four key = square - kTieShare * side * side;
    for (int c = 0; c < kChannels; ++c) {
      const Four old = detail::load(at.keys[c] + x);
      const detail::FourInts nearer = key < old;
      detail::store(at.keys[c] + x, detail::select(nearer, key, old));
      detail::store(at.sides[c] + x, detail::select(nearer, side, detail::load(at.sides[c] + x)));
    }
    px += 4.0F;
  }
}

void see(const Planes& planes, const PixelRect& cell, float reach, const EdgePiece& p) {
  const float x1 = p.x + p.ex, y1 = p.y + p.ey;
  auto [left, right] = detail::centers_between(std::min(p.x, x1) - reach, std::max(p.x, x1) + reach, cell.width);
  const auto [top, bottom] = detail::centers_between(std::min(p.y, y1) - reach, std::max(p.y, y1) + reach, cell.height);
  if (left >= right) return;
  left -= left % 4;
  const std::size_t stride = detail::padded(cell.width);
  Planes at{};
  int count = 0;
  for (int c = 0; c < 3; ++c) {
    if ((p.channels >> c & 1) == 0) continue;
    at.keys[count] = planes.keys[c] + static_cast<std::size_t>(top) * stride;
    at.sides[count++] = planes.sides[c] + static_cast<std::size_t>(top) * stride;
  }
  const bool ends = p.begins_run || p.ends_run;
  const auto see_one = ends ? (count == 3 ? see_row<true, 3> : see_row<true, 2>) : (count == 3 ? see_row<false, 3> : see_row<false, 2>);
  for (int y = top; y < bottom; ++y) {
    see_one(at, left, right, static_cast<float>(y) + 0.5F, p);
    for (int c = 0; c < count; ++c) at.keys[c] += stride, at.sides[c] += stride;
  }
}

Four root(Four v) { return Four{std::sqrt(v[0]), std::sqrt(v[1]), std::sqrt(v[2]), std::sqrt(v[3])}; }

/// The four channels of four pixels, and what `correct_channels` asks of each at a glance.
struct FourTexels {
  Four channels[4];
  detail::FourInts marks;
};

FourTexels read_texels(const Planes& planes, std::size_t at, float reach, Four inside) {
  const Four unseen = detail::all(reach * reach), low = detail::all(-reach), high = detail::all(reach), zero = {};
  FourTexels t;
  Four square = unseen, sides[3];
  detail::FourInts seen[3];
  for (int c = 0; c < 3; ++c) {
    const Four key = detail::load(planes.keys[c] + at);
    sides[c] = detail::load(planes.sides[c] + at);
    seen[c] = key < unseen;
    // The nearest piece is seen by two channels at least; its squared distance is its key and what was taken off for ties.
    square = detail::smaller(square, detail::select(seen[c], key + kTieShare * sides[c] * sides[c], unseen));
  }
  const Four real = root(square) * inside;
  detail::FourInts above[3];
  for (int c = 0; c < 3; ++c) {
    t.channels[c] = detail::select(seen[c], detail::smaller(detail::larger(sides[c], low), high), real);  // what sees nothing takes the true one
    above[c] = t.channels[c] > zero;
  }
  t.channels[3] = real;
  // At a pixel's own center the median is on the side where the shape is; one that stands on the edge is on either.
  const Four on_edge = detail::all(0.01F);
  const detail::FourInts most = (above[0] & above[1]) | (above[1] & above[2]) | (above[0] & above[2]);
  const detail::FourInts wrong = (most ^ (real > zero)) & ((real > on_edge) | (real < -on_edge));
  t.marks = detail::FourInts{};
  for (int c = 0; c < 3; ++c) {
    t.channels[c] = detail::select(wrong, real, t.channels[c]);
    const Four off = t.channels[c] - real, alike = detail::all(detail::kAlike);
    t.marks |= ((t.channels[c] > zero) & (1 << c)) | (((off <= alike) & (-off <= alike)) & (8 << c));
  }
  return t;
}

/// Signs the true distances and lays the channels side by side.
void gather(const PixelRect& cell, float reach, const Planes& planes, std::span<float> out, RasterScratch::Memory& memory) {
  const std::size_t width = static_cast<std::size_t>(cell.width), stride = detail::padded(cell.width);
  memory.marks.resize(width * static_cast<std::size_t>(cell.height));
  memory.sums.resize(stride);
  for (std::size_t y = 0; y < static_cast<std::size_t>(cell.height); ++y) {
    const std::int8_t* turns = memory.turns.data() + y * (width + 1);
    int inside = 0;
    for (std::size_t x = 0; x < width; ++x) {
      inside += turns[x];
      memory.sums[x] = inside > 0 ? 1.0F : -1.0F;
    }
    for (std::size_t x = 0; x < width; x += 4) {
      FourTexels t = read_texels(planes, y * stride + x, reach, detail::load(memory.sums.data() + x));
      detail::transpose(t.channels);
      for (std::size_t i = 0; i < std::min<std::size_t>(4, width - x); ++i) {
        detail::store(out.data() + (y * width + x + i) * 4, t.channels[i]);
        memory.marks[y * width + x + i] = static_cast<std::uint8_t>(t.marks[i]);
      }
    }
  }
}

Result<void> plain_channels(const Contours& contours, const Transform& map, const PixelRect& cell, float reach, std::span<float> out, RasterScratch& scratch) {
  std::vector<float> one(out.size() / 4);
  if (const Result<void> made = rasterize_distance(contours, map, cell, reach, one, scratch); !made) return made;
  for (std::size_t i = 0; i < one.size(); ++i) std::fill_n(out.data() + i * 4, 4, one[i]);
  return {};
}

}  // namespace

Result<void> rasterize_distance_channels(const Contours& contours, const Transform& to_pixels, const PixelRect& cell, float reach,
                                         std::span<float> out, RasterScratch& scratch) {
  if (!(reach > 0) || !std::isfinite(reach)) return fail(make_error(ErrorKind::bad_value, "a reach above 0 pixels"));
  if (const Result<void> checked = detail::check_cell(to_pixels, cell, out.size() / 4); !checked) return checked;
  RasterScratch::Memory& memory = scratch.memory();
  if (!contours.united) {
    memory.outline = contours;
    unite(memory.outline);
    if (!memory.outline.united) return plain_channels(contours, to_pixels, cell, reach, out, scratch);
  }
  detail::deal_edges(contours.united ? contours : memory.outline, detail::in_cell(to_pixels, cell), kTolerance, memory.edges, memory.pieces, memory.boundary);
  const std::size_t room = detail::padded(cell.width) * static_cast<std::size_t>(cell.height);
  Planes planes{};
  for (std::size_t c = 0; c < 3; ++c) {
    memory.keys[c].assign(room, reach * reach);
    memory.sides[c].resize(room);
    planes.keys[c] = memory.keys[c].data(), planes.sides[c] = memory.sides[c].data();
  }
  for (const EdgePiece& piece : memory.pieces) see(planes, cell, reach, piece);
  detail::find_inside(cell, memory);
  gather(cell, reach, planes, out, memory);
  detail::correct_channels(cell, out, memory);
  return {};
}

}  // namespace grafema
