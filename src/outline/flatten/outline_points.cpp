// SPDX-License-Identifier: MIT
// Measures outlines once; places on them are then found by halving.
#include "grafema/outline/outline_points.hpp"

#include <algorithm>
#include <cmath>
#include <span>

#include "outline/flatten/curve_length.hpp"

namespace grafema {
namespace {

using detail::Curve;
using detail::Dot;
using detail::LengthPart;

/// A stretch of a contour from one corner to the next; the whole of it where it has none or they don't
/// matter.
struct Stretch {
  double begin = 0, length = 0;  // from the contour's start
};

struct Measured {
  std::size_t first_part = 0, end_part = 0;
  double begin = 0, length = 0;
  bool hole = false, filled_left = false;
  std::size_t first_corner = 0, end_corner = 0;
};

Dot direction(const Curve& curve, double t) {
  Dot d = detail::velocity(curve, t);
  double length = std::sqrt(d.x * d.x + d.y * d.y);
  if (!(length > 0)) {  // control points lie on each other: look on a little, inward
    const double aside = t < 0.5 ? t + 1e-3 : t - 1e-3;
    const Dot a = curve.at(t < 0.5 ? t : aside), b = curve.at(t < 0.5 ? aside : t);
    d = {b.x - a.x, b.y - a.y};
    length = std::sqrt(d.x * d.x + d.y * d.y);
  }
  return length > 0 ? Dot{d.x / length, d.y / length} : Dot{1, 0};
}

}  // namespace

struct OutlinePoints::Memory {
  std::vector<Curve> curves;
  std::vector<LengthPart> parts;
  std::vector<Measured> contours;
  std::vector<double> corners;     // of all contours
  std::vector<Stretch> stretches;  // of all contours
  std::vector<std::size_t> counts, counts_of_contours, order;
  std::vector<double> sharing, rest;  // lengths of what points are shared out among
  double length = 0;

  /// The curves of a contour, and the box around their points.
  struct Ring {
    std::size_t end = 0;
    double left = 0, low = 0, right = 0, high = 0;
  };
  std::vector<Ring> rings;

