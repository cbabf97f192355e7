// SPDX-License-Identifier: MIT
// Sets of labels: what the game says is kept, and done when the frame begins; what moves, at once.
#include "grafema/draw/label_set.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cassert>
#include <cmath>
#include <new>

#include "base/light.hpp"
#include "draw/label_map.hpp"
#include "draw/set/set_state.hpp"

namespace grafema {

// --- The set.

LabelSet::LabelSet(TextContext& context) : state_(std::make_unique<State>()) {
  State& s = *state_;
  (void)s.find_context(context);
  s.motion_ranges.clear(1);  // 0 is no motion
  s.tables.motions.resize(1);
  s.box_ranges.clear(1);  // 0: a label has none
  s.tables.boxes.resize(1);
  s.tables.clips.resize(1);
  s.memory.changes_ = &s.tables;
  s.memory.life_ = s.life;
  s.plain_style = s.last_style = std::make_shared<const detail::SharedStyle>();
}
LabelSet::~LabelSet() = default;
LabelSet::LabelSet(LabelSet&&) noexcept = default;

SetLabel LabelSet::add(std::string_view text) { return add(*state_->contexts[0].context, text); }

SetLabel LabelSet::add(TextContext& context, std::string_view text) {
  State& s = *state_;
  if (s.label_count >= kMaxLabels) return {};
  const std::uint32_t i = s.add(context, text);
  return i == State::kNoLabel ? SetLabel() : SetLabel(s, i, s.moving[i].generation);
}

std::size_t LabelSet::size() const { return state_->label_count; }

void LabelSet::clear() {
  state_->whole.clear(), state_->unsettled.clear(), state_->restless.clear();
  for (std::uint32_t i = 0; i < state_->still.size(); ++i) {
    if (state_->is_alive(i)) state_->remove(i);
  }
}

namespace {

/// Whether as many bytes can be had in one piece.
bool can_have(std::size_t bytes) {
  void* memory = ::operator new(bytes, std::nothrow);
  ::operator delete(memory);
  return memory != nullptr;
}

}  // namespace

Result<void> LabelSet::reserve(std::size_t labels, std::size_t glyphs) {
  State& s = *state_;
  const std::size_t a_label = sizeof(detail::MovingLabel) + sizeof(detail::StillLabel) + sizeof(LabelRow) +
                              sizeof(LabelHead) + sizeof(State::Drawn),
                    a_glyph = sizeof(GlyphRecord) + sizeof(std::uint32_t);
  const bool is_possible = labels <= kMaxLabels && glyphs <= kMaxGlyphs;
  if (!is_possible || !can_have(labels * a_label + glyphs * a_glyph)) {
    return fail(make_error(ErrorKind::does_not_fit, "fewer labels and glyphs",
                           fmt::format("{} and {}", labels, glyphs)));
  }
  s.moving.reserve(labels), s.still.reserve(labels), s.tables.rows.reserve(labels),
      s.tables.heads.reserve(labels);
  s.drawn.reserve(labels);
  s.tables.glyphs.reserve(glyphs), s.tables.order.reserve(glyphs);
  return {};
}

const SetMemory& LabelSet::memory() const& { return state_->memory; }
const SetWork& LabelSet::work() const { return state_->work; }

Result<void> LabelSet::update(const View& view, double seconds, Notes* notes) {
  if (const Result<void> checked = detail::check_view(view); !checked) return checked;
  if (!std::isfinite(seconds)) return bad_value("a time that is finite");
  State& s = *state_;
  s.notes = notes;
  s.follow_clock(seconds);
  s.drop_dead_contexts();
  for (std::uint8_t c = 0; c < s.contexts.size(); ++c) {
    if (s.contexts[c].context == nullptr) continue;
    s.follow(c);
    s.follow_pages(c);
  }
  s.follow_whole_labels();
  s.follow_view(view);
  s.settle();
  s.move_by_functions();
  s.keep_pages();
  s.write_order();
  if (s.batches_stale) s.find_batches();
  if (s.chunks_stale) s.count_chunks();
  if (s.trim_stale) s.trim_batches();
  s.memory.content_scale = view.content_scale;
  s.publish();
  s.notes = nullptr;
  return {};
}

/// Rows say where contents go, and a label that comes into view may have to be written.
void LabelSet::State::settle() {
  constexpr int kRounds = 3;
  for (int round = 0; round < kRounds && !(contents_todo.empty() && rows_todo.empty()); ++round) {
    write_contents();
    write_rows();
  }
}

void LabelSet::State::follow_clock(double seconds) {
  // Times are floats on the device: a base that is not far away keeps them exact.
  constexpr double kFarInTime = 2048;
  clock = seconds;
  if (std::abs(clock - clock_base) < kFarInTime) return;
  clock_base = std::floor(clock);
  for (std::uint32_t i = 0; i < still.size(); ++i) {
    if (is_alive(i)) touch_row(i);
  }
}

void LabelSet::State::keep_pages() {
  for (detail::SetContext& c : contexts) {
    if (c.context == nullptr) continue;
    GlyphSource& source = c.context->source();
    for (std::size_t p = 0; p < source.pages().size(); ++p) {
      const auto page = static_cast<std::uint16_t>(p);
      if (c.shown[p % 64] > 0) source.keep(std::span(&page, 1));
    }
  }
}

Result<void> LabelSet::set_lighting(const Lighting& lighting) {
  if (const Result<void> checked = check_lighting(lighting); !checked) return checked;
  state_->memory.lighting = lighting;
  return {};
}

// --- Groups and clips.

GroupId LabelSet::add_group(const LabelGroup& group) {
  state_->groups.emplace_back();
  const auto id = static_cast<GroupId>(state_->groups.size() - 1);
  (void)set_group(id, group);
  return id;
}

LabelGroup LabelSet::group(GroupId id) const {
  const auto i = static_cast<std::size_t>(id);
  return i < state_->groups.size() ? state_->groups[i] : LabelGroup{};
}

Result<void> LabelSet::set_group(GroupId id, const LabelGroup& group) {
  State& s = *state_;
  const auto g = static_cast<std::uint32_t>(id);
  if (g >= s.groups.size()) return bad_value("a group of this set");
  const bool good = std::isfinite(group.offset.x) && std::isfinite(group.offset.y) && group.opacity >= 0 &&
                    static_cast<std::size_t>(group.clip) < s.clips.size();
  if (!good) return bad_value("a group of finite numbers and a clip of this set");
  if (s.groups[g] == group) return {};
  if (s.groups[g].order != group.order) s.order_stale = true;
  s.groups[g] = group;
  s.groups[g].opacity = std::min(group.opacity, 1.0F);
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (s.is_alive(i) && s.still[i].group == g) s.find_shown(i);
  }
  return {};
}

