// SPDX-License-Identifier: MIT
// Scenes: what the game says is kept, and done when the frame begins; what moves, at once.
#include "grafema/draw/text_scene.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cassert>
#include <cmath>
#include <new>

#include "base/light.hpp"
#include "draw/label_map.hpp"
#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

// --- The scene.

TextScene::TextScene(TextContext& context) : state_(std::make_unique<SceneState>()) {
  SceneState& s = *state_;
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
TextScene::~TextScene() = default;
TextScene::TextScene(TextScene&&) noexcept = default;

Label TextScene::add(std::string_view text) {
  TextContext* first = state_->contexts[0].context;
  if (first != nullptr && !state_->contexts[0].life.expired()) return add(*first, text);
  state_->note(NoteKind::gone_handle, "add without its context");
  return {};
}

Label TextScene::add(TextContext& context, std::string_view text) {
  SceneState& s = *state_;
  assert(s.thread == std::this_thread::get_id() && "a scene is used on another thread than its own");
  const std::uint32_t i = s.label_count < kMaxLabels ? s.add(context, text) : SceneState::kNoLabel;
  if (i != SceneState::kNoLabel) return Label(s, i, s.moving[i].generation);
  s.pending.add(
      {.kind = NoteKind::crowded_scene, .text = "labels beyond 2^22, and contexts beyond 8, are not added"});
  return {};
}

Label TextScene::add_box(const Rect& box, LookId look) {
  Label label = add();
  if (!label.set_panel(Panel{.look = look, .box = box})) {
    label.remove();
    state_->note(NoteKind::refused_number, "add_box");
    return {};
  }
  return label;
}

std::size_t TextScene::size() const { return state_->label_count; }

void TextScene::clear() {
  SceneState& s = *state_;
  s.followers.clear(), s.unsettled.clear(), s.restless.clear();
  for (std::uint32_t f = 0; f < s.fields.size(); ++f) s.remove_field(f);
  for (std::uint32_t g = 0; g < s.grids.size(); ++g) s.remove_grid(g);
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (s.is_alive(i)) s.remove(i);
  }
}

Label TextScene::label_at(PixelPoint device) const {
  SceneState& s = *state_;
  std::uint32_t found = SceneState::kNoLabel;
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (!s.is_alive(i) || !s.moving[i].seen) continue;
    const bool is_in_front = found == SceneState::kNoLabel || s.is_before(found, i);
    if (is_in_front && s.is_hit(i, device)) found = i;
  }
  return found == SceneState::kNoLabel ? Label() : Label(s, found, s.moving[found].generation);
}

namespace {

/// Whether as many bytes can be had in one piece.
bool can_have(std::size_t bytes) {
  void* memory = ::operator new(bytes, std::nothrow);
  ::operator delete(memory);
  return memory != nullptr;
}

}  // namespace

