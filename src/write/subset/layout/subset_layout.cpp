// SPDX-License-Identifier: MIT
// Keeps the lookups that kept features reach and the features that have lookups; renumbers both.
#include "write/subset/layout/subset_layout.hpp"

#include <algorithm>
#include <set>

#include "grafema/font/reachable.hpp"
#include "unicode/compositions.hpp"
#include "write/subset/layout/layout_source.hpp"

namespace grafema::detail {
namespace {

constexpr std::uint32_t kNone = ObjectTree::kNone;
constexpr std::size_t kMaxKeptScripts = 256, kMaxKeptSystems = 2048;

/// Features that tell something by being there: where they are, no other table kerns and letters and marks
/// need not be made into one.
bool tells_by_itself(Tag feature) {
  return feature == tag("kern") || feature == tag("mark") || feature == tag("mkmk");
}

bool keeps(const SubsetRecipe& recipe, const LayoutSource& source, std::size_t feature) {
  return source.required[feature] || keeps_feature(recipe, source.features[feature].tag);
}

class LayoutWriter {
 public:
  LayoutWriter(const SubsetPlan& plan, bool positions, VariationRows& rows)
      : positions_(positions),
        extension_(positions ? 9 : 7),
        source_(plan.table(positions ? "GPOS" : "GSUB"), plan.pins),
        work_{plan} {
    work_.rows = &rows;
  }

  Result<std::optional<WrittenTable>> write() {
    if (source_.table.u16(0) != 1) return std::optional<WrittenTable>();
    copy_lookups();
    number_lookups();
    copy_contexts();
    number_features();
    if (work_.spent > LayoutWork::kMaxWork) {
      return damaged(source_.table, 8, "rules that take less than 400 million steps");
    }
    if ((feature_order_.empty() && !tells_of_scripts()) || !has_anything())
      return std::optional<WrittenTable>();
    for (const bool extended : {false, true}) {
      const std::optional<std::uint32_t> root = assemble_tree(extended);
      if (!root) break;
      if (auto bytes = work_.tree.pack(*root)) {
        return std::optional(WrittenTable{source_.table.tag, *std::move(bytes)});
      }
    }
    return fail(
        make_error(ErrorKind::unsupported, "rules whose offsets fit 16 bits", to_string(source_.table.tag)));
  }

 private:
  struct NewLookup {
    LayoutSource::Lookup old;
    std::vector<std::uint32_t> subtables;
    std::vector<std::uint16_t> calls;
    bool context = false, alive = false, has_rules = false;
  };

  bool is_context(std::uint16_t type) const {
    return positions_ ? type == 7 || type == 8 : type == 5 || type == 6;
  }
  bool is_chained(std::uint16_t type) const { return type == (positions_ ? 8 : 6); }

  /// All lookups that kept features reach, contexts only looked through.
  void copy_lookups() {
    std::vector<std::uint16_t> waiting;
    const auto want = [&waiting](const TableView& feature) {
      for (const std::uint16_t lookup : lookups_of(feature)) waiting.push_back(lookup);
    };
    for (std::size_t i = 0; i < source_.features.size(); ++i) {
      if (!keeps(*work_.plan.recipe, source_, i)) continue;
      want(source_.features[i].table);
      for (const LayoutSource::Variation& variation : source_.variations) {
        const auto found = variation.features.find(static_cast<std::uint16_t>(i));
        if (found != variation.features.end()) want(found->second);
      }
    }
    while (!waiting.empty()) {
      const std::uint16_t index = waiting.back();
      waiting.pop_back();
      const auto [it, is_new] = lookups_.try_emplace(index);
      if (!is_new) continue;
      NewLookup& lookup = it->second;
      lookup.old = source_.read_lookup(index, extension_);
      lookup.context = is_context(lookup.old.type);
      for (const TableView& table : lookup.old.subtables) {
        if (!work_.spend(1)) break;
        const std::uint16_t type = lookup.old.type;
        const NewSubtable made = lookup.context ? subset_context(work_, is_chained(type), table, nullptr)
                                 : positions_   ? subset_positioning(work_, type, table)
                                                : subset_substitution(work_, type, table);
        lookup.has_rules = lookup.has_rules || made.has_rules;
        if (made.object != kNone) lookup.subtables.push_back(made.object);
        for (const std::uint16_t call : made.calls) {
          lookup.calls.push_back(call), waiting.push_back(call);
        }
      }
    }
  }

