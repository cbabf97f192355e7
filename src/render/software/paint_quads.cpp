// SPDX-License-Identifier: MIT
// Shades pixels of quads, all channels of a texel at once.
#include "render/software/paint_quads.hpp"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/light.hpp"
#include "grafema/draw/look.hpp"
#include "raster/fill_math.hpp"
#if defined(__SSE4_1__)
#include <smmintrin.h>
#endif

namespace grafema::detail {
namespace {

constexpr Four kPixels = {0, 1, 2, 3};

float median(Four v) { return std::max(std::min(v[0], v[1]), std::min(std::max(v[0], v[1]), v[2])); }

/// How wide a pixel may be taken for: never so wide that paint would reach beyond the picture.
float room_of(const LayerRecord& layer) {
  const float inner = layer.cut == kInsetCut ? 0.0F : std::abs(layer.grow - layer.line);
  return std::max(layer.reach - std::max(std::abs(layer.grow), inner) - layer.blur, 1.0F / 64);
}

}  // namespace

QuadShader::QuadShader(const GlyphQuad& quad, const QuadLayer& what, TexelKind kind, const ImageView& page)
    : quad_(quad),
      what_(what),
      layer_(what.layer),
      kind_(kind),
      page_(page),
      texel_bytes_(bytes_per_pixel(page.format)),
      channels_(static_cast<std::size_t>(channel_count(page.format))),
      left_(quad.cell[0]),
      top_(quad.cell[1]),
      right_(quad.cell[0] + quad.cell[2]),
      bottom_(quad.cell[1] + quad.cell[3]),
      scale_(bits_per_channel(page.format) == 16 ? 1 / 65535.0F : 1 / 255.0F),
      room_(room_of(what.layer)),
      farther_(layer_.reach > 0 ? std::max(layer_.grow, 0.0F) * (kSharpReach - 1) / (2 * layer_.reach) : 0),
      wide_(bits_per_channel(page.format) == 16),
      plain_(layer_.grow == 0 && layer_.blur == 0 && layer_.cut != kInsetCut),
      round_(layer_.sharp <= 0),
      has_sweep_(layer_.sweep_x != 0 || layer_.sweep_y != 0),
      has_edge_(kind != TexelKind::coverage && kind != TexelKind::color),
      solid_((!what.fill || is_corners(*what.fill)) && layer_.corners[0] == layer_.corners[1] &&
             layer_.corners[0] == layer_.corners[2] && layer_.corners[0] == layer_.corners[3]) {
  if (solid_) fill_ = fill_at({}, 0, 0);
}

namespace {

/// Four bytes as floats.
inline Four to_floats(std::uint32_t bytes) {
#if defined(__SSE4_1__)
  return _mm_cvtepi32_ps(_mm_cvtepu8_epi32(_mm_cvtsi32_si128(static_cast<int>(bytes))));
#else
  const FourInts v = {static_cast<int>(bytes & 255), static_cast<int>(bytes >> 8 & 255),
                      static_cast<int>(bytes >> 16 & 255), static_cast<int>(bytes >> 24)};
  return __builtin_convertvector(v, Four);
#endif
}

}  // namespace

/// The channels of a texel of the page as they are stored; those that it has not are 0 or another's.
inline Four QuadShader::texel(int x, int y) const {
  const std::uint8_t* at = page_.row(y) + static_cast<std::size_t>(x) * texel_bytes_;
  if (!wide_) {
    std::uint32_t bytes = *at;
    if (channels_ == 4) {
      std::memcpy(&bytes, at, 4);
    } else if (channels_ == 3) {
      bytes |= static_cast<std::uint32_t>(at[1]) << 8U | static_cast<std::uint32_t>(at[2]) << 16U;
    }
    return to_floats(bytes);
  }
  std::uint16_t v[4] = {};
  std::memcpy(v, at, channels_ * 2);
  return Four{static_cast<float>(v[0]), static_cast<float>(v[1]), static_cast<float>(v[2]),
              static_cast<float>(v[3])};
}

/// As a layer takes it: nothing outside the cell, colors as premultiplied light.
Four QuadShader::tap(int x, int y) const {
  if (x < left_ || y < top_ || x >= right_ || y >= bottom_) return Four{};
  if (kind_ != TexelKind::color) return texel(x, y);
  const std::uint8_t* p = page_.row(y) + static_cast<std::size_t>(x) * 4;
  const auto alpha = static_cast<float>(p[3]);  // as other channels it is divided by 255 later
  return Four{light_of(p[0]) * alpha, light_of(p[1]) * alpha, light_of(p[2]) * alpha, alpha};
}

/// Mixed between the four texels around a point, 0..1.
inline Four QuadShader::sample(Texel at) const {
  if (kind_ == TexelKind::bar) return all(bar_reading(at));
  if (what_.panel) return all(0.5F + distance_to(*what_.panel, {at.x, at.y}) / (2 * layer_.reach));
  if (what_.pixelated)
    return tap(static_cast<int>(std::floor(at.x)), static_cast<int>(std::floor(at.y))) * scale_;
  const float px = at.x - 0.5F, py = at.y - 0.5F, left = std::floor(px), top = std::floor(py);
  const int x = static_cast<int>(left), y = static_cast<int>(top);
  const float fx = px - left, fy = py - top;
  Four a, b, c, d;
  if (kind_ != TexelKind::color && x >= left_ && y >= top_ && x + 1 < right_ && y + 1 < bottom_) {
    a = texel(x, y), b = texel(x + 1, y), c = texel(x, y + 1), d = texel(x + 1, y + 1);
  } else {
    a = tap(x, y), b = tap(x + 1, y), c = tap(x, y + 1), d = tap(x + 1, y + 1);
  }
  const Four upper = a + (b - a) * fx, lower = c + (d - c) * fx;
  return (upper + (lower - upper) * fy) * scale_;
}

/// The letter's own edge: the median where there are three channels.
inline float QuadShader::edge_of(Four v) const {
  return kind_ == TexelKind::distance ? v[0] : median(v);  // of what is worked out all channels are one
}

/// The one that effects follow: the true distance where there is one, unless corners are to stay.
inline float QuadShader::grown_edge_of(Four v) const {
  if (kind_ != TexelKind::channels_with_distance) return edge_of(v);
  return round_ ? v[3] : std::min(edge_of(v), v[3] + farther_);
}

inline float QuadShader::soft_edge(float distance, float half) const {
  const float t = std::clamp(0.5F + distance / (2 * half), 0.0F, 1.0F);
  return layer_.blur > 0 ? t * t * (3 - 2 * t) : t;
}

/// How much of a pixel lies within the layer's edge, and within the inner one of its band.
inline Texel QuadShader::edges_of(Four v, float pixel) const {
  const float reading = plain_ ? edge_of(v) : grown_edge_of(v),
              distance = (reading - 0.5F) * 2 * layer_.reach;
  const float half = std::min(pixel / 2, room_) + layer_.blur;
  if (layer_.cut == kInsetCut) return {soft_edge(distance - layer_.grow, half), 0};
  const float outer = soft_edge(distance + layer_.grow, half);
  if (layer_.line <= 0) return {outer, 0};
  const float inner = (grown_edge_of(v) - 0.5F) * 2 * layer_.reach + layer_.grow - layer_.line;
  return {outer, soft_edge(inner, half)};
}

/// The formula of `layer_strength` in texels.
inline float QuadShader::strength_of(Four v, float pixel) const {
  const Texel edges = edges_of(v, pixel);
  return layer_.cut == kInsetCut ? 1 - edges.x : std::max(edges.x - edges.y, 0.0F);
}

/// How much of the pixel is the letter itself.
float QuadShader::own_share(Texel at, float pixel) const {
  const float own = (edge_of(sample(at)) - 0.5F) * 2 * layer_.reach;
  return std::clamp(0.5F + own / pixel, 0.0F, 1.0F);
}

/// Of all that a drawn out letter comes by, what lies farthest inside it: on the part of the way that the
/// cell is on, in steps as long as nothing is near.
Four QuadShader::swept_sample(Texel at, float pixel) const {
  constexpr int kMaxSteps = 96;
  float begin = 0, end = 1;
  const auto cut = [&](float v, float by, int low, int high) {
    if (by == 0) return;
    const float a = (v - static_cast<float>(high) - 1) / by, b = (v - static_cast<float>(low) + 1) / by;
    begin = std::max(begin, std::min(a, b)), end = std::min(end, std::max(a, b));
  };
  cut(at.x, layer_.sweep_x, left_, right_), cut(at.y, layer_.sweep_y, top_, bottom_);
  Four most = {};
  if (begin > end) return most;
  const float whole = std::sqrt(layer_.sweep_x * layer_.sweep_x + layer_.sweep_y * layer_.sweep_y),
              length = whole * (end - begin);
  const float shortest = std::max({0.75F, pixel * 0.75F, length / kMaxSteps});
  float gone = 0;
  for (int step = 0; step <= kMaxSteps; ++step) {
    const float part = begin + gone / whole;
    const Four v = sample({at.x - layer_.sweep_x * part, at.y - layer_.sweep_y * part});
    const float reading = kind_ == TexelKind::coverage ? v[0] : grown_edge_of(v);
    most = all(std::max(most[0], reading));
    if (gone >= length || reading >= 1) break;
    const float free =
        kind_ == TexelKind::coverage ? 0.0F : (0.5F - reading) * 2 * layer_.reach - layer_.reach / 2;
    gone = std::min(gone + std::max(free, shortest), length);
  }
  return most;
}

inline float QuadShader::strength_at(Texel at, const Footprint& footprint) const {
  const float pixel = footprint.pixel;
  if (kind_ == TexelKind::bar && pixel > Footprint::kSampleWidth && !has_sweep_)
    return wide_bar_at(at, footprint);
  if (layer_.cut == kInsetCut) {
    const float own = own_share(at, pixel);
    return own > 0 ? own * strength_of(sample({at.x - layer_.shift_x, at.y - layer_.shift_y}), pixel) : 0;
  }
  const Four v = has_sweep_ ? swept_sample(at, pixel) : sample(at);
  float strength = kind_ == TexelKind::coverage ? v[0] : strength_of(v, pixel);
  if (layer_.cut == kHollowCut && strength > 0) {
    strength *= 1 - own_share({at.x + layer_.shift_x, at.y + layer_.shift_y}, pixel);
  }
  return strength;
}

/// The same for four pixels at once, by channels.
inline Four QuadShader::strengths_of(const Four (&v)[4], float pixel) const {
  const Four middle = larger(smaller(v[0], v[1]), smaller(larger(v[0], v[1]), v[2]));
  const bool has_both = kind_ == TexelKind::channels_with_distance && !plain_;
  const Four reading = kind_ == TexelKind::distance ? v[0]
                       : has_both && round_         ? v[3]
                       : has_both                   ? smaller(middle, v[3] + farther_)
                                                    : middle,
             distance = (reading - 0.5F) * 2 * layer_.reach;
  const float half = std::min(pixel / 2, room_) + layer_.blur;
  const Four t = smaller(larger(0.5F + (distance + layer_.grow) / (2 * half), Four{}), all(1));
  return layer_.blur > 0 ? t * t * (3 - 2 * t) : t;
}

/// All texels of the cell, and one beside it on either side, mixed between the rows around a height.
void QuadShader::mix_rows(float y) {
  const float above = std::floor(y - 0.5F), fraction = y - 0.5F - above;
  const int top = static_cast<int>(above), width = right_ - left_;
  row_.assign(static_cast<std::size_t>(width) + 2, Four{});
  const bool upper = top >= top_ && top < bottom_, lower = top + 1 >= top_ && top + 1 < bottom_;
  for (int x = 0; x < width; ++x) {
    const Four a = upper ? texel(left_ + x, top) : Four{}, b = lower ? texel(left_ + x, top + 1) : Four{};
    row_[static_cast<std::size_t>(x) + 1] = (a + (b - a) * fraction) * scale_;
  }
}

void QuadShader::shade_row(Texel at, const Footprint& footprint, std::span<float> out) {
  std::fill(out.begin(), out.end(), 0.0F);
  const int across = footprint.across, down = footprint.down;
  const float share = 1.0F / static_cast<float>(across * down),
              last = static_cast<float>(right_ - left_) + 0.999F;
  for (int j = 0; j < down; ++j) {
    mix_rows(at.y + ((static_cast<float>(j) + 0.5F) / static_cast<float>(down) - 0.5F) * footprint.dy.y);
    for (std::size_t k = 0; k < out.size(); k += 4) {
      Four sum = {};
      for (int i = 0; i < across; ++i) {
        const float step =
            (static_cast<float>(i) + 0.5F) / static_cast<float>(across) - 0.5F + static_cast<float>(k);
        // The first of the row stands a texel left of the cell.
        const float first = at.x + step * footprint.dx.x - static_cast<float>(left_) + 0.5F;
        const Four x = smaller(larger(first + kPixels * footprint.dx.x, Four{}), all(last));
        const FourInts whole = __builtin_convertvector(x, FourInts);
        const Four between = x - __builtin_convertvector(whole, Four);
        Four v[4];
        for (int p = 0; p < 4; ++p) {
          const Four a = row_[static_cast<std::size_t>(whole[p])];
          v[p] = a + (row_[static_cast<std::size_t>(whole[p]) + 1] - a) * between[p];
        }
        transpose(v);
        sum += kind_ == TexelKind::coverage ? v[0] : strengths_of(v, footprint.pixel);
      }
      for (std::size_t p = 0; p < std::min<std::size_t>(4, out.size() - k); ++p)
        out[k + p] += sum[static_cast<int>(p)] * share;
    }
  }
}

/// Whether all samples of a pixel lie on one side of the layer's edge, clear of where it fades.
bool QuadShader::is_far(Texel at, const Footprint& footprint) const {
  const Four v = sample(at);
  const float reading = plain_ ? edge_of(v) : grown_edge_of(v);
  const float distance = (reading - 0.5F) * 2 * layer_.reach + layer_.grow;
  const float fades = footprint.pixel / 2 + layer_.blur;
  const Texel half = footprint.half();
  return std::abs(distance) > fades + 2 * std::max(half.x, half.y);
}

float QuadShader::margin(const Footprint& footprint) const {
  if (kind_ == TexelKind::coverage || kind_ == TexelKind::color) return 0;
  // A cell holds the outline's box grown by the reach: as far inside as paint does not grow there is none. A
  // texel is left for rounding and for channels that are not the distance.
  const Texel half = footprint.half();
  const float spread = footprint.pixel / 2 + std::max(half.x, half.y);
  const float outward =
      layer_.cut == kInsetCut ? 0.0F : layer_.grow * (round_ ? 1.0F : kSharpReach) + layer_.blur;
  return std::max(0.0F, layer_.reach - outward - spread - 1);
}

Shade QuadShader::shade(Texel at, const Footprint& footprint, float across, float down) const {
  const float share = 1.0F / static_cast<float>(footprint.across * footprint.down);
  Four color = {};
  float strength = 0;
  const bool is_distance = kind_ != TexelKind::coverage && kind_ != TexelKind::color;
  bool done = false;
  if (is_distance) {
    // Where an edge lies farther from the pixel than its samples reach, one sample tells of all.
    strength = strength_at(at, footprint);
    const bool is_simple = layer_.cut == kNoCut && layer_.line == 0 && !has_sweep_ && has_page(kind_);
    done = footprint.is_one_sample() || (is_simple && is_far(at, footprint));
  }
  if (!done) strength = 0;
  for (int j = 0; j < footprint.down && !done; ++j) {
    for (int i = 0; i < footprint.across; ++i) {
      const float a = (static_cast<float>(i) + 0.5F) / static_cast<float>(footprint.across) - 0.5F,
                  b = (static_cast<float>(j) + 0.5F) / static_cast<float>(footprint.down) - 0.5F;
      const Texel p{at.x + a * footprint.dx.x + b * footprint.dy.x,
                    at.y + a * footprint.dx.y + b * footprint.dy.y};
      if (kind_ == TexelKind::coverage) {
        strength += (has_sweep_ ? swept_sample(p, footprint.pixel) : sample(p))[0] * share;
      } else if (kind_ == TexelKind::color) {
        color += sample(p) * share;
      } else {
        strength += strength_at(p, footprint) * share;
      }
    }
  }
  return with_sum(kind_ == TexelKind::color ? color : all(strength), footprint, across, down);
}

Parts QuadShader::parts_at(Texel at, const Footprint& footprint) const {
  const float pixel = footprint.pixel;
  if (!has_edge_)
    return parts_of((has_sweep_ ? swept_sample(at, pixel) : sample(at))[kind_ == TexelKind::color ? 3 : 0]);
  if (kind_ == TexelKind::bar && pixel > Footprint::kSampleWidth && !has_sweep_)
    return parts_of(wide_bar_at(at, footprint));
  if (layer_.cut == kInsetCut) {
    return Parts{edges_of(sample({at.x - layer_.shift_x, at.y - layer_.shift_y}), pixel).x, 0,
                 own_share(at, pixel), 0};
  }
  const Texel edges = edges_of(has_sweep_ ? swept_sample(at, pixel) : sample(at), pixel);
  const bool is_hollow = layer_.cut == kHollowCut;
  const float own = is_hollow ? own_share({at.x + layer_.shift_x, at.y + layer_.shift_y}, pixel) : 0.0F;
  return Parts{edges.x, edges.y, own, 0};
}

Parts QuadShader::parts(Texel at, const Footprint& footprint) const {
  Parts sum = {};
  for (int j = 0; j < footprint.down; ++j) {
    for (int i = 0; i < footprint.across; ++i) {
      const float a = (static_cast<float>(i) + 0.5F) / static_cast<float>(footprint.across) - 0.5F,
                  b = (static_cast<float>(j) + 0.5F) / static_cast<float>(footprint.down) - 0.5F;
      sum += parts_at(
          {at.x + a * footprint.dx.x + b * footprint.dy.x, at.y + a * footprint.dx.y + b * footprint.dy.y},
          footprint);
    }
  }
  return sum / static_cast<float>(footprint.across * footprint.down);
}

float QuadShader::pixels_inside(Texel at, const Footprint& footprint) const {
  if (!takes_light()) return 0;
  const Texel right = footprint.dx, below = footprint.dy;
  const float pixel = std::sqrt(
                  0.5F * (right.x * right.x + right.y * right.y + below.x * below.x + below.y * below.y)),
              inside = (grown_edge_of(sample(at)) - 0.5F) * 2 * layer_.reach + layer_.grow;
  return std::max(inside / std::max(pixel, 1e-6F) + 2, 0.0F);
}

/// How the surface rises is found from the distances a texel to either side, or half a pixel where that is
/// more.
Shade QuadShader::with_light(const Shade& shade, Texel at, const Footprint& footprint, PixelPoint device,
                             const LightVectors& lights) const {
  if (shade.is_light || shade.strength <= 0) return shade;
  const auto length_of = [](Texel t) { return std::sqrt(t.x * t.x + t.y * t.y); };
  const float step = std::max(1.0F, std::max(length_of(footprint.dx), length_of(footprint.dy)) / 2);
  const auto distance = [&](float dx, float dy) {
    return (grown_edge_of(sample({at.x + dx, at.y + dy})) - 0.5F) * 2 * layer_.reach;
  };
  const float gx = (distance(step, 0) - distance(-step, 0)) / (2 * step),
              gy = (distance(0, step) - distance(0, -step)) / (2 * step);
  const float inside = distance(0, 0) + layer_.grow, steep = std::min(std::sqrt(gx * gx + gy * gy), 1.0F);
  PixelPoint rise{gx * footprint.dx.x + gy * footprint.dx.y, gx * footprint.dy.x + gy * footprint.dy.y};
  const float length = std::sqrt(rise.x * rise.x + rise.y * rise.y);
  rise = length > 1e-6F ? PixelPoint{rise.x / length * steep, rise.y / length * steep} : PixelPoint{};
  return lit_shade(shade, inside, rise, at, footprint, device, lights);
}

Shade QuadShader::with_sum(Four color, const Footprint& footprint, float across, float down) const {
  const float strength = color[3];
  if (strength <= 0) return {};
  Shade out = with_strength(strength, footprint, across, down);
  if (kind_ != TexelKind::color || layer_.front <= 0) return out;
  const auto tint = [this](std::size_t c) { return light_of(quad_.tint[c]); };
  return {color[0] * tint(0), color[1] * tint(1), color[2] * tint(2), out.alpha, strength, true};
}

}  // namespace grafema::detail
