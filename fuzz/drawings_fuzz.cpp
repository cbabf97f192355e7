// SPDX-License-Identifier: MIT
// Any text as an SVG of drawings; what can be drawn becomes fonts of each kind that open again.
#include "grafema/files/svg_drawings.hpp"
#include "grafema/write/make_font.hpp"
#include "grafema/write/propose_kerning.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 14) return 0;
  const std::string_view text(reinterpret_cast<const char*>(data), size);
  auto drawings = read_svg_drawings(text, SvgSheet::groups);
  if (!drawings) drawings = read_svg_drawings(text, SvgSheet::whole, "a");
  if (!drawings || drawings->size() > 50) return 0;
  std::size_t shapes = 0;
  for (const CharacterDrawing& drawing : *drawings) shapes += drawing.shapes.size();
  if (shapes > 200) return 0;
  ShapeSheet sheet;
  sheet.names.family = "Any";
  sheet.drawings = *std::move(drawings);
  sheet.heights = {0, 500, 700};
  sheet.styles.push_back({.name = "Bold", .weight_class = 700, .pen = 1.7F, .widen = 1.1F});
  const auto check = [](const Result<FontDrawing>& drawing) {
    if (!drawing) return;
    (void)propose_kerning(*drawing);
    const auto font = make_font(*drawing);
    if (font) fuzz::require(Face::open(FontData::borrow(*font)).has_value());
  };
  check(draw_from_shapes(sheet, 0));
  check(draw_variable_from_shapes(sheet));
  sheet.cff = true;
  check(draw_from_shapes(sheet, 1));
  return 0;
}
