// SPDX-License-Identifier: MIT
// Ready-made motions, and motions made of others.
#pragma once

#include <span>

#include "grafema/draw/motion.hpp"

namespace grafema {

// Heights and reaches are ems, periods seconds. Letters follow one another; `as_whole` moves the label as
// one. Numbers that no motion can have (make_motion) give one that changes nothing.

/// Letters rise and fall one after the other like boats.
GRAFEMA_API Motion sway(float height = 0.12F, double period = 1.6);
/// Letters shake at random, `rate` times a second; the same at the same time.
GRAFEMA_API Motion rattle(float reach = 0.05F, double rate = 24);
/// Letters jump one after the other, and wait for the others to come down.
GRAFEMA_API Motion hop(float height = 0.4F, double period = 1.4);
/// Letters grow and shrink as if they breathed: `growth` 0.2 is a fifth.
GRAFEMA_API Motion swell(float growth = 0.18F, double period = 1.8);
/// Letters hang from above and swing.
GRAFEMA_API Motion lantern(float degrees = 10, double period = 2.4);
/// Letters go up three steps, and begin below again.
GRAFEMA_API Motion stairs(float height = 0.3F, double period = 2.4);
/// Letters are dim, and a gleam runs over them. `dim` multiplies the colors of the look.
GRAFEMA_API Motion shimmer(const Color& dim = {0.55F, 0.55F, 0.62F, 1}, double period = 2.2);
/// Letters come in from all over, one after the other, and stay.
GRAFEMA_API Motion scatter(float reach = 1.6F, double seconds = 0.9);
/// Letters stretch and flatten on the baseline: `by` 0.3 is three tenths.
GRAFEMA_API Motion stretch(float by = 0.3F, double period = 1.2);
/// Letters appear one after the other, each in as many seconds.
GRAFEMA_API Motion fade(double seconds = 0.5);
/// Letters turn round and round, all at once.
GRAFEMA_API Motion spin(double period = 2);

/// The label moves as one: no letter is behind another, all shake alike, and turns are about its middle.
GRAFEMA_API Motion as_whole(const Motion& motion);

/// One motion after the other in each glyph. Fails with `bad_value` where they have more than
/// Motion::kMaxTerms terms, or one is a function.
GRAFEMA_API Result<Motion> composed(std::span<const Motion> motions);

/// A motion, and how long it goes on.
struct MotionKey {
  Motion motion = {};
  double seconds = 1;
};
/// One after the other in time: each begins when the one before it ends, and its time with it. What letters
/// leave by (MotionEasing::leave) holds on. Fails as `composed` does, or where a time is not above 0.
GRAFEMA_API Result<Motion> keyed(std::span<const MotionKey> keys);

/// A number that runs up, or down, softly: `from` at 0 and before, `to` after `duration` seconds and later.
GRAFEMA_API double tally(double from, double to, double seconds, double duration = 1.5);

/// A ready-made motion: its name for `read_motion`, and what it does in a few words.
struct MotionFacts {
  std::string_view name = {}, summary = {};
};
/// All ready-made motions; the view lives as long as the program.
GRAFEMA_API std::span<const MotionFacts> ready_motions();
/// The names that `read_motion` knows.
GRAFEMA_API std::span<const std::string_view> motion_names();

}  // namespace grafema
