// SPDX-License-Identifier: MIT
// Several sources as one: a baked atlas, and behind it the live cache.
#pragma once

#include <memory>
#include <vector>

#include "grafema/atlas/glyph_source.hpp"
#include "grafema/base/error.hpp"

namespace grafema {

/// Asks its sources one after the other; the first that has a glyph answers. Pages keep their numbers, and
/// PageInfo::part tells whose they are. Its epoch moves with any of theirs. What its sources need each frame
/// (`GlyphCache::begin_frame`) the game still does.
class GRAFEMA_API SourceChain final : public GlyphSource {
 public:
  static constexpr std::size_t kMaxParts = 16;

  /// Fails with `bad_value` where there is no source, one is null, or they have more than kMaxParts parts.
  static Result<std::shared_ptr<SourceChain>> make(std::vector<std::shared_ptr<GlyphSource>> sources);
  ~SourceChain() override;

  std::uint64_t epoch() const noexcept override;
  void resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) override;
  void keep(std::span<const std::uint16_t> pages) noexcept override;
  std::span<const PageInfo> pages() const noexcept override;
  ImageView pixels(std::uint16_t page) const override;
  std::size_t changes_since(std::uint16_t page, std::uint64_t revision,
                            std::span<PixelRect> out) const noexcept override;
  ImageView mipmap_pixels(std::uint16_t page) const override;

 private:
  explicit SourceChain(std::vector<std::shared_ptr<GlyphSource>> sources);
  struct Place {
    std::size_t source = {};
    std::uint16_t page = {};
  };
  void refresh() const;
  std::uint16_t number_of(std::size_t source, std::uint16_t page) const;

  std::vector<std::shared_ptr<GlyphSource>> sources_;
  mutable std::vector<Place> places_;  // by number; a page keeps the one that it was given
  mutable std::vector<PageInfo> pages_;
  std::vector<GlyphKey> left_;  // what no source before had, and which of the keys that are
  std::vector<std::size_t> which_;
  std::vector<GlyphPicture> answers_;
};

}  // namespace grafema
