// SPDX-License-Identifier: MIT
// Gives each icon of a rich text a style of its own, whose line metrics make room for it.
#include <algorithm>
#include <cmath>

#include "raster/embedded_picture.hpp"
#include "text/runs/styles.hpp"

namespace grafema::detail {

void StyleTable::add_icons(const RichText& text) {
  std::uint32_t last = 0;
  for (const PlacedIcon& icon : text.icons) {
    const bool there =
        icon.position >= last && text.text.compare(std::min<std::size_t>(icon.position, text.text.size()),
                                                   kIconCharacter.size(), kIconCharacter) == 0;
    if (!there) continue;
    add_icon(icon);
    last = icon.position + static_cast<std::uint32_t>(kIconCharacter.size());
  }
}

void StyleTable::add_icon(const PlacedIcon& p) {
  const std::size_t in = segment_at(p.position);
  const StyleSegment around = segments[in];
  ShapingStyle style = shaping[around.shaping];
  Icon icon = p.icon;
  const auto sound = [](float v, float low) { return std::isfinite(v) && v >= low && v <= 1000; };
  icon.height = sound(icon.height, 0) && icon.height > 0 ? icon.height : 1.0F;
  icon.width = sound(icon.width, 0) ? icon.width : 0;
  icon.raise = sound(std::abs(icon.raise), 0) ? icon.raise : 0;
  const float unit = style.scale, cap = cap_height_of(*style.fonts[0].metrics);
  const float bottom =
      icon.raise * unit + (icon.align == IconAlign::cap_middle ? (cap - icon.height) / 2 * unit
                           : icon.align == IconAlign::top      ? style.line.ascent - icon.height * unit
                           : icon.align == IconAlign::bottom   ? -style.line.descent
                                                               : 0.0F);
  style.icon = static_cast<std::int32_t>(icons.size());
  style.line.ascent = std::max(style.line.ascent, bottom + icon.height * unit);
  style.line.descent = std::max(style.line.descent, -bottom);
  style.tracking = 0;
  const float raise = style.raise + bottom;
  PlacedStyle place = placed[around.placed];
  if (icon.face) {
    FontRect box = icon.face->glyph_box(icon.glyph);
    if (box.empty() && icon.face->face() != nullptr) {  // a picture, which has no outline
      box = embedded_box(*icon.face->face(), icon.glyph, icon.face->units_per_em()).value_or(box);
    }
    const float high = std::max(box.y_max - box.y_min, 1.0F) / icon.face->units_per_em();
    style.fonts = FontStack{icon.face};
    style.scale = unit * std::min(icon.height / high, 100.0F);
    style.raise += bottom - box.y_min / icon.face->units_per_em() * style.scale;
    if (icon.width == 0) {
      float units = 0;
      icon.face->advances(std::span(&icon.glyph, 1), std::span(&units, 1));
      icon.width = units / icon.face->units_per_em() * style.scale / unit;
    }
  } else {
    style.raise += bottom;
    if (icon.width == 0) icon.width = icon.height;
  }
  // From here on in ems of the text's size, and `raise` from the baseline.
  icon.width *= unit, icon.height *= unit, icon.raise = raise;
  icons.push_back(icon);
  place.scale = style.scale;
  const StyleSegment own{p.position, add_shaping(std::move(style)), add_placed(place)};
  const std::uint32_t end = p.position + static_cast<std::uint32_t>(kIconCharacter.size());
  const auto at = segments.begin() + static_cast<std::ptrdiff_t>(in);
  const bool ends_here = in + 1 < segments.size() && segments[in + 1].start == end;
  if (at->start == p.position) {
    *at = own;
    if (!ends_here) segments.insert(at + 1, {end, around.shaping, around.placed});
  } else {
    const StyleSegment rest[] = {own, {end, around.shaping, around.placed}};
    segments.insert(at + 1, std::begin(rest), std::end(rest) - (ends_here ? 1 : 0));
  }
}

}  // namespace grafema::detail
