// SPDX-License-Identifier: MIT
// The order in which glyphs are drawn, batches of it, and parts of which nothing is seen.
#include <algorithm>
#include <bit>
#include <tuple>

#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

bool SceneState::is_before(std::uint32_t a, std::uint32_t b) const {
  const auto key = [this](std::uint32_t i) {
    const StillLabel& s = still[i];
    return std::tuple(groups[s.group].order, s.group, s.order, s.sequence, s.rank);
  };
  return key(a) < key(b);
}

namespace {

/// Of a label that needs more arrays than a call has, or images, of which a call has one of a kind, or that
/// is not painted onto the target straight away.
bool is_batched_by_entry(const detail::StillLabel& s) {
  constexpr SceneFeature kParted = SceneFeature::images | SceneFeature::grain | SceneFeature::mirrors |
                                   SceneFeature::joins | SceneFeature::fades;
  return std::popcount(s.arrays) > SceneBatch::kMaxArrays || has_any(s.features, kParted);
}

}  // namespace

void SceneState::place_slots(std::uint32_t i, std::span<const std::uint32_t> slots) {
  StillLabel& s = still[i];
  const auto wanted = static_cast<std::uint32_t>(slots.size());
  const bool seen = moving[i].seen;
  if (seen) count_in_chunks(s, false);
  if (wanted > s.slot_room) {
    const auto end = static_cast<std::uint32_t>(tables.order.size());
    const bool had_room = s.slot_room > 0, is_last = had_room && s.first_slot + s.slot_room == end;
    if (!is_last) {
      free_slots(i);
      while (!drawn.empty() && !is_drawn(drawn.back())) drawn.pop_back();
      // In front of all others it may stand at the end; else all are put in order again.
      if (!drawn.empty() && !is_before(drawn.back().label, i)) order_stale = true;
      s.first_slot = end;
      drawn.push_back({i, end});
    }
    s.lively = s.lively || had_room;
    s.slot_room = s.lively ? wanted + wanted / 4 + 2 : wanted;
    tables.order.resize(s.first_slot + s.slot_room, kNoGlyph);
    chunks.resize((tables.order.size() + kChunk - 1) / kChunk);
    batches_stale = true;
  }
  const std::span<std::uint32_t> to = tables.order.change(s.first_slot, s.slot_room, next);
  // Batches of such a label begin where its entries do.
  batches_stale = batches_stale || is_batched_by_entry(s);
  std::copy(slots.begin(), slots.end(), to.begin());
  std::fill(to.begin() + wanted, to.end(), kNoGlyph);
  s.slots = wanted;
  if (seen) count_in_chunks(s, true);
}

/// Its entries show nothing from now on.
void SceneState::free_slots(std::uint32_t i) {
  StillLabel& s = still[i];
  if (s.slot_room == 0) return;
  const std::span<std::uint32_t> old = tables.order.change(s.first_slot, s.slot_room, next);
  std::fill(old.begin(), old.end(), kNoGlyph);
  dead_slots += s.slot_room;
  s.slot_room = s.slots = 0;
  batches_stale = true;
}

/// All entries anew, without holes.
void SceneState::write_order() {
  constexpr std::uint32_t kFewHoles = 4096;
  if (!order_stale && dead_slots <= std::max<std::size_t>(kFewHoles, tables.order.size() / 2)) return;
  ++work.orders;
  order_stale = false;
  dead_slots = 0;
  std::erase_if(drawn, [this](const Drawn& d) { return !is_drawn(d); });
  std::sort(drawn.begin(), drawn.end(),
            [this](const Drawn& a, const Drawn& b) { return is_before(a.label, b.label); });
  order_made.clear();
  order_made.reserve(tables.order.size());
  for (Drawn& d : drawn) {
    StillLabel& s = still[d.label];
    const std::span<const std::uint32_t> old = tables.order.all().subspan(s.first_slot, s.slots);
    s.first_slot = d.first_slot = static_cast<std::uint32_t>(order_made.size());
    s.slot_room = s.lively ? s.slots + s.slots / 4 + 2 : s.slots;
    order_made.insert(order_made.end(), old.begin(), old.end());
    order_made.resize(s.first_slot + s.slot_room, kNoGlyph);
  }
  tables.order.assign(order_made, next);
  batches_stale = chunks_stale = true;
}

namespace {

/// Stretches of fewer entries than this are drawn by their neighbors' program, if need be a richer one: a
/// call costs more than they do.
constexpr std::uint32_t kFewEntries = 512;

bool can_join(const SceneBatch& a, const SceneBatch& b) {
  if (a.target != b.target || a.is_composite || b.is_composite ||
      has_any(a.features, SceneFeature::pixelated) != has_any(b.features, SceneFeature::pixelated))
    return false;
  if (std::popcount(a.arrays | b.arrays) > SceneBatch::kMaxArrays) return false;
  if (!a.images.fit(b.images)) return false;
  const bool alike = a.arrays == b.arrays && a.features == b.features;
  return alike || a.count < kFewEntries || b.count < kFewEntries;
}

void join(SceneBatch& a, const SceneBatch& b) {
  a.count = b.first + b.count - a.first;
  a.arrays |= b.arrays, a.features |= b.features;
  a.images.add(b.images);
}

}  // namespace

