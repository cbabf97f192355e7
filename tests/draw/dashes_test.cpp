// SPDX-License-Identifier: MIT
// Dashes lie along the edge, wherever a pixel looks from.
#include "draw/dashes.hpp"

#include <catch2/catch.hpp>
#include <cmath>
#include <random>

#include "support/support.hpp"

using namespace grafema;

TEST_CASE("a pixel takes the dash of the nearest point of the edge", "[dashes][property]") {
  // A star, some of whose edges are short; its corners are where its edges meet.
  std::vector<FontPoint> corners;
  for (int i = 0; i < 30; ++i) {
    const double angle = i * 0.20943951, radius = i % 2 == 0 ? 100 : 60 + i;
    corners.push_back(
        {static_cast<float>(radius * std::cos(angle)), static_cast<float>(radius * std::sin(angle))});
  }
  std::reverse(corners.begin(), corners.end());
  Contours star;
  test::add_polygon(star, corners);
  star.united = true;
  detail::Dashes dashes;
  dashes.set(star, {}, 9, 5);

  double length = 0;
  std::vector<double> begins;
  const auto corner = [&](std::size_t i) { return corners[i % corners.size()]; };
  const auto edge = [&](std::size_t i) {
    return std::hypot(double{corner(i + 1).x} - corner(i).x, double{corner(i + 1).y} - corner(i).y);
  };
  for (std::size_t i = 0; i < corners.size(); ++i) begins.push_back(length), length += edge(i);
  const double period = length / std::round(length / 14), dash = period * 9 / 14;

  std::mt19937 random(Catch::rngSeed());
  std::uniform_real_distribution<float> place(-300, 300);
  int full = 0, none = 0;
  for (int k = 0; k < 3000; ++k) {
    const float x = place(random), y = place(random);
    double nearest = INFINITY, second = INFINITY, at = 0;
    for (std::size_t i = 0; i < corners.size(); ++i) {
      const FontPoint a = corner(i), b = corner(i + 1);
      const double dx = double{b.x} - a.x, dy = double{b.y} - a.y;
      const double t = std::clamp(((x - a.x) * dx + (y - a.y) * dy) / (dx * dx + dy * dy), 0.0, 1.0);
      const double distance = std::hypot(x - a.x - t * dx, y - a.y - t * dy), along = begins[i] + t * edge(i);
      const double apart = std::abs(along - at), around = std::min(apart, length - apart);
      if (distance < nearest) {
        if (around > 1) second = nearest;
        nearest = distance, at = along;
      } else if (around > 1) {
        second = std::min(second, distance);
      }
    }
    if (second - nearest < 0.01) continue;  // two places of the edge are as near
    const double within = std::fmod(at, period), off = std::min(within, period - within);
    const double wanted = std::clamp(0.5 + dash / 2 - off, 0.0, 1.0);
    CHECK(dashes.share_at(x, y) == Approx(wanted).margin(0.02));
    full += wanted == 1 ? 1 : 0, none += wanted == 0 ? 1 : 0;
  }
  CHECK(full > 300);
  CHECK(none > 300);
}
