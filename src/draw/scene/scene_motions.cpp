// SPDX-License-Identifier: MIT
// Records of motion: one for each motion that labels share, or one a glyph where a function moves it.
#include <algorithm>
#include <bit>

#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;
namespace {

constexpr std::uint32_t kMaxMotions = 65535;  // what GlyphRecord::motion can say
std::size_t hash_of(std::span<const MotionTerm> terms) {
  std::uint64_t h = terms.size();
  const auto mix = [&h](float v) {
    h = (h ^ std::bit_cast<std::uint32_t>(v)) * 0x9E3779B97F4A7C15U, h ^= h >> 29U;
  };
  for (const MotionTerm& t : terms) {
    for (const float v : {t.amplitude, t.period, t.phase, t.lead, t.start, t.stop}) mix(v);
    mix(static_cast<float>(static_cast<unsigned>(t.kind) * 64U + static_cast<unsigned>(t.easing)));
  }
  return static_cast<std::size_t>(h);
}

constexpr const char* kMotionsFull = "glyphs beyond 65,535 records of motion stand still";

}  // namespace

void SceneState::write_motions(std::uint32_t i, LabelContent& label) {
  const auto count = static_cast<std::uint32_t>(label.quads.size());
  const std::span<GlyphRecord> records = tables.glyphs.change(still[i].first_glyph, count, next);
  for (std::uint32_t q = 0; q < count; ++q) {
    const Motion& motion = label.motion_of(q);
    records[q].motion = motion_number(motion);
    const bool is_left_out = records[q].motion == 0 && !motion.terms().empty() && !motion.function();
    if (is_left_out) note_crowded(label, kMotionsFull);
  }
  move_by_function(i, label);
}

void SceneState::free_motions(std::uint32_t i) {
  StillLabel& s = still[i];
  motion_ranges.give_back(s.first_motion, s.motions);
  s.first_motion = s.motions = 0;
}

std::uint16_t SceneState::motion_number(const Motion& motion) {
  const std::span<const MotionTerm> terms = motion.terms();
  if (terms.empty() || motion.function()) return 0;
  const std::size_t hash = hash_of(terms);
  for (auto [known, end] = known_motions.equal_range(hash); known != end; ++known) {
    const std::vector<MotionTerm>& others = known->second.terms;
    if (std::equal(others.begin(), others.end(), terms.begin(), terms.end())) return known->second.first;
  }
  const auto room = static_cast<std::uint32_t>(terms.size() + 1);
  const std::uint32_t first = motion_ranges.take(room);
  if (first + room > kMaxMotions) {
    motion_ranges.give_back(first, room);
    return 0;
  }
  if (motion_ranges.end() > tables.motions.size()) tables.motions.resize(motion_ranges.end());
  const std::span<MotionRecord> records = tables.motions.change(first, room, next);
  records[0] = {};
  records[0].kind = static_cast<float>(terms.size());
  for (std::size_t t = 0; t < terms.size(); ++t) {
    const MotionTerm& term = terms[t];
    MotionRecord& record = records[t + 1];
    record.kind = static_cast<float>(
        static_cast<unsigned>(term.kind) + static_cast<unsigned>(term.easing) * 16U +
        static_cast<unsigned>(term.pivot) * 256U + (term.whole ? 1024U : 0U) + (term.waits ? 2048U : 0U));
    record.amplitude = term.amplitude, record.period = term.period, record.phase = term.phase;
    record.lead = term.lead, record.start = term.start, record.stop = std::min(term.stop, 1e30F);
    record.seed = static_cast<float>(term.seed);
    record.color = {term.color.red, term.color.green, term.color.blue, term.color.alpha};
  }
  const auto number = static_cast<std::uint16_t>(first);
  known_motions.insert({hash, {{terms.begin(), terms.end()}, number}});
  return number;
}

/// Glyphs that a function moves have a record each, of where they have come to.
void SceneState::move_by_function(std::uint32_t i, LabelContent& label) {
  StillLabel& s = still[i];
  const auto count = static_cast<std::uint32_t>(label.quads.size());
  // A path is a map of each glyph; with a motion before it that is another in every frame.
  const bool has_path = label.on_path.path != nullptr;
  const auto is_moved = [&](std::uint32_t q) {
    return has_path || label.is_turned(q) || label.motion_of(q).function();
  };
  bool is_restless = false;
  for (std::uint32_t q = 0; q < count && !is_restless; ++q) {
    is_restless = label.motion_of(q).function() || ((has_path || label.is_turned(q)) && label.motion_of(q));
  }
  bool any = false;
  for (std::uint32_t q = 0; q < count && !any; ++q) any = is_moved(q);
  if (!any) return;
  if (s.motions < count) {
    free_motions(i);
    s.motions = detail::RangeBook::room_for(count);
    s.first_motion = motion_ranges.take(s.motions);
    if (s.first_motion + s.motions > kMaxMotions) {
      free_motions(i);
      note_crowded(label, kMotionsFull);
      return;
    }
    if (motion_ranges.end() > tables.motions.size()) tables.motions.resize(motion_ranges.end());
  }
  if (is_restless && !s.listed_restless) {
    restless.push_back(i);
    s.listed_restless = true;
  }
  const std::span<GlyphRecord> glyphs = tables.glyphs.change(s.first_glyph, count, next);
  const std::span<MotionRecord> records = tables.motions.change(s.first_motion, count, next);
  for (std::uint32_t q = 0; q < count; ++q) {
    if (!is_moved(q)) continue;
    glyphs[q].motion = static_cast<std::uint16_t>(s.first_motion + q);
    detail::GlyphMove move;
    label.move_glyph(q, clock - s.begun, move);
    records[q] = {-1, move.xx, move.xy, move.dx, move.yx, move.yy, move.dy, 0, move.tint};
  }
}

void SceneState::move_by_functions() {
  std::size_t kept = 0;
  for (const std::uint32_t i : restless) {
    if (!is_alive(i) || still[i].motions == 0) {
      still[i].listed_restless = false;
      continue;
    }
    restless[kept++] = i;
    if (still[i].shown && !still[i].contents_stale) move_by_function(i, prepare(i));
  }
  restless.resize(kept);
}

}  // namespace grafema
