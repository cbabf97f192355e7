// SPDX-License-Identifier: MIT
// Where a label stands: at a point, pinned to the safe area, or in the world.
#pragma once

#include <array>
#include <optional>

#include "grafema/draw/look.hpp"
#include "grafema/draw/view.hpp"
#include "grafema/text/paragraph.hpp"

namespace grafema {

enum class PlaceKind : std::uint8_t {
  screen,  ///< the anchor stands at `at`, layout pixels from the target's top left corner
  pinned,  ///< the anchor stands at the point `pin` of the safe area, moved by `at`
  world,   ///< the label lies in the plane that `world` maps: its x axis and, up, its y axis
  facing,  ///< the anchor stands at the origin that `world` maps; the label faces the camera
};

/// A label is scaled, sheared, rotated and moved, in this order and all about its anchor.
struct Placement {
  PixelPoint at = {};  ///< layout pixels; not used in the world
  PixelPoint anchor =
      {};  ///< fractions of the label's box: 0,0 its top left corner, 1,1 its bottom right one
  PlaceKind kind = PlaceKind::screen;
  PixelPoint pin = {};  ///< fractions of the safe area
  float rotate = 0;     ///< degrees, clockwise on the screen
  float scale_x = 1, scale_y = 1;
  float shear = 0;                ///< degrees by which upright strokes lean to the right, -80..80
  float world_per_pixel = 0.01F;  ///< world units that a layout pixel is long
  Matrix4 world = {};             ///< the label's plane to the world
  bool keep_inside = false;  ///< what of its box leaves the safe area is moved back into it, as seen on the
                             ///< screen; one that is larger keeps its left and its top
  bool snap = false;         ///< where it stands upright its origin is on a whole device pixel
  /// For pixel faces: texels are shown as they are instead of mixed. On the screen the label is scaled by the
  /// nearest whole number of device pixels, at least one, and snaps. Give its text the size of its pictures.
  bool pixelated = false;
  bool operator==(const Placement&) const = default;
};

/// A label whose own point `pin` stands at the same point of the safe area, moved by `offset`: pinned right,
/// it keeps its right edge as it grows.
constexpr Placement pinned(PixelPoint pin, PixelPoint offset = {}) {
  Placement placement;
  placement.kind = PlaceKind::pinned;
  placement.at = offset;
  placement.anchor = placement.pin = pin;
  return placement;
}

/// Where the origin of a label with this box stands on the screen, not scaled, sheared or rotated.
constexpr PixelPoint label_origin(const Rect& box, const Placement& placement) {
  return {placement.at.x - box.left - placement.anchor.x * box.width(),
          placement.at.y - box.top - placement.anchor.y * box.height()};
}

/// Where the anchor of a label on the screen or pinned stands, in device pixels.
GRAFEMA_API PixelPoint anchor_on_screen(const Placement& placement, const View& view);

/// Maps a label's pixels to clip space: (x, y) becomes x * across + y * down + origin, homogeneous x, y, z,
/// w.
struct LabelMap {
  std::array<float, 4> across = {}, down = {}, origin = {};
};

/// The map of a label with this box. Fails with `bad_value` where a number of placement or view is not
/// finite, or the target has no area.
GRAFEMA_API Result<LabelMap> map_label(const Rect& box, const Placement& placement, const View& view);

/// A point of the label in device pixels; nothing where it lies behind the camera.
GRAFEMA_API std::optional<PixelPoint> to_device(const LabelMap& map, PixelPoint point, const View& view);

/// The smallest upright box, in device pixels, around what of a box of the label (a line's, a range's, its
/// ink) lies in front of the near plane; empty where nothing does.
GRAFEMA_API Rect device_bounds(const LabelMap& map, const Rect& box, const View& view);

/// The point of the label that is seen at a device pixel; nothing where the label is seen edge on, or from
/// behind the camera.
GRAFEMA_API std::optional<PixelPoint> from_device(const LabelMap& map, PixelPoint device, const View& view);

/// A picture that holds a label: its box with a border of half the text's size, more where ink or the look
/// needs it.
struct Canvas {
  int width = 1, height = 1;  ///< pixels
  PixelPoint origin = {};     ///< the corner of the label, on whole pixels
};
GRAFEMA_API Canvas fit_canvas(const Paragraph& paragraph, const Rect& ink, const Look& look);

/// By which of its heights the size of text is asked for.
enum class SizeBy : std::uint8_t { em, cap_height, x_height, line_height };

/// The pixels per em at which the face's height `by` measures `pixels`. Fails with `bad_value` where the face
/// has no such height or the size leaves kMinSize..kMaxSize.
GRAFEMA_API Result<float> read_size(const GlyphMetrics& face, SizeBy by, float pixels);

}  // namespace grafema
