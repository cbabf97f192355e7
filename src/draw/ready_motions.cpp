// SPDX-License-Identifier: MIT
// Ready-made motions as terms, and motions by name.
#include "grafema/draw/ready_motions.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <span>
#include <string>

#include "base/numbers.hpp"
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

/// A ready-made motion, and what its numbers are called: the first a length, turn or share, the second
/// seconds.
struct ReadyMotion {
  MotionFacts facts;
  std::string_view amount, time;  ///< empty if the motion has none
  float usual_amount;
  double usual_time;
  Motion (*make)(float amount, double time);
};

constexpr std::array<ReadyMotion, 12> kReadyMotions = {{
    {{"still", "nothing moves"}, "", "", 0, 0, [](float, double) { return Motion(); }},
    {{"sway", "letters rise and fall one after the other"}, "height", "period", 0.12F, 1.6, sway},
    {{"rattle", "letters shake at random"}, "reach", "rate", 0.05F, 24, rattle},
    {{"hop", "letters jump one after the other"}, "height", "period", 0.4F, 1.4, hop},
    {{"swell", "letters grow and shrink"}, "growth", "period", 0.18F, 1.8, swell},
    {{"lantern", "letters hang from above and swing"}, "degrees", "period", 10, 2.4, lantern},
    {{"stairs", "letters go up three steps"}, "height", "period", 0.3F, 2.4, stairs},
    {{"shimmer", "a gleam runs over dim letters"},
     "",
     "period",
     0,
     2.2,
     [](float, double period) {
       return shimmer({0.55F, 0.55F, 0.62F, 1}, period);
     }},
    {{"scatter", "letters come in from all over, and stay"}, "reach", "seconds", 1.6F, 0.9, scatter},
    {{"stretch", "letters stretch and flatten on the baseline"}, "by", "period", 0.3F, 1.2, stretch},
    {{"fade", "letters appear one after the other"},
     "",
     "seconds",
     0,
     0.5,
     [](float, double seconds) { return fade(seconds); }},
    {{"spin", "letters turn round and round"},
     "",
     "period",
     0,
     2,
     [](float, double period) { return spin(period); }},
}};

constexpr std::array<std::string_view, kReadyMotions.size()> kMotionNames = [] {
  std::array<std::string_view, kReadyMotions.size()> names;
  for (std::size_t i = 0; i < kReadyMotions.size(); ++i) names[i] = kReadyMotions[i].facts.name;
  return names;
}();

constexpr std::array<MotionFacts, kReadyMotions.size()> kMotionFacts = [] {
  std::array<MotionFacts, kReadyMotions.size()> facts;
  for (std::size_t i = 0; i < kReadyMotions.size(); ++i) facts[i] = kReadyMotions[i].facts;
  return facts;
}();

std::string_view trimmed(std::string_view text) {
  while (text.starts_with(' ')) text.remove_prefix(1);
  while (text.ends_with(' ')) text.remove_suffix(1);
  return text;
}

/// The motion with the values of `period=1.2, height=0.3`.
Result<Motion> make_ready(const ReadyMotion& ready, std::string_view values) {
  float amount = ready.usual_amount;
  double time = ready.usual_time;
  while (!trimmed(values).empty()) {
    const std::string_view value = trimmed(values.substr(0, values.find(',')));
    values.remove_prefix(std::min(values.find(','), values.size() - 1) + 1);
    const std::string_view name = trimmed(value.substr(0, value.find('=')));
    const std::size_t equals = value.find('=');
    const std::string_view digits = equals == std::string_view::npos ? "" : value.substr(equals + 1);
    const double number =
        detail::find_number(trimmed(digits)).value_or(std::numeric_limits<double>::quiet_NaN());
    const bool is_amount = !name.empty() && name == ready.amount,
               is_time = !name.empty() && name == ready.time;
    if (!std::isfinite(number) || (!is_amount && !is_time)) {
      const std::string known = ready.amount.empty() ? fmt::format("{}=N", ready.time)
                                : ready.time.empty() ? ""
                                                     : fmt::format("{}=N and {}=N", ready.amount, ready.time);
      return bad_value(
          "values that the motion has",
          fmt::format("'{}' of {}, which has {}", value, ready.facts.name, known.empty() ? "none" : known));
    }
    if (is_amount) amount = static_cast<float>(number);
    if (is_time) time = number;
  }
  Motion made = ready.make(amount, time);
  if (made.terms().empty() && ready.facts.name != "still") {
    return bad_value("values that a motion can have", fmt::format("{} in {}", values, ready.facts.name));
  }
  return made;
}

/// Splits `name(values)`; fails where a parenthesis is missing.
Result<void> split_values(std::string_view& name, std::string_view& values) {
  const std::size_t open = name.find('(');
  if (open == std::string_view::npos) return {};
  if (!name.ends_with(')')) return bad_value("a closing parenthesis behind a motion's values", name);
  values = name.substr(open + 1, name.size() - open - 2);
  name = trimmed(name.substr(0, open));
  return {};
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

std::span<const MotionFacts> ready_motions() { return kMotionFacts; }

Result<Motion> read_motion(std::string_view name) {
  return read_parts(name, [](std::string_view part) -> Result<Motion> {
    std::string_view values;
    if (const Result<void> split = split_values(part, values); !split) return fail(split.error());
    for (const ReadyMotion& ready : kReadyMotions) {
      if (ready.facts.name == part) return make_ready(ready, values);
    }
    return fail(make_error(
        ErrorKind::bad_value,
        "still, sway, rattle, hop, swell, lantern, stairs, shimmer, scatter, stretch, fade or spin",
        fmt::format("'{}'{}", part, suggestion(part, kMotionNames))));
  });
}

MotionBook::MotionBook() {
  for (const ReadyMotion& ready : kReadyMotions) {
    motions_.push_back({std::string(ready.facts.name), ready.make(ready.usual_amount, ready.usual_time)});
  }
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
    std::string_view values;
    if (const Result<void> split = split_values(part, values); !split) return fail(split.error());
    for (const ReadyMotion& ready : kReadyMotions) {
      if (!values.empty() && ready.facts.name == part) return make_ready(ready, values);
    }
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
