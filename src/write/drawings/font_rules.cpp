// SPDX-License-Identifier: MIT
// Finds the glyphs that a description names and writes its rules into a drawing.
#include "grafema/write/font_rules.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "grafema/base/utf8.hpp"
#include "write/drawings/sheet_cells.hpp"

namespace grafema {
namespace {

using detail::quoted;

class Writer {
 public:
  Writer(const FontRules& rules, float scale, FontDrawing& drawing)
      : rules_(rules), scale_(scale), drawing_(drawing) {}

  Result<void> run() {
    drawing_.embedding = rules_.embedding;
    const bool any = !rules_.compose.empty() || !rules_.group_kerning.empty() || !rules_.ligatures.empty() ||
                     !rules_.alternates.empty() || !rules_.tabular.empty() || rules_.ligatures_of_names;
    if (!any) return {};  // names of glyphs take room in the file
    index();
    for (const Composition& c : rules_.compose) {
      if (by_character_.contains(c.character)) continue;
      if (Result<void> composed = compose(c); !composed) return composed;
    }
    if (Result<void> added = add_kerning(); !added) return added;
    if (Result<void> added = add_ligatures(); !added) return added;
    for (DrawnAlternate a : rules_.alternates) {
      if (!resolve(a.from) || !resolve(a.to))
        return bad_value("alternates of glyphs that are drawn", a.from + ", " + a.to);
      drawing_.alternates.push_back(std::move(a));
    }
    return add_tabular();
  }

 private:
  void index() {
    for (std::size_t i = 1; i < drawing_.glyphs.size(); ++i) add_to_index(i);
  }

  /// Every glyph that rules may be about gets a name.
  void add_to_index(std::size_t i) {
    DrawnGlyph& glyph = drawing_.glyphs[i];
    if (glyph.name.empty() && !glyph.characters.empty()) {
      const auto c = static_cast<unsigned>(glyph.characters[0]);
      glyph.name = c > 0xFFFF ? fmt::format("u{:X}", c) : fmt::format("uni{:04X}", c);
    }
    by_name_.emplace(glyph.name, i);
    for (const char32_t c : glyph.characters) by_character_.emplace(c, i);
  }

  /// Replaces a character with its glyph's name.
  bool resolve(std::string& name) const {
    if (!name.empty()) {
      const DecodedCharacter first = decode_utf8(name, 0);
      if (first.length == name.size()) {
        const auto at = by_character_.find(first.character);
        if (at != by_character_.end()) name = drawing_.glyphs[at->second].name;
        return at != by_character_.end();
      }
    }
    return by_name_.contains(name);
  }

  static const DrawnAnchor* find_anchor(const std::vector<DrawnAnchor>& anchors, std::string_view name,
                                        bool attaches) {
    for (const DrawnAnchor& a : anchors) {
      if (a.attaches == attaches && (name.empty() || a.name == name)) return &a;
    }
    return nullptr;
  }

  /// Accents above stand on letters without their dot.
  std::size_t base_of(const Composition& c, const DrawnAnchor& point) const {
    const bool is_i = c.base == U'i' || c.base == 0x456, is_j = c.base == U'j' || c.base == 0x458;
    const char32_t dotless = is_i ? 0x131 : is_j ? 0x237 : 0;
    const auto at = by_character_.find(point.name == "top" && dotless != 0 ? dotless : c.base);
    return at == by_character_.end() ? 0 : at->second;
  }

  Result<void> compose(const Composition& c) {
    const auto mark_at = by_character_.find(c.mark);
    if (mark_at == by_character_.end())
      return bad_value("accents that are drawn", quoted(c.mark) + " for " + quoted(c.character));
    const DrawnGlyph mark = drawing_.glyphs[mark_at->second];
    const DrawnAnchor* const point = find_anchor(mark.anchors, {}, true);
    if (point == nullptr) return bad_value("a data-attach in each accent", quoted(c.mark));
    const std::size_t base_at = base_of(c, *point);
    if (base_at == 0)
      return bad_value("letters that are drawn", quoted(c.base) + " for " + quoted(c.character));
    const DrawnGlyph base = drawing_.glyphs[base_at];
    const DrawnAnchor* const place = find_anchor(base.anchors, point->name, false);
    if (place == nullptr)
      return bad_value("an anchor where accents stand",
                       fmt::format("'{}' in {} for {}", point->name, quoted(c.base), quoted(c.character)));
    DrawnGlyph made;
    made.characters = {c.character};
    const std::string anchor = point->name;
    const auto put_together = [&](const auto& letter, const auto& accent, auto& out) {
      const FontPoint to = find_anchor(letter.anchors, anchor, false)->at,
                      from = find_anchor(accent.anchors, anchor, true)->at;
      const float dx = to.x - from.x, dy = to.y - from.y;
      out.advance = letter.advance;
      out.parts = {{base.name, 0, 0}, {mark.name, dx, dy}};
      for (const DrawnAnchor& a : letter.anchors) {
        if (a.name != anchor) out.anchors.push_back(a);
      }
      if (const DrawnAnchor* next = find_anchor(accent.anchors, anchor, false); next != nullptr)
        out.anchors.push_back({next->name, {next->at.x + dx, next->at.y + dy}, false});
    };
    put_together(base, mark, made);
    for (std::size_t w = 0; w < base.masters.size(); ++w)
      put_together(base.masters[w], mark.masters[w], made.masters.emplace_back());
    drawing_.glyphs.push_back(std::move(made));
    add_to_index(drawing_.glyphs.size() - 1);
    letter_of_[drawing_.glyphs.back().name] = base.name;
    return {};
  }