  /// A context without a lookup that does anything does nothing itself.
  void number_lookups() {
    for (bool changed = true; changed;) {
      changed = false;
      for (auto& [index, lookup] : lookups_) {
        if (lookup.alive) continue;
        const auto lives = [this](std::uint16_t call) {
          const auto found = lookups_.find(call);
          return found != lookups_.end() && found->second.alive;
        };
        lookup.alive = lookup.context
                           ? lookup.has_rules && std::any_of(lookup.calls.begin(), lookup.calls.end(), lives)
                           : !lookup.subtables.empty();
        changed = changed || lookup.alive;
      }
    }
    numbers_.renumbered.assign(std::size_t{0x10000}, -1);
    std::int32_t next = 0;
    for (const auto& [index, lookup] : lookups_) {
      if (lookup.alive) numbers_.renumbered[index] = next++;
    }
  }

  void copy_contexts() {
    for (auto& [index, lookup] : lookups_) {
      if (!lookup.context || !lookup.alive) continue;
      for (const TableView& table : lookup.old.subtables) {
        const NewSubtable made = subset_context(work_, is_chained(lookup.old.type), table, &numbers_);
        if (made.object != kNone) lookup.subtables.push_back(made.object);
      }
    }
  }

  /// Without any lookup features still tell that `kern` is not to be asked, and that the face places marks.
  bool has_anything() const {
    const auto alive = [](const auto& lookup) { return lookup.second.alive; };
    const std::vector<char32_t>& wanted = work_.plan.wanted;
    return std::any_of(lookups_.begin(), lookups_.end(), alive) || !work_.plan.table("kern").empty() ||
           std::any_of(wanted.begin(), wanted.end(), is_mark);
  }

  /// Without any feature GSUB still tells which scripts the face has rules for: their syllables are shaped
  /// otherwise than those of a face that does not know them. The first such scripts stand behind Syriac.
  bool tells_of_scripts() const {
    constexpr char32_t kFirstOfSyllables = 0x0740;
    const std::vector<char32_t>& wanted = work_.plan.wanted;
    return !positions_ && std::any_of(wanted.begin(), wanted.end(),
                                      [](char32_t c) { return c >= kFirstOfSyllables && is_mark(c); });
  }

  std::vector<std::uint16_t> new_lookups(const TableView& feature) const {
    std::set<std::uint16_t> out;
    for (const std::uint16_t lookup : lookups_of(feature)) {
      if (numbers_.to(lookup) >= 0) out.insert(static_cast<std::uint16_t>(numbers_.to(lookup)));
    }
    return {out.begin(), out.end()};
  }

  void number_features() {
    feature_numbers_.assign(source_.features.size(), -1);
    for (std::size_t i = 0; i < source_.features.size(); ++i) {
      const LayoutSource::Feature& feature = source_.features[i];
      if (!keeps(*work_.plan.recipe, source_, i)) continue;
      const bool varies = std::any_of(
          source_.variations.begin(), source_.variations.end(), [&](const LayoutSource::Variation& v) {
            const auto found = v.features.find(static_cast<std::uint16_t>(i));
            return found != v.features.end() && !new_lookups(found->second).empty();
          });
      if (!varies && !tells_by_itself(feature.tag) && new_lookups(feature.table).empty()) continue;
      feature_numbers_[i] = static_cast<std::int32_t>(feature_order_.size());
      feature_order_.push_back(i);
    }
  }

  /// Names of stylistic sets and character variants come along.
  std::uint32_t copy_parameters(Tag feature, const TableView& table) {
    const std::string name = to_string(feature);
    const TableView parameters = view(sub_table(table, 0));
    std::size_t bytes = 0;
    if (name.rfind("ss", 0) == 0) bytes = 4;
    if (name.rfind("cv", 0) == 0) bytes = 14 + std::size_t{parameters.u16(12)} * 3;
    if (bytes == 0 || !parameters.holds(0, bytes)) return kNone;
    return work_.tree.add(copy_of({Tag{}, parameters.bytes.subspan(0, bytes)}));
  }

