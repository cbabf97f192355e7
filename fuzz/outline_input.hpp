// SPDX-License-Identifier: MIT
// Outlines made of the bytes that a fuzzer tries.
#pragma once

#include <cstdint>

#include "grafema/outline/contours.hpp"

namespace grafema::fuzz {

/// Coordinates in quarters, so that edges meet and run along each other often.
inline Contours read_outline(const std::uint8_t* data, std::size_t size) {
  Contours c;
  std::size_t at = 0;
  bool open = false;
  const auto point = [&] {
    const FontPoint p{static_cast<float>(data[at] & 63) / 4, static_cast<float>(data[at + 1] & 63) / 4};
    at += 2;
    return p;
  };
  for (int pieces = 0; pieces < 24 && at + 7 <= size; ++pieces) {
    const int what = data[at++] % 8;
    if (what == 0 || !open) {
      if (open) c.close();
      c.move_to(point());
      open = true;
    } else if (what < 4) {
      c.line_to(point());
    } else if (what < 6) {
      const FontPoint a = point();
      c.quadratic_curve_to(a, point());
    } else {
      const FontPoint a = point(), b = point();
      c.curve_to(a, b, point());
    }
  }
  if (open) c.close();
  return c;
}

}  // namespace grafema::fuzz
