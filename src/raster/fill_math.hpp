// SPDX-License-Identifier: MIT
// Where points lie on a fill and what color is there; the shaders of the OpenGL renderer do the same.
#pragma once

#include "grafema/raster/fill_record.hpp"

namespace grafema::detail {

/// The record of a fill that has stops or an image, every color weakened by `opacity`.
GRAFEMA_API FillRecord fill_record(const Fill& fill, float opacity);

/// Whether it is a layer's corners that it is filled with, though it has a record.
inline bool is_corners(const FillRecord& fill) { return fill.kind == 0; }

/// From pixels to the place on a fill: fractions of the box for corners, two numbers whose sum is the place
/// among the stops of a linear gradient, those whose length it is of a radial one, and copies of an image.
struct FillPlace {
  PixelPoint scale, offset;
  PixelPoint operator()(PixelPoint p) const { return {p.x * scale.x + offset.x, p.y * scale.y + offset.y}; }
};
GRAFEMA_API FillPlace corner_place(const Rect& box);
GRAFEMA_API FillPlace fill_place(const FillRecord& fill, const Rect& box, float seconds);

/// The place on a sliced image of a point of a panel, fractions of both; `size` is the panel's, pixels of the
/// label.
GRAFEMA_API PixelPoint slice_place(const FillRecord& fill, PixelPoint at, PixelPoint size);
inline bool is_sliced(const FillRecord& fill) { return fill.slices[0] > 0 || fill.slices[1] > 0; }

/// Premultiplied sRGB at a place of a gradient.
GRAFEMA_API std::array<float, 4> gradient_at(const FillRecord& fill, PixelPoint place);

/// Light times alpha at a place of an image, of which a pixel covers `wide`: copies across and down. Where it
/// does not repeat its edge goes on.
GRAFEMA_API std::array<float, 4> light_at(const FillImage& image, PixelPoint place, PixelPoint wide,
                                          bool repeats);

/// Premultiplied sRGB at a place of an image, of which a pixel covers `wide`: copies across and down.
GRAFEMA_API std::array<float, 4> image_at(const FillRecord& fill, const FillImage& image, PixelPoint place,
                                          PixelPoint wide);

}  // namespace grafema::detail
