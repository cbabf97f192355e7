// SPDX-License-Identifier: MIT
// One axis, `wght`; each other weight is a place on it, and reaches up to its neighbors.
#include "write/tables/variation_tables.hpp"

#include <algorithm>
#include <cmath>

#include "write/tables/file_points.hpp"

namespace grafema::detail {

void pack_deltas(const std::vector<int>& deltas, TableWriter& out) {
  constexpr std::size_t kMax = 64;
  const auto kind = [](int v) { return v == 0 ? 0 : v >= -128 && v <= 127 ? 1 : 2; };
  for (std::size_t i = 0; i < deltas.size();) {
    const int of = kind(deltas[i]);
    std::size_t end = i + 1;
    while (end < deltas.size() && end - i < kMax && kind(deltas[end]) == of) ++end;
    const auto count = static_cast<std::uint32_t>(end - i - 1);
    out.u8(count | (of == 0 ? 0x80U : of == 2 ? 0x40U : 0U));
    for (; i < end; ++i) {
      if (of == 1) out.u8(static_cast<std::uint32_t>(deltas[i]));
      if (of == 2) out.s16(deltas[i]);
    }
  }
}

namespace {

constexpr std::uint32_t kFirstName = 256;

/// Where a weight acts, on the axis from -1 to 1.
struct Region {
  double start = 0, peak = 0, end = 0;
};

struct Axis {
  int least, usual, most;
  std::vector<Region> regions;  // of each of the drawing's masters
};

Axis axis_of(const FontDrawing& drawing) {
  Axis axis{drawing.weight_class, drawing.weight_class, drawing.weight_class, {}};
  for (const FontMaster& m : drawing.masters) {
    axis.least = std::min<int>(axis.least, m.weight_class),
    axis.most = std::max<int>(axis.most, m.weight_class);
  }
  const auto normal = [&](int weight) {
    const int off = weight - axis.usual;
    return off > 0   ? static_cast<double>(off) / (axis.most - axis.usual)
           : off < 0 ? static_cast<double>(off) / (axis.usual - axis.least)
                     : 0.0;
  };
  std::vector<double> peaks = {-1, 0, 1};
  for (const FontMaster& m : drawing.masters) peaks.push_back(normal(m.weight_class));
  std::sort(peaks.begin(), peaks.end());
  peaks.erase(std::unique(peaks.begin(), peaks.end()), peaks.end());
  for (const FontMaster& m : drawing.masters) {
    const double peak = normal(m.weight_class);
    const auto at = std::find(peaks.begin(), peaks.end(), peak);
    axis.regions.push_back(
        {at == peaks.begin() ? peak : *(at - 1), peak, at + 1 == peaks.end() ? peak : *(at + 1)});
  }
  return axis;
}

void write_f2dot14(TableWriter& out, double v) { out.s16(static_cast<int>(std::floor(v * 16384 + 0.5))); }
void write_fixed(TableWriter& out, int v) { out.u32(static_cast<std::uint32_t>(v) << 16); }

WrittenTable write_fvar(const FontDrawing& drawing, const Axis& axis) {
  const auto instances = static_cast<std::uint32_t>(drawing.masters.size() + 1);
  TableWriter out;
  out.u32(0x00010000), out.u16(16), out.u16(2), out.u16(1), out.u16(20), out.u16(instances), out.u16(8);
  out.u32(static_cast<std::uint32_t>(tag("wght")));
  write_fixed(out, axis.least), write_fixed(out, axis.usual), write_fixed(out, axis.most);
  out.u16(0), out.u16(kFirstName);
  for (std::uint32_t i = 0; i < instances; ++i) {
    out.u16(kFirstName + 1 + i), out.u16(0);
    write_fixed(out, i == 0 ? axis.usual : drawing.masters[i - 1].weight_class);
  }
  return {tag("fvar"), std::move(out.bytes())};
}

/// Weights are as far apart as they say: the map changes nothing.
WrittenTable write_avar() {
  TableWriter out;
  out.u32(0x00010000), out.u16(0), out.u16(1), out.u16(3);
  for (const double v : {-1.0, 0.0, 1.0}) write_f2dot14(out, v), write_f2dot14(out, v);
  return {tag("avar"), std::move(out.bytes())};
}

/// Regular is left out of names, and its bold is told (OpenType, STAT, format 3).
WrittenTable write_stat(const FontDrawing& drawing, const Axis& axis) {
  const auto values = static_cast<std::uint32_t>(drawing.masters.size() + 1);
  const bool has_bold = std::any_of(drawing.masters.begin(), drawing.masters.end(),
                                    [](const FontMaster& m) { return m.weight_class == 700; });
  TableWriter out, offsets, tables;
  out.u32(0x00010002), out.u16(8), out.u16(1), out.u32(20), out.u16(values), out.u32(28),
      out.u16(kFirstName + 1);
  out.u32(static_cast<std::uint32_t>(tag("wght"))), out.u16(kFirstName), out.u16(0);
  for (std::uint32_t i = 0; i < values; ++i) {
    offsets.u16(static_cast<std::uint32_t>(std::size_t{values} * 2 + tables.size()));
    const int weight = i == 0 ? axis.usual : drawing.masters[i - 1].weight_class;
    const bool linked = weight == 400 && has_bold;
    tables.u16(linked ? 3 : 1), tables.u16(0), tables.u16(weight == 400 ? 2 : 0),
        tables.u16(kFirstName + 1 + i);
    write_fixed(tables, weight);
    if (linked) write_fixed(tables, 700);
  }
  out.append(offsets.bytes()), out.append(tables.bytes());
  return {tag("STAT"), std::move(out.bytes())};
}

/// How advances change, glyph by glyph.
WrittenTable write_hvar(const FontPlan& plan, const Axis& axis) {
  const auto regions = static_cast<std::uint32_t>(axis.regions.size());
  TableWriter out;
  out.u32(0x00010000), out.u32(20), out.u32(0), out.u32(0), out.u32(0);
  const std::uint32_t list = 12, data = list + 4 + regions * 6;
  out.u16(1), out.u32(list), out.u16(1), out.u32(data);
  out.u16(1), out.u16(regions);
  for (const Region& r : axis.regions)
    write_f2dot14(out, r.start), write_f2dot14(out, r.peak), write_f2dot14(out, r.end);
  out.u16(static_cast<std::uint32_t>(plan.glyphs.size())), out.u16(regions), out.u16(regions);
  for (std::uint32_t i = 0; i < regions; ++i) out.u16(i);
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    for (const DrawnMaster& m : glyph.drawn->masters)
      out.s16(to_units(m.advance) - to_units(glyph.drawn->advance));
    for (std::size_t w = glyph.drawn->masters.size(); w < regions; ++w) out.s16(0);
  }
  return {tag("HVAR"), std::move(out.bytes())};
}

/// X and y by which each point of a glyph moves in one weight, the four points of its metrics included.
std::pair<std::vector<int>, std::vector<int>> list_deltas(const FontPlan::Glyph& glyph,
                                                          const FilePoints& points, std::size_t weight) {
  std::vector<int> x, y;
  if (!glyph.parts.empty()) {
    for (std::size_t i = 0; i < glyph.parts.size(); ++i) {
      const FontPlan::Part& part = glyph.master_parts[weight][i];
      x.push_back(part.dx - glyph.parts[i].dx), y.push_back(part.dy - glyph.parts[i].dy);
    }
  } else {
    for (std::size_t i = 0; i < points.on_curve.size(); ++i) {
      x.push_back(points.places[weight + 1][i].first - points.places[0][i].first);
      y.push_back(points.places[weight + 1][i].second - points.places[0][i].second);
    }
  }
  x.insert(x.end(),
           {0, to_units(glyph.drawn->masters[weight].advance) - to_units(glyph.drawn->advance), 0, 0});
  y.insert(y.end(), 4, 0);
  return {std::move(x), std::move(y)};
}

Result<std::vector<std::byte>> write_glyph_variations(const FontPlan::Glyph& glyph, const Axis& axis) {
  if (glyph.drawn->masters.empty()) return std::vector<std::byte>{};
  Result<FilePoints> points = read_file_points(outlines_of(glyph));
  if (!points) return fail(points.error());
  TableWriter headers, data;
  data.u8(0);  // all points, in every tuple
  std::uint32_t count = 0;
  for (std::size_t w = 0; w < axis.regions.size(); ++w) {
    const auto [x, y] = list_deltas(glyph, *points, w);
    const auto is_zero = [](int v) { return v == 0; };
    if (std::all_of(x.begin(), x.end(), is_zero) && std::all_of(y.begin(), y.end(), is_zero)) continue;
    TableWriter packed;
    pack_deltas(x, packed), pack_deltas(y, packed);
    if (packed.size() > 65535) return bad_value("glyphs of fewer points in a variable face", glyph.name);
    const Region& r = axis.regions[w];
    const bool plain =
        (r.peak > 0 && r.start == 0 && r.end == r.peak) || (r.peak < 0 && r.end == 0 && r.start == r.peak);
    headers.u16(static_cast<std::uint32_t>(packed.size()));
    headers.u16(static_cast<std::uint32_t>(w) | (plain ? 0U : 0x4000U));
    if (!plain) write_f2dot14(headers, r.start), write_f2dot14(headers, r.end);
    data.append(packed.bytes());
    ++count;
  }
  if (count == 0) return std::vector<std::byte>{};
  TableWriter out;
  out.u16(0x8000U | count), out.u16(static_cast<std::uint32_t>(4 + headers.size()));
  out.append(headers.bytes()), out.append(data.bytes());
  out.align(4);
  return std::move(out.bytes());
}

Result<WrittenTable> write_gvar(const FontPlan& plan, const Axis& axis) {
  TableWriter data, offsets;
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    offsets.u32(static_cast<std::uint32_t>(data.size()));
    const Result<std::vector<std::byte>> written = write_glyph_variations(glyph, axis);
    if (!written) return fail(written.error());
    data.append(*written);
  }
  offsets.u32(static_cast<std::uint32_t>(data.size()));
  const auto shared_at = static_cast<std::uint32_t>(20 + offsets.size()),
             tuples = static_cast<std::uint32_t>(axis.regions.size());
  TableWriter out;
  out.u32(0x00010000), out.u16(1), out.u16(tuples), out.u32(shared_at);
  out.u16(static_cast<std::uint32_t>(plan.glyphs.size())), out.u16(1), out.u32(shared_at + tuples * 2);
  out.append(offsets.bytes());
  for (const Region& r : axis.regions) write_f2dot14(out, r.peak);
  out.append(data.bytes());
  return WrittenTable{tag("gvar"), std::move(out.bytes())};
}

}  // namespace

std::vector<std::string> variation_names(const FontDrawing& drawing) {
  std::vector<std::string> names;
  if (drawing.masters.empty()) return names;
  names = {"Weight", drawing.names.style};
  for (const FontMaster& m : drawing.masters) names.push_back(m.name);
  return names;
}

Result<std::vector<WrittenTable>> write_variations(const FontPlan& plan) {
  const FontDrawing& drawing = *plan.drawing;
  std::vector<WrittenTable> tables;
  const Axis axis = axis_of(drawing);
  Result<WrittenTable> gvar = write_gvar(plan, axis);
  if (!gvar) return fail(gvar.error());
  tables.push_back(*std::move(gvar));
  tables.push_back(write_fvar(drawing, axis)), tables.push_back(write_avar());
  tables.push_back(write_stat(drawing, axis)), tables.push_back(write_hvar(plan, axis));
  return tables;
}

}  // namespace grafema::detail
