// SPDX-License-Identifier: MIT
// Writes a whole TrueType file: plans the glyphs, then the tables that describe the face.
#include "grafema/write/make_font.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/base/utf8.hpp"
#include "write/glyph_tables.hpp"

namespace grafema {
namespace detail {
namespace {

/// 2026-01-01 in seconds since 1904: fixed, so that the same drawing gives the same bytes.
constexpr std::uint64_t kDate = 3850070400;

FontRect whole_box(const FontPlan& plan) {
  FontRect whole;
  for (const FontRect& box : plan.boxes) {
    if (box.empty()) continue;
    whole = whole.empty() ? box
                          : FontRect{std::min(whole.x_min, box.x_min), std::min(whole.y_min, box.y_min),
                                     std::max(whole.x_max, box.x_max), std::max(whole.y_max, box.y_max)};
  }
  return whole.empty() ? FontRect{0, 0, 0, 0} : whole;
}

int widest_advance(const FontPlan& plan) {
  float widest = 0;
  for (const DrawnGlyph* glyph : plan.glyphs) widest = std::max(widest, glyph->advance);
  return to_units(widest);
}

bool is_monospaced(const FontPlan& plan) {
  return std::all_of(plan.glyphs.begin(), plan.glyphs.end(),
                     [&](const DrawnGlyph* g) { return g->advance == plan.glyphs[0]->advance; });
}

bool is_bold(const FontPlan& plan) { return plan.drawing->weight_class >= 700; }

int height_of(const FontPlan& plan, char32_t character) {
  const std::uint16_t glyph = plan.glyph_of(character);
  return glyph == 0 || plan.boxes[glyph].empty() ? 0 : to_units(plan.boxes[glyph].y_max);
}

std::string utf16(std::string_view text) {
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

}  // namespace

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
    if (plan.boxes[i].empty()) continue;
    least_left = std::min(least_left, to_units(plan.boxes[i].x_min));
    least_right = std::min(least_right, to_units(plan.glyphs[i]->advance - plan.boxes[i].x_max));
  }
  out.s16(least_left), out.s16(least_right), out.s16(to_units(box.x_max));
  out.s16(1), out.s16(0), out.s16(0);  // upright caret
  for (int i = 0; i < 5; ++i) out.s16(0);
  out.u16(static_cast<std::uint32_t>(plan.glyphs.size()));
  return {tag("hhea"), std::move(out.bytes())};
}

WrittenTable write_maxp(const FontPlan& plan) {
  TableWriter out;
  out.u32(0x00010000);
  out.u16(static_cast<std::uint32_t>(plan.glyphs.size()));
  out.u16(static_cast<std::uint32_t>(plan.most_points)),
      out.u16(static_cast<std::uint32_t>(plan.most_contours));
  out.u16(0), out.u16(0), out.u16(2);  // no composites; two zones, as without instructions
  for (int i = 0; i < 8; ++i) out.u16(0);
  return {tag("maxp"), std::move(out.bytes())};
}

WrittenTable write_os2(const FontPlan& plan) {
  const FontDrawing& d = *plan.drawing;
  const int em = d.units_per_em;
  double sum = 0, drawn = 0;
  for (const DrawnGlyph* glyph : plan.glyphs) sum += glyph->advance, drawn += glyph->advance > 0 ? 1 : 0;
  TableWriter out;
  out.u16(4), out.s16(drawn > 0 ? static_cast<int>(sum / drawn + 0.5) : 0);
  out.u16(d.weight_class), out.u16(5), out.u16(0);  // weight, width, installable embedding
  for (const int part : {65, 60, 0, 8, 65, 60, 0, 35}) out.s16(em * part / 100);  // subscript and superscript
  out.s16(em / 20), out.s16(em * 3 / 10), out.s16(0);  // strikeout, no family class
  for (int i = 0; i < 10; ++i) out.u8(0);              // PANOSE: any
  const bool latin1 = plan.glyph_of(0xE4) != 0;
  out.u32(latin1 ? 3 : 1), out.u32(0), out.u32(0), out.u32(0);
  out.u32(0x47524146);                   // vendor
  out.u16(is_bold(plan) ? 0xA0 : 0xC0);  // bold or regular; use the typographic metrics
  const auto clamp16 = [](char32_t c) { return static_cast<std::uint32_t>(std::min<char32_t>(c, 0xFFFF)); };
  out.u16(plan.characters.empty() ? 0 : clamp16(plan.characters.front().first));
  out.u16(plan.characters.empty() ? 0 : clamp16(plan.characters.back().first));
  out.s16(to_units(d.lines.ascent)), out.s16(-to_units(d.lines.descent)), out.s16(to_units(d.lines.line_gap));
  const FontRect box = whole_box(plan);
  out.u16(static_cast<std::uint32_t>(std::max(to_units(d.lines.ascent), to_units(box.y_max))));
  out.u16(static_cast<std::uint32_t>(std::max(to_units(d.lines.descent), -to_units(box.y_min))));
  out.u32(latin1 ? 1 : 0), out.u32(0);  // code pages
  out.s16(height_of(plan, U'x')), out.s16(height_of(plan, U'H'));
  out.u16(0), out.u16(0x20), out.u16(2);  // default and break character, context of kerning pairs
  return {tag("OS/2"), std::move(out.bytes())};
}

WrittenTable write_post(const FontPlan& plan) {
  const int em = plan.drawing->units_per_em;
  TableWriter out;
  out.u32(0x00030000), out.u32(0);      // no glyph names; upright
  out.s16(-em / 12), out.s16(em / 12);  // underline: a twelfth of the em, that far below the baseline
  out.u32(is_monospaced(plan) ? 1 : 0);
  for (int i = 0; i < 4; ++i) out.u32(0);  // memory use: unknown
  return {tag("post"), std::move(out.bytes())};
}

WrittenTable write_name(const FontPlan& plan) {
  const FaceNames& n = plan.drawing->names;
  std::string postscript;
  for (const char c : n.family + "-" + n.style) {
    if (c > ' ' && c <= '~' && std::string_view("[](){}<>/%").find(c) == std::string_view::npos) {
      postscript += c;
    }
  }
  const std::string full = n.full_name.empty() ? n.family + " " + n.style : n.full_name;
  const std::vector<std::pair<std::uint32_t, std::string>> all = {
      {0, n.copyright},   {1, n.family},  {2, n.style},    {3, postscript + " " + n.version},
      {4, full},          {5, n.version}, {6, postscript}, {13, n.license},
      {14, n.license_url}};
  TableWriter records, texts;
  std::uint32_t count = 0;
  for (const auto& [id, text] : all) {
    if (text.empty()) continue;
    const std::string encoded = utf16(text);
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

namespace {

tl::unexpected<Error> bad(const char* expected, const std::string& found) {
  return fail(make_error(ErrorKind::bad_value, expected, found));
}

bool fits_16_bits(float units) { return units >= -32768 && units <= 32767; }

/// Line metrics and weight, which their tables hold in 16 bits.
Result<void> check_numbers(const FontDrawing& drawing) {
  const LineMetrics& lines = drawing.lines;
  for (const float v : {lines.ascent, -lines.descent, lines.line_gap}) {
    if (!fits_16_bits(v))
      return bad("ascent, descent and line gap within 32767 font units", fmt::format("{}", v));
  }
  if (drawing.weight_class < 1 || drawing.weight_class > 1000) {
    return bad("a weight of 1 to 1000", fmt::format("{}", drawing.weight_class));
  }
  return {};
}

/// What hmtx, hhea and OS/2 derive from glyphs, in 16 bits as well.
Result<void> check_bearings(const FontPlan& plan) {
  double sum = 0;
  for (std::size_t i = 0; i < plan.glyphs.size(); ++i) {
    const float advance = plan.glyphs[i]->advance;
    sum += advance;
    if (plan.boxes[i].empty() || fits_16_bits(advance - plan.boxes[i].x_max)) continue;
    return bad("bearings within 32767 font units",
               fmt::format("{} in glyph {}", advance - plan.boxes[i].x_max, i));
  }
  const double mean = sum / static_cast<double>(plan.glyphs.size());
  if (mean > 32767) return bad("a mean advance of at most 32767 font units", fmt::format("{}", mean));
  return {};
}

/// The `name` table counts its bytes in 16 bits, of each text and of all.
Result<void> check_names(const FaceNames& n) {
  std::size_t all = 0;
  for (const std::string* text :
       {&n.copyright, &n.family, &n.style, &n.family, &n.style, &n.version, &n.full_name, &n.version,
        &n.family, &n.style, &n.license, &n.license_url}) {
    all += utf16(*text).size() + 4;
  }
  if (all > 65535)
    return bad("names and license of at most 32,000 letters in all", fmt::format("{}", all / 2));
  return {};
}

/// Format 4 of `cmap` counts its bytes in 16 bits.
Result<void> check_runs(const FontPlan& plan) {
  constexpr std::size_t kMost = (65535 - 16) / 8 - 1;
  std::size_t runs = 0;
  for (std::size_t i = 0; i < plan.characters.size() && plan.characters[i].first <= 0xFFFF; ++i) {
    const bool goes_on = i > 0 && plan.characters[i].first == plan.characters[i - 1].first + 1 &&
                         plan.characters[i].second == plan.characters[i - 1].second + 1;
    runs += goes_on ? 0 : 1;
  }
  if (runs > kMost) return bad("at most 8188 runs of characters", fmt::format("{}", runs));
  return {};
}

Result<FontPlan> make_plan(const FontDrawing& drawing) {
  if (const Result<void> checked = check_numbers(drawing); !checked) return fail(checked.error());
  if (const Result<void> checked = check_names(drawing.names); !checked) return fail(checked.error());
  if (drawing.units_per_em < 16 || drawing.units_per_em > 16384) {
    return bad("units per em of 16 to 16384", fmt::format("{}", drawing.units_per_em));
  }
  if (drawing.glyphs.empty() || drawing.glyphs.size() > 65535) {
    return bad("1 to 65535 glyphs", fmt::format("{}", drawing.glyphs.size()));
  }
  FontPlan plan;
  plan.drawing = &drawing;
  for (const DrawnGlyph& glyph : drawing.glyphs) {
    if (!(glyph.advance >= 0 && glyph.advance <= 65535)) {
      return bad("advances of 0 to 65535 font units", fmt::format("{}", glyph.advance));
    }
    plan.glyphs.push_back(&glyph);
  }
  // After the missing-glyph shape glyphs stand in the order of their characters: cmap needs fewer segments.
  std::stable_sort(plan.glyphs.begin() + 1, plan.glyphs.end(),
                   [](const DrawnGlyph* a, const DrawnGlyph* b) { return a->characters < b->characters; });
  for (std::size_t i = 0; i < plan.glyphs.size(); ++i) {
    plan.boxes.push_back(bounds(plan.glyphs[i]->outline));
    for (const char32_t c : plan.glyphs[i]->characters) {
      plan.characters.emplace_back(c, static_cast<std::uint16_t>(i));
    }
  }
  std::sort(plan.characters.begin(), plan.characters.end());
  for (std::size_t i = 1; i < plan.characters.size(); ++i) {
    if (plan.characters[i].first != plan.characters[i - 1].first) continue;
    return bad("each character once",
               fmt::format("U+{:04X} twice", static_cast<unsigned>(plan.characters[i].first)));
  }
  if (const Result<void> checked = check_bearings(plan); !checked) return fail(checked.error());
  if (const Result<void> checked = check_runs(plan); !checked) return fail(checked.error());
  constexpr std::size_t kMaxPairs = 10920;  // a format 0 subtable says its length in 16 bits
  if (drawing.kerning.size() > kMaxPairs) {
    return bad("at most 10920 kerning pairs", fmt::format("{}", drawing.kerning.size()));
  }
  for (const DrawnPair& pair : drawing.kerning) {
    for (const char32_t c : {pair.left, pair.right}) {
      if (plan.glyph_of(c) == 0) {
        return bad("kerning pairs of characters that are drawn",
                   fmt::format("U+{:04X}", static_cast<unsigned>(c)));
      }
    }
    if (!(std::abs(pair.value) <= 32767)) {
      return bad("kerning within 32767 font units", fmt::format("{}", pair.value));
    }
  }
  return plan;
}

}  // namespace
}  // namespace detail

Result<std::vector<std::byte>> make_font(const FontDrawing& drawing) {
  Result<detail::FontPlan> plan = detail::make_plan(drawing);
  if (!plan) return fail(plan.error());
  auto glyphs = detail::write_glyphs(*plan);
  if (!glyphs) return fail(glyphs.error());
  std::vector<detail::WrittenTable> tables;
  tables.push_back(std::move(glyphs->first));
  tables.push_back(std::move(glyphs->second));
  for (const auto write : {detail::write_cmap, detail::write_hmtx, detail::write_name, detail::write_head,
                           detail::write_hhea, detail::write_maxp, detail::write_os2, detail::write_post}) {
    tables.push_back(write(*plan));
  }
  if (!drawing.kerning.empty()) tables.push_back(detail::write_kern(*plan));
  return detail::assemble(std::move(tables));
}

}  // namespace grafema
