// SPDX-License-Identifier: MIT
// Copies or rewrites glyphs one by one (OpenType, glyf and gvar).
#include "write/subset/subset_glyphs.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "grafema/base/notes.hpp"
#include "write/subset/glyph_extent.hpp"
#include "write/tables/glyph_tables.hpp"
#include "write/tables/variation_tables.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint16_t kWords = 1, kOffsets = 2, kScale = 8, kMore = 0x20, kTwoScales = 0x40, kMatrix = 0x80,
                        kInstructions = 0x100;
constexpr std::size_t kMaxComponents = 1024;

/// One part of a composite, as it stands in the file.
struct CompositePart {
  std::size_t at = 0, end = 0;
  std::uint16_t flags = 0, glyph = 0;
  int first = 0, second = 0;
};

/// The parts of a composite; nothing where they are cut short.
std::optional<std::vector<CompositePart>> read_parts(const TableView& data) {
  std::vector<CompositePart> parts;
  std::size_t at = 10;
  do {
    if (!data.holds(at, 4) || parts.size() == kMaxComponents) return std::nullopt;
    CompositePart part;
    part.at = at, part.flags = data.u16(at), part.glyph = data.u16(at + 2);
    const bool wide = (part.flags & kWords) != 0, offsets = (part.flags & kOffsets) != 0;
    const std::size_t scale = (part.flags & kScale) != 0       ? 2U
                              : (part.flags & kTwoScales) != 0 ? 4U
                              : (part.flags & kMatrix) != 0    ? 8U
                                                               : 0U;
    part.end = at + 4 + (wide ? 4U : 2U) + scale;
    if (!data.holds(at, part.end - at)) return std::nullopt;
    const auto argument = [&](std::size_t i) {
      if (wide) return offsets ? int{data.s16(at + 4 + 2 * i)} : int{data.u16(at + 4 + 2 * i)};
      const auto byte = static_cast<std::uint8_t>(data.bytes[at + 4 + i]);
      return offsets ? int{static_cast<std::int8_t>(byte)} : int{byte};
    };
    part.first = argument(0), part.second = argument(1);
    at = part.end;
    parts.push_back(part);
  } while ((parts.back().flags & kMore) != 0);
  return parts;
}

int round(float v) { return static_cast<int>(std::lround(v)); }

/// The first `size` bytes of a glyph or of its deltas.
std::vector<std::byte> first_bytes(const TableView& data, std::size_t size) {
  return copy_of({data.tag, data.bytes.first(size)});
}

/// Removes the program of a glyph of contours.
void remove_program(std::vector<std::byte>& bytes) {
  const TableView data{tag("glyf"), bytes};
  const std::size_t at = 10 + std::size_t{data.u16(0)} * 2, count = data.u16(at);
  if (count == 0 || !data.holds(at + 2, count)) return;
  put_u16(bytes, at, 0);
  const auto begin = bytes.begin() + static_cast<std::ptrdiff_t>(at + 2);
  bytes.erase(begin, begin + static_cast<std::ptrdiff_t>(count));
}

/// Deltas on the axes that are left, by region.
using Tuples = std::map<Region, std::vector<FontPoint>>;

class GlyphWriter {
 public:
  GlyphWriter(const SubsetPlan& plan, NewMetrics& metrics)
      : plan_(plan), metrics_(metrics), tables_(read_glyph_tables(*plan.face)) {
    if (plan.pins.axis_count() > 0) {
      variations_ = GlyphVariations::read(plan.table("gvar"), std::vector<float>(plan.pins.axis_count(), 0));
    }
  }

  /// Appends the glyph. False where it can't be read: nothing was appended.
  bool write(std::uint16_t old, TableWriter& out, std::vector<std::byte>& variations) {
    const Result<GlyphHeader> header = read_glyph_header(tables_, old);
    if (!header) return false;
    if (plan_.pins.any() && !variations_.empty()) return move(old, *header, out, variations);
    if (!variations_.empty()) {
      const Result<TableView> data = variations_.find_data(old);
      const auto size = data ? glyph_deltas_extent(*data, plan_.pins.axis_count()) : std::nullopt;
      if (!size) return false;
      variations = first_bytes(*data, *size);
    }
    if (header->data.empty()) return true;
    return header->contour_count >= 0 ? copy_contours(header->data, out) : copy_parts(header->data, out);
  }

 private:
  bool copy_contours(const TableView& data, TableWriter& out) const {
    const auto size = simple_glyph_extent(data);
    if (!size) return false;
    std::vector<std::byte> bytes = first_bytes(data, *size);
    if (plan_.recipe->lean) remove_program(bytes);
    out.append(bytes);
    return true;
  }

