// SPDX-License-Identifier: MIT
// Layers of looks as renderers read them, and what of a picture they show.
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <span>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/draw/lighting.hpp"
#include "grafema/raster/fill_record.hpp"

namespace grafema {

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

/// What a renderer does with the texels of a glyph.
enum class TexelKind : std::uint8_t {
  coverage,                ///< the texel is the strength of the letter
  distance,                ///< the texel is the distance to the edge
  channels,                ///< the median of three channels is that distance
  channels_with_distance,  ///< the same for the letter itself; effects take the true distance from the fourth
                           ///< channel
  color,                   ///< the texel is the color
  bar,    ///< no page: the distance is that to a box whose sides lie LayerRecord::reach inside those of
          ///< the cell
  panel,  ///< no page: the distance is that to the outline of a PanelRecord
  mask,   ///< a composite: the strength is what batches before it painted into the mask
  intermediate,  ///< a composite: the color is what batches before it painted onto the intermediate target
};
constexpr std::size_t kTexelKinds = 9;
/// Whether its texels stand on a page of a source.
constexpr bool has_page(TexelKind kind) { return kind < TexelKind::bar; }

/// Whether it shows what was painted before it instead of a letter.
constexpr bool is_composite(TexelKind kind) { return kind >= TexelKind::mask; }

/// What a batch is painted onto. Mask and intermediate target are pictures beside the game's, of its size,
/// that a renderer keeps; where a batch is the first onto one since its last composite, it is emptied under
/// the next composite.
enum class RenderTarget : std::uint8_t {
  frame,         ///< the game's own
  mask,          ///< letters of a joined layer: of their strengths the largest stays
  intermediate,  ///< a label that fades as one thing, at full strength
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
constexpr TexelKind texel_kind(PictureKind kind) {
  switch (kind) {
    case PictureKind::coverage:
      return TexelKind::coverage;
    case PictureKind::distance:
      return TexelKind::distance;
    case PictureKind::distance_rgb:
      return TexelKind::channels;
    case PictureKind::distance_rgba:
      return TexelKind::channels_with_distance;
    case PictureKind::color:
      break;
  }
  return TexelKind::color;
}

/// Up to here texels may be mixed by the texture unit, which knows 256 places between two of them.
constexpr float kMaxMagnified = 4;

}  // namespace grafema
