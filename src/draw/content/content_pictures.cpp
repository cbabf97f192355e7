// SPDX-License-Identifier: MIT
// Finds the pictures of a label's glyphs and puts them where the paragraph says.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "draw/content/fill_boxes.hpp"
#include "draw/content/label_content.hpp"
#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

/// A picture of this size whose pen stands at the quarter pixel that is nearest to the glyph's.
GlyphKey key_of(FaceId face, const PlacedGlyph& glyph, float size) {
  const PixelPoint origin = glyph.origin();
  const float quarters = (glyph.turned ? origin.y : origin.x) * 4,
              within = quarters - std::floor(quarters / 4) * 4;
  const auto phase = static_cast<std::uint8_t>(static_cast<int>(within + 0.5F) & 3);
  return {face, glyph.glyph, static_cast<std::uint16_t>(std::clamp(std::round(size * 4), 0.0F, 65535.0F)),
          phase};
}

}  // namespace

void LabelContent::resolve_glyphs() {
  context->offer(fonts());
  source_epoch = context->source().epoch();
  quads_stale = false;
  quads.clear();
  runs.clear();
  infos.clear();
  variants.clear();
  pages.clear();
  picture_notes.clear();
  unsettled = false;
  std::vector<GlyphKey>& keys = memory->keys_wanted;
  std::vector<GlyphPicture>& sprites = memory->pictures;
  keys.clear();
  for (const PlacedGlyph& glyph : paragraph.glyphs) {
    keys.push_back(key_of(fonts()[glyph.face]->id(), glyph, paragraph.glyph_size(glyph)));
  }
  quads.reserve(keys.size());
  infos.reserve(keys.size());
  sprites.resize(keys.size());
  const std::uint32_t shown = shown_bytes();
  context->source().resolve(keys, sprites);
  for (std::size_t i = 0; i < sprites.size(); ++i) {
    note_picture(sprites[i], i);
    unsettled =
        unsettled || sprites[i].state == PictureState::waiting || sprites[i].state == PictureState::absent;
    GlyphPicture sprite = sprites[i];
    if (sprite.state == PictureState::absent) {
      sprite = resolve_missing_shape(i, paragraph.glyph_size(paragraph.glyphs[i]));
    }
    const bool there =
        sprite.state == PictureState::ready || (sprite.state == PictureState::waiting && sprite.cell[2] > 0);
    if (there && paragraph.glyphs[i].text_start < shown) add_quad(sprite, static_cast<std::uint32_t>(i));
  }
  add_bars(shown);
  add_panel();
  name_notes();
  extent = {};
  for (const QuadRun& run : runs) {
    const float lean = variants[run.variant].lean;
    for (std::size_t i = run.first; i < run.first + run.count; ++i) {
      const LocalQuad& q = quads[i];
      const Rect own{q.x + std::min(0.0F, -lean * q.height), q.y,
                     q.x + q.width + std::max(0.0F, -lean * q.height), q.y + q.height};
      extent = enclosing(extent, on_path.path ? on_its_path(i, own) : as_it_stands(i, own));
    }
  }
}

/// The missing-glyph shape of the glyph's face, or of the first that has one, for a glyph without a picture.
GlyphPicture LabelContent::resolve_missing_shape(std::size_t glyph, float size) {
  GlyphPicture sprite;
  PlacedGlyph missing = paragraph.glyphs[glyph];
  missing.glyph = kMissingGlyph;
  const auto ask = [&](const GlyphMetrics& face) {
    const GlyphKey key = key_of(face.id(), missing, size);
    context->source().resolve(std::span(&key, 1), std::span(&sprite, 1));
    return sprite.state != PictureState::absent;
  };
  if (ask(*fonts()[missing.face].metrics)) return sprite;
  for (const StackFace& face : fonts()) {
    if (ask(*face.metrics)) break;
  }
  return sprite;
}

