// SPDX-License-Identifier: MIT
// Labels in rows, stacks and columns that are placed as one.
#pragma once

#include <span>

#include "grafema/draw/label.hpp"
#include "grafema/draw/label_set.hpp"

namespace grafema {

/// Where a member stands in its column.
enum class ColumnAlign : std::uint8_t { left, center, right };
/// Where members of a row stand beside each other: `baseline` puts their first lines on one line.
enum class RowAlign : std::uint8_t { baseline, top, middle, bottom };

struct GridOptions {
  PixelPoint gap = {};  ///< between columns and between rows: layout pixels
  std::span<const ColumnAlign> columns =
      {};  ///< of each column; the last holds for those behind it, none: left
  RowAlign rows = RowAlign::baseline;
};

/// What of a label a grid needs to know.
struct GridMember {
  Rect box = {};       ///< Label::box
  float baseline = 0;  ///< of its first line, in the same pixels
};

constexpr std::size_t kMaxColumns = 16;

/// Finds where members stand: row by row, `columns` in each, columns as wide as their widest member, rows as
/// high as their members need. Writes where the top left corner of each box goes, from the grid's own, into
/// `corners`, as long as `members`, and gives the grid's width and height. Fails with `bad_value` where there
/// are no columns or more than kMaxColumns, a number is not finite, or a box is turned inside out.
GRAFEMA_API Result<PixelPoint> plan_grid(std::span<const GridMember> members, std::size_t columns,
                                         const GridOptions& options, std::span<PixelPoint> corners);

/// Labels of a grid at most.
constexpr std::size_t kMaxMembers = 256;

/// Places labels as the members of a grid that stands as a single label with `where` would: its anchor is
/// that of the grid's box, about which all of it is scaled, turned and moved, on the screen and in the world.
/// A row has as many columns as labels, a stack one. Boxes that change later need another call. Fails as
/// `plan_grid`, for more than kMaxMembers labels or the same one twice, and for `keep_inside` and `snap`,
/// which concern one label.
GRAFEMA_API Result<PixelPoint> place_grid(std::span<Label* const> labels, std::size_t columns,
                                          const Placement& where, const GridOptions& options = {});
GRAFEMA_API Result<PixelPoint> place_grid(std::span<SetLabel> labels, std::size_t columns,
                                          const Placement& where, const GridOptions& options = {});

}  // namespace grafema
