// SPDX-License-Identifier: MIT
// Writes COLR anew: base glyphs, layers and the paints that kept glyphs reach, renumbered (OpenType, COLR).
#include "write/subset/color/subset_color.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>

#include "write/subset/color/color_source.hpp"
#include "write/subset/layout/object_tree.hpp"

namespace grafema::detail {
namespace {

class ColorWriter {
 public:
  explicit ColorWriter(const SubsetPlan& plan) : plan_(plan), source_(plan.table("COLR")) {
    const TableView& colr = source_.colr();
    if (colr.u16(0) == 0) return;
    has_map_ = colr.u32(26) != 0;
    if (has_map_) map_ = IndexMap(colr.from(colr.u32(26)));
    if (colr.u32(30) != 0) rows_ = VariationRows(colr.from(colr.u32(30)), plan.pins);
  }

  Result<std::optional<WrittenTable>> write() {
    TableWriter records, layers;
    std::uint32_t record_count = 0, layer_count = 0;
    write_records(records, layers, record_count, layer_count);
    std::vector<std::pair<std::uint32_t, std::uint32_t>> bases;  // glyph, paint
    for (const std::uint16_t old : plan_.kept) {
      const std::size_t at = source_.paint_of(old);
      if (at == 0) continue;
      const Result<std::uint32_t> paint = copy_paint(at, 0);
      if (!paint) return fail(paint.error());
      bases.emplace_back(static_cast<std::uint32_t>(plan_.to(old)), *paint);
    }
    if (record_count == 0 && bases.empty()) return std::optional<WrittenTable>();
    TreeObject out;
    const bool version1 = !bases.empty();
    out.u16(version1 ? 1 : 0), out.u16(record_count);
    const std::size_t head = version1 ? 34 : 14;
    out.u32(record_count == 0 ? 0U : static_cast<std::uint32_t>(head));
    out.u32(record_count == 0 ? 0U : static_cast<std::uint32_t>(head + records.size()));
    out.u16(layer_count);
    if (version1) {
      out.link32(base_list(bases)), out.link32(layer_list()), out.link32(clip_list());
      out.link32(rows_.empty() || places_.empty() ? kNone : tree_.add(wide_map()));
      out.link32(rows_.empty() || places_.empty() ? kNone : tree_.add(rows_.write()));
    }
    out.append(records.bytes()), out.append(layers.bytes());
    std::optional<std::vector<std::byte>> bytes = tree_.pack(tree_.add(std::move(out)));
    if (!bytes) return fail(make_error(ErrorKind::unsupported, "paints whose offsets fit 24 bits"));
    return std::optional(WrittenTable{tag("COLR"), *std::move(bytes)});
  }

 private:
  static constexpr std::uint32_t kNone = ObjectTree::kNone;

  void write_records(TableWriter& records, TableWriter& layers, std::uint32_t& count, std::uint32_t& total) {
    const TableView& colr = source_.colr();
    for (const std::uint16_t old : plan_.kept) {
      if (!source_.has_record(old)) continue;
      const auto [first, length] = source_.record_of(old);
      const std::uint32_t begin = total;
      for (std::size_t i = 0; i < length && colr.holds(source_.layer_at(first + i), 4); ++i) {
        const int glyph = plan_.to(colr.u16(source_.layer_at(first + i)));
        if (glyph < 0 || total == 0xFFFF) continue;
        layers.s16(glyph), layers.u16(colr.u16(source_.layer_at(first + i) + 2));
        ++total;
      }
      records.u16(static_cast<std::uint32_t>(plan_.to(old))), records.u16(begin), records.u16(total - begin);
      ++count;
    }
  }

  std::uint32_t base_list(const std::vector<std::pair<std::uint32_t, std::uint32_t>>& bases) {
    TreeObject out;
    out.u32(static_cast<std::uint32_t>(bases.size()));
    for (const auto& [glyph, paint] : bases) out.u16(glyph), out.link32(paint);
    return tree_.add(std::move(out));
  }

  std::uint32_t layer_list() {
    if (layer_paints_.empty()) return kNone;
    TreeObject out;
    out.u32(static_cast<std::uint32_t>(layer_paints_.size()));
    for (const std::uint32_t paint : layer_paints_) out.link32(paint);
    return tree_.add(std::move(out));
  }

