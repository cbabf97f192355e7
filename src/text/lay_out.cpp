// SPDX-License-Identifier: MIT
// Lays text out: faces, scripts, advances and kerning, lines, alignment.
#include <algorithm>
#include <cmath>
#include <string>

#include "grafema/atlas/atlas.hpp"
#include "grafema/text/paragraph.hpp"
#include "grafema/unicode/characters.hpp"
#include "text/clusters.hpp"

namespace grafema {

ShapeCache::ShapeCache() : memory_(std::make_unique<Memory>()) {}
ShapeCache::~ShapeCache() = default;
ShapeCache::ShapeCache(ShapeCache&&) noexcept = default;
ShapeCache& ShapeCache::operator=(ShapeCache&&) noexcept = default;

namespace {

using detail::TextItem;

constexpr float kSpacesPerTab = 4;

Result<void> check(const FontStack& stack, std::string_view text, const TextStyle& style) {
  if (stack.empty() || stack.size() > 0xFFFF) {
    return fail(make_error(ErrorKind::bad_value, "1 to 65535 faces"));
  }
  if (text.size() > 0x7FFFFFFF) return fail(make_error(ErrorKind::bad_value, "text of less than 2^31 bytes"));
  return check_style(style);
}

/// Characters that belong to no script take that of the text before them, at the start of what follows.
void set_scripts(std::vector<TextItem>& items) {
  Tag current{};
  for (TextItem& item : items) {
    const Tag own = script_of(item.character);
    if (own != Tag{}) current = own;
    item.script = current;
  }
  for (auto item = items.rbegin(); item != items.rend(); ++item) {
    if (item->script == Tag{}) item->script = current == Tag{} ? tag("DFLT") : current;
    current = item->script;
  }
}

/// The selector that follows the item, or 0.
char32_t selector_after(const std::vector<TextItem>& items, const TextItem& item) {
  const std::size_t next = static_cast<std::size_t>(&item - items.data()) + 1;
  return next < items.size() && is_variation_selector(items[next].character) ? items[next].character : 0;
}

/// Gives every character that shows the first face that has it. A cluster's later characters stay with the
/// face of its first one where that has them.
void choose_glyphs(const FontStack& stack, std::vector<TextItem>& items, Notes* notes) {
  std::size_t base = 0;
  for (TextItem& item : items) {
    const bool tab = item.character == '\t';
    // Joiners, marks of direction, soft hyphens and the like show nothing, whatever glyph a face has for
    // them.
    item.visible = tab || (!is_invisible(item.character) && !item.breaks_line);
    if (!item.visible) continue;
    FontStack::Found found;
    const bool continues = item.cluster != item.start;
    if (continues) found = {base, stack[base]->find_glyph(item.character)};
    if (!continues || found.glyph == kMissingGlyph) found = stack.find(tab ? U' ' : item.character);
    if (found.glyph == kMissingGlyph && notes != nullptr) {
      notes->add({.kind = NoteKind::missing_character, .character = item.character, .position = item.start});
    }
    if (const char32_t selector = selector_after(items, item);
        selector != 0 && found.glyph != kMissingGlyph) {
      found.glyph = stack[found.face]->find_variant(item.character, selector);
    }
    if (!continues) base = found.face;
    item.face = static_cast<std::uint16_t>(found.face);
    item.glyph = found.glyph;
  }
}

class LineBuilder {
 public:
  LineBuilder(const FontStack& stack, const TextStyle& style, ShapeCache::Memory& memory, Paragraph& out)
      : stack_(stack), style_(style), memory_(memory), out_(out) {}

  /// Places the items of one line from pen 0 on; baselines and alignment come later.
  void build(std::size_t first, std::size_t end, std::uint32_t text_start, std::uint32_t text_end) {
    Line line;
    line.start = text_start;
    line.end = text_end;
    line.first_glyph = static_cast<std::uint32_t>(out_.glyphs.size());
    pen_ = 0;
    previous_ = nullptr;
    for (std::size_t i = first; i < end; ++i) {
      if (memory_.items[i].visible) place(memory_.items[i]);
    }
    line.end_glyph = static_cast<std::uint32_t>(out_.glyphs.size());
    line.width = pen_;
    out_.lines.push_back(line);
  }

 private:
  float scale(std::size_t face) const {
    return style_.size * stack_[face].scale / stack_[face]->units_per_em();
  }

  void place(const TextItem& item) {
    const GlyphMetrics& face = *stack_[item.face].metrics;
    if (previous_ != nullptr) add_between(*previous_, item);
    float units = 0;
    face.advances(std::span(&item.glyph, 1), std::span(&units, 1));
    if (item.character == '\t') units *= kSpacesPerTab;
    const float advance = units * scale(item.face);
    out_.glyphs.push_back({item.face, item.glyph, item.cluster, {pen_, 0}, advance});
    pen_ += advance;
    previous_ = &item;
  }

