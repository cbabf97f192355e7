// SPDX-License-Identifier: MIT
// Any text as the description of painted letters.
#include "grafema/files/painted_letters.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 20) return 0;
  const auto sheet = read_painted_letters({reinterpret_cast<const char*>(data), size},
                                          *Image::make(64, 32, PixelFormat::rgba8));
  if (!sheet) return 0;
  const Result<Atlas> atlas = make_atlas(*sheet);
  if (!atlas) return 0;
  for (const AtlasGlyph& g : atlas->glyphs) {
    fuzz::require(g.cell.x + g.cell.width <= 64 && g.cell.y + g.cell.height <= 32 && g.advance == g.advance);
  }
  return 0;
}
