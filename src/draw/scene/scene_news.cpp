// SPDX-License-Identifier: MIT
// What changed of contexts since a scene looked last: fonts, looks, words, pages.
#include <algorithm>
#include <cmath>

#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

/// A context that has other fonts, looks or words since.
void SceneState::catch_up(std::uint8_t number) {
  detail::SceneContext& c = contexts[number];
  TextContext& context = *c.context;
  if (c.revision != context.revision() || c.source != context.source().id()) {
    c.revision = context.revision(), c.source = context.source().id();
    forget_context(number);
  }
  if (c.looks_revision != context.looks().revision()) follow_looks(number);
  const MessageBook& book = context.messages();
  const bool has_news = c.styles_revision != context.styles().revision() ||
                        c.messages_revision != book.revision() || book.clock() >= c.next_change;
  if (has_news) follow_books(number);
}

/// Labels that show messages, or have named styles.
void SceneState::follow_books(std::uint8_t number) {
  detail::SceneContext& c = contexts[number];
  c.styles_revision = c.context->styles().revision(), c.messages_revision = c.context->messages().revision();
  c.next_change = INFINITY;
  for (const std::uint32_t i : followers) {
    const LabelContent* own = still[i].context == number ? content_of(i) : nullptr;
    if (own == nullptr || still[i].contents_stale) continue;  // it is asked when it is written
    if (own->has_news()) {
      touch_contents(i);
    } else if (own->message) {
      c.next_change = std::min(c.next_change, own->message->next_change);
    }
  }
}

/// Fonts or source are others: nothing that its labels draw holds, and pages of a source that is gone are no
/// longer looked at.
void SceneState::forget_context(std::uint8_t number) {
  detail::SceneContext& c = contexts[number];
  for (std::uint32_t i = 0; i < still.size(); ++i) {
    if (!is_alive(i) || still[i].context != number) continue;
    set_seen(i, false);
    free_slots(i);
    still[i].pages = 0, still[i].arrays = 0;
    touch_contents(i);
  }
  c.page_epochs.clear();
  c.scratch_held.reset();
  numbers.clear();
  for (SceneArray& array : arrays) {
    const bool is_used =
        std::any_of(contexts.begin(), contexts.end(), [&](const detail::SceneContext& other) {
          return !other.life.expired() && &other.context->source() == array.source;
        });
    if (!is_used) array = {};  // its number is given out again
  }
}

void SceneState::drop_dead_contexts() {
  for (std::uint8_t c = 0; c < contexts.size(); ++c) {
    if (contexts[c].context == nullptr || !contexts[c].life.expired()) continue;
    note(NoteKind::gone_handle, "labels whose context was destroyed");
    for (std::uint32_t i = 0; i < still.size(); ++i) {
      if (is_alive(i) && still[i].context == c) remove(i);
    }
    forget_context(c);
    contexts[c].context = nullptr;
  }
}

void SceneState::follow_looks(std::uint8_t number) {
  detail::SceneContext& c = contexts[number];
  c.looks_revision = c.context->looks().revision();
  looks_changed.clear();
  layers.follow(number, c.context->looks(), tables.layers, next, looks_changed);
  if (!looks_changed.empty()) numbers.clear(), batches_stale = true;
  for (std::uint32_t i = 0; i < still.size() && !looks_changed.empty(); ++i) {
    if (!is_alive(i) || still[i].context != number) continue;
    const bool is_its_own =
        std::find(looks_changed.begin(), looks_changed.end(), still[i].look) != looks_changed.end();
    if (is_its_own || content_of(i) != nullptr) touch_contents(i);
  }
}

/// Labels whose pictures may have gone, and those that wait for one.
void SceneState::follow_pages(std::uint8_t number) {
  detail::SceneContext& c = contexts[number];
  if (c.context == nullptr) return;  // it was destroyed
  GlyphSource& source = c.context->source();
  if (c.source_epoch == source.epoch() && c.page_epochs.size() == source.pages().size()) return;
  c.source_epoch = source.epoch();
  std::uint64_t gone = 0;
  c.page_epochs.resize(source.pages().size());
  for (std::size_t p = 0; p < c.page_epochs.size(); ++p) {
    const std::uint64_t now = source.pages()[p].epoch != 0 ? source.pages()[p].epoch : c.source_epoch;
    if (c.page_epochs[p] != now && c.page_epochs[p] != 0) gone |= std::uint64_t{1} << (p % 64);
    c.page_epochs[p] = now;
  }
  if (gone != 0) numbers.clear();
  for (std::uint32_t i = 0; i < still.size() && gone != 0; ++i) {
    if (is_alive(i) && still[i].context == number && (still[i].pages & gone) != 0) touch_pictures(i);
  }
  std::size_t kept = 0;
  for (const std::uint32_t i : unsettled) {
    if (!is_alive(i) || !still[i].unsettled) continue;
    if (still[i].context != number) {
      unsettled[kept++] = i;
    } else {
      still[i].unsettled = false;
      touch_pictures(i);
    }
  }
  unsettled.resize(kept);
}

}  // namespace grafema
