// SPDX-License-Identifier: MIT
// Pages that fill, grow and are forgotten while a game runs.
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
  /// Copies the picture to a free place, on a page that grows or is opened where that must be and the budget
  /// allows it.
  std::optional<Place> add(PictureKind kind, const Image& picture);
  /// Whether an empty page of the largest size would hold it.
  bool fits_a_page(const Image& picture) const;
  /// The page of a kind that was not shown for longest; none where all were shown in this frame.
  std::optional<std::uint16_t> find_oldest(PictureKind kind) const;
  void clear(std::uint16_t page);

  void begin_frame() { ++frame_; }
  void keep(std::uint16_t page) { pages_[page].shown = frame_; }
  std::size_t bytes() const { return bytes_; }
  std::uint64_t copied() const { return copied_; }

  std::span<const PageInfo> infos() const { return infos_; }
  ImageView pixels(std::uint16_t page) const { return pages_[page].image.view(); }
  std::size_t changes_since(std::uint16_t page, std::uint64_t revision, std::span<PixelRect> out) const;

 private:
  struct Page {
    Image image;
    Skyline skyline;
    std::uint64_t shown = 0;
    /// The latest changes, that which led to revision r at r % kChanges; what is older is forgotten.
    static constexpr std::size_t kChanges = 64;
    std::array<PixelRect, kChanges> changes = {};
  };
  std::optional<Place> add_to(std::uint16_t page, const Image& picture);
  bool grow(PictureKind kind);
  bool open(PictureKind kind, PixelFormat format);
  void change(std::uint16_t page, const PixelRect& rect);

  int gap_;
  PageSize first_, largest_;
  std::size_t budget_, bytes_ = 0;
  std::uint64_t frame_ = 1, copied_ = 0;
  std::vector<Page> pages_;
  std::vector<PageInfo>
      infos_;  // room for all that the budget allows is taken at once, so that spans of it stay good
};

}  // namespace grafema::detail
