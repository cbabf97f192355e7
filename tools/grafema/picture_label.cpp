// SPDX-License-Identifier: MIT
// Labels of pictures that commands draw, and the pictures of their glyphs.
#include <algorithm>
#include <chrono>
#include <cmath>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/unicode/character_sets.hpp"
#include "options/placement_options.hpp"

namespace grafema::tool {

std::shared_ptr<GlyphSource> source_for(const Picture& picture) {
  if (!picture.laid.rich) return std::make_shared<AtlasSource>(atlas_for(picture));
  // Glyphs of several sizes and faces, icons among them: made when they are asked for.
  GlyphCacheOptions options;
  float size = picture.laid.style.size;
  for (const PlacedStyle& style : picture.laid.paragraph.styles)
    size = std::max(size, picture.laid.style.size * style.scale);
  options.size = picture.placement.pixelated ? size : std::clamp(size, 24.0F, 128.0F);
  options.reach = std::clamp(options.size / 4, 8.0F, 32.0F);
  options.color_size = options.size;
  options.read_picture = read_png;
  options.largest_page = {4096, 4096}, options.budget = std::size_t{512} << 20U,
  options.frame_bytes = options.budget;
  options.frame_time = std::chrono::hours(1);
  std::shared_ptr<GlyphCache> cache = value_or_give_up(GlyphCache::make(options));
  value_or_give_up(cache->add(*picture.laid.paragraph.rich_fonts));
  cache->begin_frame();
  return cache;
}

Label add_label(const Picture& picture, TextContext& context, TextScene& scene) {
  const LaidOut& laid = picture.laid;
  context.set_fonts_by_name(laid.names->fonts);
  for (std::size_t i = 1; i < laid.names->looks.size(); ++i) {
    const LookId id{static_cast<std::uint32_t>(i)};
    value_or_give_up(context.looks().set(laid.names->looks.name(id), laid.names->looks.get(id)));
  }
  Label label = scene.add(laid.text);
  if (laid.rich) label.set_rich(*laid.rich);
  value_or_give_up(label.set_style(laid.style));
  label.set_placement(picture.placement);
  label.set_look(value_or_give_up(context.looks().set("the label's own", picture.look)));
  if (picture.panel) {
    Panel panel = *picture.panel;
    panel.look = value_or_give_up(context.looks().set("the label's panel", picture.panel_look));
    value_or_give_up(label.set_panel(panel));
  }
  value_or_give_up(label.set_path(picture.on_path));
  label.set_opacity(picture.opacity);
  label.set_motion(picture.motion);
  label.set_revealed(laid.revealed);
  return label;
}

std::shared_ptr<const Atlas> atlas_for(const Picture& picture) {
  if (picture.laid.atlas) return picture.laid.atlas;
  constexpr float kLeast = 24, kMax = 128;
  AtlasRecipe recipe;
  for (const StackFace& face : picture.laid.stack) {
    recipe.faces.push_back(std::shared_ptr<const Face>(face.metrics, face->face()));
  }
  add_characters(picture.laid.text, recipe.characters);
  std::erase_if(recipe.characters, [](char32_t c) { return c < 0x20; });
  const bool pixelated = picture.placement.pixelated;
  recipe.size = pixelated ? picture.laid.style.size : std::clamp(picture.laid.style.size, kLeast, kMax);
  const float texels = recipe.size / picture.laid.style.size;
  recipe.reach =
      std::clamp(std::ceil(required_reach(picture.look, picture.laid.style.size) * texels) + 1, 4.0F, 128.0F);
  recipe.bits = 16;
  if (pixelated && required_reach(picture.look, recipe.size) <= 0.5F) {
    recipe.kind = PictureKind::coverage, recipe.bits = 8;
  }
  return std::make_shared<const Atlas>(value_or_give_up(bake(recipe)));
}

}  // namespace grafema::tool
