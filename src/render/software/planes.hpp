// SPDX-License-Identifier: MIT
// What is painted beside the target before a composite shows it there: joined layers, labels that fade.
#pragma once

#include <vector>

#include "render/software/paint_quads.hpp"

namespace grafema::detail {

/// Each as large as the target. Bands write their own rows alone.
struct Planes {
  int width = 0;
  bool reads_beside = false;  ///< light looks at rows of other bands: then there must be one alone
  std::vector<Parts> shape;
  std::optional<Image> sheet;  ///< rgba8, as the target is while it is painted on: multiplied by alpha

  Parts& at(int x, int y) {
    return shape[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)];
  }
  /// Of the largest parts of all letters there is one shape.
  void keep(int x, int y, Parts parts) { at(x, y) = larger(at(x, y), parts); }
};

}  // namespace grafema::detail
