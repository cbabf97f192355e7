// SPDX-License-Identifier: MIT
// Pictures one after the other in one PNG file.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "grafema/base/image.hpp"
#include "grafema/files/files.hpp"

namespace grafema {

/// An animated PNG (Portable Network Graphics, third edition, acTL, fcTL and fdAT): frames of one size and
/// format, `frames_per_second` above 0 and at most 600, over and over; what knows still pictures alone shows
/// the first. Fails with `bad_value`.
GRAFEMA_API Result<std::vector<std::byte>> make_animated_png(std::span<const Image> frames,
                                                             double frames_per_second);
GRAFEMA_API FileResult<void> save_animated_png(const std::string& path, std::span<const Image> frames,
                                               double frames_per_second);

}  // namespace grafema
