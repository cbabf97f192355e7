// SPDX-License-Identifier: MIT
// Axes that a subset holds still, and what that makes of regions and rows of deltas.
#pragma once

#include <array>
#include <map>
#include <vector>

#include "font/variation/item_variations.hpp"
#include "grafema/font/face.hpp"
#include "write/tables/table_writer.hpp"

namespace grafema::detail {

/// Start, peak and end on every axis, as the file has them (2.14).
using Region = std::vector<std::array<std::int16_t, 3>>;

class Pins {
 public:
  Pins() = default;
  /// Fails with `bad_value` for an axis that the face does not have.
  static Result<Pins> read(const Face& face, std::span<const AxisValue> wanted);

  bool any() const { return any_; }
  /// Whether no axis is left to move.
  bool all() const { return any_ && left_ == 0; }
  bool holds(std::size_t axis) const { return axis < held_.size() && held_[axis]; }
  std::size_t axis_count() const { return held_.size(); }
  std::size_t axes_left() const { return left_; }
  /// Where the axis is held, normalized; where `holds`.
  float place(std::size_t axis) const { return place_[axis]; }
  /// The axis's number among those that are left; only where it is not held.
  std::size_t renumbered(std::size_t axis) const;

  /// Takes the axes that are held out of the region and gives what it weighs there.
  float reduce(Region& region) const;

 private:
  std::vector<bool> held_;
  std::vector<float> place_;
  std::size_t left_ = 0;
  bool any_ = false;
};

/// The regions of an item variation store with pinned axes taken out.
struct ReducedRegions {
  std::vector<Region> regions;              ///< each once
  std::vector<std::pair<float, int>> from;  ///< of each old region: weight, and new one or -1 for the base
};
/// Empty where the store is damaged or is not of the face's axes.
ReducedRegions reduce_regions(const TableView& store, const Pins& pins);

/// The rows of an item variation store that are asked for, renumbered in the order of asking, with pinned
/// axes taken out.
class VariationRows {
 public:
  static constexpr std::uint32_t kNone = 0xFFFFFFFF;
  /// `base`: what pinned axes add. `index`: outer and inner, 16 bits each; kNone where nothing varies.
  struct Row {
    int base = 0;
    std::uint32_t index = kNone;
  };

  VariationRows() = default;
  VariationRows(const TableView& store, const Pins& pins);
  Row take(VariationIndex index);
  /// A row of zeros, for a place in a map that must name one.
  std::uint32_t zero();
  bool empty() const { return groups_.empty(); }
  std::vector<std::byte> write() const;

 private:
  struct Group {
    std::vector<std::uint16_t> regions;
    std::map<std::vector<std::int32_t>, std::uint16_t> known;
    std::vector<const std::vector<std::int32_t>*> rows;
  };
  std::vector<std::int32_t> read_row(VariationIndex index, TableView& group) const;

  TableView store_;
  std::size_t axes_left_ = 0;
  ReducedRegions reduced_;
  std::vector<Group> groups_;
  std::map<std::vector<std::uint16_t>, std::size_t> open_;  ///< the last group of those regions
};

/// Maps `0, 1, 2 ...` to rows (OpenType, "Associating target items to variation data").
std::vector<std::byte> write_index_map(std::vector<std::uint32_t> rows);

}  // namespace grafema::detail
