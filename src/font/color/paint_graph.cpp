// SPDX-License-Identifier: MIT
// Reads paint graphs of COLR version 1 with all variation applied.
#include <fmt/format.h>

#include <algorithm>

#include "base/numbers.hpp"
#include "font/color/color_tables.hpp"
#include "font/variation/axes.hpp"

namespace grafema::detail {
namespace {

// Far above what glyphs of real fonts hold; they bound what a hostile file can ask for.
constexpr std::size_t kMaxPaints = 16384, kMaxDepth = 64,
                      kMaxStops = 65536;  // stops of all gradients together

/// What a number of a paint counts: font units, or fractions with 14 or 16 bits.
enum class Unit : std::uint8_t { units, f2dot14, fixed };

class GraphReader {
 public:
  GraphReader(const TableView& colr, const std::vector<float>& coordinates)
      : colr_(colr), bases_(list_at(14)), layers_(list_at(18)), clips_(list_at(22)) {
    if (colr.u32(26) != 0) map_ = IndexMap(colr.from(colr.u32(26)));
    has_map_ = colr.u32(26) != 0;
    if (colr.u32(30) != 0) variations_ = ItemVariations::read(colr.from(colr.u32(30)), coordinates);
  }

  Result<std::optional<PaintGraph>> read(std::uint32_t glyph) {
    const std::size_t at = find_base(glyph);
    if (at == 0) return std::optional<PaintGraph>();
    const Result<std::uint32_t> root = read_glyph(glyph, at);
    if (!root) return fail(root.error());
    return std::optional(std::move(graph_));
  }

 private:
  TableView list_at(std::size_t field) const {
    return colr_.u32(field) == 0 ? TableView{colr_.tag, {}} : colr_.from(colr_.u32(field));
  }
  std::uint8_t u8(std::size_t at) const {
    return colr_.holds(at, 1) ? static_cast<std::uint8_t>(colr_.bytes[at]) : std::uint8_t{0};
  }
  std::size_t u24(std::size_t at) const { return std::size_t{u8(at)} << 16 | colr_.u16(at + 1); }

