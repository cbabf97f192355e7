// SPDX-License-Identifier: MIT
// Tables that describe the face: head, hhea, maxp, OS/2, post, name and gasp.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "font/metrics/metrics_tables.hpp"
#include "grafema/base/utf8.hpp"
#include "write/tables/face_tables.hpp"
#include "write/tables/unicode_ranges.hpp"
#include "write/tables/variation_tables.hpp"

namespace grafema::detail {

std::string to_utf16(std::string_view text) {
  std::string out;
  const auto unit = [&out](std::uint32_t v) {
    out += static_cast<char>(v >> 8 & 0xFF), out += static_cast<char>(v & 0xFF);
  };
  for (std::size_t at = 0; at < text.size();) {
    const DecodedCharacter next = decode_utf8(text, at);
    at += next.length;
    if (next.character < 0x10000) {
      unit(next.character);
    } else {
      unit(0xD800 + ((next.character - 0x10000) >> 10));
      unit(0xDC00 + ((next.character - 0x10000) & 0x3FF));
    }
  }
  return out;
}

namespace {

/// 2026-01-01 in seconds since 1904: fixed, so that the same drawing gives the same bytes.
constexpr std::uint64_t kDate = 3850070400;

FontRect whole_box(const FontPlan& plan) {
  FontRect whole;
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    const FontRect& box = glyph.box;
    if (box.empty()) continue;
    whole = whole.empty() ? box
                          : FontRect{std::min(whole.x_min, box.x_min), std::min(whole.y_min, box.y_min),
                                     std::max(whole.x_max, box.x_max), std::max(whole.y_max, box.y_max)};
  }
  return whole.empty() ? FontRect{0, 0, 0, 0} : whole;
}

int widest_advance(const FontPlan& plan) {
  float widest = 0;
  for (const FontPlan::Glyph& glyph : plan.glyphs) widest = std::max(widest, glyph.drawn->advance);
  return to_units(widest);
}

bool is_monospaced(const FontPlan& plan) {
  return std::all_of(plan.glyphs.begin(), plan.glyphs.end(), [&](const FontPlan::Glyph& g) {
    return g.drawn->advance == plan.glyphs[0].drawn->advance;
  });
}

bool is_bold(const FontPlan& plan) { return plan.drawing->weight_class >= 700; }

int height_of(const FontPlan& plan, char32_t character) {
  const std::uint16_t glyph = plan.glyph_of(character);
  return glyph == 0 || plan.glyphs[glyph].box.empty() ? 0 : to_units(plan.glyphs[glyph].box.y_max);
}

std::uint32_t embedding_bits(Embedding embedding) {
  switch (embedding) {
    case Embedding::installable:
      return 0;
    case Embedding::restricted:
      return 2;
    case Embedding::preview:
      return 4;
    case Embedding::editable:
      return 8;
  }
  return 0;
}

std::uint32_t longest_context(const FontDrawing& drawing) {
  std::size_t longest = 2;  // kerning looks at pairs
  for (const DrawnLigature& ligature : drawing.ligatures) longest = std::max(longest, ligature.from.size());
  return static_cast<std::uint32_t>(longest);
}

}  // namespace

std::string postscript_name(const FaceNames& names) {
  std::string out;
  for (const char c : names.family + "-" + names.style) {
    if (c > ' ' && c <= '~' && std::string_view("[](){}<>/%").find(c) == std::string_view::npos) out += c;
  }
  return out.substr(0, 63);
}

WrittenTable write_head(const FontPlan& plan) {
  const FontRect box = whole_box(plan);
  TableWriter out;
  out.u32(0x00010000), out.u32(0x00010000);  // version, revision
  out.u32(0), out.u32(0x5F0F3CF5);           // checksum adjustment (set when assembled), magic number
  out.u16(0x000B),
      out.u16(plan.drawing->units_per_em);  // baseline at 0, bearings at xMin, whole-number scaling
  out.u64(kDate), out.u64(kDate);
  for (const float v : {box.x_min, box.y_min, box.x_max, box.y_max}) out.s16(to_units(v));
  out.u16(is_bold(plan) ? 1 : 0), out.u16(6);  // style, smallest readable size
  out.s16(2), out.s16(1), out.s16(0);          // direction, long offsets, glyph data format
  return {tag("head"), std::move(out.bytes())};
}

