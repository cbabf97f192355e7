// SPDX-License-Identifier: MIT
// Scripts, features and lookups of a rule table, and which tables a font needs.
#include "write/tables/rule_tables.hpp"

#include <algorithm>
#include <set>

#include "grafema/unicode/characters.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kMaxBytes = 65535;

tl::unexpected<Error> too_large() { return bad_value("rules of fewer glyphs: offsets are 16 bits long"); }

}  // namespace

std::vector<std::byte> write_coverage(const std::vector<std::uint16_t>& glyphs) {
  std::vector<std::pair<std::uint16_t, std::uint16_t>> runs;
  for (const std::uint16_t glyph : glyphs) {
    if (!runs.empty() && glyph == runs.back().second + 1) {
      runs.back().second = glyph;
    } else {
      runs.emplace_back(glyph, glyph);
    }
  }
  TableWriter out;
  if (runs.size() * 3 < glyphs.size()) {
    out.u16(2), out.u16(static_cast<std::uint32_t>(runs.size()));
    std::uint32_t index = 0;
    for (const auto& [first, last] : runs) {
      out.u16(first), out.u16(last), out.u16(index);
      index += last - first + 1U;
    }
  } else {
    out.u16(1), out.u16(static_cast<std::uint32_t>(glyphs.size()));
    for (const std::uint16_t glyph : glyphs) out.u16(glyph);
  }
  return std::move(out.bytes());
}

std::vector<std::byte> write_classes(const std::map<std::uint16_t, std::uint16_t>& classes) {
  struct Run {
    std::uint16_t first, last, value;
  };
  std::vector<Run> runs;
  for (const auto& [glyph, value] : classes) {
    if (value == 0) continue;
    if (!runs.empty() && glyph == runs.back().last + 1 && value == runs.back().value) {
      runs.back().last = glyph;
    } else {
      runs.push_back({glyph, glyph, value});
    }
  }
  TableWriter out;
  out.u16(2), out.u16(static_cast<std::uint32_t>(runs.size()));
  for (const Run& run : runs) out.u16(run.first), out.u16(run.last), out.u16(run.value);
  return std::move(out.bytes());
}

std::uint16_t RuleTable::add(Lookup lookup) {
  lookups_.push_back(std::move(lookup));
  return static_cast<std::uint16_t>(lookups_.size() - 1);
}

void RuleTable::add_feature(Tag feature, std::uint16_t lookup, Tag script, Tag language) {
  const auto same = std::find_if(features_.begin(), features_.end(), [&](const Feature& f) {
    return f.tag == feature && f.script == script && f.language == language;
  });
  if (same != features_.end()) {
    same->lookups.push_back(lookup);
  } else {
    features_.push_back({feature, script, language, {lookup}});
  }
}

Result<std::vector<std::byte>> RuleTable::write(const std::vector<Tag>& scripts,
                                                std::uint16_t extension) const {
  RuleTable sorted = *this;
  std::stable_sort(sorted.features_.begin(), sorted.features_.end(),
                   [](const Feature& a, const Feature& b) { return a.tag < b.tag; });
  const std::vector<std::byte> script_list = sorted.write_scripts(scripts),
                               feature_list = sorted.write_features(),
                               lookup_list = sorted.write_lookups(extension);
  if (10 + script_list.size() + feature_list.size() > kMaxBytes || lookups_.size() > 4000) return too_large();
  TableWriter out;
  out.u32(0x00010000);
  out.u16(10), out.u16(static_cast<std::uint32_t>(10 + script_list.size()));
  out.u16(static_cast<std::uint32_t>(10 + script_list.size() + feature_list.size()));
  out.append(script_list), out.append(feature_list), out.append(lookup_list);
  return std::move(out.bytes());
}

std::vector<std::byte> RuleTable::write_scripts(const std::vector<Tag>& scripts) const {
  std::vector<Tag> all = scripts;
  all.push_back(tag("DFLT"));
  std::sort(all.begin(), all.end());
  TableWriter out, tables;
  out.u16(static_cast<std::uint32_t>(all.size()));
  const std::size_t begin = 2 + all.size() * 6;
  for (const Tag script : all) {
    std::set<Tag> languages;
    for (const Feature& f : features_) {
      if (f.language != Tag{} && (f.script == Tag{} || f.script == script)) languages.insert(f.language);
    }
    out.u32(static_cast<std::uint32_t>(script)), out.u16(static_cast<std::uint32_t>(begin + tables.size()));
    TableWriter head, body;
    const std::size_t first = 4 + languages.size() * 6;
    const auto add_language = [&](Tag language) {
      std::vector<std::uint16_t> used;
      for (std::size_t i = 0; i < features_.size(); ++i) {
        const Feature& f = features_[i];
        const bool here =
            (f.script == Tag{} || f.script == script) && (f.language == Tag{} || f.language == language);
        if (here) used.push_back(static_cast<std::uint16_t>(i));
      }
      body.u16(0), body.u16(0xFFFF), body.u16(static_cast<std::uint32_t>(used.size()));
      for (const std::uint16_t i : used) body.u16(i);
    };
    head.u16(static_cast<std::uint32_t>(first)), head.u16(static_cast<std::uint32_t>(languages.size()));
    add_language(Tag{});
    for (const Tag language : languages) {
      head.u32(static_cast<std::uint32_t>(language)),
          head.u16(static_cast<std::uint32_t>(first + body.size()));
      add_language(language);
    }
    tables.append(head.bytes()), tables.append(body.bytes());
  }
  out.append(tables.bytes());
  return std::move(out.bytes());
}

