// SPDX-License-Identifier: MIT
// Turns labels into quads: the part that runs every frame.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "base/four.hpp"
#include "base/light.hpp"
#include "base/numbers.hpp"
#include "draw/fill_boxes.hpp"
#include "draw/glyph_move.hpp"
#include "draw/label_map.hpp"
#include "draw/label_state.hpp"
#include "draw/layer_record.hpp"
#include "grafema/draw/emit.hpp"
#include "raster/fill_math.hpp"

namespace grafema {
namespace {

using detail::Four;
using detail::to_byte;

/// A label's map in registers.
struct WideMap {
  Four across, down, origin;
  explicit WideMap(const LabelMap& map)
      : across(detail::load(map.across.data())),
        down(detail::load(map.down.data())),
        origin(detail::load(map.origin.data())) {}
};

class Emitter {
 public:
  Emitter(QuadList& out, TextContext::Records& records) : out_(out), records_(records) { restart(); }

  void restart() {
    out_.quad_count = out_.batch_count = out_.record_count = 0;
    out_.quads_needed = out_.batches_needed = out_.records_needed = 0;
  }

  /// `changes` are those of the quads of a label that moves. Looks end together: the front layers of all are
  /// painted last.
  void add(const Label::State& label, const LookBook& looks, const LabelMap& label_map, const View& view,
           std::span<const detail::GlyphMove> changes) {
    const std::uint8_t alpha = to_byte(label.opacity);
    if (alpha == 0) return;
    scale_ = detail::largest_scale(label_map, label.extent, view);
    steps_ = detail::longest_steps(label_map, label.extent, view);
    const WideMap map(label_map);
    has_fill_boxes_ = false;
    for (const QuadRun& run : label.runs) {  // panels stand behind all letters
      const Variant& variant = label.variants[run.variant];
      if (!variant.panel) continue;
      const Look& look = looks.get(label.look_of(variant));
      for (std::size_t layer = 0; layer < look.count; ++layer) {
        add_run(label, run, variant, look, layer, map, changes, alpha);
      }
    }
    for (std::size_t step = 0; step < label.layers; ++step) {
      for (const QuadRun& run : label.runs) {
        const Variant& variant = label.variants[run.variant];
        if (variant.panel) continue;
        const Look& look = looks.get(label.look_of(variant));
        const std::size_t before = label.layers - look.count;
        if (step < before) continue;
        add_run(label, run, variant, look, step - before, map, changes, alpha);
      }
    }
  }

 private:
  static void write(GlyphQuad& quad, const LocalQuad& q, const WideMap& map, Four down, Four origin,
                    std::uint16_t record, std::uint16_t page, std::uint8_t alpha) {
    detail::store(quad.origin.data(), origin + map.across * q.x + map.down * q.y);
    detail::store(quad.across.data(), map.across * q.width);
    detail::store(quad.down.data(), down * q.height);
    quad.cell = q.cell;
    quad.box = q.box;
    quad.tint = {255, 255, 255, alpha};
    quad.record = record;
    quad.page = page;
  }

  void add_run(const Label::State& label, const QuadRun& run, const Variant& variant, const Look& look,
               std::size_t layer, const WideMap& map, std::span<const detail::GlyphMove> changes,
               std::uint8_t alpha) {
    const float unit = look.in_ems ? variant.size : 1.0F;
    const Layer& shown = look.layers[layer];
    const PixelPoint shift = shown.inset ? PixelPoint{} : shown.shift;
    const Four origin = map.origin + map.across * (shift.x * unit) + map.down * (shift.y * unit);
    const auto record = static_cast<std::uint32_t>(variant.first_record + layer);
    const std::span<GlyphQuad> room =
        reserve(variant.kind, variant.part, record, run.count, shown.fill.image.get());
    const auto in_batch = static_cast<std::uint16_t>(record - base_);
    if (!room.empty()) {
      Batch& batch = out_.batches[out_.batch_count - 1];
      batch.magnified = batch.magnified || scale_ > kMostMagnified * variant.texels_per_pixel;
      batch.minified = batch.minified || label.moving || steps_.is_small(variant.texels_per_pixel);
      batch.far = batch.far || steps_.is_far(variant.texels_per_pixel);
      batch.features |= detail::features_of(shown) | (variant.grow != 0 ? kEffects : 0U);
    }
    const LocalQuad* quads = label.quads.data() + run.first;
    // A made italic leans: going down it goes left.
    const Four down = map.down - map.across * variant.lean;
    for (std::size_t i = 0; i < room.size(); ++i) {
      write(room[i], quads[i], map, down, origin, in_batch, run.page, alpha);
    }
    const FillBox box = variant.panel ? FillBox::glyph : shown.fill.box;
    if (shown.fill.kind != FillKind::corners || box != FillBox::label)
      place_fills(label, run, box, record, room);
    if (!label.moving) return;
    for (std::size_t i = 0; i < room.size(); ++i) {
      move(room[i], quads[i], map, origin, variant.lean, changes[run.first + i], label.opacity);
    }
  }

