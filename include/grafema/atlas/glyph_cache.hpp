// SPDX-License-Identifier: MIT
// A glyph source whose pictures are made while the game runs: for chat, player names, any text not known
// before.
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
  PictureKind kind = PictureKind::distance_rgba;  ///< of glyphs without color
  float size =
      48;  ///< pixels per em of distance pictures, which serve all sizes; of others where none is asked for
  float reach = 6;             ///< of distance pictures, pixels
  int gap = 1;                 ///< empty pixels between cells
  int phases = 1;              ///< coverage: 1, 2 or 4
  bool fit_rows = false;       ///< coverage: see AtlasRecipe
  bool color_glyphs = true;    ///< glyphs in color are painted onto `color` pages
  float color_size = 64;       ///< pixels per em of those
  std::size_t palette = 0;     ///< of those
  PictureReader read_picture;  ///< of those: reads embedded pictures; none: they are not shown
  PageSize first_page = {256, 256},
           largest_page = {1024, 1024};  ///< a page doubles until it is the largest; then more are opened
  std::size_t budget =
      16U << 20U;  ///< bytes of all pages; when they are full the page not shown for longest is forgotten
  std::size_t frame_bytes =
      256U << 10U;  ///< no more than this is placed, and so must be sent to the device, in a frame
  std::chrono::microseconds frame_time{
      2000};  ///< no more than this is spent on making pictures on the game's thread in a frame
  Workers* workers =
      nullptr;       ///< makes pictures there; none: at once, within `frame_time`. Must outlive the cache
  bool bars = true;  ///< a glyph that is waiting shows a bar in its place; false: nothing
};

/// What the cache has done so far.
struct GlyphCacheWork {
  std::uint64_t made = 0;       ///< pictures
  std::uint64_t forgotten = 0;  ///< pages
  std::uint64_t copied = 0;     ///< bytes moved because a page grew
  std::uint64_t starved = 0;    ///< times that a picture found no room because all pages were shown
  std::size_t waiting = 0;      ///< pictures asked for and not there yet
  std::size_t bytes = 0;        ///< of all pages now
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

  /// Glyphs are made of these faces alone; keys of others are absent. A face that forbids pictures of it is
  /// left out and the call fails with `forbidden`.
  Result<void> add(const std::shared_ptr<const Face>& face);
  /// All faces of a stack that have outlines.
  Result<void> add(const FontStack& stack);

  /// Call before a frame's labels are emitted: pictures that were finished appear, pages age, the frame's
  /// budgets are new. Glyphs that can't be read are noted and are empty from then on.
  void begin_frame(Notes* notes = nullptr);
  /// Asks for pictures before they are needed, such as those of all digits.
  void request(std::span<const GlyphKey> keys);
  const GlyphCacheWork& work() const;

  std::uint64_t epoch() const noexcept override;
  void resolve(std::span<const GlyphKey> keys, std::span<Sprite> out) override;
  void keep(std::span<const std::uint16_t> pages) noexcept override;
  std::span<const PageInfo> pages() const noexcept override;
  ImageView pixels(std::uint16_t page) const override;
  std::size_t take_changes(std::span<PageChange> out) noexcept override;
  void touch_all() noexcept override;

 private:
  struct State;
  explicit GlyphCache(std::unique_ptr<State> state);
  std::unique_ptr<State> state_;
};

}  // namespace grafema