std::vector<std::byte> RuleTable::write_features() const {
  TableWriter out, tables;
  out.u16(static_cast<std::uint32_t>(features_.size()));
  const std::size_t begin = 2 + features_.size() * 6;
  for (const Feature& f : features_) {
    out.u32(static_cast<std::uint32_t>(f.tag)), out.u16(static_cast<std::uint32_t>(begin + tables.size()));
    tables.u16(0), tables.u16(static_cast<std::uint32_t>(f.lookups.size()));
    for (const std::uint16_t lookup : f.lookups) tables.u16(lookup);
  }
  out.append(tables.bytes());
  return std::move(out.bytes());
}

/// Where subtables are too large for 16-bit offsets, each hides behind one of 32 bits.
std::vector<std::byte> RuleTable::write_lookups(std::uint16_t extension) const {
  std::size_t bytes = 2, subtables = 0, headers = 2 + lookups_.size() * 2;
  for (const Lookup& lookup : lookups_) {
    headers += 6 + lookup.subtables.size() * 2, subtables += lookup.subtables.size();
    for (const auto& s : lookup.subtables) bytes += s.size() + 8;
  }
  const bool extended = bytes + headers > kMaxBytes;
  TableWriter out, tables, extensions;
  out.u16(static_cast<std::uint32_t>(lookups_.size()));
  std::size_t at = 2 + lookups_.size() * 2;  // of the lookup
  std::size_t data = headers + (extended ? subtables * 8 : 0), pointer = headers;
  TableWriter bodies;
  for (const Lookup& lookup : lookups_) {
    out.u16(static_cast<std::uint32_t>(at));
    tables.u16(extended ? extension : lookup.type), tables.u16(lookup.flags);
    tables.u16(static_cast<std::uint32_t>(lookup.subtables.size()));
    for (const auto& subtable : lookup.subtables) {
      tables.u16(static_cast<std::uint32_t>((extended ? pointer : data) - at));
      if (extended) {
        extensions.u16(1), extensions.u16(lookup.type),
            extensions.u32(static_cast<std::uint32_t>(data - pointer));
      }
      pointer += 8, data += subtable.size();
      bodies.append(subtable);
    }
    at += 6 + lookup.subtables.size() * 2;
  }
  out.append(tables.bytes()), out.append(extensions.bytes()), out.append(bodies.bytes());
  return std::move(out.bytes());
}

namespace {

/// Classes of glyphs (GDEF): 1 letters, 2 ligatures, 3 marks.
WrittenTable write_gdef(const FontPlan& plan) {
  std::map<std::uint16_t, std::uint16_t> classes;
  for (std::size_t i = 1; i < plan.glyphs.size(); ++i) {
    classes[static_cast<std::uint16_t>(i)] = plan.glyphs[i].mark ? 3 : 1;
  }
  for (const DrawnLigature& ligature : plan.drawing->ligatures) {
    if (const int to = plan.find(ligature.to); to >= 0) classes[static_cast<std::uint16_t>(to)] = 2;
  }
  TableWriter out;
  out.u32(0x00010000), out.u16(12), out.u16(0), out.u16(0), out.u16(0);
  out.append(write_classes(classes));
  return {tag("GDEF"), std::move(out.bytes())};
}

std::vector<Tag> scripts_of(const FontPlan& plan) {
  std::set<Tag> scripts;
  for (const auto& [character, glyph] : plan.characters) scripts.insert(script_of(character));
  for (const DrawnAlternate& alternate : plan.drawing->alternates) scripts.insert(alternate.script);
  scripts.erase(Tag{});
  scripts.erase(tag("DFLT"));
  return {scripts.begin(), scripts.end()};
}

}  // namespace

Result<std::vector<WrittenTable>> write_rules(const FontPlan& plan) {
  std::vector<WrittenTable> tables;
  RuleTable positions, substitutions;
  if (const Result<void> added = add_positions(plan, positions); !added) return fail(added.error());
  if (const Result<void> added = add_substitutions(plan, substitutions); !added) return fail(added.error());
  const std::vector<Tag> scripts = scripts_of(plan);
  if (!positions.empty()) {
    Result<std::vector<std::byte>> bytes = positions.write(scripts, 9);
    if (!bytes) return fail(bytes.error());
    tables.push_back({tag("GPOS"), *std::move(bytes)});
  }
  if (!substitutions.empty()) {
    Result<std::vector<std::byte>> bytes = substitutions.write(scripts, 7);
    if (!bytes) return fail(bytes.error());
    tables.push_back({tag("GSUB"), *std::move(bytes)});
  }
  if (!tables.empty()) tables.push_back(write_gdef(plan));
  if (!plan.pairs.empty() || !plan.drawing->classes.values.empty()) {
    Result<WrittenTable> kern = write_kern(plan);
    if (!kern) return fail(kern.error());
    tables.push_back(*std::move(kern));
  }
  return tables;
}

}  // namespace grafema::detail
