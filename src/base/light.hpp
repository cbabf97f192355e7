// SPDX-License-Identifier: MIT
// Channels as bytes, and sRGB bytes as light.
#pragma once

#include <cstdint>

#include "grafema/base/image.hpp"

namespace grafema::detail {

/// A channel in 0..1 rounded to a byte; what lies outside is clamped, what is no number is 0.
inline std::uint8_t to_byte(float v) {
  const float clamped = v > 0 ? (v < 1 ? v : 1.0F) : 0.0F;
  return static_cast<std::uint8_t>(clamped * 255.0F + 0.5F);
}

/// The largest value of a channel: 255 or 65535.
constexpr unsigned largest_value(PixelFormat format) { return bits_per_channel(format) == 16 ? 65535 : 255; }

/// Linear light, premultiplied.
struct Light {
  float red = 0, green = 0, blue = 0, alpha = 0;
};

/// `to_linear` of an sRGB byte, from a table.
GRAFEMA_API float light_of(std::uint8_t srgb);

}  // namespace grafema::detail
