// SPDX-License-Identifier: MIT
// Follows substitutions from glyph to glyph until nothing new comes up.
#include "grafema/font/reachable.hpp"
#include "font/layout/follow_lookups.hpp"
#include "grafema/unicode/characters.hpp"

#include <algorithm>

namespace grafema {
namespace {

constexpr Tag kDefaultFeatures[] = {
    // of every script
    tag("abvm"),
    tag("blwm"),
    tag("calt"),
    tag("ccmp"),
    tag("clig"),
    tag("curs"),
    tag("dist"),
    tag("kern"),
    tag("liga"),
    tag("locl"),
    tag("mark"),
    tag("mkmk"),
    tag("rclt"),
    tag("rlig"),
    tag("rvrn"),
    tag("frac"),
    tag("numr"),
    tag("dnom"),
    tag("ltra"),
    tag("ltrm"),
    tag("rtla"),
    tag("rtlm"),
    // of vertical lines
    tag("vert"),
    tag("vrt2"),
    tag("vkrn"),
    // of joining scripts
    tag("isol"),
    tag("init"),
    tag("medi"),
    tag("med2"),
    tag("fina"),
    tag("fin2"),
    tag("fin3"),
    tag("cswh"),
    tag("mset"),
    tag("stch"),
    // of the scripts of South and South-East Asia and of Hangul
    tag("nukt"),
    tag("akhn"),
    tag("rphf"),
    tag("rkrf"),
    tag("pref"),
    tag("blwf"),
    tag("abvf"),
    tag("half"),
    tag("pstf"),
    tag("vatu"),
    tag("cjct"),
    tag("cfar"),
    tag("pres"),
    tag("abvs"),
    tag("blws"),
    tag("psts"),
    tag("haln"),
    tag("ljmo"),
    tag("vjmo"),
    tag("tjmo"),
};

constexpr int kMaxDepth = 8;
constexpr std::size_t kMaxRules = 65536;  // subtables kept
/// Glyphs and rules looked at. Real fonts stay below a million for a whole script; a font that multiplies
/// them without end is left where it is.
constexpr std::size_t kMaxWork = 50'000'000;

class Follower {
 public:
  explicit Follower(const Face& face) : table_(face.substitutions()), in_(face.glyph_count(), false) {}

  void add(GlyphId glyph) {
    if (index_of(glyph) >= in_.size() || in_[index_of(glyph)]) return;
    in_[index_of(glyph)] = true;
    list_.push_back(glyph);
  }

  void follow(const std::vector<std::uint16_t>& lookups) {
    all_.resize(table_.lookup_count());
    for (std::size_t before = 0; before != list_.size();) {
      before = list_.size();
      for (const std::uint16_t index : lookups) {
        const std::vector<GlyphId> now = list_;
        apply(index, now, 0, nullptr);
      }
    }
  }

  std::vector<GlyphId> sorted() {
    std::sort(list_.begin(), list_.end());
    return std::move(list_);
  }

 private:
  bool holds(GlyphId glyph) const { return index_of(glyph) < in_.size() && in_[index_of(glyph)]; }

  /// Applies the lookup to each of `glyphs`; what it makes is added, and to `made` too where that is given.
  void apply(std::size_t index, const std::vector<GlyphId>& glyphs, int depth, std::vector<GlyphId>* made) {
    if (index >= all_.size() || depth > kMaxDepth) return;
    if (!all_[index]) {  // read when first used
      if (rules_ > kMaxRules) return;
      all_[index] = table_.substitution(index);
      rules_ += all_[index]->rules.size() + 1;
    }
    for (const SubstitutionRule& rule : all_[index]->rules) {
      work_ += glyphs.size() + 1;
      if (work_ > kMaxWork) return;
      if (const auto* single = std::get_if<SingleSubstitution>(&rule)) apply_each(*single, glyphs, made);
      if (const auto* reverse = std::get_if<ReverseSubstitution>(&rule)) apply_each(*reverse, glyphs, made);
      if (const auto* sequence = std::get_if<SequenceSubstitution>(&rule)) {
        for (const GlyphId glyph : glyphs) {
          const std::optional<std::vector<GlyphId>> found = sequence->find(glyph);
          if (found) keep(*found, made);
        }
      }
      if (const auto* ligatures = std::get_if<LigatureSubstitution>(&rule)) {
        apply_ligatures(*ligatures, glyphs, made);
      }
      if (const auto* contexts = std::get_if<ContextRules>(&rule)) {
        apply_contexts(*contexts, glyphs, depth, made);
      }
    }
  }

  void keep(std::span<const GlyphId> glyphs, std::vector<GlyphId>* made) {
    for (const GlyphId glyph : glyphs) {
      add(glyph);
      if (made != nullptr) made->push_back(glyph);
    }
  }

  template <class Rule>
  void apply_each(const Rule& rule, const std::vector<GlyphId>& glyphs, std::vector<GlyphId>* made) {
    for (const GlyphId glyph : glyphs) {
      if (const std::optional<GlyphId> found = rule.find(glyph)) keep({&*found, 1}, made);
    }
  }

  void apply_ligatures(const LigatureSubstitution& rule, const std::vector<GlyphId>& glyphs,
                       std::vector<GlyphId>* made) {
    for (const GlyphId first : glyphs) {
      const std::vector<Ligature> found = rule.find(first);
      work_ += found.size();
      for (const Ligature& ligature : found) {
        if (std::all_of(ligature.rest.begin(), ligature.rest.end(), [this](GlyphId g) { return holds(g); })) {
          keep({&ligature.glyph, 1}, made);
        }
      }
    }
  }

