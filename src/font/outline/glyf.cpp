// SPDX-License-Identifier: MIT
// Reads TrueType outlines: points first, so that composites can match them, contours last.
#include "font/outline/glyf.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <vector>

#include "font/variation/axes.hpp"

namespace grafema::detail {
namespace {

// Glyphs of real fonts stay far below these; they bound the work that a hostile file can ask for.
constexpr int kMaxPartDepth = 16;
constexpr int kMaxComponents = 1024;
constexpr std::size_t kMaxPoints = 200'000;
constexpr std::size_t kPhantomPoints = 4;

enum SimpleFlag : std::uint8_t {
  on_curve = 1,
  x_short = 2,
  y_short = 4,
  repeat = 8,
  x_same = 16,
  y_same = 32,
  overlap_simple = 64
};

enum ComponentFlag : std::uint16_t {
  words = 1,
  offsets = 2,
  has_scale = 8,
  more_components = 0x20,
  has_xy_scale = 0x40,
  has_matrix = 0x80,
  use_my_metrics = 0x200,
  scaled_offset = 0x800,
  unscaled_offset = 0x1000,
};

/// A component's own place: x' = xx x + xy y + dx, y' = yx x + yy y + dy.
struct Placement {
  float xx = 1, yx = 0, xy = 0, yy = 1, dx = 0, dy = 0;
};

struct Component {
  std::uint16_t flags = 0, glyph = 0;
  int first = 0, second = 0;  // offsets, or the numbers of two points that must meet
  Placement place;
};

class GlyfReader {
 public:
  GlyfReader(const GlyphTables& tables, GlyfPoints& out) : tables_(tables), out_(out) {}

  /// Appends the glyph's points, moved along the axes, and gives its cell.
  Result<GlyphCell> read(std::uint32_t glyph, int depth) {
    const Result<GlyphHeader> header = read_glyph_header(tables_, glyph);
    if (!header) return fail(header.error());
    const float left =
        static_cast<float>(header->x_min - (header->data.empty() ? 0 : tables_.horizontal.bearing(glyph)));
    const float top = static_cast<float>(header->y_max + tables_.vertical.bearing(glyph));
    const GlyphCell cell{left, left + static_cast<float>(tables_.horizontal.advance(glyph)), top,
                         top - static_cast<float>(tables_.vertical.advance(glyph))};
    if (header->data.empty()) return vary(glyph, out_.points.size(), out_.ends.size(), cell);
    if (header->contour_count < 0) return read_composite(glyph, header->data, depth, cell);
    const std::size_t first = out_.points.size(), first_end = out_.ends.size();
    const Result<void> simple = read_simple(header->data, static_cast<std::size_t>(header->contour_count));
    if (!simple) return fail(simple.error());
    return vary(glyph, first, first_end, cell);
  }

 private:
  Result<GlyphCell> vary(std::uint32_t glyph, std::size_t first, std::size_t first_end, GlyphCell cell);
  Result<GlyphCell> find_deltas(std::uint32_t glyph, std::span<const std::size_t> ends, GlyphCell cell);
  Result<void> read_simple(const TableView& data, std::size_t contour_count);
  Result<std::size_t> read_flags(const TableView& data, std::size_t at, std::size_t count);
  Result<std::size_t> read_coordinates(const TableView& data, std::size_t at, std::size_t first, bool is_x);
  Result<GlyphCell> read_composite(std::uint32_t glyph, const TableView& data, int depth, GlyphCell cell);
  Result<std::vector<Component>> read_components(const TableView& data);
  Result<GlyphCell> vary_offsets(std::uint32_t glyph, std::vector<Component>& components, GlyphCell cell);
  Result<GlyphCell> add_component(const TableView& data, const Component& component, std::size_t base,
                                  int depth);
  static Result<std::size_t> read_component(const TableView& data, std::size_t at, Component& component);

