// SPDX-License-Identifier: MIT
// Reads fvar, avar and STAT.
#include "font/variation/axes.hpp"

#include <algorithm>
#include <cmath>

#include "font/characters/names.hpp"
#include "font/variation/item_variations.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kAxisBytes = 20;
/// Faces have a handful of axes; more than this is damage that would make every glyph slow.
constexpr std::size_t kMaxAxes = 64;
/// Named places and words: each is looked up among all names.
constexpr std::size_t kMaxNamed = 2048;

struct FvarLayout {
  TableView table;
  std::size_t axes_at = 0, axis_count = 0, axis_bytes = 0, instance_count = 0, instance_bytes = 0;
};

FvarLayout fvar_layout(const Directory& directory) {
  FvarLayout layout;
  layout.table = directory.find(tag("fvar"));
  if (!layout.table.holds(0, 16) || layout.table.u16(0) != 1) return layout;
  layout.axes_at = layout.table.u16(4);
  layout.axis_bytes = layout.table.u16(10);
  layout.instance_bytes = layout.table.u16(14);
  const std::size_t count = layout.table.u16(8);
  if (layout.axis_bytes < kAxisBytes || count > kMaxAxes ||
      !layout.table.holds(layout.axes_at, count * layout.axis_bytes)) {
    return layout;
  }
  layout.axis_count = count;
  layout.instance_count =
      layout.instance_bytes >= 4 + count * 4 ? std::min<std::size_t>(layout.table.u16(12), kMaxNamed) : 0;
  return layout;
}

/// A coordinate bent by the axis's segment map (avar); unchanged where that is missing or makes no sense.
float bend(const TableView& map, float coordinate) {
  const std::size_t count = map.u16(0);
  if (count < 3 || !map.holds(2, count * 4)) return coordinate;
  for (std::size_t i = 1; i < count; ++i) {
    const float from = f2dot14(map, 2 + i * 4), to = f2dot14(map, 4 + i * 4);
    if (coordinate > from && i + 1 < count) continue;
    const float from_before = f2dot14(map, 2 + (i - 1) * 4), to_before = f2dot14(map, 4 + (i - 1) * 4);
    if (from <= from_before) return to;
    return to_before + (to - to_before) * (coordinate - from_before) / (from - from_before);
  }
  return coordinate;
}

void apply_avar(const TableView& avar, std::vector<float>& coordinates) {
  const std::uint16_t version = avar.u16(0);
  if ((version != 1 && version != 2) || avar.u16(6) != coordinates.size()) return;
  std::size_t at = 8;
  for (float& coordinate : coordinates) {
    coordinate = std::clamp(bend(avar.from(at), coordinate), -1.0F, 1.0F);
    at += 2 + std::size_t{avar.u16(at)} * 4;
  }
  // Version 2: what axes do to each other.
  const std::uint32_t map_at = version == 2 ? avar.u32(at) : 0,
                      store_at = version == 2 ? avar.u32(at + 4) : 0;
  if (store_at == 0) return;
  const ItemVariations store = ItemVariations::read(avar.from(store_at), coordinates);
  const IndexMap map = map_at == 0 ? IndexMap{} : IndexMap(avar.from(map_at));
  const std::vector<float> before = coordinates;
  for (std::size_t i = 0; i < coordinates.size(); ++i) {
    const float moved = before[i] + store.delta(map.find(static_cast<std::uint32_t>(i))) / 16384.0F;
    coordinates[i] = std::clamp(moved, -1.0F, 1.0F);
  }
}

float normalized(const Axis& axis, float value) {
  if (value < axis.standard) {
    return axis.standard > axis.min ? -(axis.standard - value) / (axis.standard - axis.min) : 0.0F;
  }
  return axis.max > axis.standard ? (value - axis.standard) / (axis.max - axis.standard) : 0.0F;
}

}  // namespace

std::vector<Axis> read_axes(const Directory& directory) {
  const FvarLayout fvar = fvar_layout(directory);
  const TableView name = directory.find(tag("name"));
  std::vector<Axis> axes;
  for (std::size_t i = 0; i < fvar.axis_count; ++i) {
    const std::size_t at = fvar.axes_at + i * fvar.axis_bytes;
    const TableView& t = fvar.table;
    Axis axis{Tag{t.u32(at)},    find_name(name, t.u16(at + 18)), fixed(t, at + 4), fixed(t, at + 8),
              fixed(t, at + 12), (t.u16(at + 16) & 1) != 0};
    if (!(axis.min <= axis.standard && axis.standard <= axis.max)) axis.min = axis.max = axis.standard;
    axes.push_back(std::move(axis));
  }
  return axes;
}

std::vector<NamedInstance> read_instances(const Directory& directory) {
  const FvarLayout fvar = fvar_layout(directory);
  const TableView name = directory.find(tag("name"));
  std::vector<NamedInstance> instances;
  const std::size_t first = fvar.axes_at + fvar.axis_count * fvar.axis_bytes;
  for (std::size_t i = 0;
       i < fvar.instance_count && fvar.table.holds(first + i * fvar.instance_bytes, fvar.instance_bytes);
       ++i) {
    const std::size_t at = first + i * fvar.instance_bytes;
    NamedInstance instance{find_name(name, fvar.table.u16(at)), {}};
    for (std::size_t a = 0; a < fvar.axis_count; ++a) {
      instance.coordinates.push_back(
          {Tag{fvar.table.u32(fvar.axes_at + a * fvar.axis_bytes)}, fixed(fvar.table, at + 4 + a * 4)});
    }
    instances.push_back(std::move(instance));
  }
  return instances;
}

