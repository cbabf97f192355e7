// SPDX-License-Identifier: MIT
// Turns labels into quads: the part that runs every frame.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "base/four.hpp"
#include "base/light.hpp"
#include "base/numbers.hpp"
#include "draw/covers.hpp"
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
    const bool fades = alpha < 255 && label.overlaps_itself();
    opacity_ = fades ? 1.0F : label.opacity;
    pixelated_ = label.placement.pixelated ? kPixelated : 0U;
    base_onto_ = onto_ = fades ? Onto::sheet : Onto::target;
    scale_ = detail::largest_scale(label_map, label.extent, view);
    steps_ = detail::longest_steps(label_map, label.extent, view);
    const WideMap map(label_map);
    has_fill_boxes_ = false;
    for (const QuadRun& run : label.runs) {  // panels stand behind all letters
      const Variant& variant = label.variants[run.variant];
      if (!variant.panel) continue;
      const Look& look = looks.get(label.look_of(variant));
      for (std::size_t layer = 0; layer < look.count; ++layer) {
        add_run(label, run, variant, look, layer, map, changes);
      }
    }
    for (std::size_t step = 0; step < label.layers; ++step) {
      for (const QuadRun& run : label.runs) {
        const Variant& variant = label.variants[run.variant];
        if (variant.panel) continue;
        const Look& look = looks.get(label.look_of(variant));
        const std::size_t before = label.layers - look.count;
        if (step < before) continue;
        if (detail::is_joined(look, step - before, variant)) {
          add_joined(label, looks, run, step - before, map, changes);
        } else {
          add_run(label, run, variant, look, step - before, map, changes);
        }
      }
    }
    if (!fades) return;
    onto_ = Onto::target, opacity_ = label.opacity;
    add_cover(label, looks, QuadKind::faded, label.look, 0, map, changes);
  }

 private:
  /// All runs of the look as one shape, when the first of them comes up, and then what it is painted with.
  void add_joined(const Label::State& label, const LookBook& looks, const QuadRun& first, std::size_t layer,
                  const WideMap& map, std::span<const detail::GlyphMove> changes) {
    const LookId id = label.look_of(label.variants[first.variant]);
    const Look& look = looks.get(id);
    const auto is_of_shape = [&](const QuadRun& run) {
      const Variant& variant = label.variants[run.variant];
      return label.look_of(variant) == id && detail::is_joined(look, layer, variant);
    };
    if (&first != &*std::find_if(label.runs.begin(), label.runs.end(), is_of_shape)) return;
    const float opacity = std::exchange(opacity_, 1.0F);
    onto_ = Onto::shape;
    for (const QuadRun& run : label.runs) {
      if (is_of_shape(run)) add_run(label, run, label.variants[run.variant], look, layer, map, changes);
    }
    onto_ = base_onto_, opacity_ = opacity;
    add_cover(label, looks, QuadKind::joined, id, layer, map, changes);
  }

  void add_cover(const Label::State& label, const LookBook& looks, QuadKind kind, LookId id,
                 std::size_t layer, const WideMap& map, std::span<const detail::GlyphMove> changes) {
    const Look& look = looks.get(id);
    const LocalQuad q =
        detail::cover_quad(detail::cover_extent(label, looks, painted_box(label, looks, changes)));
    const Variant variant = detail::cover_variant(kind, label.paragraph.size);
    const auto record = static_cast<std::uint32_t>(records_.find(looks, id, variant) + layer);
    const Layer& shown = look.layers[layer];
    const float unit = look.in_ems ? variant.size : 1.0F;
    const bool is_shifted = kind == QuadKind::joined && !shown.inset;
    const PixelPoint shift =
        is_shifted ? PixelPoint{shown.shift.x * unit, shown.shift.y * unit} : PixelPoint{};
    const std::span<GlyphQuad> room =
        reserve(kind, 0, record, 1, kind == QuadKind::joined ? detail::images_of(shown) : LayerImages{});
    if (room.empty()) return;
    out_.batches[out_.batch_count - 1].features |= detail::features_of(shown) & ~kJoins;
    write(room[0], q, map, map.down, map.origin + map.across * shift.x + map.down * shift.y,
          static_cast<std::uint16_t>(record - base_), 0, to_byte(opacity_));
    const std::optional<FillRecord> fill = detail::fill_of(records_.list, record);
    const detail::FillPlace place =
        fill ? detail::fill_place(*fill, label.box, static_cast<float>(label.seconds))
             : detail::corner_place(label.box);
    place_on(room[0], q, shift, place);
  }

  /// Around all that a label paints, wherever its glyphs have come to.
  static Rect painted_box(const Label::State& label, const LookBook& looks,
                          std::span<const detail::GlyphMove> changes) {
    const Rect still = painted_extent(label, looks), rest = label.extent;
    if (changes.empty()) return still;
    Rect out;
    for (std::size_t i = 0; i < changes.size(); ++i) {
      const LocalQuad& q = label.quads[i];
      const float beside = q.height / 4;  // by which a made italic leans, and more
      for (const float x : {q.x - beside, q.x + q.width + beside}) {
        for (const float y : {q.y, q.y + q.height}) {
          const PixelPoint p = changes[i]({x, y});
          out = enclosing(out, {p.x - 0.5F, p.y - 0.5F, p.x + 0.5F, p.y + 0.5F});
        }
      }
    }
    return {out.left + still.left - rest.left, out.top + still.top - rest.top,
            out.right + still.right - rest.right, out.bottom + still.bottom - rest.bottom};
  }

  /// A cover may lie on more of a fill than a quad can say in parts of 4096: its page says how often they are
  /// doubled.
  static void place_on(GlyphQuad& quad, const LocalQuad& q, PixelPoint shift,
                       const detail::FillPlace& place) {
    const PixelPoint at{q.x + shift.x, q.y + shift.y};
    const PixelPoint low = place(at), high = place({at.x + q.width, at.y + q.height});
    const float most = std::max({std::abs(low.x), std::abs(low.y), std::abs(high.x), std::abs(high.y)});
    float unit = 4096;
    while (most * unit > 32767 && quad.page < 24) unit /= 2, ++quad.page;
    const auto part = [unit](float v) {
      return static_cast<std::int16_t>(std::clamp(v * unit, -32767.0F, 32767.0F));
    };
    quad.box = {part(low.x), part(low.y), part(high.x), part(high.y)};
  }

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
               std::size_t layer, const WideMap& map, std::span<const detail::GlyphMove> changes) {
    const float unit = look.in_ems ? variant.size : 1.0F;
    const Layer& shown = look.layers[layer];
    const PixelPoint shift = shown.inset ? PixelPoint{} : shown.shift;
    const Four origin = map.origin + map.across * (shift.x * unit) + map.down * (shift.y * unit);
    const auto record = static_cast<std::uint32_t>(variant.first_record + layer);
    const std::span<GlyphQuad> room =
        reserve(variant.kind, variant.part, record, run.count,
                onto_ == Onto::shape ? LayerImages{} : detail::images_of(shown));
    const auto in_batch = static_cast<std::uint16_t>(record - base_);
    if (!room.empty()) {
      Batch& batch = out_.batches[out_.batch_count - 1];
      batch.magnified = batch.magnified || scale_ > kMaxMagnified * variant.texels_per_pixel;
      batch.minified = batch.minified || label.moving || steps_.is_small(variant.texels_per_pixel);
      batch.far = batch.far || steps_.is_far(variant.texels_per_pixel);
      batch.features |=
          (detail::features_of(shown) & ~kJoins) | (variant.grow != 0 ? kEffects : 0U) | pixelated_;
      if (onto_ == Onto::shape) batch.features = (batch.features & kOfShapes) | kJoins;
    }
    const LocalQuad* quads = label.quads.data() + run.first;
    // A made italic leans: going down it goes left.
    const Four down = map.down - map.across * variant.lean;
    for (std::size_t i = 0; i < room.size(); ++i) {
      write(room[i], quads[i], map, down, origin, in_batch, run.page, to_byte(opacity_));
    }
    const FillBox box = variant.panel ? FillBox::glyph : shown.join ? FillBox::label : shown.fill.box;
    const bool is_moved = (shift.x != 0 || shift.y != 0) && !shown.fill.is_solid();
    if (onto_ != Onto::shape && (shown.fill.kind != FillKind::corners || box != FillBox::label || is_moved))
      place_fills(label, run, box, record, room, {shift.x * unit, shift.y * unit});
    if (!label.moving) return;
    for (std::size_t i = 0; i < room.size(); ++i) {
      move(room[i], quads[i], map, origin, variant.lean, changes[run.first + i], opacity_);
    }
  }

  /// Says of quads where they lie on a fill, moved by their layer's shift.
  void place_fills(const Label::State& label, const QuadRun& run, FillBox wanted, std::uint32_t record,
                   std::span<GlyphQuad> room, PixelPoint shift) {
    if (!has_fill_boxes_) label.find_fill_boxes(records_.fill_boxes), has_fill_boxes_ = true;
    const std::optional<FillRecord> fill = detail::fill_of(records_.list, record);
    for (std::size_t i = 0; i < room.size(); ++i) {
      const LocalQuad& q = label.quads[run.first + i];
      const Rect box = wanted == FillBox::label
                           ? Rect{0, 0, label.box.width(), label.box.height()}
                           : detail::box_of(records_.fill_boxes[label.place_of(run.first + i)], wanted);
      const detail::FillPlace place = fill ? detail::fill_place(*fill, box, static_cast<float>(label.seconds))
                                           : detail::corner_place(box);
      const PixelPoint at{q.x + shift.x, q.y + shift.y};
      PixelPoint low = place(at), high = place({at.x + q.width, at.y + q.height});
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
                               const LayerImages& images) {
    if (count == 0) return {};
    constexpr std::uint32_t kRecords = 1U << 16U;  // what GlyphQuad::record can say
    const bool are_others = !last_images_.fit(images);
    if (out_.batches_needed == 0 || last_kind_ != kind || last_part_ != part || record - base_ >= kRecords ||
        are_others || onto_ != last_onto_ || pixelated_ != last_pixelated_ || is_cover(kind)) {
      last_images_ = {};
      last_kind_ = kind;
      last_part_ = part;
      last_onto_ = onto_, last_pixelated_ = pixelated_;
      base_ = record / kRecords * kRecords;
      if (out_.batches_needed++ < out_.batches.size()) {
        out_.batches[out_.batch_count++] = {kind, static_cast<std::uint32_t>(out_.quads_needed), 0, base_,
                                            part};
        out_.batches[out_.batch_count - 1].onto = onto_;
      }
    }
    const std::size_t first = out_.quads_needed;
    out_.quads_needed += count;
    if (out_.batches_needed > out_.batch_count || first >= out_.quads.size()) return {};
    const std::size_t there = std::min(count, out_.quads.size() - first);
    Batch& batch = out_.batches[out_.batch_count - 1];
    batch.count += static_cast<std::uint32_t>(there);
    last_images_.add(images);
    batch.images = last_images_;
    out_.quad_count = first + there;
    return out_.quads.subspan(first, there);
  }

  QuadList& out_;
  TextContext::Records& records_;
  bool has_fill_boxes_ = false;  // those of the label are in `records_`
  LayerImages last_images_;      // of the last batch
  QuadKind last_kind_ = QuadKind::distance;
  std::uint8_t last_part_ = 0;
  Onto onto_ = Onto::target, base_onto_ = Onto::target, last_onto_ = Onto::target;
  std::uint32_t pixelated_ = 0, last_pixelated_ = 0;
  float opacity_ = 1;       // of what is written now
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
      const Rect kept = detail::box_with_panel(state.box, state.panel);
      const LabelMap map = detail::map_checked(state.box, state.placement, view, product, &kept);
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
