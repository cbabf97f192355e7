// SPDX-License-Identifier: MIT
// Color glyphs are painted as the specification says.
#include "grafema/raster/color_paint.hpp"

#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/files/files.hpp"
#include "raster/composite.hpp"
#include "raster/gradient.hpp"

using namespace grafema;
using detail::Tone;

namespace {

constexpr Tone kRed{1, 0, 0, 1}, kHalfBlue{0, 0, 0.5F, 0.5F};

bool near(const Tone& a, const Tone& b) {
  return std::abs(a.red - b.red) < 1e-3F && std::abs(a.green - b.green) < 1e-3F &&
         std::abs(a.blue - b.blue) < 1e-3F && std::abs(a.alpha - b.alpha) < 1e-3F;
}

Paint gradient(PaintKind kind) {
  Paint p;
  p.kind = kind;
  p.stops.resize(2);
  return p;
}

const std::vector<detail::Gradient::Stop> kBlackToRed = {{0, {0, 0, 0, 1}}, {1, kRed}};

}  // namespace

TEST_CASE("the operators of Porter and Duff", "[composite]") {
  CHECK(near(composite(CompositeMode::clear, kRed, kHalfBlue), {}));
  CHECK(near(composite(CompositeMode::source_over, kHalfBlue, kRed), {0.5F, 0, 0.5F, 1}));
  CHECK(near(composite(CompositeMode::destination_over, kHalfBlue, kRed), kRed));
  CHECK(near(composite(CompositeMode::source_in, kRed, kHalfBlue), {0.5F, 0, 0, 0.5F}));
  CHECK(near(composite(CompositeMode::source_out, kRed, kHalfBlue), {0.5F, 0, 0, 0.5F}));
  CHECK(near(composite(CompositeMode::exclusive_or, kRed, kHalfBlue), {0.5F, 0, 0, 0.5F}));
  CHECK(near(composite(CompositeMode::plus, kRed, kHalfBlue), {1, 0, 0.5F, 1}));
}

TEST_CASE("blend modes of opaque colors are their formulas", "[composite]") {
  const Tone gray{0.5F, 0.5F, 0.5F, 1}, dim{0.2F, 0.4F, 0.8F, 1};
  CHECK(near(composite(CompositeMode::multiply, gray, dim), {0.1F, 0.2F, 0.4F, 1}));
  CHECK(near(composite(CompositeMode::screen, gray, dim), {0.6F, 0.7F, 0.9F, 1}));
  CHECK(near(composite(CompositeMode::darken, gray, dim), {0.2F, 0.4F, 0.5F, 1}));
  CHECK(near(composite(CompositeMode::difference, gray, dim), {0.3F, 0.1F, 0.3F, 1}));
  CHECK(near(composite(CompositeMode::overlay, gray, dim), {0.2F, 0.4F, 0.8F, 1}));
  const Tone lit = composite(CompositeMode::luminosity, gray, dim);
  CHECK(0.3F * lit.red + 0.59F * lit.green + 0.11F * lit.blue == Approx(0.5F).margin(1e-3));
}

TEST_CASE("every mode keeps colors within what their alpha allows", "[composite][property]") {
  for (int mode = 0; mode <= static_cast<int>(CompositeMode::luminosity); ++mode) {
    for (float a : {0.0F, 0.3F, 1.0F}) {
      for (float b : {0.0F, 0.6F, 1.0F}) {
        const Tone t = detail::composite(static_cast<CompositeMode>(mode), {0.9F * a, 0.1F * a, 0.4F * a, a},
                                         {0.2F * b, 0.8F * b, 0, b});
        for (const float v : {t.red, t.green, t.blue}) CHECK((v >= -1e-4F && v <= t.alpha + 1e-4F));
        CHECK((t.alpha >= 0 && t.alpha <= 1.0001F));
      }
    }
  }
}

TEST_CASE("a linear gradient runs along its axis, turned by its third point", "[gradient]") {
  Paint p = gradient(PaintKind::linear_gradient);
  p.points = {FontPoint{0, 0}, {100, 0}, {0, 50}};
  CHECK(detail::Gradient(p, kBlackToRed).at({25, 70}).red == Approx(0.25F));
  p.points[2] = {50, 50};  // lines of one color run at 45 degrees
  CHECK(detail::Gradient(p, kBlackToRed).at({75, 50}).red == Approx(0.25F));
  p.points[2] = {50, 0};
  CHECK(detail::Gradient(p, kBlackToRed).at({25, 0}).alpha == 0);
}

TEST_CASE("gradients go on past their ends as they are told to", "[gradient]") {
  Paint p = gradient(PaintKind::linear_gradient);
  p.points = {FontPoint{0, 0}, {100, 0}, {0, 50}};
  CHECK(detail::Gradient(p, kBlackToRed).at({150, 0}).red == 1);
  p.extend = GradientExtend::repeat;
  CHECK(detail::Gradient(p, kBlackToRed).at({125, 0}).red == Approx(0.25F));
  CHECK(detail::Gradient(p, kBlackToRed).at({-25, 0}).red == Approx(0.75F));
  p.extend = GradientExtend::reflect;
  CHECK(detail::Gradient(p, kBlackToRed).at({125, 0}).red == Approx(0.75F));
}

TEST_CASE("radial gradients have their circles, and nothing where there is none", "[gradient]") {
  Paint p = gradient(PaintKind::radial_gradient);
  p.radii = {0, 100};
  CHECK(detail::Gradient(p, kBlackToRed).at({30, 40}).red == Approx(0.5F));
  p.points[1] = {300, 0};
  p.radii = {50, 50};  // a strip between two circles of one size
  CHECK(detail::Gradient(p, kBlackToRed).at({100, 80}).alpha == 0);
  CHECK(detail::Gradient(p, kBlackToRed).at({200, 0}).red ==
        Approx(0.8333F).margin(1e-3));  // the right end of the circle at 150
}

TEST_CASE("sweep gradients count angles from the right, counter-clockwise", "[gradient]") {
  Paint p = gradient(PaintKind::sweep_gradient);
  p.angles = {0, 360};
  for (const auto& [point, turn] : {std::pair(FontPoint{10, 0}, 0.0F),
                                    {FontPoint{7, 7}, 0.125F},
                                    {FontPoint{0, 5}, 0.25F},
                                    {FontPoint{-3, 0}, 0.5F},
                                    {FontPoint{4, -4}, 0.875F}}) {
    CHECK(detail::Gradient(p, kBlackToRed).at(point).red == Approx(turn).margin(1e-4));
  }
}
