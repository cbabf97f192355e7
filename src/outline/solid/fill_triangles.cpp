// SPDX-License-Identifier: MIT
// Hopes that loops bound what they fill, as most fonts' do; else finds the boundary first.
#include "outline/solid/fill_triangles.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

std::size_t next_in_loop(const Loops& loops, std::size_t loop, std::size_t i) {
  return i + 1 < loops.ends[loop] ? i + 1 : loops.first(loop);
}

}  // namespace

bool FillTriangles::run(Loops& loops, std::vector<Triangle>& out, Steps& steps, Filled filled) {
  out.clear();
  sweep_.positive_only = filled == Filled::positive;
  if (loops.ends.empty()) return true;
  if (!cut_whole(loops, out, steps) || !turn_round(loops)) {
    if (!trace_boundary(loops, steps)) return false;
    out.clear();
    if (loops.ends.empty()) return true;
    if (!cut_whole(loops, out, steps) || !turn_round(loops)) return false;
  }
  place(out);
  return true;
}

bool FillTriangles::run_on_boundary(const Loops& loops, std::vector<Triangle>& out, Steps& steps) {
  out.clear();
  sweep_.positive_only = true;
  if (!cut_whole(loops, out, steps)) return false;
  place(out);
  return true;
}

/// From numbers in the order of the sweep to places in the loops.
void FillTriangles::place(std::vector<Triangle>& out) const {
  for (Triangle& t : out) {
    for (std::uint32_t& corner : t) corner = place_[corner];
  }
}

/// Fills `number_`, `place_` and the sweep's points.
void FillTriangles::sort_points(const Loops& loops) {
  constexpr int kNumberBits = 12;  // two coordinates take 26 bits each
  constexpr std::uint64_t kNumbers = std::uint64_t{1} << kNumberBits;
  const std::size_t count = loops.points.size();
  number_.resize(count);
  place_.resize(count);
  sweep_.points.resize(count);
  std::uint32_t next = 0;
  const auto add = [&, points = sweep_.points.data()](std::uint32_t place) {
    const GridPoint p = loops.points[place];
    if (next == 0 || !(points[next - 1] == p)) points[next] = p, place_[next++] = place;
    number_[place] = next - 1;
  };
  if (count <= kNumbers) {
    keys_.resize(count);
    for (std::size_t i = 0; i < count; ++i) {
      constexpr std::int32_t kOffset = 1 << 25;
      const GridPoint p = loops.points[i];
      keys_[i] = std::uint64_t{static_cast<std::uint32_t>(p.y + kOffset)} << (26 + kNumberBits) |
                 std::uint64_t{static_cast<std::uint32_t>(p.x + kOffset)} << kNumberBits | i;
    }
    key_sorter_.sort(keys_);
    for (const std::uint64_t key : keys_) add(static_cast<std::uint32_t>(key % kNumbers));
  } else {
    order_.resize(count);
    for (std::size_t i = 0; i < count; ++i) {
      order_[i] = {sweep_key(loops.points[i]), static_cast<std::uint32_t>(i)};
    }
    order_sorter_.sort(order_);
    for (const Keyed& keyed : order_) add(keyed.second);
  }
  place_.resize(next);
  sweep_.points.resize(next);
}

bool FillTriangles::cut_whole(const Loops& loops, std::vector<Triangle>& out, Steps& steps) {
  const std::size_t count = loops.points.size();
  sort_points(loops);
  sweep_.edges.resize(count);
  for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
    std::uint32_t a = number_[loops.ends[loop] - 1];
    std::size_t i = loops.ends[loop] - 1;  // the edge that closes the loop comes first
    for (std::size_t next = loops.first(loop); next < loops.ends[loop]; i = next++) {
      const std::uint32_t b = number_[next];
      if (a == b) return false;
      sweep_.edges[i] = a < b ? SweepEdge{a, b, -1} : SweepEdge{b, a, 1};
      a = b;
    }
  }
  return sweep_.triangulate(out, steps);
}

/// Turns loops with the filled side on their right. False, and all are as they were, where one has it on
/// both.
bool FillTriangles::turn_round(Loops& loops) {
  const auto fills_left = [this](std::size_t i) {
    return sweep_.fills_left(i) == (sweep_.edges[i].winding < 0);
  };
  for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
    for (std::size_t i = loops.first(loop); i < loops.ends[loop]; ++i) {
      if (fills_left(i) != fills_left(loops.first(loop))) return false;
    }
  }
  for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
    const auto first = static_cast<std::ptrdiff_t>(loops.first(loop)), end = std::ptrdiff_t{loops.ends[loop]};
    if (fills_left(loops.first(loop))) continue;
    std::reverse(loops.points.begin() + first, loops.points.begin() + end);
    std::reverse(number_.begin() + first, number_.begin() + end);
  }
  for (std::size_t i = number_.size(); i-- > 0;) place_[number_[i]] = static_cast<std::uint32_t>(i);
  return true;
}

/// Cuts edges where they meet until they meet at ends alone; keeps those between filled and empty.
bool FillTriangles::trace_boundary(Loops& loops, Steps& steps) {
  constexpr int kRounds = 24;  // rounding a crossing may make another; two or three rounds are usual
  list_links(loops);
  merge_links();
  bool any = true;
  for (int round = 0; any && round < kRounds; ++round) {
    if (!cut_links_where_they_meet(steps, any)) return false;
    if (any) merge_links();
  }
  if (any) return false;
  number_points();
  if (!sweep_.find_windings(left_, steps)) return false;
  trace(loops);
  return true;
}

