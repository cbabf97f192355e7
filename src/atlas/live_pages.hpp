// SPDX-License-Identifier: MIT
// Pages that fill, grow, are packed anew and forgotten while a game runs.
#pragma once

#include "atlas/skyline.hpp"
#include "grafema/atlas/glyph_source.hpp"

namespace grafema::detail {

class LivePages {
 public:
  LivePages(int gap, PageSize first, PageSize largest, std::size_t budget);

  struct Place {
    std::uint16_t page;
    std::array<std::uint16_t, 4> cell;
  };
  /// Takes a free place for a picture of this size, on a page that grows or is opened where that must be and
  /// the budget, one for all kinds, allows it. The place is empty and counts as changed.
  std::optional<Place> add(PictureKind kind, PixelFormat format, int width, int height);
  /// Whether an empty page of the largest size would hold it.
  bool fits_a_page(int width, int height) const;
  /// Copies a picture to its place.
  void put(const Place& place, const Image& picture);
  Image& image(std::uint16_t page) { return pages_[page].image; }

  /// The page of a kind, or of any other kind, that was not shown for longest; none where all were shown a
  /// moment ago.
  std::optional<std::uint16_t> find_oldest(PictureKind kind) const;
  std::optional<std::uint16_t> find_oldest_of_others(PictureKind kind) const;
  void clear(std::uint16_t page);
  /// Gives the page's memory back. Its number is used again for a page of its kind.
  void vacate(std::uint16_t page);
  /// Packs the given places of a page anew, so that what lay between them is free, and changes them to where
  /// they went; false, and nothing is changed, where they then find no room.
  bool repack(std::uint16_t page, std::span<std::array<std::uint16_t, 4>*> cells);

  /// Tells everybody to ask for what is shown, so that what is not can be told apart.
  void ask_again();
  void begin_frame() { ++frame_; }
  std::uint64_t frame() const { return frame_; }
  void keep(std::uint16_t page) { pages_[page].shown = frame_; }
  std::size_t bytes() const { return bytes_; }
  std::uint64_t copied() const { return copied_; }

  std::span<const PageInfo> infos() const { return infos_; }
  ImageView pixels(std::uint16_t page) const { return pages_[page].image.view(); }
  std::size_t changes_since(std::uint16_t page, std::uint64_t revision, std::span<PixelRect> out) const;

 private:
  /// A page that was shown in this frame or one of so many before it is on the screen.
  static constexpr std::uint64_t kFramesShown = 2;

  struct Page {
    Image image;
    Skyline skyline;
    std::uint64_t shown = 0;
    /// The latest changes, that which led to revision r at r % kChanges; what is older is forgotten.
    static constexpr std::size_t kChanges = 64;
    std::array<PixelRect, kChanges> changes = {};
  };
  bool is_vacant(std::size_t page) const { return pages_[page].image.width() == 0; }
  std::optional<std::uint16_t> find_oldest(PictureKind kind, bool others) const;
  std::optional<Place> add_to(std::uint16_t page, int width, int height);
  bool grow(PictureKind kind);
  bool open(PictureKind kind, PixelFormat format);
  void change(std::uint16_t page, const PixelRect& rect);

  int gap_;
  PageSize first_, largest_;
  std::size_t budget_, bytes_ = 0;
  std::uint64_t frame_ = 1 + kFramesShown, copied_ = 0;
  std::vector<Page> pages_;
  std::vector<PageInfo>
      infos_;  // room for all that the budget allows is taken at once, so that spans of it stay good
};

}  // namespace grafema::detail
