// SPDX-License-Identifier: MIT
// TrueType outlines of a subset: glyf, loca and gvar, with pinned axes moved into the points.
#pragma once

#include <functional>
#include <optional>

#include "font/outline/cff.hpp"
#include "font/outline/glyf.hpp"
#include "write/subset/subset_metrics.hpp"

namespace grafema::detail {

/// What outlines are made of: parts of composites, letter and accent of old CFF glyphs.
class OutlineParts {
 public:
  static Result<OutlineParts> read(const Face& face);
  /// Calls `add` with the glyphs that the glyph draws beside its own contours.
  Result<void> visit(std::uint32_t glyph, const std::function<void(std::uint32_t)>& add) const;

 private:
  GlyphTables tables_;
  std::optional<CffOutlines> cff_;
};

/// The tables that outlines of glyf stand in, at the default place.
GlyphTables read_glyph_tables(const Face& face);

/// What `maxp` says of the glyphs: the most of any.
struct MostOfGlyphs {
  int points = 0, contours = 0, parts = 0;
};

/// glyf, loca and, where axes are left to move, gvar. Sets the boxes of all glyphs and the bearings of those
/// that pinned axes moved. A glyph that can't be read becomes an empty one and is noted.
Result<std::vector<WrittenTable>> subset_outlines(const SubsetPlan& plan, NewMetrics& metrics,
                                                  MostOfGlyphs& most, Notes* notes);

}  // namespace grafema::detail
