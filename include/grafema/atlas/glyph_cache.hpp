// SPDX-License-Identifier: MIT
// A source of glyph pictures that makes them while the game runs.
#pragma once

#include <chrono>
#include <memory>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/base/workers.hpp"
#include "grafema/font/font_stack.hpp"
#include "grafema/raster/color_paint.hpp"

namespace grafema {

struct GlyphCacheOptions {
  PictureKind kind =
      PictureKind::distance_rgba;  ///< of the pictures of glyphs that have no color of their own
  float size = 48;  ///< pixels per em of distance pictures, which serve text of every size. Coverage pictures
                    ///< are made at the size of the text; this is their size where a key asks for none
  float reach = 6;  ///< how far distance pictures see on either side of the outline, pixels at `size`
  int gap = 1;      ///< empty pixels between cells
  int phases = 1;   ///< coverage pictures: 1, 2 or 4, see AtlasRecipe
  bool fit_rows = false;     ///< coverage pictures: see AtlasRecipe
  bool color_glyphs = true;  ///< glyphs that the face has in color get pictures of kind `color`
  float color_size = 64;     ///< pixels per em of color pictures
  std::size_t palette = 0;   ///< of those
  PictureReader read_picture =
      {};  ///< reads embedded pictures (PNG) of color glyphs; none: such glyphs are not shown
  PageSize first_page = {256, 256},
           largest_page = {1024, 1024};  ///< the first page of a kind doubles until it has the largest size;
                                         ///< then further pages of that size are opened
  std::size_t budget =
      16U << 20U;  ///< bytes of all pages of all kinds (`mipmap_pixels`, where they are asked
                   ///< for, take a quarter more); when they are full the page not shown for
                   ///< longest is forgotten, and what pages hold that is not shown any more
  std::size_t frame_bytes =
      256U << 10U;  ///< no more than this is placed, and so must be sent to the device, in a frame
  std::chrono::microseconds frame_time{
      2000};  ///< no more than this is spent on making pictures on the game's thread in a frame
  Workers* workers =
      nullptr;       ///< makes pictures there; none: at once, within `frame_time`. Must outlive the cache
  bool bars = true;  ///< whether a bar stands in for a glyph whose picture is not made yet
};

/// What the cache has done since it was made.
struct GlyphCacheWork {
  std::uint64_t made = 0;       ///< pictures
  std::uint64_t forgotten = 0;  ///< pages
  std::uint64_t copied = 0;     ///< bytes of pixels that were copied because a page grew
  std::uint64_t starved = 0;    ///< times that a picture found no room because all pages were shown
  std::size_t waiting = 0;      ///< pictures that were asked for and are not on a page yet
  std::size_t bytes = 0;        ///< bytes of all pages now
  std::size_t held = 0;  ///< bytes of pictures that wait for room, at most half of the budget; others are
                         ///< made anew when there is some
};

/// Belongs to one thread, the game's; only its jobs run elsewhere.
class GRAFEMA_API GlyphCache final : public GlyphSource {
 public:
  /// Fails with `bad_value` for options out of their ranges (those of AtlasRecipe; pages 64 to 4096 a side,
  /// `largest_page` not smaller than `first_page`; a budget of one largest page at least).
  static Result<std::unique_ptr<GlyphCache>> make(const GlyphCacheOptions& options);
  ~GlyphCache() override;
  GlyphCache(const GlyphCache&) = delete;
  GlyphCache& operator=(const GlyphCache&) = delete;

  /// Adds a face whose glyphs may be asked for. Keys of a face that was not added resolve to
  /// PictureState::absent. Fails with `forbidden`, and does not add the face, where its license forbids
  /// pictures of it.
  Result<void> add(const std::shared_ptr<const Face>& face);
  /// Adds all faces of a stack but those that have no tables (faces of an atlas).
  Result<void> add(const FontStack& stack);

  /// To be called once a frame, before labels are emitted: places the pictures that were finished, and renews
  /// what `frame_bytes` and `frame_time` allow. A glyph that can't be read is noted and is empty from then
  /// on. What was shown in one of the last two frames is never forgotten; where that leaves no room for the
  /// rest, bars stay and it is noted once, with what is needed (NoteKind::small_cache). A picture too large
  /// for a page is made at the largest size that fits.
  void begin_frame(Notes* notes = nullptr);
  /// Asks for pictures ahead of time, such as those of all digits.
  void request(std::span<const GlyphKey> keys);
  const GlyphCacheWork& work() const;

  std::uint64_t epoch() const noexcept override;
  void resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) override;
  void keep(std::span<const std::uint16_t> pages) noexcept override;
  std::span<const PageInfo> pages() const noexcept override;
  ImageView pixels(std::uint16_t page) const override;
  std::size_t changes_since(std::uint16_t page, std::uint64_t revision,
                            std::span<PixelRect> out) const noexcept override;
  ImageView mipmap_pixels(std::uint16_t page) const override;

 private:
  struct State;
  explicit GlyphCache(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace grafema
