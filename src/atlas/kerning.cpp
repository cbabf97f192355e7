// SPDX-License-Identifier: MIT
// Gathers the kerning of baked glyphs into pairs or classes.
#include <algorithm>
#include <map>

#include "atlas/select.hpp"
#include "grafema/unicode/characters.hpp"

namespace grafema::detail {
namespace {

/// The script of a glyph's first character; Tag{} where it has none, or belongs to none.
Tag own_script(const AtlasGlyph& glyph) {
  return glyph.codepoints.empty() ? Tag{} : script_of(glyph.codepoints.front());
}

/// The script that most glyphs are of: what ligatures and other glyphs without characters are taken to be of.
Tag commonest_script(const std::vector<const AtlasGlyph*>& glyphs) {
  std::map<Tag, std::size_t> counts;
  for (const AtlasGlyph* glyph : glyphs) {
    if (const Tag script = own_script(*glyph); script != Tag{}) ++counts[script];
  }
  const auto most = std::max_element(counts.begin(), counts.end(),
                                     [](const auto& a, const auto& b) { return a.second < b.second; });
  return most == counts.end() ? tag("DFLT") : most->first;
}

/// The script that a pair is kerned in: that of its first character that has one.
Tag pair_script(const AtlasGlyph& left, const AtlasGlyph& right, Tag common) {
  for (const AtlasGlyph* glyph : {&left, &right}) {
    if (const Tag script = own_script(*glyph); script != Tag{}) return script;
  }
  return left.codepoints.empty() || right.codepoints.empty() ? common : tag("DFLT");
}

/// What one glyph kerns with: places in the list of glyphs, ascending, and pixels. Most have none.
using Row = std::vector<std::pair<std::uint32_t, float>>;

/// Rows that are alike, each group once; the empty row is no class.
struct Groups {
  std::vector<std::vector<GlyphId>> members;
  std::vector<Row> rows;
};

Groups group_rows(const std::vector<Row>& rows, const std::vector<GlyphId>& ids) {
  Groups groups;
  std::map<Row, std::size_t> seen;
  for (std::size_t i = 0; i < rows.size(); ++i) {
    if (rows[i].empty()) continue;
    const auto [at, is_new] = seen.emplace(rows[i], groups.rows.size());
    if (is_new) {
      groups.rows.push_back(rows[i]);
      groups.members.emplace_back();
    }
    groups.members[at->second].push_back(ids[i]);
  }
  return groups;
}

std::vector<Row> transposed(const std::vector<Row>& rows, std::size_t columns) {
  std::vector<Row> out(columns);
  for (std::size_t r = 0; r < rows.size(); ++r) {
    for (const auto& [column, value] : rows[r]) out[column].push_back({static_cast<std::uint32_t>(r), value});
  }
  return out;
}

std::size_t entries(const std::vector<std::vector<GlyphId>>& classes) {
  std::size_t count = 0;
  for (const auto& c : classes) count += c.size();
  return count;
}

}  // namespace

AtlasKerning make_kerning(const Face& face, float size, std::size_t strike,
                          const std::vector<AtlasGlyph>& glyphs) {
  AtlasKerning kerning;
  kerning.strike = strike;
  if (face.kerning_source() == KerningSource::none) return kerning;
  std::vector<const AtlasGlyph*>
      mapped;  // and what only shaping yields; the missing-glyph shape does not kern
  std::vector<GlyphId> ids;
  for (const AtlasGlyph& glyph : glyphs) {
    if (glyph.strike != strike || glyph.phase != 0 || glyph.glyph == kMissingGlyph) continue;
    mapped.push_back(&glyph);
    ids.push_back(glyph.glyph);
  }
  const double scale = double{size} / face.units_per_em();
  const std::vector<GlyphId> lefts = face.left_glyphs();
  const Tag common = commonest_script(mapped);
  std::vector<Row> rows(mapped.size());
  for (std::size_t l = 0; l < mapped.size(); ++l) {
    if (!std::binary_search(lefts.begin(), lefts.end(), ids[l])) continue;
    for (std::size_t r = 0; r < mapped.size(); ++r) {
      const float units = face.kerning(ids[l], ids[r], pair_script(*mapped[l], *mapped[r], common));
      if (units == 0) continue;
      rows[l].push_back({static_cast<std::uint32_t>(r), static_cast<float>(units * scale)});
      kerning.pairs.push_back({ids[l], ids[r], rows[l].back().second});
    }
  }
  const Groups first = group_rows(rows, ids);
  const Groups second = group_rows(transposed(first.rows, ids.size()), ids);
  const std::size_t class_entries =
      entries(first.members) + entries(second.members) + first.rows.size() * second.rows.size();
  if (class_entries >= kerning.pairs.size() * 3) return kerning;
  kerning.pairs.clear();
  kerning.first = first.members;
  kerning.second = second.members;
  kerning.values.assign(first.rows.size() * second.rows.size(), 0.0F);
  for (std::size_t c = 0; c < second.rows.size(); ++c) {
    for (const auto& [row, value] : second.rows[c]) kerning.values[row * second.rows.size() + c] = value;
  }
  return kerning;
}

}  // namespace grafema::detail
