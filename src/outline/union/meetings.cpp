// SPDX-License-Identifier: MIT
// Compares pairs of edges exactly: many are sorted into square cells first.
#include "outline/union/meetings.hpp"

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

/// Which half turn a direction lies in, seen from going straight on: left 1, straight on 0, right -1, back
/// -2.
int half(GridPoint a, GridPoint b, GridPoint c) {
  const std::int64_t side = turn(a, b, c);
  if (side != 0) return side > 0 ? 1 : -1;
  const std::int64_t along = (std::int64_t{b.x} - a.x) * (std::int64_t{c.x} - b.x) +
                             (std::int64_t{b.y} - a.y) * (std::int64_t{c.y} - b.y);
  return along > 0 ? 0 : -2;
}

}  // namespace

bool turns_more_left(GridPoint a, GridPoint b, GridPoint c, GridPoint d) {
  const int to_c = half(a, b, c), to_d = half(a, b, d);
  return to_c != to_d ? to_c > to_d : turn(b, d, c) > 0;
}

bool any_cross(const Loops& loops) {
  struct Edge {
    GridPoint a, b;
  };
  std::vector<Edge> edges;
  for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
    const auto points = loops.of(loop);
    for (std::size_t i = 0; i < points.size(); ++i) {
      const GridPoint a = points[i], b = points[i + 1 < points.size() ? i + 1 : 0];
      if (!(a == b)) edges.push_back(sweep_key(a) < sweep_key(b) ? Edge{a, b} : Edge{b, a});
    }
  }
  std::sort(edges.begin(), edges.end(),
            [](const Edge& x, const Edge& y) { return sweep_key(x.a) < sweep_key(y.a); });
  for (std::size_t i = 0; i < edges.size(); ++i) {
    const Edge& e = edges[i];
    for (std::size_t j = i + 1; j < edges.size() && edges[j].a.y <= e.b.y; ++j) {
      const Edge& f = edges[j];
      const std::int64_t fa = turn(e.a, e.b, f.a), fb = turn(e.a, e.b, f.b);
      const std::int64_t ea = turn(f.a, f.b, e.a), eb = turn(f.a, f.b, e.b);
      if (((fa > 0 && fb < 0) || (fa < 0 && fb > 0)) && ((ea > 0 && eb < 0) || (ea < 0 && eb > 0)))
        return true;
    }
  }
  return false;
}

void Meetings::add(GridPoint low, GridPoint high) {
  const double x = double{1} * high.x - low.x, y = double{1} * high.y - low.y;
  edges_.push_back({low, high, std::sqrt(0.51 * (x * x + y * y))});
}

bool Meetings::find(Steps& steps) {
  found_.clear();
  constexpr std::size_t kFew = 1024;
  if (!(edges_.size() <= kFew ? compare_by_height(steps) : compare_by_cells(steps))) return false;
  // Along the edge: rounding may put a point of a level one a step higher than the one behind it.
  const auto along = [this](const Found& f) {
    const Edge& e = edges_[f.edge];
    return (std::int64_t{e.high.x} - e.low.x) * (std::int64_t{f.point.x} - e.low.x) +
           (std::int64_t{e.high.y} - e.low.y) * (std::int64_t{f.point.y} - e.low.y);
  };
  std::sort(found_.begin(), found_.end(), [&](const Found& a, const Found& b) {
    if (a.edge != b.edge) return a.edge < b.edge;
    const std::int64_t at_a = along(a), at_b = along(b);
    return at_a != at_b ? at_a < at_b : sweep_key(a.point) < sweep_key(b.point);
  });
  found_.erase(
      std::unique(found_.begin(), found_.end(),
                  [](const Found& a, const Found& b) { return a.edge == b.edge && a.point == b.point; }),
      found_.end());
  return true;
}

/// Few edges need no cells: each is compared with those that begin below its end.
bool Meetings::compare_by_height(Steps& steps) {
  for (std::uint32_t i = 0; i < edges_.size(); ++i) {
    const Edge& a = edges_[i];
    const std::int32_t left = std::min(a.low.x, a.high.x) - 1, right = std::max(a.low.x, a.high.x) + 1;
    std::uint32_t j = i + 1;
    for (; j < edges_.size() && edges_[j].low.y <= a.high.y + 1; ++j) {
      const Edge& b = edges_[j];
      if (std::max(b.low.x, b.high.x) >= left && std::min(b.low.x, b.high.x) <= right) meet(i, j);
    }
    if (!steps.spend(j - i) || crowded()) return false;
  }
  return true;
}

bool Meetings::compare_by_cells(Steps& steps) {
  std::vector<std::uint32_t> first, held;
  if (!sort_into_cells(first, held, steps)) return false;
  for (std::size_t cell = 0; cell + 1 < first.size(); ++cell) {
    const std::size_t count = first[cell + 1] - first[cell];
    if (!steps.spend(1 + count * count / 2) || crowded()) return false;
    for (std::size_t i = first[cell]; i < first[cell + 1]; ++i) {
      for (std::size_t j = i + 1; j < first[cell + 1]; ++j) meet(held[i], held[j]);
    }
  }
  return true;
}