  std::uint32_t add_feature(Tag feature, const TableView& table) {
    const std::vector<std::uint16_t> lookups = new_lookups(table);
    TreeObject out;
    out.link16(copy_parameters(feature, table)), out.u16(static_cast<std::uint32_t>(lookups.size()));
    for (const std::uint16_t lookup : lookups) out.u16(lookup);
    return work_.tree.add(std::move(out));
  }

  std::uint32_t add_features() {
    TreeObject out;
    out.u16(static_cast<std::uint32_t>(feature_order_.size()));
    for (const std::size_t i : feature_order_) {
      const LayoutSource::Feature& feature = source_.features[i];
      out.u32(static_cast<std::uint32_t>(feature.tag)), out.link16(add_feature(feature.tag, feature.table));
    }
    return work_.tree.add(std::move(out));
  }

  std::uint32_t add_system(const TableView& system) {
    const auto number = [this](std::size_t old) {
      return old < feature_numbers_.size() ? feature_numbers_[old] : -1;
    };
    std::vector<std::uint16_t> features;
    for (std::size_t i = 0; i < system.u16(4) && system.holds(6 + i * 2, 2); ++i) {
      if (number(system.u16(6 + i * 2)) >= 0) {
        features.push_back(static_cast<std::uint16_t>(number(system.u16(6 + i * 2))));
      }
    }
    const std::uint16_t required = system.u16(2);
    TreeObject out;
    out.u16(0), out.s16(required == 0xFFFF ? -1 : static_cast<int>(number(required)));
    out.u16(static_cast<std::uint32_t>(features.size()));
    for (const std::uint16_t feature : features) out.u16(feature);
    return work_.tree.add(std::move(out));
  }

  std::uint32_t add_scripts() {
    struct Record {
      std::uint32_t tag, object;
    };
    std::vector<Record> records;
    std::size_t systems = 0;
    const TableView& list = source_.scripts;
    for (std::size_t i = 0;
         i < std::min<std::size_t>(list.u16(0), kMaxKeptScripts) && list.holds(2 + i * 6, 6); ++i) {
      const TableView script = view(sub_table(list, 6 + i * 6));
      if (script.empty()) continue;
      const TableBytes standard = sub_table(script, 0);
      TreeObject out;
      out.link16(standard.empty() ? kNone : add_system(view(standard)));
      std::vector<Record> languages;
      for (std::size_t l = 0; l < script.u16(2) && script.holds(4 + l * 6, 6) && ++systems <= kMaxKeptSystems;
           ++l) {
        const TableBytes own = sub_table(script, 8 + l * 6);
        if (!own.empty()) languages.push_back({script.u32(4 + l * 6), add_system(view(own))});
      }
      out.u16(static_cast<std::uint32_t>(languages.size()));
      for (const Record& language : languages) out.u32(language.tag), out.link16(language.object);
      records.push_back({list.u32(2 + i * 6), work_.tree.add(std::move(out))});
    }
    TreeObject out;
    out.u16(static_cast<std::uint32_t>(records.size()));
    for (const Record& record : records) out.u32(record.tag), out.link16(record.object);
    return work_.tree.add(std::move(out));
  }

  /// Subtables behind 32-bit offsets where 16 bits do not reach; nothing where one of them is too large by
  /// itself.
  std::optional<std::uint32_t> add_lookups(bool extended) {
    TreeObject list;
    std::vector<std::uint32_t> objects;
    for (const auto& [index, lookup] : lookups_) {
      if (!lookup.alive) continue;
      TreeObject out;
      out.u16(extended ? extension_ : lookup.old.type), out.u16(lookup.old.flags);
      out.u16(static_cast<std::uint32_t>(lookup.subtables.size()));
      for (const std::uint32_t subtable : lookup.subtables) {
        if (!extended) {
          out.link16(subtable);
          continue;
        }
        auto bytes = work_.tree.pack(subtable);
        if (!bytes) return std::nullopt;
        TreeObject far;
        far.u16(1), far.u16(lookup.old.type), far.link32(work_.tree.add(*std::move(bytes)));
        out.link16(work_.tree.add(std::move(far)));
      }
      if ((lookup.old.flags & 0x10) != 0) out.u16(lookup.old.mark_set);
      objects.push_back(work_.tree.add(std::move(out)));
    }
    if (objects.empty()) objects.push_back(idle_lookup());
    list.u16(static_cast<std::uint32_t>(objects.size()));
    for (const std::uint32_t object : objects) list.link16(object);
    return work_.tree.add(std::move(list));
  }

