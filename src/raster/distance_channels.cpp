// SPDX-License-Identifier: MIT
// Distance in three channels: each sees some runs of the boundary, straight on past their corners.
#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/four.hpp"
#include "raster/scratch.hpp"

namespace grafema {
namespace {

using detail::EdgePiece;
using detail::Four;

constexpr double kTolerance = 0.01;  // pixels, as for one channel

/// At a corner two runs are equally near. The one whose line is farther decides, because there the pixel lies
/// in front of that run and beside the other. This share of the squared distance to the line breaks the tie;
/// it is far below what can be seen.
constexpr float kTieShare = 1e-4F;

constexpr Four kSteps = {0.5F, 1.5F, 2.5F, 3.5F};

/// For each pixel the nearest piece of the boundary: `keys` is the number by which it was chosen, `sides` the
/// distance to the line through it. Pieces that belong to the same channels share a plane.
struct Plane {
  float *keys = nullptr, *sides = nullptr;
};
constexpr std::size_t kRedGreen = 0, kGreenBlue = 1, kBlueRed = 2, kAll = 3, kPlanes = 4;

std::size_t plane_of(const EdgePiece& p) {
  return p.channels == 7 ? kAll : p.channels == 3 ? kRedGreen : p.channels == 6 ? kGreenBlue : kBlueRed;
}

/// What the pixels from `left` to `right` (and up to three more) of some rows learn from a piece. `kEnds`: it
/// begins or ends a run, beyond which its tangent goes on.
template <bool kEnds>
void see_rows(const Plane& plane, std::size_t stride, int left, int right, int top, int bottom,
              const EdgePiece& p) {
  const Four zero = {}, one = detail::all(1), ex = detail::all(p.ex), ey = detail::all(p.ey),
             tie = detail::all(kTieShare);
  const Four along_x = detail::all(p.ex * p.inverse_square), side_x = detail::all(p.ey * p.inverse_length);
  const float along = p.ey * p.inverse_square, across = p.ex * p.inverse_length;
  const Four first = detail::all(static_cast<float>(left) - p.x) + kSteps;
  for (int y = top; y < bottom; ++y) {
    const float py = static_cast<float>(y) + 0.5F - p.y;
    const Four row_y = detail::all(py), along_y = detail::all(py * along),
               side_y = detail::all(py * across + p.bulge);
    float* keys = plane.keys + static_cast<std::size_t>(y) * stride;
    float* sides = plane.sides + static_cast<std::size_t>(y) * stride;
    Four px = first;
    for (int x = left; x < right; x += 4) {
      const Four raw = px * along_x + along_y, t = detail::smaller(detail::larger(raw, zero), one);
      const Four dx = px - t * ex, dy = row_y - t * ey, square = dx * dx + dy * dy;
      Four side = side_y - px * side_x, key = square;
      if constexpr (kEnds) {
        if (p.begins_run) side = detail::select(raw < zero, py * p.begin_x - px * p.begin_y + p.bulge, side);
        if (p.ends_run) {
          side = detail::select(raw > one, (py - p.ey) * p.end_x - (px - p.ex) * p.end_y + p.bulge, side);
        }
        key = square - tie * side * side;
      }
      const Four old = detail::load(keys + x);
      detail::store(keys + x, detail::smaller(key, old));
      detail::store(sides + x, detail::select(key < old, side, detail::load(sides + x)));
      px += 4.0F;
    }
  }
}

void see(const Plane& plane, const PixelRect& cell, float reach, const EdgePiece& p) {
  const float x1 = p.x + p.ex, y1 = p.y + p.ey;
  auto [left, right] =
      detail::centers_between(std::min(p.x, x1) - reach, std::max(p.x, x1) + reach, cell.width);
  const auto [top, bottom] =
      detail::centers_between(std::min(p.y, y1) - reach, std::max(p.y, y1) + reach, cell.height);
  if (left >= right) return;
  left -= left % 4;
  const auto see_all = p.begins_run || p.ends_run ? see_rows<true> : see_rows<false>;
  see_all(plane, detail::padded(cell.width), left, right, top, bottom, p);
}

/// The nearest pieces of four pixels.
struct Nearest {
  Four key, side;
};
Nearest load_nearest(const Plane& plane, std::size_t at, Four unseen) {
  return plane.keys != nullptr ? Nearest{detail::load(plane.keys + at), detail::load(plane.sides + at)}
                               : Nearest{unseen, Four{}};
}
Nearest nearer_of(const Nearest& a, const Nearest& b) {
  const detail::FourInts first = a.key <= b.key;
  return {detail::smaller(a.key, b.key), detail::select(first, a.side, b.side)};
}

/// The four channels of four pixels, and what `correct_channels` asks of each at a glance.
struct FourTexels {
  Four channels[4];
  detail::FourInts marks;
};

/// `kPairs`: some pieces are seen by two channels; `kWhole`: some by all.
template <bool kPairs, bool kWhole>
FourTexels read_texels(const Plane (&planes)[kPlanes], std::size_t at, float reach, Four inside) {
  const Four unseen = detail::all(reach * reach), low = detail::all(-reach), high = detail::all(reach),
             zero = {};
  Nearest of_channel[3];
  if constexpr (kPairs) {
    Nearest of_pair[3];
    for (std::size_t i = 0; i < 3; ++i) of_pair[i] = load_nearest(planes[i], at, unseen);
    if constexpr (kWhole) {
      const Nearest of_all = load_nearest(planes[kAll], at, unseen);
      for (Nearest& pair : of_pair) pair = nearer_of(pair, of_all);
    }
    of_channel[0] = nearer_of(of_pair[kRedGreen], of_pair[kBlueRed]);
    of_channel[1] = nearer_of(of_pair[kRedGreen], of_pair[kGreenBlue]);
    of_channel[2] = nearer_of(of_pair[kGreenBlue], of_pair[kBlueRed]);
  } else {
    for (Nearest& channel : of_channel) channel = load_nearest(planes[kAll], at, unseen);
  }
  // The nearest piece is seen by red or by green.
  const Four real =
      detail::root(detail::larger(detail::smaller(of_channel[0].key, of_channel[1].key), zero)) * inside;
  FourTexels t;
  detail::FourInts above[3];
  for (int c = 0; c < 3; ++c) {
    const Nearest& seen = of_channel[c];
    t.channels[c] = detail::select(seen.key < unseen, detail::smaller(detail::larger(seen.side, low), high),
                                   real);  // what sees nothing takes the true one
    above[c] = t.channels[c] > zero;
  }
  t.channels[3] = real;
  // At a pixel's own center the median is on the side where the shape is; one that stands on the edge is on
  // either.
  const Four on_edge = detail::all(0.01F);
  const detail::FourInts most = (above[0] & above[1]) | (above[1] & above[2]) | (above[0] & above[2]);
  const detail::FourInts wrong = (most ^ (real > zero)) & ((real > on_edge) | (real < -on_edge));
  t.marks = detail::FourInts{};
  for (int c = 0; c < 3; ++c) {
    t.channels[c] = detail::select(wrong, real, t.channels[c]);
    const Four off = t.channels[c] - real, farther = detail::larger(off, -off);
    t.marks |= ((t.channels[c] > zero) & (1 << c)) | ((farther <= detail::all(detail::kAlike)) & (8 << c));
  }
  return t;
}

/// For four pixels in a row 1 inside and -1 outside, from how the winding number changes at each; `winding`
/// is brought along.
Four read_insides(const std::int8_t* turns, int& winding) {
  std::uint32_t any = 0;
  std::memcpy(&any, turns, 4);
  if (any == 0) return detail::all(winding > 0 ? 1.0F : -1.0F);
  Four inside;
  for (int i = 0; i < 4; ++i) {
    winding += turns[i];
    inside[i] = winding > 0 ? 1.0F : -1.0F;
  }
  return inside;
}

/// Signs the true distances and lays the channels side by side.
template <bool kPairs, bool kWhole>
void gather(const PixelRect& cell, float reach, const Plane (&planes)[kPlanes], std::span<float> out,
            RasterScratch::Memory& memory) {
  using FourBytes = std::uint8_t __attribute__((vector_size(4)));
  const std::size_t width = static_cast<std::size_t>(cell.width), stride = detail::padded(cell.width);
  memory.marks.resize(width * static_cast<std::size_t>(cell.height) + 8);  // they are looked at by eights
  memory.turns.resize(memory.turns.size() + 4);                            // and these by fours
  for (std::size_t y = 0; y < static_cast<std::size_t>(cell.height); ++y) {
    const std::int8_t* turns = memory.turns.data() + y * (width + 1);
    float* to = out.data() + y * width * 4;
    std::uint8_t* marks = memory.marks.data() + y * width;
    int winding = 0;
    for (std::size_t x = 0; x < width; x += 4) {
      FourTexels t =
          read_texels<kPairs, kWhole>(planes, y * stride + x, reach, read_insides(turns + x, winding));
      detail::transpose(t.channels);
      const std::size_t count = std::min<std::size_t>(4, width - x);
      for (std::size_t i = 0; i < count; ++i) detail::store(to + (x + i) * 4, t.channels[i]);
      const FourBytes bytes = __builtin_convertvector(t.marks, FourBytes);
      std::memcpy(marks + x, &bytes, 4);  // of a row's end the next row's begin is written over
    }
  }
}

Result<void> plain_channels(const Contours& contours, const Transform& map, const PixelRect& cell,
                            float reach, std::span<float> out, RasterScratch& scratch) {
  std::vector<float> one(out.size() / 4);
  if (const Result<void> made = rasterize_distance(contours, map, cell, reach, one, scratch); !made) {
    return made;
  }
  for (std::size_t i = 0; i < one.size(); ++i) std::fill_n(out.data() + i * 4, 4, one[i]);
  return {};
}

}  // namespace

Result<void> rasterize_distance_channels(const Contours& contours, const Transform& to_pixels,
                                         const PixelRect& cell, float reach, std::span<float> out,
                                         RasterScratch& scratch, unsigned levels) {
  if (!(reach > 0) || !std::isfinite(reach)) {
    return bad_value("a reach above 0 pixels");
  }
  if (const Result<void> checked = detail::check_cell(to_pixels, cell, out.size() / 4); !checked) {
    return checked;
  }
  RasterScratch::Memory& memory = scratch.memory();
  if (!contours.united) {
    memory.outline = contours;
    if (!memory.steps_given) memory.steps = detail::Steps();
    detail::unite(memory.outline, memory.steps);
    if (!memory.outline.united) return plain_channels(contours, to_pixels, cell, reach, out, scratch);
  }
  detail::deal_edges(contours.united ? contours : memory.outline, detail::in_cell(to_pixels, cell),
                     kTolerance, memory.edges, memory.pieces, memory.boundary);
  const std::size_t room = detail::padded(cell.width) * static_cast<std::size_t>(cell.height);
  Plane planes[kPlanes];
  for (const EdgePiece& piece : memory.pieces) {
    const std::size_t i = plane_of(piece);
    if (planes[i].keys == nullptr) {
      memory.keys[i].assign(room, reach * reach);
      memory.sides[i].resize(room);
      planes[i] = {memory.keys[i].data(), memory.sides[i].data()};
    }
    see(planes[i], cell, reach, piece);
  }
  detail::find_inside(cell, memory);
  const bool whole = planes[kAll].keys != nullptr,
             pairs = planes[0].keys != nullptr || planes[1].keys != nullptr || planes[2].keys != nullptr;
  const auto gather_all = !pairs ? gather<false, true> : whole ? gather<true, true> : gather<true, false>;
  gather_all(cell, reach, planes, out, memory);
  detail::correct_channels(cell, detail::Rounding(reach, levels), out, memory);
  return {};
}

}  // namespace grafema
