// SPDX-License-Identifier: MIT
// The grids of a scene: trees of labels and grids, laid out from their root.
#pragma once

#include <vector>

#include "grafema/draw/grid.hpp"

namespace grafema::detail {

struct SceneGrid {
  std::uint32_t generation = 0;  ///< of handles; even: there is no grid
  std::uint32_t parent = 0;      ///< index of the grid that it is a member of; 0: none
  std::vector<GridItem> items;
  GridOptions options;
  Placement placement;
  PixelPoint size;
  float baseline = 0;               ///< of its first member's first line
  std::vector<PixelPoint> corners;  ///< of its members, from its own
  bool is_listed = false;           ///< it stands in the list of what is to be laid out
};

struct GridBook {
  std::vector<SceneGrid> all = std::vector<SceneGrid>(1);  ///< 0 is none
  std::vector<std::uint32_t> free, todo;                   ///< `todo`: roots whose members changed
  std::vector<GridMember> members;                         ///< working memory
  std::size_t size() const { return all.size(); }
  bool is_alive(std::uint32_t grid) const { return (all[grid].generation & 1U) != 0; }
  std::uint32_t root_of(std::uint32_t grid) const {
    while (all[grid].parent != 0) grid = all[grid].parent;
    return grid;
  }
  void touch(std::uint32_t grid) {
    const std::uint32_t root = root_of(grid);
    if (all[root].is_listed) return;
    all[root].is_listed = true;
    todo.push_back(root);
  }
};

}  // namespace grafema::detail
