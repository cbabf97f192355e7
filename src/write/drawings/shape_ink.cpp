// SPDX-License-Identifier: MIT
// Fills as they are, strokes by the pen; all contours run the same way round.
#include "write/drawings/shape_ink.hpp"

#include <cmath>

#include "outline/flatten/quadratics.hpp"
#include "outline/stroke/pen.hpp"

namespace grafema::detail {
namespace {

/// Font units that outlines of strokes may leave the true ones by.
constexpr double kTolerance = 0.5;

/// Turns contours round: transforms that mirror do.
void reverse(Contours& contours) {
  Contours out;
  std::size_t at = 0;
  for (std::size_t i = 0; i < contours.commands.size();) {
    std::vector<PathCommand> commands;
    std::vector<FontPoint> points = {contours.points[at++]};
    for (++i; i < contours.commands.size() && contours.commands[i] != PathCommand::moveto; ++i) {
      const PathCommand c = contours.commands[i];
      if (c == PathCommand::closepath) continue;
      commands.push_back(c);
      const std::size_t taken = c == PathCommand::lineto ? 1 : c == PathCommand::quadratic_curveto ? 2 : 3;
      for (std::size_t k = 0; k < taken; ++k) points.push_back(contours.points[at++]);
    }
    out.commands.push_back(PathCommand::moveto);
    out.commands.insert(out.commands.end(), commands.rbegin(), commands.rend());
    out.points.insert(out.points.end(), points.rbegin(), points.rend());
    out.close();
  }
  contours = std::move(out);
}

/// Twice the area inside, above 0 where contours run counterclockwise (y up).
double doubled_area(const Contours& contours) {
  std::vector<Segment> pieces;
  flatten(contours, Transform{}, 1, pieces);
  double sum = 0;
  for (const Segment& s : pieces) sum += s.x0 * s.y1 - s.x1 * s.y0;
  return sum;
}

}  // namespace

void append(const Contours& from, Contours& to) {
  to.commands.insert(to.commands.end(), from.commands.begin(), from.commands.end());
  to.points.insert(to.points.end(), from.points.begin(), from.points.end());
  to.united = false;
}

ShapeInk::ShapeInk(const ShapeSheet& sheet, std::vector<const SheetStyle*> styles)
    : sheet_(sheet), styles_(std::move(styles)), scale_(sheet.units_per_em / double{sheet.em}) {}

std::vector<SkeletonFit> ShapeInk::fit(const CharacterDrawing& drawing) const {
  std::vector<SkeletonFit> fits;
  for (const SheetStyle* style : styles_) fits.emplace_back(drawing, sheet_, *style);
  return fits;
}

Result<void> ShapeInk::add(const DrawnShape& shape, const std::vector<SkeletonFit>& fits,
                           std::vector<Contours>& out) const {
  for (std::size_t w = 0; shape.filled && w < styles_.size(); ++w) {
    Contours filled = shape.path;
    for (FontPoint& p : filled.points) {
      const PixelPoint q = shape.to_drawing(p.x, p.y);
      const FontPoint fitted = fits[w]({q.x, q.y});
      p = to_font(fitted.x, fitted.y);
    }
    if (shape.even_odd && !make_nonzero(filled))
      return fail(
          make_error(ErrorKind::bad_value, "even-odd fills whose contours do not cross", shape.element));
    if (styles_.size() == 1) {
      unite(filled);
    } else if (doubled_area(filled) > 0) {
      reverse(filled);
    }
    append(filled, out[w]);
  }
  if (shape.stroked) add_stroke(shape, fits, out);
  return {};
}

void ShapeInk::add_stroke(const DrawnShape& shape, const std::vector<SkeletonFit>& fits,
                          std::vector<Contours>& out) const {
  const Transform& t = shape.to_drawing;
  const double area = double{t.xx} * t.yy - double{t.xy} * t.yx, size = std::sqrt(std::abs(area));
  // Turned, mirrored or scaled alike both ways: the pen stays round, and the skeleton may be fitted.
  const double off =
      std::abs(double{t.xx} * t.xy + double{t.yx} * t.yy) +
      std::abs(double{t.xx} * t.xx + double{t.yx} * t.yx - double{t.xy} * t.xy - double{t.yy} * t.yy);
  const bool round_pen = off <= 1e-4 * size * size;
  PenStyle style{shape.cap, shape.join, shape.miter_limit, kTolerance / scale_};
  if (!round_pen) style.tolerance /= std::max(size, 1e-6);
  std::vector<PenLine> lines;
  for (std::size_t w = 0; w < styles_.size(); ++w) {
    PenLine line{shape.path, shape.width * (1 + (styles_[w]->pen - 1.0) * shape.pen_share)};
    if (round_pen) {
      for (FontPoint& p : line.skeleton.points) {
        const PixelPoint q = t(p.x, p.y);
        p = fits[w]({q.x, q.y});
      }
      line.width *= size;
    }
    lines.push_back(std::move(line));
  }
  std::vector<Contours> outlined(styles_.size());
  outline_pen(lines, style, outlined);
  for (std::size_t w = 0; w < styles_.size(); ++w) {
    Contours& pen = outlined[w];
    for (FontPoint& p : pen.points) {
      const PixelPoint q = round_pen ? PixelPoint{p.x, p.y} : t(p.x, p.y);
      p = to_font(q.x, q.y);
    }
    // The pen runs clockwise where y goes up; turning y over turns it round, a mirroring transform once more.
    if (round_pen || area > 0) reverse(pen);
    append(pen, out[w]);
  }
}

}  // namespace grafema::detail
