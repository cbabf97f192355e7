// SPDX-License-Identifier: MIT
// Any bytes as GSUB, GPOS or GDEF (the first byte says which); compiled kerning against plain kerning.
#include <algorithm>

#include "font/layout/pair_kerning.hpp"
#include "grafema/font/layout_tables.hpp"
#include "input.hpp"

namespace {

using namespace grafema;

constexpr std::uint32_t kGlyphs = 40;

void use_contexts(const ContextRules& rules) {
  for (std::uint32_t g = 0; g < kGlyphs; ++g) {
    for (const ContextRule& rule : rules.find(GlyphId{g})) {
      for (const GlyphMatcher& place : rule.input) (void)place.matches(GlyphId{g});
    }
  }
}

void use_substitutions(const LayoutTable& table) {
  for (std::size_t i = 0; i < std::min<std::size_t>(table.lookup_count(), 40); ++i) {
    for (const SubstitutionRule& rule : table.substitution(i).rules) {
      if (const auto* contexts = std::get_if<ContextRules>(&rule)) use_contexts(*contexts);
      for (std::uint32_t g = 0; g < kGlyphs; ++g) {
        if (const auto* single = std::get_if<SingleSubstitution>(&rule)) (void)single->find(GlyphId{g});
        if (const auto* sequence = std::get_if<SequenceSubstitution>(&rule)) (void)sequence->find(GlyphId{g});
        if (const auto* ligature = std::get_if<LigatureSubstitution>(&rule)) (void)ligature->find(GlyphId{g});
        if (const auto* reverse = std::get_if<ReverseSubstitution>(&rule)) (void)reverse->find(GlyphId{g});
      }
    }
  }
}

void use_positions(const LayoutTable& table) {
  for (std::size_t i = 0; i < std::min<std::size_t>(table.lookup_count(), 40); ++i) {
    for (const PositioningRule& rule : table.positioning(i).rules) {
      if (const auto* contexts = std::get_if<ContextRules>(&rule)) use_contexts(*contexts);
      for (std::uint32_t g = 0; g < kGlyphs; ++g) {
        if (const auto* single = std::get_if<SingleAdjustment>(&rule)) (void)single->find(GlyphId{g});
        if (const auto* cursive = std::get_if<CursiveAttachment>(&rule)) {
          (void)cursive->entry(GlyphId{g}), (void)cursive->exit(GlyphId{g});
        }
        if (const auto* mark = std::get_if<MarkAttachment>(&rule)) {
          (void)mark->find(GlyphId{g}, GlyphId{g / 2}, 1);
        }
        if (const auto* pair = std::get_if<PairAdjustments>(&rule)) {
          (void)pair->find(GlyphId{g}, GlyphId{g / 2}, 12);
        }
      }
    }
  }
  const detail::PairKerning kerning = detail::PairKerning::read(table, kGlyphs);
  for (std::uint32_t pair = 0; pair < kGlyphs * kGlyphs; ++pair) {
    const GlyphId left{pair / kGlyphs}, right{pair % kGlyphs};
    const std::optional<float> fast = kerning.find(left, right, tag("latn"), Tag{});
    const std::optional<PairAdjustment> both = kerning.find_both(left, right, tag("latn"), Tag{}, 0);
    fuzz::require(fast.has_value() == both.has_value());
    if (fast) fuzz::require(*fast == both->first.x_advance);
  }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size < 1 || size > 1 << 13) return 0;
  const auto bytes = fuzz::bytes_of(data + 1, size - 1);
  const LayoutTable table(bytes, nullptr, data[0] % 2 == 0 ? fuzz::kPlace : std::vector<float>{}, 1000);
  (void)table.scripts();
  constexpr Tag kFeatures[] = {tag("kern"), tag("liga"), tag("calt")};
  (void)table.find_lookups(kFeatures);
  (void)table.find_required_lookups(tag("latn"), Tag{});
  if (data[0] % 3 == 0) use_substitutions(table);
  if (data[0] % 3 == 1) use_positions(table);
  const GlyphDefinitions definitions(bytes, nullptr);
  for (std::uint32_t g = 0; data[0] % 3 == 2 && g < kGlyphs; ++g) {
    (void)definitions.class_of(GlyphId{g});
    (void)definitions.mark_class(GlyphId{g});
    (void)definitions.in_mark_set(static_cast<std::uint16_t>(g), GlyphId{g});
    (void)definitions.ligature_carets(GlyphId{g});
    (void)definitions.attachment_points(GlyphId{g});
  }
  return 0;
}
