// SPDX-License-Identifier: MIT
// Small tables of whole-face facts: head, maxp, hhea, vhea, OS/2, post, VORG, and how MVAR changes them.
#pragma once

#include <optional>
#include <string_view>

#include "font/container/sfnt.hpp"
#include "font/metrics/long_metrics.hpp"
#include "font/variation/item_variations.hpp"
#include "grafema/font/face.hpp"

namespace grafema::detail {

struct FaceTables {
  std::uint16_t units_per_em = 0;  ///< 0 where `head` says nothing usable
  bool long_offsets = false;
  std::uint32_t glyph_count = 0;
  LongMetrics horizontal;
  LongMetrics vertical;  ///< no table where the face has none
};

/// What must be right before a face can be used: head, maxp, hhea, hmtx.
Result<FaceTables> read_required(const Directory& directory);

/// What the axes change in whole-face metrics (OpenType, MVAR).
class MetricVariations {
 public:
  MetricVariations() = default;
  MetricVariations(const TableView& mvar, const std::vector<float>& coordinates);
  /// 0 for values that do not change.
  float delta(const char* value) const;

 private:
  TableView table_;
  ItemVariations store_;
};

LineMetrics read_line_metrics(const Directory& directory, const MetricVariations& variations);
/// Of vertical lines, from their center line to the right and left; nothing where the face has no vhea.
std::optional<LineMetrics> read_vertical_line_metrics(const Directory& directory,
                                                      const MetricVariations& variations);

/// Where a glyph's vertical origin stands above the baseline (VORG); nothing where there is no such table.
std::optional<float> find_vertical_origin(const TableView& vorg, std::uint32_t glyph);

OutlineKind find_outline_kind(const Directory& directory);

/// Capitals by which their height is told, the first that a face has: flat at the top, then the others.
constexpr std::u32string_view kTellingCapitals = U"HIEFTLZXNMKVWYUBDPRAJSCGOQ";

/// The facts that stand in tables; measured heights and the crisp size are added by the face.
FaceFacts read_facts(const Directory& directory, const MetricVariations& variations);

}  // namespace grafema::detail
