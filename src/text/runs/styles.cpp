// SPDX-License-Identifier: MIT
// Makes spans flat: each stretch gets one style to be shaped with and one to be placed with.
#include "text/runs/styles.hpp"

#include <unicode/uchar.h>

#include <algorithm>
#include <cmath>

namespace grafema {

RichText& RichText::append(std::string_view words, const SpanStyle& style) {
  const auto start = static_cast<std::uint32_t>(text.size());
  text += words;
  if (style != SpanStyle{}) spans.push_back({start, static_cast<std::uint32_t>(text.size()), style});
  return *this;
}

RichText& RichText::append(const Icon& icon, std::string_view name) {
  icons.push_back({static_cast<std::uint32_t>(text.size()), std::string(name), icon});
  text += kIconCharacter;
  return *this;
}

RichText& RichText::append(const RichText& other) {
  const auto base = static_cast<std::uint32_t>(text.size());
  text += other.text;
  for (const Span& span : other.spans) spans.push_back({base + span.start, base + span.end, span.style});
  for (const PlacedIcon& icon : other.icons) icons.push_back({base + icon.position, icon.name, icon.icon});
  for (const RevealPause& pause : other.pauses) pauses.push_back({base + pause.position, pause.seconds});
  return *this;
}

namespace detail {
namespace {

constexpr std::size_t kMostNested = 256;  // spans over one character; more are passed over
constexpr std::size_t kMostStyles = 0xFFFF;
constexpr float kSmallCapital = 0.76F;  // of a capital's height; a little above small letters

LineMetrics line_of(const FontStack& fonts, float scale) {
  const LineMetrics m = fonts[0]->line_metrics();
  const float unit = scale / fonts[0]->units_per_em();
  return {m.ascent * unit, m.descent * unit, m.line_gap * unit};
}

float cap_height_of(const GlyphMetrics& face) {
  const float units =
      face.face() != nullptr ? face.face()->facts().cap_height : face.glyph_box(face.find_glyph(U'H')).y_max;
  return units / face.units_per_em();
}

bool has_small_capitals(const GlyphMetrics& metrics) {
  if (metrics.face() == nullptr) return false;
  const std::vector<Tag> features = metrics.face()->features();
  return std::find(features.begin(), features.end(), tag("smcp")) != features.end();
}

/// Tracked letters do not join to ligatures that nobody needs (CSS Text 3, 8.2).
std::vector<FeatureSetting> features_of(const TextStyle& style, float tracking,
                                        const std::vector<FeatureSetting>& more) {
  std::vector<FeatureSetting> out;
  if (tracking != 0) out = {{tag("liga"), 0}, {tag("clig"), 0}};
  out.insert(out.end(), style.features.begin(), style.features.end());
  out.insert(out.end(), more.begin(), more.end());
  return out;
}

bool is_sound(const SpanStyle& s, float size) {
  const auto in_range = [](const std::optional<float>& v) {
    return !v || (*v >= kMinSize && *v <= kMaxSize);
  };
  const bool finite = std::isfinite(s.scale) && std::isfinite(s.tracking) && std::isfinite(s.raise) &&
                      std::isfinite(s.size.value_or(0)) && std::isfinite(s.cap_height.value_or(0));
  return finite && s.scale > 0 && s.scale <= 1000 && std::abs(s.raise) <= 1000 &&
         std::abs(s.tracking) <= kMaxSize && in_range(s.size) && in_range(s.cap_height) && size > 0;
}

/// Sums of spans in each other stay lengths that can be added up.
float bounded(float ems) { return std::clamp(ems, -1e5F, 1e5F); }

bool begins_character(std::string_view text, std::uint32_t byte) {
  return byte == text.size() || (static_cast<unsigned char>(text[byte]) & 0xC0U) != 0x80;
}

}  // namespace

/// What holds at a place: the text's own style and all spans that are open there.
struct StyleTable::Around {
  const TextStyle* style = nullptr;
  const FontBook* book = nullptr;
  RestyledFaces* restyled = nullptr;
  Notes* notes = nullptr;
  std::shared_ptr<const FontStack> root;  // the text's own faces, or those that a span gives
  FontRequest font;
  ShapingStyle shaping;
  std::vector<FeatureSetting> features;
  PlacedStyle placed;
  bool small_capitals = false;

