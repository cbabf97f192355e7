// SPDX-License-Identifier: MIT
// Passes questions on, and numbers pages of several sources as one list.
#include "grafema/atlas/source_chain.hpp"

#include <algorithm>

namespace grafema {

SourceChain::SourceChain(std::vector<std::shared_ptr<GlyphSource>> sources) : sources_(std::move(sources)) {}
SourceChain::~SourceChain() = default;

Result<std::shared_ptr<SourceChain>> SourceChain::make(std::vector<std::shared_ptr<GlyphSource>> sources) {
  const bool good = !sources.empty() && sources.size() <= kMaxParts &&
                    std::none_of(sources.begin(), sources.end(), [](const auto& s) { return s == nullptr; });
  if (!good) return bad_value("1 to 16 sources, none of them null");
  return std::shared_ptr<SourceChain>(new SourceChain(std::move(sources)));
}

std::uint64_t SourceChain::epoch() const noexcept {
  std::uint64_t sum = 0;
  for (const auto& source : sources_) sum += source->epoch();
  return sum;
}

/// Takes pages that are new, and what became of the others.
void SourceChain::refresh() const {
  for (std::size_t s = 0; s < sources_.size(); ++s) {
    const std::size_t count = sources_[s]->pages().size();
    for (std::size_t p = 0; p < count; ++p) (void)number_of(s, static_cast<std::uint16_t>(p));
  }
  pages_.resize(places_.size());
  for (std::size_t i = 0; i < places_.size(); ++i) {
    const Place& place = places_[i];
    const std::span<const PageInfo> own = sources_[place.source]->pages();
    if (place.page >= own.size()) {  // it is gone
      pages_[i].width = pages_[i].height = 0;
      ++pages_[i].epoch;
      continue;
    }
    pages_[i] = own[place.page];
    // A source has parts of its own, of which each has a number of its own here.
    const std::size_t part = place.source + own[place.page].part * sources_.size();
    if (part > 255) pages_[i].width = pages_[i].height = 0;  // it can't be told apart
    pages_[i].part = static_cast<std::uint8_t>(part);
    if (pages_[i].epoch == 0) pages_[i].epoch = sources_[place.source]->epoch();
  }
}

std::uint16_t SourceChain::number_of(std::size_t source, std::uint16_t page) const {
  const auto at = std::find_if(places_.begin(), places_.end(), [&](const Place& place) {
    return place.source == source && place.page == page;
  });
  const auto number = static_cast<std::uint16_t>(at - places_.begin());
  if (at == places_.end()) places_.push_back({source, page});
  return number;
}

void SourceChain::resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) {
  left_.assign(keys.begin(), keys.end());
  which_.resize(keys.size());
  for (std::size_t i = 0; i < which_.size(); ++i) which_[i] = i;
  for (std::size_t s = 0; s < sources_.size() && !left_.empty(); ++s) {
    answers_.resize(left_.size());
    sources_[s]->resolve(left_, answers_);
    std::size_t kept = 0;
    for (std::size_t i = 0; i < left_.size(); ++i) {
      GlyphPicture& sprite = out[which_[i]];
      sprite = answers_[i];
      if (sprite.state == PictureState::absent) {
        left_[kept] = left_[i];
        which_[kept++] = which_[i];
      } else {
        sprite.page = number_of(s, sprite.page);
      }
    }
    left_.resize(kept);
    which_.resize(kept);
  }
  refresh();
}

void SourceChain::keep(std::span<const std::uint16_t> pages) noexcept {
  for (const std::uint16_t page : pages) {
    if (page < places_.size()) sources_[places_[page].source]->keep(std::span(&places_[page].page, 1));
  }
}

std::span<const PageInfo> SourceChain::pages() const noexcept {
  refresh();
  return pages_;
}

ImageView SourceChain::pixels(std::uint16_t page) const {
  return sources_[places_[page].source]->pixels(places_[page].page);
}

ImageView SourceChain::mipmap_pixels(std::uint16_t page) const {
  return sources_[places_[page].source]->mipmap_pixels(places_[page].page);
}

std::size_t SourceChain::changes_since(std::uint16_t page, std::uint64_t revision,
                                       std::span<PixelRect> out) const noexcept {
  return sources_[places_[page].source]->changes_since(places_[page].page, revision, out);
}

}  // namespace grafema