WrittenTable write_hhea(const FontPlan& plan) {
  const FontRect box = whole_box(plan);
  const LineMetrics& m = plan.drawing->lines;
  TableWriter out;
  out.u32(0x00010000);
  out.s16(to_units(m.ascent)), out.s16(-to_units(m.descent)), out.s16(to_units(m.line_gap));
  out.u16(static_cast<std::uint32_t>(widest_advance(plan)));
  int least_left = 0, least_right = 0;
  for (std::size_t i = 0; i < plan.glyphs.size(); ++i) {
    const FontRect& of_glyph = plan.glyphs[i].box;
    if (of_glyph.empty()) continue;
    least_left = std::min(least_left, to_units(of_glyph.x_min));
    least_right = std::min(least_right, to_units(plan.glyphs[i].drawn->advance - of_glyph.x_max));
  }
  out.s16(least_left), out.s16(least_right), out.s16(to_units(box.x_max));
  out.s16(1), out.s16(0), out.s16(0);  // upright caret
  for (int i = 0; i < 5; ++i) out.s16(0);
  out.u16(static_cast<std::uint32_t>(plan.glyphs.size()));
  return {tag("hhea"), std::move(out.bytes())};
}

WrittenTable write_maxp(const FontPlan& plan) {
  const auto count = static_cast<std::uint32_t>(plan.glyphs.size());
  TableWriter out;
  if (plan.drawing->cff) {
    out.u32(0x00005000), out.u16(count);
    return {tag("maxp"), std::move(out.bytes())};
  }
  std::size_t points = 0, contours = 0;
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    if (glyph.parts.empty()) continue;
    points = std::max(points, glyph.outline.points.size());
    contours = std::max(
        contours, static_cast<std::size_t>(std::count(glyph.outline.commands.begin(),
                                                      glyph.outline.commands.end(), PathCommand::moveto)));
  }
  out.u32(0x00010000), out.u16(count);
  for (const std::size_t most : {plan.most_points, plan.most_contours, points, contours}) {
    out.u16(static_cast<std::uint32_t>(std::min<std::size_t>(most, 65535)));
  }
  out.u16(2);                              // zones, as without instructions
  for (int i = 0; i < 6; ++i) out.u16(0);  // nothing for instructions
  out.u16(static_cast<std::uint32_t>(plan.most_parts)), out.u16(plan.most_parts > 0 ? 1 : 0);
  return {tag("maxp"), std::move(out.bytes())};
}

WrittenTable write_gasp() {
  TableWriter out;
  out.u16(1), out.u16(1);            // version, one range: all sizes
  out.u16(0xFFFF), out.u16(0x000A);  // gray levels, and so along both axes
  return {tag("gasp"), std::move(out.bytes())};
}

WrittenTable write_os2(const FontPlan& plan) {
  const FontDrawing& d = *plan.drawing;
  const int em = d.units_per_em;
  double sum = 0, drawn = 0;
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    sum += glyph.drawn->advance, drawn += glyph.drawn->advance > 0 ? 1 : 0;
  }
  TableWriter out;
  out.u16(4), out.s16(drawn > 0 ? static_cast<int>(sum / drawn + 0.5) : 0);
  out.u16(d.weight_class), out.u16(5), out.u16(embedding_bits(d.embedding));      // weight, width, permission
  for (const int part : {65, 60, 0, 8, 65, 60, 0, 35}) out.s16(em * part / 100);  // subscript and superscript
  out.s16(em / 20), out.s16(em * 3 / 10), out.s16(0);  // strikeout, no family class
  for (int i = 0; i < 10; ++i) out.u8(0);              // PANOSE: any
  for (const std::uint32_t bits : unicode_ranges(plan.characters)) out.u32(bits);
  out.u32(0x47524146);                   // vendor
  out.u16(is_bold(plan) ? 0xA0 : 0xC0);  // bold or regular; use the typographic metrics
  const auto clamp16 = [](char32_t c) { return static_cast<std::uint32_t>(std::min<char32_t>(c, 0xFFFF)); };
  out.u16(plan.characters.empty() ? 0 : clamp16(plan.characters.front().first));
  out.u16(plan.characters.empty() ? 0 : clamp16(plan.characters.back().first));
  out.s16(to_units(d.lines.ascent)), out.s16(-to_units(d.lines.descent)), out.s16(to_units(d.lines.line_gap));
  const FontRect box = whole_box(plan);
  out.u16(static_cast<std::uint32_t>(std::max(to_units(d.lines.ascent), to_units(box.y_max))));
  out.u16(static_cast<std::uint32_t>(std::max(to_units(d.lines.descent), -to_units(box.y_min))));
  for (const std::uint32_t bits : code_pages(plan.characters)) out.u32(bits);
  int capitals = 0;
  for (std::size_t i = 0; capitals == 0 && i < kTellingCapitals.size(); ++i)
    capitals = height_of(plan, kTellingCapitals[i]);
  out.s16(height_of(plan, U'x')), out.s16(capitals);
  out.u16(0), out.u16(0x20), out.u16(longest_context(d));  // default and break character, longest rule
  return {tag("OS/2"), std::move(out.bytes())};
}