/// Notes what is wrong with the picture of a glyph, a few times a label.
void LabelContent::note_picture(const GlyphPicture& sprite, std::size_t glyph) {
  constexpr std::size_t kMax = 64;
  const PlacedGlyph& placed = paragraph.glyphs[glyph];
  const float size = paragraph.glyph_size(placed);
  Note note;
  if (sprite.state == PictureState::absent) {
    note = {.kind = NoteKind::missing_picture,
            .character = static_cast<std::uint32_t>(decode_utf8(text, placed.text_start).character),
            .position = index_of(placed.glyph),
            .face = fonts()[placed.face]->title()};
  } else if (sprite.state == PictureState::ready && sprite.kind == PictureKind::coverage) {
    // Told where the label's scale does not make up for it.
    note = {.kind = NoteKind::scaled_picture, .wanted = size, .given = sprite.size};
  } else {
    return;
  }
  const bool known = std::any_of(picture_notes.begin(), picture_notes.end(), [&note](const Note& other) {
    return other.kind == note.kind && other.position == note.position && other.face == note.face &&
           other.wanted == note.wanted;
  });
  if (!known && picture_notes.size() < kMax) picture_notes.push_back(std::move(note));
}

/// A quad of that variant goes on the run before it, or begins one.
void LabelContent::put_quad(const LocalQuad& quad, const Variant& variant, std::uint16_t page_number,
                            std::uint32_t glyph) {
  const auto same = [&](const Variant& v) {
    return are_alike(v, variant) && v.part == variant.part && v.own_look == variant.own_look &&
           v.look == variant.look;
  };
  std::size_t index = runs.empty() ? 0 : runs.back().variant;
  if (variants.empty() || !same(variants[index])) {
    index = static_cast<std::size_t>(std::find_if(variants.begin(), variants.end(), same) - variants.begin());
    if (index == variants.size()) variants.push_back(variant);
  }
  const auto number = static_cast<std::uint16_t>(index);
  if (runs.empty() || runs.back().variant != number || runs.back().page != page_number) {
    runs.push_back({static_cast<std::uint32_t>(quads.size()), 0, number, page_number});
  }
  ++runs.back().count;
  quads.push_back(quad);
  infos.push_back({glyph});
}

void LabelContent::add_quad(const GlyphPicture& sprite, std::uint32_t index) {
  const PlacedGlyph& glyph = paragraph.glyphs[index];
  const PixelPoint pen = glyph.origin();
  const float size = paragraph.glyph_size(glyph), pixel = size / sprite.size;  // layout pixels a texel
  const PlacedFace& face = paragraph.faces[glyph.face];
  LocalQuad quad{};
  quad.x = pen.x + (sprite.offset.x - static_cast<float>(sprite.phase) / 4 - 0.5F) * pixel;
  quad.y = pen.y + (sprite.offset.y - 0.5F) * pixel;
  quad.width = static_cast<float>(sprite.cell[2] + 1) * pixel;
  quad.height = static_cast<float>(sprite.cell[3] + 1) * pixel;
  quad.x -= face.lean * (quad.y - pen.y);
  quad.cell = sprite.cell;
  if (std::find(pages.begin(), pages.end(), sprite.page) == pages.end()) pages.push_back(sprite.page);
  Variant variant;
  variant.size = paragraph.size * paragraph.styles[glyph.style].scale;
  variant.texels_per_pixel = sprite.size / size, variant.reach = sprite.reach;
  variant.grow = face.grow * size, variant.lean = face.lean;
  variant.kind = texel_kind(sprite.kind);
  variant.part = context->source().pages()[sprite.page].part;
  if (!styles.empty() && !styles[glyph.style].own_look) {
    variant.own_look = false, variant.look = styles[glyph.style].look;
  }
  put_quad(quad, variant, context->source().pages()[sprite.page].array_layer, index);
}

/// Lines under and through letters, as far as the text is revealed.
void LabelContent::add_bars(std::uint32_t shown) {
  has_bars = !paragraph.bars.empty();
  std::vector<Rect>& boxes = memory->boxes;
  for (const PlacedBar& bar : paragraph.bars) {
    if (on_path.path) {  // a piece under each letter
      for (const PlacedGlyph& glyph : paragraph.glyphs) {
        const float middle = glyph.pen.x + glyph.advance / 2;
        const bool is_of_bar = glyph.text_start >= bar.text_start &&
                               glyph.text_start < std::min(bar.text_end, shown) && middle > bar.box.left &&
                               middle < bar.box.right;
        const Rect piece{std::max(glyph.pen.x, bar.box.left), bar.box.top,
                         std::min(glyph.pen.x + glyph.advance, bar.box.right), bar.box.bottom};
        if (is_of_bar && !piece.empty()) add_bar(bar, piece);
      }
      continue;
    }
    if (shown >= bar.text_end) {
      add_bar(bar, bar.box);
      continue;
    }
    range_boxes(paragraph, bar.text_start, shown, boxes);
    for (const Rect& seen : boxes) {
      const bool down = paragraph.writing != WritingMode::horizontal;
      const bool on_line = down ? seen.left <= bar.box.right && seen.right >= bar.box.left
                                : seen.top <= bar.box.bottom && seen.bottom >= bar.box.top;
      Rect cut = bar.box;
      if (down) {
        cut.top = std::max(cut.top, seen.top), cut.bottom = std::min(cut.bottom, seen.bottom);
      } else {
        cut.left = std::max(cut.left, seen.left), cut.right = std::min(cut.right, seen.right);
      }
      if (on_line && !cut.empty()) add_bar(bar, cut);
    }
  }
}

