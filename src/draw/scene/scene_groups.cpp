// SPDX-License-Identifier: MIT
// Groups and clips of a scene.
#include <algorithm>
#include <cmath>

#include "draw/label_map.hpp"
#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;

namespace {

bool is_good(const LabelGroup& group) {
  return std::isfinite(group.offset.x) && std::isfinite(group.offset.y) && std::isfinite(group.opacity);
}

}  // namespace

GroupId TextScene::add_group(const LabelGroup& group) {
  SceneState& s = *state_;
  std::uint32_t at = s.groups.take();
  if (!is_good(group) || !s.index_of(group.clip) || at == 0) {
    if (at != 0) s.groups.give_back(at);
    s.note(NoteKind::refused_number, "add_group");
    return {};
  }
  s.groups[at] = group;
  s.groups[at].opacity = std::clamp(group.opacity, 0.0F, 1.0F);
  return static_cast<GroupId>(s.groups.id_of(at));
}

LabelGroup TextScene::group(GroupId id) const {
  const std::optional<std::uint32_t> at = state_->index_of(id);
  return at ? state_->groups[*at] : LabelGroup{};
}

Result<void> TextScene::set_group(GroupId id, const LabelGroup& group) {
  SceneState& s = *state_;
  const std::optional<std::uint32_t> g = s.index_of(id);
  if (!g) return bad_value("a group of this scene");
  if (!is_good(group) || !s.index_of(group.clip))
    return bad_value("a group of finite numbers and a clip of this scene");
  if (s.groups[*g] == group) return {};
  if (s.groups[*g].order != group.order) s.order_stale = true;
  s.groups[*g] = group;
  s.groups[*g].opacity = std::clamp(group.opacity, 0.0F, 1.0F);
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (s.is_alive(i) && s.still[i].group == *g) s.find_shown(i);
  }
  return {};
}

void TextScene::erase(GroupId id) {
  SceneState& s = *state_;
  const std::optional<std::uint32_t> g = s.index_of(id);
  if (!g || *g == 0) return s.note(NoteKind::unknown_name, "group of erase");
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (!s.is_alive(i) || s.still[i].group != *g) continue;
    s.still[i].group = 0;
    s.find_shown(i);
  }
  s.order_stale = true;
  s.groups.give_back(*g);
}

std::optional<std::uint32_t> SceneState::index_of(GroupId id) const {
  return groups.find(static_cast<std::uint32_t>(id));
}
std::optional<std::uint32_t> SceneState::index_of(ClipId id) const {
  return clips.find(static_cast<std::uint32_t>(id));
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

Result<ClipId> TextScene::add_clip(const LabelClip& clip) {
  SceneState& s = *state_;
  if (const Result<void> checked = check_clip(clip); !checked) return fail(checked.error());
  const std::uint32_t at = s.clips.take();
  if (at == 0) return bad_value("at most 255 clips");
  s.clips[at] = clip;
  s.bounds.resize(s.clips.size());
  s.uppers.resize(s.clips.size(), s.bounds[0].upper());
  s.tables.clips.resize(s.clips.size());
  s.write_clip(at);
  return static_cast<ClipId>(s.clips.id_of(at));
}

Result<void> TextScene::set_clip(ClipId id, const LabelClip& clip) {
  SceneState& s = *state_;
  const std::optional<std::uint32_t> c = s.index_of(id);
  if (!c || *c == 0) return bad_value("a clip of this scene");
  if (const Result<void> checked = check_clip(clip); !checked) return checked;
  if (s.clips[*c] == clip) return {};
  s.clips[*c] = clip;
  s.write_clip(*c);
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (s.is_alive(i) && s.moving[i].clip == *c) s.touch_row(i);
  }
  return {};
}

void TextScene::erase(ClipId id) {
  SceneState& s = *state_;
  const std::optional<std::uint32_t> c = s.index_of(id);
  if (!c || *c == 0) return s.note(NoteKind::unknown_name, "clip of erase");
  for (std::uint32_t g = 0; g < s.groups.size(); ++g) {
    if (s.groups[g].clip == id) s.groups[g].clip = {};
  }
  for (std::uint32_t i = 0; i < s.still.size(); ++i) {
    if (!s.is_alive(i) || s.moving[i].clip != *c) continue;
    if (s.still[i].clip == *c) s.still[i].clip = 0;
    s.find_shown(i);
  }
  s.clips.give_back(*c);
}

}  // namespace grafema
