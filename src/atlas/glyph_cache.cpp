// SPDX-License-Identifier: MIT
// The live cache: what was asked for, what is being made, where it stands, what is forgotten next.
#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/atlas/bake.hpp"

#include <algorithm>
#include <bit>
#include <cmath>
#include <map>
#include <mutex>

#include "atlas/glyph_cache_state.hpp"

namespace grafema {
namespace {

std::size_t slot_of(const GlyphKey& key, std::size_t slots) {
  std::uint64_t h = static_cast<std::uint64_t>(key.face) ^
                    (std::uint64_t{index_of(key.glyph)} * 0x9E3779B97F4A7C15U) ^
                    (std::uint64_t{key.quarter_px} << 40U) ^ (std::uint64_t{key.phase} << 60U);
  h ^= h >> 29U;
  h *= 0xBF58476D1CE4E5B9U;
  return static_cast<std::size_t>(h >> 20U) & (slots - 1);
}

}  // namespace

GlyphCache::State::Entry* GlyphCache::State::find(const GlyphKey& key) {
  for (std::size_t slot = slot_of(key, table.size()); table[slot].used;
       slot = (slot + 1) & (table.size() - 1)) {
    if (table[slot].key == key) return &table[slot];
  }
  return nullptr;
}

GlyphCache::State::Entry& GlyphCache::State::add(const GlyphKey& key) {
  if ((used + 1) * 2 > table.size()) rebuild(table.size() * 2, [](const Entry&) { return true; });
  std::size_t slot = slot_of(key, table.size());
  while (table[slot].used) slot = (slot + 1) & (table.size() - 1);
  ++used;
  table[slot] = {key, {}, true, false, pages.frame()};
  return table[slot];
}

bool GlyphCache::State::start(const GlyphKey& key) {
  const std::shared_ptr<const Face>& face =
      faces.find(key.face)->second;  // no entry is made for faces that are not there
  if (options.workers != nullptr) {
    options.workers->post([shared = shared, face, key] {
      std::unique_ptr<detail::LiveMaker> one = shared->take_maker();
      LivePicture made = detail::make_picture(*one, *shared, *face, key);
      shared->give_back(std::move(one));
      const std::lock_guard lock(shared->mutex);
      shared->done.push_back(std::move(made));
    });
    return false;
  }
  const bool in_time = time_left > Clock::duration::zero() && (made_this_frame == 0 || expected <= time_left);
  if (!in_time || bytes_left == 0 || is_starving) {
    queue.push_back(key);
    return false;
  }
  return make_now(*face, key);
}

bool GlyphCache::State::make_now(const Face& face, const GlyphKey& key) {
  const Clock::time_point begun = Clock::now();
  if (!maker) maker = std::make_unique<detail::LiveMaker>(*shared);
  LivePicture made = maker->measure(face, key);
  const std::optional<GlyphPicture> sprite = find_place(made);
  if (!sprite) {
    queue.push_back(key);
    return false;
  }
  if (sprite->state == PictureState::ready) {
    const PixelPoint at{static_cast<float>(sprite->cell[0]), static_cast<float>(sprite->cell[1])};
    made.failed = !maker->paint(face, made, at, pages.image(sprite->page));
  }
  settle(made, *sprite);
  const Clock::duration took = Clock::now() - begun;
  time_left -= took;
  expected = expected == Clock::duration::zero() ? took : (expected * 7 + took) / 8;
  ++made_this_frame;
  ++work.made;
  return true;
}

void GlyphCache::State::hold(LivePicture&& picture) {
  const std::size_t bytes = picture.image.bytes().size();
  if (work.held + bytes > options.budget / 2) {
    if (Entry* entry = find(picture.key); entry != nullptr) entry->dropped = true;
    return;
  }
  work.held += bytes;
  unplaced.push_back(std::move(picture));
}

bool GlyphCache::State::place_all() {
  std::vector<LivePicture> waiting;
  waiting.swap(unplaced);
  work.held = 0;
  bool any = false;
  for (std::vector<LivePicture>* list : {&waiting, &arrived}) {
    for (LivePicture& picture : *list) {
      if (place(picture)) {
        any = true;
      } else {
        hold(std::move(picture));
      }
    }
  }
  arrived.clear();
  return any;
}

bool GlyphCache::State::place(const LivePicture& picture) {
  const std::optional<GlyphPicture> sprite = find_place(picture);
  if (!sprite) return false;
  if (sprite->state == PictureState::ready) pages.put({sprite->page, sprite->cell}, picture.image);
  settle(picture, *sprite);
  return true;
}

void GlyphCache::State::settle(const LivePicture& picture, const GlyphPicture& sprite) {
  if (picture.failed && failures.size() < kMaxFailures) failures.push_back(picture.key);
  Entry* entry = find(picture.key);
  if (entry == nullptr) entry = &add(picture.key);
  entry->sprite = sprite;
  if (picture.failed) entry->sprite.state = PictureState::empty, entry->sprite.cell = {};
  entry->dropped = false;
}

GlyphPicture GlyphCache::State::stand_in(const GlyphKey& key) {
  GlyphPicture best{.state = PictureState::waiting};
  if (options.kind == PictureKind::coverage) {
    for (const Entry& e : table) {
      const bool same = e.used && e.key.face == key.face && e.key.glyph == key.glyph &&
                        e.sprite.state == PictureState::ready;
      if (same && (best.cell[2] == 0 || std::abs(e.sprite.size - detail::size_of(shared->plain, key)) <
                                            std::abs(best.size - detail::size_of(shared->plain, key)))) {
        best = e.sprite;
      }
    }
  }
  if (best.cell[2] == 0 && options.bars) {
    if (find(detail::kBarKey) == nullptr && bytes_left > 0) (void)place(detail::make_bar(shared->plain));
    if (const Entry* bar = find(detail::kBarKey);
        bar != nullptr && bar->sprite.state == PictureState::ready) {
      best = bar->sprite;
    }
  }
  best.state = PictureState::waiting;
  return best;
}

GlyphPicture GlyphCache::State::resolve(const GlyphKey& wish) {
  const GlyphKey key = normal(wish);
  Entry* entry = find(key);
  if (entry == nullptr && faces.find(key.face) == faces.end()) return {};
  if (entry != nullptr) entry->asked = pages.frame();
  if (entry == nullptr || entry->dropped) {
    if (entry == nullptr) entry = &add(key);
    entry->sprite.state = PictureState::waiting;
    entry->dropped = false;
    start(key);
    entry = find(key);
  }
  GlyphPicture sprite = entry->sprite.state == PictureState::waiting ? stand_in(key) : entry->sprite;
  if (sprite.cell[2] > 0) pages.keep(sprite.page);
  return sprite;
}

namespace {

Result<AtlasRecipe> recipe_of(const GlyphCacheOptions& o, PictureKind kind, float size) {
  AtlasRecipe recipe;
  recipe.kind = kind;
  recipe.size = size;
  recipe.reach = o.reach;
  recipe.gap = o.gap;
  recipe.phases = kind == o.kind ? o.phases : 1;
  recipe.fit_rows = kind == o.kind && o.fit_rows;
  recipe.palette = o.palette;
  recipe.read_picture = o.read_picture;
  recipe.max_page = o.largest_page;
  if (const Result<void> checked = detail::check_pictures(recipe); !checked) return fail(checked.error());
  return recipe;
}

bool is_page(const PageSize& size) {
  return size.width >= 64 && size.width <= 4096 && size.height >= 64 && size.height <= 4096;
}

}  // namespace

GlyphCache::GlyphCache(std::unique_ptr<State> state) : state_(std::move(state)) {}
GlyphCache::~GlyphCache() = default;

Result<std::unique_ptr<GlyphCache>> GlyphCache::make(const GlyphCacheOptions& options) {
  const Result<AtlasRecipe> plain = recipe_of(options, options.kind, options.size),
                            color = recipe_of(options, PictureKind::color, options.color_size);
  if (!plain) return fail(plain.error());
  if (!color) return fail(color.error());
  const PageSize &first = options.first_page, &largest = options.largest_page;
  if (!is_page(first) || !is_page(largest) || first.width > largest.width || first.height > largest.height) {
    return fail(make_error(ErrorKind::bad_value,
                           "pages of 64 to 4096 pixels a side, the largest not smaller than the first"));
  }
  const std::size_t most = static_cast<std::size_t>(largest.width) *
                           static_cast<std::size_t>(largest.height) *
                           bytes_per_pixel(page_format(options.kind, 8));
  if (options.budget < most) {
    return bad_value("a budget of one largest page at least");
  }
  auto state = std::make_unique<State>(options);
  state->shared->plain = *plain;
  state->shared->color = *color;
  state->shared->color_glyphs = options.color_glyphs;
  state->bytes_left = options.frame_bytes;
  state->time_left = options.frame_time;
  return std::unique_ptr<GlyphCache>(new GlyphCache(std::move(state)));
}

Result<void> GlyphCache::add(const std::shared_ptr<const Face>& face) {
  if (state_->faces.count(face->id()) != 0) return {};
  if (const Result<void> permitted = detail::check_permission(*face); !permitted) return permitted;
  // Labels that were told that a glyph is absent ask again.
  if (state_->faces.emplace(face->id(), face).second) ++state_->epoch;
  return {};
}

Result<void> GlyphCache::add(const FontStack& stack) {
  for (const StackFace& face : stack) {
    const std::shared_ptr<const GlyphMetrics>& metrics = face.metrics;
    if (metrics->face() == nullptr) continue;
    // The face lives as long as whoever offers it: one pointer for both.
    if (const Result<void> added = add(std::shared_ptr<const Face>(metrics, metrics->face())); !added) {
      return added;
    }
  }
  return {};
}

void GlyphCache::begin_frame(Notes* notes) {
  State& s = *state_;
  s.note_starving(notes);
  s.pages.begin_frame();
  s.made_this_frame = 0;
  s.sweep();
  s.is_starving = false;
  s.starved_bytes = 0;
  s.bytes_left = s.options.frame_bytes;
  s.time_left = s.options.frame_time;
  {
    const std::lock_guard lock(s.shared->mutex);
    s.arrived.swap(s.shared->done);
  }
  s.work.made += s.arrived.size();
  bool any = s.place_all();
  std::vector<GlyphKey> queue;
  queue.swap(s.queue);
  for (const GlyphKey& key : queue) any = s.start(key) || any;
  if (any) ++s.epoch;
  for (const GlyphKey& key : s.failures) {
    if (notes == nullptr) break;
    notes->add({.kind = NoteKind::damaged_glyph,
                .position = index_of(key.glyph),
                .face = s.faces.find(key.face)->second->title()});
  }
  if (notes != nullptr) s.failures.clear();
}

void GlyphCache::request(std::span<const GlyphKey> keys) {
  for (const GlyphKey& key : keys) (void)state_->resolve(key);
}

const GlyphCacheWork& GlyphCache::work() const {
  State& s = *state_;
  s.work.bytes = s.pages.bytes();
  s.work.copied = s.pages.copied();
  s.work.waiting =
      static_cast<std::size_t>(std::count_if(s.table.begin(), s.table.end(), [](const State::Entry& e) {
        return e.used && e.sprite.state == PictureState::waiting;
      }));
  return s.work;
}

std::uint64_t GlyphCache::epoch() const noexcept { return state_->epoch; }

void GlyphCache::resolve(std::span<const GlyphKey> keys, std::span<GlyphPicture> out) {
  // A picture made for one key may push a page out on which one answered before stands: then all are answered
  // again.
  constexpr int kRounds = 3;
  for (int round = 0; round < kRounds; ++round) {
    const std::uint64_t before = state_->epoch;
    for (std::size_t i = 0; i < keys.size(); ++i) {
      State::Entry* entry = state_->find(state_->normal(keys[i]));
      const bool there = entry != nullptr && entry->sprite.state == PictureState::ready;
      if (there) state_->pages.keep(entry->sprite.page), entry->asked = state_->pages.frame();
      out[i] = there ? entry->sprite : state_->resolve(keys[i]);
    }
    if (state_->epoch == before) return;
  }
}

void GlyphCache::keep(std::span<const std::uint16_t> pages) noexcept {
  for (const std::uint16_t page : pages) state_->pages.keep(page);
}
std::span<const PageInfo> GlyphCache::pages() const noexcept { return state_->pages.infos(); }
ImageView GlyphCache::pixels(std::uint16_t page) const { return state_->pages.pixels(page); }
ImageView GlyphCache::mipmap_pixels(std::uint16_t page) const {
  return state_->far.follow(*this, page, [&](auto add) {
    for (const State::Entry& entry : state_->table) {
      const bool is_there =
          entry.used && entry.sprite.state == PictureState::ready && entry.sprite.page == page;
      if (is_there) add(entry.sprite.cell, entry.sprite.reach);
    }
  });
}
std::size_t GlyphCache::changes_since(std::uint16_t page, std::uint64_t revision,
                                      std::span<PixelRect> out) const noexcept {
  return state_->pages.changes_since(page, revision, out);
}

}  // namespace grafema
