// SPDX-License-Identifier: MIT
// Handles of labels: where they stand, how they are seen, and where they have come to.
#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "draw/label_map.hpp"
#include "draw/scene/scene_state.hpp"
#include "grafema/draw/paint.hpp"

namespace grafema {

using detail::SceneState;

// --- Where it stands, and how it is seen.

void SceneState::set_placement(std::uint32_t i, const Placement& p) {
  StillLabel& s = still[i];
  moving[i].at = p.at;
  s.anchor = p.anchor, s.kind = p.kind, s.pin = p.pin;
  s.rotate = p.rotate, s.scale_x = p.scale_x, s.scale_y = p.scale_y, s.shear = p.shear;
  s.world_per_pixel = p.world_per_pixel, s.keep_inside = p.keep_inside, s.snap = p.snap;
  batches_stale = batches_stale || s.pixelated != p.pixelated;
  s.pixelated = p.pixelated;
  if (p.world != Matrix4{} || (s.extra && s.extra->world)) extra(i).world = p.world;
  touch_row(i);
}

void Label::set_placement(const Placement& p) {
  SceneState* s = use("set_placement");
  if (s == nullptr) return;
  if (!detail::check_placement(p)) return s->note(NoteKind::refused_number, "set_placement", index_);
  if (s->still[index_].in_grid) {
    s->still[index_].extra->own = p;
  } else {
    s->set_placement(index_, p);
  }
}

Placement SceneState::own_placement(std::uint32_t i) const {
  return still[i].in_grid ? *still[i].extra->own : placement_of(i);
}

Placement Label::placement() const {
  SceneState* s = use("placement");
  return s != nullptr ? s->own_placement(index_) : Placement{};
}

namespace {

/// Apart, so that what is done for every label that moves stays short.
__attribute__((noinline)) void move_otherwise(SceneState& s, std::uint32_t i, PixelPoint at) {
  if (!(at.x * 0 + at.y * 0 == 0)) return s.note(NoteKind::refused_number, "move_to", i);
  if (s.still[i].in_grid) {
    s.still[i].extra->own->at = at;
  } else {
    s.move(i, at);
  }
}

__attribute__((noinline)) Result<void> not_finite() { return bad_value("a place of finite numbers"); }

}  // namespace

void SceneState::move(std::uint32_t i, PixelPoint at) {
  MovingLabel& m = moving[i];
  m.at = at;
  if (!m.quick) return touch_row(i);
  const float x = m.rest_x + at.x * unit.x, y = m.rest_y + at.y * unit.y;
  LabelRow& row = tables.rows.change(i, next);
  row.origin[0] = x, row.origin[1] = y;
  const bool seen = m.paints && is_in_bounds(m, x, y);
  if (seen != m.seen) set_seen(i, seen);
}

void Label::move_to(PixelPoint at) {
  SceneState* s = use("move_to");
  if (s == nullptr) return;
  const bool is_plain = s->moving[index_].quick && at.x * 0 + at.y * 0 == 0;
  is_plain ? s->move(index_, at) : move_otherwise(*s, index_, at);
}

Result<void> TextScene::move(std::span<const Label> labels, std::span<const PixelPoint> to) {
  if (labels.size() != to.size()) return bad_value("a place for each label");
  float sum = 0;
  for (const PixelPoint& at : to) sum += at.x * 0 + at.y * 0;
  if (!(sum == 0)) return not_finite();
  detail::SceneState& s = *state_;
  if (labels.empty()) return {};
  // As `move` of one, with all that stays the same at hand.
  const detail::SceneTableOf<LabelRow>::Writer rows(s.tables.rows, s.next);
  detail::MovingLabel* moving = s.moving.data();
  const std::array<float, 4>* uppers = s.uppers.data();
  const PixelPoint unit = s.unit;
  for (std::size_t k = 0; k < labels.size(); ++k) {
    const Label& label = labels[k];
    const std::uint32_t i = label.index_;
    const bool good = label.scene_ == &s && moving[i].generation == label.generation_;
    if (!good) {
      s.note(NoteKind::gone_handle, "move");
      continue;
    }
    detail::MovingLabel& m = moving[i];
    const PixelPoint at = to[k];
    if (!m.quick) {
      move_otherwise(s, i, at);
      continue;
    }
    m.at = at;
    const float x = m.rest_x + at.x * unit.x, y = m.rest_y + at.y * unit.y;
    LabelRow& row = rows[i];
    row.origin[0] = x, row.origin[1] = y;
    const bool seen = m.paints && m.is_within(detail::load(uppers[m.clip].data()), x, y);
    if (seen != m.seen) s.set_seen(i, seen);
  }
  return {};
}

void Label::set_visible(bool visible) {
  SceneState* s = use("set_visible");
  if (s == nullptr || s->still[index_].visible == visible) return;
  s->still[index_].visible = visible;
  s->find_shown(index_);
}

bool Label::visible() const {
  SceneState* s = use("visible");
  return s != nullptr && s->still[index_].visible;
}

void Label::set_opacity(float opacity) {
  SceneState* s = use("set_opacity");
  if (s == nullptr) return;
  if (!(opacity * 0 == 0)) return s->note(NoteKind::refused_number, "set_opacity", index_);
  s->still[index_].opacity = std::clamp(opacity, 0.0F, 1.0F);
  s->touch_tint(index_);
}

float Label::opacity() const {
  SceneState* s = use("opacity");
  return s != nullptr ? s->still[index_].opacity : 0.0F;
}

void Label::set_tint(const Color& tint) {
  SceneState* s = use("set_tint");
  if (s == nullptr) return;
  if (!((tint.red + tint.green + tint.blue + tint.alpha) * 0 == 0))
    return s->note(NoteKind::refused_number, "set_tint", index_);
  s->still[index_].tint = {detail::to_byte(tint.red), detail::to_byte(tint.green), detail::to_byte(tint.blue),
                           detail::to_byte(tint.alpha)};
  s->touch_tint(index_);
}

void Label::set_motion(const Motion& motion) {
  SceneState* s = use("set_motion");
  if (s == nullptr) return;
  // It keeps its layout where its glyphs are placed in every frame.
  if (motion.function()) (void)s->keep_content(index_);
  s->extra(index_).motion = motion;
  if (LabelContent* own = s->content_of(index_)) own->set_motion(motion);
  s->touch_contents(index_);
}

void Label::begin_motion(double seconds) {
  SceneState* s = use("begin_motion");
  if (s == nullptr) return;
  if (!std::isfinite(seconds)) return s->note(NoteKind::refused_number, "begin_motion", index_);
  s->still[index_].begun = seconds;
  s->touch_row(index_);
}

void Label::set_clip(ClipId id) {
  SceneState* s = use("set_clip");
  if (s == nullptr) return;
  const std::optional<std::uint32_t> clip = s->index_of(id);
  if (!clip) return s->note(NoteKind::unknown_name, "clip of set_clip", index_);
  s->still[index_].clip = static_cast<std::uint8_t>(*clip);
  s->find_shown(index_);
}

void Label::set_group(GroupId id) {
  SceneState* s = use("set_group");
  if (s == nullptr) return;
  const std::optional<std::uint32_t> group = s->index_of(id);
  if (!group) return s->note(NoteKind::unknown_name, "group of set_group", index_);
  s->still[index_].group = *group;
  s->order_stale = true;
  s->find_shown(index_);
}

void Label::set_order(std::int32_t order) {
  SceneState* s = use("set_order");
  if (s == nullptr || s->still[index_].order == order) return;
  s->still[index_].order = order;
  s->order_stale = true;
}

// --- Where it has come to.

const Paragraph& Label::paragraph(Notes* notes) const {
  static const Paragraph none;
  SceneState* s = use("paragraph");
  if (s == nullptr || s->context_of(index_) == nullptr) return none;
  (void)s->keep_content(index_);
  const LabelContent& own = s->laid_out(index_);
  for (const Note& note : own.layout_notes) {
    if (notes != nullptr) notes->add(note);
  }
  return own.paragraph;
}

Rect SceneState::box_of(std::uint32_t i) {
  if (context_of(i) == nullptr) return still[i].box;
  catch_up(still[i].context);
  if (still[i].contents_stale) measure(i, laid_out(i));
  return still[i].box;
}

Rect SceneState::box_with_panel(std::uint32_t i) {
  const Rect own = box_of(i);
  return still[i].extra ? detail::box_with_panel(own, still[i].extra->panel) : own;
}

Rect Label::box() const {
  SceneState* s = use("box");
  return s != nullptr ? s->box_of(index_) : Rect{};
}

Rect Label::panel_box() const {
  SceneState* s = use("panel_box");
  return s != nullptr ? s->box_with_panel(index_) : Rect{};
}

float Label::baseline() const {
  SceneState* s = use("baseline");
  if (s == nullptr) return 0;
  (void)s->box_of(index_);
  return s->still[index_].baseline;
}

Rect Label::ink_box() const {
  SceneState* s = use("ink_box");
  if (s == nullptr || s->context_of(index_) == nullptr) return {};
  const LabelContent& content = s->laid_out(index_);
  return grafema::ink_box(content.fonts(), content.paragraph, content.context->looks().get(content.look),
                          [&](std::size_t style) { return content.style_look(style); });
}

Rect Label::letters_box() const {
  SceneState* s = use("letters_box");
  if (s == nullptr || s->context_of(index_) == nullptr) return {};
  const LabelContent& content = s->prepare(index_);
  const double seconds = s->clock - s->still[index_].begun;
  Rect out{INFINITY, INFINITY, -INFINITY, -INFINITY};
  for (const QuadRun& run : content.runs) {
    const float lean = content.variants[run.variant].lean;
    for (std::size_t k = run.first; k < run.first + run.count; ++k) {
      const LocalQuad& q = content.quads[k];
      detail::GlyphMove move;
      content.move_glyph(k, seconds, move);
      for (const float y : {q.y, q.y + q.height}) {
        for (const float x : {q.x, q.x + q.width}) {
          const PixelPoint p = move({x - lean * (y - q.y), y});
          out = {std::min(out.left, p.x), std::min(out.top, p.y), std::max(out.right, p.x),
                 std::max(out.bottom, p.y)};
        }
      }
    }
  }
  if (content.quads.empty()) return {};
  const Rect all = painted_extent(content, content.context->looks()), letters = content.extent;
  return {out.left + all.left - letters.left, out.top + all.top - letters.top,
          out.right + all.right - letters.right, out.bottom + all.bottom - letters.bottom};
}

/// Through the view of the last update; none before it.
std::optional<LabelMap> SceneState::map_of(std::uint32_t i) {
  if (!view || context_of(i) == nullptr) return std::nullopt;
  const Rect own = box_of(i), kept = box_with_panel(i);
  return detail::map_checked(own, placement_in_group(i), *view, *product, &kept);
}

bool SceneState::is_hit(std::uint32_t i, PixelPoint device) {
  if (!still[i].shown) return false;
  const Rect own = box_with_panel(i);
  const std::optional<LabelMap> map = map_of(i);
  const std::optional<PixelPoint> p = map ? from_device(*map, device, *view) : std::nullopt;
  return p && p->x >= own.left && p->x < own.right && p->y >= own.top && p->y < own.bottom;
}

Rect Label::device_box() const {
  SceneState* s = use("device_box");
  const std::optional<LabelMap> map = s != nullptr ? s->map_of(index_) : std::nullopt;
  return map ? device_bounds(*map, s->box_with_panel(index_), *s->view) : Rect{};
}

bool Label::hit(PixelPoint device) const {
  SceneState* s = use("hit");
  return s != nullptr && s->is_hit(index_, device);
}

std::string_view Label::link_at(PixelPoint device) const {
  SceneState* s = use("link_at");
  if (s == nullptr || !s->still[index_].shown || s->content_of(index_) == nullptr) return {};
  const std::optional<LabelMap> map = s->map_of(index_);
  const std::optional<PixelPoint> p = map ? from_device(*map, device, *s->view) : std::nullopt;
  return p ? s->laid_out(index_).link_at(*p) : std::string_view{};
}

bool Label::seen() const {
  SceneState* s = use("seen");
  return s != nullptr && s->moving[index_].seen;
}

void Label::link_boxes(std::string_view link, std::vector<Rect>& out) const {
  out.clear();
  SceneState* s = use("link_boxes");
  if (s == nullptr || s->content_of(index_) == nullptr || s->context_of(index_) == nullptr) return;
  s->laid_out(index_).link_boxes(link, out);
}

}  // namespace grafema
