// SPDX-License-Identifier: MIT
// Ready-made motions.
#include "grafema/draw/motion.hpp"

#include <fmt/format.h>

#include <array>
#include <cmath>
#include <cstdint>

#include "base/numbers.hpp"
#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

/// A number in -1..1 that depends on its seed alone.
float scattered(std::uint64_t seed) {
  seed = (seed ^ (seed >> 30)) * 0xBF58476D1CE4E5B9U;
  seed = (seed ^ (seed >> 27)) * 0x94D049BB133111EBU;
  return static_cast<float>(static_cast<double>((seed ^ (seed >> 31)) >> 11) / 4503599627370496.0 - 1);
}

}  // namespace

Motion sway(float height, double period) {
  return [height, period](const MotionInput& in, GlyphChange& out) {
    constexpr double kDegreesPerLetter = 35;
    const double angle = in.seconds / period * 360 - static_cast<double>(in.index) * kDegreesPerLetter;
    const detail::SineCosine wave = detail::sine_cosine(angle);
    out.offset.y += static_cast<float>(wave.sine) * height * in.size;
    out.rotate += static_cast<float>(wave.cosine) * 4;
  };
}

Motion rattle(float reach, double rate) {
  return [reach, rate](const MotionInput& in, GlyphChange& out) {
    const auto step = static_cast<std::uint64_t>(static_cast<std::int64_t>(std::floor(in.seconds * rate)));
    const std::uint64_t seed = step * 0x9E3779B97F4A7C15U + in.index * 0xD1B54A32D192ED03U + 1;
    out.offset.x += scattered(seed) * reach * in.size;
    out.offset.y += scattered(seed + 1) * reach * in.size;
    out.rotate += scattered(seed + 2) * reach * 60;
  };
}

MotionBook::MotionBook() : motions_{{"still", {}}, {"sway", sway()}, {"rattle", rattle()}} {}

void MotionBook::set(std::string_view name, Motion motion) {
  for (Named& named : motions_) {
    if (named.name != name) continue;
    named.motion = std::move(motion);
    return;
  }
  motions_.push_back({std::string(name), std::move(motion)});
}

Result<Motion> MotionBook::read(std::string_view name) const {
  std::vector<std::string_view> names;
  for (const Named& named : motions_) {
    if (named.name == name) return named.motion;
    names.push_back(named.name);
  }
  return fail(make_error(ErrorKind::bad_value, "the name of a motion that is there",
                         fmt::format("'{}'{}", name, suggestion(name, names))));
}

Result<Motion> read_motion(std::string_view name) {
  constexpr std::array<std::string_view, 3> kNames = {"still", "sway", "rattle"};
  if (name == "still") return Motion{};
  if (name == "sway") return sway();
  if (name == "rattle") return rattle();
  return fail(make_error(ErrorKind::bad_value, "still, sway or rattle",
                         fmt::format("'{}'{}", name, suggestion(name, kNames))));
}

}  // namespace grafema
