// SPDX-License-Identifier: MIT
// A baked atlas as a source of pictures, and its faces as layout sees them.
#pragma once

#include <memory>
#include <span>
#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/atlas/glyph_source.hpp"
#include "grafema/font/font_stack.hpp"

namespace grafema {

namespace detail {
class Mipmaps;
}

/// A baked atlas as a source of pictures. It changes by `replace` alone.
class GRAFEMA_API AtlasSource final : public GlyphSource {
 public:
  explicit AtlasSource(std::shared_ptr<const Atlas> atlas);
  ~AtlasSource() override;

  /// Takes another atlas. The epoch changes and all pages count as new.
  void replace(std::shared_ptr<const Atlas> atlas);
  const Atlas& atlas() const { return *atlas_; }

  std::uint64_t epoch() const noexcept override { return epoch_; }
  void resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) override;
  void keep(std::span<const std::uint16_t>) noexcept override {}
  std::span<const PageInfo> pages() const noexcept override { return pages_; }
  ImageView pixels(std::uint16_t page) const override;
  std::size_t changes_since(std::uint16_t page, std::uint64_t revision,
                            std::span<PixelRect> out) const noexcept override;
  ImageView mipmap_pixels(std::uint16_t page) const override;

 private:
  struct Entry {
    GlyphKey key = {};
    GlyphPicture sprite = {};
  };
  const GlyphPicture* find(const GlyphKey& key) const;
  const GlyphPicture* find(const GlyphKey& key, std::uint8_t phase) const;

  std::shared_ptr<const Atlas> atlas_;
  std::uint64_t epoch_ = 0;
  std::vector<Entry> entries_;  // a power of two of slots, by hash, open addressing
  std::vector<PageInfo> pages_;
  std::unique_ptr<detail::Mipmaps> far_;  // made when they are asked for
};

/// One face for each strike of the atlas, in its order: text can be measured and drawn without the font file.
/// These faces have characters, advances and pair kerning, and no tables.
GRAFEMA_API FontStack atlas_stack(const std::shared_ptr<const Atlas>& atlas);

}  // namespace grafema
