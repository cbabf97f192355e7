// SPDX-License-Identifier: MIT
// Finds the pixels of each quad by the inverse of its map, shades and blends them.
#include "grafema/render/software_renderer.hpp"

#include <Eigen/Core>
#include <Eigen/LU>
#include <algorithm>
#include <array>
#include <cmath>

#include "base/light.hpp"
#include "grafema/base/color.hpp"
#include "render/software/paint_quads.hpp"

namespace grafema {
namespace {

using Eigen::Matrix3d;
using Eigen::Vector3d;

using detail::light_of;
using detail::to_byte;

void blend_linear(std::uint8_t* pixel, const detail::Shade& s) {
  const float cover = s.alpha * s.strength;
  const std::array<float, 3> srgb = {s.red, s.green, s.blue};
  for (std::size_t c = 0; c < 3; ++c) {
    const float light = s.is_light ? srgb[c] * s.alpha : to_linear(srgb[c]) * cover;
    pixel[c] = to_byte(to_srgb(light + light_of(pixel[c]) * (1 - cover)));
  }
  pixel[3] = to_byte(cover + static_cast<float>(pixel[3]) / 255.0F * (1 - cover));
}

void blend_gamma(std::uint8_t* pixel, const detail::Shade& s) {
  std::array<float, 3> srgb = {s.red, s.green, s.blue};
  float strength = s.strength;
  if (s.is_light) {  // a picture's own colors have no thin edges to mend
    for (float& c : srgb) c = s.strength > 0 ? to_srgb(c / s.strength) : 0;
  } else {
    strength = contrasted(strength, 0.299F * s.red + 0.587F * s.green + 0.114F * s.blue);
  }
  const float cover = s.alpha * strength;
  for (std::size_t c = 0; c < 3; ++c) {
    pixel[c] = to_byte(srgb[c] * cover + static_cast<float>(pixel[c]) / 255.0F * (1 - cover));
  }
  pixel[3] = to_byte(cover + static_cast<float>(pixel[3]) / 255.0F * (1 - cover));
}

/// A quad seen from the device: which point of it each pixel shows.
class Seen {
 public:
  Seen(const GlyphQuad& quad, const View& view) : quad_(quad) {
    // Fractions a, b of the quad to homogeneous device pixels.
    const std::array<const std::array<float, 4>*, 3> columns = {&quad.across, &quad.down, &quad.origin};
    for (int c = 0; c < 3; ++c) {
      const auto& v = *columns[static_cast<std::size_t>(c)];
      plane_(0, c) = (double{v[0]} + v[3]) / 2 * view.width;
      plane_(1, c) = (double{v[3]} - v[1]) / 2 * view.height;
      plane_(2, c) = v[3];
    }
    const double determinant = plane_.determinant();
    valid_ = std::isfinite(determinant) && determinant != 0;
    if (valid_) inverse_ = plane_.inverse();
    affine_ = quad.across[3] == 0 && quad.down[3] == 0;
  }

  bool valid() const { return valid_; }
  bool affine() const { return affine_; }

  /// The fractions seen at a device point; false where they lie behind the camera, outside near and far, or
  /// off the quad.
  bool find(double x, double y, double& a, double& b) const {
    const Vector3d p = inverse_ * Vector3d(x, y, 1);
    a = p.x() / p.z();
    b = p.y() / p.z();
    if (!(a >= 0 && a < 1 && b >= 0 && b < 1)) return false;
    if (affine_) return true;
    const double w = plane_(2, 0) * a + plane_(2, 1) * b + plane_(2, 2);
    const double z = quad_.across[2] * a + quad_.down[2] * b + quad_.origin[2];
    return w > 0 && z >= -w && z <= w;
  }

  /// The point of the page seen there, wherever that lies.
  detail::Texel texel(double x, double y) const {
    const Vector3d p = inverse_ * Vector3d(x, y, 1);
    return {static_cast<float>(quad_.cell[0] - 0.5 + p.x() / p.z() * (quad_.cell[2] + 1)),
            static_cast<float>(quad_.cell[1] - 0.5 + p.y() / p.z() * (quad_.cell[3] + 1))};
  }

  /// The pixels that may show it.
  PixelRect bounds(const Image& target) const {
    double left = target.width(), top = target.height(), right = 0, bottom = 0;
    for (int corner = 0; corner < 4; ++corner) {
      const Vector3d p = plane_ * Vector3d(corner & 1, corner >> 1, 1);
      if (!(p.z() > 1e-6)) return {0, 0, target.width(), target.height()};  // it crosses the camera's plane
      left = std::min(left, p.x() / p.z()), right = std::max(right, p.x() / p.z());
      top = std::min(top, p.y() / p.z()), bottom = std::max(bottom, p.y() / p.z());
    }
    const auto bound = [](double v, int limit) {
      return static_cast<int>(std::clamp(v, 0.0, static_cast<double>(limit)));
    };
    const int x = bound(std::floor(left), target.width()), y = bound(std::floor(top), target.height());
    return {x, y, bound(std::ceil(right), target.width()) - x, bound(std::ceil(bottom), target.height()) - y};
  }

