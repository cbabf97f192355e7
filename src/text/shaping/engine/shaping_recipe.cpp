// SPDX-License-Identifier: MIT
// Gathers the lookups of features, those of scripts first, into stages.
#include "text/shaping/engine/shaping_recipe.hpp"

#include <algorithm>

#include "text/shaping/scripts/language_tags.hpp"

namespace grafema::detail {
namespace {

// OpenType, "Registered features": those that are on by default in every script.
constexpr Tag kCommon[] = {tag("abvm"), tag("blwm"), tag("ccmp"), tag("locl"), tag("mark"),
                           tag("mkmk"), tag("rlig"), tag("calt"), tag("clig"), tag("curs"),
                           tag("dist"), tag("kern"), tag("liga"), tag("rclt")};
constexpr std::uint32_t kForAll = 1;
constexpr unsigned kBits = 32;

/// A feature on its way to lookups.
struct Wanted {
  Tag tag{};
  std::uint32_t mask = kForAll, value = 1;
  std::size_t stage = 0;
  bool keeps_joiners = false, keeps_non_joiners = false, within_syllable = false;
};

using LookupList = std::vector<ChosenLookup>;

class RecipeMaker {
 public:
  RecipeMaker(FaceLookups& face, const RecipeRequest& request) : face_(face), request_(request) {
    recipe_.script = request.script;
    recipe_.left_to_right = request.left_to_right;
    recipe_.upright = request.upright;
    recipe_.memory.found = face.face()->substitutions().find_script(request.script);
    recipe_.rules = &script_rules(request.script, recipe_.memory.found);
    recipe_.language = choose_language();
  }

  ShapingRecipe make() {
    const Face& face = *face_.face();
    want(tag("rvrn"));
    ++stage_;
    if (request_.left_to_right) {
      want(tag("ltra")), want(tag("ltrm"));
    } else {
      want(tag("rtla"));
      recipe_.mirrored = want_chosen(tag("rtlm"));
    }
    recipe_.fraction = want_chosen(tag("frac"));
    recipe_.numerator = want_chosen(tag("numr"));
    recipe_.denominator = want_chosen(tag("dnom"));
    want_script_features();
    if (request_.upright) {
      // `vrt2` turns Latin letters too, which are to stand here: it is for faces that have no `vert`.
      want(has(face.substitutions(), tag("vert")) ? tag("vert") : tag("vrt2"));
      if (request_.kerning) want(tag("vkrn"));
    }
    for (const Tag common : kCommon) {
      if (request_.upright && common == tag("kern")) continue;
      const std::span<const Tag> out = recipe_.rules->leaves_out();
      if (!is_wanted(common) && std::find(out.begin(), out.end(), common) == out.end()) want(common);
    }
    if (has(face.substitutions(), tag("rand"))) {
      wanted_.push_back({tag("rand"), kForAll, ChosenLookup::kAnyAlternate, stage_});
    }
    take_settings();
    const bool gpos_kern = has(face.positions(), tag("kern"));
    recipe_.kerns = !gpos_kern && !request_.upright && is_on(tag("kern"));
    recipe_.places_marks = has(face.positions(), tag("mark")) || has(face.positions(), tag("mkmk"));
    build();
    find_spaces();
    return std::move(recipe_);
  }

 private:
  bool has(const LayoutTable& table, Tag feature) const {
    return table.has_feature(recipe_.script, recipe_.language, feature);
  }
  Tag choose_language() const {
    for (const Tag tried : language_tags(request_.language)) {
      for (const LayoutTable* table : {&face_.face()->substitutions(), &face_.face()->positions()}) {
        const Tag found = table->find_script(request_.script);
        for (const ScriptTags& script : table->scripts()) {
          const bool same = script.script == found && found != tag("DFLT");
          if (same &&
              std::find(script.languages.begin(), script.languages.end(), tried) != script.languages.end()) {
            return tried;
          }
        }
      }
    }
    return Tag{};
  }

