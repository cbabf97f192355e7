// SPDX-License-Identifier: MIT
// The face and the page of letters that change from frame to frame.
#pragma once

#include <memory>
#include <vector>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/base/image.hpp"
#include "grafema/font/glyph_metrics.hpp"

namespace grafema::detail {

/// Letters stand in cells of one page; a cell holds its letter at every time, so that what a label knows of
/// it holds as long as the cells do. Glyph 1 is the first letter.
class MorphSource final : public GlyphSource {
 public:
  /// `box` is the label's: pens of all letters stand at its lower left corner.
  MorphSource(std::size_t letters, float size, PictureKind kind, PixelPoint box);

  /// Lays out cells for boxes in pixels of the label, one for each letter, empty ones for none; empties the
  /// page. False where the page would have a side of more than 8,192 pixels.
  bool set_cells(const std::vector<Rect>& boxes);
  std::size_t letters() const { return sprites_.size(); }
  /// On the page.
  PixelRect cell(std::size_t letter) const { return cells_[letter]; }
  /// The cell's top left corner in the label.
  PixelPoint corner(std::size_t letter) const { return corners_[letter]; }
  /// Between these what is stored counts as one change.
  void begin();
  void end();
  /// Values as rasterizing gives them: coverage where `reach` is 0, else distances.
  void store(std::size_t letter, const std::vector<float>& values, float reach);

  std::uint64_t epoch() const noexcept override { return epoch_; }
  void resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) override;
  void keep(std::span<const std::uint16_t>) noexcept override {}
  std::span<const PageInfo> pages() const noexcept override { return {&page_, 1}; }
  ImageView pixels(std::uint16_t) const override { return image_.view(); }
  std::size_t changes_since(std::uint16_t page, std::uint64_t revision,
                            std::span<PixelRect> out) const noexcept override;

 private:
  bool grow(int width, int height);

  float size_;
  PictureKind kind_;
  PixelPoint box_;
  PageInfo page_;
  Image image_;
  std::vector<PixelRect> cells_, changed_;
  std::vector<PixelPoint> corners_;
  std::vector<GlyphPicture> sprites_;
  std::uint64_t epoch_ = 1;
  bool is_new_ = true;  // the whole page is another than at the revision before
};

/// A face with `letters` glyphs, each of no advance, and one that is as wide as the box: the characters from
/// U+F0000 on. Its line is as high as the box.
std::shared_ptr<const GlyphMetrics> make_morph_metrics(std::size_t letters, float size, PixelPoint box);

}  // namespace grafema::detail
