// SPDX-License-Identifier: MIT
// One sweep from below to above; see the header.
#include "outline/union/sweep.hpp"

#include <algorithm>

namespace grafema::detail {

bool Sweep::triangulate(std::vector<Triangle>& out, Steps& steps) {
  out.clear();
  out_ = &out;
  windings_ = nullptr;
  fills_left_.assign(edges.size(), 0);
  return run(steps);
}

bool Sweep::find_windings(std::vector<std::int32_t>& left, Steps& steps) {
  left.assign(edges.size(), 0);
  out_ = nullptr;
  windings_ = &left;
  return run(steps);
}

bool Sweep::run(Steps& steps) {
  list_going_up();
  active_.clear();
  nodes_.clear();
  for (std::uint32_t point = 0; point < points.size(); ++point) {
    if (!pass(point, steps)) return false;
  }
  return active_.empty();
}

/// Sorts edges by their lower point: counts, then places.
void Sweep::list_going_up() {
  first_up_.assign(points.size() + 1, 0);
  ending_.assign(points.size(), 0);
  one_ending_.resize(points.size());
  position_.resize(edges.size());
  for (std::uint32_t i = 0; i < edges.size(); ++i) {
    const SweepEdge& e = edges[i];
    ++first_up_[e.low + 1];
    ++ending_[e.high];
    one_ending_[e.high] = i;
  }
  for (std::size_t i = 1; i < first_up_.size(); ++i) first_up_[i] += first_up_[i - 1];
  up_.resize(edges.size());
  for (std::uint32_t i = static_cast<std::uint32_t>(edges.size()); i-- > 0;) {
    up_[--first_up_[edges[i].low + 1]] = i;
  }
  // Placing moved each count down by one entry: first_up_[p + 1] is where those of p begin.
  for (std::size_t i = 0; i + 1 < first_up_.size(); ++i) first_up_[i] = first_up_[i + 1];
  first_up_.back() = static_cast<std::uint32_t>(edges.size());
}

Sweep::Active Sweep::active(std::uint32_t edge, std::int32_t winding) const {
  const SweepEdge& e = edges[edge];
  return {edge, e.high, points[e.low], points[e.high], winding, {}};
}

/// The first edge that is not left of the point. Where edges end in it, that is the first of these: neighbors
/// were found to keep their order up to here when the later of them came in.
std::size_t Sweep::find_place(std::uint32_t point) const {
  if (ending_[point] > 0) {
    std::size_t at = position_[one_ending_[point]];
    while (at > 0 && active_[at - 1].high == point) --at;
    return at;
  }
  const GridPoint here = points[point];
  std::size_t at = 0, behind = active_.size();
  while (at < behind) {
    const std::size_t middle = (at + behind) / 2;
    if (turn(active_[middle].from, active_[middle].to, here) < 0) {
      at = middle + 1;
    } else {
      behind = middle;
    }
  }
  return at;
}

bool Sweep::pass(std::uint32_t point, Steps& steps) {
  const std::uint32_t going_up = first_up_[point + 1] - first_up_[point];
  if (going_up == 1 && ending_[point] == 1) {
    const std::size_t at = position_[one_ending_[point]];
    return steps.spend(2 + (active_.size() - at) / 64) && go_on(point, at, up_[first_up_[point]]);
  }
  const std::size_t at = find_place(point);
  std::size_t end = at;
  while (end < active_.size() && active_[end].high == point) ++end;
  if (end - at != ending_[point]) return false;
  // Where none ends here, the next edge must lie right of the point, not go through it.
  const bool may_touch = end == at && end < active_.size();
  if (may_touch && turn(active_[end].from, active_[end].to, points[point]) <= 0) return false;
  if (!steps.spend(2 + (active_.size() - at) / 64)) return false;
  return (going_up < 2 || sort_going_up(point)) && enter(point, at, end - at);
}

/// The most frequent case of `enter`: one edge ends where another begins.
bool Sweep::go_on(std::uint32_t point, std::size_t at, std::uint32_t edge) {
  Active& here = active_[at];
  if (edges[edge].winding != edges[here.edge].winding) return false;  // a loop is not closed
  if (windings_ != nullptr) (*windings_)[edge] = here.winding - edges[edge].winding;
  if (out_ != nullptr) {
    const bool filled_right = fills(here.winding);
    if (filled_right == fills(here.winding - edges[edge].winding)) return false;
    fills_left_[edge] = filled_right ? 0 : 1;
    if (filled_right) {
      add_left(here.chain, point);
    } else {
      add_right(active_[at - 1].chain, point);
    }
  }
  const SweepEdge& e = edges[edge];
  position_[edge] = static_cast<std::uint32_t>(at);
  here.edge = edge, here.high = e.high, here.from = points[e.low], here.to = points[e.high];
  if (at > 0 && !apart(active_[at - 1], here)) return false;
  return at + 1 >= active_.size() || apart(here, active_[at + 1]);
}

/// From left to right. False where two go the same way.
bool Sweep::sort_going_up(std::uint32_t point) {
  const auto begin = up_.begin() + first_up_[point], end = up_.begin() + first_up_[point + 1];
  const auto is_left = [this, point](std::uint32_t a, std::uint32_t b) {
    return turn(points[point], points[edges[b].high], points[edges[a].high]) > 0;
  };
  std::sort(begin, end, is_left);
  for (auto i = begin; i < end && i + 1 < end; ++i) {
    if (!is_left(*i, *(i + 1))) return false;
  }
  return true;
}

/// Replaces the edges that end at the point, `ending` of them from `at`, with those that begin there.
bool Sweep::enter(std::uint32_t point, std::size_t at, std::size_t ending) {
  const std::uint32_t *up = up_.data() + first_up_[point], *const up_end = up_.data() + first_up_[point + 1];
  const std::int32_t outside = at > 0 ? active_[at - 1].winding : 0;
  std::int32_t winding = outside;
  entering_.clear();
  for (; up < up_end; ++up) {
    if (windings_ != nullptr) (*windings_)[*up] = winding;
    const bool filled_before = fills(winding);
    winding += edges[*up].winding;
    if (out_ != nullptr) {
      if (filled_before == fills(winding)) return false;
      fills_left_[*up] = filled_before ? 1 : 0;
    }
    entering_.push_back(active(*up, winding));
  }
  const std::int32_t expected = ending > 0 ? active_[at + ending - 1].winding : outside;
  if (winding != expected) return false;  // a loop is not closed
  if (out_ != nullptr) {
    for (std::size_t i = 0; i + 1 < entering_.size(); ++i) {
      if (!fills(entering_[i].winding)) continue;
      const std::uint32_t node = add_node(point, kNone, kNone);
      entering_[i].chain = {node, node, node};
    }
    Chain right;
    if (ending > 0) {
      for (std::size_t i = at; i + 1 < at + ending; ++i) {
        if (fills(active_[i].winding) && !end_chain(active_[i].chain, point)) return false;
      }
      if (fills(outside)) add_right(active_[at - 1].chain, point);
      right = active_[at + ending - 1].chain;
      if (fills(expected)) add_left(right, point);
      if (entering_.empty() && fills(outside)) {  // two stretches become one: both chains end in the point
        Chain& left = active_[at - 1].chain;
        const std::uint32_t behind = nodes_[right.left].right;
        nodes_[left.right].right = behind;
        if (behind != kNone) nodes_[behind].left = left.right;
        left.latest = left.right;
        left.right = behind != kNone ? right.right : left.right;
      }
    } else if (fills(outside)) {
      right = split(active_[at - 1].chain, point);
    }
    if (!entering_.empty()) entering_.back().chain = right;
  }
  const auto place = active_.begin() + static_cast<std::ptrdiff_t>(at);
  const std::size_t kept = std::min(ending, entering_.size());
  std::copy(entering_.begin(), entering_.begin() + static_cast<std::ptrdiff_t>(kept), place);
  if (kept < ending) {
    active_.erase(place + static_cast<std::ptrdiff_t>(kept), place + static_cast<std::ptrdiff_t>(ending));
  } else {
    active_.insert(place + static_cast<std::ptrdiff_t>(kept),
                   entering_.begin() + static_cast<std::ptrdiff_t>(kept), entering_.end());
  }
  const std::size_t changed = entering_.size() == ending ? at + kept : active_.size();
  for (std::size_t i = at; i < changed; ++i) position_[active_[i].edge] = static_cast<std::uint32_t>(i);
  const std::size_t after = at + entering_.size();
  if (at > 0 && at < active_.size() && !apart(active_[at - 1], active_[at])) return false;
  return after == at || after >= active_.size() || apart(active_[after - 1], active_[after]);
}

/// Whether two neighbors keep their order up to where the first of them ends.
bool Sweep::apart(const Active& left, const Active& right) {
  if (left.high == right.high) return true;
  return left.high < right.high ? turn(right.from, right.to, left.to) > 0
                                : turn(left.from, left.to, right.to) < 0;
}

std::uint32_t Sweep::add_node(std::uint32_t point, std::uint32_t left, std::uint32_t right) {
  nodes_.push_back({point, left, right});
  return static_cast<std::uint32_t>(nodes_.size() - 1);
}

/// The right edge of the stretch goes on at `point`: cuts off what it sees from there.
void Sweep::add_right(Chain& chain, std::uint32_t point) {
  std::uint32_t b = chain.right;
  for (std::uint32_t a = nodes_[b].left; a != kNone && left_turn(nodes_[a].point, nodes_[b].point, point);
       a = nodes_[b].left) {
    out_->push_back({nodes_[a].point, nodes_[b].point, point});
    b = a;
  }
  const std::uint32_t node = add_node(point, b, kNone);
  nodes_[b].right = node;
  chain.right = chain.latest = node;
}

void Sweep::add_left(Chain& chain, std::uint32_t point) {
  std::uint32_t a = chain.left;
  for (std::uint32_t b = nodes_[a].right; b != kNone && left_turn(nodes_[a].point, nodes_[b].point, point);
       b = nodes_[a].right) {
    out_->push_back({nodes_[a].point, nodes_[b].point, point});
    a = b;
  }
  const std::uint32_t node = add_node(point, kNone, a);
  nodes_[a].left = node;
  chain.left = chain.latest = node;
}

/// Both edges of the stretch end in `point`.
bool Sweep::end_chain(const Chain& chain, std::uint32_t point) {
  std::uint32_t a = chain.left;
  for (std::uint32_t b = nodes_[a].right; b != kNone; a = b, b = nodes_[b].right) {
    if (!left_turn(nodes_[a].point, nodes_[b].point, point)) return false;
    out_->push_back({nodes_[a].point, nodes_[b].point, point});
  }
  return true;
}

/// Edges begin at `point` within the stretch: it becomes two, `chain` the left one; gives back the right one.
Sweep::Chain Sweep::split(Chain& chain, std::uint32_t point) {
  std::uint32_t left = chain.latest, right = chain.latest;
  for (std::uint32_t a = nodes_[left].left;
       a != kNone && left_turn(nodes_[a].point, nodes_[left].point, point); a = nodes_[left].left) {
    out_->push_back({nodes_[a].point, nodes_[left].point, point});
    left = a;
  }
  for (std::uint32_t b = nodes_[right].right;
       b != kNone && left_turn(nodes_[right].point, nodes_[b].point, point); b = nodes_[right].right) {
    out_->push_back({nodes_[right].point, nodes_[b].point, point});
    right = b;
  }
  // The point that both see belongs to both chains.
  if (left == right) {
    const Node seen = nodes_[left];
    right = add_node(seen.point, kNone, seen.right);
    if (seen.right != kNone) nodes_[seen.right].left = right;
  }
  Chain on_right;
  on_right.left = on_right.latest = add_node(point, kNone, right);
  on_right.right = chain.right == left || nodes_[right].right == kNone ? right : chain.right;
  nodes_[right].left = on_right.left;
  const std::uint32_t node = add_node(point, left, kNone);
  nodes_[left].right = node;
  chain.right = chain.latest = node;
  return on_right;
}

}  // namespace grafema::detail