/// About as many cells as edges. An edge stands in each cell that its way crosses, row by row.
bool Meetings::sort_into_cells(std::vector<std::uint32_t>& first, std::vector<std::uint32_t>& held,
                               Steps& steps) {
  GridPoint low = edges_[0].low, high = low;
  for (const Edge& e : edges_) {
    for (const GridPoint p : {e.low, e.high}) {
      low = {std::min(low.x, p.x), std::min(low.y, p.y)};
      high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
  }
  left_ = low.x, bottom_ = low.y;
  const std::int64_t width = std::int64_t{high.x} - low.x + 1, height = std::int64_t{high.y} - low.y + 1;
  const double wanted = std::sqrt(static_cast<double>(width) * static_cast<double>(height) /
                                  static_cast<double>(edges_.size()));
  const std::int64_t longest = std::max(width, height);
  cell_ = std::max({std::int64_t{1}, static_cast<std::int64_t>(wanted), longest / 4096 + 1});
  columns_ = static_cast<std::uint32_t>((width - 1) / cell_ + 1);
  rows_ = static_cast<std::uint32_t>((height - 1) / cell_ + 1);
  first.assign(std::size_t{columns_} * rows_ + 1, 0);
  const auto each_cell = [this](const Edge& e, auto&& visit) {
    const auto row_of = [this](std::int64_t y) {
      return std::clamp<std::int64_t>((y - bottom_) / cell_, 0, std::int64_t{rows_} - 1);
    };
    const std::int64_t bottom_row = row_of(std::int64_t{e.low.y} - 1),
                       top_row = row_of(std::int64_t{e.high.y} + 1);
    const double slope =
        e.high.y == e.low.y ? 0 : (double{1} * e.high.x - e.low.x) / (double{1} * e.high.y - e.low.y);
    for (std::int64_t row = bottom_row; row <= top_row; ++row) {
      // The stretch of x within the row, a grid step wider for rounding.
      double x0 = e.low.x, x1 = e.high.x;
      if (bottom_ + row * cell_ > e.low.y)
        x0 = e.low.x + slope * static_cast<double>(bottom_ + row * cell_ - e.low.y);
      if (bottom_ + (row + 1) * cell_ < e.high.y)
        x1 = e.low.x + slope * static_cast<double>(bottom_ + (row + 1) * cell_ - e.low.y);
      if (x0 > x1) std::swap(x0, x1);
      const auto column = [this](double x) {
        return std::clamp<std::int64_t>((static_cast<std::int64_t>(x) - left_) / cell_, 0,
                                        std::int64_t{columns_} - 1);
      };
      for (std::int64_t c = column(std::floor(x0) - 1); c <= column(std::ceil(x1) + 1); ++c) {
        visit(static_cast<std::size_t>(row * columns_ + c));
      }
    }
  };
  for (const Edge& e : edges_) each_cell(e, [&](std::size_t cell) { ++first[cell]; });
  std::uint32_t sum = 0;
  for (std::uint32_t& f : first) sum += f, f = sum;
  if (!steps.spend(sum)) return false;
  held.resize(sum);
  for (std::uint32_t i = static_cast<std::uint32_t>(edges_.size()); i-- > 0;) {
    each_cell(edges_[i], [&](std::size_t cell) { held[--first[cell]] = i; });
  }
  return true;
}

void Meetings::cut(std::uint32_t edge, GridPoint point) {
  if (point == edges_[edge].low || point == edges_[edge].high) return;
  found_.push_back({edge, point});
}

void Meetings::meet(std::uint32_t i, std::uint32_t j) {
  const Edge &a = edges_[i], &b = edges_[j];
  // Most pairs lie clearly on one side of each other.
  const auto on_one_side = [](const Edge& e, const Edge& f) {
    const auto low = static_cast<double>(turn(e.low, e.high, f.low)),
               high = static_cast<double>(turn(e.low, e.high, f.high));
    return (low > e.near && high > e.near) || (low < -e.near && high < -e.near);
  };
  if (on_one_side(a, b) || on_one_side(b, a)) return;
  bool near = false;
  for (const GridPoint p : {b.low, b.high}) near |= cut_beside(i, p);
  for (const GridPoint p : {a.low, a.high}) near |= cut_beside(j, p);
  if (near) return;
  const std::int64_t b_low = turn(a.low, a.high, b.low), b_high = turn(a.low, a.high, b.high);
  const std::int64_t a_low = turn(b.low, b.high, a.low), a_high = turn(b.low, b.high, a.high);
  if (!((b_low > 0 && b_high < 0) || (b_low < 0 && b_high > 0))) return;
  if (!((a_low > 0 && a_high < 0) || (a_low < 0 && a_high > 0))) return;
  const double t = static_cast<double>(a_low) / (static_cast<double>(a_low) - static_cast<double>(a_high));
  const GridPoint at{
      static_cast<std::int32_t>(std::nearbyint(a.low.x + t * (double{1} * a.high.x - a.low.x))),
      static_cast<std::int32_t>(std::nearbyint(a.low.y + t * (double{1} * a.high.y - a.low.y)))};
  cut(i, at);
  cut(j, at);
}

/// Cuts the edge at the point where it passes within the point's own square of the grid, as good as: edges
/// that nearly lie on each other would else be cut again and again, a step further each time (hot pixels,
/// Hobby 1999).
bool Meetings::cut_beside(std::uint32_t edge, GridPoint p) {
  const Edge& e = edges_[edge];
  if (p == e.low || p == e.high) return false;
  const double x = double{1} * e.high.x - e.low.x, y = double{1} * e.high.y - e.low.y,
               squared = x * x + y * y;
  const double along = x * (double{1} * p.x - e.low.x) + y * (double{1} * p.y - e.low.y);
  if (along <= 0 || along >= squared) return false;
  const auto aside = static_cast<double>(turn(e.low, e.high, p));
  if (aside * aside > 0.5 * squared) return false;
  found_.push_back({edge, p});
  return true;
}

}  // namespace grafema::detail
