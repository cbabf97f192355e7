// SPDX-License-Identifier: MIT
// Follows characters to glyphs, glyphs to what shaping makes of them and what they are made of.
#include "write/subset/subset_plan.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "font/layout/follow_lookups.hpp"
#include "font/layout/related_characters.hpp"
#include "grafema/font/license.hpp"
#include "grafema/unicode/characters.hpp"
#include "write/subset/color/color_source.hpp"
#include "write/subset/color/subset_color.hpp"
#include "write/subset/layout/subset_layout.hpp"
#include "write/subset/subset_glyphs.hpp"
#include "write/subset/subset_names.hpp"

namespace grafema::detail {
namespace {

Result<void> check_permission(const Face& face) {
  const FaceFacts facts = face.facts();
  const FaceNames names = face.names();
  const auto refuse = [&names](const char* expected, const char* found) {
    return fail(make_error(ErrorKind::forbidden, expected, fmt::format("{} in {}", found, names.full_name)));
  };
  if (facts.embedding == Embedding::restricted) {
    return refuse("a face whose OS/2 table permits embedding", "restricted license embedding (fsType)");
  }
  if (!facts.subsetting) return refuse("a face whose OS/2 table permits subsets", "no subsetting (fsType)");
  if (facts.bitmap_only) {
    return refuse("a face whose OS/2 table permits embedding of outlines", "bitmap embedding only (fsType)");
  }
  if (read_license(names, facts).subset == Allowed::no) {
    return refuse("a face whose license permits subsets", "a license that forbids them");
  }
  return {};
}

/// Marks glyphs, each once, and walks from those to their parts.
class Closure {
 public:
  explicit Closure(const Face& face)
      : face_(face), in_(face.glyph_count(), false), colors_({tag("COLR"), face.table(tag("COLR"))}) {}

  void add(std::uint32_t glyph) {
    if (glyph >= in_.size() || in_[glyph]) return;
    in_[glyph] = true;
    waiting_.push_back(glyph);
  }

  Result<void> add_parts() {
    Result<OutlineParts> outlines = OutlineParts::read(face_);
    if (!outlines) return fail(outlines.error());
    const std::function<void(std::uint32_t)> adds = [this](std::uint32_t glyph) { add(glyph); };
    while (!waiting_.empty()) {
      const std::uint32_t glyph = waiting_.back();
      waiting_.pop_back();
      if (const Result<void> done = outlines->visit(glyph, adds); !done) return done;
      if (const Result<void> done = visit_color_parts(colors_, glyph, adds); !done) return done;
      visit_picture_parts(face_, glyph, adds);
    }
    return {};
  }

  std::vector<std::uint16_t> sorted() const {
    std::vector<std::uint16_t> out;
    for (std::size_t i = 0; i < in_.size(); ++i) {
      if (in_[i]) out.push_back(static_cast<std::uint16_t>(i));
    }
    return out;
  }

 private:
  const Face& face_;
  std::vector<bool> in_;
  std::vector<std::uint32_t> waiting_;
  ColorSource colors_;
};

std::vector<char32_t> wanted_characters(const Face& face, const SubsetRecipe& recipe, Notes* notes) {
  std::vector<char32_t> wanted;
  if (recipe.all_characters) {
    for (const auto& [character, glyph] : face.characters()) wanted.push_back(character);
    // Selectors have no glyphs of their own in many faces.
    for (const char32_t c : face.variation_selectors()) wanted.push_back(c);
  }
  wanted.insert(wanted.end(), recipe.characters.begin(), recipe.characters.end());
  std::sort(wanted.begin(), wanted.end());
  wanted.erase(std::unique(wanted.begin(), wanted.end()), wanted.end());
  for (const char32_t c : recipe.characters) {
    if (notes != nullptr && !is_invisible(c) && face.find_glyph(c) == kMissingGlyph) {
      notes->add({.kind = NoteKind::missing_character, .character = c});
    }
  }
  return related_characters(face, wanted);
}

}  // namespace

Result<SubsetPlan> plan_subset(const Face& face, const SubsetRecipe& recipe, Notes* notes) {
  if (!recipe.permit) {
    if (const Result<void> permitted = check_permission(face); !permitted) return fail(permitted.error());
  }
  SubsetPlan plan;
  plan.face = &face;
  plan.recipe = &recipe;
  Result<Pins> pins = Pins::read(face, recipe.pins);
  if (!pins) return fail(pins.error());
  plan.pins = *std::move(pins);
  if (plan.pins.any()) plan.pinned = face.instance(recipe.pins);
  plan.wanted = wanted_characters(face, recipe, notes);
  const std::vector<GlyphId> own = glyphs_of(face, plan.wanted);
  if (own.empty()) {
    return fail(make_error(ErrorKind::bad_value, "at least one character that the face has",
                           fmt::format("{} characters", recipe.characters.size())));
  }
  Closure closure(face);
  closure.add(index_of(kMissingGlyph));
  for (const GlyphId glyph : follow_lookups(face, own, substitution_lookups(plan))) {
    closure.add(index_of(glyph));
  }
  if (const Result<void> done = closure.add_parts(); !done) return fail(done.error());
  plan.kept = closure.sorted();
  plan.renumbered.assign(face.glyph_count(), -1);
  for (std::size_t i = 0; i < plan.kept.size(); ++i) {
    plan.renumbered[plan.kept[i]] = static_cast<std::int32_t>(i);
  }
  for (const char32_t c : plan.wanted) {
    const int glyph = plan.to(face.find_glyph(c));
    if (glyph > 0) plan.characters.emplace_back(c, static_cast<std::uint16_t>(glyph));
  }
  Result<std::string> family = new_family(face, recipe, notes);
  if (!family) return fail(family.error());
  plan.family = *std::move(family);
  return plan;
}

}  // namespace grafema::detail
