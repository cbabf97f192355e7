// SPDX-License-Identifier: MIT
// Ligatures and alternates as GSUB lookups.
#include <algorithm>
#include <map>
#include <tuple>

#include "write/tables/rule_tables.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint16_t kIgnoreMarksFlag = 8;

Result<std::uint16_t> drawn(const FontPlan& plan, const std::string& name) {
  const int glyph = plan.find(name);
  if (glyph <= 0) return bad_value("substitutions of glyphs that are drawn", name);
  return static_cast<std::uint16_t>(glyph);
}

using Ligatures = std::map<std::uint16_t, std::vector<std::pair<std::vector<std::uint16_t>, std::uint16_t>>>;

std::vector<std::byte> write_ligatures(Ligatures& ligatures) {
  std::vector<std::uint16_t> firsts;
  for (auto& [first, list] : ligatures) {
    firsts.push_back(first);
    // The longest is tried first.
    std::stable_sort(list.begin(), list.end(),
                     [](const auto& a, const auto& b) { return a.first.size() > b.first.size(); });
  }
  const std::vector<std::byte> coverage = write_coverage(firsts);
  TableWriter out, sets;
  const std::size_t begin = 6 + firsts.size() * 2;
  out.u16(1), out.u16(static_cast<std::uint32_t>(begin)), out.u16(static_cast<std::uint32_t>(firsts.size()));
  for (const auto& [first, list] : ligatures) {
    out.u16(static_cast<std::uint32_t>(begin + coverage.size() + sets.size()));
    TableWriter head, body;
    head.u16(static_cast<std::uint32_t>(list.size()));
    for (const auto& [rest, to] : list) {
      head.u16(static_cast<std::uint32_t>(2 + list.size() * 2 + body.size()));
      body.u16(to), body.u16(static_cast<std::uint32_t>(rest.size() + 1));
      for (const std::uint16_t glyph : rest) body.u16(glyph);
    }
    sets.append(head.bytes()), sets.append(body.bytes());
  }
  out.append(coverage), out.append(sets.bytes());
  return std::move(out.bytes());
}

std::vector<std::byte> write_alternates(const std::map<std::uint16_t, std::uint16_t>& pairs) {
  std::vector<std::uint16_t> from;
  from.reserve(pairs.size());
  for (const auto& [glyph, to] : pairs) from.push_back(glyph);
  TableWriter out;
  out.u16(2), out.u16(static_cast<std::uint32_t>(6 + pairs.size() * 2)),
      out.u16(static_cast<std::uint32_t>(pairs.size()));
  for (const auto& [glyph, to] : pairs) out.u16(to);
  out.append(write_coverage(from));
  return std::move(out.bytes());
}

}  // namespace

Result<void> add_substitutions(const FontPlan& plan, RuleTable& out) {
  // Letters of a language come before all else, ligatures last: features act in the order of their lookups.
  std::map<std::tuple<bool, Tag, Tag, Tag>, std::map<std::uint16_t, std::uint16_t>> alternates;
  for (const DrawnAlternate& a : plan.drawing->alternates) {
    const Result<std::uint16_t> from = drawn(plan, a.from), to = drawn(plan, a.to);
    if (!from) return fail(from.error());
    if (!to) return fail(to.error());
    auto& list = alternates[{a.feature != tag("locl"), a.feature, a.script, a.language}];
    if (!list.emplace(*from, *to).second) return bad_value("one alternate of a glyph in a feature", a.from);
  }
  for (const auto& [key, pairs] : alternates) {
    RuleTable::Lookup lookup{1, 0, {}};
    lookup.subtables.push_back(write_alternates(pairs));
    out.add_feature(std::get<1>(key), out.add(std::move(lookup)), std::get<2>(key), std::get<3>(key));
  }
  Ligatures ligatures;
  for (const DrawnLigature& ligature : plan.drawing->ligatures) {
    if (ligature.from.size() < 2) return bad_value("ligatures of two or more glyphs", ligature.to);
    std::vector<std::uint16_t> from;
    for (const std::string& name : ligature.from) {
      const Result<std::uint16_t> glyph = drawn(plan, name);
      if (!glyph) return fail(glyph.error());
      from.push_back(*glyph);
    }
    const Result<std::uint16_t> to = drawn(plan, ligature.to);
    if (!to) return fail(to.error());
    ligatures[from[0]].emplace_back(std::vector<std::uint16_t>(from.begin() + 1, from.end()), *to);
  }
  if (ligatures.empty()) return {};
  RuleTable::Lookup lookup{4, kIgnoreMarksFlag, {}};
  lookup.subtables.push_back(write_ligatures(ligatures));
  if (lookup.subtables[0].size() > 65535)
    return bad_value("fewer ligatures: offsets are 16 bits long", std::to_string(ligatures.size()));
  out.add_feature(tag("liga"), out.add(std::move(lookup)));
  return {};
}

}  // namespace grafema::detail
