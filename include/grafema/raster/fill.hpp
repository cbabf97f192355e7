// SPDX-License-Identifier: MIT
// What a shape is filled with: colors, gradients and images, and blending them onto a picture.
#pragma once

#include <array>
#include <span>
#include <string_view>

#include "grafema/base/color.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/raster/fill_image.hpp"

namespace grafema {

enum class FillKind : std::uint8_t {
  corners,  ///< one color, or one for each corner
  linear,   ///< stops along a line
  radial,   ///< stops from a center outward
  image,
};

/// What a fill spans.
enum class FillBox : std::uint8_t {
  label,  ///< the label's box
  line,   ///< the box of the line: its advance, from ascent to descent
  glyph,  ///< the box of the grapheme cluster: its advance, from the line's ascent to its descent
};

/// What colors between two stops are mixed in, premultiplied: `srgb`, `srgb-linear` and `oklab` of CSS
/// Color 4.
enum class MixSpace : std::uint8_t { srgb, linear, oklab };

/// How far a radial gradient goes (CSS Images 3, section 3.2): an ellipse of `radius`, or a circle that meets
/// the side or corner of the box which is nearest to its center or farthest from it.
enum class RadialExtent : std::uint8_t {
  ellipse,
  closest_side,
  farthest_side,
  closest_corner,
  farthest_corner
};

/// How large an image is on its box (CSS Images 3, `object-fit`).
enum class ImageFit : std::uint8_t {
  none,     ///< a pixel of it is a pixel of the label; one em high where the look's lengths are ems
  fill,     ///< as wide and high as the box
  cover,    ///< as small as it can be and leave nothing of the box free
  contain,  ///< as large as it can be and be seen whole
};

struct FillStop {
  float at = 0;  ///< 0: the gradient's beginning, 1: its end; they ascend
  Color color = {};
  bool operator==(const FillStop&) const = default;
};

/// Colors over a box.
struct Fill {
  static constexpr std::size_t kMaxStops = 8;

  /// Top left, top right, bottom right, bottom left, as CSS orders corners; of an image the first is its
  /// tint.
  std::array<Color, 4> corners = {};
  FillKind kind = FillKind::corners;
  FillBox box = FillBox::label;
  MixSpace mixed_in = MixSpace::srgb;  ///< of stops
  std::uint8_t stop_count = 0;         ///< 2 or more where the kind has stops
  std::array<FillStop, kMaxStops> stops = {};
  float angle = 180;  ///< linear: degrees, 0 goes to the top, 90 to the right
  bool to_corner =
      false;  ///< linear: to the corner of the angle's quadrant, the middle through its two neighbors
  PixelPoint center = {0.5F, 0.5F};  ///< radial: fractions of the box
  PixelPoint radius = {0.70710678F,
                       0.70710678F};  ///< of the ellipse: fractions of the box's width and height
  RadialExtent extent = RadialExtent::ellipse;
  // Of an image.
  ImageFit fit = ImageFit::cover;
  bool repeats = true;  ///< else nothing is painted beside it
  PixelPoint scale = {1, 1};
  PixelPoint offset = {};  ///< pixels that it is moved to the right and down
  PixelPoint scroll = {};  ///< pixels by which it moves each second
  /// Of panels alone: how many of its pixels at each side (top, right, bottom, left, as `border-image-slice`
  /// of CSS has it) are the panel's border, enlarged by `scale`; what lies between is stretched over the
  /// rest.
  std::array<float, 4> slices = {};
  std::shared_ptr<const FillImage> image = nullptr;

  static Fill solid(const Color& color) {
    Fill fill;
    fill.corners = {color, color, color, color};
    return fill;
  }
  static Fill four(const Color& top_left, const Color& top_right, const Color& bottom_right,
                   const Color& bottom_left) {
    Fill fill;
    fill.corners = {top_left, top_right, bottom_right, bottom_left};
    return fill;
  }
  /// Evenly from the top to the bottom, or along another angle. At most kMaxStops colors count.
  GRAFEMA_API static Fill linear(std::span<const Color> colors, float angle = 180);
  /// Evenly from the middle to the corners.
  GRAFEMA_API static Fill radial(std::span<const Color> colors);
  GRAFEMA_API static Fill of_image(std::shared_ptr<const FillImage> image);

  bool is_solid() const {
    return kind == FillKind::corners && corners[0] == corners[1] && corners[1] == corners[2] &&
           corners[2] == corners[3];
  }
  bool is_sliced() const { return kind == FillKind::image && slices != std::array<float, 4>{}; }
  bool has_stops() const { return kind == FillKind::linear || kind == FillKind::radial; }
  bool operator==(const Fill&) const = default;
};

/// Reads a color, four with commas between (top left, top right, bottom right, bottom left),
/// `linear-gradient()` or `radial-gradient()` in CSS notation (CSS Images 4, section 3: angles and `to`
/// words, `in oklab`, shapes, extents, `at`, stops with one percentage or two). Lengths other than
/// percentages are not taken, since a fill has no size of its own. Fails with `bad_value` and what is wrong.
GRAFEMA_API Result<Fill> read_fill(std::string_view css);

/// Whether a fill can be used: finite numbers, stops that ascend, an image where its kind wants one. Fails
/// with `bad_value`.
GRAFEMA_API Result<void> check_fill(const Fill& fill);

/// The color of the fill at a point of its box; both in pixels. Corners are clamped to the box, stops go on
/// with the first and last color, images are mixed between four texels and repeated. `seconds` is what
/// `scroll` counts.
GRAFEMA_API Color color_at(const Fill& fill, PixelPoint at, const Rect& box, float seconds = 0);

/// The mean of its colors, or of its image: what stands in where one color is asked for.
GRAFEMA_API Color mean_color(const Fill& fill);

/// Blends `fill` over the pixels of `cell` in linear light; `alpha` says how strongly for each of them, 0..1.
/// `target` is rgba8 with straight alpha; pixels of the cell outside of it are passed over. `box` is the
/// rectangle that the fill spans, in pixels of the target. The result is rounded to 8 bits.
GRAFEMA_API void blend(Image& target, const PixelRect& cell, std::span<const float> alpha, const Fill& fill,
                       const Rect& box, float opacity = 1);

}  // namespace grafema
