// SPDX-License-Identifier: MIT
// Draws a quad: finds the pixels that show it by the inverse of its map, shades and blends them.
#pragma once

#include <Eigen/Core>
#include <algorithm>
#include <optional>
#include <vector>

#include "render/software/blender.hpp"
#include "render/software/planes.hpp"
#include "render/software/quad_levels.hpp"
#include "render/software/scene_quads.hpp"
#include "render/software/seen_quad.hpp"

namespace grafema::detail {

/// Where the cell's sides lie on a fill: left, top, right, bottom.
using Place = std::array<float, 4>;

inline float mixed(float low, float high, double t) { return low + (high - low) * static_cast<float>(t); }

/// What a quad takes its texels from: nothing, for a bar.
struct Page {
  ImageView pixels, far;
};

/// Draws the part of a quad that lies in some rows of the target.
class QuadDrawer {
  using Choice = QuadLevels::Choice;
  using Vector3d = Eigen::Vector3d;

 public:
  QuadDrawer(const GlyphQuad& quad, const QuadLayer& what, const Place& place, TexelKind kind,
             const Page& page, const View& view, Blender& blender, const LightVectors& lights,
             const std::optional<QuadCut>& cut = {})
      : quad_(quad),
        place_(place),
        seen_(quad, view),
        levels_(quad, what, kind, page.pixels, page.far),
        blender_(blender),
        lights_(lights) {
    if (cut) cutter_.emplace(*cut, seen_);
  }

  /// Where what it paints goes into a mask instead of the target.
  void go_onto(Planes& planes) { shape_ = &planes; }

  void draw(Image& target, const PixelRect& rows) {
    if (!seen_.valid()) return;
    if (seen_.affine()) {
      draw_affine(target, rows);
    } else {
      draw_in_perspective(target, rows);
    }
  }

 private:
  /// The quad with so many texels left out at its sides, and what its layer draws out; of a shape also where
  /// other letters must know of this one.
  PlanePart part_without(double x, double y) const {
    const double width = quad_.cell[2] + 1, height = quad_.cell[3] + 1;
    const Texel swept = levels_.own().swept(), also = shape_ != nullptr ? levels_.own().also_seen() : Texel{};
    if (also.x != 0 || also.y != 0) x = std::min(x, 0.0), y = std::min(y, 0.0);
    const auto low = [](float a, float b) { return std::min({a, b, 0.0F}); };
    const auto high = [](float a, float b) { return std::max({a, b, 0.0F}); };
    return {(x + low(swept.x, also.x)) / width, (y + low(swept.y, also.y)) / height,
            1 - (x - high(swept.x, also.x)) / width, 1 - (y - high(swept.y, also.y)) / height};
  }

  void draw_affine(Image& target, const PixelRect& rows) {
    const Choice choice = levels_.choose(footprint_at(seen_, 0, 0));
    // The quad is half a texel wider than its cell.
    const float empty = choice.level == 0 ? levels_.own().margin(choice.footprint) : 0;
    const Texel beyond = choice.beyond();
    const PlanePart part =
        empty > 0 ? part_without(empty + 0.5, empty + 0.5) : part_without(-beyond.x, -beyond.y);
    if (part.empty()) return;
    const PixelRect area = seen_.bounds(rows, part);
    const Vector3d across = seen_.across(), down = seen_.down();
    if (across.y() == 0 && down.x() == 0 && choice.level == 0 && shape_ == nullptr &&
        levels_.own().can_shade_rows()) {
      draw_upright(target, area, choice.footprint, part);
      return;
    }
    for (int y = area.y; y < area.y + area.height; ++y) {
      std::uint8_t* row = target.row(y);
      const double a0 = across.y() * (y + 0.5) + across.z(), b0 = down.y() * (y + 0.5) + down.z();
      for (int x = area.x; x < area.x + area.width; ++x) {
        const double a = a0 + across.x() * (x + 0.5), b = b0 + down.x() * (x + 0.5);
        if (part.holds(a, b)) paint(row, x, y, a, b, choice);
      }
    }
  }

