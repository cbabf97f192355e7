// SPDX-License-Identifier: MIT
// Paths as straight pieces with their lengths.
#include "grafema/draw/text_path.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/numbers.hpp"

namespace grafema {
namespace {

constexpr std::size_t kMaxPieces = 65536;
constexpr double kTolerance = 0.05;

float length_of(PixelPoint a, PixelPoint b) { return std::hypot(b.x - a.x, b.y - a.y); }

PixelPoint between(PixelPoint a, PixelPoint b, float t) {
  return {a.x + (b.x - a.x) * t, a.y + (b.y - a.y) * t};
}

}  // namespace

TextPath::Made TextPath::made(std::vector<Piece> pieces, bool closed) {
  double length = 0;
  for (Piece& piece : pieces) {
    piece.begin = static_cast<float>(length);
    piece.length = length_of(piece.from, piece.to);
    length += double{piece.length};
  }
  std::erase_if(pieces, [](const Piece& piece) { return piece.length == 0; });
  if (!std::isfinite(length) || length <= 0 || pieces.size() > kMaxPieces) {
    return fail(
        make_error(ErrorKind::bad_value, "a path of finite numbers, some length and at most 65,536 points"));
  }
  std::shared_ptr<TextPath> path(new TextPath());
  path->pieces_ = std::move(pieces);
  path->length_ = static_cast<float>(length);
  path->closed_ = closed;
  return std::shared_ptr<const TextPath>(std::move(path));
}

TextPath::Made TextPath::line(PixelPoint from, PixelPoint to) { return made({{from, to, 0, 0}}, false); }

TextPath::Made TextPath::arc(PixelPoint center, float radius, float from, float to) {
  const double sweep = double{to} - double{from};
  if (!std::isfinite(radius) || !std::isfinite(sweep) || !(radius > 0) || std::abs(sweep) > 36000) {
    return bad_value("an arc with a radius above 0, of at most a hundred turns");
  }
  // A chord lies 1 - cos(half its angle) radii within the arc.
  const double step = std::sqrt(8 * kTolerance / std::max(double{radius}, 1.0)) * 57.29577951308232;
  const auto count =
      static_cast<std::size_t>(std::clamp(std::ceil(std::abs(sweep) / std::min(step, 10.0)), 1.0, 65536.0));
  const auto point = [&](std::size_t i) {
    const double angle = double{from} + sweep * static_cast<double>(i) / static_cast<double>(count);
    const detail::SineCosine way = detail::sine_cosine(angle);
    return PixelPoint{center.x + radius * static_cast<float>(way.cosine),
                      center.y + radius * static_cast<float>(way.sine)};
  };
  std::vector<Piece> pieces;
  for (std::size_t i = 0; i < count; ++i) pieces.push_back({point(i), point(i + 1), 0, 0});
  return made(std::move(pieces), std::abs(sweep) == 360);
}

TextPath::Made TextPath::polyline(std::span<const PixelPoint> points, bool closed) {
  std::vector<Piece> pieces;
  for (std::size_t i = 1; i < points.size(); ++i) pieces.push_back({points[i - 1], points[i], 0, 0});
  if (closed && points.size() > 2) pieces.push_back({points.back(), points.front(), 0, 0});
  return made(std::move(pieces), closed && points.size() > 2);
}

namespace {

std::size_t points_of(PathCommand command) {
  constexpr std::array<std::size_t, 5> kPoints = {1, 1, 2, 3, 0};
  return kPoints[static_cast<std::size_t>(command)];
}

/// The contours one by one.
std::vector<Contours> apart(const Contours& contours) {
  std::vector<Contours> out;
  std::size_t point = 0;
  for (const PathCommand command : contours.commands) {
    if (command == PathCommand::moveto || out.empty()) out.emplace_back();
    out.back().commands.push_back(command);
    for (std::size_t i = 0; i < points_of(command) && point < contours.points.size(); ++i) {
      out.back().points.push_back(contours.points[point++]);
    }
  }
  return out;
}

}  // namespace

TextPath::Made TextPath::contours(const Contours& contours, const Transform& to_pixels) {
  const std::vector<Contours> all = apart(contours);
  std::vector<Segment> segments;
  std::vector<Piece> pieces;
  bool closed = false;
  for (const Contours& one : all) {
    if (one.points.empty()) continue;
    flatten(one, to_pixels, kTolerance, segments);
    closed = one.commands.back() == PathCommand::closepath || one.points.front() == one.points.back();
    if (!closed && !segments.empty()) segments.pop_back();  // what leads back to where it began
    for (const Segment& s : segments) {
      pieces.push_back({{static_cast<float>(s.x0), static_cast<float>(s.y0)},
                        {static_cast<float>(s.x1), static_cast<float>(s.y1)},
                        0,
                        0});
    }
  }
  return made(std::move(pieces), closed && all.size() == 1);
}

PixelPoint TextPath::at(float along) const {
  if (closed_) along -= std::floor(along / length_) * length_;
  const auto above = std::upper_bound(pieces_.begin(), pieces_.end(), along,
                                      [](float v, const Piece& piece) { return v < piece.begin; });
  const Piece& piece = above == pieces_.begin() ? pieces_.front() : *(above - 1);
  return between(piece.from, piece.to, (along - piece.begin) / piece.length);
}

}  // namespace grafema
