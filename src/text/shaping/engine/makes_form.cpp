// SPDX-License-Identifier: MIT
// Asks a face what it makes of a few glyphs that stand alone.
#include "text/shaping/engine/lookup_runner.hpp"
#include "text/shaping/scripts/script_rules.hpp"

namespace grafema::detail {

bool makes_form(ScriptWork& work, std::size_t feature, std::span<const GlyphId> glyphs) {
  if (feature >= work.memory.lookups.size()) return false;
  for (const CompiledLookup* const lookup : work.memory.lookups[feature]) {
    ShapeBuffer alone;
    alone.set_limit(64);
    for (const GlyphId glyph : glyphs) {
      ShapeItem item;
      item.glyph = glyph;
      item.kind = work.face.class_of(glyph);
      item.mark_class = work.face.mark_class_of(glyph);
      alone.add(item);
    }
    std::vector<std::uint64_t> memory;
    LookupRunner runner(work.face, alone, true, memory);
    ChosenLookup chosen;
    chosen.compiled = lookup;
    runner.run_lookup(chosen);
    if (alone.size() != glyphs.size()) return true;
    // One glyph for one is a form where all that was asked for took part in it.
    for (std::size_t i = 0; i < alone.size(); ++i) {
      if (alone[i].is(ShapeItem::kSubstituted)) return true;
    }
  }
  return false;
}

}  // namespace grafema::detail
