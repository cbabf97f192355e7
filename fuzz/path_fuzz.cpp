// SPDX-License-Identifier: MIT
// Any text as path data of SVG, a fill in CSS notation and the name of a motion: what is read can be used.
#include <cmath>

#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_path.hpp"
#include "grafema/files/svg_path.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  if (size > 1 << 14) return 0;
  const std::string_view text(reinterpret_cast<const char*>(data), size);
  if (const Result<Contours> contours = read_svg_path(text)) {
    if (const TextPath::Made path = TextPath::contours(*contours, {})) {
      fuzz::require((*path)->length() > 0);
      for (const float along : {-1e6F, 0.0F, 0.5F, 1e6F}) {
        const PixelPoint at = (*path)->at((*path)->length() * along);
        fuzz::require(!std::isnan(at.x) && !std::isnan(at.y));
      }
    }
  }
  if (const Result<Fill> fill = read_fill(text)) {
    fuzz::require(check_fill(*fill).has_value());
    for (const Rect& box : {Rect{0, 0, 40, 12}, Rect{}}) {
      const Color color = color_at(*fill, {7, 5}, box);
      fuzz::require(std::isfinite(color.red + color.green + color.blue + color.alpha));
    }
  }
  if (const Result<Motion> motion = read_motion(text)) fuzz::require(motion->terms().size() < 1000);
  return 0;
}
