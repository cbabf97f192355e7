// SPDX-License-Identifier: MIT
// What lies behind a label's letters, and what they lie along.
#include <algorithm>
#include <cmath>

#include "draw/content/label_content.hpp"
#include "draw/label_map.hpp"

namespace grafema {

/// The box behind the label: a texel of it is a pixel, since its edge is worked out.
void LabelContent::add_panel() {
  if (!panel || !context->looks().has(panel->look)) return;
  has_bars = true;
  const PanelShape shape = panel_shape(*panel, box);
  Variant variant;
  variant.size = paragraph.size, variant.kind = TexelKind::panel;
  variant.own_look = false, variant.look = panel->look;
  const float reach = std::ceil(required_reach(context->looks().get(panel->look), variant.size) + 1);
  variant.reach = reach;
  PanelRecord record;
  record.radii = shape.radii, record.has_pointer = shape.has_pointer ? 1.0F : 0.0F;
  for (std::size_t i = 0; i < 3 && shape.has_pointer; ++i) {
    const PixelPoint p{shape.pointer[i].x - shape.box.left, shape.pointer[i].y - shape.box.top};
    record.pointer[2 * i] = p.x, record.pointer[2 * i + 1] = p.y;
    const float width = shape.box.width(), height = shape.box.height();
    const std::array<float, 4> beyond = {-p.x, -p.y, p.x - width, p.y - height};
    for (std::size_t k = 0; k < 4; ++k) record.beyond[k] = std::max(record.beyond[k], std::ceil(beyond[k]));
  }
  variant.panel = record;
  constexpr float kMaxTexels = 60000;
  const float left = reach + record.beyond[0], top = reach + record.beyond[1];
  const float width = shape.box.width() + left + reach + record.beyond[2],
              height = shape.box.height() + top + reach + record.beyond[3];
  if (!(width <= kMaxTexels && height <= kMaxTexels)) return;  // no device shows as much
  LocalQuad quad{};
  quad.cell = {0, 0, static_cast<std::uint16_t>(width), static_cast<std::uint16_t>(height)};
  quad.x = shape.box.left - left - 0.5F, quad.y = shape.box.top - top - 0.5F;
  quad.width = width + 1, quad.height = height + 1;
  put_quad(quad, variant, 0, QuadInfo::kBar);
}

Rect detail::box_with_panel(const Rect& box, const std::optional<Panel>& panel) {
  return panel ? enclosing(box, panel_shape(*panel, box).box) : box;
}

void LabelContent::put_on_path(std::size_t quad, detail::GlyphMove& move) const {
  if (variant_of(quad).panel) return;
  const LocalQuad& q = quads[quad];
  const Line& line = paragraph.lines.front();
  // The middle of what stands on the path, and half of its width.
  float middle = q.x + q.width / 2, half = std::max(q.width / 2, 0.5F);
  if (infos[quad].glyph != QuadInfo::kBar) {
    const PlacedGlyph& glyph = paragraph.glyphs[infos[quad].glyph];
    middle = glyph.pen.x + glyph.advance / 2, half = std::max(glyph.advance / 2, 0.5F);
  }
  const TextPath& path = *on_path.path;
  const float along = on_path.offset + on_path.align * (path.length() - box.width()) + middle - box.left;
  const PixelPoint on = path.at(along), before = path.at(along - half), behind = path.at(along + half);
  const float dx = behind.x - before.x, dy = behind.y - before.y, length = std::hypot(dx, dy);
  const bool is_turned = !on_path.upright && length > 0;
  const float cosine = is_turned ? dx / length : 1, sine = is_turned ? dy / length : 0;
  const detail::GlyphMove m = move;
  const float x = m.dx - middle, y = m.dy - line.baseline;
  move.xx = cosine * m.xx - sine * m.yx, move.xy = cosine * m.xy - sine * m.yy;
  move.yx = sine * m.xx + cosine * m.yx, move.yy = sine * m.xy + cosine * m.yy;
  move.dx = on.x + cosine * x - sine * y, move.dy = on.y + sine * x + cosine * y;
}

const Variant& LabelContent::variant_of(std::size_t quad) const {
  const auto holds = [quad](const QuadRun& run) { return quad >= run.first && quad < run.first + run.count; };
  const auto at = std::find_if(runs.begin(), runs.end(), holds);
  return variants[at != runs.end() ? at->variant : 0];
}

/// Around what of a box comes to lie on the path.
Rect LabelContent::on_its_path(std::size_t quad, const Rect& own) const {
  detail::GlyphMove move;
  put_on_path(quad, move);
  const PixelPoint first = move({own.left, own.top});
  Rect out{first.x, first.y, first.x, first.y};
  for (const PixelPoint corner :
       {PixelPoint{own.right, own.top}, {own.right, own.bottom}, {own.left, own.bottom}}) {
    const PixelPoint p = move(corner);
    out = {std::min(out.left, p.x), std::min(out.top, p.y), std::max(out.right, p.x),
           std::max(out.bottom, p.y)};
  }
  return out;
}

Rect painted_extent(const LabelContent& label, const LookBook& looks) {
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

}  // namespace grafema
