// SPDX-License-Identifier: MIT
// Glyphs as pictures on packed pages, with all that layout and drawing need of them.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "grafema/atlas/picture_kind.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/font/glyph_metrics.hpp"
#include "grafema/font/variations.hpp"

namespace grafema {

/// One face at one size in one kind; lengths are pixels at that size.
struct Strike {
  std::size_t face = 0;  ///< index into Atlas::faces
  PictureKind kind = PictureKind::distance;
  float size = 0, reach = 0, padding = 0;
  LineMetrics lines = {};
};

/// Who a strike's glyphs come from, for credits.
struct AtlasFace {
  FaceId id{};
  std::string family = {}, style = {}, copyright = {}, license = {};
  std::vector<AxisValue> axes = {};  ///< the place of a variable face on its axes
};

struct AtlasGlyph {
  std::size_t strike = 0;
  GlyphId glyph{};
  std::vector<char32_t> codepoints =
      {};  ///< the characters that map to it, ascending; empty for glyphs that only shaping yields
  std::optional<std::size_t> page = {};  ///< index into Atlas::pages; none for a glyph that paints nothing
  PixelRect cell = {};                   ///< where the picture stands in its page
  PixelPoint offset = {};  ///< the cell's top left corner seen from the pen on the baseline, y down
  float advance = 0;       ///< pixels
  std::uint8_t phase = 0;  ///< by how many quarter pixels the picture's pen stands right of a pixel's edge
};

/// Kerning of a strike in pixels. Where `pairs` lists a pair, its value counts and the classes do not.
struct AtlasKerning {
  struct Pair {
    GlyphId left = {}, right = {};
    float value = {};
  };
  std::size_t strike = 0;
  std::vector<Pair> pairs = {};                               ///< ascending by left, then right
  std::vector<std::vector<GlyphId>> first = {}, second = {};  ///< classes of left and of right glyphs
  std::vector<float> values = {};                             ///< first.size() rows of second.size() values
};

struct AtlasPage {
  Image image = {};
  PictureKind kind = PictureKind::distance;
};

struct Atlas {
  std::string key = {};  ///< see `recipe_key`
  std::vector<AtlasPage> pages = {};
  std::vector<AtlasFace> faces = {};
  std::vector<Strike> strikes = {};
  std::vector<AtlasGlyph> glyphs = {};  ///< ascending by strike, then glyph, then phase
  std::vector<AtlasKerning> kerning = {};

  /// The share of the area of all pages, 0..1, that cells take with `gap` pixels beside each.
  GRAFEMA_API double used_area(int gap) const;
};

/// Printable ASCII of Quillmere Dot as distances, two texels a pixel of the face.
GRAFEMA_API std::shared_ptr<const Atlas> built_in_atlas();

/// The atlas; where it could not be loaded or baked, the built-in one and a note.
GRAFEMA_API std::shared_ptr<const Atlas> or_built_in(Result<Atlas> atlas, Notes* notes = nullptr);

}  // namespace grafema
