// SPDX-License-Identifier: MIT
// Substitutions between kept glyphs (OpenType, GSUB).
#include <algorithm>

#include "write/subset/layout/subset_layout.hpp"

namespace grafema::detail {
namespace {

NewSubtable subset_single(LayoutWork& work, const TableView& table) {
  const SingleSubstitution rule{GlyphSet(sub_table(table, 2)), table.bytes};
  std::vector<std::uint16_t> from, to;
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    const auto found = rule.find(GlyphId{work.plan.kept[glyph]});
    const int made = found ? work.plan.to(*found) : -1;
    if (made < 0) continue;
    from.push_back(glyph), to.push_back(static_cast<std::uint16_t>(made));
  }
  if (from.empty()) return {};
  const auto step = static_cast<std::uint16_t>(to[0] - from[0]);
  bool same = true;
  for (std::size_t i = 0; i < from.size(); ++i) {
    same = same && static_cast<std::uint16_t>(to[i] - from[i]) == step;
  }
  TreeObject out;
  out.u16(same ? 1 : 2), out.link16(work.add_coverage(from));
  if (same) {
    out.u16(step);
  } else {
    out.u16(static_cast<std::uint32_t>(to.size()));
    for (const std::uint16_t glyph : to) out.u16(glyph);
  }
  return {work.tree.add(std::move(out))};
}

/// Several glyphs for one, where all are kept; of alternates those that are.
NewSubtable subset_sequences(LayoutWork& work, const TableView& table, bool alternates) {
  const SequenceSubstitution rule{GlyphSet(sub_table(table, 2)), table.bytes};
  std::vector<std::uint16_t> from;
  std::vector<std::uint32_t> lists;
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    const auto found = rule.find(GlyphId{work.plan.kept[glyph]});
    if (!found || !work.spend(found->size())) continue;
    std::vector<std::uint16_t> made;
    for (const GlyphId old : *found) {
      if (work.plan.to(old) >= 0) made.push_back(static_cast<std::uint16_t>(work.plan.to(old)));
    }
    if (alternates ? made.empty() : made.size() != found->size()) continue;
    TreeObject list;
    list.u16(static_cast<std::uint32_t>(made.size()));
    for (const std::uint16_t id : made) list.u16(id);
    from.push_back(glyph), lists.push_back(work.tree.add(std::move(list)));
  }
  if (from.empty()) return {};
  TreeObject out;
  out.u16(1), out.link16(work.add_coverage(from)), out.u16(static_cast<std::uint32_t>(lists.size()));
  for (const std::uint32_t list : lists) out.link16(list);
  return {work.tree.add(std::move(out))};
}

std::uint32_t add_ligature(LayoutWork& work, const Ligature& ligature) {
  TreeObject out;
  const int made = work.plan.to(ligature.glyph);
  if (made < 0) return ObjectTree::kNone;
  out.s16(made), out.u16(static_cast<std::uint32_t>(ligature.rest.size() + 1));
  for (const GlyphId part : ligature.rest) {
    if (work.plan.to(part) < 0) return ObjectTree::kNone;
    out.s16(work.plan.to(part));
  }
  return work.tree.add(std::move(out));
}

NewSubtable subset_ligatures(LayoutWork& work, const TableView& table) {
  const LigatureSubstitution rule{GlyphSet(sub_table(table, 2)), table.bytes};
  std::vector<std::uint16_t> from;
  std::vector<std::uint32_t> sets;
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    TreeObject set;
    std::vector<std::uint32_t> ligatures;
    const std::vector<Ligature> found = rule.find(GlyphId{work.plan.kept[glyph]});
    if (!work.spend(found.size())) return {};
    for (const Ligature& ligature : found) {
      const std::uint32_t made = add_ligature(work, ligature);
      if (made != ObjectTree::kNone) ligatures.push_back(made);
    }
    if (ligatures.empty()) continue;
    set.u16(static_cast<std::uint32_t>(ligatures.size()));
    for (const std::uint32_t ligature : ligatures) set.link16(ligature);
    from.push_back(glyph), sets.push_back(work.tree.add(std::move(set)));
  }
  if (from.empty()) return {};
  TreeObject out;
  out.u16(1), out.link16(work.add_coverage(from)), out.u16(static_cast<std::uint32_t>(sets.size()));
  for (const std::uint32_t set : sets) out.link16(set);
  return {work.tree.add(std::move(out))};
}

NewSubtable subset_reverse(LayoutWork& work, const TableView& table) {
  if (table.u16(0) != 1) return {};
  std::vector<std::uint32_t> places[2];
  std::size_t at = 4;
  for (auto& list : places) {
    const std::size_t count = table.u16(at);
    at += 2;
    for (std::size_t i = 0; i < count && table.holds(at, 2); ++i, at += 2) {
      const TableBytes set = sub_table(table, at);
      if (work.members(set).empty()) return {};  // can't match
      list.push_back(work.copy_coverage(set));
    }
  }
  const std::size_t count = table.u16(at);
  std::vector<std::uint16_t> from, to;
  for (const auto& [glyph, number] : work.members(sub_table(table, 2))) {
    const int made = number < count ? work.plan.to(table.u16(at + 2 + std::size_t{number} * 2)) : -1;
    if (made >= 0) from.push_back(glyph), to.push_back(static_cast<std::uint16_t>(made));
  }
  if (from.empty()) return {};
  TreeObject out;
  out.u16(1), out.link16(work.add_coverage(from));
  for (const auto& list : places) {
    out.u16(static_cast<std::uint32_t>(list.size()));
    for (const std::uint32_t set : list) out.link16(set);
  }
  out.u16(static_cast<std::uint32_t>(to.size()));
  for (const std::uint16_t glyph : to) out.u16(glyph);
  return {work.tree.add(std::move(out))};
}

}  // namespace

NewSubtable subset_substitution(LayoutWork& work, std::uint16_t type, const TableView& table) {
  switch (type) {
    case 1:
      return subset_single(work, table);
    case 2:
    case 3:
      return subset_sequences(work, table, type == 3);
    case 4:
      return subset_ligatures(work, table);
    case 8:
      return subset_reverse(work, table);
    default:
      return {};
  }
}

}  // namespace grafema::detail
