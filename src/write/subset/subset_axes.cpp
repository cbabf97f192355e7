// SPDX-License-Identifier: MIT
// Whole-face tables of variable faces: fvar, avar, STAT, MVAR and BASE with pinned axes taken out.
#include <algorithm>
#include <array>

#include "font/variation/axes.hpp"
#include "write/subset/subset_names.hpp"

namespace grafema::detail {
namespace {

/// What a value of MVAR changes: table and place. OS/2 and hhea both tell lines; readers take either.
struct MetricField {
  const char* value;
  const char* table;
  std::size_t at;
};
constexpr MetricField kMetricFields[] = {
    {"hasc", "OS/2", 68}, {"hdsc", "OS/2", 70}, {"hlgp", "OS/2", 72}, {"hasc", "hhea", 4},
    {"hdsc", "hhea", 6},  {"hlgp", "hhea", 8},  {"hcla", "OS/2", 74}, {"hcld", "OS/2", 76},
    {"vasc", "vhea", 4},  {"vdsc", "vhea", 6},  {"vlgp", "vhea", 8},  {"hcrs", "hhea", 18},
    {"hcrn", "hhea", 20}, {"hcof", "hhea", 22}, {"vcrs", "vhea", 18}, {"vcrn", "vhea", 20},
    {"vcof", "vhea", 22}, {"xhgt", "OS/2", 86}, {"cpht", "OS/2", 88}, {"sbxs", "OS/2", 10},
    {"sbys", "OS/2", 12}, {"sbxo", "OS/2", 14}, {"sbyo", "OS/2", 16}, {"spxs", "OS/2", 18},
    {"spys", "OS/2", 20}, {"spxo", "OS/2", 22}, {"spyo", "OS/2", 24}, {"strs", "OS/2", 26},
    {"stro", "OS/2", 28}, {"undo", "post", 8},  {"unds", "post", 10}};

void add_to(std::vector<WrittenTable>& tables, const MetricField& field, int delta) {
  for (WrittenTable& table : tables) {
    if (table.tag != tag(field.table) || field.at + 2 > table.bytes.size()) continue;
    put_u16(table.bytes, field.at, be16s(table.bytes, field.at) + delta);
  }
}

bool is_pinned_at(const SubsetPlan& plan, Tag axis, float low, float high) {
  return std::all_of(plan.recipe->pins.begin(), plan.recipe->pins.end(), [&](const AxisValue& pin) {
    return pin.axis != axis || (pin.value >= low && pin.value <= high);
  });
}

/// Axes that are left, and the named places that lie at the pins.
std::optional<WrittenTable> subset_fvar(const SubsetPlan& plan, const std::vector<Axis>& axes) {
  const TableView old = plan.table("fvar");
  const std::size_t axes_at = old.u16(4), axis_bytes = old.u16(10), instance_bytes = old.u16(14),
                    places_at = axes_at + axes.size() * axis_bytes, left = plan.pins.axes_left();
  const bool named = instance_bytes >= 6 + axes.size() * 4;  // with a name for PostScript
  TableWriter out, places;
  std::uint32_t count = 0;
  for (std::size_t i = 0; i < old.u16(12) && old.holds(places_at + i * instance_bytes, instance_bytes); ++i) {
    const std::size_t at = places_at + i * instance_bytes;
    bool here = true;
    for (std::size_t a = 0; a < axes.size(); ++a) {
      const float value = fixed(old, at + 4 + a * 4);
      here = here && (!plan.pins.holds(a) || is_pinned_at(plan, axes[a].tag, value, value));
    }
    if (!here) continue;
    places.u16(old.u16(at)), places.u16(old.u16(at + 2));
    for (std::size_t a = 0; a < axes.size(); ++a) {
      if (!plan.pins.holds(a)) places.u32(old.u32(at + 4 + a * 4));
    }
    if (named) places.u16(old.u16(at + 4 + axes.size() * 4));
    ++count;
  }
  out.u32(0x00010000), out.u16(16), out.u16(2), out.u16(static_cast<std::uint32_t>(left)), out.u16(20);
  out.u16(count), out.u16(static_cast<std::uint32_t>(4 + left * 4 + (named ? 2 : 0)));
  for (std::size_t a = 0; a < axes.size(); ++a) {
    if (plan.pins.holds(a)) continue;
    for (std::size_t i = 0; i < 20; i += 4) out.u32(old.u32(axes_at + a * axis_bytes + i));
  }
  out.append(places.bytes());
  return WrittenTable{old.tag, std::move(out.bytes())};
}

std::optional<WrittenTable> subset_avar(const SubsetPlan& plan) {
  const TableView old = plan.table("avar");
  TableWriter out;
  out.u32(0x00010000), out.u16(0), out.u16(static_cast<std::uint32_t>(plan.pins.axes_left()));
  std::size_t at = 8;
  for (std::size_t a = 0; a < plan.pins.axis_count(); ++a) {
    const std::size_t bytes = 2 + std::size_t{old.u16(at)} * 4;
    if (!old.holds(at, bytes)) return std::nullopt;
    if (!plan.pins.holds(a)) out.append(copy_of({old.tag, old.bytes.subspan(at, bytes)}));
    at += bytes;
  }
  return WrittenTable{old.tag, std::move(out.bytes())};
}

/// Words for places that pinned axes have left are taken away.
WrittenTable subset_stat(const SubsetPlan& plan) {
  const TableView old = plan.table("STAT");
  const std::size_t axis_bytes = old.u16(4), axis_count = old.u16(6), axes_at = old.u32(8),
                    values_at = old.u32(14);
  const auto axis_tag = [&](std::size_t axis) { return Tag{old.u32(axes_at + axis * axis_bytes)}; };
  std::vector<std::vector<std::byte>> words;
  for (std::size_t i = 0; i < old.u16(12) && values_at != 0; ++i) {
    const std::size_t at = values_at + old.u16(values_at + i * 2);
    const std::uint16_t format = old.u16(at);
    constexpr std::array<std::size_t, 4> kBytes = {0, 12, 20, 16};
    const std::size_t count = old.u16(at + 2), bytes = format == 4  ? 8 + count * 6
                                                       : format < 4 ? kBytes[format]
                                                                    : 0;
    if (bytes == 0 || !old.holds(at, bytes)) continue;
    bool here = true;
    if (format == 4) {
      for (std::size_t v = 0; v < count; ++v) {
        const float value = fixed(old, at + 10 + v * 6);
        here = here && is_pinned_at(plan, axis_tag(old.u16(at + 8 + v * 6)), value, value);
      }
    } else {
      const float value = fixed(old, at + 8);
      here = format == 2 ? is_pinned_at(plan, axis_tag(count), fixed(old, at + 12), fixed(old, at + 16))
                         : is_pinned_at(plan, axis_tag(count), value, value);
    }
    if (here) words.push_back(copy_of({old.tag, old.bytes.subspan(at, bytes)}));
  }
  TableWriter out, offsets, tables;
  const std::size_t axes_end = 20 + axis_count * axis_bytes;
  for (const std::vector<std::byte>& word : words) {
    offsets.u16(static_cast<std::uint32_t>(words.size() * 2 + tables.size()));
    tables.append(word);
  }
  out.u16(1), out.u16(std::max<std::uint32_t>(old.u16(2), 1)),
      out.u16(static_cast<std::uint32_t>(axis_bytes));
  out.u16(static_cast<std::uint32_t>(axis_count)), out.u32(20);
  out.u16(static_cast<std::uint32_t>(words.size()));
  out.u32(words.empty() ? 0U : static_cast<std::uint32_t>(axes_end));
  out.u16(old.u16(2) >= 1 ? old.u16(18) : 2U);
  for (std::size_t i = 0; i < axis_count * axis_bytes; ++i) {
    out.u8(old.holds(axes_at + i, 1) ? static_cast<std::uint32_t>(old.bytes[axes_at + i]) : 0U);
  }
  out.append(offsets.bytes()), out.append(tables.bytes());
  return {old.tag, std::move(out.bytes())};
}

}  // namespace

void pin_face_metrics(const SubsetPlan& plan, std::vector<WrittenTable>& tables) {
  const TableView old = plan.table("MVAR");
  if (old.u16(0) != 1 || old.u16(10) == 0) return;
  if (!plan.pins.any()) {
    tables.push_back({old.tag, copy_of(old)});
    return;
  }
  VariationRows rows(old.from(old.u16(10)), plan.pins);
  TableWriter records;
  std::uint32_t count = 0;
  const std::size_t bytes = old.u16(6);
  for (std::size_t i = 0; i < old.u16(8) && bytes >= 8 && old.holds(12 + i * bytes, 8); ++i) {
    const std::size_t at = 12 + i * bytes;
    const VariationRows::Row row = rows.take({old.u16(at + 4), old.u16(at + 6)});
    for (const MetricField& field : kMetricFields) {
      if (tag(field.value) == Tag{old.u32(at)}) add_to(tables, field, row.base);
    }
    if (row.index == VariationRows::kNone) continue;
    records.u32(old.u32(at)), records.u32(row.index);
    ++count;
  }
  if (count == 0) return;
  TableWriter out;
  out.u32(0x00010000), out.u16(0), out.u16(8), out.u16(count);
  out.u16(static_cast<std::uint32_t>(12 + records.size()));
  out.append(records.bytes()), out.append(rows.write());
  tables.push_back({old.tag, std::move(out.bytes())});
}

Result<std::vector<WrittenTable>> subset_axes(const SubsetPlan& plan) {
  std::vector<WrittenTable> out;
  if (plan.pins.axis_count() == 0) return out;
  if (!plan.pins.any()) {
    for (const char* name : {"fvar", "avar", "STAT", "cvar"}) {
      if (plan.recipe->lean && tag(name) == tag("cvar")) continue;
      if (!plan.table(name).empty()) out.push_back({tag(name), copy_of(plan.table(name))});
    }
    return out;
  }
  if (!plan.table("STAT").empty()) out.push_back(subset_stat(plan));
  if (plan.pins.all()) return out;
  const TableView avar = plan.table("avar");
  if (avar.u16(0) == 2) {
    return fail(make_error(ErrorKind::unsupported,
                           "pins of all axes or none where axes act on each other (avar version 2)"));
  }
  if (auto table = subset_fvar(plan, plan.face->axes())) out.push_back(*std::move(table));
  if (!avar.empty()) {
    if (auto table = subset_avar(plan)) out.push_back(*std::move(table));
  }
  return out;
}

namespace {

/// Walks the tables of BASE and makes every coordinate a plain one.
class Baselines {
 public:
  explicit Baselines(const SubsetPlan& plan) : base_(plan.table("BASE")), bytes_(copy_of(base_)) {
    if (base_.u32(0) == 0x00010001 && base_.u32(8) != 0)
      rows_ = VariationRows(base_.from(base_.u32(8)), plan.pins);
    pinned_ = plan.pins.any();
  }

