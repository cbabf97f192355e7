// SPDX-License-Identifier: MIT
// Small tables of whole-face facts: head, hhea, hmtx, OS/2, post.
#pragma once

#include "font/sfnt.hpp"
#include "grafema/face.hpp"

namespace grafema::detail {

/// Advances and left side bearings (OpenType, hmtx).
struct HorizontalMetrics {
  TableView table;
  std::uint32_t long_count = 0;  ///< glyphs with an advance of their own; later ones repeat the last

  std::uint16_t advance(std::uint32_t glyph) const;
  std::int16_t left_side_bearing(std::uint32_t glyph) const;
};

struct FaceTables {
  std::uint16_t units_per_em = 0;
  bool long_offsets = false;
  std::uint32_t glyph_count = 0;
  HorizontalMetrics horizontal;
};

/// What must be right before a face can be used: head, maxp, hhea, hmtx.
Result<FaceTables> read_required(const Directory& directory);

LineMetrics read_line_metrics(const Directory& directory);

/// The facts that stand in tables; measured heights and the crisp size are added by the face.
FaceFacts read_facts(const Directory& directory);

}  // namespace grafema::detail
