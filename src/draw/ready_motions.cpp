// SPDX-License-Identifier: MIT
// Ready-made motions as terms, and motions by name.
#include "grafema/draw/ready_motions.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

constexpr float kPhase = 35.0F / 360;  // of a period: by which a letter is behind the one before it

Motion made(std::vector<MotionTerm> terms) {
  Result<Motion> motion = make_motion(std::move(terms));
  return motion ? *std::move(motion) : Motion();
}

MotionTerm term(MotionKind kind, MotionEasing easing, float amplitude, double period, float phase = kPhase) {
  MotionTerm out;
  out.kind = kind, out.easing = easing, out.amplitude = amplitude;
  out.period = static_cast<float>(period), out.phase = phase;
  return out;
}

}  // namespace

Motion sway(float height, double period) {
  MotionTerm tilt = term(MotionKind::rotate, MotionEasing::wave, 4, period);
  tilt.lead = 0.25F;
  return made({term(MotionKind::offset_y, MotionEasing::wave, height, period), tilt});
}

Motion rattle(float reach, double rate) {
  MotionTerm x = term(MotionKind::offset_x, MotionEasing::noise, reach, 1 / rate, 0), y = x, turn = x;
  y.kind = MotionKind::offset_y, y.seed = 1;
  turn.kind = MotionKind::rotate, turn.seed = 2, turn.amplitude = reach * 60;
  return made({x, y, turn});
}

Motion hop(float height, double period) {
  // It is a little longer in the air.
  MotionTerm high = term(MotionKind::scale_y, MotionEasing::hop, 0.18F, period);
  high.pivot = MotionPivot::baseline;
  return made({high, term(MotionKind::offset_y, MotionEasing::hop, -height, period)});
}

Motion swell(float growth, double period) {
  return made({term(MotionKind::scale, MotionEasing::wave, growth, period)});
}

Motion lantern(float degrees, double period) {
  MotionTerm swing = term(MotionKind::rotate, MotionEasing::wave, degrees, period, 0.06F);
  swing.pivot = MotionPivot::above;
  return made({swing});
}

Motion stairs(float height, double period) {
  return made({term(MotionKind::offset_y, MotionEasing::steps, -height, period, 0.25F)});
}

Motion shimmer(const Color& dim, double period) {
  MotionTerm gleam = term(MotionKind::color, MotionEasing::dip, 1, period, 0.06F);
  gleam.color = dim;
  return made({gleam});
}

Motion scatter(float reach, double seconds) {
  MotionTerm x = term(MotionKind::offset_x, MotionEasing::gather, reach, seconds, 0.15F), y = x, turn = x;
  y.kind = MotionKind::offset_y, y.seed = 1;
  turn.kind = MotionKind::rotate, turn.seed = 2, turn.amplitude = 140;
  return made({turn, x, y, term(MotionKind::opacity, MotionEasing::arrive, 1, seconds * 0.5, 0.3F)});
}

Motion stretch(float by, double period) {
  MotionTerm high = term(MotionKind::scale_y, MotionEasing::wave, by, period), wide = high;
  wide.kind = MotionKind::scale_x, wide.amplitude = -by / 2;
  high.pivot = wide.pivot = MotionPivot::baseline;
  return made({high, wide});
}

Motion fade(double seconds) {
  return made({term(MotionKind::opacity, MotionEasing::arrive, 1, seconds, 0.3F)});
}

Motion spin(double period) { return made({term(MotionKind::rotate, MotionEasing::turn, 360, period, 0)}); }

Motion as_whole(const Motion& motion) {
  std::vector<MotionTerm> terms(motion.terms().begin(), motion.terms().end());
  for (MotionTerm& t : terms) t.whole = true, t.phase = 0, t.pivot = MotionPivot::label;
  return motion.function() ? motion : made(std::move(terms));
}

Result<Motion> composed(std::span<const Motion> motions) {
  std::vector<MotionTerm> terms;
  for (const Motion& motion : motions) {
    if (motion.function()) return bad_value("motions made of terms");
    terms.insert(terms.end(), motion.terms().begin(), motion.terms().end());
  }
  return make_motion(std::move(terms));
}

