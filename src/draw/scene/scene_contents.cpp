// SPDX-License-Identifier: MIT
// Writes what labels draw: lays them out, asks for pictures, fills records and their order.
#include <algorithm>
#include <cassert>
#include <cmath>

#include "draw/content/composites.hpp"
#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

namespace {

constexpr std::uint32_t kArrayBit = 2048;  // GlyphRecord::page holds an array's index above its layer

std::int16_t eighths(float texels) {
  return static_cast<std::int16_t>(std::clamp(texels * 8, -32767.0F, 32767.0F));
}

}  // namespace

/// What shows it, with layout and pictures ready.
LabelContent& SceneState::prepare(std::uint32_t i) {
  LabelContent* own = content_of(i);
  LabelContent& content = own != nullptr ? *own : lay_out_scratch(i);
  content.prepare_pictures();
  if (own != nullptr) {
    still[i].look = own->look;
    if (own->message) {
      detail::SceneContext& c = contexts[still[i].context];
      c.next_change = std::min(c.next_change, own->message->next_change);
    }
  }
  return content;
}

/// The content of a label that keeps its layout, its message and style as the books have them now; null for
/// others. What it shows is written by the next update where that is another.
LabelContent* SceneState::followed(std::uint32_t i) {
  LabelContent* own = content_of(i);
  if (own == nullptr || context_of(i) == nullptr) return own;
  catch_up(still[i].context);
  if (!own->has_news()) return own;
  own->follow_books();
  touch_contents(i);
  return own;
}

/// The same with its layout alone.
const LabelContent& SceneState::laid_out(std::uint32_t i) {
  LabelContent* own = followed(i);
  LabelContent& content = own != nullptr ? *own : lay_out_scratch(i);
  content.prepare_layout();
  return content;
}

/// Of labels that keep no layout one content lays out whatever it is told.
LabelContent& SceneState::lay_out_scratch(std::uint32_t i) {
  StillLabel& s = still[i];
  detail::SceneContext& c = contexts[s.context];
  LabelContent& content = *c.scratch;
  content.text.assign(s.text);
  if (c.scratch_held != s.style) {
    content.style = s.style->text;
    content.own_fonts = s.style->fonts;
    c.scratch_held = s.style;
  }
  content.look = s.look;
  static const StillLabel::Extra none;  // copied, so that the memory of what was there is kept
  content.motion = s.extra ? s.extra->motion : none.motion;
  content.name = s.extra ? s.extra->name : none.name;
  content.panel = s.extra ? s.extra->panel : none.panel;
  content.layout_stale = true;
  return content;
}

void SceneState::measure(std::uint32_t i, const LabelContent& label) {
  if (still[i].in_grid && still[i].box != label.box) touch_grid(i);
  still[i].box = label.box;
  still[i].baseline = label.paragraph.lines.empty() ? 0 : label.paragraph.lines.front().baseline;
}

