// SPDX-License-Identifier: MIT
// COLR as it stands in the file: layers of version 0, paints of version 1 (OpenType, COLR).
#pragma once

#include <functional>
#include <map>
#include <set>

#include "font/container/table.hpp"
#include "write/subset/color/paint_layout.hpp"

namespace grafema::detail {

inline std::size_t u24(const TableView& table, std::size_t at) {
  return std::size_t{table.u8(at)} << 16 | table.u16(at + 1);
}

// Far above real fonts; they bound what a hostile file can ask for.
constexpr std::size_t kMaxPaints = 1 << 20, kMaxPaintDepth = 64;

/// The table as it stands in the file.
class ColorSource {
 public:
  ColorSource() = default;
  explicit ColorSource(const TableView& colr);

  const TableView& colr() const { return colr_; }
  /// Where the glyph's root paint stands; 0: nowhere.
  std::size_t paint_of(std::uint32_t glyph) const {
    const auto found = paints_.find(glyph);
    return found == paints_.end() ? 0 : found->second;
  }
  /// First layer and count of version 0.
  std::pair<std::size_t, std::size_t> record_of(std::uint32_t glyph) const {
    const auto found = records_.find(glyph);
    return found == records_.end() ? std::pair<std::size_t, std::size_t>(0, 0)
                                   : std::pair<std::size_t, std::size_t>(found->second);
  }
  bool has_record(std::uint32_t glyph) const { return records_.count(glyph) != 0; }
  std::size_t layer_at(std::size_t layer) const { return colr_.u32(8) + layer * 4; }
  /// Where a paint of the layer list stands; 0: nowhere.
  std::size_t layer_paint(std::size_t layer) const {
    if (layers_.empty() || layer >= layers_.u32(0)) return 0;
    const std::uint32_t offset = layers_.u32(4 + layer * 4);
    return offset == 0 ? 0 : colr_.u32(18) + std::size_t{offset};
  }

 private:
  TableView colr_, layers_;
  std::map<std::uint32_t, std::size_t> paints_;
  std::map<std::uint32_t, std::pair<std::uint16_t, std::uint16_t>> records_;
};

/// Where a paint can't be read.
tl::unexpected<Error> bad_paint(const ColorSource& source, std::size_t at);

/// Calls `add` with every glyph that a color glyph is painted with. Fails where its paints can't be read.
Result<void> visit_color_parts(const ColorSource& source, std::uint32_t glyph,
                               const std::function<void(std::uint32_t)>& add);

}  // namespace grafema::detail
