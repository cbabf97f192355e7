// SPDX-License-Identifier: MIT
// Terms of motions, worked out for one glyph.
#include "grafema/draw/motion.hpp"

#include <algorithm>
#include <cmath>

#include "base/numbers.hpp"
#include "draw/glyph_move.hpp"

namespace grafema {
namespace {

/// A number in -1..1 that depends on these three alone; whole-number arithmetic, as shaders have it too.
float scattered(std::int32_t step, std::uint32_t index, std::uint32_t seed) {
  std::uint32_t h =
      static_cast<std::uint32_t>(step) * 0x9E3779B9U + index * 0x85EBCA6BU + seed * 0xC2B2AE35U + 1U;
  h = (h ^ (h >> 16U)) * 0x7FEB352DU;
  h = (h ^ (h >> 15U)) * 0x846CA68BU;
  h ^= h >> 16U;
  return static_cast<float>(h >> 8U) / 8388608.0F - 1.0F;
}

float soft(float t) { return t * t * (3 - 2 * t); }

}  // namespace

float detail::sine_of_turns(float turns) {
  float f = turns - std::floor(turns + 0.5F);  // -1/2..1/2
  if (std::abs(f) > 0.25F) f = (f < 0 ? -0.5F : 0.5F) - f;
  const float x = f * 6.2831853F, s = x * x;
  return x * (1 + s * (-1.0F / 6 + s * (1.0F / 120 + s * (-1.0F / 5040 + s / 362880.0F))));
}

namespace {

/// Whether an easing goes on and on, and begins at its start.
bool goes_on(MotionEasing easing) {
  return easing < MotionEasing::arrive || (easing >= MotionEasing::hop && easing <= MotionEasing::turn);
}

}  // namespace

bool detail::is_at_rest(const MotionTerm& term, float seconds) {
  const bool has_begun = seconds >= term.start;
  if (term.easing == MotionEasing::leave) return term.waits && !has_begun;
  return seconds >= term.stop || (!has_begun && (term.waits || goes_on(term.easing)));
}

float detail::motion_value(const MotionTerm& term, std::uint32_t index, float seconds) {
  constexpr float kMax = 1e9F;  // steps are whole numbers
  const float t = std::clamp(
      (seconds - term.start) / term.period + term.lead - term.phase * static_cast<float>(index), -kMax, kMax);
  const float once = std::clamp(t, 0.0F, 1.0F), left = 1 - once;
  const float step = std::floor(t), within = t - step;
  const auto number = static_cast<std::int32_t>(step);
  switch (term.easing) {
    case MotionEasing::wave:
      return sine_of_turns(t);
    case MotionEasing::triangle:
      return within < 0.25F ? 4 * within : within < 0.75F ? 2 - 4 * within : 4 * within - 4;
    case MotionEasing::square:
      return within < 0.5F ? 1.0F : -1.0F;
    case MotionEasing::noise:
      return scattered(number, index, term.seed);
    case MotionEasing::drift: {
      const float from = scattered(number, index, term.seed), to = scattered(number + 1, index, term.seed);
      return from + (to - from) * soft(within);
    }
    case MotionEasing::arrive:
      return 1 - soft(once);
    case MotionEasing::settle:
      return left * left * (1 - 3 * once);
    case MotionEasing::hop:
      return within < 0.5F ? 8 * within * (1 - 2 * within) : 0.0F;
    case MotionEasing::steps:
      return std::floor(within * 4) / 3;
    case MotionEasing::dip:
      return within < 1.0F / 3 ? 1 - soft(1 - std::abs(6 * within - 1)) : 1.0F;
    case MotionEasing::turn:
      return within;
    case MotionEasing::gather:
      return scattered(0, index, term.seed) * (1 - soft(once));
    case MotionEasing::leave:
      break;
  }
  return soft(once);
}

void detail::GlyphMove::turn(PixelPoint pivot, float a, float b, float c, float d) {
  const PixelPoint at = (*this)(pivot);
  const float x = dx - at.x, y = dy - at.y;
  const GlyphMove old = *this;
  xx = a * old.xx + b * old.yx, xy = a * old.xy + b * old.yy;
  yx = c * old.xx + d * old.yx, yy = c * old.xy + d * old.yy;
  dx = a * x + b * y + at.x, dy = c * x + d * y + at.y;
}

void detail::apply(std::span<const MotionTerm> terms, const GlyphAtRest& glyph, float seconds,
                   GlyphMove& move) {
  for (const MotionTerm& term : terms) {
    if (is_at_rest(term, seconds)) continue;
    const float value = term.amplitude * motion_value(term, term.whole ? 0 : glyph.index, seconds);
    const float share =
        std::clamp(term.easing < MotionEasing::arrive ? (term.amplitude + value) / 2 : value, 0.0F, 1.0F);
    const PixelPoint pivot = term.pivot == MotionPivot::middle     ? glyph.middle
                             : term.pivot == MotionPivot::baseline ? glyph.baseline
                             : term.pivot == MotionPivot::above
                                 ? PixelPoint{glyph.baseline.x, glyph.baseline.y - glyph.size}
                                 : glyph.label;
    switch (term.kind) {
      case MotionKind::offset_x:
        move.dx += value * glyph.size;
        break;
      case MotionKind::offset_y:
        move.dy += value * glyph.size;
        break;
      case MotionKind::rotate: {
        const float sine = sine_of_turns(value / 360), cosine = sine_of_turns(value / 360 + 0.25F);
        move.turn(pivot, cosine, -sine, sine, cosine);
        break;
      }
      case MotionKind::scale:
        move.turn(pivot, 1 + value, 0, 0, 1 + value);
        break;
      case MotionKind::scale_x:
        move.turn(pivot, 1 + value, 0, 0, 1);
        break;
      case MotionKind::scale_y:
        move.turn(pivot, 1, 0, 0, 1 + value);
        break;
      case MotionKind::shear: {
        const float angle = std::clamp(value, -80.0F, 80.0F) / 360;
        move.turn(pivot, 1, -sine_of_turns(angle) / sine_of_turns(angle + 0.25F), 0, 1);
        break;
      }
      case MotionKind::color:
        move.tint[0] *= 1 + (term.color.red - 1) * share, move.tint[1] *= 1 + (term.color.green - 1) * share;
        move.tint[2] *= 1 + (term.color.blue - 1) * share, move.tint[3] *= 1 + (term.color.alpha - 1) * share;
        break;
      case MotionKind::opacity:
        move.tint[3] *= 1 - share;
        break;
    }
  }
}

void detail::apply(const GlyphChange& change, const GlyphAtRest& glyph, GlyphMove& move) {
  const detail::SineCosine turn = detail::sine_cosine(std::isfinite(change.rotate) ? change.rotate : 0);
  const auto c = static_cast<float>(turn.cosine) * change.scale,
             s = static_cast<float>(turn.sine) * change.scale;
  move.turn(glyph.middle, c, -s, s, c);
  move.dx += change.offset.x, move.dy += change.offset.y;
  move.tint = {move.tint[0] * change.tint.red, move.tint[1] * change.tint.green,
               move.tint[2] * change.tint.blue, move.tint[3] * change.tint.alpha};
}

float detail::motion_reach(const Motion& motion, float size, float glyph, float diagonal) {
  if (motion.function()) return INFINITY;
  float reach = 0, growth = 1, widest = 0;
  for (const MotionTerm& term : motion.terms()) {
    const float most = std::abs(term.amplitude);
    if (term.kind <= MotionKind::offset_y) {
      reach += most * size;
    } else if (term.kind <= MotionKind::shear) {
      // A point goes no farther than twice its way to the pivot, as often as scales and shears stretch that.
      const bool is_shear = term.kind == MotionKind::shear;
      growth *= term.kind == MotionKind::rotate ? 2 : is_shear ? 1 + std::min(most, 80.0F) / 14 : 1 + most;
      const float near = term.pivot == MotionPivot::above ? 2 * (glyph + size) : 2 * glyph;
      widest = std::max(widest, term.pivot == MotionPivot::label ? diagonal : near);
    }
  }
  return (reach + widest) * growth;
}

Result<Motion> make_motion(std::vector<MotionTerm> terms) {
  const auto fails = [](const char* expected) { return fail(make_error(ErrorKind::bad_value, expected)); };
  if (terms.size() > Motion::kMaxTerms) return fails("a motion of at most 16 terms");
  for (const MotionTerm& term : terms) {
    for (const float v : {term.amplitude, term.period, term.phase, term.lead, term.start, term.color.red,
                          term.color.green, term.color.blue, term.color.alpha}) {
      if (!std::isfinite(v)) return fails("a motion of finite numbers");
    }
    if (!(term.period > 0) || std::isnan(term.stop))
      return fails("a period above 0 and a stop that is a number");
    if (term.seed >= 1U << 24U) return fails("a seed below 2^24");
  }
  Motion motion;
  motion.terms_ = std::move(terms);
  return motion;
}

}  // namespace grafema