  /// Says of quads where they lie on a fill that is not four corners of the label's box.
  void place_fills(const Label::State& label, const QuadRun& run, FillBox wanted, std::uint32_t record,
                   std::span<GlyphQuad> room) {
    if (!has_fill_boxes_) label.find_fill_boxes(records_.fill_boxes), has_fill_boxes_ = true;
    const std::optional<FillRecord> fill = detail::fill_of(records_.list, record);
    for (std::size_t i = 0; i < room.size(); ++i) {
      const LocalQuad& q = label.quads[run.first + i];
      const Rect box = wanted == FillBox::label
                           ? Rect{0, 0, label.box.width(), label.box.height()}
                           : detail::box_of(records_.fill_boxes[label.place_of(run.first + i)], wanted);
      const detail::FillPlace place = fill ? detail::fill_place(*fill, box, static_cast<float>(label.seconds))
                                           : detail::corner_place(box);
      PixelPoint low = place({q.x, q.y}), high = place({q.x + q.width, q.y + q.height});
      if (fill && fill->repeats > 0) {  // whole copies make no difference
        const PixelPoint whole{std::floor(low.x), std::floor(low.y)};
        low = {low.x - whole.x, low.y - whole.y}, high = {high.x - whole.x, high.y - whole.y};
      }
      const auto part = [](float v) {
        return static_cast<std::int16_t>(std::clamp(v * 4096, -32767.0F, 32767.0F));
      };
      room[i].box = {part(low.x), part(low.y), part(high.x), part(high.y)};
    }
  }

  static void move(GlyphQuad& quad, const LocalQuad& q, const WideMap& map, Four origin, float lean,
                   const detail::GlyphMove& change, float opacity) {
    const PixelPoint at = change({q.x, q.y});
    const float left = -lean * q.height;  // how far the left side goes on its way down
    detail::store(quad.origin.data(), origin + map.across * at.x + map.down * at.y);
    detail::store(quad.across.data(), (map.across * change.xx + map.down * change.yx) * q.width);
    detail::store(quad.down.data(), map.across * (change.xx * left + change.xy * q.height) +
                                        map.down * (change.yx * left + change.yy * q.height));
    quad.tint = {to_byte(change.tint[0]), to_byte(change.tint[1]), to_byte(change.tint[2]),
                 to_byte(change.tint[3] * opacity)};
  }

  /// The next `count` quads, in a batch of their kind whose records hold this one; fewer where memory is
  /// short.
  std::span<GlyphQuad> reserve(QuadKind kind, std::uint8_t part, std::uint32_t record, std::size_t count,
                               const FillImage* image) {
    if (count == 0) return {};
    constexpr std::uint32_t kRecords = 1U << 16U;  // what GlyphQuad::record can say
    const bool is_other_image = image != nullptr && last_image_ != nullptr && image != last_image_;
    if (out_.batches_needed == 0 || last_kind_ != kind || last_part_ != part || record - base_ >= kRecords ||
        is_other_image) {
      last_image_ = nullptr;
      last_kind_ = kind;
      last_part_ = part;
      base_ = record / kRecords * kRecords;
      if (out_.batches_needed++ < out_.batches.size()) {
        out_.batches[out_.batch_count++] = {kind, static_cast<std::uint32_t>(out_.quads_needed), 0, base_,
                                            part};
      }
    }
    const std::size_t first = out_.quads_needed;
    out_.quads_needed += count;
    if (out_.batches_needed > out_.batch_count || first >= out_.quads.size()) return {};
    const std::size_t there = std::min(count, out_.quads.size() - first);
    Batch& batch = out_.batches[out_.batch_count - 1];
    batch.count += static_cast<std::uint32_t>(there);
    if (image != nullptr) batch.image = last_image_ = image;
    out_.quad_count = first + there;
    return out_.quads.subspan(first, there);
  }

