// SPDX-License-Identifier: MIT
// Outlines: closed contours of lines, quadratic and cubic curves.
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "grafema/base/export.hpp"
#include "grafema/base/geometry.hpp"

namespace grafema {

/// What leads on from the point before, in the words of SVG 2, section 9.3; in brackets how many points it
/// takes from Contours::points.
enum class PathCommand : std::uint8_t {
  moveto,             ///< [1] a contour begins
  lineto,             ///< [1] a straight line
  quadratic_curveto,  ///< [2] a quadratic curve: control point, end
  curveto,            ///< [3] a cubic curve: two control points, end
  closepath,          ///< [0] a straight line back to where the contour began
};

/// A glyph's outline, filled by the non-zero winding rule. Refilled by who reads outlines; keeps its
/// capacity.
struct Contours {
  std::vector<PathCommand> commands = {};
  std::vector<FontPoint> points = {};
  bool may_overlap =
      false;  ///< the font file says that contours may overlap each other or themselves (OVERLAP_SIMPLE)
  /// Whether the outline is known to be the boundary of the shape that it fills: no contour crosses another
  /// or itself, and the filled side is on the right (y up). `unite` sets it, the functions below clear it;
  /// code that changes `points` by itself must clear it too.
  bool united = false;

  void clear() {
    commands.clear();
    points.clear();
    may_overlap = united = false;
  }
  void move_to(FontPoint p) { add(PathCommand::moveto, {p}); }
  void line_to(FontPoint p) { add(PathCommand::lineto, {p}); }
  void quadratic_curve_to(FontPoint control, FontPoint p) {
    add(PathCommand::quadratic_curveto, {control, p});
  }
  void curve_to(FontPoint c1, FontPoint c2, FontPoint p) { add(PathCommand::curveto, {c1, c2, p}); }
  void close() { commands.push_back(PathCommand::closepath), united = false; }
  bool operator==(const Contours&) const = default;

 private:
  void add(PathCommand command, std::initializer_list<FontPoint> list) {
    commands.push_back(command);
    points.insert(points.end(), list.begin(), list.end());
    united = false;
  }
};

/// Replaces the outline with the boundary of the shape that it fills under the non-zero winding rule:
/// overlaps disappear, curves stay curves. Contours that meet no other keep their points exactly; those that
/// bound nothing are left out, and those with the filled side on their left are turned round. Where contours
/// cross, the new points are exact to a 60,000th of the outline's size. Pictures of a united outline are made
/// much faster. Where curves touch so closely that their order can't be told, the outline is left as it was
/// with `united` false; its pictures are as right, and slower.
GRAFEMA_API void unite(Contours& contours);

/// The smallest box that holds the curves themselves (not their control points). Empty where there are none.
GRAFEMA_API FontRect bounds(const Contours& contours);

/// A straight piece of a flattened outline, in pixels, y down.
struct Segment {
  double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
  bool operator==(const Segment&) const = default;
};

/// Replaces the contents of `out` with straight pieces that stay within `tolerance` pixels of the mapped
/// curves. Every contour comes out closed. Points that are not finite are passed over.
GRAFEMA_API void flatten(const Contours& contours, const Transform& to_pixels, double tolerance,
                         std::vector<Segment>& out);

/// The signed area inside the pieces, in square pixels: positive for contours that run clockwise on the
/// screen. Where contours overlap the area counts once for each.
GRAFEMA_API double signed_area(std::span<const Segment> segments);

}  // namespace grafema