  std::uint32_t clip_list() {
    const TableView& colr = source_.colr();
    const std::size_t list = colr.u32(22);
    if (list == 0) return kNone;
    std::map<std::uint32_t, std::uint32_t> clips;  // by new glyph
    for (std::size_t i = 0; i < colr.u32(list + 1) && colr.holds(list + 5 + i * 7, 7); ++i) {
      const std::size_t record = list + 5 + i * 7, box = list + u24(colr, record + 4);
      const bool varies = colr.u8(box) == 2;
      auto glyph = std::lower_bound(plan_.kept.begin(), plan_.kept.end(), colr.u16(record));
      if (glyph == plan_.kept.end() || *glyph > colr.u16(record + 2) || !colr.holds(box, varies ? 13 : 9)) {
        continue;
      }
      TreeObject out;
      out.append(slice(box, varies ? 13 : 9));
      if (varies) vary(out, box, 1, 4, 2);
      const std::uint32_t object = tree_.add(std::move(out));
      for (; glyph != plan_.kept.end() && *glyph <= colr.u16(record + 2); ++glyph) {
        if (source_.paint_of(*glyph) != 0) {
          clips.emplace(static_cast<std::uint32_t>(plan_.to(*glyph)), object);
        }
      }
    }
    if (clips.empty()) return kNone;
    struct Run {
      std::uint32_t first, last, object;
    };
    std::vector<Run> runs;
    for (const auto& [glyph, object] : clips) {
      if (!runs.empty() && runs.back().last + 1 == glyph && runs.back().object == object) {
        runs.back().last = glyph;
      } else {
        runs.push_back({glyph, glyph, object});
      }
    }
    TreeObject out;
    out.u8(1), out.u32(static_cast<std::uint32_t>(runs.size()));
    for (const Run& run : runs) out.u16(run.first), out.u16(run.last), out.link24(run.object);
    return tree_.add(std::move(out));
  }

  std::vector<std::byte> slice(std::size_t at, std::size_t bytes) const {
    const auto all = source_.colr().bytes.subspan(at, bytes);
    return {all.begin(), all.end()};
  }

  /// Gives `count` numbers of an object their new rows; those that stand at `at` of both, `stride` bytes
  /// apart, and their base behind them.
  void vary(TreeObject& out, std::size_t from, std::size_t at, std::size_t count, std::size_t bytes,
            std::size_t stride = 0, std::size_t base_at = 0) {
    const TableView& colr = source_.colr();
    if (stride == 0) stride = bytes, base_at = at + count * bytes;
    const std::uint32_t base = colr.u32(from + base_at);
    std::vector<std::uint32_t> rows;
    bool varies = false;
    for (std::size_t i = 0; i < count && base != 0xFFFFFFFF; ++i) {
      const auto index = base + static_cast<std::uint32_t>(i);
      const VariationRows::Row row =
          rows_.take(has_map_ ? map_.find(index) : VariationIndex{index >> 16, index & 0xFFFFU});
      rows.push_back(row.index);
      varies = varies || row.index != VariationRows::kNone;
      const std::size_t field = at + i * stride;
      if (bytes == 2) {
        out.put_u16(field, static_cast<std::uint32_t>(colr.s16(from + field) + row.base));
      } else {
        out.put_u32(field, colr.u32(from + field) + static_cast<std::uint32_t>(row.base));
      }
    }
    out.put_u32(base_at, varies ? static_cast<std::uint32_t>(places_.size()) : 0xFFFFFFFFU);
    if (varies) places_.insert(places_.end(), rows.begin(), rows.end());
  }

  std::vector<std::byte> wide_map() {
    TableWriter out;  // format 1: more entries than 16 bits count; 16 bits for each half
    out.u8(1), out.u8(0x3F), out.u32(static_cast<std::uint32_t>(places_.size()));
    for (const std::uint32_t place : places_) out.u32(place);
    return std::move(out.bytes());
  }

  std::uint32_t copy_color_line(std::size_t at, bool varies) {
    const TableView& colr = source_.colr();
    const std::size_t count = colr.u16(at + 1), bytes = varies ? 10 : 6;
    TreeObject out;
    if (!colr.holds(at, 3 + count * bytes)) return kNone;
    out.append(slice(at, 3 + count * bytes));
    for (std::size_t i = 0; varies && i < count; ++i) {
      const std::size_t stop = 3 + i * bytes;
      vary(out, at, stop, 2, 2, 4, stop + 6);
    }
    return tree_.add(std::move(out));
  }

