// SPDX-License-Identifier: MIT
// Makes spans flat: each stretch gets one style to be shaped with and one to be placed with.
#include "text/runs/styles.hpp"

#include <fmt/format.h>
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

constexpr std::size_t kMaxNested = 256;  // spans over one character; more are passed over
constexpr std::size_t kMaxStyles = 0xFFFF;
constexpr float kSmallCapital = 0.76F;  // of a capital's height; a little above small letters

LineMetrics line_of(const FontStack& fonts, float scale) {
  const LineMetrics m = fonts[0]->line_metrics();
  const float unit = scale / fonts[0]->units_per_em();
  return {m.ascent * unit, m.descent * unit, m.line_gap * unit};
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

float cap_height_of(const GlyphMetrics& face) {
  const float units =
      face.face() != nullptr ? face.face()->facts().cap_height : face.glyph_box(face.find_glyph(U'H')).y_max;
  return units / face.units_per_em();
}

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
    if (index > kMaxStyles) continue;
    if (at == stack.end()) stack.add(face);
    out.push_back(static_cast<std::uint16_t>(index));
  }
  return out;
}

std::uint16_t StyleTable::add_shaping(ShapingStyle style) {
  style.faces = add_faces(style.fonts);
  const auto at = std::find(shaping.begin(), shaping.end(), style);
  if (at != shaping.end()) return static_cast<std::uint16_t>(at - shaping.begin());
  if (shaping.size() > kMaxStyles) return 0;
  has_tracking = has_tracking || style.tracking != 0;
  shaping.push_back(std::move(style));
  return static_cast<std::uint16_t>(shaping.size() - 1);
}

std::uint16_t StyleTable::add_placed(const PlacedStyle& style) {
  const auto at = std::find(placed.begin(), placed.end(), style);
  if (at != placed.end()) return static_cast<std::uint16_t>(at - placed.begin());
  if (placed.size() > kMaxStyles) return 0;
  placed.push_back(style);
  return static_cast<std::uint16_t>(placed.size() - 1);
}

StyleSegment StyleTable::segment_of(std::uint32_t start, const Around& around) {
  return {start, add_shaping(around.shaping), add_placed(around.placed)};
}

namespace {

/// Where a span begins or ends.
struct Edge {
  std::uint32_t at, span;
  bool opens;
};

/// The edges of all sound spans in the order of the text; at one place those that end come first, the inner
/// ones before the outer ones.
std::vector<Edge> edges_of(const RichText& text, const TextStyle& style, Notes* notes) {
  std::vector<Edge> edges;
  if (text.spans.size() > RichText::kMaxSpans && notes != nullptr) {
    notes->add(
        {.kind = NoteKind::bad_span,
         .position = RichText::kMaxSpans,
         .text = fmt::format("it and those behind it, since a text has at most {}", RichText::kMaxSpans)});
  }
  for (std::uint32_t i = 0; i < std::min(text.spans.size(), RichText::kMaxSpans); ++i) {
    const Span& span = text.spans[i];
    const bool good = span.start <= span.end && span.end <= text.text.size() &&
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
  return edges;
}

}  // namespace

/// The spans that hold a place, by their numbers, with what each makes of those before it. Spans that nest
/// open and close at the end; for others those above are entered again.
class StyleTable::OpenSpans {
 public:
  OpenSpans(const RichText& text, Around own) : text_(text), own_(std::move(own)) {}

  const Around& around() const { return open_.empty() ? own_ : open_.back().second; }
  void open(std::uint32_t span) {
    std::size_t keep = open_.size();
    while (keep > 0 && open_[keep - 1].first > span) --keep;
    enter_again(keep, {span});
  }
  void close(std::uint32_t span) {
    const auto found =
        std::find_if(open_.begin(), open_.end(), [&](const auto& o) { return o.first == span; });
    if (found == open_.end()) return;
    const auto at = static_cast<std::size_t>(found - open_.begin());
    open_.erase(found);
    if (at < open_.size()) enter_again(at, {});
  }

 private:
  /// The spans from `keep` on once more, behind `first`.
  void enter_again(std::size_t keep, std::vector<std::uint32_t> first) {
    for (std::size_t k = keep; k < open_.size(); ++k) first.push_back(open_[k].first);
    open_.erase(open_.begin() + static_cast<std::ptrdiff_t>(keep), open_.end());
    for (const std::uint32_t span : first) {
      if (open_.size() == kMaxNested) {
        if (own_.notes != nullptr)
          own_.notes->add({.kind = NoteKind::bad_span,
                           .position = span,
                           .text = fmt::format("at most {} stand within each other", kMaxNested)});
        continue;
      }
      open_.emplace_back(span, around());
      open_.back().second.enter(text_.spans[span].style, span);
    }
  }

  const RichText& text_;
  Around own_;
  std::vector<std::pair<std::uint32_t, Around>> open_;
};

void StyleTable::set(const FontStack& base, const TextStyle& style, const RichText& text,
                     const FontBook* book, RestyledFaces& restyled, Notes* notes) {
  set(base, style);
  rich = true;
  Around own;
  own.style = &style, own.book = book, own.restyled = &restyled, own.notes = notes;
  own.root = std::make_shared<const FontStack>(base);
  own.shaping = shaping[0];
  OpenSpans open(text, std::move(own));
  const std::vector<Edge> edges = edges_of(text, style, notes);
  for (std::size_t e = 0; e < edges.size();) {
    const std::uint32_t at = edges[e].at;
    for (; e < edges.size() && edges[e].at == at; ++e) {
      edges[e].opens ? open.open(edges[e].span) : open.close(edges[e].span);
      if (edges[e].opens) add_decoration(text.spans[edges[e].span], open.around());
    }
    const StyleSegment next = segment_of(at, open.around());
    if (segments.back().start == at) {
      segments.back() = next;
    } else if (at < text.text.size()) {
      segments.push_back(next);
    }
  }
  add_icons(text);
}

void StyleTable::add_decoration(const Span& span, const Around& around) {
  const SpanStyle& s = span.style;
  if (!(s.underline || s.strike || s.overline)) return;
  decorations.push_back({span.start, span.end, s.underline, s.strike, s.overline, s.skip_descenders,
                         add_shaping(around.shaping), add_placed(around.placed)});
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
