// SPDX-License-Identifier: MIT
// Moves and attachments of kept glyphs (OpenType, GPOS).
#include <algorithm>
#include <array>
#include <bit>

#include "write/subset/layout/subset_layout.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint16_t kFields = 0x0F, kVariation = 0x8000;

/// A value record: its numbers with what pinned axes add, and its devices.
struct Value {
  std::array<int, 4> numbers = {};
  std::array<std::uint32_t, 4> devices = {ObjectTree::kNone, ObjectTree::kNone, ObjectTree::kNone,
                                          ObjectTree::kNone};
};

Value read_value(LayoutWork& work, const TableView& parent, std::size_t at, std::uint16_t format) {
  Value value;
  for (unsigned bit = 0; bit < 8; ++bit) {
    if ((format >> bit & 1U) == 0) continue;
    if (bit < 4) {
      value.numbers[bit] += parent.s16(at);
    } else {
      value.devices[bit - 4] = copy_device(work, parent, at, value.numbers[bit - 4]);
    }
    at += 2;
  }
  return value;
}

/// The fields that any of the values needs. One that was not empty stays so: it tells readers where to go on.
std::uint16_t format_of(std::uint16_t old, const std::vector<Value>& values) {
  unsigned format = old & unsigned{kFields};
  for (const Value& value : values) {
    for (unsigned i = 0; i < 4; ++i) {
      if (value.numbers[i] != 0) format |= 1U << i;
      if (value.devices[i] != ObjectTree::kNone) format |= 0x10U << i;
    }
  }
  return static_cast<std::uint16_t>(format == 0 && (old & 0xFFU) != 0 ? 4U : format);
}

void write_value(const Value& value, std::uint16_t format, TreeObject& out) {
  for (unsigned bit = 0; bit < 8; ++bit) {
    if ((format >> bit & 1U) == 0) continue;
    if (bit < 4) out.s16(value.numbers[bit]);
    if (bit >= 4) out.link16(value.devices[bit - 4]);
  }
}

NewSubtable subset_adjustments(LayoutWork& work, const TableView& table) {
  const std::uint16_t kind = table.u16(0), old = table.u16(4);
  const std::size_t bytes = value_bytes(old);
  std::vector<std::uint16_t> glyphs;
  std::vector<Value> values;
  if (kind != 1 && kind != 2) return {};
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    if (kind == 2 && number >= table.u16(6)) continue;
    glyphs.push_back(glyph);
    if (kind == 2 || values.empty()) {
      values.push_back(read_value(work, table, kind == 1 ? 6 : 8 + std::size_t{number} * bytes, old));
    }
  }
  if (glyphs.empty()) return {};
  const std::uint16_t format = format_of(old, values);
  TreeObject out;
  out.u16(kind), out.link16(work.add_coverage(glyphs)), out.u16(format);
  if (kind == 2) out.u16(static_cast<std::uint32_t>(values.size()));
  for (const Value& value : values) write_value(value, format, out);
  return {work.tree.add(std::move(out))};
}

/// Kerning of listed pairs.
NewSubtable subset_pair_lists(LayoutWork& work, const TableView& table) {
  const std::uint16_t first_old = table.u16(4), second_old = table.u16(6);
  const std::size_t first_bytes = value_bytes(first_old),
                    record_bytes = 2 + first_bytes + value_bytes(second_old);
  struct List {
    std::uint16_t glyph;
    std::vector<std::uint16_t> seconds;
    std::size_t begin;  // into the values
  };
  std::vector<List> lists;
  std::vector<Value> firsts, seconds;
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    if (number >= table.u16(8)) continue;
    const TableView set = view(sub_table(table, 10 + std::size_t{number} * 2));
    List list{glyph, {}, firsts.size()};
    for (std::size_t i = 0; i < set.u16(0) && set.holds(2 + i * record_bytes, record_bytes); ++i) {
      const std::size_t at = 2 + i * record_bytes;
      const int second = work.plan.to(std::uint32_t{set.u16(at)});
      if (!work.spend(1)) return {};
      if (second < 0) continue;
      list.seconds.push_back(static_cast<std::uint16_t>(second));
      firsts.push_back(read_value(work, set, at + 2, first_old));
      seconds.push_back(read_value(work, set, at + 2 + first_bytes, second_old));
    }
    if (!list.seconds.empty()) lists.push_back(std::move(list));
  }
  if (lists.empty()) return {};
  const std::uint16_t first_format = format_of(first_old, firsts),
                      second_format = format_of(second_old, seconds);
  std::vector<std::uint16_t> glyphs;
  std::vector<std::uint32_t> sets;
  for (const List& list : lists) {
    TreeObject set;
    set.u16(static_cast<std::uint32_t>(list.seconds.size()));
    for (std::size_t i = 0; i < list.seconds.size(); ++i) {
      set.u16(list.seconds[i]);
      write_value(firsts[list.begin + i], first_format, set);
      write_value(seconds[list.begin + i], second_format, set);
    }
    glyphs.push_back(list.glyph), sets.push_back(work.tree.add(std::move(set)));
  }
  TreeObject out;
  out.u16(1), out.link16(work.add_coverage(glyphs)), out.u16(first_format), out.u16(second_format);
  out.u16(static_cast<std::uint32_t>(sets.size()));
  for (const std::uint32_t set : sets) out.link16(set);
  return {work.tree.add(std::move(out))};
}

