// SPDX-License-Identifier: MIT
// What a scene draws, as it lies in memory (docs/formats/scene.md).
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>

#include "grafema/draw/layer_record.hpp"
#include "grafema/draw/motion.hpp"
#include "grafema/draw/view.hpp"

namespace grafema {

namespace detail {
struct SceneState;
}

/// A glyph, or a line under letters, as it stands in its label. Written when the label's text, look or
/// pictures change. 32 bytes.
struct GlyphRecord {
  float x = 0, y = 0;  ///< top left corner of the cell, half a texel wider on every side: pixels of the label
  std::array<std::uint16_t, 4> cell =
      {};                    ///< x, y, width, height in texels; what lies outside counts as empty
  std::uint32_t row = 0;     ///< index into SceneMemory::rows
  std::uint16_t record = 0;  ///< index of its first layer in SceneMemory::layers
  std::uint16_t page = 0;    ///< PageInfo::array_layer, and times 2048 the index of its SceneArray
  std::uint16_t index = 0;   ///< its place in the label, for motions and the boxes of fills
  std::uint16_t motion = 0;  ///< index into SceneMemory::motions; 0: none
  std::array<std::int16_t, 2> baseline = {};  ///< of MotionPivot::baseline, from (x, y): eighths of a texel
};
static_assert(sizeof(GlyphRecord) == 32);

/// What moves: one a label. 64 bytes. A label that is not seen has a tint of alpha 0.
struct LabelRow {
  std::array<float, 4> across = {}, down = {}, origin = {};  ///< as in LabelMap
  std::array<std::uint8_t, 4> tint = {};  ///< red, green, blue (sRGB) and alpha that multiply the fills
  float begun = 0;                        ///< SceneMemory::clock at which its motion's time was 0
  std::uint32_t clip = 0;                 ///< index into SceneMemory::clips; 0: none
  std::uint32_t head = 0;                 ///< index into SceneMemory::heads
};
static_assert(sizeof(LabelRow) == 64);

/// What fills and motions need to know of a label. 16 bytes.
struct LabelHead {
  float width = 0, height = 0;  ///< of its box, pixels
  float size = 0;               ///< pixels per em
  float boxes = 0;  ///< index into SceneMemory::boxes of its first glyph's; 0: no fill asks for them
};
static_assert(sizeof(LabelHead) == 16);

/// What fills of lines and of glyphs span: the boxes of a glyph's line and of its cluster, pixels of the
/// label. 32 bytes.
struct FillBoxes {
  Rect line = {}, glyph = {};
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
struct SceneArray {
  GlyphSource* source = nullptr;  ///< null for lines under letters and panels
  TexelKind kind = TexelKind::distance;
  std::uint8_t part = 0;                                                ///< PageInfo::part
  bool is_free() const { return source == nullptr && has_page(kind); }  ///< nothing stands on it now
  bool operator==(const SceneArray&) const = default;
};

/// What layers and labels of a batch do: one bit each, joined by `|`.
enum class SceneFeature : std::uint32_t {
  none = 0,
  hollow = 1,         ///< a layer is hollow or an inset
  effects = 2,        ///< a layer grows or blurs the letter, or paints a band of it
  fills = 4,          ///< a layer has more than one color
  moves = 8,          ///< a glyph has a motion
  clips = 16,         ///< a label is cut off
  magnified = 32,     ///< a texel may be wider than kMaxMagnified pixels
  minified = 64,      ///< a pixel may be so wide that it needs several samples: over 1.3 texels
  mipmapped = 128,    ///< it may need more of them than a renderer takes: see GlyphSource::mipmap_pixels
  gradients = 256,    ///< a layer's fill has stops; `fills` too
  images = 512,       ///< a layer's fill is an image; `fills` too
  sweeps = 1024,      ///< a layer draws the letter out
  lit = 2048,         ///< a layer takes light; `fills` too
  joins = 4096,       ///< a layer is joined: such batches go into the mask
  fades = 8192,       ///< the label fades as one thing: what is on its intermediate target does not
  pixelated = 16384,  ///< texels are not mixed; batches have it of all labels or none
  grain = 32768,      ///< a surface has grain; `lit` too
  mirrors = 65536,    ///< a surface mirrors; `lit` too
};
constexpr SceneFeature operator|(SceneFeature a, SceneFeature b) {
  return static_cast<SceneFeature>(static_cast<std::uint32_t>(a) | static_cast<std::uint32_t>(b));
}
constexpr SceneFeature operator&(SceneFeature a, SceneFeature b) {
  return static_cast<SceneFeature>(static_cast<std::uint32_t>(a) & static_cast<std::uint32_t>(b));
}
constexpr SceneFeature operator~(SceneFeature a) {
  return static_cast<SceneFeature>(~static_cast<std::uint32_t>(a));
}
constexpr SceneFeature& operator|=(SceneFeature& a, SceneFeature b) { return a = a | b; }
constexpr SceneFeature& operator&=(SceneFeature& a, SceneFeature b) { return a = a & b; }
/// Whether one of `some` is among `all`.
constexpr bool has_any(SceneFeature all, SceneFeature some) { return (all & some) != SceneFeature::none; }

/// Entries of SceneMemory::order in a row that one call can draw.
struct SceneBatch {
  std::uint32_t first = 0, count = 0;
  std::uint32_t arrays = 0;  ///< one bit for each SceneArray that its glyphs stand on, at most kMaxArrays
  SceneFeature features = SceneFeature::none;
  LayerImages images = {};
  RenderTarget target = RenderTarget::frame;
  bool is_composite = false;  ///< of one entry, a composite
  static constexpr int kMaxArrays = 4;
};

struct IndexRange {
  std::uint32_t first = 0, end = 0;
  bool operator==(const IndexRange&) const = default;
};

/// Parts of SceneMemory that a renderer keeps on the device.
enum class SceneTable : std::uint8_t { glyphs, rows, heads, order, layers, clips, motions, boxes };
constexpr std::size_t kSceneTables = 8;

/// Entries of `order`: the index of a glyph times 8, plus the layer; or kNoGlyph.
constexpr std::uint32_t kNoGlyph = 0xFFFFFFFF;

/// All that a TextScene draws in this frame, for any renderer. Spans are good until the scene is changed.
class GRAFEMA_API SceneMemory {
 public:
  SceneMemory(const SceneMemory&) = delete;
  SceneMemory& operator=(const SceneMemory&) = delete;