  /// The group's number of each glyph; compositions are in that of their letter.
  Result<void> add_groups(const std::vector<KerningGroup>& groups,
                          std::vector<std::vector<std::string>>& classes,
                          std::map<std::string, std::size_t>& numbers) const {
    std::map<std::string, std::size_t> of_glyph;
    for (const KerningGroup& group : groups) {
      if (!numbers.emplace(group.name, classes.size()).second)
        return bad_value("each kerning group once", group.name);
      std::vector<std::string>& members = classes.emplace_back();
      for (std::string member : group.members) {
        if (!resolve(member))
          return bad_value("kerning groups of characters that are drawn",
                           fmt::format("'{}' in group {}", member, group.name));
        if (!of_glyph.emplace(member, classes.size() - 1).second)
          return bad_value("each character in one kerning group of a side",
                           fmt::format("'{}' in group {}", member, group.name));
        members.push_back(member);
      }
    }
    // Letters were made before what stands on them.
    for (const DrawnGlyph& glyph : drawing_.glyphs) {
      const auto letter = letter_of_.find(glyph.name);
      if (letter == letter_of_.end() || of_glyph.contains(glyph.name)) continue;
      const auto at = of_glyph.find(letter->second);
      if (at == of_glyph.end()) continue;
      classes[at->second].push_back(glyph.name), of_glyph.emplace(glyph.name, at->second);
    }
    return {};
  }

  Result<void> add_kerning() {
    if (rules_.group_kerning.empty()) return {};
    ClassKerning& to = drawing_.classes;
    std::map<std::string, std::size_t> left, right;
    if (Result<void> added = add_groups(rules_.left_groups, to.left, left); !added) return added;
    if (Result<void> added = add_groups(rules_.right_groups, to.right, right); !added) return added;
    to.values.assign(to.left.size() * to.right.size(), 0);
    for (const GroupPair& pair : rules_.group_kerning) {
      const auto a = left.find(pair.left), b = right.find(pair.right);
      if (a == left.end() || b == right.end())
        return bad_value("kerning between groups that are there", pair.left + " " + pair.right);
      to.values[a->second * to.right.size() + b->second] = pair.value * scale_;
    }
    return {};
  }

  Result<void> add_ligatures() {
    for (DrawnLigature ligature : rules_.ligatures) {
      bool all = resolve(ligature.to);
      for (std::string& name : ligature.from) all = all && resolve(name);
      if (!all) return bad_value("ligatures of glyphs that are drawn", ligature.to);
      drawing_.ligatures.push_back(std::move(ligature));
    }
    if (!rules_.ligatures_of_names) return {};
    for (std::size_t i = 1; i < drawing_.glyphs.size(); ++i) {
      const DrawnGlyph& glyph = drawing_.glyphs[i];
      const bool is_sign =
          !glyph.characters.empty() && glyph.characters[0] >= 0xE000 && glyph.characters[0] <= 0xF8FF;
      if (!is_sign || glyph.name.size() < 2) continue;
      DrawnLigature ligature;
      ligature.to = glyph.name;
      for (const char c : glyph.name) {
        std::string letter(1, c == '_' ? '-' : c);
        if (!resolve(letter))
          return bad_value("the letters of each name", fmt::format("'{}' of '{}'", letter, glyph.name));
        ligature.from.push_back(std::move(letter));
      }
      drawing_.ligatures.push_back(std::move(ligature));
    }
    return {};
  }

  /// Alternates as wide as the widest, each figure in their middle.
  Result<void> add_tabular() {
    std::vector<float> widest(drawing_.masters.size() + 1, 0);
    for (const char32_t c : rules_.tabular) {
      if (!by_character_.contains(c)) return bad_value("tabular figures that are drawn", quoted(c));
      const DrawnGlyph& figure = drawing_.glyphs[by_character_.at(c)];
      widest[0] = std::max(widest[0], figure.advance);
      for (std::size_t w = 0; w < figure.masters.size(); ++w)
        widest[w + 1] = std::max(widest[w + 1], figure.masters[w].advance);
    }
    for (const char32_t c : rules_.tabular) {
      const DrawnGlyph figure = drawing_.glyphs[by_character_.at(c)];
      DrawnGlyph made;
      made.name = figure.name + ".tnum";
      made.advance = widest[0];
      made.parts = {{figure.name, (widest[0] - figure.advance) / 2, 0}};
      for (std::size_t w = 0; w < figure.masters.size(); ++w) {
        made.masters.push_back(
            {{}, widest[w + 1], {}, {{figure.name, (widest[w + 1] - figure.masters[w].advance) / 2, 0}}});
      }
      drawing_.glyphs.push_back(made);
      drawing_.alternates.push_back({tag("tnum"), figure.name, made.name, {}, {}});
    }
    return {};
  }

  const FontRules& rules_;
  float scale_;
  FontDrawing& drawing_;
  std::map<std::string, std::size_t, std::less<>> by_name_;
  std::map<char32_t, std::size_t> by_character_;
  std::map<std::string, std::string> letter_of_;
};

}  // namespace

Result<void> apply_rules(const FontRules& rules, float scale, FontDrawing& drawing) {
  return Writer(rules, scale, drawing).run();
}

}  // namespace grafema