/// The old classes of one side that are left, in their order, and the new class of each glyph.
struct PairSide {
  std::vector<std::uint16_t> old;
  std::map<std::uint16_t, std::uint16_t> of_glyph;
};

/// `glyphs`: those that count, by new number. Class 0 stays where it must stand for all others.
PairSide read_side(const std::vector<std::uint16_t>& classes, const std::vector<std::uint16_t>& glyphs,
                   std::size_t count, bool zero_stays) {
  PairSide side;
  if (zero_stays) side.old.push_back(0);
  for (const std::uint16_t glyph : glyphs) side.old.push_back(classes[glyph]);
  std::sort(side.old.begin(), side.old.end());
  side.old.erase(std::unique(side.old.begin(), side.old.end()), side.old.end());
  side.old.erase(
      std::remove_if(side.old.begin(), side.old.end(), [&](std::uint16_t c) { return c >= count; }),
      side.old.end());
  for (const std::uint16_t glyph : glyphs) {
    const auto found = std::lower_bound(side.old.begin(), side.old.end(), classes[glyph]);
    if (found != side.old.end() && *found == classes[glyph]) {
      side.of_glyph[glyph] = static_cast<std::uint16_t>(found - side.old.begin());
    }
  }
  return side;
}

/// Kerning of classes. A pair that the matrix does not hold moves nothing but ends the search, and so it
/// stays: glyphs of classes beyond its edge keep a class without values.
NewSubtable subset_pair_matrix(LayoutWork& work, const TableView& table) {
  const std::uint16_t first_old = table.u16(4), second_old = table.u16(6);
  const std::size_t rows = table.u16(12), columns = table.u16(14), first_bytes = value_bytes(first_old),
                    record_bytes = first_bytes + value_bytes(second_old);
  std::vector<std::uint16_t> glyphs, all;
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) glyphs.push_back(glyph);
  if (glyphs.empty()) return {};
  for (std::size_t i = 0; i < work.plan.glyph_count(); ++i) all.push_back(static_cast<std::uint16_t>(i));
  const std::vector<std::uint16_t>& row_classes = work.classes_of(sub_table(table, 8));
  const std::vector<std::uint16_t>& column_classes = work.classes_of(sub_table(table, 10));
  PairSide first = read_side(row_classes, glyphs, rows, false),
           second = read_side(column_classes, all, columns, true);
  bool beyond = false;
  for (const std::uint16_t glyph : glyphs) beyond = beyond || first.of_glyph.count(glyph) == 0;
  if (beyond) {
    for (const std::uint16_t glyph : glyphs) {
      first.of_glyph.emplace(glyph, static_cast<std::uint16_t>(first.old.size()));
    }
  }
  if (!work.spend((first.old.size() + 1) * second.old.size())) return {};
  std::vector<Value> firsts, seconds;
  for (const std::uint16_t row : first.old) {
    for (const std::uint16_t column : second.old) {
      const std::size_t at = 16 + (row * columns + column) * record_bytes;
      firsts.push_back(read_value(work, table, at, first_old));
      seconds.push_back(read_value(work, table, at + first_bytes, second_old));
    }
  }
  if (beyond) firsts.resize(firsts.size() + second.old.size()), seconds.resize(firsts.size());
  const std::uint16_t first_format = format_of(first_old, firsts),
                      second_format = format_of(second_old, seconds);
  TreeObject out;
  out.u16(2), out.link16(work.add_coverage(glyphs)), out.u16(first_format), out.u16(second_format);
  out.link16(work.add_classes(first.of_glyph, false)), out.link16(work.add_classes(second.of_glyph, false));
  out.u16(static_cast<std::uint32_t>(first.old.size() + (beyond ? 1 : 0)));
  out.u16(static_cast<std::uint32_t>(second.old.size()));
  for (std::size_t i = 0; i < firsts.size(); ++i) {
    write_value(firsts[i], first_format, out), write_value(seconds[i], second_format, out);
  }
  return {work.tree.add(std::move(out))};
}