  void list_rings();
  void list_contours();
  void find_corners(Measured& contour);
  /// From the contour's start.
  std::span<const double> corners_of(const Measured& contour) const {
    return std::span(corners).subspan(contour.first_corner, contour.end_corner - contour.first_corner);
  }
  void list_stretches(const Measured& contour);
  void find_sides(Measured& contour) const;
  int winding_at(Dot from) const;
  OutlinePoint at(std::size_t contour, double distance) const;
  void share_out(std::size_t count);
};

OutlinePoints::OutlinePoints() : memory_(std::make_unique<Memory>()) {}
OutlinePoints::~OutlinePoints() = default;
OutlinePoints::OutlinePoints(OutlinePoints&&) noexcept = default;
OutlinePoints& OutlinePoints::operator=(OutlinePoints&&) noexcept = default;

void OutlinePoints::measure(const Contours& outline) {
  Memory& m = *memory_;
  detail::list_curves(outline, m.curves);
  m.parts.clear();
  m.length = 0;
  for (std::uint32_t i = 0; i < m.curves.size(); ++i) {
    m.length = detail::measure_curve(m.curves[i], i, m.length, m.parts);
  }
  m.list_contours();
}

void OutlinePoints::Memory::list_contours() {
  contours.clear();
  corners.clear();
  for (std::size_t i = 0; i < parts.size(); ++i) {
    const bool begins = i == 0 || curves[parts[i].curve].contour != curves[parts[i - 1].curve].contour;
    if (begins) contours.push_back({.first_part = i, .begin = parts[i].begin});
    contours.back().end_part = i + 1;
    contours.back().length = parts[i].begin + parts[i].length - contours.back().begin;
  }
  std::erase_if(contours, [](const Measured& c) { return !(c.length > 0); });
  list_rings();
  for (Measured& contour : contours) {
    find_corners(contour);
    find_sides(contour);
  }
}

void OutlinePoints::Memory::find_corners(Measured& contour) {
  contour.first_corner = corners.size();
  constexpr double kCosine = 0.9396926207859084;  // of 20 degrees
  const std::size_t first = contour.first_part, last = contour.end_part - 1;
  for (std::size_t i = first; i <= last; ++i) {
    if (parts[i].from != 0) continue;  // within a curve
    const Curve& before = curves[parts[i == first ? last : i - 1].curve];
    const Curve& after = curves[parts[i].curve];
    Dot in = detail::velocity(before, 1), out = detail::velocity(after, 0);
    if ((in.x == 0 && in.y == 0) || (out.x == 0 && out.y == 0))
      in = direction(before, 1), out = direction(after, 0);
    // Squared on both sides: no roots.
    const double along = in.x * out.x + in.y * out.y;
    const double lengths = (in.x * in.x + in.y * in.y) * (out.x * out.x + out.y * out.y);
    if (along <= 0 || along * along < kCosine * kCosine * lengths)
      corners.push_back(parts[i].begin - contour.begin);
  }
  contour.end_corner = corners.size();
}

/// The box of each contour's points.
void OutlinePoints::Memory::list_rings() {
  rings.clear();
  for (std::size_t i = 0; i < curves.size(); ++i) {
    const Curve& c = curves[i];
    if (i == 0 || curves[i - 1].contour != c.contour)
      rings.push_back({i, c.p[0].x, c.p[0].y, c.p[0].x, c.p[0].y});
    Ring& ring = rings.back();
    ring.end = i + 1;
    for (std::size_t k = 1; k <= static_cast<std::size_t>(c.degree); ++k) {
      ring.left = std::min(ring.left, c.p[k].x), ring.right = std::max(ring.right, c.p[k].x);
      ring.low = std::min(ring.low, c.p[k].y), ring.high = std::max(ring.high, c.p[k].y);
    }
  }
}

int OutlinePoints::Memory::winding_at(Dot from) const {
  int winding = 0;
  std::size_t i = 0;
  for (const Ring& ring : rings) {
    const bool is_outside =
        from.x < ring.left || from.x > ring.right || from.y < ring.low || from.y > ring.high;
    if (is_outside) i = ring.end;  // it winds around nothing that lies outside of its box
    for (; i < ring.end; ++i) winding += detail::crossings_right_of(curves[i], from);
  }
  return winding;
}

/// Looks to either side of a place in the middle of the contour's longest part.
void OutlinePoints::Memory::find_sides(Measured& contour) const {
  std::size_t longest = contour.first_part;
  for (std::size_t i = longest; i < contour.end_part; ++i) {
    if (parts[i].length > parts[longest].length) longest = i;
  }
  const Curve& curve = curves[parts[longest].curve];
  const double t = (parts[longest].from + parts[longest].to) / 2;
  const Dot p = curve.at(t), d = direction(curve, t);
  const double aside = parts[longest].length * 0.02;
  const bool left = winding_at({p.x - d.y * aside, p.y + d.x * aside}) != 0;
  const bool right = winding_at({p.x + d.y * aside, p.y - d.x * aside}) != 0;
  double doubled = 0;  // of the area that it goes around, counterclockwise
  for (std::size_t i = contour.first_part; i < contour.end_part; ++i) {
    const Dot a = detail::place(curves[parts[i].curve], parts[i].from),
              b = detail::place(curves[parts[i].curve], parts[i].to);
    doubled += (a.x - p.x) * (b.y - p.y) - (a.y - p.y) * (b.x - p.x);
  }
  const bool runs_left = doubled > 0;
  // Between two filled sides the contour's own direction says which one it is filled on.
  contour.filled_left = left != right ? left : runs_left;
  contour.hole = left != right && contour.filled_left != runs_left;
}

std::size_t OutlinePoints::contour_count() const { return memory_->contours.size(); }
double OutlinePoints::length() const { return memory_->length; }
double OutlinePoints::length(std::size_t contour) const { return memory_->contours[contour].length; }
OutlinePoint OutlinePoints::at(std::size_t contour, double distance) const {
  return memory_->at(contour, distance);
}

OutlinePoint OutlinePoints::Memory::at(std::size_t contour, double distance) const {
  const Measured& c = contours[contour];
  double along = distance;
  if (!(along >= 0 && along < c.length)) {  // the rest of a division is slow, and seldom asked for
    along = std::isfinite(distance) ? std::fmod(distance, c.length) : 0;
    if (along < 0) along += c.length;
    if (along >= c.length) along = 0;
  }
  const auto begin = parts.begin() + static_cast<std::ptrdiff_t>(c.first_part);
  const auto end = parts.begin() + static_cast<std::ptrdiff_t>(c.end_part);
  // A corner is found from what goes on from it: a length that rounding puts just before it counts as on it.
  const double slack = c.length * 1e-9;
  auto part = std::upper_bound(begin, end, c.begin + along + slack,
                               [](double v, const LengthPart& p) { return v < p.begin; });
  if (part != begin) --part;
  const Curve& curve = curves[part->curve];
  const double t =
      detail::parameter_at(curve, *part, std::clamp(c.begin + along - part->begin, 0.0, part->length));
  const Dot p = detail::place(curve, t), slope = detail::velocity(curve, t);
  const double speed = std::sqrt(slope.x * slope.x + slope.y * slope.y);
  const Dot d = speed > 0 ? Dot{slope.x / speed, slope.y / speed} : direction(curve, t);
  OutlinePoint out;
  out.place = {static_cast<float>(p.x), static_cast<float>(p.y)};
  out.tangent = {static_cast<float>(d.x), static_cast<float>(d.y)};
  const double side = c.filled_left ? 1 : -1;
  out.normal = {static_cast<float>(side * d.y), static_cast<float>(-side * d.x)};
  if (const auto of_contour = corners_of(c); !of_contour.empty()) {
    const auto corner = std::lower_bound(of_contour.begin(), of_contour.end(), along - slack);
    out.corner = corner != of_contour.end() && *corner <= along + slack;
  }
  if (curve.degree > 1 && speed > 0 && !out.corner) {
    const Dot bend = detail::acceleration(curve, t);
    out.curvature = static_cast<float>((d.x * bend.y - d.y * bend.x) / (speed * speed));
  }
  out.contour = static_cast<std::uint32_t>(contour);
  out.fraction = std::min(static_cast<float>(along / c.length), 0x1.fffffep-1F);
  out.hole = c.hole;
  return out;
}

/// Fills `counts`: as the lengths in `sharing` are, none left over; one for each at least where there are
/// enough.
void OutlinePoints::Memory::share_out(std::size_t count) {
  counts.assign(sharing.size(), 0);
  if (sharing.empty()) return;
  if (sharing.size() == 1) {
    counts[0] = count;
    return;
  }
  double total = 0;
  for (const double l : sharing) total += l;
  const std::size_t least = count >= sharing.size() ? 1 : 0;
  const std::size_t free = count - least * sharing.size();
  std::size_t given = 0;
  rest.resize(sharing.size());
  for (std::size_t i = 0; i < sharing.size(); ++i) {
    const double wanted = static_cast<double>(count) * sharing[i] / total;
    const double above = std::max(wanted - static_cast<double>(least), 0.0);
    counts[i] = std::min(static_cast<std::size_t>(above), free - given);
    given += counts[i];
    rest[i] = above - static_cast<double>(counts[i]);
  }
  order.resize(sharing.size());
  for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
  std::stable_sort(order.begin(), order.end(),
                   [&](std::size_t a, std::size_t b) { return rest[a] > rest[b]; });
  for (std::size_t i = 0; given < free; i = (i + 1) % order.size(), ++given) ++counts[order[i]];
  for (std::size_t& c : counts) c += least;
}

/// From corner to corner; begins at the first corner.
void OutlinePoints::Memory::list_stretches(const Measured& contour) {
  const auto of_contour = corners_of(contour);
  for (std::size_t i = 0; i < of_contour.size(); ++i) {
    const double begin = of_contour[i];
    const double end = i + 1 < of_contour.size() ? of_contour[i + 1] : contour.length + of_contour[0];
    stretches.push_back({begin, end - begin});
  }
}

Result<void> OutlinePoints::spread(std::size_t count, bool keep_corners,
                                   std::vector<OutlinePoint>& out) const {
  constexpr std::size_t kMax = 10'000'000;
  out.clear();
  if (count > kMax) return bad_value("at most ten million points");
  Memory& m = *memory_;
  m.sharing.clear();
  for (const Measured& c : m.contours) m.sharing.push_back(c.length);
  m.share_out(count);
  m.counts_of_contours.swap(m.counts);
  out.reserve(m.contours.empty() ? 0 : count);
  for (std::size_t i = 0; i < m.contours.size(); ++i) {
    m.stretches.clear();
    if (keep_corners && m.corners_of(m.contours[i]).size() <= m.counts_of_contours[i])
      m.list_stretches(m.contours[i]);
    if (m.stretches.empty()) m.stretches.push_back({0, m.contours[i].length});
    m.sharing.clear();
    for (const Stretch& s : m.stretches) m.sharing.push_back(s.length);
    m.share_out(m.counts_of_contours[i]);
    for (std::size_t s = 0; s < m.stretches.size(); ++s) {
      const auto points = static_cast<double>(m.counts[s]);
      for (std::size_t k = 0; k < m.counts[s]; ++k) {
        out.push_back(
            m.at(i, m.stretches[s].begin + m.stretches[s].length * static_cast<double>(k) / points));
      }
    }
  }
  return {};
}

Result<void> OutlinePoints::spread_by(double step, bool keep_corners, std::vector<OutlinePoint>& out) const {
  constexpr double kMax = 1e7;
  out.clear();
  Memory& m = *memory_;
  if (!(step > 0) || !std::isfinite(step)) return bad_value("a step above 0");
  if (m.length / step > kMax) return bad_value("at most ten million points");
  for (std::size_t i = 0; i < m.contours.size(); ++i) {
    m.stretches.clear();
    if (keep_corners) m.list_stretches(m.contours[i]);
    if (m.stretches.empty()) m.stretches.push_back({0, m.contours[i].length});
    for (const Stretch& s : m.stretches) {
      const double points = std::max(std::nearbyint(s.length / step), 1.0);
      for (double k = 0; k < points; ++k) out.push_back(m.at(i, s.begin + s.length * k / points));
    }
  }
  return {};
}

}  // namespace grafema
