// SPDX-License-Identifier: MIT
// Charstrings of CFF2 with pinned axes moved into their numbers, and without subroutines.
#pragma once

#include <vector>

#include "write/subset/cff/cff_source.hpp"
#include "write/subset/pins.hpp"

namespace grafema::detail {

class PinnedCharstrings {
 public:
  PinnedCharstrings(const CffSource& source, const Pins& pins);

  /// The glyph's charstring for the axes that are left. Fails with `damaged` where it can't be followed.
  Result<std::vector<std::byte>> rewrite(std::uint32_t glyph) const;
  /// Appends a font's private dictionary: which group of regions its charstrings blend, and no hints, which
  /// would have to move as well.
  void write_private(std::size_t font, TableWriter& out) const;
  /// The regions that charstrings blend, their length first; empty where no axis is left.
  std::vector<std::byte> store() const;

 private:
  /// A number and what it changes by in each region of the group.
  struct Operand {
    double base = 0;
    std::vector<double> deltas;
  };
  struct Group {
    std::vector<std::uint16_t> old;      ///< regions
    std::vector<std::uint16_t> regions;  ///< new ones
  };
  struct Machine;

  const CffSource& source_;
  ReducedRegions reduced_;
  std::vector<Group> groups_;
  std::size_t axes_left_ = 0;
};

}  // namespace grafema::detail
