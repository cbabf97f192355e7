// SPDX-License-Identifier: MIT
// What a renderer draws: quads, batches and layer records in the caller's memory.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/draw/lighting.hpp"
#include "grafema/raster/fill_record.hpp"

namespace grafema {

/// One layer of one glyph: a parallelogram in clip space with a piece of a page on it. 72 bytes, no gaps.
/// Its corners are origin, origin + across, origin + down and origin + across + down; the cell, half a texel
/// wider on every side, is stretched over it.
struct GlyphQuad {
  std::array<float, 4> origin, across, down;  ///< homogeneous clip space x, y, z, w, as OpenGL has it
  std::array<std::uint16_t, 4> cell;  ///< x, y, width, height in texels; what lies outside counts as empty
  /// The place of the cell's sides on the layer's fill: left, top, right, bottom in 1/4096
  /// (docs/formats/quads.md).
  std::array<std::int16_t, 4> box;
  std::array<std::uint8_t, 4> tint;  ///< red, green, blue (sRGB) and alpha that multiply the layer's fill
  std::uint16_t record;              ///< index into QuadList::records, counted from Batch::first_record
  std::uint16_t page;                ///< PageInfo::array_layer of the page, in the texture array of its batch
};
static_assert(sizeof(GlyphQuad) == 72);

/// What a layer leaves out: LayerRecord::cut.
constexpr float kNoCut = 0, kHollowCut = 1, kInsetCut = 2;

/// One layer of a look for pictures of one size: lengths are texels. 128 bytes: eight times four floats.
struct LayerRecord {
  float grow = 0, blur = 0, reach = 0;  ///< `reach` 0 for coverage and color
  float cut = 0;                        ///< kNoCut, kHollowCut or kInsetCut
  /// Where a hollow layer finds the letter's own shape, and an inset, which stands where the letter does, the
  /// shifted.
  float shift_x = 0, shift_y = 0;
  float front = 0;  ///< 1 for the look's last layer: color glyphs show their own colors there
  float fill = 0;   ///< how many records behind it its FillRecord begins, two of them long; 0: `corners`
  std::array<std::array<float, 4>, 4> corners = {};  ///< fill colors, sRGB, premultiplied; order as in Fill
  float pixel = 0;                                   ///< pixels of the label that a texel is wide
  float lean = 0;  ///< pixels by which a glyph goes left for each that it goes down: of a made italic
  float line = 0, sharp = 0;
  float sweep_x = 0, sweep_y = 0;  ///< how far the letter is drawn out
  float fill_box = 0;              ///< FillBox
  float panel = 0;  ///< how many records behind it its PanelRecord stands; 0: it is none of a panel
  bool operator==(const LayerRecord&) const = default;
};
static_assert(sizeof(LayerRecord) == 128);
/// How many of them a FillRecord takes the room of.
constexpr std::size_t kRecordsOfFill = sizeof(FillRecord) / sizeof(LayerRecord);

/// A panel's outline in texels, from the corner of its box: as PanelShape. The cell holds the box, the
/// pointer and the reach. 128 bytes, one LayerRecord.
struct PanelRecord {
  std::array<float, 4> radii = {};
  std::array<float, 4> beyond =
      {};  ///< by how much the pointer makes the cell wider: left, top, right, bottom
  std::array<float, 6> pointer = {};  ///< x and y of the tip and of the two points where it begins
  float has_pointer = 0;              ///< 1 where there is one
  std::array<float, 17> unused = {};
  bool operator==(const PanelRecord&) const = default;
};
static_assert(sizeof(PanelRecord) == sizeof(LayerRecord));

/// What a renderer does with the texels of a quad.
enum class QuadKind : std::uint8_t {
  coverage,                ///< the texel is the strength of the letter
  distance,                ///< the texel is the distance to the edge
  channels,                ///< the median of three channels is that distance
  channels_with_distance,  ///< the same for the letter itself; effects take the true distance from the fourth
                           ///< channel
  color,                   ///< the texel is the color
  bar,     ///< no page: the distance is that to a box whose sides lie LayerRecord::reach inside those of the
           ///< cell
  panel,   ///< no page: the distance is that to the outline of a PanelRecord
  joined,  ///< no page: the strength is what batches before it painted onto the shape
  faded,   ///< no page: the color is what batches before it painted onto the sheet
};
constexpr std::size_t kQuadKinds = 9;
/// Whether its texels stand on a page of a source.
constexpr bool has_page(QuadKind kind) { return kind < QuadKind::bar; }

/// Whether it shows what was painted before it instead of a letter.
constexpr bool is_cover(QuadKind kind) { return kind >= QuadKind::joined; }

/// What a batch is painted onto. Shape and sheet are pictures beside the target, of its size, that a renderer
/// keeps; where a batch is the first onto one since its last cover, it is emptied under the next cover.
enum class Onto : std::uint8_t {
  target,
  shape,  ///< letters of a joined layer: of their strengths the largest stays
  sheet,  ///< a label that fades as one thing, at full strength
};

/// Images that layers of a batch are painted with; null: none. Looks of the context's book keep them.
struct LayerImages {
  const FillImage* fill = nullptr;
  const FillImage* grain = nullptr;   ///< of a Surface
  const FillImage* mirror = nullptr;  ///< the same
  /// Whether one call can have those of both.
  constexpr bool fit(const LayerImages& other) const {
    const auto alike = [](const FillImage* a, const FillImage* b) { return !a || !b || a == b; };
    return alike(fill, other.fill) && alike(grain, other.grain) && alike(mirror, other.mirror);
  }
  constexpr void add(const LayerImages& other) {
    if (!fill) fill = other.fill;
    if (!grain) grain = other.grain;
    if (!mirror) mirror = other.mirror;
  }
  bool operator==(const LayerImages&) const = default;
};

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
constexpr float kMaxMagnified = 4;

/// Quads in a row that are drawn alike from pages of one texture array: one draw call.
struct Batch {
  QuadKind kind = QuadKind::distance;
  std::uint32_t first = 0, count = 0;
  std::uint32_t first_record = 0;  ///< see GlyphQuad::record
  std::uint8_t part = 0;           ///< PageInfo::part of its pages
  /// Whether a quad may be drawn so large that the eight bits of a texture unit's fraction show: more than
  /// `kMaxMagnified` pixels a texel.
  bool magnified = false;
  bool minified = false;  ///< whether a pixel may be so wide that it needs several samples: over 1.3 texels
  bool far = false;  ///< whether it may need more of them than a renderer takes: see GlyphSource::far_pixels
  std::uint32_t features = 0;  ///< what its layers do: kHollow and the like (draw/set_memory.hpp)
  LayerImages images = {};
  Onto onto = Onto::target;
};

/// What one source's pages show. Memory of the caller, and how much of it was filled. Where `needed` is
/// larger than the room, nothing beyond it was written and the call should be made again with more.
struct QuadList {
  std::span<GlyphQuad> quads;
  std::span<Batch> batches;
  std::span<LayerRecord> records;
  Lighting lighting = {};
  float content_scale = 1;  ///< of the view
  SourceId source{};        ///< whose pages the quads take; none: those that the renderer had last
  std::size_t quad_count = 0, batch_count = 0, record_count = 0;
  std::size_t quads_needed = 0, batches_needed = 0, records_needed = 0;

  bool complete() const {
    return quads_needed <= quads.size() && batches_needed <= batches.size() &&
           records_needed <= records.size();
  }
};

}  // namespace grafema
