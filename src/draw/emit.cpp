// SPDX-License-Identifier: MIT
// Turns labels into quads: the part that runs every frame.
#include <algorithm>
#include <cmath>

#include "base/numbers.hpp"
#include "draw/label_map.hpp"
#include "draw/label_state.hpp"

namespace grafema {
namespace {

using Four = std::array<float, 4>;

Four scaled(const Four& v, float by) { return {v[0] * by, v[1] * by, v[2] * by, v[3] * by}; }

Four mixed(const Four& a, float x, const Four& b, float y) {
  return {a[0] * x + b[0] * y, a[1] * x + b[1] * y, a[2] * x + b[2] * y, a[3] * x + b[3] * y};
}

Four sum(const Four& a, const Four& b) { return {a[0] + b[0], a[1] + b[1], a[2] + b[2], a[3] + b[3]}; }

std::uint8_t to_byte(float v) { return static_cast<std::uint8_t>(std::clamp(v, 0.0F, 1.0F) * 255.0F + 0.5F); }

class Emitter {
 public:
  explicit Emitter(QuadList& out) : out_(out) {
    out.quad_count = out.batch_count = out.layer_count = 0;
    out.quads_needed = out.batches_needed = out.layers_needed = 0;
  }

  void add(const Label::State& label, const Look& look, const LabelMap& map) {
    const std::uint8_t alpha = to_byte(label.opacity);
    if (alpha == 0) return;
    for (std::size_t layer = 0; layer < look.count; ++layer) {
      const float unit = look.in_ems ? label.paragraph.size : 1.0F;
      const PixelPoint shift{look.layers[layer].shift.x * unit, look.layers[layer].shift.y * unit};
      const Four origin = sum(map.origin, mixed(map.across, shift.x, map.down, shift.y));
      if (label.motion) {
        add_moving(label, layer, map, origin);
      } else {
        add_still(label, layer, map, origin, alpha);
      }
    }
  }

 private:
  void add_still(const Label::State& label, std::size_t layer, const LabelMap& map, const Four& origin, std::uint8_t alpha) {
    for (const LocalQuad& q : label.quads) {
      GlyphQuad* quad = next(q.kind);
      if (quad == nullptr) continue;
      quad->origin = sum(origin, mixed(map.across, q.x, map.down, q.y));
      quad->across = scaled(map.across, q.width);
      quad->down = scaled(map.down, q.height);
      finish(*quad, q, label, layer);
      quad->tint = {255, 255, 255, alpha};
    }
  }

  /// Each glyph is turned, scaled and moved about the middle of its picture.
  void add_moving(const Label::State& label, std::size_t layer, const LabelMap& map, const Four& origin) {
    const std::size_t count = label.paragraph.glyphs.size();
    for (const LocalQuad& q : label.quads) {
      GlyphQuad* quad = next(q.kind);
      if (quad == nullptr) continue;
      GlyphChange change;
      label.motion({q.glyph, count, label.seconds, label.paragraph.size}, change);
      const detail::SineCosine turn = detail::sine_cosine(std::isfinite(change.rotate) ? change.rotate : 0);
      const float c = static_cast<float>(turn.cosine) * change.scale, s = static_cast<float>(turn.sine) * change.scale;
      const float half_width = q.width / 2, half_height = q.height / 2;
      const float x = q.x + half_width + change.offset.x - c * half_width + s * half_height;
      const float y = q.y + half_height + change.offset.y - s * half_width - c * half_height;
      quad->origin = sum(origin, mixed(map.across, x, map.down, y));
      quad->across = mixed(map.across, c * q.width, map.down, s * q.width);
      quad->down = mixed(map.across, -s * q.height, map.down, c * q.height);
      finish(*quad, q, label, layer);
      quad->tint = {to_byte(change.tint.red), to_byte(change.tint.green), to_byte(change.tint.blue), to_byte(change.tint.alpha * label.opacity)};
    }
  }

  static void finish(GlyphQuad& quad, const LocalQuad& q, const Label::State& label, std::size_t layer) {
    quad.cell = q.cell;
    quad.box = q.box;
    quad.layer = static_cast<std::uint16_t>(label.variants[q.variant].first_record + layer);
    quad.page = q.page;
  }

  /// The next quad to fill, in the batch of its kind; null where memory is short.
  GlyphQuad* next(PictureKind kind) {
    if (out_.batches_needed == 0 || last_kind_ != kind) {
      last_kind_ = kind;
      if (out_.batches_needed++ < out_.batches.size()) out_.batches[out_.batch_count++] = {kind, static_cast<std::uint32_t>(out_.quads_needed), 0};
    }
    const std::size_t index = out_.quads_needed++;
    if (index >= out_.quads.size() || out_.batches_needed > out_.batch_count) return nullptr;
    ++out_.batches[out_.batch_count - 1].count;
    out_.quad_count = index + 1;
    return &out_.quads[index];
  }

  QuadList& out_;
  PictureKind last_kind_ = PictureKind::distance;
};

void note_reach(const Label::State& label, const Look& look, Notes& notes) {
  for (const Variant& variant : label.variants) {
    const float reach = required_reach(in_pixels(look, label.paragraph.size)), needed = reach * variant.texels_per_pixel;
    const bool plain = reach <= 0.5F;
    if (!plain && needed > variant.reach + 0.001F) notes.add({.kind = NoteKind::clamped_reach, .wanted = std::ceil(needed * 4) / 4, .given = variant.reach});
  }
}

void copy_layers(const TextContext::Records& records, QuadList& out) {
  out.layers_needed = records.list.size();
  out.layer_count = std::min(out.layers.size(), records.list.size());
  std::copy_n(records.list.begin(), out.layer_count, out.layers.begin());
}

}  // namespace

Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view, QuadList& out, Notes* notes) {
  if (const Result<void> checked = detail::check_view(view); !checked) return checked;
  Emitter emitter(out);
  // All labels are prepared before the first quad is written: asking for records may start their table over.
  TextContext::Records& table = context.records();
  std::size_t rounds = 0;
  for (std::uint64_t generation = 0; generation != table.generation;) {
    generation = table.generation;
    if (++rounds > 2) table.limit *= 2;  // all that is shown at once must fit
    for (Label* label : labels) {
      if (label->visible()) label->state().prepare(notes);
    }
  }
  for (Label* label : labels) {
    if (!label->visible()) continue;
    const Label::State& state = label->state();
    const Look& look = context.looks().get(state.look);
    if (notes != nullptr) note_reach(state, look, *notes);
    emitter.add(state, look, detail::map_checked(state.paragraph.advance_box, state.placement, view));
  }
  copy_layers(table, out);
  return {};
}

}  // namespace grafema
