// SPDX-License-Identifier: MIT
// What a renderer draws: quads, batches and layer records in the caller's memory.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>

#include "grafema/atlas/glyph_source.hpp"

namespace grafema {

/// One layer of one glyph: a parallelogram in clip space with a piece of a page on it. 72 bytes, no gaps.
/// Its corners are origin, origin + across, origin + down and origin + across + down; the cell, half a texel
/// wider on every side, is stretched over it.
struct GlyphQuad {
  std::array<float, 4> origin, across, down;  ///< homogeneous clip space x, y, z, w, as OpenGL has it
  std::array<std::uint16_t, 4> cell;  ///< x, y, width, height in texels; what lies outside counts as empty
  std::array<std::int16_t, 4>
      box;  ///< fill coordinates of the cell's sides: left, top, right, bottom in 1/4096 of the label's box
  std::array<std::uint8_t, 4> tint;  ///< red, green, blue (sRGB) and alpha that multiply the layer's fill
  std::uint16_t record;              ///< index into QuadList::records, counted from Batch::first_record
  std::uint16_t page;                ///< PageInfo::array_layer of the page, in the texture array of its batch
};
static_assert(sizeof(GlyphQuad) == 72);

/// One layer of a look for pictures of one size: lengths are texels. 112 bytes: seven times four floats.
struct LayerRecord {
  float grow = 0, blur = 0, reach = 0, hollow = 0;  ///< `hollow` is 0 or 1; `reach` 0 for coverage and color
  float shift_x = 0, shift_y = 0;                   ///< where a hollow layer finds the letter's own shape
  float front = 0;  ///< 1 for the look's last layer: color glyphs show their own colors there
  float unused = 0;
  std::array<std::array<float, 4>, 4> corners = {};  ///< fill colors, sRGB, premultiplied; order as in Fill
  float pixel = 0;                                   ///< pixels of the label that a texel is wide
  float lean = 0;  ///< pixels by which a glyph goes left for each that it goes down: of a made italic
  std::array<float, 2> more_unused = {};
  bool operator==(const LayerRecord&) const = default;
};
static_assert(sizeof(LayerRecord) == 112);

/// What a renderer does with the texels of a quad.
enum class QuadKind : std::uint8_t {
  coverage,                ///< the texel is the strength of the letter
  distance,                ///< the texel is the distance to the edge
  channels,                ///< the median of three channels is that distance
  channels_with_distance,  ///< the same for the letter itself; effects take the true distance from the fourth
                           ///< channel
  color,                   ///< the texel is the color
  bar,  ///< no page: the distance is that to a box whose sides lie LayerRecord::reach inside those of the
        ///< cell
};
constexpr std::size_t kQuadKinds = 6;

/// How pictures of a kind are drawn.
constexpr QuadKind quad_kind(PictureKind kind) {
  switch (kind) {
    case PictureKind::coverage:
      return QuadKind::coverage;
    case PictureKind::distance:
      return QuadKind::distance;
    case PictureKind::distance_rgb:
      return QuadKind::channels;
    case PictureKind::distance_rgba:
      return QuadKind::channels_with_distance;
    case PictureKind::color:
      break;
  }
  return QuadKind::color;
}

/// Up to here texels may be mixed by the texture unit, which knows 256 places between two of them.
constexpr float kMostMagnified = 4;

/// Quads in a row that are drawn alike from pages of one texture array: one draw call.
struct Batch {
  QuadKind kind = QuadKind::distance;
  std::uint32_t first = 0, count = 0;
  std::uint32_t first_record = 0;  ///< see GlyphQuad::record
  std::uint8_t part = 0;           ///< PageInfo::part of its pages
  /// Whether a quad may be drawn so large that the eight bits of a texture unit's fraction show: more than
  /// `kMostMagnified` pixels a texel.
  bool magnified = false;
  bool minified = false;  ///< whether a pixel may be so wide that it needs several samples: over 1.3 texels
  bool far = false;  ///< whether it may need more of them than a renderer takes: see GlyphSource::far_pixels
};

/// What one source's pages show. Memory of the caller, and how much of it was filled. Where `needed` is
/// larger than the room, nothing beyond it was written and the call should be made again with more.
struct QuadList {
  std::span<GlyphQuad> quads;
  std::span<Batch> batches;
  std::span<LayerRecord> records;
  SourceId source{};  ///< whose pages the quads take; none: those that the renderer had last
  std::size_t quad_count = 0, batch_count = 0, record_count = 0;
  std::size_t quads_needed = 0, batches_needed = 0, records_needed = 0;

  bool complete() const {
    return quads_needed <= quads.size() && batches_needed <= batches.size() &&
           records_needed <= records.size();
  }
};

}  // namespace grafema