Result<Motion> keyed(std::span<const MotionKey> keys) {
  std::vector<MotionTerm> terms;
  double begin = 0;
  for (const MotionKey& key : keys) {
    if (key.motion.function()) return bad_value("motions made of terms");
    if (!(key.seconds > 0) || !std::isfinite(key.seconds)) return bad_value("keys of more than 0 seconds");
    const double end = begin + key.seconds;
    for (MotionTerm t : key.motion.terms()) {
      t.stop = static_cast<float>(std::min(begin + t.stop, end));
      t.start = static_cast<float>(begin + t.start);
      t.waits = t.waits || begin > 0;
      terms.push_back(t);
    }
    begin = end;
  }
  return make_motion(std::move(terms));
}

double tally(double from, double to, double seconds, double duration) {
  if (!(seconds < duration)) return to;
  if (!(seconds > 0)) return from;
  const double left = 1 - seconds / duration;
  return from + (to - from) * (1 - left * left * left);
}

namespace {

struct ReadyMotion {
  std::string_view name;
  Motion (*make)();
};

constexpr std::array<ReadyMotion, 12> kReadyMotions = {{{"still", [] { return Motion(); }},
                                                        {"sway", [] { return sway(); }},
                                                        {"rattle", [] { return rattle(); }},
                                                        {"hop", [] { return hop(); }},
                                                        {"swell", [] { return swell(); }},
                                                        {"lantern", [] { return lantern(); }},
                                                        {"stairs", [] { return stairs(); }},
                                                        {"shimmer", [] { return shimmer(); }},
                                                        {"scatter", [] { return scatter(); }},
                                                        {"stretch", [] { return stretch(); }},
                                                        {"fade", [] { return fade(); }},
                                                        {"spin", [] { return spin(); }}}};

constexpr std::array<std::string_view, kReadyMotions.size()> kMotionNames = [] {
  std::array<std::string_view, kReadyMotions.size()> names;
  for (std::size_t i = 0; i < kReadyMotions.size(); ++i) names[i] = kReadyMotions[i].name;
  return names;
}();

std::string_view trimmed(std::string_view text) {
  while (text.starts_with(' ')) text.remove_prefix(1);
  while (text.ends_with(' ')) text.remove_suffix(1);
  return text;
}

/// Parts joined by `+`, each with or without `whole`; `find` gives the motion of a name.
template <class Find>
Result<Motion> read_parts(std::string_view text, Find find) {
  constexpr std::string_view kWhole = "whole ";
  std::vector<Motion> parts;
  while (true) {
    const std::size_t end = std::min(text.find('+'), text.size());
    std::string_view part = trimmed(text.substr(0, end));
    const bool whole = part.starts_with(kWhole);
    if (whole) part = trimmed(part.substr(kWhole.size()));
    Result<Motion> found = find(part);
    if (!found) return found;
    parts.push_back(whole ? as_whole(*found) : *std::move(found));
    if (end == text.size()) break;
    text.remove_prefix(end + 1);
  }
  if (parts.size() == 1) return std::move(parts[0]);
  return composed(parts);
}

}  // namespace

std::span<const std::string_view> motion_names() { return kMotionNames; }

Result<Motion> read_motion(std::string_view name) {
  return read_parts(name, [](std::string_view part) -> Result<Motion> {
    for (const ReadyMotion& ready : kReadyMotions) {
      if (ready.name == part) return ready.make();
    }
    return fail(make_error(ErrorKind::bad_value, "the name of a motion: still, sway, hop ...",
                           fmt::format("'{}'{}", part, suggestion(part, kMotionNames))));
  });
}

MotionBook::MotionBook() {
  for (const ReadyMotion& ready : kReadyMotions) motions_.push_back({std::string(ready.name), ready.make()});
}

void MotionBook::set(std::string_view name, Motion motion) {
  for (Named& named : motions_) {
    if (named.name != name) continue;
    named.motion = std::move(motion);
    return;
  }
  motions_.push_back({std::string(name), std::move(motion)});
}

Result<Motion> MotionBook::read(std::string_view name) const {
  return read_parts(name, [this](std::string_view part) -> Result<Motion> {
    std::vector<std::string_view> names;
    for (const Named& named : motions_) {
      if (named.name == part) return named.motion;
      names.push_back(named.name);
    }
    return fail(make_error(ErrorKind::bad_value, "the name of a motion that is there",
                           fmt::format("'{}'{}", part, suggestion(part, names))));
  });
}

}  // namespace grafema
