// SPDX-License-Identifier: MIT
// Advances, bearings and origins of a subset's glyphs: hmtx, vmtx, VORG, HVAR and VVAR.
#pragma once

#include <vector>

#include "write/subset/subset_plan.hpp"

namespace grafema::detail {

struct NewMetrics {
  struct Glyph {
    int advance = 0, bearing = 0;
  };
  std::vector<Glyph> horizontal, vertical;  ///< by new number; vertical ones only where the face has them
  std::vector<FontRect> boxes;              ///< of the outlines; empty for glyphs without
};

/// Of the kept glyphs, pinned axes applied; bearings are those of the file.
NewMetrics read_metrics(const SubsetPlan& plan);

/// hmtx and hhea, and their vertical like where there are any. Extents in the headers are those of the boxes.
std::vector<WrittenTable> write_metrics(const SubsetPlan& plan, const NewMetrics& metrics);

/// VORG, HVAR and VVAR, as far as the face has them and there is anything left to say.
std::vector<WrittenTable> subset_metric_tables(const SubsetPlan& plan);

}  // namespace grafema::detail