void SceneState::add_batch(const SceneBatch& batch) {
  if (batch.count == 0) return;
  if (!all_batches.empty() && can_join(all_batches.back(), batch)) {
    join(all_batches.back(), batch);
  } else {
    all_batches.push_back(batch);
  }
}

void SceneState::add_batches_by_entry(const StillLabel& s, SceneFeature features) {
  for (std::uint32_t k = s.first_slot; k < s.first_slot + s.slots; ++k) {
    add_batch(batch_of_entry(s, k, features));
  }
}

void SceneState::find_batches() {
  batches_stale = false;
  all_batches.clear();
  std::erase_if(drawn, [this](const Drawn& d) { return !is_drawn(d); });
  for (const Drawn& d : drawn) {
    const StillLabel& s = still[d.label];
    const SceneFeature features = s.features | static_cast<SceneFeature>(s.zoom) |
                                  (s.pixelated ? SceneFeature::pixelated : SceneFeature::none);
    if (is_batched_by_entry(s)) {
      add_batches_by_entry(s, features);
    } else {
      add_batch({s.first_slot, s.slot_room, s.arrays, features});
    }
  }
  chunks_stale = true;
}

void SceneState::count_in_chunks(const StillLabel& label, bool more) {
  if (label.slot_room == 0) return;
  const std::uint32_t last = (label.first_slot + label.slot_room - 1) / kChunk;
  for (std::uint32_t c = label.first_slot / kChunk; c <= last; ++c) {
    const bool was_empty = chunks[c] == 0;
    more ? ++chunks[c] : --chunks[c];
    if (was_empty || chunks[c] == 0) trim_stale = true;
  }
}

void SceneState::count_chunks() {
  chunks_stale = false;
  chunks.assign((tables.order.size() + kChunk - 1) / kChunk, 0);
  for (const Drawn& d : drawn) {
    if (is_drawn(d) && moving[d.label].seen) count_in_chunks(still[d.label], true);
  }
  trim_stale = true;
}

/// Leaves out what is not seen, where that is much: so many chunks in a row.
void SceneState::trim_batches() {
  constexpr std::uint32_t kMuch = 4 * kChunk;
  trim_stale = false;
  batches.clear();
  for (const SceneBatch& all : all_batches) {
    const std::uint32_t end = all.first + all.count;
    SceneBatch part = all;
    part.count = 0;
    for (std::uint32_t c = all.first / kChunk; c * kChunk < end; ++c) {
      if (chunks[c] == 0) continue;
      const std::uint32_t from = std::max(all.first, c * kChunk), to = std::min(end, (c + 1) * kChunk);
      if (part.count > 0 && from - (part.first + part.count) < kMuch) {
        part.count = to - part.first;
        continue;
      }
      if (part.count > 0) batches.push_back(part);
      part.first = from, part.count = to - from;
    }
    if (part.count > 0) batches.push_back(part);
  }
}

void SceneState::publish() {
  memory.glyphs_ = tables.glyphs.all(), memory.rows_ = tables.rows.all(), memory.heads_ = tables.heads.all();
  memory.order_ = tables.order.all(), memory.layers_ = tables.layers.all();
  memory.clips_ = tables.clips.all(), memory.motions_ = tables.motions.all();
  memory.boxes_ = tables.boxes.all(), memory.arrays_ = arrays, memory.batches_ = batches;
  memory.view_ = *view;
  memory.clock_ = static_cast<float>(clock - clock_base);
  memory.revision_ = next++;
}

std::size_t SceneMemory::changes_since(SceneTable table, std::uint64_t revision,
                                       std::span<IndexRange> out) const {
  if (changes_ == nullptr) return 0;
  switch (table) {
    case SceneTable::glyphs:
      return changes_->glyphs.since(revision, out);
    case SceneTable::rows:
      return changes_->rows.since(revision, out);
    case SceneTable::heads:
      return changes_->heads.since(revision, out);
    case SceneTable::order:
      return changes_->order.since(revision, out);
    case SceneTable::layers:
      return changes_->layers.since(revision, out);
    case SceneTable::clips:
      return changes_->clips.since(revision, out);
    case SceneTable::motions:
      return changes_->motions.since(revision, out);
    case SceneTable::boxes:
      break;
  }
  return changes_->boxes.since(revision, out);
}

}  // namespace grafema
