// SPDX-License-Identifier: MIT
// Letter by letter: what changes each glyph of a label over time.
#pragma once

#include <functional>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"

namespace grafema {

/// What a motion is told of a glyph.
struct MotionInput {
  std::size_t index = 0, count = 0;  ///< the glyph's place in the label, and how many there are
  double seconds = 0;                ///< the label's time
  float size = 0;                    ///< pixels per em
};

/// How a glyph is changed, about the middle of its picture.
struct GlyphChange {
  PixelPoint offset;  ///< layout pixels, y down
  float rotate = 0;   ///< degrees, clockwise
  float scale = 1;
  Color tint{1, 1, 1, 1};  ///< multiplies every layer's color
};

/// Called for each glyph and frame; must not allocate where the game must not.
using Motion = std::function<void(const MotionInput&, GlyphChange&)>;

/// Letters rise and fall one after the other like boats: `height` in ems, a wave each `period` seconds.
GRAFEMA_API Motion sway(float height = 0.12F, double period = 1.6);

/// Letters shake at random by up to `reach` ems, `rate` times a second; the same at the same time.
GRAFEMA_API Motion rattle(float reach = 0.05F, double rate = 24);

/// `sway`, `rattle`, or `still`. Fails with `bad_value` and the nearest name.
GRAFEMA_API Result<Motion> read_motion(std::string_view name);

/// Motions by name, for spans: those of `read_motion` and the game's own.
class GRAFEMA_API MotionBook {
 public:
  MotionBook();
  /// Adds a motion or replaces the one of that name.
  void set(std::string_view name, Motion motion);
  /// Fails with `bad_value` and the nearest name.
  Result<Motion> read(std::string_view name) const;

 private:
  struct Named {
    std::string name;
    Motion motion;
  };
  std::vector<Named> motions_;
};

}  // namespace grafema
