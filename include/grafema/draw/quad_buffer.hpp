// SPDX-License-Identifier: MIT
// Memory for quads that grows by itself.
#pragma once

#include <vector>

#include "grafema/draw/quads.hpp"

namespace grafema {

/// Owns what a QuadList points at and keeps its capacity: `emit_quads` fills it, renderers take `list()`.
/// Once it has held a frame as large as the present one nothing is allocated.
class QuadBuffer {
 public:
  /// What was emitted last; good until the next time.
  const QuadList& list() const { return list_; }
  /// The list over all memory that there is, for emit_quads.
  QuadList& begin() {
    list_.quads = quads_, list_.batches = batches_, list_.records = records_;
    return list_;
  }
  /// Takes as much memory as the list needs; false where it has that already.
  bool grow() {
    if (list_.complete()) return false;
    const auto more = [](auto& memory, std::size_t needed) {
      if (memory.size() < needed) memory.resize(needed + needed / 2);
    };
    more(quads_, list_.quads_needed), more(batches_, list_.batches_needed);
    more(records_, list_.records_needed);
    return true;
  }

 private:
  std::vector<GlyphQuad> quads_;
  std::vector<Batch> batches_;
  std::vector<LayerRecord> records_;
  QuadList list_;
};

}  // namespace grafema
