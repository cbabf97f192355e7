// SPDX-License-Identifier: MIT
// Scripts, languages, features, feature variations, lookups and extensions (OpenType, chapter 2), and GDEF.
#include "grafema/font/layout_tables.hpp"

#include <algorithm>

#include "font/layout/layout_bytes.hpp"
#include "font/variation/axes.hpp"

namespace grafema {

using detail::sub_table;
using detail::TableView;
using detail::view;

namespace {

constexpr std::size_t kRecordBytes = 6;
// Far above what real fonts hold. Tables may overlap in a hostile file, so that small ones seem to hold very
// much.
constexpr std::size_t kMaxScripts = 256, kMaxSystems = 2048, kMaxFeatures = 4096, kMaxLookups = 16384,
                      kMaxConditions = 64;

std::vector<Tag> record_tags(const TableView& list, std::size_t at) {
  std::vector<Tag> tags;
  for (std::size_t i = 0; i < list.u16(at) && list.holds(at + 2 + i * kRecordBytes, kRecordBytes); ++i) {
    tags.push_back(Tag{list.u32(at + 2 + i * kRecordBytes)});
  }
  return tags;
}

/// The table that records of tag and offset, counted at `at`, name by `wanted`.
TableView find_record(const TableView& list, std::size_t at, Tag wanted) {
  for (std::size_t i = 0; i < list.u16(at) && list.holds(at + 2 + i * kRecordBytes, kRecordBytes); ++i) {
    const std::size_t record = at + 2 + i * kRecordBytes;
    if (Tag{list.u32(record)} == wanted) return view(sub_table(list, record + 4));
  }
  return {};
}

/// The tag of the script's second, newer rules (OpenType, "Script tags").
Tag newer_tag(Tag script) {
  constexpr Tag kNewer[][2] = {
      {tag("beng"), tag("bng2")}, {tag("deva"), tag("dev2")}, {tag("gujr"), tag("gjr2")},
      {tag("guru"), tag("gur2")}, {tag("knda"), tag("knd2")}, {tag("mlym"), tag("mlm2")},
      {tag("orya"), tag("ory2")}, {tag("taml"), tag("tml2")}, {tag("telu"), tag("tel2")},
      {tag("mymr"), tag("mym2")},
  };
  for (const auto& [old, newer] : kNewer) {
    if (old == script) return newer;
  }
  return script;
}

struct FoundScript {
  Tag tag{};
  TableView table;
};

FoundScript find_script_table(const TableView& scripts, Tag script) {
  for (const Tag tried : {newer_tag(script), script, tag("DFLT"), tag("dflt"), tag("latn")}) {
    if (tried == tag("latn") && script == tag("hebr")) continue;  // rules for letters that read the other way
    if (const TableView found = find_record(scripts, 0, tried); !found.empty()) return {tried, found};
  }
  return {};
}

TableView find_language(const TableView& table, Tag script, Tag language) {
  if (table.u16(0) != 1) return {};
  const TableView found = find_script_table(view(sub_table(table, 4)), script).table;
  if (language != Tag{}) {
    if (const TableView own = find_record(found, 2, language); !own.empty()) return own;
  }
  return view(sub_table(found, 0));
}

/// The bytes of FeatureTableSubstitution that the face's place on its axes asks for; empty where there is
/// none.
TableView find_feature_variation(const TableView& table, const std::vector<float>& coordinates) {
  if (coordinates.empty() || table.u16(2) < 1 || table.u32(10) == 0) return {};
  const TableView variations = table.from(table.u32(10));
  const std::size_t count =
      std::min({std::size_t{variations.u32(4)}, variations.bytes.size() / 8, kMaxFeatures});
  for (std::size_t i = 0; i < count; ++i) {
    const std::uint32_t set_at = variations.u32(8 + i * 8), substitution_at = variations.u32(12 + i * 8);
    const TableView set = set_at == 0 ? TableView{} : variations.from(set_at);
    bool holds = true;
    for (std::size_t c = 0; c < std::min<std::size_t>(set.u16(0), kMaxConditions) && holds; ++c) {
      const TableView condition = set.from(set.u32(2 + c * 4));
      const std::size_t axis = condition.u16(2);
      holds = condition.u16(0) == 1 && axis < coordinates.size() &&
              coordinates[axis] >= detail::f2dot14(condition, 4) &&
              coordinates[axis] <= detail::f2dot14(condition, 6);
    }
    if (holds) return substitution_at == 0 ? TableView{} : variations.from(substitution_at);
  }
  return {};
}

/// The feature's table, which a feature variation may replace.
TableView feature_table(const TableView& features, const TableView& variation, std::size_t index) {
  const std::size_t count = variation.u16(4);
  const std::size_t i =
      detail::find_first(count, [&](std::size_t r) { return variation.u16(6 + r * 6) < index; });
  if (i < count && variation.holds(6 + i * 6, 6) && variation.u16(6 + i * 6) == index) {
    return variation.from(variation.u32(8 + i * 6));
  }
  return view(sub_table(features, 2 + index * kRecordBytes + 4));
}

void add_lookups(const TableView& feature, std::vector<std::uint16_t>& out) {
  for (std::size_t i = 0; i < feature.u16(2) && feature.holds(4 + i * 2, 2) && out.size() < kMaxLookups;
       ++i) {
    out.push_back(feature.u16(4 + i * 2));
  }
}

template <class T>
std::vector<T> sorted_once(std::vector<T> list) {
  std::sort(list.begin(), list.end());
  list.erase(std::unique(list.begin(), list.end()), list.end());
  return list;
}

}  // namespace

std::vector<ScriptTags> LayoutTable::scripts() const {
  const TableView list = view(sub_table(view(bytes_), 4));
  std::vector<ScriptTags> out;
  std::size_t left = kMaxSystems;
  for (const Tag script : record_tags(list, 0)) {
    if (out.size() == kMaxScripts) break;
    std::vector<Tag> languages = record_tags(find_record(list, 0, script), 2);
    languages.resize(std::min(languages.size(), left));
    left -= languages.size();
    out.push_back({script, std::move(languages)});
  }
  return out;
}

Tag LayoutTable::find_script(Tag script) const {
  const TableView table = view(bytes_);
  return table.u16(0) == 1 ? find_script_table(view(sub_table(table, 4)), script).tag : Tag{};
}

std::vector<Tag> LayoutTable::features() const {
  return sorted_once(record_tags(view(sub_table(view(bytes_), 6)), 0));
}

std::size_t LayoutTable::lookup_count() const { return view(sub_table(view(bytes_), 8)).u16(0); }

std::vector<std::uint16_t> LayoutTable::find_lookups(Tag script, Tag language, Tag feature) const {
  std::vector<std::uint16_t> lookups;
  const TableView table = view(bytes_), system = find_language(table, script, language),
                  features = view(sub_table(table, 6));
  const TableView variation = find_feature_variation(table, coordinates_);
  for (std::size_t i = 0;
       i < std::min<std::size_t>(system.u16(4), kMaxFeatures) && system.holds(6 + i * 2, 2); ++i) {
    const std::size_t index = system.u16(6 + i * 2), record = 2 + index * kRecordBytes;
    if (features.holds(record, kRecordBytes) && Tag{features.u32(record)} == feature) {
      add_lookups(feature_table(features, variation, index), lookups);
    }
  }
  return sorted_once(std::move(lookups));
}

bool LayoutTable::has_feature(Tag script, Tag language, Tag feature) const {
  const TableView table = view(bytes_), system = find_language(table, script, language),
                  features = view(sub_table(table, 6));
  for (std::size_t i = 0;
       i < std::min<std::size_t>(system.u16(4), kMaxFeatures) && system.holds(6 + i * 2, 2); ++i) {
    const std::size_t record = 2 + std::size_t{system.u16(6 + i * 2)} * kRecordBytes;
    if (features.holds(record, kRecordBytes) && Tag{features.u32(record)} == feature) return true;
  }
  return false;
}

std::vector<std::uint16_t> LayoutTable::find_required_lookups(Tag script, Tag language) const {
  std::vector<std::uint16_t> lookups;
  const TableView table = view(bytes_), system = find_language(table, script, language),
                  features = view(sub_table(table, 6));
  const std::uint16_t index = system.empty() ? std::uint16_t{0xFFFF} : system.u16(2);
  if (index != 0xFFFF && features.holds(2 + index * kRecordBytes, kRecordBytes)) {
    add_lookups(feature_table(features, find_feature_variation(table, coordinates_), index), lookups);
  }
  return sorted_once(std::move(lookups));
}

std::vector<std::uint16_t> LayoutTable::find_lookups(std::span<const Tag> wanted) const {
  std::vector<std::uint16_t> lookups;
  const TableView table = view(bytes_), features = view(sub_table(table, 6));
  const TableView variation = find_feature_variation(table, coordinates_);
  for (std::size_t i = 0; i < features.u16(0) && features.holds(2 + i * kRecordBytes, kRecordBytes); ++i) {
    const Tag own{features.u32(2 + i * kRecordBytes)};
    if (std::find(wanted.begin(), wanted.end(), own) != wanted.end()) {
      add_lookups(feature_table(features, variation, i), lookups);
    }
  }
  return sorted_once(std::move(lookups));
}

namespace {

constexpr std::size_t kMaxSubtables = 4096, kMaxPlaces = 64;

/// The lookup with its extensions resolved; `make` turns one subtable into a rule, if it can.
template <class Rule, class Make>
Lookup<Rule> read_lookup(TableBytes bytes, std::size_t index, std::uint16_t extension, Make make) {
  Lookup<Rule> lookup;
  const TableView list = view(sub_table(view(bytes), 8));
  if (index >= list.u16(0) || !list.holds(2 + index * 2, 2)) return lookup;
  const TableView table = view(sub_table(list, 2 + index * 2));
  lookup.type = table.u16(0);
  const std::uint16_t flag = table.u16(2);
  lookup.flags = {(flag & 1) != 0,
                  (flag & 2) != 0,
                  (flag & 4) != 0,
                  (flag & 8) != 0,
                  static_cast<std::uint8_t>(flag >> 8),
                  std::nullopt};
  const std::size_t count = table.u16(4);
  if ((flag & 0x10) != 0) lookup.flags.mark_set = table.u16(6 + count * 2);
  const bool extended = lookup.type == extension;
  for (std::size_t i = 0; i < std::min(count, kMaxSubtables) && table.holds(6 + i * 2, 2); ++i) {
    TableView subtable = view(sub_table(table, 6 + i * 2));
    if (extended) {
      lookup.type = subtable.u16(0) == 1 ? subtable.u16(2) : lookup.type;
      subtable = subtable.u32(4) == 0 ? TableView{} : subtable.from(subtable.u32(4));
    }
    if (subtable.bytes.size() >= 2) make(lookup.type, subtable, lookup.rules);
  }
  return lookup;
}

ReverseSubstitution read_reverse(const TableView& table) {
  ReverseSubstitution rule{GlyphSet(sub_table(table, 2)), {}, {}, {}, table.bytes};
  std::size_t at = 4;
  for (std::vector<GlyphSet>* sets : {&rule.before, &rule.after}) {
    const std::size_t count = table.u16(at);
    at += 2;
    for (std::size_t i = 0; i < count && table.holds(at, 2); ++i, at += 2) {
      if (i < kMaxPlaces) sets->emplace_back(sub_table(table, at));
    }
  }
  const std::size_t bytes = std::size_t{table.u16(at)} * 2;
  if (table.holds(at + 2, bytes)) rule.substitutes = table.bytes.subspan(at + 2, bytes);
  return rule;
}

}  // namespace

Lookup<SubstitutionRule> LayoutTable::substitution(std::size_t index) const {
  constexpr std::uint16_t kExtension = 7;
  return read_lookup<SubstitutionRule>(
      bytes_, index, kExtension,
      [](std::uint16_t type, const TableView& table, std::vector<SubstitutionRule>& out) {
        const GlyphSet covered(sub_table(table, 2));
        switch (type) {
          case 1:
            out.emplace_back(SingleSubstitution{covered, table.bytes});
            break;
          case 2:
          case 3:
            out.emplace_back(SequenceSubstitution{covered, table.bytes});
            break;
          case 4:
            out.emplace_back(LigatureSubstitution{covered, table.bytes});
            break;
          case 5:
            out.emplace_back(ContextRules{false, table.bytes});
            break;
          case 6:
            out.emplace_back(ContextRules{true, table.bytes});
            break;
          case 8:
            out.emplace_back(read_reverse(table));
            break;
          default:
            break;
        }
      });
}

Lookup<PositioningRule> LayoutTable::positioning(std::size_t index) const {
  constexpr std::uint16_t kExtension = 9;
  return read_lookup<PositioningRule>(
      bytes_, index, kExtension,
      [this](std::uint16_t type, const TableView& table, std::vector<PositioningRule>& out) {
        const GlyphSet covered(sub_table(table, 2));
        switch (type) {
          case 1:
            out.emplace_back(SingleAdjustment{covered, table.bytes, variations_});
            break;
          case 2:
            out.emplace_back(PairAdjustments{covered, table.bytes, variations_, units_per_em_,
                                             detail::find_pair_order(table)});
            break;
          case 3:
            out.emplace_back(CursiveAttachment{covered, table.bytes, variations_});
            break;
          case 4:
          case 5:
          case 6:
            out.emplace_back(
                MarkAttachment{covered, GlyphSet(sub_table(table, 4)), type == 5, table.bytes, variations_});
            break;
          case 7:
            out.emplace_back(ContextRules{false, table.bytes});
            break;
          case 8:
            out.emplace_back(ContextRules{true, table.bytes});
            break;
          default:
            break;
        }
      });
}

GlyphClass GlyphDefinitions::class_of(GlyphId glyph) const {
  const std::uint16_t value = GlyphClasses(sub_table(view(bytes_), 4)).class_of(glyph);
  return value <= 4 ? static_cast<GlyphClass>(value) : GlyphClass::none;
}

std::uint16_t GlyphDefinitions::mark_class(GlyphId glyph) const {
  return GlyphClasses(sub_table(view(bytes_), 10)).class_of(glyph);
}

bool GlyphDefinitions::in_mark_set(std::uint16_t set, GlyphId glyph) const {
  const TableView table = view(bytes_);
  if (table.u16(2) < 2) return false;
  const TableView sets = view(sub_table(table, 12));
  if (sets.u16(0) != 1 || set >= sets.u16(2)) return false;
  const std::uint32_t offset = sets.u32(4 + std::size_t{set} * 4);
  return offset != 0 && GlyphSet(sets.from(offset).bytes).holds(glyph);
}

std::vector<float> GlyphDefinitions::ligature_carets(GlyphId glyph) const {
  std::vector<float> out;
  const TableView list = view(sub_table(view(bytes_), 8));
  const std::optional<std::uint32_t> number = GlyphSet(sub_table(list, 0)).find(glyph);
  if (!number || *number >= list.u16(2)) return out;
  const TableView ligature = view(sub_table(list, 4 + std::size_t{*number} * 2));
  for (std::size_t i = 0; i < ligature.u16(0) && ligature.holds(2 + i * 2, 2); ++i) {
    const TableView caret = view(sub_table(ligature, 2 + i * 2));
    const std::uint16_t format = caret.u16(0);
    if (format != 1 && format != 3) continue;
    out.push_back(static_cast<float>(caret.s16(2)) +
                  (format == 3 ? detail::read_device(sub_table(caret, 4), variations_, 0).units : 0.0F));
  }
  return out;
}

std::vector<std::uint16_t> GlyphDefinitions::attachment_points(GlyphId glyph) const {
  std::vector<std::uint16_t> out;
  const TableView list = view(sub_table(view(bytes_), 6));
  const std::optional<std::uint32_t> number = GlyphSet(sub_table(list, 0)).find(glyph);
  if (!number || *number >= list.u16(2)) return out;
  const TableView points = view(sub_table(list, 4 + std::size_t{*number} * 2));
  for (std::size_t i = 0; i < points.u16(0) && points.holds(2 + i * 2, 2); ++i) {
    out.push_back(points.u16(2 + i * 2));
  }
  return out;
}

}  // namespace grafema
