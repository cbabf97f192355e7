// SPDX-License-Identifier: MIT
// Writes glyf, loca, cmap and hmtx.
#include "write/tables/glyph_tables.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>

#include "write/tables/file_points.hpp"

namespace grafema::detail {
namespace {

/// Flags and steps of one coordinate: none where it stays, one byte where the step is short, else two.
void write_steps(const std::vector<std::pair<int, int>>& places, bool is_x, std::vector<std::uint8_t>& flags,
                 TableWriter& out) {
  const std::uint8_t is_short = is_x ? 2 : 4, same = is_x ? 16 : 32;
  int previous = 0;
  for (std::size_t i = 0; i < places.size(); ++i) {
    const int value = is_x ? places[i].first : places[i].second, step = value - previous;
    previous = value;
    if (step == 0) {
      flags[i] |= same;
    } else if (std::abs(step) < 256) {
      flags[i] = static_cast<std::uint8_t>(flags[i] | is_short | (step > 0 ? same : 0));
      out.u8(static_cast<std::uint32_t>(std::abs(step)));
    } else {
      out.s16(step);
    }
  }
}

}  // namespace

void write_simple_glyph(const FilePoints& points, const FontRect& box, bool may_overlap, TableWriter& out) {
  out.s16(static_cast<int>(points.ends.size()));
  for (const float v : {box.x_min, box.y_min, box.x_max, box.y_max}) out.s16(to_units(v));
  for (const std::size_t end : points.ends) out.u16(static_cast<std::uint32_t>(end - 1));
  out.u16(0);  // no instructions
  std::vector<std::uint8_t> flags(points.on_curve.size());
  for (std::size_t i = 0; i < flags.size(); ++i) flags[i] = points.on_curve[i] ? 1 : 0;
  if (may_overlap) flags[0] |= 0x40;  // OVERLAP_SIMPLE
  TableWriter xs, ys;
  write_steps(points.places[0], true, flags, xs);
  write_steps(points.places[0], false, flags, ys);
  for (const std::uint8_t flag : flags) out.u8(flag);
  out.append(xs.bytes());
  out.append(ys.bytes());
}

namespace {

void write_parts(const FontPlan::Glyph& glyph, TableWriter& out) {
  out.s16(-1);
  for (const float v : {glyph.box.x_min, glyph.box.y_min, glyph.box.x_max, glyph.box.y_max})
    out.s16(to_units(v));
  for (std::size_t i = 0; i < glyph.parts.size(); ++i) {
    const bool more = i + 1 < glyph.parts.size();
    out.u16(0x0007U | (more ? 0x0020U : 0U) |
            (i == 0 ? 0x0400U : 0U));  // offsets in words; parts may overlap
    out.u16(glyph.parts[i].glyph), out.s16(glyph.parts[i].dx), out.s16(glyph.parts[i].dy);
  }
}

}  // namespace

Result<std::pair<WrittenTable, WrittenTable>> write_glyphs(FontPlan& plan) {
  TableWriter glyf, loca;
  for (std::size_t i = 0; i < plan.glyphs.size(); ++i) {
    loca.u32(static_cast<std::uint32_t>(glyf.size()));
    const FontPlan::Glyph& glyph = plan.glyphs[i];
    if (!glyph.parts.empty()) {
      write_parts(glyph, glyf);
      glyf.align(4);
      continue;
    }
    const Result<FilePoints> points = read_file_points(outlines_of(glyph));
    if (!points) return fail(points.error());
    const std::size_t count = points->on_curve.size(), contours = points->ends.size();
    if (count == 0) continue;
    if (count > 65535 || contours > 32767) {
      return fail(make_error(ErrorKind::bad_value, "glyphs of at most 65535 points and 32767 contours",
                             fmt::format("{} and {} in glyph {}", count, contours, i)));
    }
    plan.most_points = std::max(plan.most_points, count);
    plan.most_contours = std::max(plan.most_contours, contours);
    write_simple_glyph(*points, glyph.box, glyph.outline.may_overlap, glyf);
    glyf.align(4);
  }
  loca.u32(static_cast<std::uint32_t>(glyf.size()));
  return std::pair(WrittenTable{tag("glyf"), std::move(glyf.bytes())},
                   WrittenTable{tag("loca"), std::move(loca.bytes())});
}

WrittenTable write_hmtx(const FontPlan& plan) {
  TableWriter out;
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    out.u16(static_cast<std::uint32_t>(to_units(glyph.drawn->advance)));
    out.s16(glyph.box.empty() ? 0 : to_units(glyph.box.x_min));
  }
  return {tag("hmtx"), std::move(out.bytes())};
}

