// SPDX-License-Identifier: MIT
// What the live cache keeps: entries by key, pages, pictures on their way.
#pragma once

#include <algorithm>
#include <map>

#include "atlas/live_pages.hpp"
#include "atlas/live_pictures.hpp"
#include "atlas/mipmaps.hpp"
#include "grafema/atlas/glyph_cache.hpp"

namespace grafema {

struct GlyphCache::State {
  using Clock = std::chrono::steady_clock;
  using LivePicture = detail::LivePicture;

  struct Entry {
    GlyphKey key;
    GlyphPicture sprite;
    bool used = false;
    bool dropped =
        false;  // its picture found no room to wait in: it is made again when it is asked for again
    std::uint64_t asked = 0;  // the frame in which it was asked for last
  };

  explicit State(const GlyphCacheOptions& wanted)
      : size_mask(wanted.kind == PictureKind::coverage ? 0xFFFF : 0),
        phase_mask(static_cast<std::uint8_t>(wanted.phases == 4   ? 3
                                             : wanted.phases == 2 ? 2
                                                                  : 0)),
        options(wanted),
        shared(std::make_shared<detail::SharedPictures>()),
        pages(wanted.gap, wanted.first_page, wanted.largest_page, wanted.budget),
        table(256) {}

  std::uint16_t size_mask;  // which bits of a wish tell pictures apart
  std::uint8_t phase_mask;
  GlyphCacheOptions options;
  std::shared_ptr<detail::SharedPictures> shared;
  detail::LivePages pages;
  detail::Mipmaps far;
  std::map<FaceId, std::shared_ptr<const Face>> faces;
  std::vector<Entry> table;  // a power of two of slots, open addressing
  std::size_t used = 0;
  std::vector<GlyphKey> queue;        // to be made on this thread
  std::vector<LivePicture> unplaced;  // made, no room or no budget yet
  std::vector<LivePicture> arrived;
  static constexpr std::size_t kMaxFailures = 256;
  std::vector<GlyphKey> failures;  // not noted yet
  std::uint64_t epoch = 1;
  std::size_t bytes_left = 0;
  Clock::duration time_left{};
  Clock::duration expected{};       // what a picture takes on this thread, of late
  std::size_t made_this_frame = 0;  // on this thread
  std::unique_ptr<detail::LiveMaker> maker;
  bool is_starving = false;  // a picture found no room in this frame
  bool starving_noted = false;
  std::size_t starved_bytes = 0;  // of the pictures that found none in this frame
  std::uint64_t swept_at = 0;     // the frame in which labels were last told to ask again
  bool is_sweeping = false;
  GlyphCacheWork work;

  /// The key of the picture that serves a wish.
  GlyphKey normal(GlyphKey key) const {
    key.quarter_px &= size_mask;
    key.phase &= phase_mask;
    return key;
  }

  Entry* find(const GlyphKey& key);
  Entry& add(const GlyphKey& key);
  template <class Keep>
  void rebuild(std::size_t slots, Keep keep) {
    std::vector<Entry> old(slots);
    old.swap(table);
    used = 0;
    for (const Entry& entry : old) {
      if (entry.used && keep(entry)) add(entry.key) = entry;
    }
  }

  /// Begins to make what an entry waits for. True where it is there at once.
  bool start(const GlyphKey& key);
  /// Makes a picture on this thread, straight into its place; true where it found one.
  bool make_now(const Face& face, const GlyphKey& key);
  /// Lets a picture wait for room, as long as not too many do.
  void hold(LivePicture&& picture);
  /// Places what waits, oldest first; what finds no room keeps its turn. True where any found some.
  bool place_all();
  /// Puts a picture that was made onto a page and into its entry; false where it must wait for room or for
  /// the next frame.
  bool place(const LivePicture& picture);
  /// The place of a picture as it will be shown; nothing where there is no room, or none in this frame.
  std::optional<GlyphPicture> find_place(const LivePicture& picture);
  void settle(const LivePicture& picture, const GlyphPicture& sprite);
  /// Forgets the page of a kind that has not been shown for longest, else one of another kind, whose memory
  /// then serves this one; false where all are shown.
  bool forget_oldest(PictureKind kind);
  /// Where pictures found no room though pages hold some that nobody shows any more: labels are made to ask
  /// again, then what was not asked for is dropped and its page packed anew, one page a frame.
  void sweep();
  /// Says once, until all have room again, that what is shown needs more than the budget.
  void note_starving(Notes* notes);
  bool is_stale(const Entry& e) const;
  bool repack_worst_page();
  /// What is shown until the picture is there: the glyph at another size, or a bar.
  GlyphPicture stand_in(const GlyphKey& key);
  GlyphPicture resolve(const GlyphKey& wish);
};

}  // namespace grafema