  std::uint32_t new_bit() { return next_bit_ < kBits ? std::uint32_t{1} << next_bit_++ : 0U; }
  void want(Tag feature) { wanted_.push_back({feature, kForAll, 1, stage_}); }
  std::uint32_t want_chosen(Tag feature) {
    const bool there = has(face_.face()->substitutions(), feature);
    const std::uint32_t bit = there ? new_bit() : 0U;
    if (bit != 0) wanted_.push_back({feature, bit, 1, stage_});
    return bit;
  }
  bool is_wanted(Tag feature) const {
    return std::any_of(wanted_.begin(), wanted_.end(), [&](const Wanted& w) { return w.tag == feature; });
  }
  bool is_on(Tag feature) const {
    return std::any_of(wanted_.begin(), wanted_.end(),
                       [&](const Wanted& w) { return w.tag == feature && w.mask != 0; });
  }

  void want_script_features() {
    for (const ScriptFeature& feature : recipe_.rules->features()) {
      std::uint32_t bit = kForAll;
      if (feature.chosen) bit = has(face_.face()->substitutions(), feature.tag) ? new_bit() : 0U;
      wanted_.push_back({feature.tag, bit, 1, stage_, feature.keeps_joiners, feature.keeps_non_joiners,
                         feature.within_syllable});
      recipe_.script_bits.push_back(feature.chosen ? bit : 0U);
      if (feature.hook != 0) recipe_.hooks.push_back({stage_, feature.hook});
      if (feature.ends_stage) ++stage_;
    }
  }

  /// The caller's features, later ones over earlier ones; a range takes a bit of its own.
  void take_settings() {
    if (!request_.kerning) turn_off(tag("kern"));
    for (const FeatureSetting& setting : request_.features) {
      const bool whole = setting.start == 0 && setting.end == FeatureSetting::kToTheEnd;
      if (whole && setting.value == 0) {
        turn_off(setting.tag);
      } else if (whole) {
        turn_on(setting.tag, setting.value, kForAll);
      } else if (setting.value != 0) {
        const std::uint32_t bit = new_bit();
        if (bit == 0) continue;
        wanted_.push_back({setting.tag, bit, setting.value, stage_});
        recipe_.ranges.push_back({bit, setting.start, setting.end, true});
      } else {
        for (Wanted& w : wanted_) {
          if (w.tag != setting.tag || w.mask == 0) continue;
          if (w.mask == kForAll) w.mask = new_bit();
          if (w.mask == 0) continue;
          recipe_.ranges.push_back({w.mask, 0, FeatureSetting::kToTheEnd, true});
          recipe_.ranges.push_back({w.mask, setting.start, setting.end, false});
        }
      }
    }
  }
  void turn_off(Tag feature) {
    for (Wanted& w : wanted_) {
      if (w.tag == feature) w.mask = 0;
    }
  }
  void turn_on(Tag feature, std::uint32_t value, std::uint32_t mask) {
    bool found = false;
    for (Wanted& w : wanted_) {
      if (w.tag != feature) continue;
      // A feature whose glyphs a script chooses stays with them; `frac` and the like then are for all.
      const bool of_script =
          std::any_of(recipe_.rules->features().begin(), recipe_.rules->features().end(),
                      [&](const ScriptFeature& f) { return f.tag == feature && f.chosen; });
      if (!of_script) w.mask = mask;
      w.value = value;
      found = true;
    }
    if (!found) wanted_.push_back({feature, mask, value, stage_});
  }

