// SPDX-License-Identifier: MIT
// Reads tuples of point deltas and infers those that are left out.
#include "font/outline/gvar.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

#include "font/variation/axes.hpp"

namespace grafema::detail {
namespace {

enum TupleFlag : std::uint16_t {
  embedded_peak = 0x8000,
  intermediate = 0x4000,
  private_points = 0x2000,
  index_mask = 0x0FFF
};
constexpr std::uint16_t kSharedPoints = 0x8000, kCountMask = 0x0FFF;
/// Points times tuples of one outline; real glyphs stay below a hundred thousand.
constexpr std::size_t kMaxDeltaWork = 50'000'000;

/// Packed point numbers; none stands for all points. Gives where they end, nothing where the data is cut
/// short.
std::optional<std::size_t> read_points(const TableView& data, std::size_t at,
                                       std::vector<std::uint16_t>& out) {
  out.clear();
  if (!data.holds(at, 1)) return std::nullopt;
  std::size_t count = static_cast<std::size_t>(data.bytes[at++]);
  if ((count & 0x80) != 0) {
    if (!data.holds(at, 1)) return std::nullopt;
    count = (count & 0x7F) << 8 | static_cast<std::size_t>(data.bytes[at++]);
  }
  unsigned point = 0;
  while (out.size() < count) {
    if (!data.holds(at, 1)) return std::nullopt;
    const auto control = static_cast<unsigned>(data.bytes[at++]);
    const std::size_t run = (control & 0x7FU) + 1, bytes = (control & 0x80U) != 0 ? 2 : 1;
    if (!data.holds(at, run * bytes)) return std::nullopt;
    for (std::size_t i = 0; i < run && out.size() < count; ++i, at += bytes) {
      point += bytes == 2 ? be16(data.bytes, at) : static_cast<unsigned>(data.bytes[at]);
      out.push_back(static_cast<std::uint16_t>(point));
    }
  }
  return at;
}

std::optional<std::size_t> read_deltas(const TableView& data, std::size_t at, std::size_t count,
                                       std::vector<float>& out) {
  out.clear();
  while (out.size() < count) {
    if (!data.holds(at, 1)) return std::nullopt;
    const auto control = static_cast<unsigned>(data.bytes[at++]);
    const std::size_t run = (control & 0x3FU) + 1, bytes = (control & 0xC0U) == 0xC0U ? 4
                                                           : (control & 0x80U) != 0   ? 0
                                                           : (control & 0x40U) != 0   ? 2
                                                                                      : 1;
    if (!data.holds(at, run * bytes)) return std::nullopt;
    for (std::size_t i = 0; i < run; ++i, at += bytes) {
      const int value = bytes == 0   ? 0
                        : bytes == 1 ? int{static_cast<std::int8_t>(data.bytes[at])}
                        : bytes == 2 ? int{be16s(data.bytes, at)}
                                     : static_cast<int>(be32(data.bytes, at));
      if (out.size() < count) out.push_back(static_cast<float>(value));
    }
  }
  return at;
}

/// The delta of a point between two that have one, along one direction (gvar, "Inferred deltas").
float infer(float before, float after, float at, float delta_before, float delta_after) {
  if (before == after) return delta_before == delta_after ? delta_before : 0.0F;
  if (before > after) {
    std::swap(before, after);
    std::swap(delta_before, delta_after);
  }
  if (at <= before) return delta_before;
  if (at >= after) return delta_after;
  return delta_before + (delta_after - delta_before) * (at - before) / (after - before);
}

/// Fills in the points of one contour that no delta was given for.
void infer_contour(std::span<const FontPoint> points, std::span<FontPoint> moved,
                   std::span<const std::uint8_t> touched) {
  const std::size_t count = points.size();
  std::size_t first = 0;
  while (first < count && touched[first] == 0) ++first;
  if (first == count) return;  // nothing touched: nothing moves
  std::size_t before = first;
  for (std::size_t step = 1; step <= count; ++step) {
    const std::size_t after = (first + step) % count;
    if (touched[after] == 0) continue;
    for (std::size_t i = (before + 1) % count; i != after; i = (i + 1) % count) {
      moved[i].x = infer(points[before].x, points[after].x, points[i].x, moved[before].x, moved[after].x);
      moved[i].y = infer(points[before].y, points[after].y, points[i].y, moved[before].y, moved[after].y);
    }
    before = after;
  }
}

}  // namespace

GlyphVariations GlyphVariations::read(const TableView& gvar, const std::vector<float>& coordinates) {
  GlyphVariations made;
  if (coordinates.empty() || !gvar.holds(0, 20) || gvar.u16(0) != 1 || gvar.u16(4) != coordinates.size()) {
    return made;
  }
  made.table_ = gvar;
  made.shared_count_ = gvar.u16(6);
  made.shared_at_ = gvar.u32(8);
  made.glyph_count_ = gvar.u16(12);
  made.long_offsets_ = (gvar.u16(14) & 1) != 0;
  made.data_at_ = gvar.u32(16);
  made.coordinates_ = coordinates;
  for (std::size_t a = 0; a < coordinates.size(); ++a) {
    if (coordinates[a] != 0) made.active_.push_back(static_cast<std::uint16_t>(a));
  }
  return made;
}

/// A tuple applies in full at its peak and fades towards the ends of its region on every axis.
float GlyphVariations::tuple_weight(const TableView& data, std::size_t header, std::uint16_t index) const {
  const std::size_t axes = coordinates_.size();
  const bool embedded = (index & embedded_peak) != 0;
  const TableView& peaks = embedded ? data : table_;
  const std::size_t peak_at =
      embedded ? header + 4
               : shared_at_ + std::size_t{static_cast<std::uint16_t>(index & index_mask)} * axes * 2;
  if (!embedded && static_cast<std::size_t>(index & index_mask) >= shared_count_) return 0;
  if (!peaks.holds(peak_at, axes * 2)) return 0;
  const std::size_t region_at = header + 4 + (embedded ? axes * 2 : 0);
  float weight = 1;
  for (std::size_t a = 0; a < axes && weight != 0; ++a) {
    const float peak = f2dot14(peaks, peak_at + a * 2), coordinate = coordinates_[a];
    if (peak == 0 || coordinate == peak) continue;
    if ((index & intermediate) != 0) {
      weight *= axis_weight(f2dot14(data, region_at + a * 2), peak,
                            f2dot14(data, region_at + axes * 2 + a * 2), coordinate);
    } else {
      weight *= axis_weight(std::min(peak, 0.0F), peak, std::max(peak, 0.0F), coordinate);
      if (coordinate * peak > 0 && std::abs(coordinate) > std::abs(peak)) return 0;
    }
  }
  return weight;
}

/// Reads one tuple's points and deltas from `at` on and adds them, weighed. False where the data is cut
/// short.
bool GlyphVariations::add_tuple(const TableView& data, std::size_t at, bool own, bool shared, float weight,
                                const GlyphPoints& glyph, DeltaScratch& scratch) {
  scratch.own_points.clear();
  if (own) {
    const auto next = read_points(data, at, scratch.own_points);
    if (!next) return false;
    at = *next;
  }
  const std::vector<std::uint16_t>& numbers = shared ? scratch.shared_points : scratch.own_points;
  const std::size_t all = glyph.points.size(), count = numbers.empty() ? all : numbers.size();
  const auto after_x = read_deltas(data, at, count, scratch.x);
  if (!after_x || !read_deltas(data, *after_x, count, scratch.y)) return false;
  if (numbers.empty()) {
    for (std::size_t i = 0; i < count; ++i) {
      glyph.deltas[i].x += weight * scratch.x[i], glyph.deltas[i].y += weight * scratch.y[i];
    }
    return true;
  }
  scratch.moved.assign(all, {});
  scratch.touched.assign(all, 0);
  for (std::size_t i = 0; i < count; ++i) {
    if (numbers[i] >= all) continue;
    scratch.moved[numbers[i]] = {scratch.x[i], scratch.y[i]};
    scratch.touched[numbers[i]] = 1;
  }
  std::size_t first = 0;
  for (const std::size_t end : glyph.ends) {
    infer_contour(glyph.points.subspan(first, end - first),
                  std::span(scratch.moved).subspan(first, end - first),
                  std::span<const std::uint8_t>(scratch.touched).subspan(first, end - first));
    first = end;
  }
  for (std::size_t i = 0; i < all; ++i) {
    glyph.deltas[i].x += weight * scratch.moved[i].x, glyph.deltas[i].y += weight * scratch.moved[i].y;
  }
  return true;
}

Result<TableView> GlyphVariations::find_data(std::uint32_t glyph) const {
  const std::size_t entry = 20 + std::size_t{glyph} * (long_offsets_ ? 4 : 2);
  const std::size_t begin = long_offsets_ ? table_.u32(entry) : table_.u16(entry) * std::size_t{2};
  const std::size_t end = long_offsets_ ? table_.u32(entry + 4) : table_.u16(entry + 2) * std::size_t{2};
  if (glyph >= glyph_count_ || begin >= end) return TableView{table_.tag, {}};
  if (!table_.holds(data_at_ + begin, end - begin)) {
    return damaged(table_, entry, "variation data that lies inside the table",
                   fmt::format("{} to {}", begin, end));
  }
  return TableView{table_.tag, table_.bytes.subspan(data_at_ + begin, end - begin)};
}

/// Calls `use` with where each tuple's header and its points and deltas stand; whether it has points of its
/// own, or shares those in the scratch. A `use` that gives false found them cut short.
template <class Use>
Result<void> GlyphVariations::for_each_tuple(std::uint32_t glyph, DeltaScratch& scratch,
                                             std::size_t point_count, Use use) const {
  const Result<TableView> found = find_data(glyph);
  if (!found) return fail(found.error());
  const TableView& data = *found;
  if (data.empty()) return {};
  const std::uint16_t head = data.u16(0);
  std::size_t at = data.u16(2), header = 4;
  const auto cut = [&](const char* expected) {
    return damaged(table_, static_cast<std::size_t>(data.bytes.data() - table_.bytes.data()), expected,
                   fmt::format("glyph {}", glyph));
  };
  constexpr const char* kInside = "packed points and deltas that lie inside the glyph's data";
  const bool shared = (head & kSharedPoints) != 0;
  if (shared) {
    const auto next = read_points(data, at, scratch.shared_points);
    if (!next) return cut(kInside);
    at = *next;
  }
  for (std::size_t tuple = 0; tuple < static_cast<std::size_t>(head & kCountMask); ++tuple) {
    if (!data.holds(header, 4)) return cut(kInside);
    const std::uint16_t index = data.u16(header + 2);
    const bool own = (index & private_points) != 0;
    scratch.work += point_count;
    if (scratch.work > kMaxDeltaWork) return cut("no more than 50 million moved points");
    if (!use(data, header, at, own, shared && !own)) return cut(kInside);
    at += data.u16(header);
    header += 4 + coordinates_.size() *
                      (((index & embedded_peak) != 0 ? 2U : 0U) + ((index & intermediate) != 0 ? 4U : 0U));
  }
  return {};
}

Result<void> GlyphVariations::add_deltas(std::uint32_t glyph, const GlyphPoints& points,
                                         DeltaScratch& scratch) const {
  const auto add = [&](const TableView& data, std::size_t header, std::size_t at, bool own, bool shared) {
    const float weight = tuple_weight(data, header, data.u16(header + 2));
    return weight == 0 || add_tuple(data, at, own, shared, weight, points, scratch);
  };
  return for_each_tuple(glyph, scratch, points.points.size(), add);
}

/// A tuple without ends of its own begins and ends at 0 and fades no farther than its peak; one whose peak
/// can't be read applies nowhere.
GlyphVariations::TupleRegion GlyphVariations::read_region(const TableView& data, std::size_t header,
                                                          std::uint16_t index) const {
  const std::size_t axes = coordinates_.size();
  const bool embedded = (index & embedded_peak) != 0;
  const TableView& peaks = embedded ? data : table_;
  const std::size_t peak_at =
      embedded ? header + 4
               : shared_at_ + std::size_t{static_cast<std::uint16_t>(index & index_mask)} * axes * 2;
  TupleRegion region;
  if ((!embedded && static_cast<std::size_t>(index & index_mask) >= shared_count_) ||
      !peaks.holds(peak_at, axes * 2)) {
    return region;
  }
  const std::size_t region_at = header + 4 + (embedded ? axes * 2 : 0);
  for (std::size_t a = 0; a < axes; ++a) {
    const std::int16_t peak = peaks.s16(peak_at + a * 2), zero = 0;
    if ((index & intermediate) != 0) {
      region.push_back({data.s16(region_at + a * 2), peak, data.s16(region_at + axes * 2 + a * 2)});
    } else {
      region.push_back({std::min(peak, zero), peak, std::max(peak, zero)});
    }
  }
  return region;
}

Result<void> GlyphVariations::visit_tuples(std::uint32_t glyph, const GlyphPoints& points,
                                           DeltaScratch& scratch,
                                           const std::function<void(const TupleRegion&)>& visit) const {
  const auto use = [&](const TableView& data, std::size_t header, std::size_t at, bool own, bool shared) {
    const TupleRegion region = read_region(data, header, data.u16(header + 2));
    if (region.empty()) return true;
    std::fill(points.deltas.begin(), points.deltas.end(), FontPoint{});
    if (!add_tuple(data, at, own, shared, 1, points, scratch)) return false;
    visit(region);
    return true;
  };
  return for_each_tuple(glyph, scratch, points.points.size(), use);
}

}  // namespace grafema::detail