namespace {

/// Characters in a row whose glyphs follow in a row.
struct CharacterRun {
  char32_t first, last;
  std::uint16_t glyph;
};

std::vector<CharacterRun> find_runs(const CharacterList& characters, char32_t limit) {
  std::vector<CharacterRun> runs;
  for (const auto& [character, glyph] : characters) {
    if (character > limit) break;
    const bool goes_on = !runs.empty() && character == runs.back().last + 1 &&
                         glyph == runs.back().glyph + (character - runs.back().first);
    if (goes_on) {
      runs.back().last = character;
    } else {
      runs.push_back({character, character, glyph});
    }
  }
  return runs;
}

/// Characters in a row whose glyphs stand in an array.
struct Stretch {
  char32_t first, last;
  std::size_t begin;  ///< into the list of characters
};

std::vector<std::byte> write_format4(const std::vector<std::array<std::uint32_t, 4>>& segments,
                                     const std::vector<std::uint16_t>& array) {
  const auto count = static_cast<std::uint32_t>(segments.size());
  const std::uint32_t search = std::bit_floor(count) * 2;
  TableWriter out;
  out.u16(4), out.u16(static_cast<std::uint32_t>(16 + count * std::size_t{8} + array.size() * 2)), out.u16(0);
  out.u16(count * 2), out.u16(search), out.u16(static_cast<std::uint32_t>(std::bit_width(count) - 1));
  out.u16(count * 2 - search);
  for (const auto& segment : segments) out.u16(segment[1]);
  out.u16(0);
  for (const std::size_t part : {0U, 2U, 3U}) {
    for (const auto& segment : segments) out.u16(segment[part]);
  }
  for (const std::uint16_t glyph : array) out.u16(glyph);
  return std::move(out.bytes());
}

/// Format 4, which counts its bytes in 16 bits: a segment for each run of glyphs, and where those are too
/// many, one for each run of characters with their glyphs in an array. What does not fit either is left to
/// format 12; `whole` tells whether everything is here.
std::vector<std::byte> write_segments(const CharacterList& characters, bool& whole) {
  constexpr std::size_t kMax = 0xFFFF;
  constexpr std::array<std::uint32_t, 4> kClosing = {0xFFFF, 0xFFFF, 1, 0};  // maps U+FFFF to glyph 0
  std::vector<std::array<std::uint32_t, 4>> segments;                        // first, last, delta, offset
  whole = true;
  for (const CharacterRun& run : find_runs(characters, 0xFFFE)) {
    segments.push_back({run.first, run.last, (run.glyph - run.first) & 0xFFFFU, 0});
  }
  if (24 + segments.size() * 8 <= kMax) {
    segments.push_back(kClosing);
    return write_format4(segments, {});
  }
  std::vector<Stretch> stretches;
  std::size_t bytes = 24;
  for (std::size_t i = 0; i < characters.size() && characters[i].first <= 0xFFFE; ++i) {
    const char32_t c = characters[i].first;
    const bool goes_on = !stretches.empty() && c == stretches.back().last + 1;
    bytes += goes_on ? 2 : 10;
    if (bytes > kMax) {
      whole = false;
      break;
    }
    if (goes_on) stretches.back().last = c;
    if (!goes_on) stretches.push_back({c, c, i});
  }
  segments.clear();
  std::vector<std::uint16_t> array;
  for (std::size_t s = 0; s < stretches.size(); ++s) {
    const Stretch& stretch = stretches[s];
    // Offsets count from where they stand to the array behind them.
    const std::size_t offset = (stretches.size() + 1 - s + array.size()) * 2;
    segments.push_back({stretch.first, stretch.last, 0, static_cast<std::uint32_t>(offset)});
    for (std::size_t i = stretch.begin; i <= stretch.begin + (stretch.last - stretch.first); ++i) {
      array.push_back(characters[i].second);
    }
  }
  segments.push_back(kClosing);
  return write_format4(segments, array);
}

std::vector<std::byte> write_groups(const CharacterList& characters) {
  const std::vector<CharacterRun> runs = find_runs(characters, 0x10FFFF);
  TableWriter out;
  out.u16(12), out.u16(0), out.u32(static_cast<std::uint32_t>(16 + runs.size() * 12)), out.u32(0);
  out.u32(static_cast<std::uint32_t>(runs.size()));
  for (const CharacterRun& run : runs) out.u32(run.first), out.u32(run.last), out.u32(run.glyph);
  return std::move(out.bytes());
}

}  // namespace

WrittenTable write_cmap(const CharacterList& characters, const std::vector<std::byte>& variants) {
  bool whole = true;
  const std::vector<std::byte> segments = write_segments(characters, whole);
  const bool beyond = !whole || (!characters.empty() && characters.back().first > 0xFFFF);
  struct Subtable {
    std::uint32_t platform, encoding;
    const std::vector<std::byte>* bytes;
  };
  const std::vector<std::byte> groups = beyond ? write_groups(characters) : std::vector<std::byte>{};
  std::vector<Subtable> subtables;
  if (!variants.empty()) subtables.push_back({0, 5, &variants});
  subtables.push_back({3, 1, &segments});
  if (beyond) subtables.push_back({3, 10, &groups});
  TableWriter out;
  out.u16(0), out.u16(static_cast<std::uint32_t>(subtables.size()));
  std::size_t at = 4 + subtables.size() * 8;
  for (const Subtable& subtable : subtables) {
    out.u16(subtable.platform), out.u16(subtable.encoding), out.u32(static_cast<std::uint32_t>(at));
    at += subtable.bytes->size();
  }
  for (const Subtable& subtable : subtables) out.append(*subtable.bytes);
  return {tag("cmap"), std::move(out.bytes())};
}

}  // namespace grafema::detail