  /// Offset of the glyph's root paint in the table; 0 where it has none.
  std::size_t find_base(std::uint32_t glyph) const {
    std::size_t low = 0, high = std::min<std::size_t>(bases_.u32(0), bases_.bytes.size() / 6);
    while (low < high) {
      const std::size_t middle = (low + high) / 2;
      const std::uint16_t own = bases_.u16(4 + middle * 6);
      if (own == glyph) return colr_.u32(14) + std::size_t{bases_.u32(6 + middle * 6)};
      if (own < glyph) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return 0;
  }

  /// The delta of the `i`-th number of a paint whose numbers are varied from `base` on.
  float delta(std::uint32_t base, std::size_t i) const {
    if (base == 0xFFFFFFFF || variations_.empty()) return 0;
    const auto index = static_cast<std::uint32_t>(base + i);
    return variations_.delta(has_map_ ? map_.find(index) : VariationIndex{index >> 16, index & 0xFFFF});
  }

  /// Consecutive numbers of one record, the varying base of which stands behind them.
  struct Numbers {
    std::size_t at;
    std::uint32_t base;
    std::size_t next = 0;
  };
  float take(Numbers& from, Unit unit) const {
    const float change = delta(from.base, from.next++);
    const std::size_t at = from.at;
    from.at += unit == Unit::fixed ? 4 : 2;
    if (unit == Unit::units) return static_cast<float>(colr_.s16(at)) + change;
    return unit == Unit::f2dot14 ? f2dot14(colr_, at) + change / 16384.0F
                                 : fixed(colr_, at) + change / 65536.0F;
  }
  Numbers numbers(std::size_t at, std::size_t bytes, bool varies) const {
    return {at, varies ? colr_.u32(at + bytes) : 0xFFFFFFFFU};
  }

  Result<std::uint32_t> read_glyph(std::uint32_t glyph, std::size_t at) {
    const Result<std::uint32_t> root = read_paint(at);
    if (root) graph_.paints[*root].clip = find_clip(glyph);
    return root;
  }

  std::optional<FontRect> find_clip(std::uint32_t glyph) const {
    const std::size_t list = colr_.u32(22),
                      count = clips_.bytes.size() < 5
                                  ? 0
                                  : std::min<std::size_t>(clips_.u32(1), clips_.bytes.size() / 7);
    std::size_t low = 0, high = count;
    while (low < high) {  // the first clip that does not end before the glyph; clips ascend
      const std::size_t middle = (low + high) / 2;
      if (colr_.u16(list + 5 + middle * 7 + 2) < glyph) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    const std::size_t record = list + 5 + low * 7;
    if (low == count || glyph < colr_.u16(record)) return std::nullopt;
    const std::size_t box = list + u24(record + 4);
    Numbers n = numbers(box + 1, 8, u8(box) == 2);
    FontRect clip;
    for (float* side : {&clip.x_min, &clip.y_min, &clip.x_max, &clip.y_max}) *side = take(n, Unit::units);
    return clip;
  }

  /// Appends the paint at `at` and what hangs on it; gives its index.
  Result<std::uint32_t> read_paint(std::size_t at) {
    if (!colr_.holds(at, 1)) return damaged(colr_, at, "a paint");
    if (graph_.paints.size() == kMaxPaints) return damaged(colr_, at, "a glyph of at most 16384 paints");
    if (path_.size() == kMaxDepth) return damaged(colr_, at, "paints nested no deeper than 64");
    if (std::find(path_.begin(), path_.end(), at) != path_.end()) {
      return damaged(colr_, at, "a paint that does not hold itself");
    }
    path_.push_back(at);
    const auto index = static_cast<std::uint32_t>(graph_.paints.size());
    graph_.paints.emplace_back();
    Paint paint;
    const Result<void> read = read_into(at, paint);
    path_.pop_back();
    if (!read) return fail(read.error());
    graph_.paints[index] = std::move(paint);
    return index;
  }

  Result<void> read_into(std::size_t at, Paint& paint) {
    const unsigned format = u8(at);
    if (format == 1) return read_layers(at, paint);
    if (format == 2 || format == 3) return read_solid(at, format == 3, paint);
    if (format >= 4 && format <= 9) return read_gradient(at, format, paint);
    if (format == 10) {
      paint.kind = PaintKind::glyph;
      paint.glyph = GlyphId{colr_.u16(at + 4)};
      return add_child(at, 1, paint);
    }
    if (format == 11) return read_reference(at, paint);
    if (format >= 12 && format <= 31) return read_transform(at, format, paint);
    if (format != 32) {
      return damaged(colr_, at, "a paint of format 1 to 32", fmt::format("format {}", format));
    }
    paint.kind = PaintKind::composite;
    if (u8(at + 4) > static_cast<unsigned>(CompositeMode::luminosity)) {
      return damaged(colr_, at + 4, "a composite mode of 0 to 27", fmt::format("{}", u8(at + 4)));
    }
    paint.mode = static_cast<CompositeMode>(u8(at + 4));
    if (Result<void> source = add_child(at, 1, paint); !source) return source;
    return add_child(at, 5, paint);
  }

  /// The child whose three-byte offset from the paint stands at `field`.
  Result<void> add_child(std::size_t at, std::size_t field, Paint& paint) {
    const Result<std::uint32_t> child = read_paint(at + u24(at + field));
    if (!child) return fail(child.error());
    paint.children.push_back(*child);
    return {};
  }

  Result<void> read_layers(std::size_t at, Paint& paint) {
    paint.kind = PaintKind::layers;
    const std::size_t count = u8(at + 1), first = colr_.u32(at + 2);
    for (std::size_t i = first; i < first + count; ++i) {
      if (i >= layers_.u32(0) || !layers_.holds(4 + i * 4, 4)) {
        return damaged(colr_, at, "layers that exist", fmt::format("layer {}", i));
      }
      const Result<std::uint32_t> child = read_paint(colr_.u32(18) + std::size_t{layers_.u32(4 + i * 4)});
      if (!child) return fail(child.error());
      paint.children.push_back(*child);
    }
    return {};
  }

  Result<void> read_reference(std::size_t at, Paint& paint) {
    const std::uint16_t glyph = colr_.u16(at + 1);
    const std::size_t base = find_base(glyph);
    if (base == 0) return damaged(colr_, at, "a glyph that has a paint", fmt::format("glyph {}", glyph));
    paint.kind = PaintKind::layers;
    const Result<std::uint32_t> child = read_glyph(glyph, base);
    if (!child) return fail(child.error());
    paint.children.push_back(*child);
    return {};
  }

  Result<void> read_solid(std::size_t at, bool varies, Paint& paint) {
    Numbers n = numbers(at + 3, 2, varies);
    paint.color = {colr_.u16(at + 1), std::clamp(take(n, Unit::f2dot14), 0.0F, 1.0F)};
    return {};
  }

  Result<void> read_stops(std::size_t line, bool varies, Paint& paint) {
    const std::size_t count = colr_.u16(line + 1), bytes = varies ? 10 : 6;
    stops_ += count;
    if (stops_ > kMaxStops || !colr_.holds(line + 3, count * bytes)) {
      return damaged(colr_, line, "color stops that fit the table", fmt::format("{}", count));
    }
    paint.extend = u8(line) <= 2 ? static_cast<GradientExtend>(u8(line)) : GradientExtend::pad;
    for (std::size_t i = 0; i < count; ++i) {
      const std::size_t stop = line + 3 + i * bytes;
      const std::uint32_t base = varies ? colr_.u32(stop + 6) : 0xFFFFFFFFU;
      const float offset = f2dot14(colr_, stop) + delta(base, 0) / 16384.0F,
                  alpha = f2dot14(colr_, stop + 4) + delta(base, 1) / 16384.0F;
      paint.stops.push_back({offset, {colr_.u16(stop + 2), std::clamp(alpha, 0.0F, 1.0F)}});
    }
    std::stable_sort(paint.stops.begin(), paint.stops.end(),
                     [](const ColorStop& a, const ColorStop& b) { return a.offset < b.offset; });
    return {};
  }

  Result<void> read_gradient(std::size_t at, unsigned format, Paint& paint) {
    const bool varies = (format & 1) != 0;
    const unsigned kind = format / 2 - 2;  // linear, radial, sweep
    Numbers n = numbers(at + 4, kind == 2 ? 8 : 12, varies);
    if (kind == 0) {
      paint.kind = PaintKind::linear_gradient;
      for (FontPoint& p : paint.points) p.x = take(n, Unit::units), p.y = take(n, Unit::units);
    } else if (kind == 1) {
      paint.kind = PaintKind::radial_gradient;
      for (std::size_t i = 0; i < 2; ++i) {
        paint.points[i].x = take(n, Unit::units), paint.points[i].y = take(n, Unit::units);
        const float stored = take(n, Unit::units);
        paint.radii[i] =
            std::max(0.0F, colr_.s16(n.at - 2) < 0 ? stored + 65536.0F : stored);  // radii have no sign
      }
    } else {
      paint.kind = PaintKind::sweep_gradient;
      paint.points[0].x = take(n, Unit::units), paint.points[0].y = take(n, Unit::units);
      for (float& angle : paint.angles) angle = (take(n, Unit::f2dot14) + 1) * 180;
    }
    return read_stops(at + u24(at + 1), varies, paint);
  }

  /// All of formats 12 to 31 become one matrix.
  Result<void> read_transform(std::size_t at, unsigned format, Paint& paint) {
    paint.kind = PaintKind::transform;
    paint.transform = format <= 13 ? read_matrix(at + u24(at + 4), format == 13)
                                   : read_move(at + 4, format & ~1U, (format & 1) != 0);
    return add_child(at, 1, paint);
  }

  FontTransform read_matrix(std::size_t at, bool varies) const {
    Numbers n = numbers(at, 24, varies);
    FontTransform m;
    for (float* v : {&m.xx, &m.yx, &m.xy, &m.yy, &m.dx, &m.dy}) *v = take(n, Unit::fixed);
    return m;
  }

  FontTransform read_move(std::size_t at, unsigned kind, bool varies) const {
    const bool around = kind == 18 || kind == 22 || kind == 26 || kind == 30;
    const bool single = kind == 20 || kind == 22 || kind == 24 || kind == 26;
    Numbers n = numbers(at, (single ? 2U : 4U) + (around ? 4U : 0U), varies);
    FontTransform m;
    if (kind == 14) {
      m.dx = take(n, Unit::units), m.dy = take(n, Unit::units);
      return m;
    }
    const float a = take(n, Unit::f2dot14), b = single ? a : take(n, Unit::f2dot14);
    const auto angle = [](float half_turns) { return sine_cosine(static_cast<double>(half_turns) * 180); };
    const auto slope = [&angle](float half_turns) {
      const SineCosine v = angle(half_turns);
      return static_cast<float>(v.cosine == 0 ? 0 : v.sine / v.cosine);
    };
    if (kind <= 22) {
      m.xx = a, m.yy = b;
    } else if (kind <= 26) {  // counter-clockwise
      m.xx = m.yy = static_cast<float>(angle(a).cosine);
      m.yx = static_cast<float>(angle(a).sine);
      m.xy = -m.yx;
    } else {
      m.xy = -slope(a);
      m.yx = slope(b);
    }
    if (around) {
      const float x = take(n, Unit::units), y = take(n, Unit::units);
      m.dx = x - (m.xx * x + m.xy * y);
      m.dy = y - (m.yx * x + m.yy * y);
    }
    return m;
  }

  TableView colr_, bases_, layers_, clips_;
  IndexMap map_;
  bool has_map_ = false;
  ItemVariations variations_;
  PaintGraph graph_;
  std::vector<std::size_t> path_;
  std::size_t stops_ = 0;
};

}  // namespace

Result<std::optional<PaintGraph>> read_paint_graph(const TableView& colr, std::uint32_t glyph,
                                                   const std::vector<float>& coordinates) {
  if (colr.u16(0) < 1 || !colr.holds(0, 34)) return std::optional<PaintGraph>();
  return GraphReader(colr, coordinates).read(glyph);
}

}  // namespace grafema::detail
