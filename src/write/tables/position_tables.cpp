// SPDX-License-Identifier: MIT
// Kerning as GPOS pairs and classes, and as kern; and where accents stand.
#include <fmt/format.h>

#include <algorithm>
#include <bit>
#include <cmath>
#include <set>

#include "write/tables/rule_tables.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint16_t kIgnoreMarks = 8;

/// Class kerning by glyph numbers.
struct Classes {
  std::map<std::uint16_t, std::uint16_t> left, right;  ///< 1 and up
  std::size_t left_count = 0, right_count = 0;         ///< class 0 included
  std::vector<int> values;                             ///< left by right, class 0 included

  int value(std::uint16_t left_glyph, std::uint16_t right_glyph) const {
    const auto a = left.find(left_glyph), b = right.find(right_glyph);
    return a == left.end() || b == right.end() ? 0 : values[a->second * right_count + b->second];
  }
};

Result<std::map<std::uint16_t, std::uint16_t>> number_classes(
    const FontPlan& plan, const std::vector<std::vector<std::string>>& classes) {
  std::map<std::uint16_t, std::uint16_t> numbers;
  for (std::size_t i = 0; i < classes.size(); ++i) {
    for (const std::string& name : classes[i]) {
      const int glyph = plan.find(name);
      if (glyph <= 0) return bad_value("kerning classes of glyphs that are drawn", name);
      if (!numbers.emplace(static_cast<std::uint16_t>(glyph), static_cast<std::uint16_t>(i + 1)).second)
        return bad_value("each glyph in one kerning class of a side", name);
    }
  }
  return numbers;
}

Result<Classes> list_classes(const FontPlan& plan) {
  const ClassKerning& drawn = plan.drawing->classes;
  if (drawn.values.size() != drawn.left.size() * drawn.right.size() || drawn.left.size() > 2000 ||
      drawn.right.size() > 2000)
    return bad_value("a kerning value for each left and right class", fmt::format("{}", drawn.values.size()));
  Classes classes;
  auto left = number_classes(plan, drawn.left), right = number_classes(plan, drawn.right);
  if (!left) return fail(left.error());
  if (!right) return fail(right.error());
  classes.left = *std::move(left), classes.right = *std::move(right);
  classes.left_count = drawn.left.size() + 1, classes.right_count = drawn.right.size() + 1;
  classes.values.assign(classes.left_count * classes.right_count, 0);
  for (std::size_t a = 0; a < drawn.left.size(); ++a) {
    for (std::size_t b = 0; b < drawn.right.size(); ++b) {
      const float value = drawn.values[a * drawn.right.size() + b];
      if (!(std::abs(value) <= 32767))
        return bad_value("kerning within 32767 font units", fmt::format("{}", value));
      classes.values[(a + 1) * classes.right_count + b + 1] = to_units(value);
    }
  }
  return classes;
}

std::vector<std::byte> write_pairs(const std::map<std::uint32_t, int>& pairs) {
  std::vector<std::uint16_t> firsts;
  for (const auto& [key, value] : pairs) {
    const auto first = static_cast<std::uint16_t>(key >> 16);
    if (firsts.empty() || firsts.back() != first) firsts.push_back(first);
  }
  const std::vector<std::byte> coverage = write_coverage(firsts);
  TableWriter out, sets;
  out.u16(1), out.u16(static_cast<std::uint32_t>(10 + firsts.size() * 2));
  out.u16(4), out.u16(0);  // xAdvance of the first glyph, nothing of the second
  out.u16(static_cast<std::uint32_t>(firsts.size()));
  const std::size_t begin = 10 + firsts.size() * 2 + coverage.size();
  for (auto at = pairs.begin(); at != pairs.end();) {
    const std::uint32_t first = at->first >> 16;
    const auto end = pairs.lower_bound((first + 1) << 16);
    out.u16(static_cast<std::uint32_t>(begin + sets.size()));
    sets.u16(static_cast<std::uint32_t>(std::distance(at, end)));
    for (; at != end; ++at) sets.u16(at->first & 0xFFFF), sets.s16(at->second);
  }
  out.append(coverage), out.append(sets.bytes());
  return std::move(out.bytes());
}

std::vector<std::byte> write_class_pairs(const Classes& classes) {
  std::vector<std::uint16_t> covered;
  for (const auto& [glyph, value] : classes.left) covered.push_back(glyph);
  const std::vector<std::byte> coverage = write_coverage(covered), left = write_classes(classes.left),
                               right = write_classes(classes.right);
  const std::size_t begin = 16 + classes.values.size() * 2;
  TableWriter out;
  out.u16(2), out.u16(static_cast<std::uint32_t>(begin)), out.u16(4), out.u16(0);
  out.u16(static_cast<std::uint32_t>(begin + coverage.size()));
  out.u16(static_cast<std::uint32_t>(begin + coverage.size() + left.size()));
  out.u16(static_cast<std::uint32_t>(classes.left_count)),
      out.u16(static_cast<std::uint32_t>(classes.right_count));
  for (const int value : classes.values) out.s16(value);
  out.append(coverage), out.append(left), out.append(right);
  return std::move(out.bytes());
}