void FillTriangles::list_links(const Loops& loops) {
  links_.clear();
  for (std::size_t loop = 0; loop < loops.ends.size(); ++loop) {
    for (std::size_t i = loops.first(loop); i < loops.ends[loop]; ++i) {
      const GridPoint a = loops.points[i], b = loops.points[next_in_loop(loops, loop, i)];
      if (a == b) continue;
      if (sweep_key(a) < sweep_key(b)) {
        links_.push_back({a, b, -1});
      } else {
        links_.push_back({b, a, 1});
      }
    }
  }
}

/// Links with the same ends become one; those that change nothing go.
void FillTriangles::merge_links() {
  std::sort(links_.begin(), links_.end(), [](const Link& a, const Link& b) {
    return a.low == b.low ? sweep_key(a.high) < sweep_key(b.high) : sweep_key(a.low) < sweep_key(b.low);
  });
  std::size_t kept = 0;
  for (std::size_t i = 0; i < links_.size();) {
    Link link = links_[i++];
    for (; i < links_.size() && links_[i].low == link.low && links_[i].high == link.high; ++i) {
      link.winding += links_[i].winding;
    }
    if (link.winding != 0) links_[kept++] = link;
  }
  links_.resize(kept);
}

bool FillTriangles::cut_links_where_they_meet(Steps& steps, bool& any) {
  meetings_.clear();
  for (const Link& link : links_) meetings_.add(link.low, link.high);
  if (!meetings_.find(steps)) return false;
  any = !meetings_.found().empty();
  if (!any) return true;
  cut_.clear();
  std::size_t next = 0;
  const auto& found = meetings_.found();
  for (std::uint32_t i = 0; i < links_.size(); ++i) {
    const Link& link = links_[i];
    GridPoint from = link.low;
    const auto add = [&](GridPoint to) {
      if (from == to) return;
      if (sweep_key(from) < sweep_key(to)) {
        cut_.push_back({from, to, link.winding});
      } else {  // a rounded point may lie before the one that it should follow
        cut_.push_back({to, from, -link.winding});
      }
      from = to;
    };
    for (; next < found.size() && found[next].edge == i; ++next) add(found[next].point);
    add(link.high);
  }
  links_.swap(cut_);
  return true;
}

void FillTriangles::number_points() {
  order_.clear();
  for (std::uint32_t i = 0; i < links_.size(); ++i) {
    order_.emplace_back(sweep_key(links_[i].low), 2 * i);
    order_.emplace_back(sweep_key(links_[i].high), 2 * i + 1);
  }
  std::sort(order_.begin(), order_.end());
  sweep_.points.clear();
  sweep_.edges.resize(links_.size());
  for (std::size_t i = 0; i < order_.size(); ++i) {
    const auto [key, end] = order_[i];
    const Link& link = links_[end / 2];
    if (i == 0 || key != order_[i - 1].first) sweep_.points.push_back(end % 2 == 0 ? link.low : link.high);
    const auto number = static_cast<std::uint32_t>(sweep_.points.size() - 1);
    (end % 2 == 0 ? sweep_.edges[end / 2].low : sweep_.edges[end / 2].high) = number;
    sweep_.edges[end / 2].winding = link.winding;
  }
}

/// Follows the edges between filled and empty, filled on the left. Where several go on from a point, takes
/// the leftmost turn, so that loops part there and none crosses another.
void FillTriangles::trace(Loops& loops) {
  ways_.clear();
  for (std::size_t i = 0; i < sweep_.edges.size(); ++i) {
    const SweepEdge& e = sweep_.edges[i];
    const bool left = sweep_.fills(left_[i]), right = sweep_.fills(left_[i] + e.winding);
    if (left != right) ways_.push_back(left ? Way{e.low, e.high} : Way{e.high, e.low});
  }
  std::sort(ways_.begin(), ways_.end(),
            [](Way a, Way b) { return a.from != b.from ? a.from < b.from : a.to < b.to; });
  first_way_.assign(sweep_.points.size() + 1, 0);
  for (const Way& way : ways_) ++first_way_[way.from + 1];
  for (std::size_t i = 1; i < first_way_.size(); ++i) first_way_[i] += first_way_[i - 1];
  used_.assign(ways_.size(), 0);
  loops.clear();
  const auto& points = sweep_.points;
  for (std::size_t begin = 0; begin < ways_.size(); ++begin) {
    std::size_t at = begin;
    while (used_[at] == 0) {
      used_[at] = 1;
      const Way way = ways_[at];
      loops.points.push_back(points[way.from]);
      std::size_t best = at;
      for (std::size_t i = first_way_[way.to]; i < first_way_[way.to + 1]; ++i) {
        if (used_[i] != 0) continue;
        if (best == at ||
            turns_more_left(points[way.from], points[way.to], points[ways_[i].to], points[ways_[best].to])) {
          best = i;
        }
      }
      if (best == at) break;
      at = best;
    }
    loops.close();
  }
}

}  // namespace grafema::detail
