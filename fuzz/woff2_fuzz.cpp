// SPDX-License-Identifier: MIT
// Any bytes as WOFF or WOFF2; those that begin with 'T' or 'M' go straight to the transforms.
#include "font/container/web_font.hpp"
#include "font/container/woff2_transforms.hpp"
#include "grafema/font/face.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size < 4 || size > fuzz::kMaxBytes) return 0;
  const auto bytes = fuzz::bytes_of(data, size);
  if (data[0] == 'T') {
    const auto made = detail::rebuild_outlines(fuzz::table_of("glyf", bytes.subspan(1)), 1 << 20);
    if (made) {
      fuzz::require(made->glyf.size() <= (1 << 20) && made->loca.size() == (made->x_mins.size() + 1) * 4);
    }
    return 0;
  }
  if (data[0] == 'M') {
    const std::vector<std::int16_t> x_mins(data[1], 7);
    const auto made =
        detail::rebuild_metrics(fuzz::table_of("hmtx", bytes.subspan(3)), data[2], data[1], x_mins);
    if (made) fuzz::require(made->size() == data[2] * std::size_t{2} + data[1] * std::size_t{2});
    return 0;
  }
  const Result<FontData> plain = unpack(FontData::borrow(bytes));
  if (!plain) return 0;
  fuzz::require(plain->bytes().size() <= 8 * size + (std::size_t{16} << 20));
  if (const auto face = Face::open(*plain)) {
    Contours out;
    for (std::uint32_t glyph = 0; glyph < 20; ++glyph) (void)(*face)->read_outline(GlyphId{glyph}, out);
  }
  return 0;
}
