// SPDX-License-Identifier: MIT
// Reads coverage, classes, scripts and features of layout tables.
#include "font/layout_common.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr std::size_t kRangeBytes = 6;

/// The index of the six-byte range (first, last, value) that holds the glyph.
std::optional<std::size_t> find_range(const TableView& table, std::size_t ranges, std::size_t count, std::uint32_t glyph) {
  std::size_t low = 0, high = count;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (table.u16(ranges + middle * kRangeBytes + 2) < glyph) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  if (low == count || table.u16(ranges + low * kRangeBytes) > glyph) return std::nullopt;
  return low;
}

std::vector<Tag> record_tags(const TableView& list) {
  std::vector<Tag> tags;
  const std::size_t count = list.u16(0);
  for (std::size_t i = 0; i < count && list.holds(2 + i * 6, 6); ++i) tags.push_back(Tag{list.u32(2 + i * 6)});
  std::sort(tags.begin(), tags.end());
  tags.erase(std::unique(tags.begin(), tags.end()), tags.end());
  return tags;
}

/// The table that a list of (tag, offset) records names by `wanted`.
TableView find_record(const TableView& list, Tag wanted) {
  const std::size_t count = list.u16(0);
  for (std::size_t i = 0; i < count && list.holds(2 + i * 6, 6); ++i) {
    if (Tag{list.u32(2 + i * 6)} == wanted) return list.from(list.u16(2 + i * 6 + 4));
  }
  return {list.tag, {}};
}

TableView find_script(const TableView& scripts, Tag script) {
  TableView found = find_record(scripts, script);
  if (found.empty()) found = find_record(scripts, tag("DFLT"));
  if (found.empty() && script == tag("DFLT")) found = find_record(scripts, tag("latn"));
  return found;
}

}  // namespace

std::optional<std::uint32_t> find_coverage(const TableView& coverage, std::uint32_t glyph) {
  const std::uint16_t format = coverage.u16(0), count = coverage.u16(2);
  if (format == 2) {
    const std::optional<std::size_t> range = find_range(coverage, 4, count, glyph);
    if (!range) return std::nullopt;
    const std::size_t at = 4 + *range * kRangeBytes;
    return coverage.u16(at + 4) + (glyph - coverage.u16(at));
  }
  if (format != 1) return std::nullopt;
  std::size_t low = 0, high = count;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (coverage.u16(4 + middle * 2) < glyph) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  if (low == count || coverage.u16(4 + low * 2) != glyph) return std::nullopt;
  return static_cast<std::uint32_t>(low);
}

std::uint16_t find_class(const TableView& classes, std::uint32_t glyph) {
  const std::uint16_t format = classes.u16(0);
  if (format == 1) {
    const std::uint32_t first = classes.u16(2), count = classes.u16(4);
    return glyph >= first && glyph - first < count ? classes.u16(6 + (glyph - first) * 2) : std::uint16_t{0};
  }
  if (format != 2) return 0;
  const std::optional<std::size_t> range = find_range(classes, 4, classes.u16(2), glyph);
  return range ? classes.u16(4 + *range * kRangeBytes + 4) : std::uint16_t{0};
}

std::vector<Tag> script_tags(const TableView& table) {
  return table.empty() ? std::vector<Tag>{} : record_tags(table.from(table.u16(4)));
}

std::vector<Tag> feature_tags(const TableView& table) {
  return table.empty() ? std::vector<Tag>{} : record_tags(table.from(table.u16(6)));
}

std::vector<std::uint16_t> find_lookups(const TableView& table, Tag script, Tag feature) {
  std::vector<std::uint16_t> lookups;
  if (table.u16(0) != 1 || table.u16(4) == 0 || table.u16(6) == 0) return lookups;
  const TableView found = find_script(table.from(table.u16(4)), script);
  if (found.u16(0) == 0) return lookups;  // no default language
  const TableView language = found.from(found.u16(0)), features = table.from(table.u16(6));
  const std::size_t count = language.u16(4);
  for (std::size_t i = 0; i < count && language.holds(6 + i * 2, 2); ++i) {
    const std::size_t record = 2 + std::size_t{language.u16(6 + i * 2)} * 6;
    if (!features.holds(record, 6) || Tag{features.u32(record)} != feature) continue;
    const TableView list = features.from(features.u16(record + 4));
    const std::size_t lookup_count = list.u16(2);
    for (std::size_t j = 0; j < lookup_count && list.holds(4 + j * 2, 2); ++j) lookups.push_back(list.u16(4 + j * 2));
  }
  std::sort(lookups.begin(), lookups.end());
  lookups.erase(std::unique(lookups.begin(), lookups.end()), lookups.end());
  return lookups;
}

}  // namespace grafema::detail
