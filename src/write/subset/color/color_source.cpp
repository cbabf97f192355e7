// SPDX-License-Identifier: MIT
// Finds color glyphs and walks their paints.
#include "write/subset/color/color_source.hpp"

#include <algorithm>

namespace grafema::detail {

ColorSource::ColorSource(const TableView& colr)
    : colr_(colr), layers_(colr.u32(18) == 0 ? TableView{} : colr.from(colr.u32(18))) {
  const TableView bases = colr.u16(0) == 0 || colr.u32(14) == 0 ? TableView{} : colr.from(colr.u32(14));
  const std::size_t count =
      bases.empty() ? 0 : std::min<std::size_t>(bases.u32(0), (bases.bytes.size() - 4) / 6);
  for (std::size_t i = 0; i < count; ++i) {
    const std::uint32_t offset = bases.u32(6 + i * 6);
    if (offset != 0) paints_.emplace(bases.u16(4 + i * 6), colr.u32(14) + std::size_t{offset});
  }
  const TableView old = colr.u32(4) == 0 ? TableView{} : colr.from(colr.u32(4));
  for (std::size_t i = 0; i < colr.u16(2) && old.holds(i * 6, 6); ++i) {
    records_.emplace(old.u16(i * 6), std::pair(old.u16(i * 6 + 2), old.u16(i * 6 + 4)));
  }
}

tl::unexpected<Error> bad_paint(const ColorSource& source, std::size_t at) {
  return damaged(source.colr(), at, "a paint of a known format inside the table, nested no deeper than 64");
}

namespace {

/// Walks the paints below one, each once.
class PaintWalk {
 public:
  PaintWalk(const ColorSource& source, const std::function<void(std::uint32_t)>& add)
      : source_(source), add_(add) {}

  Result<void> walk(std::size_t at, std::size_t depth = 0) {
    const TableView& colr = source_.colr();
    const std::uint8_t format = colr.u8(at);
    if (depth > kMaxPaintDepth || format == 0 || format > kLastPaint ||
        !colr.holds(at, kPaintLayouts[format].bytes)) {
      return bad_paint(source_, at);
    }
    if (!seen_.insert(at).second) return {};
    const PaintLayout& layout = kPaintLayouts[format];
    if (layout.glyph != 0) add_(colr.u16(at + layout.glyph));
    if (format == kPaintLayers) {
      const std::size_t count = colr.u8(at + 1), first = colr.u32(at + 2);
      for (std::size_t i = 0; i < count; ++i) {
        const std::size_t paint = source_.layer_paint(first + i);
        if (paint == 0) return bad_paint(source_, at);
        if (const Result<void> done = walk(paint, depth + 1); !done) return done;
      }
    }
    for (const std::uint8_t child : layout.paints) {
      if (child == 0) continue;
      if (const Result<void> done = walk(at + u24(colr, at + child), depth + 1); !done) return done;
    }
    return {};
  }

 private:
  const ColorSource& source_;
  const std::function<void(std::uint32_t)>& add_;
  std::set<std::size_t> seen_;
};

}  // namespace

Result<void> visit_color_parts(const ColorSource& source, std::uint32_t glyph,
                               const std::function<void(std::uint32_t)>& add) {
  const TableView& colr = source.colr();
  const auto [first, length] = source.record_of(glyph);
  for (std::size_t i = 0; i < length && colr.holds(source.layer_at(first + i), 4); ++i) {
    add(colr.u16(source.layer_at(first + i)));
  }
  const std::size_t at = source.paint_of(glyph);
  return at == 0 ? Result<void>() : PaintWalk(source, add).walk(at);
}

}  // namespace grafema::detail
