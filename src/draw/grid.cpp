// SPDX-License-Identifier: MIT
// Plans grids of boxes, and places labels by the anchor of the whole.
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

Result<PixelPoint> plan_grid(std::span<const GridMember> members, std::size_t columns,
                             const GridOptions& options, std::span<PixelPoint> corners) {
  if (columns == 0 || columns > kMaxColumns) return bad_value("1 to 16 columns");
  if (corners.size() != members.size()) return bad_value("a corner for each member");
  if (!std::isfinite(options.gap.x) || !std::isfinite(options.gap.y))
    return bad_value("gaps of finite numbers");
  if (!std::all_of(members.begin(), members.end(), is_good)) return bad_value("boxes of finite numbers");
  if (members.empty()) return PixelPoint{};
  std::array<float, kMaxColumns> widths = {}, lefts = {};
  const std::size_t used = std::min(columns, members.size());
  for (std::size_t i = 0; i < members.size(); ++i) {
    widths[i % columns] = std::max(widths[i % columns], members[i].box.width());
  }
  for (std::size_t c = 1; c < used; ++c) lefts[c] = lefts[c - 1] + widths[c - 1] + options.gap.x;
  float top = 0;
  for (std::size_t first = 0; first < members.size(); first += columns) {
    const auto row = members.subspan(first, std::min(columns, members.size() - first));
    const RowHeight height = height_of(row, options.rows);
    if (first > 0) top += options.gap.y;
    for (std::size_t c = 0; c < row.size(); ++c) {
      const ColumnAlign align = options.columns.empty()
                                    ? ColumnAlign::left
                                    : options.columns[std::min(c, options.columns.size() - 1)];
      corners[first + c] = {lefts[c] + share_of(align) * (widths[c] - row[c].box.width()),
                            top + height.above - above_of(row[c], options.rows)};
    }
    top += height.above + height.below;
  }
  return PixelPoint{lefts[used - 1] + widths[used - 1], top};
}

namespace {

GridMember member_of(Label* label) {
  const Paragraph& p = label->paragraph();
  return {label->box(), p.lines.empty() ? 0.0F : p.lines.front().baseline};
}
GridMember member_of(const SetLabel& label) { return {label.box(), label.baseline()}; }
Result<void> place(Label* label, const Placement& p) { return label->set_placement(p); }
Result<void> place(SetLabel& label, const Placement& p) { return label.set_placement(p); }
bool is_there(const Label* label) { return label != nullptr && label->valid(); }
bool is_there(const SetLabel& label) { return label.valid(); }

bool is_same(const Label* a, const Label* b) { return a == b; }
bool is_same(const SetLabel& a, const SetLabel& b) { return a == b; }

/// A length that an anchor's fraction can be taken of.
float divisor(float side) { return side > 1e-3F ? side : 1e-3F; }

template <class L>
Result<PixelPoint> place_all(std::span<L> labels, std::size_t columns, const Placement& where,
                             const GridOptions& options) {
  if (labels.size() > kMaxMembers) return bad_value("at most 256 labels");
  if (where.keep_inside || where.snap)
    return bad_value("a placement of the grid without keep_inside and snap");
  std::array<GridMember, kMaxMembers> members;
  std::array<PixelPoint, kMaxMembers> corners;
  for (std::size_t i = 0; i < labels.size(); ++i) {
    if (!is_there(labels[i])) return bad_value("labels that are there");
    for (std::size_t k = 0; k < i; ++k) {
      if (is_same(labels[k], labels[i])) return bad_value("labels that each stand in one cell");
    }
    members[i] = member_of(labels[i]);
  }
  const Result<PixelPoint> size = plan_grid(std::span(members).first(labels.size()), columns, options,
                                            std::span(corners).first(labels.size()));
  if (!size) return size;
  // The grid's anchor as a point of each label's own box: about it all of them are scaled and turned alike.
  const PixelPoint anchor{where.anchor.x * size->x, where.anchor.y * size->y};
  for (std::size_t i = 0; i < labels.size(); ++i) {
    Placement p = where;
    p.anchor = {(anchor.x - corners[i].x) / divisor(members[i].box.width()),
                (anchor.y - corners[i].y) / divisor(members[i].box.height())};
    if (const Result<void> placed = place(labels[i], p); !placed) return fail(placed.error());
  }
  return size;
}

}  // namespace

Result<PixelPoint> place_grid(std::span<Label* const> labels, std::size_t columns, const Placement& where,
                              const GridOptions& options) {
  return place_all(labels, columns, where, options);
}

Result<PixelPoint> place_grid(std::span<SetLabel> labels, std::size_t columns, const Placement& where,
                              const GridOptions& options) {
  return place_all(labels, columns, where, options);
}

}  // namespace grafema
