// SPDX-License-Identifier: MIT
// Blends pixels in linear light, or in sRGB with the contrast that thin letters need there.
#pragma once

#include <algorithm>
#include <array>
#include <vector>

#include "base/light.hpp"
#include "grafema/render/blending.hpp"
#include "render/software/paint_quads.hpp"

namespace grafema::detail {

/// Light as an sRGB byte, rounded as `to_srgb` gives it: by a table of steps far finer than a byte's.
class ByteOfLight {
 public:
  ByteOfLight() : table_(kSteps + 1) {
    for (std::size_t i = 0; i <= kSteps; ++i) table_[i] = to_byte(to_srgb(static_cast<float>(i) / kSteps));
  }
  std::uint8_t operator()(float light) const {
    const float v = light > 0 ? (light < 1 ? light : 1.0F) : 0.0F;
    return table_[static_cast<std::size_t>(v * kSteps + 0.5F)];
  }

 private:
  static constexpr std::size_t kSteps = 1U << 16U;
  std::vector<std::uint8_t> table_;
};

/// Blends pixels of one quad: what all of them have in common is worked out once.
class Blender {
 public:
  Blender(Blending blending, const ByteOfLight& byte_of_light)
      : blending_(blending), byte_of_light_(byte_of_light) {}

  /// Blends a pixel of a intermediate target over one, weakened to a share.
  void blend_over(std::uint8_t* pixel, const std::uint8_t* sheet, float share) const {
    if (sheet[3] == 0) return;
    const float cover = static_cast<float>(sheet[3]) / 255.0F * share;
    for (std::size_t c = 0; c < 3; ++c) {
      pixel[c] =
          blending_ == Blending::linear
              ? byte_of_light_(light_of(sheet[c]) * share + light_of(pixel[c]) * (1 - cover))
              : to_byte((static_cast<float>(sheet[c]) * share + static_cast<float>(pixel[c]) * (1 - cover)) /
                        255.0F);
    }
    pixel[3] = to_byte(cover + static_cast<float>(pixel[3]) / 255.0F * (1 - cover));
  }

  void blend(std::uint8_t* pixel, const Shade& s) {
    if (s.red != red_ || s.green != green_ || s.blue != blue_ || s.is_light) prepare(s);
    const float strength =
                    blending_ == Blending::gamma && !s.is_light ? contrasted(s.strength, luma_) : s.strength,
                cover = s.alpha * strength;
    if (blending_ == Blending::gamma) {
      for (std::size_t c = 0; c < 3; ++c) {
        pixel[c] = to_byte(color_[c] * cover + static_cast<float>(pixel[c]) / 255.0F * (1 - cover));
      }
    } else if (cover >= 1 && !s.is_light) {
      std::copy(opaque_.begin(), opaque_.end(), pixel);
    } else {
      const float by = s.is_light ? s.alpha : cover;
      for (std::size_t c = 0; c < 3; ++c) {
        pixel[c] = byte_of_light_(color_[c] * by + light_of(pixel[c]) * (1 - cover));
      }
    }
    pixel[3] = to_byte(cover + static_cast<float>(pixel[3]) / 255.0F * (1 - cover));
  }

 private:
  /// For Blending::linear colors become light; for gamma a picture's own light becomes its sRGB color, which
  /// has no thin edges to mend.
  void prepare(const Shade& s) {
    red_ = s.red, green_ = s.green, blue_ = s.blue;
    const std::array<float, 3> given = {s.red, s.green, s.blue};
    for (std::size_t c = 0; c < 3; ++c) {
      if (blending_ == Blending::linear) {
        color_[c] = s.is_light ? given[c] : to_linear(given[c]);
        opaque_[c] = byte_of_light_(color_[c]);
      } else {
        color_[c] = !s.is_light ? given[c] : s.strength > 0 ? to_srgb(given[c] / s.strength) : 0;
      }
    }
    luma_ = 0.299F * s.red + 0.587F * s.green + 0.114F * s.blue;
    if (s.is_light) red_ = -1;  // the next pixel's may be another
  }

  Blending blending_;
  const ByteOfLight& byte_of_light_;
  float red_ = -1, green_ = -1, blue_ = -1, luma_ = 0;
  std::array<float, 3> color_ = {};
  std::array<std::uint8_t, 3> opaque_ = {};
};

}  // namespace grafema::detail