  std::uint32_t copy_transform(std::size_t at, bool varies) {
    if (!source_.colr().holds(at, varies ? 28 : 24)) return kNone;
    TreeObject out;
    out.append(slice(at, varies ? 28 : 24));
    if (varies) vary(out, at, 0, 6, 4);
    return tree_.add(std::move(out));
  }

  Result<std::uint32_t> copy_paint(std::size_t at, std::size_t depth) {
    const TableView& colr = source_.colr();
    const std::uint8_t format = colr.u8(at);
    if (depth > kMaxPaintDepth || format == 0 || format > kLastPaint ||
        !colr.holds(at, kPaintLayouts[format].bytes) || copied_.size() > kMaxPaints) {
      return bad_paint(source_, at);
    }
    if (const auto known = copied_.find(at); known != copied_.end()) {
      if (known->second == kNone) return bad_paint(source_, at);  // a paint inside itself
      return known->second;
    }
    copied_[at] = kNone;
    const PaintLayout& layout = kPaintLayouts[format];
    const bool varies = format % 2 == 1 && format > 1 && format != kPaintColorGlyph;
    TreeObject fields;
    fields.append(slice(at, layout.bytes));
    if (layout.number_count > 0) vary(fields, at, layout.numbers, layout.number_count, 2);
    if (layout.glyph != 0) {
      fields.put_u16(layout.glyph, static_cast<std::uint32_t>(plan_.to(colr.u16(at + layout.glyph))));
    }
    if (format == kPaintLayers) {
      const Result<std::uint32_t> first = copy_layers(colr.u32(at + 2), colr.u8(at + 1), depth);
      if (!first) return first;
      fields.put_u32(2, *first);
    }
    TreeObject out;
    for (std::size_t i = 0; i < layout.bytes;) {
      const bool is_paint = i > 0 && (i == layout.paints[0] || i == layout.paints[1]);
      if (is_paint) {
        const Result<std::uint32_t> child = copy_paint(at + u24(colr, at + i), depth + 1);
        if (!child) return child;
        out.link24(*child), i += 3;
      } else if (i > 0 && i == layout.other) {
        const std::size_t other = at + u24(colr, at + i);
        const std::uint32_t child = format == kPaintTransform || format == kPaintTransform + 1
                                        ? copy_transform(other, varies)
                                        : copy_color_line(other, varies);
        if (child == kNone) return bad_paint(source_, at);
        out.link24(child), i += 3;
      } else {
        out.u8(static_cast<std::uint32_t>(fields.bytes()[i])), ++i;
      }
    }
    return copied_[at] = tree_.add(std::move(out));
  }

  /// Appends the paints of a run of layers to the new list, unless they are there; gives the first.
  Result<std::uint32_t> copy_layers(std::size_t first, std::size_t count, std::size_t depth) {
    std::vector<std::uint32_t> paints;
    for (std::size_t i = 0; i < count; ++i) {
      const std::size_t at = source_.layer_paint(first + i);
      if (at == 0) return bad_paint(source_, first);
      const Result<std::uint32_t> paint = copy_paint(at, depth + 1);
      if (!paint) return paint;
      paints.push_back(*paint);
    }
    const auto [it, is_new] = runs_.emplace(paints, static_cast<std::uint32_t>(layer_paints_.size()));
    if (is_new) layer_paints_.insert(layer_paints_.end(), paints.begin(), paints.end());
    return it->second;
  }

  const SubsetPlan& plan_;
  ColorSource source_;
  IndexMap map_;
  bool has_map_ = false;
  VariationRows rows_;
  std::vector<std::uint32_t> places_;  ///< rows of the new index map
  ObjectTree tree_;
  std::map<std::size_t, std::uint32_t> copied_;  ///< by place in the file
  std::vector<std::uint32_t> layer_paints_;
  std::map<std::vector<std::uint32_t>, std::uint32_t> runs_;
};

}  // namespace

Result<std::optional<WrittenTable>> subset_colors(const SubsetPlan& plan) {
  if (plan.table("COLR").empty()) return std::optional<WrittenTable>();
  return ColorWriter(plan).write();
}

}  // namespace grafema::detail
