// SPDX-License-Identifier: MIT
// What drawing asks for pictures of glyphs: many at once, when a label changes, never per glyph and frame.
#pragma once

#include <array>
#include <memory>
#include <span>

#include "grafema/atlas/picture_kind.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/font/glyph_metrics.hpp"

namespace grafema {

/// Which picture is wanted: a glyph of a face, at a size and a phase.
struct GlyphKey {
  FaceId face{};
  GlyphId glyph{};
  std::uint16_t quarter_px =
      0;  ///< the size the glyph is drawn at, in quarter pixels per em; 0: a picture of any size will do
  std::uint8_t phase = 0;  ///< by how many quarter pixels, 0..3, the pen stands right of a pixel's edge
  bool operator==(const GlyphKey&) const = default;
};

enum class PictureState : std::uint8_t {
  ready,    ///< the picture is on a page
  empty,    ///< the glyph has nothing to paint
  waiting,  ///< the picture is being made; the epoch moves when it is there
  absent,   ///< the source does not have the glyph
};

/// The answer to a GlyphKey: where the picture stands and how it is to be drawn.
struct GlyphPicture {
  PictureState state = PictureState::absent;
  PictureKind kind = PictureKind::distance;
  std::uint16_t page = 0;               ///< index into `GlyphSource::pages`
  std::array<std::uint16_t, 4> cell{};  ///< x, y, width, height in texels of the page
  PixelPoint offset = {};  ///< the cell's top left corner seen from the pen, in pixels at `size`, y down
  float size = 0;          ///< pixels per em of the picture: one texel is one pixel at this size
  float reach = 0;         ///< texels that a distance picture sees on either side; 0 for other kinds
  std::uint8_t phase = 0;  ///< quarter texels by which the picture's pen stands right of a texel's edge
  bool operator==(const GlyphPicture&) const = default;
};

/// Pages in one texture array at most; every device has room for as many layers. Further pages of a kind are
/// of another part.
constexpr std::size_t kMaxArrayLayers = 256;

struct PageInfo {
  PictureKind kind = PictureKind::distance;
  PixelFormat format = PixelFormat::r8;
  int width = 0, height = 0;  ///< 0 x 0 for a page whose memory was given back; nothing stands on it
  std::uint16_t array_layer =
      0;  ///< its number among the pages of its part and kind, which make one texture array
  std::uint64_t revision = 1;  ///< grows whenever its pixels change; never 0
  /// Moves whenever glyph pictures that stand on the page may no longer hold, or should be asked for again.
  /// 0: with `GlyphSource::epoch`.
  std::uint64_t epoch = 0;
  std::uint8_t part =
      0;  ///< of a source that is put together from several, or has too many pages for one array
};

/// Tells sources apart; no number is given twice in a process. 0: no source.
enum class SourceId : std::uint64_t {};

/// Pictures of glyphs on pages. All pages of one part and kind have the same size and format. Belongs to one
/// thread. Any number of renderers may draw from a source: each remembers the revisions of the pages that it
/// has.
class GRAFEMA_API GlyphSource {
 public:
  GlyphSource();
  virtual ~GlyphSource() = default;
  GlyphSource(const GlyphSource&) = delete;
  GlyphSource& operator=(const GlyphSource&) = delete;

  SourceId id() const noexcept { return *life_; }
  /// Expires with the source: a renderer then frees what it holds of it.
  std::weak_ptr<const SourceId> life() const noexcept { return life_; }

  /// A number that changes whenever glyph pictures that were given out may no longer hold; then `resolve` has
  /// to be asked again.
  virtual std::uint64_t epoch() const noexcept = 0;
  /// Answers each key; `out` is as long as `keys`. Of several sizes of a glyph the smallest that is not below
  /// the size asked for is chosen, else the largest. A phase that was not baked is replaced by phase 0.
  virtual void resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) = 0;
  /// Tells the source that these pages are shown in this frame, so that it keeps them.
  virtual void keep(std::span<const std::uint16_t> pages) noexcept = 0;
  /// Good until the epoch moves.
  virtual std::span<const PageInfo> pages() const noexcept = 0;
  virtual ImageView pixels(std::uint16_t page) const = 0;
  /// Writes rectangles of a page that hold everything that changed since it had `revision`, and gives how
  /// many. Where `revision` is 0 or too long ago, or `out` (not empty) is too short, it is the whole page.
  virtual std::size_t changes_since(std::uint16_t page, std::uint64_t revision,
                                    std::span<PixelRect> out) const noexcept = 0;
  /// The pictures of a page made smaller, for text that is drawn at less than a fifth of their size: an image
  /// of half the page's sides, rounded up, where pictures stand as `mipmap_cell` says. Made when it is first
  /// asked for, and good until the page changes. Empty for a source that has none: text so small is then
  /// taken from the page, and shimmers. Of coverage and color r8 and rgba8, the means of what is on the page;
  /// of distances rgba8: how much of the texel the letter covers, the mean reading, and half of the width, in
  /// texels of its own, over which distances spread about it.
  virtual ImageView mipmap_pixels(std::uint16_t page) const;

 private:
  std::shared_ptr<const SourceId> life_;
};

/// Where `GlyphSource::mipmap_pixels` has the picture of a cell at a quarter (level 1) or a sixteenth (level
/// 2) of its size: x, y, width, height, sides rounded up. One texel of it stands for 4 or 16 a side of the
/// cell from its top left corner on. Width 0 where there is none: level 2 of cells under 6 texels both ways.
GRAFEMA_API std::array<std::uint16_t, 4> mipmap_cell(const std::array<std::uint16_t, 4>& cell, int level);

}  // namespace grafema