  void build() {
    const Face& face = *face_.face();
    std::vector<LookupList> stages(stage_ + 1);
    LookupList positions;
    const auto required = [&](const LayoutTable& table) {
      return table.find_required_lookups(recipe_.script, recipe_.language);
    };
    add(required(face.substitutions()), {}, stages[std::min<std::size_t>(1, stage_)]);
    add(required(face.positions()), {}, positions);
    for (const Wanted& w : wanted_) {
      if (w.mask == 0) continue;
      recipe_.is_random = recipe_.is_random || w.value == ChosenLookup::kAnyAlternate;
      add(face.substitutions().find_lookups(recipe_.script, recipe_.language, w.tag), w, stages[w.stage]);
      add(face.positions().find_lookups(recipe_.script, recipe_.language, w.tag), w, positions);
    }
    auto hook = recipe_.hooks.begin();
    for (std::size_t s = 0; s < stages.size(); ++s) {
      finish(stages[s], false);
      // One stage after the other is one list: its order is all that they are for.
      LookupList& all = recipe_.substitutions.lookups;
      all.insert(all.end(), stages[s].begin(), stages[s].end());
      for (; hook != recipe_.hooks.end() && hook->lookups == s; ++hook) hook->lookups = all.size();
    }
    for (const ScriptFeature& feature : recipe_.rules->features()) {
      std::vector<const CompiledLookup*>& own = recipe_.memory.lookups.emplace_back();
      for (const std::uint16_t lookup :
           face.substitutions().find_lookups(recipe_.script, recipe_.language, feature.tag)) {
        own.push_back(&face_.substitution(lookup));
      }
    }
    finish(positions, true);
    recipe_.positions.lookups = std::move(positions);
    recipe_.positions.positions = true;
  }
  static void add(const std::vector<std::uint16_t>& lookups, const Wanted& w, LookupList& list) {
    for (const std::uint16_t lookup : lookups) {
      list.push_back(
          {lookup, w.mask, w.value, w.keeps_joiners, w.keeps_non_joiners, w.within_syllable, nullptr});
    }
  }
  void finish(LookupList& list, bool positions) {
    std::stable_sort(list.begin(), list.end(),
                     [](const ChosenLookup& a, const ChosenLookup& b) { return a.lookup < b.lookup; });
    std::size_t kept = 0;
    for (const ChosenLookup& each : list) {
      if (kept > 0 && list[kept - 1].lookup == each.lookup && list[kept - 1].value == each.value) {
        list[kept - 1].mask |= each.mask;
        list[kept - 1].keeps_joiners = list[kept - 1].keeps_joiners && each.keeps_joiners;
        list[kept - 1].keeps_non_joiners = list[kept - 1].keeps_non_joiners && each.keeps_non_joiners;
      } else {
        list[kept++] = each;
      }
    }
    list.resize(kept);
    for (ChosenLookup& each : list) {
      each.compiled = positions ? &face_.positioning(each.lookup) : &face_.substitution(each.lookup);
    }
  }

  void find_spaces() {
    const GlyphId space = face_.metrics().find_glyph(U' ');
    const auto sees = [&](const LookupRow& row, bool positions) {
      return std::any_of(row.lookups.begin(), row.lookups.end(), [&](const ChosenLookup& each) {
        return face_.touches(positions, each.lookup, space);
      });
    };
    recipe_.sees_spaces = sees(recipe_.substitutions, false);
    recipe_.sees_spaces |= sees(recipe_.positions, true);
    // The `kern` table may have pairs with the space; asking for all is cheaper than being wrong.
    recipe_.sees_spaces |= recipe_.kerns && face_.face()->kerning_source() == KerningSource::kern;
  }

  FaceLookups& face_;
  const RecipeRequest& request_;
  ShapingRecipe recipe_;
  std::vector<Wanted> wanted_;
  std::size_t stage_ = 0;
  unsigned next_bit_ = 1;
};

}  // namespace

ShapingRecipe make_recipe(FaceLookups& face, const RecipeRequest& request) {
  if (face.face() != nullptr) return RecipeMaker(face, request).make();
  ShapingRecipe recipe;  // an atlas has characters and kerning of pairs
  recipe.script = request.script;
  recipe.left_to_right = request.left_to_right;
  recipe.upright = request.upright;
  recipe.rules = &plain_rules();
  recipe.kerns = request.kerning && !request.upright;
  for (const FeatureSetting& setting : request.features) {
    if (setting.tag == tag("kern") && !request.upright) recipe.kerns = setting.value != 0;
  }
  recipe.sees_spaces = true;
  return recipe;
}

}  // namespace grafema::detail
