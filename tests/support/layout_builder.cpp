// SPDX-License-Identifier: MIT
// Writes layout tables and their parts.
#include "support/layout_builder.hpp"

#include <stdexcept>

namespace grafema::test {

std::vector<std::byte> with_parts(std::vector<int> values, const std::vector<std::vector<std::byte>>& parts) {
  std::size_t at = values.size() * 2, next = 0;
  for (int& value : values) {
    if (value != -1) continue;
    if (next == parts.size()) throw std::logic_error("more offsets than parts");
    value = static_cast<int>(at);
    at += parts[next++].size();
  }
  Bytes out;
  for (const int value : values) out.u16(value);
  for (const auto& part : parts) out.add(part);
  return out;
}

std::vector<std::byte> coverage(const std::vector<int>& glyphs) {
  Bytes out = Bytes().u16(1).u16(static_cast<long>(glyphs.size()));
  for (const int g : glyphs) out.u16(g);
  return out;
}

std::vector<std::byte> classes(const std::vector<std::pair<int, int>>& list) {
  Bytes out = Bytes().u16(2).u16(static_cast<long>(list.size()));
  for (const auto& [glyph, value] : list) out.words(glyph, glyph, value);
  return out;
}

std::vector<std::byte> make_lookup(int type, const std::vector<std::vector<std::byte>>& subtables, int flags,
                                   int extension, int mark_set) {
  std::vector<int> values = {extension != 0 ? extension : type, flags, static_cast<int>(subtables.size())};
  values.insert(values.end(), subtables.size(), -1);
  if (mark_set >= 0) values.push_back(mark_set);
  std::vector<std::vector<std::byte>> parts;
  for (const auto& subtable : subtables) {
    parts.push_back(extension != 0 ? Bytes().u16(1).u16(type).u32(8).add(subtable).get() : subtable);
  }
  return with_parts(values, parts);
}

std::vector<std::byte> make_layout(const LayoutDrawing& d) {
  const auto list = [](const std::vector<std::pair<std::string, std::vector<std::byte>>>& items) {
    Bytes head = Bytes().u16(static_cast<long>(items.size())), body;
    for (const auto& [tag, table] : items) {
      head.text(tag).u16(static_cast<long>(2 + items.size() * 6 + body.size()));
      body.add(table);
    }
    return head.add(body).get();
  };
  std::vector<std::pair<std::string, std::vector<std::byte>>> scripts, features;
  for (const auto& [tag, languages] : d.scripts) {
    Bytes records, tables;
    std::size_t named = 0;
    for (const auto& language : languages) named += language.tag.empty() ? 0 : 1;
    const std::size_t start = 4 + named * 6;
    long standard = 0;
    for (const auto& language : languages) {
      const auto at = static_cast<long>(start + tables.size());
      if (language.tag.empty()) standard = at;
      if (!language.tag.empty()) records.text(language.tag).u16(at);
      tables.u16(0).u16(language.required).u16(static_cast<long>(language.features.size()));
      for (const int f : language.features) tables.u16(f);
    }
    scripts.emplace_back(tag,
                         Bytes().u16(standard).u16(static_cast<long>(named)).add(records).add(tables).get());
  }
  for (const auto& [tag, lookups] : d.features) {
    Bytes table = Bytes().u16(0).u16(static_cast<long>(lookups.size()));
    for (const int l : lookups) table.u16(l);
    features.emplace_back(tag, table.get());
  }
  std::vector<int> lookup_list = {static_cast<int>(d.lookups.size())};
  lookup_list.insert(lookup_list.end(), d.lookups.size(), -1);
  const std::vector<std::byte> a = list(scripts), b = list(features), c = with_parts(lookup_list, d.lookups);
  const bool varies = !d.variations.empty();
  const auto first = static_cast<long>(varies ? 14 : 10);
  const auto at_b = first + static_cast<long>(a.size()), at_c = at_b + static_cast<long>(b.size());
  Bytes out = Bytes().u16(1).u16(varies ? 1 : 0).u16(first).u16(at_b).u16(at_c);
  if (varies) out.u32(at_c + static_cast<long>(c.size()));
  return out.add(a).add(b).add(c).add(d.variations);
}

std::vector<std::byte> simple_layout(const std::string& feature, const std::vector<int>& used,
                                     const std::vector<std::vector<std::byte>>& lookups) {
  return make_layout({{{"latn", {{"", {0}}}}}, {{feature, used}}, lookups, {}});
}

}  // namespace grafema::test