std::vector<float> normalize(const TableView& avar, const std::vector<Axis>& axes,
                             std::span<const AxisValue> values, Notes* notes) {
  std::vector<float> coordinates;
  for (const Axis& axis : axes) {
    float value = axis.standard;
    for (const AxisValue& wanted : values) {
      if (wanted.axis != axis.tag) continue;
      value = std::isfinite(wanted.value) ? std::clamp(wanted.value, axis.min, axis.max) : axis.standard;
      if (value != wanted.value && notes != nullptr) {
        notes->add({.kind = NoteKind::clamped_axis,
                    .character = static_cast<std::uint32_t>(axis.tag),
                    .wanted = wanted.value,
                    .given = value});
      }
    }
    coordinates.push_back(std::clamp(normalized(axis, value), -1.0F, 1.0F));
  }
  for (const AxisValue& wanted : values) {
    const bool known =
        std::any_of(axes.begin(), axes.end(), [&](const Axis& axis) { return axis.tag == wanted.axis; });
    if (!known && notes != nullptr) {
      notes->add({.kind = NoteKind::unknown_axis,
                  .character = static_cast<std::uint32_t>(wanted.axis),
                  .wanted = wanted.value});
    }
  }
  apply_avar(avar, coordinates);
  const bool standard = std::all_of(coordinates.begin(), coordinates.end(), [](float c) { return c == 0; });
  return standard ? std::vector<float>{} : coordinates;
}

float axis_weight(float start, float peak, float end, float coordinate) {
  if (start > peak || peak > end || (start < 0 && end > 0 && peak != 0) || peak == 0 || coordinate == peak) {
    return 1;
  }
  if (coordinate <= start || coordinate >= end) return 0;
  return coordinate < peak ? (coordinate - start) / (peak - start) : (end - coordinate) / (end - peak);
}

namespace {

/// One axis value table of STAT; nothing where its format is not known.
std::optional<StyleWord> read_word(const TableView& table, const std::vector<Axis>& axes,
                                   const TableView& name) {
  const std::uint16_t format = table.u16(0);
  StyleWord word;
  const auto add = [&](std::size_t axis, float value) {
    if (axis < axes.size()) word.at.push_back({axes[axis].tag, value});
  };
  word.elidable = (table.u16(4) & 2) != 0;
  word.name = find_name(name, table.u16(6));
  if (format == 4) {
    const std::size_t count = table.u16(2);
    for (std::size_t i = 0; i < std::min(count, kMaxAxes) && table.holds(8 + i * 6, 6); ++i) {
      add(table.u16(8 + i * 6), fixed(table, 10 + i * 6));
    }
  } else if (format >= 1 && format <= 3) {
    add(table.u16(2), fixed(table, 8));
    word.low = format == 2 ? fixed(table, 12) : fixed(table, 8);
    word.high = format == 2 ? fixed(table, 16) : fixed(table, 8);
    word.has_link = format == 3;
    if (word.has_link) word.linked = fixed(table, 12);
  }
  return word.at.empty() ? std::nullopt : std::optional(std::move(word));
}

}  // namespace

StyleAttributes read_style_attributes(const Directory& directory) {
  StyleAttributes style;
  const TableView stat = directory.find(tag("STAT")), name = directory.find(tag("name"));
  if (stat.u16(0) != 1) return style;
  const std::size_t axis_bytes = stat.u16(4), axis_count = stat.u16(6), axes_at = stat.u32(8);
  const std::vector<Axis> variable = read_axes(directory);
  std::vector<std::pair<std::uint16_t, std::size_t>> order;
  std::vector<Axis> axes;
  for (std::size_t i = 0;
       i < std::min(axis_count, kMaxAxes) && axis_bytes >= 8 && stat.holds(axes_at + i * axis_bytes, 8);
       ++i) {
    const std::size_t at = axes_at + i * axis_bytes;
    Axis axis{Tag{stat.u32(at)}, find_name(name, stat.u16(at + 4))};
    const auto same =
        std::find_if(variable.begin(), variable.end(), [&](const Axis& a) { return a.tag == axis.tag; });
    if (same != variable.end()) {
      axis.min = same->min, axis.standard = same->standard, axis.max = same->max, axis.hidden = same->hidden;
    }
    order.emplace_back(stat.u16(at + 6), axes.size());
    axes.push_back(std::move(axis));
  }
  const std::size_t count = std::min<std::size_t>(stat.u16(12), kMaxNamed), values_at = stat.u32(14);
  for (std::size_t i = 0; i < count && values_at != 0 && stat.holds(values_at + i * 2, 2); ++i) {
    if (auto word = read_word(stat.from(values_at + stat.u16(values_at + i * 2)), axes, name)) {
      style.words.push_back(*std::move(word));
    }
  }
  std::stable_sort(order.begin(), order.end());
  for (const auto& [place, i] : order) style.axes.push_back(axes[i]);
  if (stat.u16(2) >= 1) style.elided_fallback = find_name(name, stat.u16(18));
  return style;
}

}  // namespace grafema::detail
