// SPDX-License-Identifier: MIT
// Any bytes as COLR or CPAL (the first byte says which): paint graphs, layers, palettes.
#include "font/color/color_tables.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size < 1 || size > 1 << 14) return 0;
  const auto bytes = fuzz::bytes_of(data + 1, size - 1);
  if ((data[0] & 1) != 0) {
    (void)detail::read_palettes(fuzz::table_of("CPAL", bytes));
    return 0;
  }
  const auto colr = fuzz::table_of("COLR", bytes);
  for (std::uint32_t glyph = 0; glyph < 24; ++glyph) {
    (void)detail::read_color_layers(colr, glyph);
    const auto graph = detail::read_paint_graph(colr, glyph, fuzz::kPlace);
    if (!graph || !*graph) continue;
    fuzz::require(!(*graph)->paints.empty() && (*graph)->paints.size() <= 16384);
    for (std::size_t i = 0; i < (*graph)->paints.size(); ++i) {
      for (const std::uint32_t child : (*graph)->paints[i].children) {
        fuzz::require(child > i && child < (*graph)->paints.size());
      }
    }
  }
  return 0;
}
