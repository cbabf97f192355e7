// SPDX-License-Identifier: MIT
// Batches in their order, and what must be emptied before one is painted beside the target.
#pragma once

#include <bit>
#include <span>

#include "grafema/draw/scene_memory.hpp"

namespace grafema::detail {

constexpr TexelKind composite_of(RenderTarget plane) {
  return plane == RenderTarget::mask ? TexelKind::mask : TexelKind::intermediate;
}

/// Of a composite; else that of any of its glyphs.
inline TexelKind kind_of(const SceneMemory& scene, const SceneBatch& batch) {
  const auto number = static_cast<std::size_t>(std::countr_zero(batch.arrays));
  return batch.is_composite && number < scene.arrays().size() ? scene.arrays()[number].kind
                                                              : TexelKind::coverage;
}

/// Calls `draw` for each batch, and `empty` before the first on a plane with that plane and the composite
/// that will show it, which says where. What no composite shows is not drawn.
template <class Empty, class Draw>
void walk_batches(const SceneMemory& scene, Empty empty, Draw draw) {
  const std::span<const SceneBatch> batches = scene.batches();
  const auto kind_of = [&](const SceneBatch& batch) { return detail::kind_of(scene, batch); };
  bool is_open[3] = {true, false, false};  // by RenderTarget
  for (std::size_t b = 0; b < batches.size(); ++b) {
    const SceneBatch& batch = batches[b];
    bool& open = is_open[static_cast<std::size_t>(batch.target)];
    if (!open) {
      std::size_t composite = b + 1;
      while (composite < batches.size() && kind_of(batches[composite]) != composite_of(batch.target))
        ++composite;
      if (composite == batches.size()) continue;
      empty(batch.target, batches[composite]);
      open = true;
    }
    draw(batch);
    if (kind_of(batch) == TexelKind::mask) is_open[static_cast<std::size_t>(RenderTarget::mask)] = false;
    if (kind_of(batch) == TexelKind::intermediate)
      is_open[static_cast<std::size_t>(RenderTarget::intermediate)] = false;
  }
}

}  // namespace grafema::detail
