// SPDX-License-Identifier: MIT
// Any text as the description of a font sheet, or, beginning as a PNG does, as its picture.
#include "grafema/files/files.hpp"
#include "grafema/font/face.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 20) return 0;
  if (size > 8 && data[0] == 0x89) {
    (void)read_png(fuzz::bytes_of(data, size));
    return 0;
  }
  Result<Image> picture = Image::make(64, 48, PixelFormat::r8);
  if (!picture) return 0;
  std::uint32_t noise = 1;
  for (int y = 0; y < 48; ++y) {
    for (int x = 0; x < 64; ++x) {
      picture->row(y)[x] = static_cast<std::uint8_t>((noise = noise * 1664525 + 1013904223) >> 24);
    }
  }
  const Result<PixelSheet> sheet =
      read_font_sheet(*std::move(picture), {reinterpret_cast<const char*>(data), size});
  if (!sheet) return 0;
  const Result<FontDrawing> drawing = draw_from_sheet(*sheet);
  if (!drawing) return 0;
  const auto font = make_font(*drawing);
  if (font) fuzz::require(Face::open(FontData::borrow(*font)).has_value());
  return 0;
}
