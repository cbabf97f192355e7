// SPDX-License-Identifier: MIT
// Grids of a scene: who is in which, and where members stand.
#include "draw/scene/scene_grids.hpp"

#include <algorithm>
#include <cassert>

#include "draw/label_map.hpp"
#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneGrid;
using detail::SceneState;

/// Of a member that is a label.
std::uint32_t SceneState::index_in(const GridItem& item) {
  const Label* label = std::get_if<Label>(&item);
  return label != nullptr ? label->index_ : kNoLabel;
}

Result<Grid> TextScene::add_grid(const GridOptions& options) {
  if (const Result<PixelPoint> good = plan_grid({}, options, {}); !good) return fail(good.error());
  detail::GridBook& grids = state_->grids;
  if (grids.free.empty()) {
    grids.free.push_back(static_cast<std::uint32_t>(grids.size()));
    grids.all.emplace_back();
  }
  const std::uint32_t at = grids.free.back();
  grids.free.pop_back();
  SceneGrid& grid = grids.all[at];
  const std::uint32_t generation = grid.generation + 1;
  grid = {};
  grid.generation = generation, grid.options = options;
  return Grid(*state_, at, generation);
}

bool Grid::valid() const {
  return scene_ != nullptr && index_ < scene_->grids.size() &&
         scene_->grids.all[index_].generation == generation_;
}

/// The scene, where the grid is there; else null, and `call` is noted.
SceneState* Grid::use(const char* call) const {
  if (valid()) {
    assert(scene_->thread == std::this_thread::get_id() && "a scene is used on another thread than its own");
    return scene_;
  }
  if (scene_ != nullptr) scene_->note(NoteKind::gone_handle, call);
  return nullptr;
}

void Grid::remove() {
  if (SceneState* s = use("remove")) s->remove_grid(index_);
}

void SceneState::remove_grid(std::uint32_t at) {
  if (!grids.is_alive(at)) return;
  set_items(at, {});
  if (grids.all[at].parent != 0) leave_grid(Grid(*this, at, grids.all[at].generation));
  ++grids.all[at].generation;
  grids.free.push_back(at);
}

Result<void> Grid::set_items(std::span<const GridItem> items) {
  SceneState* s = use("set_items");
  if (s == nullptr) return {};
  if (const Result<void> checked = s->check_items(index_, items); !checked) return checked;
  s->set_items(index_, items);
  return {};
}

Result<void> Grid::add(GridItem item) {
  SceneState* s = use("add");
  if (s == nullptr) return {};
  std::vector<GridItem> items = s->grids.all[index_].items;
  items.push_back(item);
  return set_items(items);
}

void Grid::erase(GridItem item) {
  SceneState* s = use("erase");
  if (s == nullptr) return;
  const std::vector<GridItem>& items = s->grids.all[index_].items;
  if (std::find(items.begin(), items.end(), item) != items.end()) s->leave_grid(item);
}

Result<void> Grid::set_options(const GridOptions& options) {
  SceneState* s = use("set_options");
  if (const Result<PixelPoint> good = plan_grid({}, options, {}); !good) return fail(good.error());
  if (s == nullptr || s->grids.all[index_].options == options) return {};
  s->grids.all[index_].options = options;
  s->grids.touch(index_);
  return {};
}

void Grid::set_placement(const Placement& placement) {
  SceneState* s = use("set_placement");
  if (s == nullptr) return;
  if (!detail::check_placement(placement) || placement.keep_inside || placement.snap)
    return s->note(NoteKind::refused_number, "set_placement of a grid");
  if (s->grids.all[index_].placement == placement) return;
  s->grids.all[index_].placement = placement;
  s->grids.touch(index_);
}

Rect Grid::box() const {
  SceneState* s = use("box");
  if (s == nullptr) return {};
  s->measure_members(index_);
  s->lay_out_grids();
  const PixelPoint size = s->grids.all[index_].size;
  return {0, 0, size.x, size.y};
}

namespace {

/// How many grids lie within each other from this one down.
std::size_t depth_of(const detail::GridBook& grids, std::uint32_t grid, std::uint32_t (*index)(const Grid&)) {
  std::size_t most = 0;
  for (const GridItem& item : grids.all[grid].items) {
    const Grid* inner = std::get_if<Grid>(&item);
    if (inner != nullptr) most = std::max(most, depth_of(grids, index(*inner), index));
  }
  return most + 1;
}

}  // namespace

Result<void> SceneState::check_items(std::uint32_t grid, std::span<const GridItem> items) const {
  if (items.size() > Grid::kMaxMembers) return bad_value("at most 256 members");
  std::size_t above = 0, below = 0;
  for (std::uint32_t g = grid; g != 0; g = grids.all[g].parent) ++above;
  for (std::size_t k = 0; k < items.size(); ++k) {
    if (std::find(items.begin(), items.begin() + static_cast<std::ptrdiff_t>(k), items[k]) !=
        items.begin() + static_cast<std::ptrdiff_t>(k)) {
      return bad_value("members that each stand in one cell");
    }
    const Label* label = std::get_if<Label>(&items[k]);
    const Grid* inner = std::get_if<Grid>(&items[k]);
    const bool is_there =
        label != nullptr ? label->scene_ == this && label->valid() : inner->scene_ == this && inner->valid();
    if (!is_there) return bad_value("members of this scene that are there");
    if (label != nullptr) {
      const StillLabel& s = still[label->index_];
      if (s.in_grid && s.extra->grid != grid) return bad_value("members that are in no other grid");
      continue;
    }
    const std::uint32_t parent = grids.all[inner->index_].parent;
    if (parent != 0 && parent != grid) return bad_value("members that are in no other grid");
    for (std::uint32_t g = grid; g != 0; g = grids.all[g].parent) {
      if (g == inner->index_) return bad_value("grids that do not hold themselves");
    }
    below = std::max(below, depth_of(grids, inner->index_, [](const Grid& g) { return g.index_; }));
  }
  if (above + below > Grid::kMaxNesting) return bad_value("grids at most 8 deep");
  return {};
}

