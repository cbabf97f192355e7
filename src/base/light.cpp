// SPDX-License-Identifier: MIT
// The light of every sRGB byte.
#include "base/light.hpp"

#include <array>

#include "grafema/base/color.hpp"

namespace grafema::detail {

float light_of(std::uint8_t srgb) {
  static const std::array<float, 256> table = [] {
    std::array<float, 256> made = {};
    for (std::size_t i = 0; i < 256; ++i) made[i] = to_linear(static_cast<float>(i) / 255.0F);
    return made;
  }();
  return table[srgb];
}

}  // namespace grafema::detail
