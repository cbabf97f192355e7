// SPDX-License-Identifier: MIT
// Handles of labels in sets.
#include <algorithm>
#include <cassert>
#include <cmath>

#include "base/light.hpp"
#include "draw/label_map.hpp"
#include "draw/set/set_state.hpp"

namespace grafema {

bool SetLabel::valid() const {
  return set_ != nullptr && index_ < set_->moving.size() && set_->moving[index_].generation == generation_;
}

/// The state of the set, where the label is there.
LabelSet::State* SetLabel::use() const {
  const bool good = valid();
  assert(good && "a label is used that was removed, or never added");
  return good ? set_ : nullptr;
}

void SetLabel::remove() {
  if (LabelSet::State* s = use()) s->remove(index_);
}

namespace {

/// Apart, so that what is done for every label that moves stays short.
__attribute__((noinline)) Result<void> not_finite() { return bad_value("a place of finite numbers"); }

}  // namespace

void LabelSet::State::move(std::uint32_t i, PixelPoint at) {
  MovingLabel& m = moving[i];
  m.at = at;
  if (!m.quick) return touch_row(i);
  const float x = m.rest_x + at.x * unit.x, y = m.rest_y + at.y * unit.y;
  LabelRow& row = tables.rows.change(i, next);
  row.origin[0] = x, row.origin[1] = y;
  const bool seen = m.paints && is_in_bounds(m, x, y);
  if (seen != m.seen) set_seen(i, seen);
}

Result<void> SetLabel::move_to(PixelPoint at) {
  if (!(at.x * 0 + at.y * 0 == 0)) return not_finite();
  if (LabelSet::State* s = use()) s->move(index_, at);
  return {};
}

Result<void> LabelSet::move(std::span<const SetLabel> labels, std::span<const PixelPoint> to) {
  if (labels.size() != to.size()) return bad_value("a place for each label");
  float sum = 0;
  for (const PixelPoint& at : to) sum += at.x * 0 + at.y * 0;
  if (!(sum == 0)) return not_finite();
  State& s = *state_;
  if (labels.empty()) return {};
  // As `move` of one, with all that stays the same at hand.
  const detail::SetRows<LabelRow>::Writer rows(s.tables.rows, s.next);
  detail::MovingLabel* moving = s.moving.data();
  const std::array<float, 4>* uppers = s.uppers.data();
  const PixelPoint unit = s.unit;
  for (std::size_t k = 0; k < labels.size(); ++k) {
    const SetLabel& label = labels[k];
    const std::uint32_t i = label.index_;
    const bool good = label.set_ == &s && moving[i].generation == label.generation_;
    assert(good && "a label is moved that is not in this set");
    if (!good) continue;
    detail::MovingLabel& m = moving[i];
    const PixelPoint at = to[k];
    m.at = at;
    if (!m.quick) {
      s.touch_row(i);
      continue;
    }
    const float x = m.rest_x + at.x * unit.x, y = m.rest_y + at.y * unit.y;
    LabelRow& row = rows[i];
    row.origin[0] = x, row.origin[1] = y;
    const bool seen = m.paints && m.is_within(detail::load(uppers[m.clip].data()), x, y);
    if (seen != m.seen) s.set_seen(i, seen);
  }
  return {};
}

void SetLabel::set_text(std::string_view text) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  if (Label* own = s->whole_of(index_)) {
    own->set_text(text);
  } else if (s->still[index_].text != text) {
    s->still[index_].text.assign(text);
    s->touch_contents(index_);
  }
}

void SetLabel::set_number(double value, const NumberFormat& format) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  NumberText made;
  const std::string_view text = write_number(value, format, made);
  if (s->whole_of(index_) != nullptr || !s->write_number_of(index_, text)) set_text(text);
}

Result<void> SetLabel::set_style(const TextStyle& style) {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  if (const Result<void> checked = check_style(style); !checked) return checked;
  if (Label* own = s->whole_of(index_)) return own->set_style(style);
  s->set_style(index_, style, s->still[index_].style->fonts);
  return {};
}

Result<void> SetLabel::set_size(float size) {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  if (Label* own = s->whole_of(index_)) return own->set_size(size);
  if (s->still[index_].style->text.size == size) return {};
  TextStyle style = s->still[index_].style->text;
  style.size = size;
  return set_style(style);
}

void SetLabel::set_fonts(std::shared_ptr<const FontStack> fonts) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  if (Label* own = s->whole_of(index_)) return own->set_fonts(std::move(fonts));
  s->set_style(index_, s->still[index_].style->text, std::move(fonts));
}

void SetLabel::set_look(LookId look) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  if (Label* own = s->whole_of(index_)) return own->set_look(look);
  if (s->still[index_].look == look) return;
  s->still[index_].look = look;
  s->touch_contents(index_);
}

Label* SetLabel::whole() {
  LabelSet::State* s = use();
  if (s == nullptr) return nullptr;
  auto& own = s->extra(index_).whole;
  if (own) return own.get();
  detail::StillLabel& still = s->still[index_];
  own = std::make_unique<Label>(*s->contexts[still.context].context, still.text);
  (void)own->set_style(still.style->text);
  own->set_fonts(still.style->fonts);
  own->set_look(still.look);
  own->set_motion(still.extra->motion);
  (void)own->set_panel(still.extra->panel);  // it was checked when it was set
  own->set_name(still.extra->name);
  s->whole.push_back(index_);
  s->touch_contents(index_);
  return own.get();
}