  std::vector<std::byte> plain() {
    for (const std::size_t field : {4U, 6U}) {
      const std::size_t axis = base_.u16(field);
      if (axis == 0 || base_.u16(axis + 2) == 0) continue;
      const std::size_t scripts = axis + base_.u16(axis + 2);
      for (std::size_t i = 0; i < base_.u16(scripts) && base_.holds(scripts + 2 + i * 6, 6); ++i) {
        script(scripts + base_.u16(scripts + 6 + i * 6));
      }
    }
    if (pinned_) put_u16(bytes_, 2, 0);  // version 1.0: without rows of deltas
    return std::move(bytes_);
  }

 private:
  void script(std::size_t at) {
    if (const std::size_t values = base_.u16(at); values != 0) {
      for (std::size_t i = 0; i < base_.u16(at + values + 2) && base_.holds(at + values + 4 + i * 2, 2);
           ++i) {
        coordinate(at + values, at + values + 4 + i * 2);
      }
    }
    extent(at, at + 2);
    for (std::size_t i = 0; i < base_.u16(at + 4) && base_.holds(at + 6 + i * 6, 6); ++i) {
      extent(at, at + 10 + i * 6);
    }
  }

  void extent(std::size_t parent, std::size_t field) {
    if (base_.u16(field) == 0) return;
    const std::size_t at = parent + base_.u16(field);
    coordinate(at, at), coordinate(at, at + 2);
    for (std::size_t i = 0; i < base_.u16(at + 4) && base_.holds(at + 6 + i * 8, 8); ++i) {
      coordinate(at, at + 10 + i * 8), coordinate(at, at + 12 + i * 8);
    }
  }

  /// Format 2 names a glyph, format 3 rows of deltas; both begin as format 1 does.
  void coordinate(std::size_t parent, std::size_t field) {
    if (base_.u16(field) == 0) return;
    const std::size_t at = parent + base_.u16(field);
    const std::uint16_t format = base_.u16(at);
    if (format == 3 && !pinned_) return;
    const std::size_t device = at + base_.u16(at + 4);
    if (format == 3 && base_.u16(at + 4) != 0 && base_.u16(device + 4) == 0x8000) {
      put_u16(bytes_, at + 2,
              base_.s16(at + 2) + rows_.take({base_.u16(device), base_.u16(device + 2)}).base);
    }
    if (format == 2 || format == 3) put_u16(bytes_, at, 1);
  }

  TableView base_;
  std::vector<std::byte> bytes_;
  VariationRows rows_;
  bool pinned_ = false;
};

}  // namespace

std::optional<WrittenTable> subset_baselines(const SubsetPlan& plan) {
  const TableView base = plan.table("BASE");
  if (base.u16(0) != 1 || !base.holds(0, 8)) return std::nullopt;
  return WrittenTable{base.tag, Baselines(plan).plain()};
}

}  // namespace grafema::detail
