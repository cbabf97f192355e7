// SPDX-License-Identifier: MIT
// Rows: where labels stand, what of them is seen, and where they are cut off.
#include <Eigen/Core>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "draw/label_map.hpp"
#include "draw/scene/scene_state.hpp"

namespace grafema {

using detail::SceneState;
namespace {

using detail::ClipBounds;

bool is_on_screen(PlaceKind kind) { return kind == PlaceKind::screen || kind == PlaceKind::pinned; }

/// Around a rectangle of the label, seen from where its origin is mapped to.
ClipBounds bounds_of(const LabelMap& map, const Rect& rect) {
  ClipBounds out{INFINITY, INFINITY, -INFINITY, -INFINITY};
  for (const float x : {rect.left, rect.right}) {
    for (const float y : {rect.top, rect.bottom}) {
      const float cx = map.across[0] * x + map.down[0] * y, cy = map.across[1] * x + map.down[1] * y;
      out = {std::min(out.left, cx), std::min(out.bottom, cy), std::max(out.right, cx),
             std::max(out.top, cy)};
    }
  }
  return out;
}

/// Whether a rectangle of a label in the world may be seen within bounds that are smaller than the view.
bool may_be_within(const LabelMap& map, const Rect& rect, const ClipBounds& bounds) {
  ClipBounds around{INFINITY, INFINITY, -INFINITY, -INFINITY};
  for (const float x : {rect.left, rect.right}) {
    for (const float y : {rect.top, rect.bottom}) {
      const auto at = [&](std::size_t k) { return map.across[k] * x + map.down[k] * y + map.origin[k]; };
      if (!(at(3) > 1e-6F)) return true;  // it crosses the camera's plane
      const float cx = at(0) / at(3), cy = at(1) / at(3);
      around = {std::min(around.left, cx), std::min(around.bottom, cy), std::max(around.right, cx),
                std::max(around.top, cy)};
    }
  }
  return around.left <= bounds.right && around.right >= bounds.left && around.bottom <= bounds.top &&
         around.top >= bounds.bottom;
}

}  // namespace

Placement SceneState::placement_of(std::uint32_t i) const {
  const StillLabel& s = still[i];
  Placement p;
  p.at = moving[i].at;
  p.anchor = s.anchor, p.kind = s.kind, p.pin = s.pin;
  p.rotate = s.rotate, p.scale_x = s.scale_x, p.scale_y = s.scale_y, p.shear = s.shear;
  p.world_per_pixel = s.world_per_pixel, p.keep_inside = s.keep_inside, p.snap = s.snap,
  p.pixelated = s.pixelated;
  if (s.extra && s.extra->world) p.world = *s.extra->world;
  return p;
}

Placement SceneState::placement_in_group(std::uint32_t i) const {
  Placement p = placement_of(i);
  const PixelPoint offset = groups[still[i].group].offset;
  if (is_on_screen(p.kind)) p.at = {p.at.x + offset.x, p.at.y + offset.y};
  return p;
}

std::array<std::uint8_t, 4> SceneState::tint_of(std::uint32_t i) const {
  const StillLabel& s = still[i];
  const float opacity = s.opacity * groups[s.group].opacity;
  return {s.tint[0], s.tint[1], s.tint[2], detail::to_byte(opacity * static_cast<float>(s.tint[3]) / 255.0F)};
}

/// A label that fades: its row says so, unless that decides whether it is seen at all.
void SceneState::touch_tint(std::uint32_t i) {
  MovingLabel& m = moving[i];
  const std::array<std::uint8_t, 4> tint = tint_of(i);
  if (still[i].row_stale || (tint[3] == 0) != (still[i].row_tint[3] == 0)) return touch_row(i);
  still[i].row_tint = tint;
  follow_fading(i);
  if (m.seen) tables.rows.change(i, next).tint = tint;
}

void SceneState::write_rows() {
  todo_now.swap(rows_todo);
  for (const std::uint32_t i : todo_now) {
    still[i].listed_row = false;
    if (is_alive(i) && still[i].row_stale) write_row(i);
  }
  todo_now.clear();
}

/// Motions may make letters smaller.
std::uint8_t SceneState::zoom_of(const StillLabel& s, const LabelMap& map) const {
  const detail::PixelSteps steps = detail::longest_steps(map, s.extent, *view);
  SceneFeature zoom = SceneFeature::none;
  if (detail::largest_scale(map, s.extent, *view) > kMaxMagnified * s.texels) zoom |= SceneFeature::magnified;
  if (has_any(s.features, SceneFeature::moves) || steps.is_small(s.finest_texels))
    zoom |= SceneFeature::minified;
  if (steps.is_far(s.finest_texels)) zoom |= SceneFeature::mipmapped;
  return static_cast<std::uint8_t>(zoom);
}

void SceneState::write_row(std::uint32_t i) {
  StillLabel& s = still[i];
  MovingLabel& m = moving[i];
  s.row_stale = false;
  ++work.rows;
  LabelRow& row = tables.rows.change(i, next);
  // What is adjusted to where it stands takes no steps that are sums.
  // A function of the game takes letters anywhere: such a label has no bounds.
  m.quick = is_on_screen(s.kind) && !s.keep_inside && !s.snap && !s.pixelated && !s.in_grid &&
            std::isfinite(s.extent.left);
  Placement p = m.quick ? placement_of(i) : placement_in_group(i);
  if (m.quick) p.at = {};
  const Rect kept = s.extra ? detail::box_with_panel(s.box, s.extra->panel) : s.box;
  const LabelMap map = detail::map_checked(s.box, p, *view, *product, &kept);
  row.across = map.across, row.down = map.down, row.origin = map.origin;
  row.begun = static_cast<float>(s.begun - clock_base);
  row.clip = m.clip, row.head = i;
  s.row_tint = tint_of(i);
  follow_fading(i);
  m.paints = s.shown && !s.extent.empty() && s.row_tint[3] != 0;
  bool seen = m.paints;
  if (m.quick) {
    const PixelPoint offset = groups[s.group].offset;
    m.rest_x = map.origin[0] + offset.x * unit.x, m.rest_y = map.origin[1] + offset.y * unit.y;
    const ClipBounds around = bounds_of(map, s.extent);
    m.set_reach(around);
    const float farthest =
        std::max(std::max(-around.left, around.right), std::max(-around.bottom, around.top));
    m.quick = farthest < MovingLabel::kMaxReach;
    row.origin[0] = m.rest_x + m.at.x * unit.x, row.origin[1] = m.rest_y + m.at.y * unit.y;
    seen = seen && (!m.quick || is_in_bounds(m, row.origin[0], row.origin[1]));
  } else if (std::isfinite(s.extent.left)) {
    seen = seen && !detail::is_outside(map, s.extent) &&
           (m.clip == 0 || may_be_within(map, s.extent, bounds[m.clip]));
  }
  const std::uint8_t zoom = zoom_of(s, map);
  if (zoom != s.zoom) s.zoom = zoom, batches_stale = true;
  set_seen(i, seen);
}

void SceneState::set_seen(std::uint32_t i, bool seen) {
  StillLabel& s = still[i];
  MovingLabel& m = moving[i];
  LabelRow& row = tables.rows.change(i, next);
  row.tint = seen ? s.row_tint : std::array<std::uint8_t, 4>{};
  if (m.seen == seen) return;
  m.seen = seen;
  std::array<std::uint32_t, 64>& shown = contexts[s.context].shown;
  for (std::uint64_t left = s.pages; left != 0; left &= left - 1) {
    std::uint32_t& labels = shown[static_cast<std::size_t>(__builtin_ctzll(left))];
    seen ? ++labels : --labels;
  }
  count_in_chunks(s, seen);
  if (seen && s.pictures_stale) touch_pictures(i);
}

void SceneState::follow_view(const View& now) {
  if (view && *view == now) return;
  view = now;
  product.emplace(now);
  unit = {2 * now.content_scale / now.width, -2 * now.content_scale / now.height};
  write_clips();
  for (std::uint32_t i = 0; i < still.size(); ++i) {
    if (is_alive(i)) touch_row(i);
  }
}

void SceneState::write_clips() {
  for (std::size_t i = 1; i < clips.size(); ++i) write_clip(i);
}

/// The map of a panel's box, or of the device's pixels, turned round: from clip space to 0..1 of the box.
ClipBounds SceneState::make_clip(std::size_t i) {
  const LabelClip& clip = clips[i];
  const Rect& box = clip.box;
  ClipRecord& record = tables.clips.change(i, next);
  record = {};
  const auto across = [&](double x) { return (x - box.left) / box.width(); };
  if (clip.space == LabelClip::Space::label) {
    record.u = {1 / box.width(), 0, -box.left / box.width(), 0};
    record.v = {0, 1 / box.height(), -box.top / box.height(), 0};
    record.divisor = {0, 0, 1}, record.own = 1;
    return {};
  }
  if (clip.space == LabelClip::Space::device) {
    const double w = view->width, h = view->height;
    // x of clip space is 2 px / width - 1; y is 1 - 2 py / height.
    record.u = {static_cast<float>(w / 2 / box.width()), 0, static_cast<float>(across(w / 2)), 0};
    record.v = {0, static_cast<float>(-h / 2 / box.height()),
                static_cast<float>((h / 2 - box.top) / box.height()), 0};
    record.divisor = {0, 0, 1};
    return {static_cast<float>(2 * box.left / w - 1), static_cast<float>(1 - 2 * box.bottom / h),
            static_cast<float>(2 * box.right / w - 1), static_cast<float>(1 - 2 * box.top / h)};
  }
  const LabelMap map = detail::map_checked(box, clip.placement, *view, *product);
  Eigen::Matrix3d plane;
  const std::array<std::size_t, 3> rows = {0, 1, 3};
  for (int r = 0; r < 3; ++r) {
    const std::size_t k = rows[static_cast<std::size_t>(r)];
    plane(r, 0) = double{map.across[k]} * box.width();
    plane(r, 1) = double{map.down[k]} * box.height();
    plane(r, 2) = double{map.origin[k]} + double{map.across[k]} * box.left + double{map.down[k]} * box.top;
  }
  const double determinant = plane.determinant();
  if (!std::isfinite(determinant) || std::abs(determinant) < 1e-18) {  // seen edge on: nothing is within
    record.u = {0, 0, -1, 0}, record.divisor = {0, 0, 1};
    return {};
  }
  const Eigen::Matrix3d inverse = plane.inverse();
  const auto row = [&](int r, int c) { return static_cast<float>(inverse(r, c)); };
  record.u = {row(0, 0), row(0, 1), row(0, 2), 0}, record.v = {row(1, 0), row(1, 1), row(1, 2), 0};
  record.divisor = {row(2, 0), row(2, 1), row(2, 2)};
  if (!is_on_screen(clip.placement.kind)) return {};
  const ClipBounds reach = bounds_of(map, box);
  return {map.origin[0] + reach.left, map.origin[1] + reach.bottom, map.origin[0] + reach.right,
          map.origin[1] + reach.top};
}

void SceneState::write_clip(std::size_t i) {
  if (!view) return;
  bounds[i] = make_clip(i);
  uppers[i] = bounds[i].upper();
}

}  // namespace grafema
