// SPDX-License-Identifier: MIT
// Writes color tables as the specification has them.
#include "support/color_builder.hpp"

#include "support/bytes.hpp"

namespace grafema::test {

using Table = std::vector<std::byte>;

Table colr(const Table& paint, const std::vector<Table>& layers, const Table& clips, const Table& store) {
  Bytes bases = Bytes().u32(1).u16(5).u32(10).add(paint);
  Bytes list = Bytes().u32(static_cast<long>(layers.size())), bodies;
  for (const Table& layer : layers) {
    list.u32(static_cast<long>(4 + layers.size() * 4 + bodies.size()));
    bodies.add(layer);
  }
  list.add(bodies);
  const auto at_list = static_cast<long>(34 + bases.size()),
             at_clips = at_list + static_cast<long>(list.size()),
             at_store = at_clips + static_cast<long>(clips.size());
  Bytes out = Bytes()
                  .u16(1)
                  .u16(0)
                  .u32(0)
                  .u32(0)
                  .u16(0)
                  .u32(34)
                  .u32(layers.empty() ? 0 : at_list)
                  .u32(clips.empty() ? 0 : at_clips)
                  .u32(0)
                  .u32(store.empty() ? 0 : at_store);
  return out.add(bases).add(list).add(clips).add(store);
}

Table sbix() {
  const Bytes png = Bytes().u16(3).u16(-4).text("png ").text("PICTURE"),
              dupe = Bytes().u16(0).u16(0).text("dupe").u16(2);
  Bytes strike = Bytes().u16(64).u16(72);
  const long first = 4 + 132 * 4;  // 131 glyphs and an end
  long at = first;
  for (int g = 0; g <= 131; ++g) {
    strike.u32(at);
    if (g == 2) at += static_cast<long>(png.size());
    if (g == 3) at += static_cast<long>(dupe.size());
  }
  strike.add(png).add(dupe);
  return Bytes().u16(1).u16(1).u32(1).u32(12).add(strike);
}

void add_bitmaps(FontBuilder& builder, int index_format, int image_format) {
  Bytes picture;  // metrics, length, data
  if (image_format == 17) picture.u8(10).u8(12).u8(2).u8(9).u8(13);
  if (image_format == 18) picture.u8(10).u8(12).u8(2).u8(9).u8(13).u8(0).u8(0).u8(0);
  picture.u32(3).text("PNG");
  const auto size = static_cast<long>(picture.size());
  Bytes index = Bytes().u16(index_format).u16(image_format).u32(4);
  const Bytes metrics = Bytes().u8(10).u8(12).u8(2).u8(9).u8(13).u8(0).u8(0).u8(0);
  if (index_format == 1) index.u32(0).u32(0).u32(size);  // glyphs 7 and 8; only 8 has a picture
  if (index_format == 3) index.u16(0).u16(0).u16(size);
  if (index_format == 2) index.u32(size).add(metrics);
  if (index_format == 4) index.u32(1).u16(8).u16(0).u16(9).u16(size);
  if (index_format == 5) index.u32(size).add(metrics).u32(1).u16(8);
  const long first = index_format == 2 ? 8 : 7;
  const Bytes array = Bytes().u16(first).u16(8).u32(8).add(index);
  builder.table("CBLC") = Bytes()
                              .u16(3)
                              .u16(0)
                              .u32(1)
                              .u32(56)
                              .u32(static_cast<long>(array.size()))
                              .u32(1)
                              .u32(0)
                              .zeros(24)
                              .u16(7)
                              .u16(8)
                              .u8(109)
                              .u8(109)
                              .u8(32)
                              .u8(1)
                              .add(array);
  builder.table("CBDT") = Bytes().u16(3).u16(0).add(picture);
}

}  // namespace grafema::test