/// Offsets into the array of values, as bytes; `scale` is what a class is worth. Glyphs without class get
/// `none`.
std::vector<std::byte> write_offsets(const std::map<std::uint16_t, std::uint16_t>& classes,
                                     std::uint32_t scale, std::uint32_t none) {
  const std::uint16_t first = classes.begin()->first, last = classes.rbegin()->first;
  TableWriter out;
  out.u16(first), out.u16(last - first + 1U);
  for (std::uint32_t glyph = first; glyph <= last; ++glyph) {
    const auto at = classes.find(static_cast<std::uint16_t>(glyph));
    out.u16(none + (at == classes.end() ? 0 : at->second * scale));
  }
  return std::move(out.bytes());
}

/// Format 2: each left class says where its row begins, each right class how far along (OpenType, kern,
/// "Format 2").
std::vector<std::byte> write_class_arrays(const Classes& classes) {
  const auto row = static_cast<std::uint32_t>(classes.right_count * 2);
  constexpr std::uint32_t kHeader = 14;
  const std::vector<std::byte> left = write_offsets(classes.left, row, kHeader);
  const std::vector<std::byte> right = write_offsets(classes.right, 2, 0);
  const auto left_at = static_cast<std::uint32_t>(kHeader + classes.values.size() * 2);
  TableWriter out;
  out.u16(0), out.u16(left_at + static_cast<std::uint32_t>(left.size() + right.size())), out.u16(0x0201);
  out.u16(row), out.u16(left_at), out.u16(left_at + static_cast<std::uint32_t>(left.size())),
      out.u16(kHeader);
  for (const int value : classes.values) out.s16(value);
  out.append(left), out.append(right);
  return std::move(out.bytes());
}

}  // namespace

Result<WrittenTable> write_kern(const FontPlan& plan) {
  const Result<Classes> classes = list_classes(plan);
  if (!classes) return fail(classes.error());
  const bool any_class = !classes->left.empty() && !classes->right.empty();
  // Subtables add up: pairs hold what they differ by from their classes.
  std::map<std::uint32_t, int> pairs;
  for (const auto& [key, value] : plan.pairs) {
    pairs[key] = value - classes->value(static_cast<std::uint16_t>(key >> 16),
                                        static_cast<std::uint16_t>(key & 0xFFFF));
  }
  TableWriter out;
  out.u16(0), out.u16((any_class ? 1U : 0U) + (pairs.empty() ? 0U : 1U));
  if (any_class) {
    const std::vector<std::byte> arrays = write_class_arrays(*classes);
    if (arrays.size() > 65535)
      return bad_value("kerning classes of fewer glyphs: kern counts in 16 bits",
                       fmt::format("{} bytes", arrays.size()));
    out.append(arrays);
  }
  if (!pairs.empty()) {
    const auto count = static_cast<std::uint32_t>(pairs.size());
    out.u16(0), out.u16(14 + count * 6), out.u16(1);  // version, length, horizontal kerning of format 0
    const std::uint32_t search = std::bit_floor(count) * 6;
    out.u16(count), out.u16(search);
    out.u16(static_cast<std::uint32_t>(std::bit_width(count) - 1)), out.u16(count * 6 - search);
    for (const auto& [key, value] : pairs) out.u32(key), out.s16(std::clamp(value, -32768, 32767));
  }
  return WrittenTable{tag("kern"), std::move(out.bytes())};
}

namespace {

std::vector<std::byte> write_anchor(FontPoint at) {
  TableWriter out;
  out.u16(1), out.s16(to_units(at.x)), out.s16(to_units(at.y));
  return std::move(out.bytes());
}

/// Marks and what they stand on: letters, or other marks.
struct AccentPlaces {
  std::vector<std::string> names;  ///< of anchors, one class each
  std::map<std::uint16_t, std::pair<std::size_t, FontPoint>> marks;
  std::map<std::uint16_t, std::map<std::size_t, FontPoint>> bases;

