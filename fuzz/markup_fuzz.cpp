// SPDX-License-Identifier: MIT
// Any text as markup: spans lie in the text, lay out, and what can't be read still shows.
#include "grafema/files/markup.hpp"
#include "grafema/files/styles_file.hpp"
#include "grafema/text/paragraph.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  using fuzz::require;
  if (size > 1 << 14) return 0;
  const std::string_view text{reinterpret_cast<const char*>(data), size};
  if (const auto styles = read_styles(text)) {
    for (const NamedStyle& style : *styles) require(check_style(style.text).has_value());
  }
  static const FontStack fonts{built_in_face()};
  static StyleBook book;
  static IconBook icons;
  if (icons.names().empty()) icons.add_glyphs(built_in_face());
  SpanStyle small;
  small.small_capitals = true, small.tracking = 3;
  if (book.all().empty()) require(book.set({.name = "s", .span = small}).has_value());
  Notes notes;
  const auto read = read_markup(text, {&book, &icons}, &notes);
  const RichText rich = markup_or_plain(text, {&book, &icons}, &notes);
  if (!read) require(rich.spans.empty());
  for (const Span& span : rich.spans) require(span.start <= span.end && span.end <= rich.text.size());
  std::uint32_t last = 0;
  for (const PlacedIcon& icon : rich.icons) {
    require(icon.position >= last && rich.text.compare(icon.position, 3, kIconCharacter) == 0);
    last = icon.position;
  }
  if (size > 4096) return 0;
  ShapeCache cache;
  Paragraph p;
  TextStyle style{.size = 12};
  style.wrap = 90, style.box_height = 40;
  style.overflow = static_cast<Overflow>(size % 5);
  require(lay_out(fonts, rich, style, cache, p, &notes).has_value());
  for (const PlacedGlyph& glyph : p.glyphs) {
    require(glyph.face < p.faces.size() && glyph.style < p.styles.size());
    require(glyph.text_start <= glyph.text_end && glyph.text_end <= rich.text.size());
  }
  return 0;
}
