// SPDX-License-Identifier: MIT
// How an element of an SVG document is painted, and where: properties that children inherit, and transforms.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"
#include "grafema/outline/stroke.hpp"

namespace grafema::detail {

/// SVG 2, sections 13.4 and 13.5.
struct SvgStyle {
  bool filled = true, stroked = false, even_odd = false, shown = true;
  Color fill, stroke, current;
  double width = 1, miter_limit = 4, pen_share = 1;
  StrokeCap cap = StrokeCap::butt;
  StrokeJoin join = StrokeJoin::miter;

  /// Takes one property over; those that change no ink are passed over. Fails with `damaged` for a value that
  /// is none, and `unsupported` for what fonts can't hold.
  Result<void> set(std::string_view property, std::string_view value);
  /// The declarations of a `style` attribute.
  Result<void> set_all(std::string_view declarations);
};

/// In doubles, so that transforms within transforms lose nothing: x' = a x + c y + e (SVG 2, section 8.5).
struct SvgMatrix {
  double a = 1, b = 0, c = 0, d = 1, e = 0, f = 0;

  SvgMatrix operator*(const SvgMatrix& inner) const;
  Transform rounded() const;
};

/// A `transform` attribute.
Result<SvgMatrix> read_svg_transform(std::string_view text);
/// A length with an absolute unit, or none, in pixels (CSS Values 4, section 6.2).
std::optional<double> read_svg_length(std::string_view text);
/// Numbers parted by spaces and commas; nothing where anything else stands there.
std::optional<std::vector<double>> read_svg_numbers(std::string_view text);

}  // namespace grafema::detail