void SceneState::set_items(std::uint32_t grid, std::span<const GridItem> items) {
  while (!grids.all[grid].items.empty()) leave_grid(grids.all[grid].items.back());
  grids.all[grid].items.assign(items.begin(), items.end());
  for (const GridItem& item : items) {
    if (const Grid* inner = std::get_if<Grid>(&item)) {
      grids.all[inner->index_].parent = grid;
      continue;
    }
    const std::uint32_t i = index_in(item);
    StillLabel::Extra& of = extra(i);
    of.own = placement_of(i), of.grid = grid;
    still[i].in_grid = true;
    touch_row(i);
  }
  grids.touch(grid);
}

/// The member's own placement holds again.
void SceneState::leave_grid(const GridItem& item) {
  std::uint32_t grid = 0;
  if (const Grid* inner = std::get_if<Grid>(&item)) {
    grid = std::exchange(grids.all[inner->index_].parent, 0U);
    grids.touch(inner->index_);
  } else {
    const std::uint32_t i = index_in(item);
    grid = still[i].extra->grid;
    still[i].in_grid = false;
    set_placement(i, *still[i].extra->own);
    still[i].extra->own.reset();
  }
  std::erase(grids.all[grid].items, GridItem(item));
  grids.touch(grid);
}

void SceneState::touch_grid(std::uint32_t i) { grids.touch(still[i].extra->grid); }

/// Lays out texts of members that changed; where a box is another then, their grid is touched.
void SceneState::measure_members(std::uint32_t grid) {
  for (const GridItem& item : grids.all[grid].items) {
    if (const Grid* inner = std::get_if<Grid>(&item)) {
      measure_members(inner->index_);
    } else {
      (void)box_of(index_in(item));
    }
  }
}

void SceneState::lay_out_grids() {
  for (std::size_t k = 0; k < grids.todo.size(); ++k) {
    const std::uint32_t at = grids.todo[k];
    if (grids.is_alive(at) && grids.all[at].parent == 0) {
      measure_members(at);
      plan_members(at);
      const Placement& where = grids.all[at].placement;
      const PixelPoint size = grids.all[at].size;
      place_members(at, where, {where.anchor.x * size.x, where.anchor.y * size.y}, {});
      ++work.grids;
    }
    grids.all[at].is_listed = false;
  }
  grids.todo.clear();
}

/// Sizes and corners, from the innermost out.
void SceneState::plan_members(std::uint32_t at) {
  SceneGrid& grid = grids.all[at];
  for (const GridItem& item : grid.items) {
    if (const Grid* inner = std::get_if<Grid>(&item)) plan_members(inner->index_);
  }
  std::vector<GridMember>& members = grids.members;
  members.clear();
  for (const GridItem& item : grid.items) {
    if (const Grid* inner = std::get_if<Grid>(&item)) {
      const SceneGrid& of = grids.all[inner->index_];
      members.push_back({{0, 0, of.size.x, of.size.y}, of.baseline});
    } else {
      const StillLabel& of = still[index_in(item)];
      members.push_back({of.box, of.baseline});
    }
  }
  grid.corners.resize(members.size());
  const Result<PixelPoint> size = plan_grid(members, grid.options, grid.corners);
  grid.size = size ? *size : PixelPoint{};  // options were checked when they were set, boxes are finite
  grid.baseline = members.empty() ? 0 : grid.corners[0].y + members[0].baseline - members[0].box.top;
}

namespace {

/// A length that an anchor's fraction can be taken of.
float divisor(float side) { return side > 1e-3F ? side : 1e-3F; }

}  // namespace

/// The grid's anchor as a point of each label's own box: about it all of them are scaled and turned alike.
void SceneState::place_members(std::uint32_t at, const Placement& where, PixelPoint anchor, PixelPoint from) {
  const SceneGrid& grid = grids.all[at];
  for (std::size_t k = 0; k < grid.items.size(); ++k) {
    const PixelPoint corner{from.x + grid.corners[k].x, from.y + grid.corners[k].y};
    if (const Grid* inner = std::get_if<Grid>(&grid.items[k])) {
      place_members(inner->index_, where, anchor, corner);
      continue;
    }
    const std::uint32_t i = index_in(grid.items[k]);
    Placement p = where;
    p.anchor = {(anchor.x - corner.x) / divisor(still[i].box.width()),
                (anchor.y - corner.y) / divisor(still[i].box.height())};
    if (p != placement_of(i)) set_placement(i, p);
  }
}

}  // namespace grafema