  /// Kerning and tracking widen the glyph before.
  void add_between(const TextItem& left, const TextItem& right) {
    float extra = 0;
    if (style_.kerning && left.face == right.face) {
      extra += stack_[left.face]->kerning(left.glyph, right.glyph, right.script) * scale(left.face);
    }
    if (right.cluster != left.cluster) extra += style_.tracking;
    out_.glyphs.back().advance += extra;
    pen_ += extra;
  }

  const FontStack& stack_;
  const TextStyle& style_;
  ShapeCache::Memory& memory_;
  Paragraph& out_;
  float pen_ = 0;
  const TextItem* previous_ = nullptr;
};

void build_lines(const FontStack& stack, std::string_view text, const TextStyle& style,
                 ShapeCache::Memory& memory, Paragraph& out) {
  LineBuilder builder(stack, style, memory, out);
  std::size_t first = 0;
  std::uint32_t start = 0;
  const std::size_t count = memory.items.size();
  const auto byte_of = [&](std::size_t i) {
    return i < count ? memory.items[i].start : static_cast<std::uint32_t>(text.size());
  };
  for (std::size_t i = 0; i < count; ++i) {
    if (!memory.items[i].breaks_line) continue;
    builder.build(first, i + 1, start, byte_of(i + 1));
    first = i + 1;
    start = byte_of(first);
  }
  builder.build(first, count, start, byte_of(count));
}

/// How far a line of `width` stands from the left of the widest.
float indent(TextAlign align, float room) {
  switch (align) {
    case TextAlign::center:
      return room / 2;
    case TextAlign::right:
    case TextAlign::end:
      return room;
    case TextAlign::left:
    case TextAlign::start:
      break;
  }
  return 0;
}

void place_lines(const FontStack& stack, const TextStyle& style, Paragraph& out) {
  const LineMetrics m = stack[0]->line_metrics();
  const float scale = style.size / stack[0]->units_per_em();
  out.size = style.size;
  out.face_scales.clear();
  for (const StackFace& face : stack) out.face_scales.push_back(face.scale);
  out.ascent = m.ascent * scale;
  out.descent = m.descent * scale;
  out.line_height = (m.ascent + m.descent + m.line_gap) * scale;
  float widest = 0;
  for (const Line& line : out.lines) widest = std::max(widest, line.width);
  for (std::size_t i = 0; i < out.lines.size(); ++i) {
    Line& line = out.lines[i];
    line.baseline = out.ascent + static_cast<float>(i) * out.line_height * style.line_spacing;
    line.left = indent(style.align, widest - line.width);
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g) {
      out.glyphs[g].pen.x += line.left;
      out.glyphs[g].pen.y = line.baseline;
    }
  }
  out.advance_box = {0, 0, widest, out.lines.back().baseline + out.descent};
}

}  // namespace

Result<void> check_style(const TextStyle& style) {
  const auto bad = [](const char* expected, float found) {
    return fail(make_error(ErrorKind::bad_value, expected, std::to_string(found)));
  };
  if (!(style.size >= kMinSize && style.size <= kMaxSize)) {
    return bad("a size of 0.25 to 8192 pixels per em", style.size);
  }
  if (!(style.line_spacing >= 0 && style.line_spacing <= 100)) {
    return bad("a line spacing of 0 to 100", style.line_spacing);
  }
  if (!(std::abs(style.tracking) <= kMaxSize)) {
    return bad("a tracking of at most 8192 pixels", style.tracking);
  }
  return {};
}

Result<void> lay_out(const FontStack& stack, std::string_view text, const TextStyle& style, ShapeCache& cache,
                     Paragraph& out, Notes* notes) {
  out.glyphs.clear();
  out.lines.clear();
  if (const Result<void> checked = check(stack, text, style); !checked) return checked;
  ShapeCache::Memory& memory = cache.memory();
  detail::read_items(text, memory.items, memory.graphemes, notes);
  set_scripts(memory.items);
  choose_glyphs(stack, memory.items, notes);
  build_lines(stack, text, style, memory, out);
  place_lines(stack, style, out);
  return {};
}

Rect ink_box(const FontStack& stack, const Paragraph& paragraph) {
  Rect box;
  for (const PlacedGlyph& glyph : paragraph.glyphs) {
    const GlyphMetrics& face = *stack[glyph.face].metrics;
    const Rect own =
        to_pixels(face.glyph_box(glyph.glyph), paragraph.face_size(glyph.face) / face.units_per_em());
    if (!own.empty()) box = enclosing(box, own.moved(glyph.pen));
  }
  return box;
}

}  // namespace grafema