  std::size_t class_of(const std::string& name) {
    const auto at = std::find(names.begin(), names.end(), name);
    if (at != names.end()) return static_cast<std::size_t>(at - names.begin());
    names.push_back(name);
    return names.size() - 1;
  }
};

AccentPlaces list_attachments(const FontPlan& plan, bool on_marks) {
  AccentPlaces found;
  std::set<std::string> met;
  for (const FontPlan::Glyph& glyph : plan.glyphs) {
    for (const DrawnAnchor& a : glyph.drawn->anchors) {
      if (!a.attaches && glyph.mark == on_marks) met.insert(a.name);
    }
  }
  for (std::size_t i = 1; i < plan.glyphs.size(); ++i) {
    const FontPlan::Glyph& glyph = plan.glyphs[i];
    for (const DrawnAnchor& a : glyph.drawn->anchors) {
      if (!met.contains(a.name)) continue;
      const auto id = static_cast<std::uint16_t>(i);
      if (a.attaches) found.marks[id] = {found.class_of(a.name), a.at};
      if (!a.attaches && glyph.mark == on_marks) found.bases[id][found.class_of(a.name)] = a.at;
    }
  }
  return found;
}

/// Format 1 of both kinds of attachment: they differ in nothing but what the second coverage holds.
std::vector<std::byte> write_attachments(const AccentPlaces& found) {
  std::vector<std::uint16_t> marks, bases;
  for (const auto& [glyph, mark] : found.marks) marks.push_back(glyph);
  for (const auto& [glyph, anchors] : found.bases) bases.push_back(glyph);
  const std::vector<std::byte> mark_coverage = write_coverage(marks), base_coverage = write_coverage(bases);
  TableWriter mark_array, mark_anchors, base_array, base_anchors;
  mark_array.u16(static_cast<std::uint32_t>(marks.size()));
  for (const auto& [glyph, mark] : found.marks) {
    mark_array.u16(static_cast<std::uint32_t>(mark.first));
    mark_array.u16(static_cast<std::uint32_t>(2 + marks.size() * 4 + mark_anchors.size()));
    mark_anchors.append(write_anchor(mark.second));
  }
  const std::size_t classes = found.names.size();
  base_array.u16(static_cast<std::uint32_t>(bases.size()));
  for (const auto& [glyph, anchors] : found.bases) {
    for (std::size_t c = 0; c < classes; ++c) {
      const auto at = anchors.find(c);
      base_array.u16(at == anchors.end()
                         ? 0
                         : static_cast<std::uint32_t>(2 + bases.size() * classes * 2 + base_anchors.size()));
      if (at != anchors.end()) base_anchors.append(write_anchor(at->second));
    }
  }
  const std::size_t marks_at = 12 + mark_coverage.size() + base_coverage.size(),
                    bases_at = marks_at + mark_array.size() + mark_anchors.size();
  TableWriter out;
  out.u16(1), out.u16(12), out.u16(static_cast<std::uint32_t>(12 + mark_coverage.size()));
  out.u16(static_cast<std::uint32_t>(classes));
  out.u16(static_cast<std::uint32_t>(marks_at)), out.u16(static_cast<std::uint32_t>(bases_at));
  out.append(mark_coverage), out.append(base_coverage);
  out.append(mark_array.bytes()), out.append(mark_anchors.bytes());
  out.append(base_array.bytes()), out.append(base_anchors.bytes());
  return std::move(out.bytes());
}

}  // namespace

Result<void> add_positions(const FontPlan& plan, RuleTable& out) {
  const Result<Classes> classes = list_classes(plan);
  if (!classes) return fail(classes.error());
  RuleTable::Lookup kerning{2, kIgnoreMarks, {}};
  if (!plan.pairs.empty()) kerning.subtables.push_back(write_pairs(plan.pairs));
  if (!classes->left.empty() && !classes->right.empty())
    kerning.subtables.push_back(write_class_pairs(*classes));
  for (const auto& subtable : kerning.subtables) {
    if (subtable.size() > 65535)
      return bad_value("kerning of fewer classes: offsets are 16 bits long",
                       fmt::format("{} bytes", subtable.size()));
  }
  if (!kerning.subtables.empty()) out.add_feature(tag("kern"), out.add(std::move(kerning)));
  for (const bool on_marks : {false, true}) {
    const AccentPlaces found = list_attachments(plan, on_marks);
    if (found.marks.empty() || found.bases.empty()) continue;
    std::vector<std::byte> subtable = write_attachments(found);
    if (subtable.size() > 65535)
      return bad_value("anchors on fewer glyphs: offsets are 16 bits long",
                       fmt::format("{} bytes", subtable.size()));
    RuleTable::Lookup lookup{static_cast<std::uint16_t>(on_marks ? 6 : 4), 0, {}};
    lookup.subtables.push_back(std::move(subtable));
    out.add_feature(on_marks ? tag("mkmk") : tag("mark"), out.add(std::move(lookup)));
  }
  return {};
}

}  // namespace grafema::detail
