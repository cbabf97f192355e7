// SPDX-License-Identifier: MIT
// Plans grids of boxes.
#include "grafema/draw/grid.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace grafema {
namespace {

bool is_good(const GridMember& m) {
  for (const float v : {m.box.left, m.box.top, m.box.right, m.box.bottom, m.baseline}) {
    if (!std::isfinite(v)) return false;
  }
  return m.box.width() >= 0 && m.box.height() >= 0;
}

/// What a row takes above and below the line by which its members are put beside each other.
struct RowHeight {
  float above = 0, below = 0;
};

/// How far a member reaches above that line.
float above_of(const GridMember& m, RowAlign align) {
  switch (align) {
    case RowAlign::baseline:
      return m.baseline - m.box.top;
    case RowAlign::middle:
      return m.box.height() / 2;
    case RowAlign::bottom:
      return m.box.height();
    case RowAlign::top:
      break;
  }
  return 0;
}

RowHeight height_of(std::span<const GridMember> row, RowAlign align) {
  RowHeight height{-INFINITY, -INFINITY};
  for (const GridMember& m : row) {
    const float above = above_of(m, align);
    height.above = std::max(height.above, above);
    height.below = std::max(height.below, m.box.height() - above);
  }
  return height;
}

float share_of(ColumnAlign align) {
  return align == ColumnAlign::left ? 0.0F : align == ColumnAlign::center ? 0.5F : 1.0F;
}

}  // namespace

namespace {

Result<void> check(const GridOptions& options) {
  if (options.columns == 0 || options.columns > kMaxColumns) return bad_value("1 to 16 columns");
  if (!std::isfinite(options.gap.x) || !std::isfinite(options.gap.y))
    return bad_value("gaps of finite numbers");
  const auto is_length = [](float v) { return std::isfinite(v) && v >= 0; };
  if (options.min_widths.size() > kMaxColumns || !is_length(options.width) ||
      !std::all_of(options.min_widths.begin(), options.min_widths.end(), is_length)) {
    return bad_value("widths of 0 or more, of at most 16 columns");
  }
  if (options.wide_column && *options.wide_column >= options.columns)
    return bad_value("a wide column that the grid has");
  return {};
}

/// As wide as their widest members, and what the options ask for.
std::array<float, kMaxColumns> column_widths(std::span<const GridMember> members, const GridOptions& options,
                                             std::size_t used) {
  std::array<float, kMaxColumns> widths = {};
  std::copy_n(options.min_widths.begin(), std::min(used, options.min_widths.size()), widths.begin());
  float all = static_cast<float>(used - 1) * options.gap.x;
  for (std::size_t i = 0; i < members.size(); ++i) {
    float& width = widths[i % options.columns];
    width = std::max(width, members[i].box.width());
  }
  for (std::size_t c = 0; c < used; ++c) all += widths[c];
  if (options.wide_column && *options.wide_column < used)
    widths[*options.wide_column] += std::max(options.width - all, 0.0F);
  return widths;
}

}  // namespace

Result<PixelPoint> plan_grid(std::span<const GridMember> members, const GridOptions& options,
                             std::span<PixelPoint> corners) {
  if (const Result<void> checked = check(options); !checked) return fail(checked.error());
  if (corners.size() != members.size()) return bad_value("a corner for each member");
  if (!std::all_of(members.begin(), members.end(), is_good)) return bad_value("boxes of finite numbers");
  if (members.empty()) return PixelPoint{};
  const std::size_t columns = options.columns, used = std::min(columns, members.size());
  const std::array<float, kMaxColumns> widths = column_widths(members, options, used);
  std::array<float, kMaxColumns> lefts = {};
  for (std::size_t c = 1; c < used; ++c) lefts[c] = lefts[c - 1] + widths[c - 1] + options.gap.x;
  float top = 0;
  for (std::size_t first = 0; first < members.size(); first += columns) {
    const auto row = members.subspan(first, std::min(columns, members.size() - first));
    const RowHeight height = height_of(row, options.rows);
    if (first > 0) top += options.gap.y;
    for (std::size_t c = 0; c < row.size(); ++c) {
      const ColumnAlign align =
          options.aligns.empty() ? ColumnAlign::left : options.aligns[std::min(c, options.aligns.size() - 1)];
      corners[first + c] = {lefts[c] + share_of(align) * (widths[c] - row[c].box.width()),
                            top + height.above - above_of(row[c], options.rows)};
    }
    top += height.above + height.below;
  }
  return PixelPoint{std::max(lefts[used - 1] + widths[used - 1], options.width), top};
}

}  // namespace grafema