  /// The known glyphs that may stand at a place.
  std::vector<GlyphId> matching(const GlyphMatcher& place) {
    std::vector<GlyphId> out;
    if (const auto* own = std::get_if<GlyphId>(&place.what)) {
      if (holds(*own)) out.push_back(*own);
      return out;
    }
    work_ += list_.size();
    if (work_ > kMaxWork) return list_;
    for (const GlyphId glyph : list_) {
      if (place.matches(glyph)) out.push_back(glyph);
    }
    return out;
  }

  bool can_match(const GlyphMatcher& place) {
    if (const auto* own = std::get_if<GlyphId>(&place.what)) return holds(*own);
    if (work_ > kMaxWork) return true;
    const auto found = std::find_if(list_.begin(), list_.end(), [&](GlyphId glyph) {
      ++work_;
      return place.matches(glyph);
    });
    return found != list_.end();
  }

  void apply_contexts(const ContextRules& rules, const std::vector<GlyphId>& glyphs, int depth,
                      std::vector<GlyphId>* made) {
    const GlyphSet first = rules.first();
    std::vector<std::uint32_t> seen;  // rules of classes and sets are the same for many first glyphs
    for (const GlyphId glyph : glyphs) {
      if (!first.holds(glyph)) continue;
      const std::vector<ContextRule> found = rules.find(glyph);
      for (const ContextRule& rule : found) {  // each place was read into memory of its own
        work_ += 16 + (rule.input.size() + rule.before.size() + rule.after.size()) * 8;
      }
      if (work_ > kMaxWork) return;
      if (found.empty()) continue;
      const auto* by_class = std::get_if<std::pair<GlyphClasses, std::uint16_t>>(&found[0].input[0].what);
      const bool by_glyph = std::holds_alternative<GlyphId>(found[0].input[0].what);
      const std::uint32_t key = by_glyph              ? 0x10000U + index_of(glyph)
                                : by_class != nullptr ? by_class->second
                                                      : 0xFFFFFFFFU;
      if (std::find(seen.begin(), seen.end(), key) != seen.end()) continue;
      seen.push_back(key);
      for (const ContextRule& rule : found) apply_rule(rule, depth, made);
    }
  }

  void apply_rule(const ContextRule& rule, int depth, std::vector<GlyphId>* made) {
    const auto possible = [this](const std::vector<GlyphMatcher>& places) {
      return std::all_of(places.begin(), places.end(),
                         [this](const GlyphMatcher& m) { return can_match(m); });
    };
    if (rule.actions.empty() || ++work_ > kMaxWork || !possible(rule.input) || !possible(rule.before) ||
        !possible(rule.after)) {
      return;
    }
    std::vector<GlyphId> results;
    for (const ContextAction& action : rule.actions) {
      // Earlier actions may have put their results, or more glyphs than before, at any place.
      std::vector<GlyphId> here =
          action.place < rule.input.size() ? matching(rule.input[action.place]) : list_;
      here.insert(here.end(), results.begin(), results.end());
      apply(action.lookup, here, depth + 1, &results);
    }
    if (made != nullptr) made->insert(made->end(), results.begin(), results.end());
  }

  const LayoutTable& table_;
  std::vector<std::optional<Lookup<SubstitutionRule>>> all_;
  std::size_t rules_ = 0;
  std::vector<bool> in_;
  std::vector<GlyphId> list_;
  std::size_t work_ = 0;
};

}  // namespace

std::vector<GlyphId> detail::follow_lookups(const Face& face, std::span<const GlyphId> glyphs,
                                            const std::vector<std::uint16_t>& lookups) {
  Follower follower(face);
  for (const GlyphId glyph : glyphs) follower.add(glyph);
  follower.follow(lookups);
  return follower.sorted();
}

std::vector<GlyphId> detail::glyphs_of(const Face& face, std::span<const char32_t> characters) {
  std::vector<GlyphId> glyphs;
  for (const char32_t c : characters) {
    if (const GlyphId glyph = face.find_glyph(c); glyph != kMissingGlyph) glyphs.push_back(glyph);
  }
  std::size_t work = 0;
  for (const char32_t selector : face.variation_selectors()) {
    if (std::find(characters.begin(), characters.end(), selector) == characters.end()) continue;
    if ((work += characters.size()) > kMaxWork) break;
    for (const char32_t c : characters) {
      if (const GlyphId glyph = face.find_variant(c, selector); glyph != kMissingGlyph) {
        glyphs.push_back(glyph);
      }
    }
  }
  return glyphs;
}

std::span<const Tag> default_features() { return kDefaultFeatures; }

std::vector<GlyphId> reachable_glyphs(const Face& face, std::span<const char32_t> characters,
                                      std::span<const Tag> features) {
  std::vector<std::uint16_t> lookups = face.substitutions().find_lookups(features);
  for (const ScriptTags& script : face.substitutions().scripts()) {  // features that a language requires
    std::vector<Tag> languages = script.languages;
    languages.push_back(Tag{});
    for (const Tag language : languages) {
      const std::vector<std::uint16_t> required =
          face.substitutions().find_required_lookups(script.script, language);
      lookups.insert(lookups.end(), required.begin(), required.end());
    }
  }
  std::sort(lookups.begin(), lookups.end());
  lookups.erase(std::unique(lookups.begin(), lookups.end()), lookups.end());
  return detail::follow_lookups(face, detail::glyphs_of(face, characters), lookups);
}

}  // namespace grafema
