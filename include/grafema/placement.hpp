// SPDX-License-Identifier: MIT
// Where a label stands, and how large a picture shows all of it.
#pragma once

#include "grafema/look.hpp"
#include "grafema/paragraph.hpp"

namespace grafema {

/// A point of the label's box stands at a point of the target.
struct Placement {
  PixelPoint at;      ///< pixels of the target
  PixelPoint anchor;  ///< fractions of the label's box: 0,0 its top left corner, 1,1 its bottom right one
  bool operator==(const Placement&) const = default;
};

/// Where the origin of a label with this box stands.
constexpr PixelPoint label_origin(const Rect& box, const Placement& placement) {
  return {placement.at.x - box.left - placement.anchor.x * box.width(), placement.at.y - box.top - placement.anchor.y * box.height()};
}

/// A picture that holds a label: its box with a border of half the text's size, more where ink or the look needs it.
struct Canvas {
  int width = 1, height = 1;  ///< pixels
  PixelPoint origin;          ///< of the label, on whole pixels
};
GRAFEMA_API Canvas fit_canvas(const Paragraph& paragraph, const Rect& ink, const Look& look);

/// By which of its heights the size of text is asked for.
enum class SizeBy : std::uint8_t { em, cap_height, x_height, line_height };

/// The pixels per em at which the face's height `by` measures `pixels`. Fails with `bad_value` where the face has no such
/// height or the size leaves kMinSize..kMaxSize.
GRAFEMA_API Result<float> find_size(const GlyphMetrics& face, SizeBy by, float pixels);

}  // namespace grafema
