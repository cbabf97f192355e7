// SPDX-License-Identifier: MIT
// Labels that are painted beside the target first: joined layers, and labels that fade.
#include <algorithm>
#include <cmath>

#include "draw/content/composites.hpp"
#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

namespace {

/// What a mask asks for: what it is painted with is its composite's.
constexpr SceneFeature kOfMasks = SceneFeature::hollow | SceneFeature::effects | SceneFeature::moves |
                                  SceneFeature::magnified | SceneFeature::minified | SceneFeature::mipmapped |
                                  SceneFeature::sweeps | SceneFeature::lit | SceneFeature::joins |
                                  SceneFeature::pixelated;

}  // namespace

/// One that is not seen at all is left as it is: it may come back either way.
bool SceneState::wants_to_fade(std::uint32_t i) const {
  const std::uint8_t alpha = tint_of(i)[3];
  return alpha == 0 ? still[i].fades : still[i].overlaps && alpha < 255;
}

/// What fades has entries that others have not.
void SceneState::follow_fading(std::uint32_t i) {
  if (!still[i].contents_stale && wants_to_fade(i) != still[i].fades) touch_contents(i);
}

void SceneState::find_composites(std::uint32_t i, const LabelContent& label) {
  const StillLabel& s = still[i];
  const LookBook& looks = contexts[s.context].context->looks();
  composites_made.clear();
  auto glyph = static_cast<std::uint32_t>(label.quads.size());
  for (const Variant& variant : label.variants) {
    const LookId look = label.look_of(variant);
    const bool is_known = std::any_of(composites_made.begin(), composites_made.end(),
                                      [look](const Composite& composite) { return composite.look == look; });
    if (variant.panel || is_known || !detail::has_joined_layers(looks.get(look))) continue;
    composites_made.push_back({TexelKind::mask, look, glyph++});
  }
  if (s.fades) composites_made.push_back({TexelKind::intermediate, label.look, glyph});
}

/// False where the table of layers is full.
bool SceneState::write_composites(std::uint32_t i, const LabelContent& label) {
  if (composites_made.empty()) return true;
  const LookBook& looks = contexts[still[i].context].context->looks();
  const Rect extent = detail::composite_extent(label, looks, still[i].extent);
  for (Composite& composite : composites_made) {
    composite.is_there = write_composite(i, composite, extent, label.paragraph.size);
    if (composite.is_there) continue;
    if (arrays.size() < kMaxArrays) return false;
    note_crowded(label, "what needs more than 32 texture arrays is left out");
  }
  return true;
}

/// False where there is no room for what it needs.
bool SceneState::write_composite(std::uint32_t i, const Composite& composite, const Rect& extent,
                                 float size) {
  const StillLabel& s = still[i];
  Variant variant = detail::composite_variant(composite.kind, size);
  const auto found = layers.find(s.context, contexts[s.context].context->looks(), variant, composite.look,
                                 tables.layers, next);
  if (!found) return false;
  const std::uint32_t array = array_number(s.context, variant);
  if (array >= kMaxArrays) return false;
  const LocalQuad q = detail::composite_quad(extent);
  GlyphRecord& record = tables.glyphs.change(s.first_glyph + composite.glyph, next);
  record = {};
  record.x = q.x, record.y = q.y, record.cell = q.cell, record.row = i;
  record.record = found->first;
  record.page = static_cast<std::uint16_t>(array * 2048U);
  return true;
}

void SceneState::add_slots(std::uint32_t i, const QuadRun& run, std::uint32_t layer) {
  for (std::uint32_t q = run.first; q < run.first + run.count; ++q) {
    slots_made.push_back((still[i].first_glyph + q) * 8 + layer);
  }
}

/// All runs of a look as one shape, when the first of them comes up, and then its composite.
void SceneState::add_joined_slots(std::uint32_t i, const LabelContent& label, const QuadRun& first,
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
  const auto composite = std::find_if(composites_made.begin(), composites_made.end(),
                                      [id](const Composite& c) { return c.look == id; });
  if (composite->is_there) slots_made.push_back((still[i].first_glyph + composite->glyph) * 8 + layer);
}

/// An entry of a label as a batch of its own.
SceneBatch SceneState::batch_of_entry(const StillLabel& s, std::uint32_t slot, SceneFeature features) const {
  const std::uint32_t entry = tables.order[slot];
  const GlyphRecord& glyph = tables.glyphs[entry / 8];
  const std::uint32_t record = glyph.record + (entry & 7U), array = glyph.page / 2048U;
  const RenderTarget own = s.fades ? RenderTarget::intermediate : RenderTarget::frame;
  SceneBatch batch{slot, 1, 1U << array, features & ~(SceneFeature::joins | SceneFeature::fades),
                   layers.images_of(record)};
  if (layers.joins(record)) {
    batch.target = RenderTarget::mask, batch.features = (features & kOfMasks) | SceneFeature::joins,
    batch.images = {};
    return batch;
  }
  batch.is_composite = is_composite(arrays[array].kind);
  if (arrays[array].kind == TexelKind::intermediate) {
    batch.features = SceneFeature::none, batch.images = {};
    return batch;
  }
  batch.target = own;
  if (s.fades) batch.features |= SceneFeature::fades;
  if (batch.is_composite)
    batch.features &= ~(SceneFeature::moves | SceneFeature::magnified | SceneFeature::minified |
                        SceneFeature::mipmapped | SceneFeature::pixelated);
  return batch;
}

}  // namespace grafema
