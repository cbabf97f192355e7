// SPDX-License-Identifier: MIT
// The smaller pictures of a source's pages, made when they are asked for and kept up from then on.
#pragma once

#include <vector>

#include "grafema/atlas/glyph_source.hpp"

namespace grafema::detail {

class Mipmaps {
 public:
  /// The smaller pictures of a page. `each_cell` calls what it is given with the cell and the reach of each
  /// picture on the page.
  template <class EachCell>
  ImageView follow(const GlyphSource& source, std::uint16_t number, EachCell each_cell) {
    if (!is_behind(source, number)) return view(number);
    find_changes(source, number);
    const ImageView page = source.pixels(number);
    const PictureKind kind = source.pages()[number].kind;
    each_cell([&](const std::array<std::uint16_t, 4>& cell, float reach) {
      if (has_changed(cell)) write(page, kind, cell, reach, pages_[number].image);
    });
    return view(number);
  }
  void clear() { pages_.clear(); }

 private:
  struct Page {
    Image image;
    std::uint64_t revision = 0;
  };
  /// The means over the texels of a block: of distances how much lies inside, the distance and its square; of
  /// color its light; of coverage itself.
  using Block = std::array<float, 4>;

  bool is_behind(const GlyphSource& source, std::uint16_t number);
  void find_changes(const GlyphSource& source, std::uint16_t number);
  bool has_changed(const std::array<std::uint16_t, 4>& cell) const;
  ImageView view(std::uint16_t number) const { return pages_[number].image.view(); }
  void write(const ImageView& page, PictureKind kind, const std::array<std::uint16_t, 4>& cell, float reach,
             Image& far);

  std::vector<Page> pages_;
  std::vector<PixelRect> changes_;
  std::vector<Block> blocks_;
};

}  // namespace grafema::detail
