// SPDX-License-Identifier: MIT
// Layer records: looks in texels of the pictures that they are drawn from.
#include <algorithm>
#include <bit>
#include <cmath>

#include "draw/content/label_content.hpp"
#include "draw/layer_record.hpp"
#include "raster/fill_math.hpp"

namespace grafema {

namespace {

std::array<float, 4> premultiplied(const Color& c, float opacity) {
  const float alpha = c.alpha * opacity;
  return {c.red * alpha, c.green * alpha, c.blue * alpha, alpha};
}

bool needs_fill_record(const Layer& layer) {
  return layer.fill.kind != FillKind::corners || layer.surface.width > 0;
}

/// A layer that follows an edge paints nothing where pictures have none.
float opacity_of(const Look& look, const Layer& layer, float reach) {
  return (layer.inset || layer.line > 0) && reach <= 0 ? 0.0F : look.opacity;
}

/// As FillRecord::surface.
std::array<float, 8> surface_of(const Surface& u, float k) {
  return {u.width * k,
          u.height * k,
          std::clamp(u.round, 0.0F, 1.0F),
          u.diffuse,
          u.specular,
          std::clamp(u.exponent, 1.0F, 128.0F),
          u.grain ? u.grain_scale * k : 0.0F,
          u.mirror ? std::clamp(u.mirror_strength, 0.0F, 1.0F) : 0.0F};
}

/// A FillRecord as layer records.
using FillRoom = std::array<LayerRecord, kRecordsOfFill>;

LayerRecord layer_record(const Look& look, std::size_t index, const Variant& variant) {
  const Layer& layer = look.layers[index];
  const float texels_per_pixel = variant.texels_per_pixel, reach = variant.reach;
  LayerRecord record;
  record.reach = reach;
  if (reach > 0) {
    record.grow = (layer.grow + (layer.inset ? 0.0F : variant.grow)) * texels_per_pixel;
    record.blur = layer.blur * texels_per_pixel;
    record.line = layer.inset ? 0.0F : layer.line * texels_per_pixel;
    // What the pictures can't see is cut evenly, so that paint ends inside the cell.
    const float outer = std::abs(record.grow) * (layer.sharp ? kSharpReach : 1.0F),
                needed = std::max(outer, std::abs(record.grow - record.line)) + record.blur,
                there = std::max(reach - 0.5F, 0.0F);
    if (needed > there) {
      const float by = there / needed;
      record.grow *= by, record.blur *= by, record.line *= by;
    }
    record.cut = layer.inset ? kInsetCut : layer.hollow ? kHollowCut : kNoCut;
    record.sharp = layer.sharp ? 1.0F : 0.0F;
  }
  // On the page letters of a made italic stand upright.
  const auto on_page = [&](PixelPoint p) {
    constexpr float kFarthest = 1e6F;  // texels that can be counted
    const auto texels = [&](float v) { return std::clamp(v * texels_per_pixel, -kFarthest, kFarthest); };
    return PixelPoint{texels(p.x + variant.lean * p.y), texels(p.y)};
  };
  const PixelPoint shift = on_page(layer.shift), sweep = on_page(layer.sweep);
  record.shift_x = shift.x, record.shift_y = shift.y;
  if (!layer.inset && !is_composite(variant.kind)) record.sweep_x = sweep.x, record.sweep_y = sweep.y;
  if (variant.kind == TexelKind::intermediate) record.shift_x = record.shift_y = 0;
  record.front = index + 1 == look.count ? 1.0F : 0.0F;
  const float opacity = opacity_of(look, layer, reach);
  for (std::size_t i = 0; i < 4; ++i) record.corners[i] = premultiplied(layer.fill.corners[i], opacity);
  record.pixel = 1 / texels_per_pixel;
  record.lean = variant.lean;
  // What stands behind a label spans itself.
  const FillBox box = layer.join ? FillBox::label : layer.fill.box;
  record.fill_box = static_cast<float>(variant.panel ? FillBox::glyph : box);
  return record;
}

}  // namespace

SceneFeature detail::features_of(const Layer& layer) {
  SceneFeature features = SceneFeature::none;
  if (layer.hollow || layer.inset) features |= SceneFeature::hollow;
  if (layer.grow != 0 || layer.blur != 0 || layer.line > 0 || layer.inset) features |= SceneFeature::effects;
  if (!layer.inset && (layer.sweep.x != 0 || layer.sweep.y != 0))
    features |= SceneFeature::sweeps | SceneFeature::effects;
  if (!layer.fill.is_solid()) features |= SceneFeature::fills;
  if (layer.fill.has_stops()) features |= SceneFeature::gradients;
  if (layer.fill.kind == FillKind::image) features |= SceneFeature::images;
  if (layer.surface.width > 0) {
    features |= SceneFeature::lit | SceneFeature::fills;
    if (layer.surface.grain) features |= SceneFeature::grain;
    if (layer.surface.mirror) features |= SceneFeature::mirrors;
  }
  if (layer.join) features |= SceneFeature::joins;
  return features;
}

std::size_t detail::records_of(const Look& look) {
  std::size_t count = look.count;
  for (std::size_t i = 0; i < look.count; ++i)
    count += needs_fill_record(look.layers[i]) ? kRecordsOfFill : 0;
  return count;
}

void detail::write_records(const Look& look, const Variant& variant, std::span<LayerRecord> out) {
  const Look pixels = in_pixels(look, variant.size);
  std::size_t next = pixels.count;
  for (std::size_t i = 0; i < std::min<std::size_t>(pixels.count, out.size()); ++i) {
    out[i] = layer_record(pixels, i, variant);
    if (!needs_fill_record(pixels.layers[i]) || next + kRecordsOfFill > out.size()) continue;
    const Layer& layer = pixels.layers[i];
    FillRecord made = fill_record(layer.fill, opacity_of(pixels, layer, variant.reach));
    if (variant.reach > 0) made.surface = surface_of(layer.surface, variant.texels_per_pixel);
    made.grain = layer.surface.grain ? layer.surface.grain_strength : 0.0F;
    const auto fill = std::bit_cast<FillRoom>(made);
    std::copy(fill.begin(), fill.end(), out.begin() + static_cast<std::ptrdiff_t>(next));
    out[i].fill = static_cast<float>(next - i);
    next += kRecordsOfFill;
  }
  if (!variant.panel || next >= out.size()) return;
  out[next] = std::bit_cast<LayerRecord>(*variant.panel);
  for (std::size_t i = 0; i < pixels.count; ++i) out[i].panel = static_cast<float>(next - i);
}

std::optional<PanelRecord> detail::panel_of(std::span<const LayerRecord> records, std::size_t layer) {
  const auto by = static_cast<std::size_t>(records[layer].panel);
  if (by == 0 || layer + by >= records.size()) return std::nullopt;
  return std::bit_cast<PanelRecord>(records[layer + by]);
}

std::optional<FillRecord> detail::fill_of(std::span<const LayerRecord> records, std::size_t layer) {
  const auto by = static_cast<std::size_t>(records[layer].fill);
  if (by == 0 || layer + by + kRecordsOfFill > records.size()) return std::nullopt;
  FillRoom room;
  std::copy_n(records.begin() + static_cast<std::ptrdiff_t>(layer + by), room.size(), room.begin());
  return std::bit_cast<FillRecord>(room);
}

}  // namespace grafema
