// SPDX-License-Identifier: MIT
// How points of TrueType outlines move along the axes (OpenType, gvar).
#pragma once

#include <array>
#include <functional>
#include <vector>

#include "font/container/table.hpp"
#include "grafema/base/geometry.hpp"

namespace grafema::detail {

/// Scratch memory of one outline being read.
struct DeltaScratch {
  std::vector<std::uint16_t> shared_points, own_points;
  std::vector<float> x, y;       ///< deltas as stored
  std::vector<FontPoint> moved;  ///< by one tuple
  std::vector<std::uint8_t> touched;
  std::size_t work = 0;  ///< points looked at, over all tuples and components
};

/// What is to be moved: a glyph's points followed by four phantom ones.
struct GlyphPoints {
  std::span<const FontPoint> points;
  std::span<const std::size_t>
      ends;  ///< one past each contour's last point; empty for composites, whose points are offsets
  std::span<FontPoint> deltas;  ///< as many as points
};

/// The table at one place of the axes.
class GlyphVariations {
 public:
  GlyphVariations() = default;
  /// `coordinates` are normalized. A damaged table moves nothing.
  static GlyphVariations read(const TableView& gvar, const std::vector<float>& coordinates);

  bool empty() const { return coordinates_.empty(); }

  /// Start, peak and end on every axis, 2.14.
  using TupleRegion = std::vector<std::array<std::int16_t, 3>>;
  /// Calls `visit` for every tuple of the glyph, with `points.deltas` set to what it moves where it applies
  /// in full. Asks nothing of the place on the axes but how many there are.
  Result<void> visit_tuples(std::uint32_t glyph, const GlyphPoints& points, DeltaScratch& scratch,
                            const std::function<void(const TupleRegion&)>& visit) const;
  /// The glyph's bytes in the table; empty where nothing moves.
  Result<TableView> find_data(std::uint32_t glyph) const;

  /// Adds to the deltas what moves each point of the glyph. Fails where the glyph's data is damaged.
  Result<void> add_deltas(std::uint32_t glyph, const GlyphPoints& points, DeltaScratch& scratch) const;

 private:
  TupleRegion read_region(const TableView& data, std::size_t header, std::uint16_t index) const;
  template <class Use>
  Result<void> for_each_tuple(std::uint32_t glyph, DeltaScratch& scratch, std::size_t point_count,
                              Use use) const;
  static bool add_tuple(const TableView& data, std::size_t at, bool own, bool shared, float weight,
                        const GlyphPoints& glyph, DeltaScratch& scratch);
  float tuple_weight(const TableView& data, std::size_t header, std::uint16_t index) const;

  TableView table_;
  std::vector<float> coordinates_;
  std::vector<std::uint16_t> active_;  ///< axes that are not at their standard
  std::size_t glyph_count_ = 0, shared_at_ = 0, shared_count_ = 0, data_at_ = 0;
  bool long_offsets_ = false;
};

}  // namespace grafema::detail