  std::span<const GlyphRecord> glyphs() const { return glyphs_; }
  std::span<const LabelRow> rows() const { return rows_; }
  std::span<const LabelHead> heads() const { return heads_; }
  std::span<const std::uint32_t> order() const { return order_; }  ///< what is drawn, back to front
  std::span<const LayerRecord> layers() const { return layers_; }
  std::span<const ClipRecord> clips() const { return clips_; }
  std::span<const MotionRecord> motions() const { return motions_; }
  std::span<const FillBoxes> boxes() const { return boxes_; }
  std::span<const SceneArray> arrays() const { return arrays_; }
  std::span<const SceneBatch> batches() const { return batches_; }
  float clock() const { return clock_; }  ///< the time of motions: seconds
  const Lighting& lighting() const { return lighting_; }
  const View& view() const { return view_; }  ///< of the last update

  /// Grows with every update.
  std::uint64_t revision() const { return revision_; }
  /// Tells scenes apart; expires with the scene.
  std::weak_ptr<const void> life() const { return life_; }
  /// Writes ranges of a table, ascending, that hold everything that changed since the scene had `revision`,
  /// and gives how many; 0 for a renderer that has nothing yet gives all. What lies close together is joined,
  /// and where `out` is too short the last range holds the rest.
  std::size_t changes_since(SceneTable table, std::uint64_t revision, std::span<IndexRange> out) const;

  struct Changes;

 private:
  friend struct detail::SceneState;
  friend class TextScene;
  SceneMemory() = default;
  std::span<const GlyphRecord> glyphs_;
  std::span<const LabelRow> rows_;
  std::span<const LabelHead> heads_;
  std::span<const std::uint32_t> order_;
  std::span<const LayerRecord> layers_;
  std::span<const ClipRecord> clips_;
  std::span<const MotionRecord> motions_;
  std::span<const FillBoxes> boxes_;
  std::span<const SceneArray> arrays_;
  std::span<const SceneBatch> batches_;
  float clock_ = 0;
  Lighting lighting_;
  View view_;
  const Changes* changes_ = nullptr;
  std::uint64_t revision_ = 0;
  std::weak_ptr<const void> life_;
};

}  // namespace grafema
