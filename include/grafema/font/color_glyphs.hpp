// SPDX-License-Identifier: MIT
// Glyphs in color as typed values (OpenType, COLR, CPAL, CBDT, CBLC, sbix).
#pragma once

#include <array>
#include <cstddef>
#include <cstdint>
#include <optional>
#include <span>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/font/glyph_metrics.hpp"

namespace grafema {

/// What kinds of color a face has.
struct ColorKinds {
  bool layers = false;   ///< COLR version 0
  bool paints = false;   ///< COLR version 1
  bool bitmaps = false;  ///< CBDT or sbix
  bool cbdt = false, sbix = false;
  bool documents = false;  ///< SVG documents, which this library does not read
};

/// One palette of CPAL.
struct Palette {
  std::vector<Color> colors = {};
  bool for_light_backgrounds = false, for_dark_backgrounds = false;
};

/// A color as a glyph names it: an entry of the palette that the game chose, or the color of the text.
struct PaletteColor {
  static constexpr std::uint16_t kTextColor = 0xFFFF;
  std::uint16_t entry = kTextColor;
  float alpha = 1;  ///< multiplies the alpha of the entry
  bool operator==(const PaletteColor&) const = default;
};

/// A layer of COLR version 0: the glyph's shape in one color, painted over the layers before.
struct ColorLayer {
  GlyphId glyph{};
  PaletteColor color = {};
  bool operator==(const ColorLayer&) const = default;
};

struct ColorStop {
  float offset = 0;
  PaletteColor color = {};
  bool operator==(const ColorStop&) const = default;
};

enum class GradientExtend : std::uint8_t { pad, repeat, reflect };

/// The modes of COLR version 1 in the order of the specification ("CompositeMode enumeration").
enum class CompositeMode : std::uint8_t {
  clear,
  source,
  destination,
  source_over,
  destination_over,
  source_in,
  destination_in,
  source_out,
  destination_out,
  source_atop,
  destination_atop,
  exclusive_or,
  plus,
  screen,
  overlay,
  darken,
  lighten,
  color_dodge,
  color_burn,
  hard_light,
  soft_light,
  difference,
  exclusion,
  multiply,
  hue,
  saturation,
  color,
  luminosity,
};

enum class PaintKind : std::uint8_t {
  layers,
  solid,
  linear_gradient,
  radial_gradient,
  sweep_gradient,
  glyph,
  transform,
  composite
};

/// Font units, y up: x' = xx x + xy y + dx, y' = yx x + yy y + dy.
struct FontTransform {
  float xx = 1, yx = 0, xy = 0, yy = 1, dx = 0, dy = 0;
  bool operator==(const FontTransform&) const = default;
};

/// One node of a paint graph. `kind` tells which fields count. Variations of the face are already applied.
struct Paint {
  PaintKind kind = PaintKind::solid;
  PaletteColor color = {};            ///< solid
  GradientExtend extend{};            ///< gradients
  std::vector<ColorStop> stops = {};  ///< gradients, ascending
  std::array<FontPoint, 3> points =
      {};                           ///< linear: start, end, rotation; radial: both centers; sweep: the center
  std::array<float, 2> radii = {};  ///< radial
  std::array<float, 2> angles =
      {};           ///< sweep: degrees, counter-clockwise from the right, where the first and last stop lie
  GlyphId glyph{};  ///< glyph: its outline clips the child
  FontTransform transform = {};  ///< transform: moves the child
  CompositeMode mode = CompositeMode::source_over;
  std::vector<std::uint32_t> children =
      {};  ///< indices in `PaintGraph::paints`: layers from bottom to top; composite: source, backdrop
  std::optional<FontRect> clip =
      {};  ///< the clip box, where a glyph begins at this node; nothing is painted outside of it
};

/// What a glyph of COLR version 1 paints, with the glyphs that it refers to.
struct PaintGraph {
  std::vector<Paint> paints = {};  ///< the first is the root; the children of a node come after it
};

enum class BitmapFormat : std::uint8_t { png, jpeg, tiff, unknown };

/// An embedded picture of a glyph.
struct GlyphBitmap {
  BitmapFormat format = BitmapFormat::png;
  std::span<const std::byte> bytes = {};  ///< the file, good while the face lives
  std::uint16_t pixels_per_em = 0;
  /// The picture's top left corner seen from the pen on the baseline, in pixels of the strike, y down; its
  /// bottom left corner where `from_bottom` is set.
  PixelPoint offset = {};
  bool from_bottom = false;
  std::uint16_t width = 0, height = 0;  ///< 0 where only the picture itself tells
  float advance = 0;                    ///< in pixels of the strike; 0: the advance of the face counts
};

}  // namespace grafema