void SceneState::write_contents(std::uint32_t i) {
  StillLabel& s = still[i];
  s.contents_stale = s.pictures_stale = s.even = false;
  LabelContent& label = prepare(i);
  ++work.contents;
  if (notes != nullptr) {
    // Pixels of pictures are meant to be seen where a label is pixelated.
    const float scale = s.pixelated ? 1.0F : std::max(std::abs(s.scale_x), std::abs(s.scale_y));
    hand_out_label_notes(label, scale, *notes);
  }
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

std::uint64_t SceneState::pages_of(const LabelContent& label) {
  std::uint64_t pages = 0;
  for (const std::uint16_t page : label.pages) pages |= std::uint64_t{1} << (page % 64U);
  return pages;
}

void SceneState::change_pages(std::uint32_t i, std::uint64_t pages) {
  if (still[i].pages == pages) return;
  const bool seen = moving[i].seen;
  if (seen) set_seen(i, false);
  still[i].pages = pages;
  if (seen) set_seen(i, true);
}

float SceneState::motion_reach_of(std::uint32_t i, const LabelContent& label) const {
  if (!label.moving) return 0;
  float glyph = 0, reach = 0;
  for (const LocalQuad& q : label.quads) glyph = std::max({glyph, q.width, q.height});
  const float diagonal = std::hypot(still[i].box.width(), still[i].box.height()), size = label.paragraph.size;
  reach = detail::motion_reach(label.motion, size, glyph, diagonal);
  for (const LabelContent::DrawnStyle& style : label.styles) {
    if (!style.own_motion) reach = std::max(reach, detail::motion_reach(style.motion, size, glyph, diagonal));
  }
  return reach;
}

void SceneState::take_glyph_room(std::uint32_t i, std::uint32_t quads) {
  StillLabel& s = still[i];
  if (quads <= s.glyph_room && s.glyph_room <= quads * 2 + 8) return;
  glyph_ranges.give_back(s.first_glyph, s.glyph_room);
  s.glyph_room = detail::RangeBook::room_for(quads);
  s.first_glyph = s.glyph_room > 0 ? glyph_ranges.take(s.glyph_room) : 0;
  if (glyph_ranges.end() > tables.glyphs.size()) tables.glyphs.resize(glyph_ranges.end());
}

void SceneState::free_boxes(std::uint32_t i) {
  if (still[i].box_room > 0) box_ranges.give_back(still[i].first_box, still[i].box_room);
  still[i].first_box = still[i].box_room = 0;
}

/// What fills of lines and of glyphs span, where the label has such. Heads count them as floats, exactly up
/// to here.
void SceneState::write_fill_boxes(std::uint32_t i, const LabelContent& label) {
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

/// A label that would need more glyphs than a scene counts shows nothing.
void SceneState::leave_out_too_many(std::uint32_t i, LabelContent& label) {
  const std::size_t others = glyph_ranges.end() - still[i].glyph_room;
  if (others + label.quads.size() * 2 <= TextScene::kMaxGlyphs) return;
  note_crowded(label, "what needs more than 2^28 glyphs is left out");
  label.quads.clear(), label.runs.clear();
}

void SceneState::write_glyphs(std::uint32_t i, LabelContent& label) {
  StillLabel& s = still[i];
  leave_out_too_many(i, label);
  s.overlaps = label.overlaps_itself();
  s.fades = wants_to_fade(i);
  find_composites(i, label);
  const auto count = static_cast<std::uint32_t>(label.quads.size());
  take_glyph_room(i, count + static_cast<std::uint32_t>(composites_made.size()));
  const std::span<GlyphRecord> records = tables.glyphs.change(s.first_glyph, count, next);
  slots_made.clear();
  std::uint32_t arrays_now = 0;
  SceneFeature features = moving[i].clip != 0 ? SceneFeature::clips : SceneFeature::none;
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
                    tables.layers, next, variant.panel ? i : detail::SceneLayers::kShared);
    if (!layer) return start_layers_over();
    variant.first_record = layer->first;
    features |= layer->features;
    arrays_now |= 1U << array;
    for (std::size_t q = run.first; q < run.first + run.count; ++q) records[q] = record_of(i, label, q, r);
  }
  if (label.moving) {
    features |= SceneFeature::moves;
    write_motions(i, label);
  }
  if (s.fades) features |= SceneFeature::fades;
  if (features != s.features || arrays_now != s.arrays) batches_stale = true;
  s.features = features, s.arrays = arrays_now;
  if (!write_composites(i, label)) return start_layers_over();
  write_slots(i, label);
}

/// Everybody asks for records again: what is shown at once fits, since sizes that are gone are then
/// forgotten.
void SceneState::start_layers_over() {
  layers.clear();
  numbers.clear();
  batches_stale = true;
  for (std::uint32_t other = 0; other < still.size(); ++other) {
    if (is_alive(other)) touch_contents(other);
  }
}

GlyphRecord SceneState::record_of(std::uint32_t i, const LabelContent& label, std::size_t quad,
                                  std::size_t run_index) const {
  const LocalQuad& q = label.quads[quad];
  const QuadRun& run = label.runs[run_index];
  const Variant& variant = label.variants[run.variant];
  GlyphRecord record;
  record.x = q.x, record.y = q.y;
  record.cell = q.cell;
  record.row = i;
  record.record = variant.first_record;
  const std::uint32_t array = variant.array;
  record.page = static_cast<std::uint16_t>(array * kArrayBit + run.page % kArrayBit);
  record.index = static_cast<std::uint16_t>(label.place_of(quad));
  const PixelPoint baseline = label.at_rest(quad).baseline;
  record.baseline = {eighths((baseline.x - q.x) * variant.texels_per_pixel),
                     eighths((baseline.y - q.y) * variant.texels_per_pixel)};
  return record;
}

/// The order within a label: layer by layer, looks ending together.
void SceneState::write_slots(std::uint32_t i, const LabelContent& label) {
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
  if (s.fades && composites_made.back().is_there)
    slots_made.push_back((s.first_glyph + composites_made.back().glyph) * 8);
  place_slots(i, slots_made);
}

std::uint32_t SceneState::array_number(std::uint8_t context, Variant& variant) {
  const bool is_paged = has_page(variant.kind);
  GlyphSource* source = is_paged ? &contexts[context].context->source() : nullptr;
  const SceneArray wanted{source, variant.kind, is_paged ? variant.part : std::uint8_t{0}};
  auto at = std::find(arrays.begin(), arrays.end(), wanted);
  if (at == arrays.end()) {
    at = std::find_if(arrays.begin(), arrays.end(), [](const SceneArray& a) { return a.is_free(); });
    if (at == arrays.end() && arrays.size() >= kMaxArrays) return kMaxArrays;
    if (at == arrays.end()) at = arrays.insert(at, wanted);
    *at = wanted;
  }
  variant.array = static_cast<std::uint8_t>(at - arrays.begin());
  return variant.array;
}

void SceneState::note_crowded(const LabelContent& label, const char* what) const {
  if (notes != nullptr) notes->add({.kind = NoteKind::crowded_scene, .label = label.name, .text = what});
}

/// Writing one label can push pages out on which others stand; a few rounds settle that.
void SceneState::write_contents() {
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