void LabelContent::add_bar(const PlacedBar& bar, const Rect& rect) {
  constexpr float kTexels = 16;  // in a pixel: its ends stand within a 32nd of one
  constexpr float kMaxTexels = 60000;
  const bool own = styles.empty() || styles[bar.style].own_look;
  Variant variant;
  variant.size = paragraph.size * paragraph.styles[bar.style].scale;
  variant.kind = TexelKind::bar;
  variant.own_look = own;
  if (!own) variant.look = styles[bar.style].look;
  const float around = required_reach(context->looks().get(look_of(variant)), variant.size) + 1,
              longest = std::max(rect.width(), rect.height()) + 2 * around;
  // The height comes out exactly: a bar a few pixels high shows it.
  const float rows = std::max(1.0F, std::round(rect.height() * std::min(kTexels, kMaxTexels / longest)));
  variant.texels_per_pixel = rows / rect.height();
  const float k = variant.texels_per_pixel, reach = std::ceil(around * k);
  variant.reach = reach;
  const float width = std::clamp(std::round(rect.width() * k), 1.0F, kMaxTexels);
  LocalQuad quad{};
  quad.cell = {0, 0, static_cast<std::uint16_t>(width + 2 * reach),
               static_cast<std::uint16_t>(rows + 2 * reach)};
  quad.x = rect.left - (reach + 0.5F) / k, quad.y = rect.top - (reach + 0.5F) / k;
  quad.width = (width + 2 * reach + 1) / k, quad.height = (rows + 2 * reach + 1) / k;
  put_quad(quad, variant, 0, QuadInfo::kBar);
}

/// Names of spans become looks and motions of the context; names that it does not have are noted.
void LabelContent::find_styles() {
  styles.clear();
  moving = is_moving();
  if (!is_rich) return;
  styles.resize(paragraph.styles.size());
  const auto note = [&](const char* what, const Error& error) {
    layout_notes.push_back(
        {.kind = NoteKind::unknown_name, .text = fmt::format("{} {}", what, error.found.data())});
  };
  for (std::size_t i = 0; i < styles.size(); ++i) {
    const PlacedStyle& placed = paragraph.styles[i];
    if (placed.look != PlacedStyle::kNone) {
      const std::string& wanted = rich.spans[placed.look].style.look;
      const Result<LookId> found = context->looks().read(wanted);
      if (found) styles[i].own_look = false, styles[i].look = *found;
      if (!found) note("look", found.error());
    }
    if (placed.motion != PlacedStyle::kNone) {
      const std::string& wanted = rich.spans[placed.motion].style.motion;
      const Result<Motion> found = context->motions().read(wanted);
      if (found) styles[i].own_motion = false, styles[i].motion = *found;
      if (!found) note("motion", found.error());
      moving = moving || static_cast<bool>(styles[i].motion);
    }
  }
}

const Motion& LabelContent::motion_of(std::size_t quad) const {
  static const Motion still;
  const std::uint32_t glyph = infos[quad].glyph;
  if (glyph == QuadInfo::kBar) return still;
  const std::uint16_t of = paragraph.glyphs[glyph].style;
  return styles.empty() || styles[of].own_motion ? motion : styles[of].motion;
}

detail::GlyphAtRest LabelContent::at_rest(std::size_t quad) const {
  const LocalQuad& q = quads[quad];
  const std::uint32_t index = infos[quad].glyph;
  detail::GlyphAtRest rest;
  rest.index = index, rest.size = paragraph.size;
  rest.label = {box.width() / 2, box.height() / 2};
  rest.middle = {q.x + q.width / 2, q.y + q.height / 2};
  if (index == QuadInfo::kBar) return rest;
  const PlacedGlyph& glyph = paragraph.glyphs[index];
  rest.middle.x -= paragraph.faces[glyph.face].lean * q.height / 2;
  rest.baseline = {glyph.pen.x + glyph.advance / 2, glyph.pen.y};
  return rest;
}

