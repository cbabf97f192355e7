// SPDX-License-Identifier: MIT
// What a set of labels draws, as it lies in memory (docs/formats/sets.md).
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>

#include "grafema/draw/motion.hpp"
#include "grafema/draw/quads.hpp"

namespace grafema {

/// A glyph, or a line under letters, as it stands in its label. Written when the label's text, look or
/// pictures change. 32 bytes.
struct GlyphRecord {
  float x = 0, y = 0;  ///< top left corner of the cell, half a texel wider on every side: pixels of the label
  std::array<std::uint16_t, 4> cell =
      {};                    ///< x, y, width, height in texels; what lies outside counts as empty
  std::uint32_t row = 0;     ///< index into SetMemory::rows
  std::uint16_t record = 0;  ///< index of its first layer in SetMemory::layers
  std::uint16_t page = 0;    ///< PageInfo::array_layer, and times 2048 the index of its SetArray
  std::uint16_t index = 0;   ///< its place in the label, for motions and the boxes of fills
  std::uint16_t motion = 0;  ///< index into SetMemory::motions; 0: none
  std::array<std::int16_t, 2> baseline = {};  ///< of MotionPivot::baseline, from (x, y): eighths of a texel
};
static_assert(sizeof(GlyphRecord) == 32);

/// What moves: one a label. 64 bytes. A label that is not seen has a tint of alpha 0.
struct LabelRow {
  std::array<float, 4> across = {}, down = {}, origin = {};  ///< as in LabelMap
  std::array<std::uint8_t, 4> tint = {};  ///< red, green, blue (sRGB) and alpha that multiply the fills
  float begun = 0;                        ///< SetMemory::clock at which its motion's time was 0
  std::uint32_t clip = 0;                 ///< index into SetMemory::clips; 0: none
  std::uint32_t head = 0;                 ///< index into SetMemory::heads
};
static_assert(sizeof(LabelRow) == 64);

/// What fills and motions need to know of a label. 16 bytes.
struct LabelHead {
  float width = 0, height = 0;  ///< of its box, pixels
  float size = 0;               ///< pixels per em
  float boxes = 0;  ///< index into SetMemory::boxes of its first glyph's; 0: no fill asks for them
};
static_assert(sizeof(LabelHead) == 16);

/// What fills of lines and of glyphs span: the boxes of a glyph's line and of its cluster, pixels of the
/// label. 32 bytes.
struct FillBoxes {
  Rect line, glyph;
};
static_assert(sizeof(FillBoxes) == 32);

/// Where labels are cut off. A point of the target or, where `own` is 1, of the label itself, is mapped to
/// u, v and a divisor; it is seen where u and v divided are within 0..1. 48 bytes: three times four floats.
struct ClipRecord {
  std::array<float, 4> u = {}, v = {};  ///< multiply clip space x, y and w, or a label's x, y and 1; the
                                        ///< fourth is not used
  std::array<float, 3> divisor = {};
  float own = 0;
};
static_assert(sizeof(ClipRecord) == 48);

/// A motion's terms: the first says in `kind` how many follow it. 48 bytes: three times four floats.
struct MotionRecord {
  float kind = 0;  ///< MotionKind, plus 16 MotionEasing, 256 MotionPivot, 1024 `whole`, 2048 `waits`
  float amplitude = 0, period = 0, phase = 0;
  float lead = 0, start = 0, stop = 0, seed = 0;
  std::array<float, 4> color = {};
};
static_assert(sizeof(MotionRecord) == 48);

/// The pages that a glyph stands on: a texture array.
struct SetArray {
  GlyphSource* source = nullptr;  ///< null for lines under letters and panels
  QuadKind kind = QuadKind::distance;
  std::uint8_t part = 0;                                                ///< PageInfo::part
  bool is_free() const { return source == nullptr && has_page(kind); }  ///< nothing stands on it now
  bool operator==(const SetArray&) const = default;
};

// What layers and labels of a batch do, one bit each.
constexpr std::uint32_t kHollow = 1;       ///< a layer is hollow or an inset
constexpr std::uint32_t kEffects = 2;      ///< a layer grows or blurs the letter, or paints a band of it
constexpr std::uint32_t kFills = 4;        ///< a layer has more than one color
constexpr std::uint32_t kMoves = 8;        ///< a glyph has a motion
constexpr std::uint32_t kClips = 16;       ///< a label is cut off
constexpr std::uint32_t kNear = 32;        ///< as Batch::magnified
constexpr std::uint32_t kMinified = 64;    ///< as Batch::minified
constexpr std::uint32_t kFar = 128;        ///< as Batch::far
constexpr std::uint32_t kGradients = 256;  ///< a layer's fill has stops; `kFills` too
constexpr std::uint32_t kImages = 512;     ///< a layer's fill is an image; `kFills` too
constexpr std::uint32_t kSweeps = 1024;    ///< a layer draws the letter out
constexpr std::uint32_t kLit = 2048;       ///< a layer takes light; `kFills` too
constexpr std::uint32_t kJoins = 4096;     ///< a layer is joined: such batches go onto the shape
constexpr std::uint32_t kFades = 8192;     ///< the label fades as one thing: what is on its sheet does not

constexpr std::uint32_t kPixelated = 16384;  ///< texels are not mixed; batches have it of all labels or none
constexpr std::uint32_t kGrain = 32768;      ///< a surface has grain; `kLit` too
constexpr std::uint32_t kMirror = 65536;     ///< a surface mirrors; `kLit` too
/// Those of them that a shape asks for: what it is painted with is its cover's.
constexpr std::uint32_t kOfShapes =
    kHollow | kEffects | kMoves | kNear | kMinified | kFar | kSweeps | kLit | kJoins | kPixelated;

/// Entries of SetMemory::order in a row that one call can draw.
struct SetBatch {
  std::uint32_t first = 0, count = 0;
  std::uint32_t arrays = 0;  ///< one bit for each SetArray that its glyphs stand on, at most kMaxArrays
  std::uint32_t features = 0;
  LayerImages images = {};
  Onto onto = Onto::target;
  bool is_cover = false;  ///< of one entry, a cover
  static constexpr int kMaxArrays = 4;
};

struct IndexRange {
  std::uint32_t first = 0, end = 0;
  bool operator==(const IndexRange&) const = default;
};

/// Parts of SetMemory that a renderer keeps on the device.
enum class SetTable : std::uint8_t { glyphs, rows, heads, order, layers, clips, motions, boxes };
constexpr std::size_t kSetTables = 8;

/// Entries of `order`: the index of a glyph times 8, plus the layer; or kNoGlyph.
constexpr std::uint32_t kNoGlyph = 0xFFFFFFFF;

/// All that a set draws in this frame. Spans are good until the set is changed or updated.
class GRAFEMA_API SetMemory {
 public:
  std::span<const GlyphRecord> glyphs;
  std::span<const LabelRow> rows;
  std::span<const LabelHead> heads;
  std::span<const std::uint32_t> order;  ///< what is drawn, back to front
  std::span<const LayerRecord> layers;
  std::span<const ClipRecord> clips;
  std::span<const MotionRecord> motions;
  std::span<const FillBoxes> boxes;
  std::span<const SetArray> arrays;
  std::span<const SetBatch> batches;
  float clock = 0;  ///< the time of motions: seconds
  Lighting lighting;
  float content_scale = 1;  ///< of the view

  /// Grows with every update.
  std::uint64_t revision() const { return revision_; }
  /// Tells sets apart; expires with the set.
  std::weak_ptr<const void> life() const { return life_; }
  /// Writes ranges of a table, ascending, that hold everything that changed since the set had `revision`, and
  /// gives how many; 0 for a renderer that has nothing yet gives all. What lies close together is joined,
  /// and where `out` is too short the last range holds the rest.
  std::size_t changes_since(SetTable table, std::uint64_t revision, std::span<IndexRange> out) const;

  struct Changes;

 private:
  friend class LabelSet;
  const Changes* changes_ = nullptr;
  std::uint64_t revision_ = 0;
  std::weak_ptr<const void> life_;
};

}  // namespace grafema