  QuadList& out_;
  TextContext::Records& records_;
  bool has_fill_boxes_ = false;            // those of the label are in `records_`
  const FillImage* last_image_ = nullptr;  // of the last batch
  QuadKind last_kind_ = QuadKind::distance;
  std::uint8_t last_part_ = 0;
  std::uint32_t base_ = 0;  // first_record of the last batch
  float scale_ = 1;         // of the label: device pixels to one of its own
  detail::PixelSteps steps_;
};

/// Ten thousand labels do not fit into a cache: what the next ones need is fetched while this one is written.
void fetch_ahead(std::span<Label* const> labels, std::size_t i) {
  constexpr std::size_t kLabels = 12, kStates = 8, kQuads = 3, kLine = 64;
  if (i + kLabels < labels.size()) __builtin_prefetch(labels[i + kLabels]);
  if (i + kStates < labels.size()) {
    const auto* state = reinterpret_cast<const char*>(&labels[i + kStates]->state());
    for (std::size_t line = 0; line < 3; ++line) __builtin_prefetch(state + line * kLine);
  }
  if (i + kQuads < labels.size()) {
    const std::vector<LocalQuad>& quads = labels[i + kQuads]->state().quads;
    const auto* data = reinterpret_cast<const char*>(quads.data());
    for (std::size_t at = 0; at < std::min<std::size_t>(quads.size() * sizeof(LocalQuad), 16 * kLine);
         at += kLine) {
      __builtin_prefetch(data + at);
    }
  }
}

void note_reach(const Label::State& label, const TextContext& context, Notes& notes) {
  for (const Variant& variant : label.variants) {
    const LookId look = label.look_of(variant);
    const float reach = required_reach(context.looks().get(look), variant.size) + variant.grow;
    const float needed = reach * variant.texels_per_pixel;
    if (reach <= 0.5F || needed <= variant.reach + 0.001F) continue;
    notes.add({.kind = NoteKind::clamped_reach,
               .wanted = std::ceil(needed * 4) / 4,
               .given = variant.reach,
               .label = label.name,
               .look = std::string(context.looks().name(look))});
  }
}

}  // namespace

void hand_out_label_notes(const Label::State& label, const TextContext& context, Notes& notes) {
  for (const Note& note : label.layout_notes) notes.add(note);
  for (const Note& note : label.picture_notes) notes.add(note);
  note_reach(label, context, notes);
}

Rect painted_extent(const Label::State& label, const LookBook& looks) {
  Rect all = label.extent;
  for (const Variant& variant : label.variants) {
    const Look& look = looks.get(label.look_of(variant));
    const float unit = look.in_ems ? variant.size : 1.0F;
    for (std::size_t i = 0; i < look.count; ++i) {
      const Layer& layer = look.layers[i];
      if (layer.inset) continue;
      const Rect moved = label.extent.moved({layer.shift.x * unit, layer.shift.y * unit});
      all = enclosing(all, enclosing(moved, moved.moved({layer.sweep.x * unit, layer.sweep.y * unit})));
    }
  }
  return all;
}

namespace {

/// Each glyph's motion once, whatever the number of layers.
std::span<const detail::GlyphMove> find_moves(const Label::State& label,
                                              std::vector<detail::GlyphMove>& moves) {
  if (!label.moving) return {};
  moves.assign(label.quads.size(), {});
  for (std::size_t i = 0; i < label.quads.size(); ++i) label.move_glyph(i, label.seconds, moves[i]);
  return moves;
}

Result<void> check_labels(const TextContext& context, std::span<Label* const> labels) {
  for (std::size_t i = 0; i < labels.size(); ++i) {
    const char* wrong = labels[i] == nullptr                     ? "is null"
                        : !labels[i]->valid()                    ? "was moved from"
                        : labels[i]->state().context != &context ? "is of another context"
                                                                 : nullptr;
    if (wrong == nullptr) continue;
    return fail(
        make_error(ErrorKind::bad_value, "labels of this context", fmt::format("label {} {}", i, wrong)));
  }
  return {};
}

void copy_layers(const TextContext::Records& records, QuadList& out) {
  out.records_needed = records.list.size();
  out.record_count = std::min(out.records.size(), records.list.size());
  std::copy_n(records.list.begin(), out.record_count, out.records.begin());
}

Result<void> emit_into(TextContext& context, std::span<Label* const> labels, const View& view, QuadList& out,
                       Notes* notes) {
  out.quad_count = out.batch_count = out.record_count = 0;
  out.quads_needed = out.batches_needed = out.records_needed = 0;
  if (const Result<void> checked = detail::check_view(view); !checked) return checked;
  if (const Result<void> checked = check_labels(context, labels); !checked) return checked;
  out.source = context.source().id();
  out.lighting = context.lighting(), out.content_scale = view.content_scale;
  Emitter emitter(out, context.records());
  const detail::ViewProduct product(view);
  // Asking for records may start their table over; what was written before then no longer holds.
  TextContext::Records& table = context.records();
  std::size_t rounds = 0;
  for (std::uint64_t generation = 0; generation != table.generation;) {
    if (++rounds > 2) table.limit *= 2;  // all that is shown at once must fit
    generation = table.generation;
    emitter.restart();
    for (std::size_t i = 0; i < labels.size(); ++i) {
      fetch_ahead(labels, i);
      Label::State& state = labels[i]->state();
      if (!state.visible) continue;
      state.prepare();
      if (notes != nullptr) hand_out_label_notes(state, context, *notes);
      const LabelMap map = detail::map_checked(state.box, state.placement, view, product);
      if (!state.moving && detail::is_outside(map, painted_extent(state, context.looks()))) continue;
      context.source().keep(state.pages);
      emitter.add(state, context.looks(), map, view, find_moves(state, table.moves));
    }
  }
  copy_layers(table, out);
  return {};
}

}  // namespace

Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view,
                        QuadBuffer& out, Notes* notes) {
  context.begin_frame();
  do {
    if (const Result<void> emitted = emit_into(context, labels, view, out.begin(), notes); !emitted) {
      return emitted;
    }
  } while (out.grow());
  return {};
}

Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view, QuadList& out,
                        Notes* notes) {
  context.begin_frame();
  return emit_into(context, labels, view, out, notes);
}

}  // namespace grafema
