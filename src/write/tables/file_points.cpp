// SPDX-License-Identifier: MIT
// Walks over outlines in step.
#include "write/tables/file_points.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

/// A point in every weight.
struct Point {
  std::vector<FontPoint> at;
  bool on_curve;
};

bool same_place(const Point& a, const Point& b) {
  for (std::size_t w = 0; w < a.at.size(); ++w) {
    if (to_units(a.at[w].x) != to_units(b.at[w].x) || to_units(a.at[w].y) != to_units(b.at[w].y))
      return false;
  }
  return true;
}

bool in_the_middle(const Point& before, const Point& p, const Point& after) {
  if (before.on_curve || after.on_curve || !p.on_curve) return false;
  const auto is_middle = [](float a, float b, float middle) {
    return static_cast<float>(to_units(a) + to_units(b)) == 2 * middle;
  };
  for (std::size_t w = 0; w < p.at.size(); ++w) {
    if (!is_middle(before.at[w].x, after.at[w].x, p.at[w].x) ||
        !is_middle(before.at[w].y, after.at[w].y, p.at[w].y))
      return false;
  }
  return true;
}

void end_contour(std::vector<Point>& contour, FilePoints& out) {
  while (contour.size() > 1 && contour.back().on_curve && same_place(contour.back(), contour[0]))
    contour.pop_back();
  for (std::size_t i = 0; i < contour.size(); ++i) {
    const Point& p = contour[i];
    if (i > 0 && in_the_middle(contour[i - 1], p, contour[(i + 1) % contour.size()])) continue;
    out.on_curve.push_back(p.on_curve);
    for (std::size_t w = 0; w < p.at.size(); ++w)
      out.places[w].emplace_back(to_units(p.at[w].x), to_units(p.at[w].y));
  }
  out.ends.push_back(out.on_curve.size());
  contour.clear();
}

}  // namespace

Result<FilePoints> read_file_points(const std::vector<const Contours*>& outlines) {
  FilePoints out;
  out.places.resize(outlines.size());
  std::size_t at = 0;
  std::vector<Point> contour;
  const auto add = [&](bool on_curve) {
    Point p{{}, on_curve};
    for (const Contours* outline : outlines) p.at.push_back(outline->points[at]);
    contour.push_back(std::move(p)), ++at;
  };
  for (const PathCommand command : outlines[0]->commands) {
    switch (command) {
      case PathCommand::moveto:
        if (!contour.empty()) end_contour(contour, out);
        add(true);
        break;
      case PathCommand::lineto:
        add(true);
        break;
      case PathCommand::quadratic_curveto:
        add(false), add(true);
        break;
      case PathCommand::curveto:
        return fail(make_error(ErrorKind::unsupported, "lines and quadratic curves", "a cubic curve"));
      case PathCommand::closepath:
        break;
    }
  }
  if (!contour.empty()) end_contour(contour, out);
  return out;
}

std::vector<const Contours*> outlines_of(const FontPlan::Glyph& glyph) {
  std::vector<const Contours*> outlines = {&glyph.drawn->outline};
  for (const DrawnMaster& master : glyph.drawn->masters) outlines.push_back(&master.outline);
  return outlines;
}

}  // namespace grafema::detail