namespace {

Result<void> check_clip(const LabelClip& clip) {
  for (const float v : {clip.box.left, clip.box.top, clip.box.right, clip.box.bottom}) {
    if (!std::isfinite(v)) return bad_value("a box of finite numbers");
  }
  if (clip.box.empty()) return bad_value("a box that is not empty");
  return detail::check_placement(clip.placement);
}

}  // namespace

Result<ClipId> LabelSet::add_clip(const LabelClip& clip) {
  State& s = *state_;
  if (const Result<void> checked = check_clip(clip); !checked) return fail(checked.error());
  if (s.clips.size() > 255) return bad_value("at most 255 clips");
  s.clips.push_back(clip);
  s.bounds.emplace_back();
  s.uppers.push_back(s.bounds.back().upper());
  s.tables.clips.resize(s.clips.size());
  s.write_clip(s.clips.size() - 1);
  return static_cast<ClipId>(s.clips.size() - 1);
}

Result<void> LabelSet::set_clip(ClipId id, const LabelClip& clip) {
  State& s = *state_;
  const auto c = static_cast<std::size_t>(id);
  if (c == 0 || c >= s.clips.size()) return bad_value("a clip of this set");
  if (const Result<void> checked = check_clip(clip); !checked) return checked;
  if (s.clips[c] == clip) return {};
  s.clips[c] = clip;
  s.write_clip(c);
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (s.is_alive(i) && s.moving[i].clip == c) s.touch_row(i);
  }
  return {};
}

// --- Labels.

