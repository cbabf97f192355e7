// SPDX-License-Identifier: MIT
// In which numbers a renderer mixes colors.
#pragma once

#include <cstdint>

namespace grafema {

/// Said for each target, since only who made it knows.
enum class Blending : std::uint8_t {
  linear,  ///< the target decodes sRGB or holds linear light: colors mix as light does
  gamma,   ///< a plain 8-bit target: its numbers are mixed, strengths follow the contrast curve
};

/// The contrast curve of gamma blending. Mixed as plain numbers, light letters look thin and dark ones fat:
/// the strength s of a letter with luma L (of its sRGB color, 0..1) becomes s + kContrast * (2 L - 1) * s *
/// (1 - s), which gives black on white and white on black the weight that they have in linear light.
constexpr float kContrast = 0.9F;

constexpr float contrasted(float strength, float luma) {
  return strength + kContrast * (2 * luma - 1) * strength * (1 - strength);
}

}  // namespace grafema