  bool copy_parts(const TableView& data, TableWriter& out) const {
    const auto parts = read_parts(data);
    if (!parts) return false;
    const bool lean = plan_.recipe->lean;
    const bool has_program = std::any_of(parts->begin(), parts->end(), [](const CompositePart& part) {
      return (part.flags & kInstructions) != 0;
    });
    std::vector<std::byte> bytes =
        first_bytes(data, composite_extent(data, parts->back().end, has_program && !lean));
    for (const CompositePart& part : *parts) {
      if (plan_.to(part.glyph) < 0) return false;
      put_u16(bytes, part.at + 2, plan_.to(part.glyph));
      if (lean) put_u16(bytes, part.at, part.flags & ~int{kInstructions});
    }
    out.append(bytes);
    return true;
  }

  /// Reads all tuples: what pinned axes make of them is added to `base`, the rest kept by region.
  bool read_tuples(std::uint16_t old, const std::vector<FontPoint>& points,
                   const std::vector<std::size_t>& ends, std::vector<FontPoint>& base, Tuples& tuples) {
    std::vector<FontPoint> deltas(points.size());
    base.assign(points.size(), {});
    const auto add = [&](std::vector<FontPoint>& to, float weight) {
      for (std::size_t i = 0; i < deltas.size(); ++i) {
        to[i].x += weight * deltas[i].x, to[i].y += weight * deltas[i].y;
      }
    };
    scratch_.work = 0;
    const Result<void> visited =
        variations_.visit_tuples(old, {points, ends, deltas}, scratch_, [&](const Region& whole) {
          Region region = whole;
          const float weight = plan_.pins.reduce(region);
          if (weight == 0) return;
          if (std::all_of(region.begin(), region.end(), [](const auto& axis) { return axis[1] == 0; })) {
            add(base, weight);
          } else {
            add(tuples.try_emplace(region, points.size()).first->second, weight);
          }
        });
    return visited.has_value();
  }

  bool move(std::uint16_t old, const GlyphHeader& header, TableWriter& out,
            std::vector<std::byte>& variations) {
    GlyfPoints glyph;
    std::vector<CompositePart> parts;
    std::vector<FontPoint> points;
    const bool composite = header.contour_count < 0;
    if (composite) {
      auto read = read_parts(header.data);
      if (!read) return false;
      parts = *std::move(read);
      for (const CompositePart& part : parts) {
        const bool offsets = (part.flags & kOffsets) != 0;
        points.push_back(offsets ? FontPoint{static_cast<float>(part.first), static_cast<float>(part.second)}
                                 : FontPoint{});
      }
    } else {
      if (!read_glyf_points(tables_, old, glyph)) return false;
      points = glyph.points;
    }
    const auto number = static_cast<std::size_t>(plan_.to(old));
    const bool has_outline = !header.data.empty();
    const auto left = static_cast<float>(header.x_min - (has_outline ? tables_.horizontal.bearing(old) : 0)),
               top = static_cast<float>(header.y_max + tables_.vertical.bearing(old));
    const auto width = static_cast<float>(tables_.horizontal.advance(old)),
               height = static_cast<float>(tables_.vertical.advance(old));
    for (const FontPoint p :
         {FontPoint{left, 0}, FontPoint{left + width, 0}, FontPoint{0, top}, FontPoint{0, top - height}}) {
      points.push_back(p);
    }
    std::vector<FontPoint> base;
    Tuples tuples;
    if (!read_tuples(old, points, glyph.ends, base, tuples)) return false;
    const std::size_t count = points.size() - 4;
    const int new_left = round(left + base[count].x), new_top = round(top + base[count + 2].y);
    FontRect box;
    if (composite) {
      box = write_parts(old, parts, base, static_cast<float>(new_left), out);
    } else if (count > 0) {
      FilePoints file;
      file.places.emplace_back();
      file.ends = glyph.ends;
      for (std::size_t i = 0; i < count; ++i) {
        const int x = round(points[i].x + base[i].x), y = round(points[i].y + base[i].y);
        file.on_curve.push_back(glyph.on[i] != 0);
        file.places[0].emplace_back(x, y);
        const FontRect own{static_cast<float>(x), static_cast<float>(y), static_cast<float>(x),
                           static_cast<float>(y)};
        box = i == 0 ? own
                     : FontRect{std::min(box.x_min, own.x_min), std::min(box.y_min, own.y_min),
                                std::max(box.x_max, own.x_max), std::max(box.y_max, own.y_max)};
      }
      write_simple_glyph(file, box, glyph.may_overlap, out);
    }
    if (has_outline) {
      metrics_.horizontal[number].bearing = round(box.x_min) - new_left;
      if (number < metrics_.vertical.size()) metrics_.vertical[number].bearing = new_top - round(box.y_max);
    }
    return write_tuples(tuples, variations);
  }