std::uint8_t LabelSet::State::find_context(TextContext& context) {
  for (std::size_t c = 0; c < contexts.size(); ++c) {
    if (contexts[c].context == &context && !contexts[c].life.expired()) return static_cast<std::uint8_t>(c);
  }
  detail::SetContext made;
  made.context = &context;
  made.life = context.life();
  made.scratch = std::make_unique<Label>(context);
  made.revision = context.revision(), made.source = context.source().id();
  made.looks_revision = context.looks().revision();
  contexts.push_back(std::move(made));
  return static_cast<std::uint8_t>(contexts.size() - 1);
}

std::uint32_t LabelSet::State::add(TextContext& context, std::string_view text) {
  constexpr std::size_t kMaxContexts = 8;
  const std::uint8_t of = find_context(context);
  if (of >= kMaxContexts) return kNoLabel;
  std::uint32_t i = static_cast<std::uint32_t>(still.size());
  if (free.empty()) {
    still.emplace_back();
    moving.emplace_back();
    tables.rows.resize(still.size());
    tables.heads.resize(still.size());
  } else {
    i = free.back();
    free.pop_back();
    still[i] = {};
    const std::uint32_t generation = moving[i].generation;
    moving[i] = {};
    moving[i].generation = generation;
  }
  ++moving[i].generation;
  ++label_count;
  still[i].text.assign(text);
  still[i].style = plain_style;
  still[i].context = of;
  still[i].sequence = next_sequence++;
  still[i].contents_stale = still[i].row_stale = false;
  touch_contents(i);
  return i;
}

void LabelSet::State::remove(std::uint32_t i) {
  if (moving[i].seen) set_seen(i, false);
  free_slots(i);
  StillLabel& s = still[i];
  glyph_ranges.give_back(s.first_glyph, s.glyph_room);
  free_motions(i);
  free_boxes(i);
  // Its number is given out again: it must not stand in a list twice then.
  if (whole_of(i) != nullptr) std::erase(whole, i);
  if (s.unsettled) std::erase(unsettled, i);
  if (s.listed_restless) std::erase(restless, i);
  s = {};
  s.contents_stale = s.row_stale = false;
  ++moving[i].generation;
  free.push_back(i);
  --label_count;
}

LabelSet::State::StillLabel::Extra& LabelSet::State::extra(std::uint32_t i) {
  if (!still[i].extra) still[i].extra = std::make_unique<StillLabel::Extra>();
  return *still[i].extra;
}

Label* LabelSet::State::whole_of(std::uint32_t i) const {
  return still[i].extra ? still[i].extra->whole.get() : nullptr;
}

void LabelSet::State::touch_contents(std::uint32_t i) {
  still[i].contents_stale = true;
  touch_pictures(i);
}

void LabelSet::State::touch_pictures(std::uint32_t i) {
  still[i].pictures_stale = true;
  if (still[i].listed_contents) return;
  still[i].listed_contents = true;
  contents_todo.push_back(i);
}

void LabelSet::State::touch_row(std::uint32_t i) {
  still[i].row_stale = true;
  if (still[i].listed_row) return;
  still[i].listed_row = true;
  rows_todo.push_back(i);
}

/// After the label or its group was shown, hidden, cut off or moved.
void LabelSet::State::find_shown(std::uint32_t i) {
  StillLabel& s = still[i];
  const LabelGroup& group = groups[s.group];
  s.shown = s.visible && group.visible;
  const auto clip = static_cast<std::uint8_t>(s.clip != 0 ? s.clip : static_cast<std::uint32_t>(group.clip));
  if ((clip != 0) != (moving[i].clip != 0)) {
    s.features ^= kClips;
    batches_stale = true;
  }
  moving[i].clip = clip;
  if (s.shown && (s.contents_stale || s.pictures_stale)) touch_pictures(i);
  touch_row(i);
}

void LabelSet::State::set_style(std::uint32_t i, const TextStyle& style,
                                std::shared_ptr<const FontStack> fonts) {
  const detail::SharedStyle& now = *still[i].style;
  if (now.text == style && now.fonts == fonts) return;
  if (!(last_style->text == style && last_style->fonts == fonts)) {
    auto made = std::make_shared<detail::SharedStyle>();
    made->text = style, made->fonts = std::move(fonts);
    last_style = std::move(made);
  }
  still[i].style = last_style;
  touch_contents(i);
}

}  // namespace grafema
