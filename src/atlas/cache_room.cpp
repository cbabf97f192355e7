// SPDX-License-Identifier: MIT
// Where the live cache finds room: free places, and what nobody shows any more.
#include "atlas/glyph_cache_state.hpp"

namespace grafema {

std::optional<GlyphPicture> GlyphCache::State::find_place(const LivePicture& picture) {
  GlyphPicture sprite{.state = PictureState::empty,
                      .kind = picture.kind,
                      .offset = picture.offset,
                      .size = picture.size,
                      .reach = picture.reach,
                      .phase = picture.phase};
  if (picture.width == 0 || picture.failed) return sprite;
  if (bytes_left == 0) return std::nullopt;
  const PixelFormat format = page_format(picture.kind, 8);
  const std::size_t bytes = static_cast<std::size_t>(picture.width) *
                            static_cast<std::size_t>(picture.height) * bytes_per_pixel(format);
  std::optional<detail::LivePages::Place> at;
  do {
    at = pages.add(picture.kind, format, picture.width, picture.height);
  } while (!at && pages.fits_a_page(picture.width, picture.height) && forget_oldest(picture.kind));
  if (!at && pages.fits_a_page(picture.width, picture.height)) {
    ++work.starved;
    is_starving = true;
    starved_bytes += bytes;
    return std::nullopt;
  }
  bytes_left -=
      std::min(bytes_left, bytes);  // one picture may be larger than what is left, or it would never come
  if (at) sprite.state = PictureState::ready, sprite.page = at->page, sprite.cell = at->cell;
  return sprite;
}

bool GlyphCache::State::forget_oldest(PictureKind kind) {
  std::optional<std::uint16_t> page = pages.find_oldest(kind);
  const bool other = !page;
  if (other) page = pages.find_oldest_of_others(kind);
  if (!page) return false;
  rebuild(table.size(),
          [&](const Entry& e) { return e.sprite.state != PictureState::ready || e.sprite.page != *page; });
  other ? pages.vacate(*page) : pages.clear(*page);
  ++epoch;
  ++work.forgotten;
  return true;
}

void GlyphCache::State::sweep() {
  constexpr std::uint64_t kRest = 30, kToAsk = 3;
  if (!is_sweeping) {
    if (!is_starving || (swept_at != 0 && pages.frame() < swept_at + kRest)) return;
    is_sweeping = true;
    swept_at = pages.frame();
    pages.ask_again();
    ++epoch;
    return;
  }
  if (pages.frame() < swept_at + kToAsk) return;
  if (!repack_worst_page()) is_sweeping = false;
}

void GlyphCache::State::note_starving(Notes* notes) {
  if (!is_starving) {
    if (work.held == 0) starving_noted = false;
    return;
  }
  if (notes == nullptr || starving_noted || is_sweeping) return;
  starving_noted = true;
  const float needed =
      static_cast<float>(pages.bytes()) + static_cast<float>(work.held + starved_bytes) * 1.25F;
  notes->add({.kind = NoteKind::small_cache, .wanted = needed, .given = static_cast<float>(options.budget)});
}

bool GlyphCache::State::is_stale(const Entry& e) const {
  return e.used && e.sprite.state == PictureState::ready && e.asked < swept_at && !(e.key == detail::kBarKey);
}

bool GlyphCache::State::repack_worst_page() {
  std::vector<std::size_t> stale(pages.infos().size());
  for (const Entry& e : table) {
    if (is_stale(e)) stale[e.sprite.page] += std::size_t{e.sprite.cell[2]} * e.sprite.cell[3];
  }
  const auto worst = std::max_element(stale.begin(), stale.end());
  if (worst == stale.end()) return false;
  const auto page = static_cast<std::uint16_t>(worst - stale.begin());
  const std::size_t all = static_cast<std::size_t>(pages.infos()[page].width) *
                          static_cast<std::size_t>(pages.infos()[page].height);
  if (*worst * 8 < all || all == 0) return false;
  rebuild(table.size(), [&](const Entry& e) { return !is_stale(e) || e.sprite.page != page; });
  std::vector<std::array<std::uint16_t, 4>*> cells;
  for (Entry& e : table) {
    if (e.used && e.sprite.state == PictureState::ready && e.sprite.page == page) {
      cells.push_back(&e.sprite.cell);
    }
  }
  ++epoch;
  return pages.repack(page, cells);
}

}  // namespace grafema
