// SPDX-License-Identifier: MIT
// What a renderer draws: quads, batches and layer records in the caller's memory.
#pragma once

#include <array>
#include <cstdint>
#include <span>

#include "grafema/label.hpp"

namespace grafema {

/// One layer of one glyph: a parallelogram in clip space with a piece of a page on it. 72 bytes, no gaps.
/// Its corners are origin, origin + across, origin + down and origin + across + down; the cell, half a texel wider on
/// every side, is stretched over it.
struct GlyphQuad {
  std::array<float, 4> origin, across, down;  ///< homogeneous clip space x, y, z, w, as OpenGL has it
  std::array<std::uint16_t, 4> cell;          ///< x, y, width, height in texels; what lies outside counts as empty
  std::array<std::int16_t, 4> box;            ///< fill coordinates of the cell's sides: left, top, right, bottom in 1/4096 of the label's box
  std::array<std::uint8_t, 4> tint;           ///< red, green, blue (sRGB) and alpha that multiply the layer's fill
  std::uint16_t layer;                        ///< index into QuadList::layers
  std::uint16_t page;                         ///< layer of the texture array of its batch's kind
};
static_assert(sizeof(GlyphQuad) == 72);

/// One layer of a look for pictures of one size: lengths are texels. 96 bytes: six times four floats.
struct LayerRecord {
  float grow = 0, blur = 0, reach = 0, hollow = 0;  ///< `hollow` is 0 or 1; `reach` 0 for coverage and color
  float shift_x = 0, shift_y = 0;                   ///< where a hollow layer finds the letter's own shape
  float front = 0;                                  ///< 1 for the look's last layer: color glyphs show their own colors there
  float unused = 0;
  std::array<std::array<float, 4>, 4> corners = {};  ///< fill colors, sRGB, premultiplied; order as in Fill
  bool operator==(const LayerRecord&) const = default;
};
static_assert(sizeof(LayerRecord) == 96);

/// Quads in a row whose pages are of one kind: one draw call.
struct Batch {
  PictureKind kind = PictureKind::distance;
  std::uint32_t first = 0, count = 0;
};

/// Memory of the caller, and how much of it was filled. Where `needed` is larger than the room, nothing beyond it was
/// written and the call should be made again with more.
struct QuadList {
  std::span<GlyphQuad> quads;
  std::span<Batch> batches;
  std::span<LayerRecord> layers;
  std::size_t quad_count = 0, batch_count = 0, layer_count = 0;
  std::size_t quads_needed = 0, batches_needed = 0, layers_needed = 0;

  bool complete() const { return quads_needed <= quads.size() && batches_needed <= batches.size() && layers_needed <= layers.size(); }
};

/// Fills `out` with the visible labels in order, each layer by layer. Labels whose text, style, fonts or source changed
/// are laid out and resolved first; the others only placed. Glyphs that the source does not have, and looks that need
/// more reach than the pictures have, are noted. Allocates nothing in steady state.
/// Fails with `bad_value` where a placement or the view can't be used.
GRAFEMA_API Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view, QuadList& out,
                                    Notes* notes = nullptr);

}  // namespace grafema
