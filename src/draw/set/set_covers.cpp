// SPDX-License-Identifier: MIT
// Labels of a set that are painted beside the target first: joined layers, and labels that fade.
#include <algorithm>
#include <cmath>

#include "draw/covers.hpp"
#include "draw/set/set_state.hpp"

namespace grafema {

/// One that is not seen at all is left as it is: it may come back either way.
bool LabelSet::State::wants_to_fade(std::uint32_t i) const {
  const std::uint8_t alpha = tint_of(i)[3];
  return alpha == 0 ? still[i].fades : still[i].overlaps && alpha < 255;
}

/// What fades has entries that others have not.
void LabelSet::State::follow_fading(std::uint32_t i) {
  if (!still[i].contents_stale && wants_to_fade(i) != still[i].fades) touch_contents(i);
}

void LabelSet::State::find_covers(std::uint32_t i, const Label::State& label) {
  const StillLabel& s = still[i];
  const LookBook& looks = contexts[s.context].context->looks();
  covers_made.clear();
  auto glyph = static_cast<std::uint32_t>(label.quads.size());
  for (const Variant& variant : label.variants) {
    const LookId look = label.look_of(variant);
    const bool is_known = std::any_of(covers_made.begin(), covers_made.end(),
                                      [look](const Cover& cover) { return cover.look == look; });
    if (variant.panel || is_known || !detail::has_joined_layers(looks.get(look))) continue;
    covers_made.push_back({QuadKind::joined, look, glyph++});
  }
  if (s.fades) covers_made.push_back({QuadKind::faded, label.look, glyph});
}

/// False where the table of layers is full.
bool LabelSet::State::write_covers(std::uint32_t i, const Label::State& label) {
  if (covers_made.empty()) return true;
  const LookBook& looks = contexts[still[i].context].context->looks();
  const Rect extent = detail::cover_extent(label, looks, still[i].extent);
  for (Cover& cover : covers_made) {
    cover.is_there = write_cover(i, cover, extent, label.paragraph.size);
    if (cover.is_there) continue;
    if (arrays.size() < kMaxArrays) return false;
    note_crowded(label, "what needs more than 32 texture arrays is left out");
  }
  return true;
}

/// False where there is no room for what it needs.
bool LabelSet::State::write_cover(std::uint32_t i, const Cover& cover, const Rect& extent, float size) {
  const StillLabel& s = still[i];
  Variant variant = detail::cover_variant(cover.kind, size);
  const auto found =
      layers.find(s.context, contexts[s.context].context->looks(), variant, cover.look, tables.layers, next);
  if (!found) return false;
  const std::uint32_t array = array_number(s.context, variant);
  if (array >= kMaxArrays) return false;
  const LocalQuad q = detail::cover_quad(extent);
  GlyphRecord& record = tables.glyphs.change(s.first_glyph + cover.glyph, next);
  record = {};
  record.x = q.x, record.y = q.y, record.cell = q.cell, record.row = i;
  record.record = found->first;
  record.page = static_cast<std::uint16_t>(array * 2048U);
  return true;
}

void LabelSet::State::add_slots(std::uint32_t i, const QuadRun& run, std::uint32_t layer) {
  for (std::uint32_t q = run.first; q < run.first + run.count; ++q) {
    slots_made.push_back((still[i].first_glyph + q) * 8 + layer);
  }
}

/// All runs of a look as one shape, when the first of them comes up, and then its cover.
void LabelSet::State::add_joined_slots(std::uint32_t i, const Label::State& label, const QuadRun& first,
                                       std::uint32_t layer) {
  const LookId id = label.look_of(label.variants[first.variant]);
  const Look& look = contexts[still[i].context].context->looks().get(id);
  const auto is_of_shape = [&](const QuadRun& run) {
    const Variant& variant = label.variants[run.variant];
    return label.look_of(variant) == id && detail::is_joined(look, layer, variant);
  };
  if (&first != &*std::find_if(label.runs.begin(), label.runs.end(), is_of_shape)) return;
  for (const QuadRun& run : label.runs) {
    if (is_of_shape(run)) add_slots(i, run, layer);
  }
  const auto cover =
      std::find_if(covers_made.begin(), covers_made.end(), [id](const Cover& c) { return c.look == id; });
  if (cover->is_there) slots_made.push_back((still[i].first_glyph + cover->glyph) * 8 + layer);
}

/// An entry of a label as a batch of its own.
SetBatch LabelSet::State::batch_of_entry(const StillLabel& s, std::uint32_t slot,
                                         std::uint32_t features) const {
  const std::uint32_t entry = tables.order[slot];
  const GlyphRecord& glyph = tables.glyphs[entry / 8];
  const std::uint32_t record = glyph.record + (entry & 7U), array = glyph.page / 2048U;
  const Onto own = s.fades ? Onto::sheet : Onto::target;
  SetBatch batch{slot, 1, 1U << array, features & ~(kJoins | kFades), layers.images_of(record)};
  if (layers.joins(record)) {
    batch.onto = Onto::shape, batch.features = (features & kOfShapes) | kJoins, batch.images = {};
    return batch;
  }
  batch.is_cover = is_cover(arrays[array].kind);
  if (arrays[array].kind == QuadKind::faded) {
    batch.features = 0, batch.images = {};
    return batch;
  }
  batch.onto = own;
  if (s.fades) batch.features |= kFades;
  if (batch.is_cover) batch.features &= ~(kMoves | kNear | kMinified | kFar | kPixelated);
  return batch;
}

}  // namespace grafema