  /// Goes into a span.
  void enter(const SpanStyle& span, std::uint32_t index) {
    bool refind = false;
    if (span.fonts && !span.fonts->empty()) root = span.fonts, font = {}, refind = true;
    if (!span.font.family.empty()) font.family = span.font.family, refind = true;
    if (span.font.weight) font.weight = span.font.weight, refind = true;
    if (span.font.slant) font.slant = span.font.slant, refind = true;
    if (refind) shaping.fonts = restyled->find(*root, font, book, notes);
    const float before = shaping.scale;
    if (span.size) shaping.scale = *span.size / style->size;
    if (span.cap_height) {
      const float capitals = cap_height_of(*shaping.fonts[0].metrics);
      if (capitals > 0) shaping.scale = *span.cap_height / capitals / style->size;
    }
    shaping.scale = std::clamp(shaping.scale * span.scale, kMinSize / style->size, kMaxSize / style->size);
    shaping.raise = bounded(shaping.raise + span.raise * before);
    shaping.tracking = bounded(shaping.tracking + span.tracking / style->size);
    if (span.language) shaping.language = *span.language;
    features.insert(features.end(), span.features.begin(), span.features.end());
    if (span.small_capitals) small_capitals = *span.small_capitals;
    shaping.makes_small_capitals = small_capitals && !has_small_capitals(*shaping.fonts[0].metrics);
    if (small_capitals && !shaping.makes_small_capitals) features.push_back({tag("smcp"), 1});
    if (!small_capitals)
      std::erase_if(features, [](const FeatureSetting& f) { return f.tag == tag("smcp"); });
    if (shaping.makes_small_capitals && notes != nullptr) {
      notes->add({.kind = NoteKind::made_small_capitals, .face = shaping.fonts[0]->title()});
    }
    shaping.features = features_of(*style, style->tracking + shaping.tracking * style->size, features);
    shaping.line = line_of(shaping.fonts, shaping.scale);
    placed.scale = shaping.scale;
    if (!span.look.empty()) placed.look = index;
    if (!span.motion.empty()) placed.motion = index;
    if (!span.link.empty()) placed.link = index;
  }
};

void StyleTable::set(const FontStack& base, const TextStyle& style) {
  stack = base;
  rich = has_tracking = false;
  decorations.clear(), icons.clear();
  shaping.resize(1);
  ShapingStyle& own = shaping[0];
  own.fonts = base;
  own.faces.clear();
  for (std::size_t f = 0; f < base.size(); ++f) own.faces.push_back(static_cast<std::uint16_t>(f));
  own.language = style.language;
  own.features.clear();
  if (style.tracking != 0) own.features = {{tag("liga"), 0}, {tag("clig"), 0}};
  own.features.insert(own.features.end(), style.features.begin(), style.features.end());
  own.kerning = style.kerning;
  own.makes_small_capitals = own.is_small_capital = false;
  own.scale = 1, own.raise = own.tracking = 0, own.icon = -1;
  own.line = line_of(base, 1);
  placed.assign(1, {});
  segments.assign(1, {});
}

std::vector<std::uint16_t> StyleTable::add_faces(const FontStack& fonts) {
  std::vector<std::uint16_t> out;
  for (const StackFace& face : fonts) {
    const auto at = std::find(stack.begin(), stack.end(), face);
    const auto index = static_cast<std::size_t>(at - stack.begin());
    if (index > kMostStyles) continue;
    if (at == stack.end()) stack.add(face);
    out.push_back(static_cast<std::uint16_t>(index));
  }
  return out;
}

std::uint16_t StyleTable::add_shaping(ShapingStyle style) {
  style.faces = add_faces(style.fonts);
  const auto at = std::find(shaping.begin(), shaping.end(), style);
  if (at != shaping.end()) return static_cast<std::uint16_t>(at - shaping.begin());
  if (shaping.size() > kMostStyles) return 0;
  has_tracking = has_tracking || style.tracking != 0;
  shaping.push_back(std::move(style));
  return static_cast<std::uint16_t>(shaping.size() - 1);
}

std::uint16_t StyleTable::add_placed(const PlacedStyle& style) {
  const auto at = std::find(placed.begin(), placed.end(), style);
  if (at != placed.end()) return static_cast<std::uint16_t>(at - placed.begin());
  if (placed.size() > kMostStyles) return 0;
  placed.push_back(style);
  return static_cast<std::uint16_t>(placed.size() - 1);
}

StyleSegment StyleTable::segment_of(std::uint32_t start, const Around& around) {
  return {start, add_shaping(around.shaping), add_placed(around.placed)};
}

void StyleTable::set(const FontStack& base, const TextStyle& style, const RichText& text,
                     const FontBook* book, RestyledFaces& restyled, Notes* notes) {
  set(base, style);
  rich = true;
  const auto size = static_cast<std::uint32_t>(text.text.size());
  // Where spans begin and end, in the order of the text.
  struct Edge {
    std::uint32_t at, span;
    bool opens;
  };
  std::vector<Edge> edges;
  for (std::uint32_t i = 0; i < text.spans.size(); ++i) {
    const Span& span = text.spans[i];
    const bool good = i < RichText::kMostSpans && span.start <= span.end && span.end <= size &&
                      begins_character(text.text, span.start) && begins_character(text.text, span.end) &&
                      is_sound(span.style, style.size);
    if (!good && notes != nullptr) notes->add({.kind = NoteKind::bad_span, .position = i});
    if (!good || span.start == span.end) continue;
    edges.push_back({span.start, i, true}), edges.push_back({span.end, i, false});
  }
  std::sort(edges.begin(), edges.end(), [](const Edge& a, const Edge& b) {
    if (a.at != b.at) return a.at < b.at;
    if (a.opens != b.opens) return !a.opens;
    return a.opens ? a.span < b.span : a.span > b.span;
  });
  Around own;
  own.style = &style, own.book = book, own.restyled = &restyled, own.notes = notes;
  own.root = std::make_shared<const FontStack>(base);
  own.shaping = shaping[0];
  // What each open span makes of those before it; spans that nest open and close at the end.
  std::vector<std::pair<std::uint32_t, Around>> open;
  const auto around = [&]() -> const Around& { return open.empty() ? own : open.back().second; };
  for (std::size_t e = 0; e < edges.size();) {
    const std::uint32_t at = edges[e].at;
    for (; e < edges.size() && edges[e].at == at; ++e) {
      const std::uint32_t index = edges[e].span;
      std::size_t keep = open.size();
      if (edges[e].opens) {
        while (keep > 0 && open[keep - 1].first > index) --keep;
      } else {
        const auto found =
            std::find_if(open.begin(), open.end(), [&](const auto& o) { return o.first == index; });
        if (found == open.end()) continue;
        keep = static_cast<std::size_t>(found - open.begin());
      }
      std::vector<std::uint32_t> again;
      if (edges[e].opens) again.push_back(index);
      for (std::size_t k = keep; k < open.size(); ++k) {
        if (open[k].first != index) again.push_back(open[k].first);
      }
      open.erase(open.begin() + static_cast<std::ptrdiff_t>(keep), open.end());
      for (const std::uint32_t i : again) {
        if (open.size() == kMostNested) {
          if (notes != nullptr) notes->add({.kind = NoteKind::bad_span, .position = i});
          continue;
        }
        open.emplace_back(i, around());
        open.back().second.enter(text.spans[i].style, i);
      }
      const SpanStyle& s = text.spans[index].style;
      if (!edges[e].opens || !(s.underline || s.strike || s.overline) || open.empty()) continue;
      const Around& here = around();
      decorations.push_back({at, text.spans[index].end, s.underline, s.strike, s.overline, s.skip_descenders,
                             add_shaping(here.shaping), add_placed(here.placed)});
    }
    StyleSegment next = segment_of(at, around());
    if (segments.back().start == at) {
      segments.back() = next;
    } else if (at < size) {
      segments.push_back(next);
    }
  }
  add_icons(text);
}

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
    const FontRect box = icon.face->glyph_box(icon.glyph);
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

void StyleTable::make_small_capitals(std::vector<char32_t>& characters,
                                     std::span<const std::uint32_t> bytes) {
  const bool any = std::any_of(shaping.begin(), shaping.end(), [](const ShapingStyle& s) {
    return s.makes_small_capitals || s.is_small_capital;
  });
  if (!any) return;
  std::vector<StyleSegment> split;
  std::size_t c = 0;
  for (std::size_t s = 0; s < segments.size(); ++s) {
    const StyleSegment segment = segments[s];
    split.push_back(segment);
    const std::uint32_t end = s + 1 < segments.size() ? segments[s + 1].start : ~std::uint32_t{0};
    while (c < characters.size() && bytes[c] < segment.start) ++c;
    for (; shaping[segment.shaping].is_small_capital && c < characters.size() && bytes[c] < end; ++c) {
      characters[c] = static_cast<char32_t>(u_toupper(static_cast<UChar32>(characters[c])));
    }
    if (!shaping[segment.shaping].makes_small_capitals) continue;
    bool small = false;
    for (; c < characters.size() && bytes[c] < end; ++c) {
      const auto plain = static_cast<UChar32>(characters[c]);
      const UChar32 capital = u_toupper(plain);
      const bool now = capital != plain && u_islower(plain) != 0;
      const bool mark = u_charType(plain) == U_NON_SPACING_MARK;
      if (now) characters[c] = static_cast<char32_t>(capital);
      if (mark || now == small) continue;
      small = now;
      StyleSegment next{bytes[c], segment.shaping, segment.placed};
      if (small) {
        ShapingStyle style = shaping[segment.shaping];
        style.scale *= kSmallCapital;
        style.makes_small_capitals = false, style.is_small_capital = true;
        PlacedStyle place = placed[segment.placed];
        place.scale = style.scale;
        next.shaping = add_shaping(std::move(style)), next.placed = add_placed(place);
      }
      if (split.back().start == next.start) {
        split.back() = next;
      } else {
        split.push_back(next);
      }
    }
  }
  segments = std::move(split);
}

}  // namespace detail
}  // namespace grafema