Result<void> TextScene::reserve(std::size_t labels, std::size_t glyphs) {
  SceneState& s = *state_;
  const std::size_t a_label = sizeof(detail::MovingLabel) + sizeof(detail::StillLabel) + sizeof(LabelRow) +
                              sizeof(LabelHead) + sizeof(SceneState::Drawn),
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

const SceneMemory& TextScene::memory() const& { return state_->memory; }
const SceneWork& TextScene::work() const {
  state_->work.layouts = state_->content_memory.layouts;
  return state_->work;
}

Result<void> TextScene::update(const View& view, double seconds, Notes* notes) {
  if (const Result<void> checked = detail::check_view(view); !checked) return checked;
  if (!std::isfinite(seconds)) return bad_value("a time that is finite");
  SceneState& s = *state_;
  assert(s.thread == std::this_thread::get_id() && "a scene is used on another thread than its own");
  s.notes = notes;
  s.drop_dead_contexts();
  for (const Note& note : s.pending.all()) {
    if (notes != nullptr) notes->add(note);
  }
  s.pending.clear();
  s.follow_clock(seconds);
  s.show_fields();
  for (std::uint8_t c = 0; c < s.contexts.size(); ++c) {
    if (s.contexts[c].context == nullptr) continue;
    s.contexts[c].context->begin_frame();
    s.catch_up(c);
    s.follow_pages(c);
  }
  s.follow_view(view);
  s.settle();
  s.move_by_functions();
  s.keep_pages();
  s.write_order();
  if (s.batches_stale) s.find_batches();
  if (s.chunks_stale) s.count_chunks();
  if (s.trim_stale) s.trim_batches();
  s.publish();
  s.notes = nullptr;
  return {};
}

/// Rows say where contents go, and a label that comes into view may have to be written.
void SceneState::settle() {
  constexpr int kRounds = 3;
  for (int round = 0; round < kRounds; ++round) {
    if (contents_todo.empty() && rows_todo.empty() && grids.todo.empty()) return;
    write_contents();
    lay_out_grids();
    write_rows();
  }
}

void SceneState::follow_clock(double seconds) {
  // Times are floats on the device: a base that is not far away keeps them exact.
  constexpr double kFarInTime = 2048;
  clock = seconds;
  if (std::abs(clock - clock_base) < kFarInTime) return;
  clock_base = std::floor(clock);
  for (std::uint32_t i = 0; i < still.size(); ++i) {
    if (is_alive(i)) touch_row(i);
  }
}

void SceneState::keep_pages() {
  for (detail::SceneContext& c : contexts) {
    if (c.context == nullptr) continue;
    GlyphSource& source = c.context->source();
    for (std::size_t p = 0; p < source.pages().size(); ++p) {
      const auto page = static_cast<std::uint16_t>(p);
      if (c.shown[p % 64] > 0) source.keep(std::span(&page, 1));
    }
  }
}

Result<void> TextScene::set_lighting(const Lighting& lighting) {
  if (const Result<void> checked = check_lighting(lighting); !checked) return checked;
  state_->memory.lighting_ = lighting;
  return {};
}

// --- Labels.

std::uint8_t SceneState::find_context(TextContext& context) {
  for (std::size_t c = 0; c < contexts.size(); ++c) {
    if (contexts[c].context == &context && !contexts[c].life.expired()) return static_cast<std::uint8_t>(c);
  }
  // The place of one that was destroyed is given out again.
  const auto dead = std::find_if(contexts.begin(), contexts.end(),
                                 [](const detail::SceneContext& c) { return c.context == nullptr; });
  if (dead == contexts.end() && contexts.size() >= kMaxContexts) return kNoContext;
  detail::SceneContext made;
  made.context = &context;
  made.life = context.life();
  made.scratch = std::make_unique<LabelContent>(context, content_memory);
  made.revision = context.revision(), made.source = context.source().id();
  made.looks_revision = context.looks().revision();
  made.styles_revision = context.styles().revision(), made.messages_revision = context.messages().revision();
  if (dead != contexts.end()) {
    *dead = std::move(made);
    return static_cast<std::uint8_t>(dead - contexts.begin());
  }
  contexts.push_back(std::move(made));
  return static_cast<std::uint8_t>(contexts.size() - 1);
}

std::uint32_t SceneState::add(TextContext& context, std::string_view text) {
  const std::uint8_t of = find_context(context);
  if (of == kNoContext) return kNoLabel;
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

void SceneState::remove(std::uint32_t i) {
  if (moving[i].seen) set_seen(i, false);
  free_slots(i);
  StillLabel& s = still[i];
  glyph_ranges.give_back(s.first_glyph, s.glyph_room);
  free_motions(i);
  free_boxes(i);
  // Its number is given out again: it must not stand in a list twice then.
  if (s.in_grid) leave_grid(Label(*this, i, moving[i].generation));
  if (s.extra && s.extra->content) std::erase(followers, i);
  if (s.unsettled) std::erase(unsettled, i);
  if (s.listed_restless) std::erase(restless, i);
  s = {};
  s.contents_stale = s.row_stale = false;
  ++moving[i].generation;
  free.push_back(i);
  --label_count;
}

detail::StillLabel::Extra& SceneState::extra(std::uint32_t i) {
  if (!still[i].extra) still[i].extra = std::make_unique<StillLabel::Extra>();
  return *still[i].extra;
}

LabelContent* SceneState::content_of(std::uint32_t i) const {
  return still[i].extra ? still[i].extra->content.get() : nullptr;
}

LabelContent& SceneState::keep_content(std::uint32_t i) {
  std::unique_ptr<LabelContent>& own = extra(i).content;
  if (own) return *own;
  StillLabel& s = still[i];
  own = std::make_unique<LabelContent>(*contexts[s.context].context, content_memory);
  own->text = s.text;
  own->style = s.style->text, own->own_fonts = s.style->fonts;
  own->look = s.look;
  own->set_motion(s.extra->motion);
  own->panel = s.extra->panel;
  own->name = s.extra->name;
  touch_contents(i);
  return *own;
}

void SceneState::follow_label(std::uint32_t i) {
  if (std::find(followers.begin(), followers.end(), i) == followers.end()) followers.push_back(i);
}

TextContext* SceneState::context_of(std::uint32_t i) const {
  const detail::SceneContext& c = contexts[still[i].context];
  return c.life.expired() ? nullptr : c.context;
}

std::string_view SceneState::name_of(std::uint32_t i) const {
  return i != kNoLabel && still[i].extra ? std::string_view(still[i].extra->name) : std::string_view();
}

void SceneState::note(NoteKind kind, const char* call, std::uint32_t label) {
  pending.add({.kind = kind, .label = std::string(name_of(label)), .text = call});
}

void SceneState::touch_contents(std::uint32_t i) {
  still[i].contents_stale = true;
  touch_pictures(i);
}

void SceneState::touch_pictures(std::uint32_t i) {
  still[i].pictures_stale = true;
  if (still[i].listed_contents) return;
  still[i].listed_contents = true;
  contents_todo.push_back(i);
}

void SceneState::touch_row(std::uint32_t i) {
  still[i].row_stale = true;
  if (still[i].listed_row) return;
  still[i].listed_row = true;
  rows_todo.push_back(i);
}

/// After the label or its group was shown, hidden, cut off or moved.
void SceneState::find_shown(std::uint32_t i) {
  StillLabel& s = still[i];
  const LabelGroup& group = groups[s.group];
  s.shown = s.visible && group.visible;
  const auto clip = static_cast<std::uint8_t>(s.clip != 0 ? s.clip : static_cast<std::uint32_t>(group.clip));
  if ((clip != 0) != (moving[i].clip != 0)) {
    s.features = clip != 0 ? s.features | SceneFeature::clips : s.features & ~SceneFeature::clips;
    batches_stale = true;
  }
  moving[i].clip = clip;
  if (s.shown && (s.contents_stale || s.pictures_stale)) touch_pictures(i);
  touch_row(i);
}

void SceneState::set_style(std::uint32_t i, const TextStyle& style, std::shared_ptr<const FontStack> fonts) {
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