/// The anchor at the offset that stands at `at` of `parent`; kNone where there is none.
std::uint32_t copy_anchor(LayoutWork& work, const TableView& parent, std::size_t at) {
  const TableView anchor = view(sub_table(parent, at));
  const std::uint16_t format = anchor.u16(0);
  if (format < 1 || format > 3 || !anchor.holds(0, 6)) return ObjectTree::kNone;
  int x = anchor.s16(2), y = anchor.s16(4);
  TreeObject out;
  std::array<std::uint32_t, 2> devices = {ObjectTree::kNone, ObjectTree::kNone};
  if (format == 3) devices = {copy_device(work, anchor, 6, x), copy_device(work, anchor, 8, y)};
  const bool has_devices = devices[0] != ObjectTree::kNone || devices[1] != ObjectTree::kNone;
  out.u16(has_devices ? 3U : format == 2 ? 2U : 1U), out.s16(x), out.s16(y);
  if (format == 2) out.u16(anchor.u16(6));
  if (has_devices) out.link16(devices[0]), out.link16(devices[1]);
  return work.tree.add(std::move(out));
}

NewSubtable subset_cursive(LayoutWork& work, const TableView& table) {
  std::vector<std::uint16_t> glyphs;
  TreeObject out;
  std::vector<std::uint32_t> anchors;
  if (table.u16(0) != 1) return {};
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    if (number >= table.u16(4)) continue;
    glyphs.push_back(glyph);
    const std::size_t at = 6 + std::size_t{number} * 4;
    anchors.push_back(copy_anchor(work, table, at)), anchors.push_back(copy_anchor(work, table, at + 2));
  }
  if (glyphs.empty()) return {};
  out.u16(1), out.link16(work.add_coverage(glyphs)), out.u16(static_cast<std::uint32_t>(glyphs.size()));
  for (const std::uint32_t anchor : anchors) out.link16(anchor);
  return {work.tree.add(std::move(out))};
}

/// Marks on letters, on parts of ligatures and on marks, which differ in what the second array holds.
class Attachments {
 public:
  Attachments(LayoutWork& work, const TableView& table, bool ligatures)
      : work_(work), table_(table), ligatures_(ligatures), class_count_(table.u16(6)) {}

  NewSubtable copy() {
    if (table_.u16(0) != 1) return {};
    const auto& bases = work_.members(sub_table(table_, 4));
    if (bases.empty() || !read_marks()) return {};
    const TableView array = view(sub_table(table_, 10));
    TreeObject list;
    std::vector<std::uint16_t> glyphs;
    std::vector<std::uint32_t> links;
    for (const auto& [glyph, number] : bases) {
      if (number >= array.u16(0) || !work_.spend(classes_.size())) continue;
      glyphs.push_back(glyph);
      if (ligatures_) {
        links.push_back(copy_parts(view(sub_table(array, 2 + std::size_t{number} * 2))));
      } else {
        add_row(array, 2 + std::size_t{number} * class_count_ * 2, links);
      }
    }
    if (glyphs.empty()) return {};
    list.u16(static_cast<std::uint32_t>(glyphs.size()));
    for (const std::uint32_t link : links) list.link16(link);
    TreeObject out;
    out.u16(1), out.link16(work_.add_coverage(marks_)), out.link16(work_.add_coverage(glyphs));
    out.u16(static_cast<std::uint32_t>(classes_.size())), out.link16(mark_array_);
    out.link16(work_.tree.add(std::move(list)));
    return {work_.tree.add(std::move(out))};
  }