  const GlyphTables& tables_;
  GlyfPoints& out_;
  std::vector<std::uint8_t> flags_;
  DeltaScratch scratch_;
  std::vector<FontPoint> originals_, deltas_;
  std::vector<std::size_t> own_ends_;
  int components_ = 0;
};

/// Fills `deltas_` for the points in `originals_`, to which the phantom points are added here.
Result<GlyphCell> GlyfReader::find_deltas(std::uint32_t glyph, std::span<const std::size_t> ends,
                                          GlyphCell cell) {
  for (const FontPoint p : {FontPoint{cell.left, 0}, FontPoint{cell.right, 0}, FontPoint{0, cell.top},
                            FontPoint{0, cell.bottom}}) {
    originals_.push_back(p);
  }
  deltas_.assign(originals_.size(), {});
  const Result<void> added = tables_.variations.add_deltas(glyph, {originals_, ends, deltas_}, scratch_);
  if (!added) return fail(added.error());
  const std::span<const FontPoint> phantom = std::span<const FontPoint>(deltas_).last(kPhantomPoints);
  return GlyphCell{cell.left + phantom[0].x, cell.right + phantom[1].x, cell.top + phantom[2].y,
                   cell.bottom + phantom[3].y};
}

/// Moves the points from `first` on along the axes.
Result<GlyphCell> GlyfReader::vary(std::uint32_t glyph, std::size_t first, std::size_t first_end,
                                   GlyphCell cell) {
  if (tables_.variations.empty()) return cell;
  originals_.assign(out_.points.begin() + static_cast<std::ptrdiff_t>(first), out_.points.end());
  own_ends_.clear();
  for (std::size_t i = first_end; i < out_.ends.size(); ++i) own_ends_.push_back(out_.ends[i] - first);
  const Result<GlyphCell> moved = find_deltas(glyph, own_ends_, cell);
  if (!moved) return moved;
  for (std::size_t i = first; i < out_.points.size(); ++i) {
    out_.points[i].x += deltas_[i - first].x, out_.points[i].y += deltas_[i - first].y;
  }
  return moved;
}

Result<void> GlyfReader::read_simple(const TableView& data, std::size_t contour_count) {
  constexpr std::size_t kEnds = 10;
  if (contour_count == 0) return {};
  if (!data.holds(kEnds, contour_count * 2 + 2)) {
    return damaged(data, 0, "a contour count that fits the glyph");
  }
  const std::size_t first = out_.points.size();
  std::size_t count = 0;
  out_.ends.reserve(out_.ends.size() + contour_count);
  for (std::size_t i = 0; i < contour_count; ++i) {
    const std::size_t end = be16(data.bytes, kEnds + i * 2) + std::size_t{1};
    if (end < count) return damaged(data, kEnds + i * 2, "contour ends that ascend");
    count = end;
    out_.ends.push_back(first + end);
  }
  if (count > data.bytes.size() * 256 || first + count > kMaxPoints) {
    return damaged(data, kEnds, "a point count that fits the glyph");
  }
  const std::size_t instructions = kEnds + contour_count * 2;
  const Result<std::size_t> xs = read_flags(data, instructions + 2 + be16(data.bytes, instructions), count);
  if (!xs) return fail(xs.error());
  out_.points.resize(first + count);
  const Result<std::size_t> ys = read_coordinates(data, *xs, first, true);
  if (!ys) return fail(ys.error());
  const Result<std::size_t> end = read_coordinates(data, *ys, first, false);
  if (!end) return fail(end.error());
  out_.on.reserve(first + count);
  for (std::size_t i = 0; i < count; ++i) out_.on.push_back(flags_[i] & on_curve);
  if ((flags_[0] & overlap_simple) != 0) out_.may_overlap = true;
  return {};
}

/// Flags may repeat; gives where the x coordinates begin.
Result<std::size_t> GlyfReader::read_flags(const TableView& data, std::size_t at, std::size_t count) {
  flags_.clear();
  flags_.reserve(std::min(count, data.bytes.size() * 2));  // a damaged count takes no more than the data
  while (flags_.size() < count) {
    if (!data.holds(at, 1)) return damaged(data, at, "a flag for every point");
    const auto flag = static_cast<std::uint8_t>(data.bytes[at++]);
    std::size_t times = 1;
    if ((flag & repeat) != 0) {
      if (!data.holds(at, 1)) return damaged(data, at, "how often a flag repeats");
      times += static_cast<std::size_t>(data.bytes[at++]);
    }
    flags_.insert(flags_.end(), std::min(times, count - flags_.size()), flag);
  }
  return at;
}

/// Coordinates are steps of one byte with the sign in the flag, two bytes, or none; gives where they end.
Result<std::size_t> GlyfReader::read_coordinates(const TableView& data, std::size_t at, std::size_t first,
                                                 bool is_x) {
  const std::uint8_t is_short = is_x ? x_short : y_short, same = is_x ? x_same : y_same;
  int value = 0;
  for (std::size_t i = 0; i < flags_.size(); ++i) {
    const bool one_byte = (flags_[i] & is_short) != 0, bit = (flags_[i] & same) != 0;
    const std::size_t bytes = one_byte ? 1 : bit ? 0 : 2;
    if (!data.holds(at, bytes)) return damaged(data, at, "coordinates of every point");
    if (one_byte) {
      const int step = static_cast<int>(data.bytes[at]);
      value += bit ? step : -step;
    } else if (!bit) {
      value += be16s(data.bytes, at);
    }
    at += bytes;
    (is_x ? out_.points[first + i].x : out_.points[first + i].y) = static_cast<float>(value);
  }
  return at;
}

Result<std::size_t> GlyfReader::read_component(const TableView& data, std::size_t at, Component& component) {
  if (!data.holds(at, 4)) return damaged(data, at, "a component");
  component.flags = be16(data.bytes, at);
  component.glyph = be16(data.bytes, at + 2);
  at += 4;
  const bool wide = (component.flags & words) != 0, is_offset = (component.flags & offsets) != 0;
  const std::size_t scale_bytes = (component.flags & has_scale) != 0      ? 2
                                  : (component.flags & has_xy_scale) != 0 ? 4
                                  : (component.flags & has_matrix) != 0   ? 8
                                                                          : 0;
  if (!data.holds(at, (wide ? 4 : 2) + scale_bytes)) return damaged(data, at, "a component's arguments");
  const auto argument = [&](std::size_t i) {
    if (wide) return is_offset ? int{be16s(data.bytes, at + 2 * i)} : int{be16(data.bytes, at + 2 * i)};
    const auto byte = static_cast<std::uint8_t>(data.bytes[at + i]);
    return is_offset ? int{static_cast<std::int8_t>(byte)} : int{byte};
  };
  component.first = argument(0);
  component.second = argument(1);
  at += wide ? 4 : 2;
  Placement& place = component.place;
  if (is_offset) {
    place.dx = static_cast<float>(component.first), place.dy = static_cast<float>(component.second);
  }
  if (scale_bytes == 2) place.xx = place.yy = f2dot14(data, at);
  if (scale_bytes == 4) place.xx = f2dot14(data, at), place.yy = f2dot14(data, at + 2);
  if (scale_bytes == 8) {
    place.xx = f2dot14(data, at), place.yx = f2dot14(data, at + 2);
    place.xy = f2dot14(data, at + 4), place.yy = f2dot14(data, at + 6);
  }
  return at + scale_bytes;
}

Result<std::vector<Component>> GlyfReader::read_components(const TableView& data) {
  std::vector<Component> components;
  std::size_t at = 10;
  do {
    components.emplace_back();
    const Result<std::size_t> next = read_component(data, at, components.back());
    if (!next) return fail(next.error());
    if (++components_ > kMaxComponents) return damaged(data, at, "no more than 1024 components");
    at = *next;
  } while ((components.back().flags & more_components) != 0);
  return components;
}

/// In a composite it is the components' offsets that move.
Result<GlyphCell> GlyfReader::vary_offsets(std::uint32_t glyph, std::vector<Component>& components,
                                           GlyphCell cell) {
  if (tables_.variations.empty()) return cell;
  originals_.clear();
  for (const Component& c : components) originals_.push_back({c.place.dx, c.place.dy});
  const Result<GlyphCell> moved = find_deltas(glyph, {}, cell);
  if (!moved) return moved;
  for (std::size_t i = 0; i < components.size(); ++i) {
    if ((components[i].flags & offsets) == 0) continue;
    components[i].place.dx += deltas_[i].x;
    components[i].place.dy += deltas_[i].y;
  }
  return moved;
}

Result<GlyphCell> GlyfReader::read_composite(std::uint32_t glyph, const TableView& data, int depth,
                                             GlyphCell cell) {
  if (depth >= kMaxPartDepth) return damaged(data, 0, "composites no deeper than 16");
  Result<std::vector<Component>> components = read_components(data);
  if (!components) return fail(components.error());
  Result<GlyphCell> result = vary_offsets(glyph, *components, cell);
  if (!result) return result;
  out_.may_overlap = true;
  const std::size_t base = out_.points.size();
  for (const Component& component : *components) {
    const Result<GlyphCell> own = add_component(data, component, base, depth);
    if (!own) return own;
    if ((component.flags & use_my_metrics) != 0) result = own;
  }
  return result;
}

/// Points are numbered from the composite's first one, `base`.
Result<GlyphCell> GlyfReader::add_component(const TableView& data, const Component& component,
                                            std::size_t base, int depth) {
  const std::size_t first = out_.points.size();
  const Result<GlyphCell> cell = read(component.glyph, depth + 1);
  if (!cell) return cell;
  Placement place = component.place;
  if ((component.flags & offsets) == 0) place.dx = place.dy = 0;
  const auto place_point = [&place](FontPoint p) {
    return FontPoint{place.xx * p.x + place.xy * p.y + place.dx, place.yx * p.x + place.yy * p.y + place.dy};
  };
  if ((component.flags & offsets) != 0) {
    if ((component.flags & scaled_offset) != 0 && (component.flags & unscaled_offset) == 0) {
      place.dx *= std::sqrt(place.xx * place.xx + place.yx * place.yx);
      place.dy *= std::sqrt(place.xy * place.xy + place.yy * place.yy);
    }
  } else {
    const auto parent = static_cast<std::size_t>(component.first),
               child = static_cast<std::size_t>(component.second);
    if (parent >= first - base || child >= out_.points.size() - first) {
      return damaged(data, 10, "points to match that exist", fmt::format("{} and {}", parent, child));
    }
    const FontPoint placed = place_point(out_.points[first + child]), goal = out_.points[base + parent];
    place.dx = goal.x - placed.x;
    place.dy = goal.y - placed.y;
  }
  for (std::size_t i = first; i < out_.points.size(); ++i) out_.points[i] = place_point(out_.points[i]);
  return cell;
}

FontPoint middle(FontPoint a, FontPoint b) { return {(a.x + b.x) / 2, (a.y + b.y) / 2}; }

/// Two control points in a row have a point on the curve half way between them.
void add_contour(const GlyfPoints& from, std::size_t first, std::size_t end, Contours& out) {
  const std::size_t count = end - first;
  if (count < 2) return;  // a lone point, as fonts keep for matching, bounds nothing
  const auto point = [&](std::size_t i) { return from.points[first + i % count]; };
  const auto on = [&](std::size_t i) { return from.on[first + i % count] != 0; };
  std::size_t start = 0;
  while (start < count && !on(start)) ++start;
  const bool all_off = start == count;
  if (all_off) start = 0;
  const FontPoint begin = all_off ? middle(point(count - 1), point(0)) : point(start);
  out.move_to(begin);
  for (std::size_t i = all_off ? 0 : 1; i < count; ++i) {
    const std::size_t at = start + i;
    if (on(at)) {
      out.line_to(point(at));
      continue;
    }
    const bool last = i + 1 == count;
    const FontPoint to = last ? begin : on(at + 1) ? point(at + 1) : middle(point(at), point(at + 1));
    out.quadratic_curve_to(point(at), to);
    if (!last && on(at + 1)) ++i;
  }
  out.close();
}

}  // namespace

Result<GlyphHeader> read_glyph_header(const GlyphTables& tables, std::uint32_t glyph) {
  const std::size_t entry = tables.long_offsets ? 4 : 2, at = glyph * entry;
  if (glyph >= tables.glyph_count) {
    return damaged(tables.loca, at, "a glyph that the face has", fmt::format("glyph {}", glyph));
  }
  if (!tables.loca.holds(at, entry)) return damaged(tables.loca, at, "an offset for every glyph");
  const auto offset = [&](std::size_t i) {
    return tables.long_offsets ? std::size_t{be32(tables.loca.bytes, i)}
                               : std::size_t{be16(tables.loca.bytes, i)} * 2;
  };
  const std::size_t begin = offset(at);
  // The last entry may be missing in files that were cut by one; the glyph then ends with the table.
  const std::size_t end =
      tables.loca.holds(at + entry, entry) ? offset(at + entry) : tables.glyf.bytes.size();
  GlyphHeader header;
  header.data.tag = tables.glyf.tag;
  if (begin == end) return header;
  if (end < begin || begin >= tables.glyf.bytes.size()) {
    return damaged(tables.loca, at, "offsets that ascend and lie inside glyf");
  }
  header.data.bytes = tables.glyf.bytes.subspan(begin, std::min(end, tables.glyf.bytes.size()) - begin);
  if (!header.data.holds(0, 10)) return damaged(tables.glyf, begin, "a glyph header of 10 bytes");
  header.contour_count = be16s(header.data.bytes, 0);
  header.x_min = be16s(header.data.bytes, 2);
  header.y_max = be16s(header.data.bytes, 8);
  return header;
}

Result<GlyphCell> read_glyf_points(const GlyphTables& tables, std::uint32_t glyph, GlyfPoints& out) {
  return GlyfReader(tables, out).read(glyph, 0);
}

Result<GlyphCell> read_glyf_outline(const GlyphTables& tables, std::uint32_t glyph, Contours& out) {
  out.clear();
  GlyfPoints points;
  const Result<GlyphCell> cell = GlyfReader(tables, points).read(glyph, 0);
  if (!cell) return cell;
  std::size_t first = 0;
  for (const std::size_t end : points.ends) {
    if (end > first) add_contour(points, first, end, out);
    first = end;
  }
  for (FontPoint& p : out.points) p.x -= cell->left;
  out.may_overlap = points.may_overlap;
  return cell;
}

}  // namespace grafema::detail
