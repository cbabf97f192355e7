// SPDX-License-Identifier: MIT
// Batches in their order, and what must be emptied before one is painted beside the target.
#pragma once

#include <bit>
#include <span>

#include "grafema/draw/set_memory.hpp"

namespace grafema::detail {

constexpr QuadKind cover_of(Onto plane) { return plane == Onto::shape ? QuadKind::joined : QuadKind::faded; }

/// Of a cover; else that of any of its glyphs.
inline QuadKind kind_of(const SetMemory& set, const SetBatch& batch) {
  const auto number = static_cast<std::size_t>(std::countr_zero(batch.arrays));
  return batch.is_cover && number < set.arrays.size() ? set.arrays[number].kind : QuadKind::coverage;
}

/// Calls `draw` for each batch, and `empty` before the first on a plane with that plane and the cover that
/// will show it, which says where. `kind_of` gives a batch's kind, of covers at least. What no cover shows is
/// not drawn.
template <class Batch, class KindOf, class Empty, class Draw>
void walk_batches(std::span<const Batch> batches, KindOf kind_of, Empty empty, Draw draw) {
  bool is_open[3] = {true, false, false};  // by Onto
  for (std::size_t b = 0; b < batches.size(); ++b) {
    const Batch& batch = batches[b];
    bool& open = is_open[static_cast<std::size_t>(batch.onto)];
    if (!open) {
      std::size_t cover = b + 1;
      while (cover < batches.size() && kind_of(batches[cover]) != cover_of(batch.onto)) ++cover;
      if (cover == batches.size()) continue;
      empty(batch.onto, batches[cover]);
      open = true;
    }
    draw(batch);
    if (kind_of(batch) == QuadKind::joined) is_open[static_cast<std::size_t>(Onto::shape)] = false;
    if (kind_of(batch) == QuadKind::faded) is_open[static_cast<std::size_t>(Onto::sheet)] = false;
  }
}

}  // namespace grafema::detail