 private:
  /// Marks and the classes that they are of. False where none is kept.
  bool read_marks() {
    const TableView array = view(sub_table(table_, 8));
    std::vector<std::pair<std::uint16_t, std::uint32_t>> found;  // class, anchor
    for (const auto& [glyph, number] : work_.members(sub_table(table_, 2))) {
      const std::size_t at = 2 + std::size_t{number} * 4;
      if (number >= array.u16(0) || array.u16(at) >= class_count_) continue;
      marks_.push_back(glyph);
      found.emplace_back(array.u16(at), copy_anchor(work_, array, at + 2));
      classes_.push_back(array.u16(at));
    }
    std::sort(classes_.begin(), classes_.end());
    classes_.erase(std::unique(classes_.begin(), classes_.end()), classes_.end());
    TreeObject out;
    out.u16(static_cast<std::uint32_t>(found.size()));
    for (const auto& [old, anchor] : found) {
      const auto place = std::lower_bound(classes_.begin(), classes_.end(), old) - classes_.begin();
      out.u16(static_cast<std::uint32_t>(place)), out.link16(anchor);
    }
    mark_array_ = work_.tree.add(std::move(out));
    return !marks_.empty();
  }

  void add_row(const TableView& array, std::size_t at, std::vector<std::uint32_t>& links) {
    for (const std::uint16_t old : classes_) {
      links.push_back(copy_anchor(work_, array, at + std::size_t{old} * 2));
    }
  }

  std::uint32_t copy_parts(const TableView& ligature) {
    std::vector<std::uint32_t> links;
    std::uint32_t count = 0;
    for (std::size_t i = 0; i < ligature.u16(0) && work_.spend(classes_.size()); ++i, ++count) {
      if (!ligature.holds(2 + i * class_count_ * 2, class_count_ * std::size_t{2})) break;
      add_row(ligature, 2 + i * class_count_ * 2, links);
    }
    TreeObject out;
    out.u16(count);
    for (const std::uint32_t link : links) out.link16(link);
    return work_.tree.add(std::move(out));
  }

  LayoutWork& work_;
  TableView table_;
  bool ligatures_;
  std::size_t class_count_;
  std::vector<std::uint16_t> marks_, classes_;
  std::uint32_t mark_array_ = ObjectTree::kNone;
};

}  // namespace

std::uint32_t copy_device(LayoutWork& work, const TableView& parent, std::size_t at, int& base) {
  const TableView device = view(sub_table(parent, at));
  if (!device.holds(0, 6)) return ObjectTree::kNone;
  const std::uint16_t first = device.u16(0), last = device.u16(2), format = device.u16(4);
  TreeObject out;
  if (format == kVariation) {
    if (work.rows == nullptr) return ObjectTree::kNone;
    const VariationRows::Row row = work.rows->take({first, last});
    base += row.base;
    if (row.index == VariationRows::kNone) return ObjectTree::kNone;
    out.u32(row.index), out.u16(kVariation);
    return work.tree.add(std::move(out));
  }
  if (format < 1 || format > 3 || last < first) return ObjectTree::kNone;
  const std::size_t sizes = last - first + std::size_t{1}, a_word = 16U >> format,
                    words = (sizes + a_word - 1) / a_word;
  if (!device.holds(6, words * 2)) return ObjectTree::kNone;
  for (std::size_t i = 0; i < 3 + words; ++i) out.u16(device.u16(i * 2));
  return work.tree.add(std::move(out));
}

NewSubtable subset_positioning(LayoutWork& work, std::uint16_t type, const TableView& table) {
  switch (type) {
    case 1:
      return subset_adjustments(work, table);
    case 2:
      if (table.u16(0) == 1) return subset_pair_lists(work, table);
      return table.u16(0) == 2 ? subset_pair_matrix(work, table) : NewSubtable{};
    case 3:
      return subset_cursive(work, table);
    case 4:
    case 5:
    case 6:
      return Attachments(work, table, type == 5).copy();
    default:
      return {};
  }
}

}  // namespace grafema::detail