  /// A list of lookups must not be empty: one that adds 0 to the missing-glyph shape, which no feature uses.
  std::uint32_t idle_lookup() {
    TreeObject subtable, out;
    subtable.u16(1), subtable.link16(work_.add_coverage({0}));
    if (positions_) subtable.u16(4);  // the value's format: an advance
    subtable.u16(0);
    out.u16(1), out.u16(0), out.u16(1), out.link16(work_.tree.add(std::move(subtable)));
    return work_.tree.add(std::move(out));
  }

  std::uint32_t add_variations() {
    TreeObject out;
    out.u32(0x00010000), out.u32(static_cast<std::uint32_t>(source_.variations.size()));
    for (const LayoutSource::Variation& variation : source_.variations) {
      TreeObject conditions, features;
      conditions.u16(static_cast<std::uint32_t>(variation.conditions.size()));
      for (const LayoutSource::Condition& c : variation.conditions) {
        TreeObject condition;
        condition.u16(1), condition.u16(c.axis), condition.s16(c.low), condition.s16(c.high);
        conditions.link32(work_.tree.add(std::move(condition)));
      }
      std::vector<std::pair<std::uint16_t, std::uint32_t>> records;
      for (const auto& [old, table] : variation.features) {
        if (old >= feature_numbers_.size() || feature_numbers_[old] < 0) continue;
        records.emplace_back(static_cast<std::uint16_t>(feature_numbers_[old]),
                             add_feature(source_.features[old].tag, table));
      }
      features.u32(0x00010000), features.u16(static_cast<std::uint32_t>(records.size()));
      for (const auto& [number, feature] : records) features.u16(number), features.link32(feature);
      out.link32(work_.tree.add(std::move(conditions))), out.link32(work_.tree.add(std::move(features)));
    }
    return work_.tree.add(std::move(out));
  }

  std::optional<std::uint32_t> assemble_tree(bool extended) {
    const std::optional<std::uint32_t> lookups = add_lookups(extended);
    if (!lookups) return std::nullopt;
    const bool varies = !source_.variations.empty();
    TreeObject out;
    out.u16(1), out.u16(varies ? 1 : 0);
    out.link16(add_scripts()), out.link16(add_features()), out.link16(*lookups);
    if (varies) out.link32(add_variations());
    return work_.tree.add(std::move(out));
  }

  bool positions_;
  std::uint16_t extension_;
  LayoutSource source_;
  LayoutWork work_;
  std::map<std::uint16_t, NewLookup> lookups_;  ///< by old number
  LookupNumbers numbers_;
  std::vector<std::int32_t> feature_numbers_;
  std::vector<std::size_t> feature_order_;
};

}  // namespace

bool keeps_feature(const SubsetRecipe& recipe, Tag feature) {
  if (!recipe.features) return true;
  const std::span<const Tag> standard = default_features();
  return std::find(standard.begin(), standard.end(), feature) != standard.end() ||
         std::find(recipe.features->begin(), recipe.features->end(), feature) != recipe.features->end();
}

std::vector<std::uint16_t> substitution_lookups(const SubsetPlan& plan) {
  const LayoutSource source(plan.table("GSUB"), plan.pins);
  std::set<std::uint16_t> out;
  for (std::size_t i = 0; i < source.features.size(); ++i) {
    if (!keeps(*plan.recipe, source, i)) continue;
    for (const std::uint16_t lookup : lookups_of(source.features[i].table)) out.insert(lookup);
    for (const LayoutSource::Variation& variation : source.variations) {
      const auto found = variation.features.find(static_cast<std::uint16_t>(i));
      if (found == variation.features.end()) continue;
      for (const std::uint16_t lookup : lookups_of(found->second)) out.insert(lookup);
    }
  }
  return {out.begin(), out.end()};
}

Result<std::optional<WrittenTable>> subset_layout(const SubsetPlan& plan, bool positions,
                                                  VariationRows& rows) {
  return LayoutWriter(plan, positions, rows).write();
}

}  // namespace grafema::detail
