// SPDX-License-Identifier: MIT
// Reduces regions to the axes that are left, and writes item variation stores (OpenType, chapter 7).
#include "write/subset/pins.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numeric>

#include "font/variation/axes.hpp"

namespace grafema::detail {

Result<Pins> Pins::read(const Face& face, std::span<const AxisValue> wanted) {
  Pins pins;
  const std::vector<Axis> axes = face.axes();
  pins.held_.resize(axes.size());
  pins.left_ = axes.size();
  for (const AxisValue& value : wanted) {
    const auto found =
        std::find_if(axes.begin(), axes.end(), [&](const Axis& axis) { return axis.tag == value.axis; });
    if (found == axes.end()) {
      return bad_value("an axis that the face has", to_string(value.axis));
    }
    if (!std::isfinite(value.value) || value.value < found->min || value.value > found->max) {
      return fail(make_error(ErrorKind::bad_value, "a value on its axis",
                             fmt::format("{}={:g}, which goes from {:g} to {:g}", to_string(value.axis),
                                         value.value, found->min, found->max)));
    }
    const auto axis = static_cast<std::size_t>(found - axes.begin());
    pins.left_ -= pins.held_[axis] ? 0 : 1;
    pins.held_[axis] = pins.any_ = true;
  }
  pins.place_ = normalize({tag("avar"), face.table(tag("avar"))}, axes, wanted, nullptr);
  pins.place_.resize(axes.size(), 0.0F);
  return pins;
}

std::size_t Pins::renumbered(std::size_t axis) const {
  return static_cast<std::size_t>(
      std::count(held_.begin(), held_.begin() + static_cast<std::ptrdiff_t>(axis), false));
}

float Pins::reduce(Region& region) const {
  float weight = 1;
  Region left;
  left.reserve(left_);
  for (std::size_t a = 0; a < region.size(); ++a) {
    const auto& [start, peak, end] = region[a];
    if (!holds(a)) {
      left.push_back(region[a]);
    } else {
      constexpr float kOne = 16384;
      weight *= axis_weight(start / kOne, peak / kOne, end / kOne, place_[a]);
    }
  }
  region = std::move(left);
  return weight;
}

ReducedRegions reduce_regions(const TableView& store, const Pins& pins) {
  ReducedRegions out;
  if (store.u16(0) != 1 || store.u32(2) == 0) return out;
  const TableView list = store.from(store.u32(2));
  const std::size_t axis_count = list.u16(0), count = list.u16(2);
  if (axis_count != pins.axis_count() || !list.holds(4, count * axis_count * 6)) return out;
  std::map<Region, int> known;
  for (std::size_t r = 0; r < count; ++r) {
    Region region;
    for (std::size_t a = 0; a < axis_count; ++a) {
      const std::size_t at = 4 + (r * axis_count + a) * 6;
      region.push_back({list.s16(at), list.s16(at + 2), list.s16(at + 4)});
    }
    const float weight = pins.reduce(region);
    const bool constant =
        std::all_of(region.begin(), region.end(), [](const auto& axis) { return axis[1] == 0; });
    if (constant || weight == 0) {
      out.from.emplace_back(weight, -1);
      continue;
    }
    const auto [it, is_new] = known.emplace(region, static_cast<int>(out.regions.size()));
    if (is_new) out.regions.push_back(region);
    out.from.emplace_back(weight, it->second);
  }
  return out;
}

VariationRows::VariationRows(const TableView& store, const Pins& pins)
    : axes_left_(pins.axes_left()), reduced_(reduce_regions(store, pins)) {
  if (!reduced_.from.empty()) store_ = store;
}

std::vector<std::int32_t> VariationRows::read_row(VariationIndex index, TableView& group) const {
  std::vector<std::int32_t> row;
  if (store_.empty() || index.outer >= store_.u16(6)) return row;
  const std::uint32_t offset = store_.u32(8 + std::size_t{index.outer} * 4);
  if (offset == 0) return row;
  group = store_.from(offset);
  const std::size_t regions = group.u16(4), words = group.u16(2) & 0x7FFFU;
  const bool is_long = (group.u16(2) & 0x8000U) != 0;
  if (index.inner >= group.u16(0) || words > regions) return row;
  const std::size_t wide = is_long ? 4 : 2, narrow = is_long ? 2 : 1;
  const std::size_t row_bytes = words * wide + (regions - words) * narrow;
  std::size_t at = 6 + regions * 2 + index.inner * row_bytes;
  if (!group.holds(at, row_bytes)) return row;
  row.reserve(regions);
  for (std::size_t r = 0; r < regions; ++r) {
    const std::size_t bytes = r < words ? wide : narrow;
    row.push_back(bytes == 4   ? static_cast<std::int32_t>(be32(group.bytes, at))
                  : bytes == 2 ? std::int32_t{be16s(group.bytes, at)}
                               : std::int32_t{static_cast<std::int8_t>(group.bytes[at])});
    at += bytes;
  }
  return row;
}

VariationRows::Row VariationRows::take(VariationIndex index) {
  TableView group;
  const std::vector<std::int32_t> row = read_row(index, group);
  std::map<std::uint16_t, double> sums;
  double base = 0;
  for (std::size_t r = 0; r < row.size(); ++r) {
    const std::size_t region = group.u16(6 + r * 2);
    if (region >= reduced_.from.size()) continue;
    const auto& [weight, to] = reduced_.from[region];
    if (to < 0) {
      base += double{weight} * row[r];
    } else {
      sums[static_cast<std::uint16_t>(to)] += double{weight} * row[r];
    }
  }
  Row out{static_cast<int>(std::lround(std::clamp(base, -65536.0, 65536.0))), kNone};
  std::vector<std::uint16_t> regions;
  std::vector<std::int32_t> values;
  bool varies = false;
  for (const auto& [region, sum] : sums) {
    regions.push_back(region);
    values.push_back(static_cast<std::int32_t>(std::llround(std::clamp(sum, -2147483648.0, 2147483647.0))));
    varies = varies || values.back() != 0;
  }
  if (!varies) return out;
  auto open = open_.find(regions);
  if (open == open_.end() || groups_[open->second].rows.size() >= 0xFFFE) {
    if (groups_.size() >= 0xFFFE) return out;
    groups_.push_back({regions, {}, {}});
    open = open_.insert_or_assign(regions, groups_.size() - 1).first;
  }
  Group& to = groups_[open->second];
  const auto [it, is_new] = to.known.emplace(std::move(values), static_cast<std::uint16_t>(to.rows.size()));
  if (is_new) to.rows.push_back(&it->first);
  out.index = static_cast<std::uint32_t>(open->second << 16 | it->second);
  return out;
}

std::uint32_t VariationRows::zero() {
  if (groups_.empty()) return kNone;
  for (std::size_t g = groups_.size(); g-- > 0;) {
    Group& group = groups_[g];
    if (group.rows.size() > 0xFFFE) continue;
    const auto [it, is_new] = group.known.emplace(std::vector<std::int32_t>(group.regions.size(), 0),
                                                  static_cast<std::uint16_t>(group.rows.size()));
    if (is_new) group.rows.push_back(&it->first);
    return static_cast<std::uint32_t>(g << 16 | it->second);
  }
  return kNone;
}

namespace {

/// How many bytes hold the number.
int bytes_for(std::int32_t v) { return v >= -128 && v <= 127 ? 1 : v >= -32768 && v <= 32767 ? 2 : 4; }

void write_delta(TableWriter& out, std::int32_t v, int bytes) {
  if (bytes == 4) out.u32(static_cast<std::uint32_t>(v));
  if (bytes == 2) out.s16(v);
  if (bytes == 1) out.u8(static_cast<std::uint32_t>(v));
}

/// Columns that need more room stand first.
void write_group(const std::vector<std::uint16_t>& regions,
                 const std::vector<const std::vector<std::int32_t>*>& rows, TableWriter& out) {
  std::vector<int> need(regions.size(), 1);
  for (const auto* row : rows) {
    for (std::size_t r = 0; r < need.size(); ++r) need[r] = std::max(need[r], bytes_for((*row)[r]));
  }
  const bool is_long = std::find(need.begin(), need.end(), 4) != need.end();
  const int wide = is_long ? 4 : 2, narrow = is_long ? 2 : 1;
  std::vector<std::size_t> order(regions.size());
  std::iota(order.begin(), order.end(), std::size_t{0});
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return (need[a] > narrow) > (need[b] > narrow); });
  const auto words = static_cast<std::uint32_t>(
      std::count_if(need.begin(), need.end(), [&](int bytes) { return bytes > narrow; }));
  out.u16(static_cast<std::uint32_t>(rows.size()));
  out.u16(words | (is_long ? 0x8000U : 0U));
  out.u16(static_cast<std::uint32_t>(regions.size()));
  for (const std::size_t r : order) out.u16(regions[r]);
  for (const auto* row : rows) {
    for (std::size_t i = 0; i < order.size(); ++i) {
      write_delta(out, (*row)[order[i]], i < words ? wide : narrow);
    }
  }
}

}  // namespace

