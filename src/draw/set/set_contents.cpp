// SPDX-License-Identifier: MIT
// Writes what labels of a set draw: lays them out, asks for pictures, fills records and their order.
#include <algorithm>
#include <cassert>
#include <cmath>

#include "draw/covers.hpp"
#include "draw/set/set_state.hpp"

namespace grafema {
namespace {

constexpr std::uint32_t kArrayBit = 2048;  // GlyphRecord::page holds an array's index above its layer

std::int16_t eighths(float texels) {
  return static_cast<std::int16_t>(std::clamp(texels * 8, -32767.0F, 32767.0F));
}

}  // namespace

/// The label that shows it: its own, or one that lays out whatever it is told, with layout and pictures
/// ready.
Label::State& LabelSet::State::prepare(std::uint32_t i) {
  StillLabel& s = still[i];
  detail::SetContext& c = contexts[s.context];
  if (whole_of(i) != nullptr) {
    Label::State& label = s.extra->whole->state();
    label.prepare_pictures();
    return label;
  }
  Label::State& label = c.scratch->state();
  label.text.assign(s.text);
  if (c.scratch_held != s.style) {
    label.style = s.style->text;
    label.own_fonts = s.style->fonts;
    c.scratch_held = s.style;
  }
  label.look = s.look;
  static const StillLabel::Extra none;  // copied, so that the memory of what was there is kept
  label.motion = s.extra ? s.extra->motion : none.motion;
  label.name = s.extra ? s.extra->name : none.name;
  label.panel = s.extra ? s.extra->panel : none.panel;
  label.layout_stale = true;
  label.prepare_pictures();
  return label;
}

void LabelSet::State::measure(std::uint32_t i, const Label::State& label) {
  still[i].box = label.box;
  still[i].baseline = label.paragraph.lines.empty() ? 0 : label.paragraph.lines.front().baseline;
}

void LabelSet::State::write_contents(std::uint32_t i) {
  StillLabel& s = still[i];
  s.contents_stale = s.pictures_stale = s.even = false;
  Label::State& label = prepare(i);
  ++work.contents;
  if (notes != nullptr) hand_out_label_notes(label, *contexts[s.context].context, *notes);
  measure(i, label);
  s.extent = painted_extent(label, contexts[s.context].context->looks());
  const float reach = motion_reach_of(i, label);
  s.extent = {s.extent.left - reach, s.extent.top - reach, s.extent.right + reach, s.extent.bottom + reach};
  if (label.quads.empty()) s.extent = {};
  change_pages(i, pages_of(label));
  if (label.unsettled && !s.unsettled) unsettled.push_back(i);
  s.unsettled = label.unsettled;
  write_fill_boxes(i, label);
  tables.heads.change(i, next) = {s.box.width(), s.box.height(), label.paragraph.size,
                                  static_cast<float>(s.first_box)};
  s.texels = 1e6F, s.finest_texels = 0;
  for (const Variant& v : label.variants) {
    s.texels = std::min(s.texels, v.texels_per_pixel);
    s.finest_texels = std::max(s.finest_texels, v.texels_per_pixel);
  }
  write_glyphs(i, label);
  touch_row(i);
}

std::uint64_t LabelSet::State::pages_of(const Label::State& label) {
  std::uint64_t pages = 0;
  for (const std::uint16_t page : label.pages) pages |= std::uint64_t{1} << (page % 64U);
  return pages;
}

void LabelSet::State::change_pages(std::uint32_t i, std::uint64_t pages) {
  if (still[i].pages == pages) return;
  const bool seen = moving[i].seen;
  if (seen) set_seen(i, false);
  still[i].pages = pages;
  if (seen) set_seen(i, true);
}

float LabelSet::State::motion_reach_of(std::uint32_t i, const Label::State& label) const {
  if (!label.moving) return 0;
  float glyph = 0, reach = 0;
  for (const LocalQuad& q : label.quads) glyph = std::max({glyph, q.width, q.height});
  const float diagonal = std::hypot(still[i].box.width(), still[i].box.height()), size = label.paragraph.size;
  reach = detail::motion_reach(label.motion, size, glyph, diagonal);
  for (const Label::State::DrawnStyle& style : label.styles) {
    if (!style.own_motion) reach = std::max(reach, detail::motion_reach(style.motion, size, glyph, diagonal));
  }
  return reach;
}

void LabelSet::State::take_glyph_room(std::uint32_t i, std::uint32_t quads) {
  StillLabel& s = still[i];
  if (quads <= s.glyph_room && s.glyph_room <= quads * 2 + 8) return;
  glyph_ranges.give_back(s.first_glyph, s.glyph_room);
  s.glyph_room = detail::RangeBook::room_for(quads);
  s.first_glyph = s.glyph_room > 0 ? glyph_ranges.take(s.glyph_room) : 0;
  if (glyph_ranges.end() > tables.glyphs.size()) tables.glyphs.resize(glyph_ranges.end());
}

void LabelSet::State::free_boxes(std::uint32_t i) {
  if (still[i].box_room > 0) box_ranges.give_back(still[i].first_box, still[i].box_room);
  still[i].first_box = still[i].box_room = 0;
}

/// What fills of lines and of glyphs span, where the label has such. Heads count them as floats, exactly up
/// to here.
void LabelSet::State::write_fill_boxes(std::uint32_t i, const Label::State& label) {
  constexpr std::uint32_t kMaxBoxes = 1U << 24U, kMaxGlyphsOfLabel = 1U << 16U;
  StillLabel& s = still[i];
  label.find_fill_boxes(boxes_made);
  const auto count = static_cast<std::uint32_t>(boxes_made.size());
  if (count > s.box_room || count == 0) free_boxes(i);
  if (count == 0) return;
  if (s.box_room == 0) {
    if (count > kMaxGlyphsOfLabel || box_ranges.end() + count * 2 > kMaxBoxes) {
      return note_crowded(label, "fills of its lines and glyphs span the label");
    }
    s.box_room = detail::RangeBook::room_for(count);
    s.first_box = box_ranges.take(s.box_room);
    if (box_ranges.end() > tables.boxes.size()) tables.boxes.resize(box_ranges.end());
  }
  const std::span<FillBoxes> to = tables.boxes.change(s.first_box, count, next);
  std::copy(boxes_made.begin(), boxes_made.end(), to.begin());
}

/// A label that would need more glyphs than a set counts shows nothing.
void LabelSet::State::leave_out_too_many(std::uint32_t i, Label::State& label) {
  const std::size_t others = glyph_ranges.end() - still[i].glyph_room;
  if (others + label.quads.size() * 2 <= kMaxGlyphs) return;
  note_crowded(label, "what needs more than 2^28 glyphs is left out");
  label.quads.clear(), label.runs.clear();
}

void LabelSet::State::write_glyphs(std::uint32_t i, Label::State& label) {
  StillLabel& s = still[i];
  leave_out_too_many(i, label);
  s.overlaps = label.overlaps_itself();
  s.fades = wants_to_fade(i);
  find_covers(i, label);
  const auto count = static_cast<std::uint32_t>(label.quads.size());
  take_glyph_room(i, count + static_cast<std::uint32_t>(covers_made.size()));
  const std::span<GlyphRecord> records = tables.glyphs.change(s.first_glyph, count, next);
  slots_made.clear();
  std::uint32_t arrays_now = 0, features = moving[i].clip != 0 ? kClips : 0U;
  free_motions(i);
  for (std::size_t r = 0; r < label.runs.size(); ++r) {
    QuadRun& run = label.runs[r];
    Variant& variant = label.variants[run.variant];
    const std::uint32_t array = array_number(s.context, variant);
    if (array >= kMaxArrays) {  // no bit and no number for it
      run.count = 0;
      note_crowded(label, "glyphs beyond 32 texture arrays are left out");
    }
    if (run.count == 0) continue;
    const auto layer =
        layers.find(s.context, contexts[s.context].context->looks(), variant, label.look_of(variant),
                    tables.layers, next, variant.panel ? i : detail::SetLayers::kShared);
    if (!layer) return start_layers_over();
    variant.first_record = layer->first;
    features |= layer->features;
    arrays_now |= 1U << array;
    for (std::size_t q = run.first; q < run.first + run.count; ++q) records[q] = record_of(i, label, q, r);
  }
  if (label.moving) {
    features |= kMoves;
    write_motions(i, label);
  }
  if (s.fades) features |= kFades;
  if (features != s.features || arrays_now != s.arrays) batches_stale = true;
  s.features = features, s.arrays = arrays_now;
  if (!write_covers(i, label)) return start_layers_over();
  write_slots(i, label);
}

/// Everybody asks for records again: what is shown at once fits, since sizes that are gone are then
/// forgotten.
void LabelSet::State::start_layers_over() {
  layers.clear();
  numbers.clear();
  batches_stale = true;
  for (std::uint32_t other = 0; other < still.size(); ++other) {
    if (is_alive(other)) touch_contents(other);
  }
}

GlyphRecord LabelSet::State::record_of(std::uint32_t i, const Label::State& label, std::size_t quad,
                                       std::size_t run_index) const {
  const LocalQuad& q = label.quads[quad];
  const QuadRun& run = label.runs[run_index];
  const Variant& variant = label.variants[run.variant];
  GlyphRecord record;
  record.x = q.x, record.y = q.y;
  record.cell = q.cell;
  record.row = i;
  record.record = static_cast<std::uint16_t>(variant.first_record);
  const std::uint32_t array = variant.array;
  record.page = static_cast<std::uint16_t>(array * kArrayBit + run.page % kArrayBit);
  record.index = static_cast<std::uint16_t>(label.place_of(quad));
  const PixelPoint baseline = label.at_rest(quad).baseline;
  record.baseline = {eighths((baseline.x - q.x) * variant.texels_per_pixel),
                     eighths((baseline.y - q.y) * variant.texels_per_pixel)};
  return record;
}

/// The order within a label: layer by layer, looks ending together.
void LabelSet::State::write_slots(std::uint32_t i, const Label::State& label) {
  const StillLabel& s = still[i];
  const LookBook& looks = contexts[s.context].context->looks();
  std::size_t most = 0;
  for (const Variant& v : label.variants) {
    if (!v.panel) most = std::max<std::size_t>(most, looks.get(label.look_of(v)).count);
  }
  for (const QuadRun& run : label.runs) {  // panels stand behind all letters
    const Variant& v = label.variants[run.variant];
    for (std::uint32_t layer = 0; v.panel && layer < looks.get(label.look_of(v)).count; ++layer) {
      add_slots(i, run, layer);
    }
  }
  for (std::size_t step = 0; step < most; ++step) {
    for (const QuadRun& run : label.runs) {
      const Variant& variant = label.variants[run.variant];
      if (variant.panel) continue;
      const Look& look = looks.get(label.look_of(variant));
      const std::size_t before = most - look.count;
      if (step < before) continue;
      const auto layer = static_cast<std::uint32_t>(step - before);
      if (detail::is_joined(look, layer, variant)) {
        add_joined_slots(i, label, run, layer);
      } else {
        add_slots(i, run, layer);
      }
    }
  }
  if (s.fades && covers_made.back().is_there)
    slots_made.push_back((s.first_glyph + covers_made.back().glyph) * 8);
  place_slots(i, slots_made);
}

std::uint32_t LabelSet::State::array_number(std::uint8_t context, Variant& variant) {
  const bool is_paged = has_page(variant.kind);
  GlyphSource* source = is_paged ? &contexts[context].context->source() : nullptr;
  const SetArray wanted{source, variant.kind, is_paged ? variant.part : std::uint8_t{0}};
  auto at = std::find(arrays.begin(), arrays.end(), wanted);
  if (at == arrays.end()) {
    at = std::find_if(arrays.begin(), arrays.end(), [](const SetArray& a) { return a.is_free(); });
    if (at == arrays.end() && arrays.size() >= kMaxArrays) return kMaxArrays;
    if (at == arrays.end()) at = arrays.insert(at, wanted);
    *at = wanted;
  }
  variant.array = static_cast<std::uint8_t>(at - arrays.begin());
  return variant.array;
}

void LabelSet::State::note_crowded(const Label::State& label, const char* what) const {
  if (notes != nullptr) notes->add({.kind = NoteKind::crowded_set, .label = label.name, .text = what});
}

// --- What changed.

void LabelSet::State::follow(std::uint8_t number) {
  detail::SetContext& c = contexts[number];
  TextContext& context = *c.context;
  context.begin_frame();
  if (c.revision != context.revision() || c.source != context.source().id()) {
    c.revision = context.revision(), c.source = context.source().id();
    forget_context(number);
  }
  if (c.looks_revision != context.looks().revision()) follow_looks(number);
}

/// Fonts or source are others: nothing that its labels draw holds, and pages of a source that is gone are no
/// longer looked at.
void LabelSet::State::forget_context(std::uint8_t number) {
  detail::SetContext& c = contexts[number];
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
  for (SetArray& array : arrays) {
    const bool is_used = std::any_of(contexts.begin(), contexts.end(), [&](const detail::SetContext& other) {
      return !other.life.expired() && &other.context->source() == array.source;
    });
    if (!is_used) array = {};  // its number is given out again
  }
}

void LabelSet::State::drop_dead_contexts() {
  for (std::uint8_t c = 0; c < contexts.size(); ++c) {
    if (contexts[c].context == nullptr || !contexts[c].life.expired()) continue;
    assert(false && "a context was destroyed before its labels");
    for (std::uint32_t i = 0; i < still.size(); ++i) {
      if (is_alive(i) && still[i].context == c) remove(i);
    }
    forget_context(c);
    contexts[c].context = nullptr;
  }
}

void LabelSet::State::follow_looks(std::uint8_t number) {
  detail::SetContext& c = contexts[number];
  c.looks_revision = c.context->looks().revision();
  looks_changed.clear();
  layers.follow(number, c.context->looks(), tables.layers, next, looks_changed);
  if (!looks_changed.empty()) numbers.clear(), batches_stale = true;
  for (std::uint32_t i = 0; i < still.size() && !looks_changed.empty(); ++i) {
    if (!is_alive(i) || still[i].context != number) continue;
    const bool is_its_own =
        std::find(looks_changed.begin(), looks_changed.end(), still[i].look) != looks_changed.end();
    if (is_its_own || whole_of(i) != nullptr) touch_contents(i);
  }
}

/// Labels whose pictures may have gone, and those that wait for one.
void LabelSet::State::follow_pages(std::uint8_t number) {
  detail::SetContext& c = contexts[number];
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

void LabelSet::State::follow_whole_labels() {
  std::size_t kept = 0;
  for (const std::uint32_t i : whole) {
    if (!is_alive(i) || whole_of(i) == nullptr) continue;
    whole[kept++] = i;
    if (!still[i].shown) continue;
    Label::State& label = still[i].extra->whole->state();
    label.prepare_layout();
    if (label.quads_stale || label.look != still[i].look) {
      still[i].look = label.look;
      touch_contents(i);
    }
  }
  whole.resize(kept);
}

/// Writing one label can push pages out on which others stand; a few rounds settle that.
void LabelSet::State::write_contents() {
  constexpr int kRounds = 3;
  for (int round = 0; round < kRounds && !contents_todo.empty(); ++round) {
    todo_now.swap(contents_todo);
    for (const std::uint32_t i : todo_now) {
      if (!is_alive(i)) continue;
      StillLabel& s = still[i];
      s.listed_contents = false;
      if (!s.contents_stale && !s.pictures_stale) continue;
      if (!s.shown || (!s.contents_stale && !moving[i].seen)) continue;  // when it is seen
      write_contents(i);
    }
    todo_now.clear();
    for (std::uint8_t c = 0; c < contexts.size(); ++c) follow_pages(c);
  }
}

}  // namespace grafema