WrittenTable write_post(const FontPlan& plan) {
  const int em = plan.drawing->units_per_em;
  const bool named =
      !plan.drawing->cff && std::any_of(plan.glyphs.begin(), plan.glyphs.end(),
                                        [](const FontPlan::Glyph& g) { return !g.drawn->name.empty(); });
  TableWriter out;
  out.u32(named ? 0x00020000 : 0x00030000), out.u32(0);  // with or without glyph names; upright
  out.s16(-em / 12), out.s16(em / 12);  // underline: a twelfth of the em, that far below the baseline
  out.u32(is_monospaced(plan) ? 1 : 0);
  for (int i = 0; i < 4; ++i) out.u32(0);  // memory use: unknown
  if (named) {
    constexpr std::uint32_t kOwn = 258;  // names before are those of a standard list, whose first is .notdef
    out.u16(static_cast<std::uint32_t>(plan.glyphs.size()));
    for (std::uint32_t i = 0; i < plan.glyphs.size(); ++i)
      out.u16(i == 0 ? 0 : std::min(kOwn + i - 1, 32767U));
    for (std::size_t i = 1; i < plan.glyphs.size() && kOwn + i - 1 <= 32767; ++i) {
      out.u8(static_cast<std::uint32_t>(plan.glyphs[i].name.size()));
      for (const char c : plan.glyphs[i].name) out.u8(static_cast<std::uint8_t>(c));
    }
  }
  return {tag("post"), std::move(out.bytes())};
}

WrittenTable write_name(const FontPlan& plan) {
  const FaceNames& n = plan.drawing->names;
  const std::string postscript = postscript_name(n);
  const std::string full = n.full_name.empty() ? n.family + " " + n.style : n.full_name;
  std::vector<std::pair<std::uint32_t, std::string>> all = {
      {0, n.copyright},    {1, n.family},   {2, n.style},        {3, postscript + " " + n.version},
      {4, full},           {5, n.version},  {6, postscript},     {7, n.trademark},
      {8, n.manufacturer}, {9, n.designer}, {10, n.description}, {13, n.license},
      {14, n.license_url}, {19, n.sample}};
  std::uint32_t next = 256;
  for (const std::string& name : variation_names(*plan.drawing)) all.emplace_back(next++, name);
  TableWriter records, texts;
  std::uint32_t count = 0;
  for (const auto& [id, text] : all) {
    if (text.empty()) continue;
    const std::string encoded = to_utf16(text);
    records.u16(3), records.u16(1), records.u16(0x0409), records.u16(id);
    records.u16(static_cast<std::uint32_t>(encoded.size())),
        records.u16(static_cast<std::uint32_t>(texts.size()));
    for (const char c : encoded) texts.u8(static_cast<std::uint8_t>(c));
    ++count;
  }
  TableWriter out;
  out.u16(0), out.u16(count), out.u16(6 + count * 12);
  out.append(records.bytes());
  out.append(texts.bytes());
  return {tag("name"), std::move(out.bytes())};
}

/// The `name` table counts its bytes in 16 bits, of each text and of all.
Result<void> check_names(const FaceNames& n) {
  std::size_t all = 0;
  for (const std::string* text : {&n.copyright, &n.family, &n.style, &n.family, &n.style, &n.version,
                                  &n.full_name, &n.version, &n.family, &n.style, &n.license, &n.license_url,
                                  &n.trademark, &n.manufacturer, &n.designer, &n.description, &n.sample}) {
    all += to_utf16(*text).size() + 4;
  }
  if (all > 65535) {
    return fail(make_error(ErrorKind::bad_value, "names and license of at most 32,000 letters in all",
                           fmt::format("{}", all / 2)));
  }
  return {};
}

}  // namespace grafema::detail
