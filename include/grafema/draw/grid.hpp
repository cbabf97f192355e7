// SPDX-License-Identifier: MIT
// Labels in rows, stacks and columns that stand as one and follow when a text changes.
#pragma once

#include <cstdint>
#include <optional>
#include <span>
#include <variant>
#include <vector>

#include "grafema/draw/label.hpp"

namespace grafema {

/// Where a member stands in its column: the words of TextAlign.
enum class ColumnAlign : std::uint8_t { left, center, right };
/// Where members of a row stand beside each other: `baseline` puts their first lines on one line.
enum class RowAlign : std::uint8_t { baseline, top, middle, bottom };

/// Lengths are layout pixels.
struct GridOptions {
  std::size_t columns = 1;  ///< 1 to kMaxColumns; a row has as many as members, a stack one
  PixelPoint gap = {};      ///< between columns and between rows
  /// Where members stand in each column; the last holds for those behind it. None: left.
  std::vector<ColumnAlign> aligns = {};
  RowAlign rows = RowAlign::baseline;
  std::vector<float> min_widths = {};  ///< of each column; columns behind the last have none
  float width = 0;                     ///< of the whole, at least
  /// The column that takes what `width` leaves over; none: it is left empty on the right.
  std::optional<std::size_t> wide_column = {};
  bool operator==(const GridOptions&) const = default;
};

constexpr std::size_t kMaxColumns = 16;

/// What of a member a grid needs to know.
struct GridMember {
  Rect box = {};       ///< Label::box
  float baseline = 0;  ///< of its first line, in the same pixels
};

/// Finds where members stand: row by row, columns as wide as their widest member, rows as high as their
/// members need. Writes where the top left corner of each box goes, from the grid's own, into `corners`, as
/// long as `members`, and gives the grid's width and height. Fails with `bad_value` where an option is out of
/// its range, a number is not finite, or a box is turned inside out.
GRAFEMA_API Result<PixelPoint> plan_grid(std::span<const GridMember> members, const GridOptions& options,
                                         std::span<PixelPoint> corners);

class Grid;
/// A member of a grid: a label, or another grid.
using GridItem = std::variant<Label, Grid>;

/// A handle of a grid of a TextScene, as Label is of a label. It stays laid out: where a member's text
/// changes, its neighbors follow in the next update. The grid stands as a single label with its placement
/// would: its anchor is that of the grid's box, about which all of it is scaled, turned and moved, on the
/// screen and in the world. Members that are not visible keep their room; those that were removed leave.
class GRAFEMA_API Grid {
 public:
  static constexpr std::size_t kMaxMembers = 256, kMaxNesting = 8;

  Grid() = default;
  bool valid() const;
  void remove();  ///< members stay, where their own placements say
  bool operator==(const Grid&) const = default;
  /// Row by row. Fails with `bad_value` for more than kMaxMembers, a member that is not there, of another
  /// scene or of another grid, the same one twice, and grids within each other more than kMaxNesting deep or
  /// in a circle; the grid is then unchanged.
  Result<void> set_items(std::span<const GridItem> items);
  Result<void> add(GridItem item);  ///< behind the others; fails as `set_items` does
  void erase(GridItem item);        ///< its own placement holds again; nothing where it is no member
  /// Fails with `bad_value` as `plan_grid` does; the grid is then unchanged.
  Result<void> set_options(const GridOptions& options);
  /// `keep_inside` and `snap` concern one label: a placement with them is noted and changes nothing, as one
  /// whose numbers are not finite. The placement of a grid within another is the other's.
  void set_placement(const Placement& placement);
  /// The box before it is placed: layout pixels, from 0, 0. Lays it out where a member changed.
  Rect box() const;

 private:
  friend class TextScene;
  friend struct detail::SceneState;
  Grid(detail::SceneState& scene, std::uint32_t index, std::uint32_t generation)
      : scene_(&scene), index_(index), generation_(generation) {}
  detail::SceneState* use(const char* call) const;
  detail::SceneState* scene_ = nullptr;
  std::uint32_t index_ = 0, generation_ = 0;
};

}  // namespace grafema