  /// Its rows are those of the target.
  void draw_upright(Image& target, PixelRect area, const Footprint& footprint, const PlanePart& part) {
    const Vector3d across = seen_.across(), down = seen_.down();
    const auto a_at = [&](int x) { return across.x() * (x + 0.5) + across.z(); };
    const auto is_shown = [&](int x) { return a_at(x) >= part.left && a_at(x) < part.right; };
    while (area.width > 0 && !is_shown(area.x)) ++area.x, --area.width;
    while (area.width > 0 && !is_shown(area.x + area.width - 1)) --area.width;
    if (area.width == 0) return;
    strengths_.resize(static_cast<std::size_t>(area.width));
    for (int y = area.y; y < area.y + area.height; ++y) {
      const double b = down.y() * (y + 0.5) + down.z();
      if (!(b >= part.top && b < part.bottom)) continue;
      levels_.own().shade_row(texel_of(a_at(area.x), b), footprint, strengths_);
      std::uint8_t* pixel = target.row(y) + static_cast<std::size_t>(area.x) * 4;
      for (int x = 0; x < area.width; ++x, pixel += 4) {
        const float strength = strengths_[static_cast<std::size_t>(x)];
        if (strength > 0) put(pixel, a_at(area.x + x), b, strength * share_at(area.x + x, y), footprint);
      }
    }
  }

  void put(std::uint8_t* pixel, double a, double b, float strength, const Footprint& footprint) {
    const PixelPoint at = on_fill(a, b);
    const Shade shade = levels_.own().with_strength(strength, footprint, at.x, at.y);
    if (shade.alpha > 0) blender_.blend(pixel, shade);
  }

  PixelPoint on_fill(double a, double b) const {
    if (levels_.own().is_solid()) return {};
    return {mixed(place_[0], place_[2], a), mixed(place_[1], place_[3], b)};
  }

  Texel texel_of(double a, double b) const {
    return {static_cast<float>(quad_.cell[0] - 0.5 + a * (quad_.cell[2] + 1)),
            static_cast<float>(quad_.cell[1] - 0.5 + b * (quad_.cell[3] + 1))};
  }

  void draw_in_perspective(Image& target, const PixelRect& rows) {
    // Paint goes less than two pixels beyond a quad, and beyond one that is not small none at all.
    const bool is_small = seen_.is_small();
    const PlanePart part = part_without(0, 0);
    const PixelRect area = is_small ? widened(seen_.bounds(rows, part), rows) : seen_.bounds(rows, part);
    for (int y = area.y; y < area.y + area.height; ++y) {
      std::uint8_t* row = target.row(y);
      for (int x = area.x; x < area.x + area.width; ++x) {
        double a = 0, b = 0;
        if (!seen_.find(x + 0.5, y + 0.5, a, b)) continue;
        const bool is_on_quad = part.holds(a, b);
        if (!is_on_quad && !is_small) continue;
        const Choice choice = levels_.choose(footprint_at(seen_, x, y));
        if (is_on_quad || is_near(choice, a, b)) paint(row, x, y, a, b, choice);
      }
    }
  }

  bool is_near(const Choice& choice, double a, double b) const {
    const Texel beyond = choice.beyond();
    return part_without(-beyond.x, -beyond.y).holds(a, b);
  }

  static PixelRect widened(const PixelRect& area, const PixelRect& rows) {
    constexpr int kBy = 2;
    const int left = std::max(area.x - kBy, 0), top = std::max(area.y - kBy, rows.y),
              right = std::min(area.x + area.width + kBy, rows.width),
              bottom = std::min(area.y + area.height + kBy, rows.y + rows.height);
    return {left, top, right - left, bottom - top};
  }

  float share_at(int x, int y) const { return cutter_ ? cutter_->at(x, y) : 1.0F; }

  void paint(std::uint8_t* row, int x, int y, double a, double b, const Choice& choice) {
    if (shape_ != nullptr) {
      Parts parts = levels_.parts(texel_of(a, b), choice);
      const float alpha = static_cast<float>(quad_.tint[3]) / 255.0F;
      return shape_->keep(x, y, parts * Parts{alpha, alpha, alpha, 1});
    }
    std::uint8_t* pixel = row + static_cast<std::size_t>(x) * 4;
    const PixelPoint at = on_fill(a, b);
    Shade shade = levels_.shade(texel_of(a, b), choice, at.x, at.y);
    if (levels_.own().takes_light()) {
      const Footprint own = choice.footprint.scaled(1 / choice.unit);
      shade = levels_.own().with_light(shade, texel_of(a, b), own,
                                       {static_cast<float>(x) + 0.5F, static_cast<float>(y) + 0.5F}, lights_);
    }
    if (cutter_) shade.cut(share_at(x, y));
    if (shade.strength > 0 && shade.alpha > 0) blender_.blend(pixel, shade);
  }

  const GlyphQuad& quad_;
  Place place_;
  Seen seen_;
  QuadLevels levels_;
  Blender& blender_;
  const LightVectors& lights_;
  std::optional<Cutter> cutter_;
  std::vector<float> strengths_;
  Planes* shape_ = nullptr;
};

}  // namespace grafema::detail