  /// The box is that of the pinned face's outline, which stands `left` of where the file's points are.
  FontRect write_parts(std::uint16_t old, const std::vector<CompositePart>& parts,
                       const std::vector<FontPoint>& base, float left, TableWriter& out) const {
    FontRect box = plan_.pinned->glyph_box(GlyphId{old});
    if (box.empty()) {
      box = {0, 0, 0, 0};
    } else {
      box = {std::round(box.x_min + left), std::round(box.y_min), std::round(box.x_max + left),
             std::round(box.y_max)};
    }
    out.s16(-1);
    for (const float v : {box.x_min, box.y_min, box.x_max, box.y_max}) out.s16(round(v));
    const Result<GlyphHeader> header = read_glyph_header(tables_, old);
    for (std::size_t i = 0; i < parts.size(); ++i) {
      const CompositePart& part = parts[i];
      const bool offsets = (part.flags & kOffsets) != 0;
      out.u16((part.flags | kWords) & ~unsigned{kInstructions});
      out.s16(plan_.to(part.glyph));
      out.s16(part.first + (offsets ? round(base[i].x) : 0));
      out.s16(part.second + (offsets ? round(base[i].y) : 0));
      for (std::size_t at = part.at + ((part.flags & kWords) != 0 ? 8 : 6); at < part.end; ++at) {
        out.u8(static_cast<std::uint32_t>(header->data.bytes[at]));
      }
    }
    return box;
  }

  static bool write_tuples(const Tuples& tuples, std::vector<std::byte>& out) {
    TableWriter headers, data;
    data.u8(0);  // all points, in every tuple
    std::uint32_t count = 0;
    for (const auto& [region, deltas] : tuples) {
      std::vector<int> x, y;
      for (const FontPoint& d : deltas) x.push_back(round(d.x)), y.push_back(round(d.y));
      const auto is_zero = [](int v) { return v == 0; };
      if (std::all_of(x.begin(), x.end(), is_zero) && std::all_of(y.begin(), y.end(), is_zero)) continue;
      TableWriter packed;
      pack_deltas(x, packed), pack_deltas(y, packed);
      if (packed.size() > 0xFFFF) return false;
      headers.u16(static_cast<std::uint32_t>(packed.size()));
      headers.u16(0xC000);  // its peak and its ends stand here
      for (const std::size_t part : {1U, 0U, 2U}) {
        for (const auto& axis : region) headers.s16(axis[part]);
      }
      data.append(packed.bytes());
      ++count;
    }
    if (count == 0) return true;
    if (count > 0xFFF || headers.size() + 4 > 0xFFFF) return false;
    TableWriter all;
    all.u16(0x8000 | count), all.u16(static_cast<std::uint32_t>(4 + headers.size()));
    all.append(headers.bytes()), all.append(data.bytes());
    out = std::move(all.bytes());
    return true;
  }

  const SubsetPlan& plan_;
  NewMetrics& metrics_;
  GlyphTables tables_;
  GlyphVariations variations_;
  DeltaScratch scratch_;
};

/// gvar of glyphs whose data is written: their own tuples, and the shared ones of the old table, which only
/// copied glyphs refer to.
WrittenTable write_gvar(const SubsetPlan& plan, const std::vector<std::vector<std::byte>>& glyphs) {
  const TableView gvar = plan.table("gvar");
  const std::size_t axes = plan.pins.axes_left();
  std::size_t shared = plan.pins.any() ? 0 : gvar.u16(6);
  if (!gvar.holds(gvar.u32(8), shared * axes * 2)) shared = 0;
  TableWriter out, data;
  out.u32(0x00010000), out.u16(static_cast<std::uint32_t>(axes)), out.u16(static_cast<std::uint32_t>(shared));
  const std::size_t offsets_end = 20 + (glyphs.size() + 1) * 4, shared_bytes = shared * axes * 2;
  out.u32(static_cast<std::uint32_t>(offsets_end));
  out.u16(static_cast<std::uint32_t>(glyphs.size())), out.u16(1);  // long offsets
  out.u32(static_cast<std::uint32_t>(offsets_end + shared_bytes));
  for (const std::vector<std::byte>& glyph : glyphs) {
    out.u32(static_cast<std::uint32_t>(data.size()));
    data.append(glyph);
    data.align(2);
  }
  out.u32(static_cast<std::uint32_t>(data.size()));
  if (shared > 0) out.append(copy_of({gvar.tag, gvar.bytes.subspan(gvar.u32(8), shared_bytes)}));
  out.append(data.bytes());
  return {tag("gvar"), std::move(out.bytes())};
}

