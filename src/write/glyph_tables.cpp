// SPDX-License-Identifier: MIT
// Writes glyf, loca, cmap and hmtx.
#include "write/glyph_tables.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <cmath>

namespace grafema::detail {
namespace {

/// A contour's points as the file holds them.
struct FilePoint {
  int x, y;
  bool on_curve;
};

struct OutlinePoint {
  FontPoint at;
  bool on_curve;
};

/// The closing point, where the outline repeats it, is left out: contours close by themselves. So are points
/// in the middle between two control points, which readers put there by themselves (OpenType, glyf, "Simple
/// glyph description").
void end_contour(std::vector<OutlinePoint>& contour, std::vector<FilePoint>& points,
                 std::vector<std::size_t>& ends) {
  while (contour.size() > 1 && contour.back().on_curve &&
         to_units(contour.back().at.x) == to_units(contour[0].at.x) &&
         to_units(contour.back().at.y) == to_units(contour[0].at.y)) {
    contour.pop_back();
  }
  for (std::size_t i = 0; i < contour.size(); ++i) {
    const OutlinePoint& p = contour[i];
    if (i > 0 && p.on_curve) {
      const OutlinePoint &before = contour[i - 1], &after = contour[(i + 1) % contour.size()];
      const auto is_middle = [](float a, float b, float middle) {
        return static_cast<float>(to_units(a) + to_units(b)) == 2 * middle;
      };
      if (!before.on_curve && !after.on_curve && is_middle(before.at.x, after.at.x, p.at.x) &&
          is_middle(before.at.y, after.at.y, p.at.y)) {
        continue;
      }
    }
    points.push_back({to_units(p.at.x), to_units(p.at.y), p.on_curve});
  }
  ends.push_back(points.size());
  contour.clear();
}

Result<void> read_points(const Contours& outline, std::vector<FilePoint>& points,
                         std::vector<std::size_t>& ends) {
  std::size_t at = 0;
  std::vector<OutlinePoint> contour;
  const auto add = [&](bool on_curve) { contour.push_back({outline.points[at++], on_curve}); };
  for (const PathCommand command : outline.commands) {
    switch (command) {
      case PathCommand::moveto:
        if (!contour.empty()) end_contour(contour, points, ends);
        add(true);
        break;
      case PathCommand::lineto:
        add(true);
        break;
      case PathCommand::quadratic_curveto:
        add(false), add(true);
        break;
      case PathCommand::curveto:
        return fail(make_error(ErrorKind::unsupported, "lines and quadratic curves", "a cubic curve"));
      case PathCommand::closepath:
        break;
    }
  }
  if (!contour.empty()) end_contour(contour, points, ends);
  return {};
}

/// Flags and steps of one coordinate: none where it stays, one byte where the step is short, else two.
void write_steps(const std::vector<FilePoint>& points, bool is_x, std::vector<std::uint8_t>& flags,
                 TableWriter& out) {
  const std::uint8_t is_short = is_x ? 2 : 4, same = is_x ? 16 : 32;
  int previous = 0;
  for (std::size_t i = 0; i < points.size(); ++i) {
    const int value = is_x ? points[i].x : points[i].y, step = value - previous;
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

void write_glyph(const std::vector<FilePoint>& points, const std::vector<std::size_t>& ends,
                 const FontRect& box, bool may_overlap, TableWriter& out) {
  out.s16(static_cast<int>(ends.size()));
  for (const float v : {box.x_min, box.y_min, box.x_max, box.y_max}) out.s16(to_units(v));
  for (const std::size_t end : ends) out.u16(static_cast<std::uint32_t>(end - 1));
  out.u16(0);  // no instructions
  std::vector<std::uint8_t> flags(points.size());
  for (std::size_t i = 0; i < points.size(); ++i) flags[i] = points[i].on_curve ? 1 : 0;
  if (may_overlap) flags[0] |= 0x40;  // OVERLAP_SIMPLE
  TableWriter xs, ys;
  write_steps(points, true, flags, xs);
  write_steps(points, false, flags, ys);
  for (const std::uint8_t flag : flags) out.u8(flag);
  out.append(xs.bytes());
  out.append(ys.bytes());
}

}  // namespace

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
    std::vector<FilePoint> points;
    std::vector<std::size_t> ends;
    if (const Result<void> read = read_points(glyph.outline, points, ends); !read) return fail(read.error());
    if (points.empty()) continue;
    if (points.size() > 65535 || ends.size() > 32767) {
      return fail(make_error(ErrorKind::bad_value, "glyphs of at most 65535 points and 32767 contours",
                             fmt::format("{} and {} in glyph {}", points.size(), ends.size(), i)));
    }
    plan.most_points = std::max(plan.most_points, points.size());
    plan.most_contours = std::max(plan.most_contours, ends.size());
    write_glyph(points, ends, glyph.box, glyph.outline.may_overlap, glyf);
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
struct Run {
  char32_t first, last;
  std::uint16_t glyph;
};

std::vector<Run> find_runs(const FontPlan& plan, char32_t limit) {
  std::vector<Run> runs;
  for (const auto& [character, glyph] : plan.characters) {
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

std::vector<std::byte> write_segments(const FontPlan& plan) {
  std::vector<Run> runs = find_runs(plan, 0xFFFE);
  const auto count = static_cast<std::uint32_t>(runs.size() + 1);
  const std::uint32_t search = std::bit_floor(count) * 2;
  TableWriter out;
  out.u16(4), out.u16(16 + count * 8), out.u16(0), out.u16(count * 2);
  out.u16(search), out.u16(static_cast<std::uint32_t>(std::bit_width(count) - 1)),
      out.u16(count * 2 - search);
  for (const Run& run : runs) out.u16(run.last);
  out.u16(0xFFFF), out.u16(0);
  for (const Run& run : runs) out.u16(run.first);
  out.u16(0xFFFF);
  for (const Run& run : runs) out.u16(run.glyph - run.first);
  out.u16(1);  // the closing segment maps U+FFFF to glyph 0
  for (std::uint32_t i = 0; i < count; ++i) out.u16(0);
  return std::move(out.bytes());
}

std::vector<std::byte> write_groups(const FontPlan& plan) {
  const std::vector<Run> runs = find_runs(plan, 0x10FFFF);
  TableWriter out;
  out.u16(12), out.u16(0), out.u32(static_cast<std::uint32_t>(16 + runs.size() * 12)), out.u32(0);
  out.u32(static_cast<std::uint32_t>(runs.size()));
  for (const Run& run : runs) out.u32(run.first), out.u32(run.last), out.u32(run.glyph);
  return std::move(out.bytes());
}

}  // namespace

WrittenTable write_cmap(const FontPlan& plan) {
  const std::vector<std::byte> segments = write_segments(plan);
  const bool beyond = !plan.characters.empty() && plan.characters.back().first > 0xFFFF;
  TableWriter out;
  out.u16(0), out.u16(beyond ? 2 : 1);
  out.u16(3), out.u16(1), out.u32(beyond ? 20 : 12);
  if (beyond) out.u16(3), out.u16(10), out.u32(static_cast<std::uint32_t>(20 + segments.size()));
  out.append(segments);
  if (beyond) out.append(write_groups(plan));
  return {tag("cmap"), std::move(out.bytes())};
}

}  // namespace grafema::detail