bool LabelContent::has_turned_letters() const {
  return paragraph.writing != WritingMode::horizontal &&
         std::any_of(paragraph.glyphs.begin(), paragraph.glyphs.end(),
                     [](const PlacedGlyph& glyph) { return glyph.turned; });
}

bool LabelContent::is_turned(std::size_t quad) const {
  return infos[quad].glyph != QuadInfo::kBar && paragraph.glyphs[infos[quad].glyph].turned;
}

/// Letters on their side: a quarter turn clockwise about where they are painted.
void LabelContent::turn_letter(std::size_t quad, detail::GlyphMove& move) const {
  const PixelPoint at = paragraph.glyphs[infos[quad].glyph].origin();
  move.xx = 0, move.xy = -1, move.dx = at.x + at.y;
  move.yx = 1, move.yy = 0, move.dy = at.y - at.x;
}

/// What a box of the quad covers.
Rect LabelContent::as_it_stands(std::size_t quad, const Rect& own) const {
  if (!is_turned(quad)) return own;
  detail::GlyphMove move;
  turn_letter(quad, move);
  const PixelPoint a = move({own.left, own.bottom}), b = move({own.right, own.top});
  return {a.x, a.y, b.x, b.y};
}

void LabelContent::move_glyph(std::size_t quad, double at, detail::GlyphMove& move) const {
  if (is_turned(quad)) turn_letter(quad, move);
  if (const Motion& wanted = motion_of(quad)) {
    const detail::GlyphAtRest rest = at_rest(quad);
    detail::apply(wanted.terms(), rest, static_cast<float>(at), move);
    if (wanted.function()) {
      GlyphChange change;
      wanted.function()({rest.index, paragraph.glyphs.size(), at, paragraph.size}, change);
      detail::apply(change, rest, move);
    }
  }
  if (on_path.path) put_on_path(quad, move);
}

void LabelContent::find_fill_boxes(std::vector<FillBoxes>& out) const {
  out.clear();
  const bool is_asked = std::any_of(variants.begin(), variants.end(), [this](const Variant& v) {
    return v.panel || !spans_label(context->looks().get(look_of(v)));
  });
  if (!is_asked) return;
  out.resize(paragraph.glyphs.size() + (has_bars ? quads.size() : 0), {box, box});
  detail::BoxFinder finder;
  for (std::size_t q = 0; q < quads.size(); ++q) {
    if (infos[q].glyph != QuadInfo::kBar) {
      out[place_of(q)] = finder.of_glyph(paragraph, infos[q].glyph);
      continue;
    }
    const LocalQuad& quad = quads[q];
    if (variant_of(q).panel) {
      const Rect whole = panel_shape(*panel, box).box;
      out[place_of(q)] = {whole, whole};
      continue;
    }
    // A quad of a bar holds it in its middle.
    const float x = quad.x + quad.width / 2, y = quad.y + quad.height / 2;
    const auto holds = [&](const PlacedBar& bar) {
      const Rect& b = bar.box;
      return x >= b.left && x <= b.right && y >= b.top - 1 && y <= b.bottom + 1;
    };
    const auto at = std::find_if(paragraph.bars.begin(), paragraph.bars.end(), holds);
    if (at != paragraph.bars.end()) out[place_of(q)] = finder.of_bar(paragraph, *at);
  }
}

void LabelContent::find_clusters() {
  if (!clusters.empty() || paragraph.glyphs.empty()) return;
  // Marks that only steer directions take no room, and nobody waits for them.
  for (const PlacedGlyph& glyph : paragraph.glyphs) {
    if (glyph.advance != 0) clusters.push_back(glyph.text_start);
  }
  std::sort(clusters.begin(), clusters.end());
  clusters.erase(std::unique(clusters.begin(), clusters.end()), clusters.end());
}

/// Bytes from which on clusters are not shown yet.
std::uint32_t LabelContent::shown_bytes() {
  if (revealed == Label::kAll) return 0xFFFFFFFF;
  find_clusters();
  return revealed < clusters.size() ? clusters[revealed] : 0xFFFFFFFF;
}

}  // namespace grafema
