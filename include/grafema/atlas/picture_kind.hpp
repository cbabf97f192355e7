// SPDX-License-Identifier: MIT
// What the pictures of glyphs are: their kinds, formats and pages.
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

#include "grafema/base/image.hpp"

namespace grafema {

/// What the pixels of a page mean; docs/formats/atlas.md says it exactly.
enum class PictureKind : std::uint8_t {
  coverage,       ///< one channel: how much of the pixel is filled
  distance,       ///< one channel: how far the outline is
  distance_rgb,   ///< three channels whose median is that distance and keeps corners sharp
  distance_rgba,  ///< those three, and the plain distance in the fourth, which effects take
  color,          ///< sRGB with straight alpha
};
constexpr std::size_t kPictureKinds = 5;

constexpr bool is_distance(PictureKind kind) {
  return kind >= PictureKind::distance && kind <= PictureKind::distance_rgba;
}
/// The format of pages of a kind; `bits` of a channel: 8 or 16 (color has 8).
constexpr PixelFormat page_format(PictureKind kind, int bits) {
  const bool wide = bits == 16;
  if (kind == PictureKind::color) return PixelFormat::rgba8;
  if (kind == PictureKind::distance_rgb) return wide ? PixelFormat::rgb16 : PixelFormat::rgb8;
  if (kind == PictureKind::distance_rgba) return wide ? PixelFormat::rgba16 : PixelFormat::rgba8;
  return wide ? PixelFormat::r16 : PixelFormat::r8;
}

GRAFEMA_API std::string to_string(PictureKind kind);
/// The kind of that name; none where there is no such kind.
GRAFEMA_API std::optional<PictureKind> find_picture_kind(std::string_view name);

struct PageSize {
  int width = 2048, height = 2048;
  bool operator==(const PageSize&) const = default;
};

}  // namespace grafema