Result<void> SetLabel::set_placement(const Placement& p) {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  if (const Result<void> checked = detail::check_placement(p); !checked) return checked;
  detail::StillLabel& still = s->still[index_];
  s->moving[index_].at = p.at;
  still.anchor = p.anchor, still.kind = p.kind, still.pin = p.pin;
  still.rotate = p.rotate, still.scale_x = p.scale_x, still.scale_y = p.scale_y, still.shear = p.shear;
  still.world_per_pixel = p.world_per_pixel, still.keep_inside = p.keep_inside, still.snap = p.snap;
  s->batches_stale = s->batches_stale || still.pixelated != p.pixelated;
  still.pixelated = p.pixelated;
  if (p.world != Matrix4{} || (still.extra && still.extra->world)) s->extra(index_).world = p.world;
  s->touch_row(index_);
  return {};
}

void SetLabel::set_visible(bool visible) {
  LabelSet::State* s = use();
  if (s == nullptr || s->still[index_].visible == visible) return;
  s->still[index_].visible = visible;
  s->find_shown(index_);
}

void SetLabel::set_opacity(float opacity) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  s->still[index_].opacity = opacity >= 0 ? std::min(opacity, 1.0F) : 0.0F;
  s->touch_tint(index_);
}

void SetLabel::set_tint(const Color& tint) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  s->still[index_].tint = {detail::to_byte(tint.red), detail::to_byte(tint.green), detail::to_byte(tint.blue),
                           detail::to_byte(tint.alpha)};
  s->touch_tint(index_);
}

void SetLabel::set_motion(const Motion& motion) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  if (motion.function()) (void)whole();  // it keeps its layout, since its glyphs are placed in every frame
  s->extra(index_).motion = motion;
  if (Label* own = s->whole_of(index_)) own->set_motion(motion);
  s->touch_contents(index_);
}

Result<void> SetLabel::set_path(const OnPath& path) {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  Label* own = whole();  // it keeps its layout, which its glyphs are moved from
  if (Result<void> set = own->set_path(path); !set) return set;
  s->touch_contents(index_);
  return {};
}

Result<void> SetLabel::set_panel(const std::optional<Panel>& panel) {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  if (panel) {
    if (const Result<void> checked = check_panel(*panel); !checked) return checked;
  }
  detail::StillLabel::Extra& extra = s->extra(index_);
  if (extra.panel == panel) return {};
  extra.panel = panel;
  if (Label* own = s->whole_of(index_)) (void)own->set_panel(panel);
  s->touch_contents(index_);
  return {};
}

void SetLabel::begin_motion(double seconds) {
  LabelSet::State* s = use();
  if (s == nullptr || !std::isfinite(seconds)) return;
  s->still[index_].begun = seconds;
  s->touch_row(index_);
}

void SetLabel::set_clip(ClipId clip) {
  LabelSet::State* s = use();
  if (s == nullptr || static_cast<std::size_t>(clip) >= s->clips.size()) return;
  s->still[index_].clip = static_cast<std::uint8_t>(clip);
  s->find_shown(index_);
}

void SetLabel::set_group(GroupId group) {
  LabelSet::State* s = use();
  if (s == nullptr || static_cast<std::size_t>(group) >= s->groups.size()) return;
  s->still[index_].group = static_cast<std::uint32_t>(group);
  s->order_stale = true;
  s->find_shown(index_);
}

void SetLabel::set_order(std::int32_t order) {
  LabelSet::State* s = use();
  if (s == nullptr || s->still[index_].order == order) return;
  s->still[index_].order = order;
  s->order_stale = true;
}

void SetLabel::set_name(std::string_view name) {
  LabelSet::State* s = use();
  if (s == nullptr) return;
  s->extra(index_).name.assign(name);
  if (Label* own = s->whole_of(index_)) own->set_name(name);
}

std::string_view SetLabel::text() const {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  const Label* own = s->whole_of(index_);
  return own != nullptr ? own->text() : std::string_view(s->still[index_].text);
}

Placement SetLabel::placement() const {
  LabelSet::State* s = use();
  return s != nullptr ? s->placement_of(index_) : Placement{};
}

float SetLabel::opacity() const {
  LabelSet::State* s = use();
  return s != nullptr ? s->still[index_].opacity : 0.0F;
}

bool SetLabel::visible() const {
  LabelSet::State* s = use();
  return s != nullptr && s->still[index_].visible;
}

bool SetLabel::seen() const {
  LabelSet::State* s = use();
  return s != nullptr && s->moving[index_].seen;
}

Rect SetLabel::box() const {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  if (s->still[index_].contents_stale) s->measure(index_, s->prepare(index_));
  return s->still[index_].box;
}

float SetLabel::baseline() const {
  (void)box();
  LabelSet::State* s = use();
  return s != nullptr ? s->still[index_].baseline : 0;
}

Rect SetLabel::device_box(const View& view) const {
  LabelSet::State* s = use();
  if (s == nullptr) return {};
  const Rect own = box();
  const auto& extra = s->still[index_].extra;
  const Rect kept = extra ? detail::box_with_panel(own, extra->panel) : own;
  const Result<LabelMap> map = detail::map_kept(own, s->placement_in_group(index_), view, &kept);
  return map ? device_bounds(*map, own, view) : Rect{};
}

bool SetLabel::hit(PixelPoint device, const View& view) const {
  LabelSet::State* s = use();
  if (s == nullptr || !s->still[index_].shown) return false;
  const Rect own = box();
  const auto& extra = s->still[index_].extra;
  const Rect kept = extra ? detail::box_with_panel(own, extra->panel) : own;
  const Result<LabelMap> map = detail::map_kept(own, s->placement_in_group(index_), view, &kept);
  const std::optional<PixelPoint> p = map ? from_device(*map, device, view) : std::nullopt;
  return p && p->x >= own.left && p->x < own.right && p->y >= own.top && p->y < own.bottom;
}

}  // namespace grafema
