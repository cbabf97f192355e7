// SPDX-License-Identifier: MIT
// Puts a PNG into a face of its own (OpenType, sbix), so that all that draws letters draws it.
#include "grafema/files/picture_icon.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/font/face.hpp"
#include "grafema/write/make_font.hpp"
#include "write/tables/table_writer.hpp"

namespace grafema {
namespace {

constexpr char32_t kPictureCharacter = 0xE000;
constexpr float kUnits = 1000;

/// A table with one strike, whose picture of glyph 1 stands on the baseline.
std::vector<std::byte> make_sbix(std::span<const std::byte> png, int height) {
  detail::TableWriter out;
  constexpr std::uint32_t kStrikeAt = 12, kPictureAt = 4 + 3 * 4;  // the second counts from the strike
  out.u16(1), out.u16(1), out.u32(1), out.u32(kStrikeAt);
  out.u16(static_cast<std::uint32_t>(height)), out.u16(72);
  out.u32(kPictureAt), out.u32(kPictureAt);  // the first glyph has none
  out.u32(kPictureAt + 8 + static_cast<std::uint32_t>(png.size()));
  out.u16(0), out.u16(0), out.u32(static_cast<std::uint32_t>(tag("png ")));
  std::vector<std::byte> bytes = out.bytes();
  bytes.insert(bytes.end(), png.begin(), png.end());
  return bytes;
}

}  // namespace

Result<Icon> make_picture_icon(std::span<const std::byte> png, float height) {
  constexpr int kMaxSide = 4096, kMaxWidth = 32;
  const Result<Image> picture = read_png(png);
  if (!picture) return fail(picture.error());
  if (std::max(picture->width(), picture->height()) > kMaxSide ||
      picture->width() > kMaxWidth * picture->height()) {
    return bad_value("a picture of at most 4096 pixels, at most 32 times as wide as high",
                     fmt::format("{} x {}", picture->width(), picture->height()));
  }
  FontDrawing drawing;
  drawing.names.family = "Picture";
  drawing.units_per_em = static_cast<std::uint16_t>(kUnits);
  drawing.lines = {kUnits, 0, 0};
  drawing.glyphs.emplace_back();
  DrawnGlyph glyph;
  glyph.characters = {kPictureCharacter};
  glyph.advance =
      std::round(kUnits * static_cast<float>(picture->width()) / static_cast<float>(picture->height()));
  drawing.glyphs.push_back(glyph);
  const Result<std::vector<std::byte>> plain = make_font(drawing);
  if (!plain) return fail(plain.error());
  const auto base = Face::open(FontData::borrow(*plain));
  if (!base) return fail(base.error());
  std::vector<detail::WrittenTable> tables;
  for (const Tag each : (*base)->table_tags()) {
    const auto bytes = (*base)->table(each);
    tables.push_back({each, {bytes.begin(), bytes.end()}});
  }
  tables.push_back({tag("sbix"), make_sbix(png, picture->height())});
  const auto face = Face::open(FontData::own(detail::assemble(std::move(tables))));
  if (!face) return fail(face.error());
  return Icon{.face = *face, .glyph = (*face)->find_glyph(kPictureCharacter), .height = height};
}

FileResult<Icon> load_picture_icon(const std::string& path, float height) {
  const Result<FontData> data = FontData::read(path, std::size_t{64} << 20U);
  if (!data) return tl::unexpected(FileError{data.error(), path});
  const Result<Icon> icon = make_picture_icon(data->bytes(), height);
  if (!icon) return tl::unexpected(FileError{icon.error(), path});
  return *icon;
}

}  // namespace grafema