/// The box in the header of a written glyph; counts what it has.
FontRect count_glyph(const TableView& glyph, MostOfGlyphs& most) {
  if (!glyph.holds(0, 10)) return {};
  const int contours = glyph.s16(0);
  if (contours > 0) {
    most.contours = std::max(most.contours, contours);
    most.points = std::max(most.points, glyph.u16(10 + (static_cast<std::size_t>(contours) - 1) * 2) + 1);
  } else if (const auto parts = contours < 0 ? read_parts(glyph) : std::nullopt) {
    most.parts = std::max(most.parts, static_cast<int>(parts->size()));
  }
  return {static_cast<float>(glyph.s16(2)), static_cast<float>(glyph.s16(4)),
          static_cast<float>(glyph.s16(6)), static_cast<float>(glyph.s16(8))};
}

}  // namespace

GlyphTables read_glyph_tables(const Face& face) {
  const auto table = [&face](const char* name) { return TableView{tag(name), face.table(tag(name))}; };
  const auto metrics = [&](const char* header, const char* name) {
    const TableView values = table(name);
    const std::size_t count = std::min<std::size_t>(table(header).u16(34), values.bytes.size() / 4);
    return LongMetrics{values, static_cast<std::uint32_t>(count)};
  };
  GlyphTables tables;
  tables.glyf = table("glyf"), tables.loca = table("loca");
  tables.long_offsets = table("head").u16(50) != 0;
  tables.glyph_count = face.glyph_count();
  tables.horizontal = metrics("hhea", "hmtx"), tables.vertical = metrics("vhea", "vmtx");
  return tables;
}

Result<OutlineParts> OutlineParts::read(const Face& face) {
  OutlineParts parts;
  parts.tables_ = read_glyph_tables(face);
  const TableView cff{tag("CFF "), face.table(tag("CFF "))};
  if (parts.tables_.glyf.empty() && !cff.empty()) {
    Result<CffOutlines> outlines = CffOutlines::read(cff, false, {});
    if (!outlines) return fail(outlines.error());
    parts.cff_ = *std::move(outlines);
  }
  return parts;
}

Result<void> OutlineParts::visit(std::uint32_t glyph, const std::function<void(std::uint32_t)>& add) const {
  if (cff_) {
    for (const std::uint32_t part : cff_->accent_parts(glyph)) add(part);
    return {};
  }
  if (tables_.glyf.empty()) return {};
  const Result<GlyphHeader> header = read_glyph_header(tables_, glyph);
  if (!header || header->contour_count >= 0) return {};
  const auto parts = read_parts(header->data);
  if (!parts) return {};
  for (const CompositePart& part : *parts) add(part.glyph);
  return {};
}

Result<std::vector<WrittenTable>> subset_outlines(const SubsetPlan& plan, NewMetrics& metrics,
                                                  MostOfGlyphs& most, Notes* notes) {
  TableWriter glyf;
  std::vector<std::size_t> offsets;
  std::vector<std::vector<std::byte>> variations;
  GlyphWriter writer(plan, metrics);
  for (const std::uint16_t old : plan.kept) {
    offsets.push_back(glyf.size());
    variations.emplace_back();
    if (!writer.write(old, glyf, variations.back())) {
      variations.back().clear();
      if (notes != nullptr) notes->add({.kind = NoteKind::damaged_glyph, .position = old});
    }
    metrics.boxes.push_back(
        count_glyph({tag("glyf"), std::span(glyf.bytes()).subspan(offsets.back())}, most));
    glyf.align(2);
  }
  offsets.push_back(glyf.size());
  if (glyf.size() > 0xFFFFFFFF) return fail(make_error(ErrorKind::unsupported, "outlines of less than 4 GB"));
  const bool wide = glyf.size() > std::size_t{0xFFFF} * 2;
  TableWriter loca;
  for (const std::size_t offset : offsets) {
    if (wide) loca.u32(static_cast<std::uint32_t>(offset));
    if (!wide) loca.u16(static_cast<std::uint32_t>(offset / 2));
  }
  if (glyf.size() == 0) glyf.u8(0);  // readers take an empty table for a missing one
  std::vector<WrittenTable> tables;
  tables.push_back({tag("glyf"), std::move(glyf.bytes())});
  tables.push_back({tag("loca"), std::move(loca.bytes())});
  if (!plan.table("gvar").empty() && plan.pins.axes_left() > 0)
    tables.push_back(write_gvar(plan, variations));
  return tables;
}

}  // namespace grafema::detail