 private:
  const GlyphQuad& quad_;
  Matrix3d plane_, inverse_;
  bool valid_ = false, affine_ = false;
};

/// Derivatives are those of the pair of pixels that a pixel belongs to, as graphics hardware takes them.
struct Footprint {
  detail::Texel dx, dy;
  Footprint(const Seen& seen, int x, int y) {
    const double x0 = (x & ~1) + 0.5, y0 = (y & ~1) + 0.5;
    const detail::Texel left = seen.texel(x0, y + 0.5), right = seen.texel(x0 + 1, y + 0.5);
    const detail::Texel above = seen.texel(x + 0.5, y0), below = seen.texel(x + 0.5, y0 + 1);
    dx = {right.x - left.x, right.y - left.y};
    dy = {below.x - above.x, below.y - above.y};
  }
};

float box_fraction(std::int16_t low, std::int16_t high, double t) {
  return static_cast<float>((low + (high - low) * t) / 4096.0);
}

void draw_quad(const GlyphQuad& quad, const LayerRecord& layer, QuadKind kind, const ImageView& page,
               const View& view, Blending blending, Image& target) {
  const Seen seen(quad, view);
  if (!seen.valid()) return;
  const PixelRect area = seen.bounds(target);
  Footprint footprint(seen, area.x, area.y);
  for (int y = area.y; y < area.y + area.height; ++y) {
    std::uint8_t* row = target.row(y);
    for (int x = area.x; x < area.x + area.width; ++x) {
      double a = 0, b = 0;
      if (!seen.find(x + 0.5, y + 0.5, a, b)) continue;
      if (!seen.affine()) footprint = Footprint(seen, x, y);
      const detail::Texel at{static_cast<float>(quad.cell[0] - 0.5 + a * (quad.cell[2] + 1)),
                             static_cast<float>(quad.cell[1] - 0.5 + b * (quad.cell[3] + 1))};
      const detail::Shade shade =
          detail::shade(quad, layer, kind, page, at, footprint.dx, footprint.dy,
                        box_fraction(quad.box[0], quad.box[2], a), box_fraction(quad.box[1], quad.box[3], b));
      if (shade.strength <= 0 || shade.alpha <= 0) continue;
      if (blending == Blending::linear) {
        blend_linear(row + static_cast<std::size_t>(x) * 4, shade);
      } else {
        blend_gamma(row + static_cast<std::size_t>(x) * 4, shade);
      }
    }
  }
}

/// The page that is layer `layer` of its kind's texture array.
std::optional<std::uint16_t> find_page(const GlyphSource& source, QuadKind kind, std::uint16_t layer) {
  const auto pages = source.pages();
  for (std::size_t i = 0; i < pages.size(); ++i) {
    if (quad_kind(pages[i].kind) == kind && pages[i].array_layer == layer)
      return static_cast<std::uint16_t>(i);
  }
  return std::nullopt;
}

}  // namespace

Result<void> draw_in_software(const QuadList& list, const GlyphSource& source, const View& view,
                              Blending blending, Image& target) {
  const bool same =
      static_cast<float>(target.width()) == view.width && static_cast<float>(target.height()) == view.height;
  if (!same || target.format() != PixelFormat::rgba8) {
    return fail(make_error(ErrorKind::bad_value, "an rgba8 target of the view's size"));
  }
  for (const Batch& batch : list.batches.first(list.batch_count)) {
    for (const GlyphQuad& quad : list.quads.subspan(batch.first, batch.count)) {
      const std::optional<std::uint16_t> page = find_page(source, batch.kind, quad.page);
      const std::size_t record = std::size_t{batch.first_record} + quad.record;
      if (!page || record >= list.record_count) continue;
      draw_quad(quad, list.records[record], batch.kind, source.pixels(*page), view, blending, target);
    }
  }
  return {};
}

namespace {

/// Multiplies the colors of pixels that are neither empty nor opaque by what `factor` makes of their alpha.
template <class Factor>
void scale_colors(Image& target, Blending blending, Factor factor) {
  for (int y = 0; y < target.height(); ++y) {
    for (std::uint8_t* pixel = target.row(y); pixel < target.row(y) + target.row_bytes(); pixel += 4) {
      if (pixel[3] == 255) continue;
      const float by = factor(static_cast<float>(pixel[3]) / 255.0F);
      for (int c = 0; c < 3; ++c) {
        pixel[c] = blending == Blending::linear ? to_byte(to_srgb(light_of(pixel[c]) * by))
                                                : to_byte(static_cast<float>(pixel[c]) / 255.0F * by);
      }
    }
  }
}

}  // namespace

void to_premultiplied_alpha(Image& target, Blending blending) {
  scale_colors(target, blending, [](float alpha) { return alpha; });
}

void to_straight_alpha(Image& target, Blending blending) {
  scale_colors(target, blending, [](float alpha) { return alpha > 0 ? 1 / alpha : 0.0F; });
}

}  // namespace grafema
