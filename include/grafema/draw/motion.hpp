// SPDX-License-Identifier: MIT
// Letter by letter: what changes each glyph of a label over time.
#pragma once

#include <cstdint>
#include <functional>
#include <limits>
#include <span>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/base/error.hpp"
#include "grafema/base/geometry.hpp"

namespace grafema {

/// What of a glyph a term changes, and what an amplitude of 1 is.
enum class MotionKind : std::uint8_t {
  offset_x,  ///< an em to the right
  offset_y,  ///< an em down
  rotate,    ///< a degree, clockwise
  scale,     ///< twice as large
  scale_x,
  scale_y,
  shear,    ///< a degree by which upright strokes lean to the right
  color,    ///< wholly MotionTerm::color, which multiplies the colors of the look
  opacity,  ///< not seen
};

/// How a term goes on in time, as a number that the amplitude is multiplied with. `t` counts periods: from
/// MotionTerm::start, plus `lead`, minus `phase` for each glyph before.
enum class MotionEasing : std::uint8_t {
  wave,      ///< sin(2 pi t)
  triangle,  ///< the same with straight sides
  square,    ///< 1 in the first half of each period, -1 in the second
  noise,     ///< -1..1, another in each period for each glyph
  drift,     ///< the same, going softly from one to the next
  arrive,    ///< 1 until t is 0, from there softly to 0 at 1: what a glyph comes in with
  settle,    ///< the same, once past 0 and back
  leave,     ///< 0 until t is 0, from there softly to 1, where it stays
  hop,       ///< up to 1 and back as a thing thrown, in the first half of each period; 0 in the second
  steps,     ///< 0, 1/3, 2/3, 1 in the quarters of each period
  dip,       ///< 1, but softly to 0 and back in the first third of each period
  turn,      ///< from 0 to 1 evenly in each period
  gather,    ///< as arrive, times a number of -1..1 of each glyph's own
};

/// What rotations, scales and shears leave where it is.
enum class MotionPivot : std::uint8_t {
  middle,    ///< of the glyph's picture
  baseline,  ///< the point of the baseline below the middle of the glyph's advance
  label,     ///< the middle of the label's box
  above,     ///< an em above the point of `baseline`: what a glyph hangs from
};

/// One part of a motion. `color` and `opacity` take the -1..1 of `wave` to `drift` as 0..1.
struct MotionTerm {
  MotionKind kind = MotionKind::offset_y;
  MotionEasing easing = MotionEasing::wave;
  MotionPivot pivot = MotionPivot::middle;
  float amplitude = 0;
  float period = 1;  ///< seconds, above 0
  float phase = 0;   ///< periods by which a glyph is behind the one before it
  float lead = 0;    ///< periods by which the first glyph is ahead
  float start = 0, stop = std::numeric_limits<float>::infinity();  ///< seconds; outside a term that goes on
                                                                   ///< and on changes nothing
  std::uint32_t seed = 0;                                          ///< of noise and drift, below 2^24
  Color color = {1, 1, 1, 1};
  bool whole = false;  ///< all glyphs as the first
  bool waits = false;  ///< before `start` it changes nothing, whatever its easing
  bool operator==(const MotionTerm&) const = default;
};

/// What a motion is told of a glyph.
struct MotionInput {
  std::size_t index = 0, count = 0;  ///< the glyph's place in the label, and how many there are
  double seconds = 0;                ///< the label's time
  float size = 0;                    ///< pixels per em
};

/// How a glyph is changed, about the middle of its picture.
struct GlyphChange {
  PixelPoint offset = {};  ///< layout pixels, y down
  float rotate = 0;        ///< degrees, clockwise
  float scale = 1;
  Color tint{1, 1, 1, 1};  ///< multiplies every layer's color
};

/// Called for each glyph and frame; must not allocate where the game must not.
using MotionFunction = std::function<void(const MotionInput&, GlyphChange&)>;

/// Terms, applied one after the other, or a function of the game. Terms are worked out by renderers: a label
/// of a TextScene that moves by them costs its thread nothing. With a function every glyph of it is placed
/// anew in each frame.
class GRAFEMA_API Motion {
 public:
  static constexpr std::size_t kMaxTerms = 16;

  Motion() = default;
  template <class F, class = std::enable_if_t<std::is_invocable_v<F&, const MotionInput&, GlyphChange&>>>
  Motion(F function) : function_(std::move(function)) {}  // NOLINT: a lambda is a motion

  std::span<const MotionTerm> terms() const& { return terms_; }
  std::span<const MotionTerm> terms() const&& = delete;
  const MotionFunction& function() const& { return function_; }
  const MotionFunction& function() const&& = delete;
  /// Whether it changes anything.
  explicit operator bool() const { return !terms_.empty() || function_; }

 private:
  friend Result<Motion> make_motion(std::vector<MotionTerm> terms);
  std::vector<MotionTerm> terms_;
  MotionFunction function_;
};

/// Fails with `bad_value` where there are more than kMaxTerms, a number is not finite (but `stop`), or out
/// of its range.
GRAFEMA_API Result<Motion> make_motion(std::vector<MotionTerm> terms);

/// `still` or a ready-made motion (draw/ready_motions.hpp); several joined by `+` are composed, and `whole`
/// before a name moves the label as one. Numbers of ready-made motions are set by name: "whole
/// swell(growth=0.3, period=1.2)+shimmer". Fails with `bad_value`: a name that is not known, with the nearest
/// one; a value that the motion does not have.
GRAFEMA_API Result<Motion> read_motion(std::string_view name);

/// Motions by name, for spans: those of `read_motion` and the game's own.
class GRAFEMA_API MotionBook {
 public:
  MotionBook();
  /// Adds a motion or replaces the one of that name.
  void set(std::string_view name, Motion motion);
  /// As `read_motion` of these.
  Result<Motion> read(std::string_view name) const;

 private:
  struct Named {
    std::string name = {};
    Motion motion = {};
  };
  std::vector<Named> motions_;
};

}  // namespace grafema
