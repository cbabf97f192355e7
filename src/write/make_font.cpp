// SPDX-License-Identifier: MIT
// Writes a whole font file: plans it, then table by table.
#include "grafema/write/make_font.hpp"

#include "write/tables/face_tables.hpp"
#include "write/tables/glyph_tables.hpp"
#include "write/tables/rule_tables.hpp"
#include "write/tables/variation_tables.hpp"

namespace grafema {

Result<std::vector<std::byte>> make_font(const FontDrawing& drawing) {
  using namespace detail;
  if (const Result<void> checked = check_names(drawing.names); !checked) return fail(checked.error());
  Result<FontPlan> plan = make_plan(drawing);
  if (!plan) return fail(plan.error());
  std::vector<WrittenTable> tables;
  if (drawing.cff) {
    Result<WrittenTable> cff = write_cff(*plan);
    if (!cff) return fail(cff.error());
    tables.push_back(*std::move(cff));
  } else {
    auto glyphs = write_glyphs(*plan);
    if (!glyphs) return fail(glyphs.error());
    tables.push_back(std::move(glyphs->first)), tables.push_back(std::move(glyphs->second));
  }
  for (const auto write :
       {write_hmtx, write_name, write_head, write_hhea, write_maxp, write_os2, write_post}) {
    tables.push_back(write(*plan));
  }
  tables.push_back(write_cmap(plan->characters));
  tables.push_back(write_gasp());
  if (!plan->layers.empty()) {
    auto colors = write_colors(*plan);
    tables.push_back(std::move(colors.first)), tables.push_back(std::move(colors.second));
  }
  if (!drawing.masters.empty()) {
    Result<std::vector<WrittenTable>> variations = write_variations(*plan);
    if (!variations) return fail(variations.error());
    for (WrittenTable& table : *variations) tables.push_back(std::move(table));
  }
  Result<std::vector<WrittenTable>> rules = write_rules(*plan);
  if (!rules) return fail(rules.error());
  for (WrittenTable& table : *rules) tables.push_back(std::move(table));
  return assemble(std::move(tables), drawing.cff);
}

}  // namespace grafema
