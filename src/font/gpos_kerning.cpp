// SPDX-License-Identifier: MIT
// Reads pair adjustment lookups and finds the kerning of a pair.
#include "font/gpos_kerning.hpp"

#include <algorithm>
#include <bit>

namespace grafema::detail {
namespace {

constexpr std::uint16_t kPairLookup = 2, kExtensionLookup = 9;
constexpr std::uint16_t kXPlacement = 1, kYPlacement = 2, kXAdvance = 4;
constexpr std::size_t kMaxSubtables = 4096;

std::size_t value_bytes(std::uint16_t format) { return static_cast<std::size_t>(std::popcount(unsigned{format} & 0xFFU)) * 2; }

/// The XAdvance field of a value record, 0 where the format has none.
int x_advance(const TableView& table, std::size_t record, std::uint16_t format) {
  if ((format & kXAdvance) == 0) return 0;
  const std::size_t before = ((format & kXPlacement) != 0 ? 2 : 0) + ((format & kYPlacement) != 0 ? 2 : 0);
  return table.s16(record + before);
}

/// PairPos format 1: a list of second glyphs for each first glyph. Nothing where the pair is not in it.
std::optional<int> find_pair(const TableView& table, std::uint32_t place, std::uint32_t right) {
  const std::uint16_t first_format = table.u16(4), second_format = table.u16(6);
  if (place >= table.u16(8)) return std::nullopt;
  const TableView set = table.from(table.u16(10 + std::size_t{place} * 2));
  const std::size_t record_bytes = 2 + value_bytes(first_format) + value_bytes(second_format);
  std::size_t low = 0;
  const std::size_t count = std::min<std::size_t>(set.u16(0), set.bytes.size() / record_bytes);
  std::size_t high = count;
  while (low < high) {
    const std::size_t middle = (low + high) / 2;
    if (set.u16(2 + middle * record_bytes) < right) {
      low = middle + 1;
    } else {
      high = middle;
    }
  }
  const std::size_t record = 2 + low * record_bytes;
  if (low == count || set.u16(record) != right) return std::nullopt;
  return x_advance(set, record + 2, first_format);
}

/// PairPos format 2: a matrix of classes. It knows every pair whose first glyph it covers.
int find_class_pair(const TableView& table, std::uint32_t left, std::uint32_t right) {
  const std::uint16_t first_format = table.u16(4), second_format = table.u16(6);
  const std::size_t first = find_class(table.from(table.u16(8)), left);
  const std::size_t second = find_class(table.from(table.u16(10)), right);
  const std::size_t first_count = table.u16(12), second_count = table.u16(14);
  if (first >= first_count || second >= second_count) return 0;
  const std::size_t record_bytes = value_bytes(first_format) + value_bytes(second_format);
  return x_advance(table, 16 + (first * second_count + second) * record_bytes, first_format);
}

std::optional<int> find_in_subtable(const TableView& table, std::uint32_t left, std::uint32_t right) {
  const std::optional<std::uint32_t> place = find_coverage(table.from(table.u16(2)), left);
  if (!place) return std::nullopt;
  if (table.u16(0) == 1) return find_pair(table, *place, right);
  if (table.u16(0) == 2) return find_class_pair(table, left, right);
  return std::nullopt;
}

}  // namespace

GposKerning GposKerning::read(const TableView& gpos) {
  GposKerning kerning;
  for (const Tag script : script_tags(gpos)) kerning.add_script(gpos, script);
  return kerning;
}

void GposKerning::add_script(const TableView& gpos, Tag script) {
  Set set;
  set.indices = find_lookups(gpos, script, tag("kern"));
  const auto same = std::find_if(sets_.begin(), sets_.end(), [&set](const Set& s) { return s.indices == set.indices; });
  if (same != sets_.end()) {
    scripts_.push_back({script, static_cast<std::size_t>(same - sets_.begin())});
    return;
  }
  for (const std::uint16_t index : set.indices) {
    Lookup lookup = read_lookup(gpos, index);
    if (!lookup.subtables.empty()) set.lookups.push_back(std::move(lookup));
  }
  if (set.lookups.empty()) return;
  scripts_.push_back({script, sets_.size()});
  sets_.push_back(std::move(set));
}

GposKerning::Lookup GposKerning::read_lookup(const TableView& gpos, std::uint16_t index) {
  Lookup lookup;
  const TableView list = gpos.from(gpos.u16(8));
  if (gpos.u16(8) == 0 || index >= list.u16(0) || !list.holds(2 + std::size_t{index} * 2, 2)) return lookup;
  const TableView table = list.from(list.u16(2 + std::size_t{index} * 2));
  const std::uint16_t type = table.u16(0);
  const std::size_t count = std::min<std::size_t>(table.u16(4), kMaxSubtables);
  for (std::size_t i = 0; i < count && table.holds(6 + i * 2, 2); ++i) {
    TableView subtable = table.from(table.u16(6 + i * 2));
    std::uint16_t subtype = type;
    if (type == kExtensionLookup && subtable.u16(0) == 1) {
      subtype = subtable.u16(2);
      subtable = subtable.from(subtable.u32(4));
    }
    if (subtype == kPairLookup && !subtable.empty()) lookup.subtables.push_back(subtable);
  }
  return lookup;
}

/// The script's lookups, else those of DFLT; text that belongs to no script takes Latin's where there is no DFLT.
const GposKerning::Set* GposKerning::find_set(Tag script) const {
  const auto find = [this](Tag wanted) -> const Set* {
    for (const Script& s : scripts_) {
      if (s.script == wanted) return &sets_[s.set];
    }
    return nullptr;
  };
  if (const Set* set = find(script)) return set;
  if (const Set* set = find(tag("DFLT"))) return set;
  return script == tag("DFLT") || script == Tag{} ? find(tag("latn")) : nullptr;
}

float GposKerning::find(std::uint32_t left, std::uint32_t right, Tag script) const {
  const Set* set = find_set(script);
  if (set == nullptr) return 0;
  int sum = 0;
  for (const Lookup& lookup : set->lookups) {
    for (const TableView& subtable : lookup.subtables) {
      const std::optional<int> value = find_in_subtable(subtable, left, right);
      if (!value) continue;
      sum += *value;
      break;
    }
  }
  return static_cast<float>(sum);
}

}  // namespace grafema::detail
