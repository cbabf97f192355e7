// SPDX-License-Identifier: MIT
// Classes, carets and mark sets of kept glyphs (OpenType, GDEF).
#include <algorithm>

#include "write/subset/layout/subset_layout.hpp"

namespace grafema::detail {
namespace {

class Definitions {
 public:
  Definitions(const SubsetPlan& plan, VariationRows& rows) : work_{plan}, gdef_(plan.table("GDEF")) {
    work_.rows = &rows;
  }

  std::optional<std::vector<std::byte>> write() {
    const std::uint32_t classes = copy_classes(4), points = copy_points(), carets = copy_carets(),
                        mark_classes = copy_classes(10), sets = copy_mark_sets();
    const bool varies = !work_.rows->empty();
    TreeObject out;
    out.u16(1), out.u16(varies ? 3U : sets != kNone ? 2U : 0U);
    out.link16(classes), out.link16(points), out.link16(carets), out.link16(mark_classes);
    if (varies || sets != kNone) out.link16(sets);
    if (varies) out.link32(work_.tree.add(work_.rows->write()));
    return work_.tree.pack(work_.tree.add(std::move(out)));
  }

 private:
  static constexpr std::uint32_t kNone = ObjectTree::kNone;

  std::uint32_t copy_classes(std::size_t field) {
    std::map<std::uint16_t, std::uint16_t> classes;
    if (gdef_.u16(field) == 0) return kNone;
    const std::vector<std::uint16_t>& values = work_.classes_of(sub_table(gdef_, field));
    for (std::size_t i = 0; i < values.size(); ++i) classes[static_cast<std::uint16_t>(i)] = values[i];
    return work_.add_classes(classes, false);
  }

  /// A list by coverage whose entries `copy` makes; kNone where none is left.
  template <class Copy>
  std::uint32_t copy_list(const TableView& list, Copy copy) {
    std::vector<std::uint16_t> glyphs;
    std::vector<std::uint32_t> entries;
    for (const auto& [glyph, number] : work_.members(sub_table(list, 0))) {
      if (number >= list.u16(2)) continue;
      glyphs.push_back(glyph);
      entries.push_back(copy(view(sub_table(list, 4 + std::size_t{number} * 2))));
    }
    if (glyphs.empty()) return kNone;
    TreeObject out;
    out.link16(work_.add_coverage(glyphs)), out.u16(static_cast<std::uint32_t>(glyphs.size()));
    for (const std::uint32_t entry : entries) out.link16(entry);
    return work_.tree.add(std::move(out));
  }

  std::uint32_t copy_points() {
    return copy_list(view(sub_table(gdef_, 6)), [this](const TableView& points) {
      TreeObject out;
      const std::size_t count = points.holds(2, points.u16(0) * std::size_t{2}) ? points.u16(0) : 0;
      out.u16(static_cast<std::uint32_t>(count));
      for (std::size_t i = 0; i < count; ++i) out.u16(points.u16(2 + i * 2));
      return work_.tree.add(std::move(out));
    });
  }

  std::uint32_t copy_carets() {
    return copy_list(view(sub_table(gdef_, 8)), [this](const TableView& ligature) {
      std::vector<std::uint32_t> carets;
      for (std::size_t i = 0; i < ligature.u16(0) && ligature.holds(2 + i * 2, 2) && work_.spend(1); ++i) {
        const TableView caret = view(sub_table(ligature, 2 + i * 2));
        const std::uint16_t format = caret.u16(0);
        if (format < 1 || format > 3) continue;
        int place = caret.s16(2);
        const std::uint32_t device = format == 3 ? copy_device(work_, caret, 4, place) : kNone;
        TreeObject out;
        out.u16(format == 2 ? 2U : device == kNone ? 1U : 3U), out.s16(place);
        if (device != kNone) out.link16(device);
        carets.push_back(work_.tree.add(std::move(out)));
      }
      TreeObject out;
      out.u16(static_cast<std::uint32_t>(carets.size()));
      for (const std::uint32_t caret : carets) out.link16(caret);
      return work_.tree.add(std::move(out));
    });
  }

  /// Lookups name sets by number: one without kept marks stays as an empty one.
  std::uint32_t copy_mark_sets() {
    const TableView sets = gdef_.u16(2) < 2 ? TableView{} : view(sub_table(gdef_, 12));
    if (sets.u16(0) != 1) return kNone;
    TreeObject out;
    out.u16(1);
    std::vector<std::uint32_t> links;
    for (std::size_t i = 0; i < sets.u16(2) && sets.holds(4 + i * 4, 4) && work_.spend(1); ++i) {
      const std::uint32_t offset = sets.u32(4 + i * 4);
      links.push_back(work_.copy_coverage(offset == 0 ? TableBytes{} : sets.from(offset).bytes));
    }
    out.u16(static_cast<std::uint32_t>(links.size()));
    for (const std::uint32_t link : links) out.link32(link);
    return work_.tree.add(std::move(out));
  }

  LayoutWork work_;
  TableView gdef_;
};

}  // namespace

Result<std::optional<WrittenTable>> subset_definitions(const SubsetPlan& plan, VariationRows& rows) {
  if (plan.table("GDEF").u16(0) != 1) return std::optional<WrittenTable>();
  std::optional<std::vector<std::byte>> bytes = Definitions(plan, rows).write();
  if (!bytes) return fail(make_error(ErrorKind::unsupported, "glyph definitions whose offsets fit 16 bits"));
  return std::optional(WrittenTable{tag("GDEF"), *std::move(bytes)});
}

}  // namespace grafema::detail