std::vector<std::byte> VariationRows::write() const {
  std::vector<int> renumbered(reduced_.regions.size(), -1);
  std::vector<std::size_t> used;
  for (const Group& group : groups_) {
    for (const std::uint16_t r : group.regions) {
      if (renumbered[r] < 0) renumbered[r] = static_cast<int>(used.size()), used.push_back(r);
    }
  }
  TableWriter out, list, data;
  list.u16(static_cast<std::uint32_t>(axes_left_)), list.u16(static_cast<std::uint32_t>(used.size()));
  for (const std::size_t r : used) {
    for (const auto& axis : reduced_.regions[r]) list.s16(axis[0]), list.s16(axis[1]), list.s16(axis[2]);
  }
  const std::size_t list_at = 8 + groups_.size() * 4, data_at = list_at + list.size();
  out.u16(1), out.u32(static_cast<std::uint32_t>(list_at)),
      out.u16(static_cast<std::uint32_t>(groups_.size()));
  for (const Group& group : groups_) {
    out.u32(static_cast<std::uint32_t>(data_at + data.size()));
    std::vector<std::uint16_t> regions;
    for (const std::uint16_t r : group.regions) regions.push_back(static_cast<std::uint16_t>(renumbered[r]));
    write_group(regions, group.rows, data);
  }
  out.append(list.bytes()), out.append(data.bytes());
  return std::move(out.bytes());
}

std::vector<std::byte> write_index_map(std::vector<std::uint32_t> rows) {
  while (rows.size() > 1 && rows.back() == rows[rows.size() - 2]) rows.pop_back();
  std::uint32_t most_inner = 0, most_outer = 0;
  for (const std::uint32_t row : rows) {
    most_inner = std::max(most_inner, row & 0xFFFFU), most_outer = std::max(most_outer, row >> 16);
  }
  unsigned bits = 1;
  while (most_inner >> bits != 0) ++bits;
  const std::uint64_t most = std::uint64_t{most_outer} << bits | most_inner;
  unsigned bytes = 1;
  while (most >> (8 * bytes) != 0) ++bytes;
  TableWriter out;
  out.u8(0), out.u8((bytes - 1) << 4 | (bits - 1)), out.u16(static_cast<std::uint32_t>(rows.size()));
  for (const std::uint32_t row : rows) {
    const std::uint64_t entry = std::uint64_t{row >> 16} << bits | (row & 0xFFFFU);
    for (unsigned b = bytes; b-- > 0;) out.u8(static_cast<std::uint32_t>(entry >> (8 * b)));
  }
  return std::move(out.bytes());
}

}  // namespace grafema::detail
