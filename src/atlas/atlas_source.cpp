// SPDX-License-Identifier: MIT
// Offers a baked atlas to drawing.
#include <algorithm>
#include <atomic>
#include <bit>

#include "atlas/mipmaps.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/glyph_source.hpp"

namespace grafema {
namespace {

std::size_t glyph_slot_of(const GlyphKey& key, std::size_t slots) {
  std::uint64_t h =
      static_cast<std::uint64_t>(key.face) ^ (std::uint64_t{index_of(key.glyph)} * 0x9E3779B97F4A7C15U);
  h ^= h >> 29;
  h *= 0xBF58476D1CE4E5B9U;
  return static_cast<std::size_t>(h >> 20) & (slots - 1);
}

GlyphPicture make_sprite(const AtlasGlyph& glyph, const Strike& strike) {
  GlyphPicture sprite;
  sprite.state = glyph.page ? PictureState::ready : PictureState::empty;
  sprite.kind = strike.kind;
  sprite.size = strike.size;
  sprite.reach = strike.reach;
  sprite.phase = glyph.phase;
  if (!glyph.page) return sprite;
  sprite.page = static_cast<std::uint16_t>(*glyph.page);
  const auto narrow = [](int v) { return static_cast<std::uint16_t>(v); };
  sprite.cell = {narrow(glyph.cell.x), narrow(glyph.cell.y), narrow(glyph.cell.width),
                 narrow(glyph.cell.height)};
  sprite.offset = glyph.offset;
  return sprite;
}

}  // namespace

GlyphSource::GlyphSource() {
  static std::atomic<std::uint64_t> last = 0;
  life_ = std::make_shared<const SourceId>(SourceId{++last});
}

AtlasSource::AtlasSource(std::shared_ptr<const Atlas> atlas) : far_(std::make_unique<detail::Mipmaps>()) {
  replace(std::move(atlas));
}
AtlasSource::~AtlasSource() = default;

void AtlasSource::replace(std::shared_ptr<const Atlas> atlas) {
  atlas_ = std::move(atlas);
  ++epoch_;
  pages_.clear();
  far_->clear();
  for (const AtlasPage& page : atlas_->pages) {
    PageInfo info{page.kind, page.image.format(), page.image.width(), page.image.height(), 0, epoch_, epoch_};
    const auto before = static_cast<std::size_t>(std::count_if(
        pages_.begin(), pages_.end(), [&](const PageInfo& other) { return other.kind == info.kind; }));
    info.array_layer = static_cast<std::uint16_t>(before % kMaxArrayLayers);
    info.part = static_cast<std::uint8_t>(before / kMaxArrayLayers);
    pages_.push_back(info);
  }
  entries_.assign(std::bit_ceil(atlas_->glyphs.size() * 2 + 1), Entry{});
  for (const AtlasGlyph& glyph : atlas_->glyphs) {
    const Strike& strike = atlas_->strikes[glyph.strike];
    const GlyphKey key{atlas_->faces[strike.face].id, glyph.glyph, 0, glyph.phase};
    std::size_t slot = glyph_slot_of(key, entries_.size());
    while (entries_[slot].sprite.state != PictureState::absent) slot = (slot + 1) & (entries_.size() - 1);
    entries_[slot] = {key, make_sprite(glyph, strike)};
  }
}

const GlyphPicture* AtlasSource::find(const GlyphKey& key) const {
  const GlyphPicture* found = find(key, key.phase);
  return found == nullptr && key.phase != 0 ? find(key, 0) : found;
}

/// Of the pictures of a glyph the smallest that is not below the size asked for, else the largest.
const GlyphPicture* AtlasSource::find(const GlyphKey& key, std::uint8_t phase) const {
  const float wanted = static_cast<float>(key.quarter_px) / 4;
  const GlyphPicture* best = nullptr;
  for (std::size_t slot = glyph_slot_of(key, entries_.size());
       entries_[slot].sprite.state != PictureState::absent; slot = (slot + 1) & (entries_.size() - 1)) {
    const Entry& entry = entries_[slot];
    if (entry.key.face != key.face || entry.key.glyph != key.glyph || entry.key.phase != phase) continue;
    const bool enough = entry.sprite.size >= wanted, had_enough = best != nullptr && best->size >= wanted;
    const bool better = best == nullptr || (enough && (!had_enough || entry.sprite.size < best->size)) ||
                        (!enough && !had_enough && entry.sprite.size > best->size);
    if (better) best = &entry.sprite;
  }
  return best;
}

void AtlasSource::resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) {
  for (std::size_t i = 0; i < keys.size(); ++i) {
    const GlyphPicture* found = find(keys[i]);
    out[i] = found != nullptr ? *found : GlyphPicture{};
  }
}

ImageView AtlasSource::mipmap_pixels(std::uint16_t page) const {
  return far_->follow(*this, page, [&](auto add) {
    for (const Entry& entry : entries_) {
      const bool is_there = entry.sprite.state == PictureState::ready && entry.sprite.page == page;
      if (is_there) add(entry.sprite.cell, entry.sprite.reach);
    }
  });
}

ImageView AtlasSource::pixels(std::uint16_t page) const { return atlas_->pages[page].image.view(); }

std::size_t AtlasSource::changes_since(std::uint16_t page, std::uint64_t revision,
                                       std::span<PixelRect> out) const noexcept {
  const PageInfo& info = pages_[page];
  if (revision == info.revision || out.empty()) return 0;
  out[0] = {0, 0, info.width, info.height};
  return 1;
}

}  // namespace grafema
