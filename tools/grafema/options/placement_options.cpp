// SPDX-License-Identifier: MIT
// Reads placements, canvases and motions.
#include "options/placement_options.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/ready_motions.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/files/svg_path.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::tool {

void PlacementOptions::add_to(Arguments& arguments) {
  arguments.heading("Placement");
  arguments.option("--canvas", canvas, "WxH",
                   "Size of the picture; none: the label and a border of half its size");
  arguments.option(
      "--backdrop", backdrop, "COLOR|PNG",
      "A color or a PNG below the text; auto: light or dark, whichever it stands out from in any viewer");
  arguments.option(
      "--at", at, "X,Y",
      "Where the anchor stands; none: at the anchor's place in the canvas. With --pin: an offset from there");
  arguments.option(
      "--anchor", anchor, "FX,FY",
      "The point of the label's box that stands there: fractions, or center, top-left, ... (default 0,0)");
  arguments.option("--rotate", rotate, "DEG", "Clockwise about the anchor");
  arguments.option("--scale", scale, "X[,Y]", "About the anchor, before it is rotated");
  arguments.option("--safe", safe, "PX[,PX,PX,PX]",
                   "Safe area: distance from all edges, or left, top, right, bottom");
  arguments.option("--pin", pin, "FX,FY",
                   "The point of the safe area where the same point of the label stands: fractions, or "
                   "center, top-right, ...");
  arguments.option(
      "--panel", panel, "FILL[,RADIUS,PADDING]",
      "A box behind the label: a color, a gradient or FILE#NAME of a look; its corners; what it is wider by");
  arguments.option(
      "--path", path, "ARC|LINE|FILE.svg#ID",
      "What letters stand on, from the label's corner: arc:X,Y,RADIUS,FROM,TO (degrees clockwise, 0 to the "
      "right), line:X,Y,X,Y or a path of an SVG file; --align says where on it");
  arguments.flag(
      "--pixelated", pixelated,
      "For pixel faces: texels as they are, each as many whole pixels wide as --scale is nearest to");
  arguments.flag("--upright", upright, "Letters on a path are moved, not turned");
  std::string motions = "A ready-made motion, or several, with values: \"whole swell(period=1.2)+shimmer\".";
  for (const MotionFacts& facts : ready_motions())
    motions += fmt::format(" {}: {};", facts.name, facts.summary);
  motions.back() = '.';
  arguments.option("--motion", motion, "NAME", motions.c_str());
  arguments.option("--time", time, "S", "The time of the motion, in seconds");
  arguments.flag("--guides", guides,
                 "Rulers, anchor, baselines, boxes, clusters, caret stops, tab stops, safe area");
}

namespace {

PixelPoint to_point(const std::string& text, const char* option, float most) {
  const auto parts = split(text, option, 2);
  return {to_number(parts[0], option, -most, most), to_number(parts[1], option, -most, most)};
}

bool is_picture(const std::string& backdrop) {
  return backdrop.ends_with(".png") || backdrop.ends_with(".PNG");
}

Insets to_insets(const std::string& text) {
  if (text.empty()) return {};
  const auto parts = split(text, "--safe");
  if (parts.size() != 1 && parts.size() != 4) {
    throw Failure{wrong_usage, fmt::format("--safe: expected one distance or four, found '{}'", text)};
  }
  const auto part = [&parts](std::size_t i) {
    return to_number(parts[parts.size() == 4 ? i : 0], "--safe", 0, 16384);
  };
  return {part(0), part(1), part(2), part(3)};
}

/// Paper for dark letters, night for light ones: by the mean of the front layer's fill.
Color contrasting(const Look& look) {
  const Color c = mean_color(look.count > 0 ? look.layers[look.count - 1].fill : Fill{});
  const float luma = 0.299F * c.red + 0.587F * c.green + 0.114F * c.blue;
  return luma < 0.5F ? Color{0.96F, 0.94F, 0.89F, 1} : Color{0.07F, 0.09F, 0.19F, 1};
}

Image make_backdrop(const PlacementOptions& options, const Canvas& fitted, const Look& look) {
  PageSize size{fitted.width, fitted.height};
  std::optional<Image> picture;
  if (is_picture(options.backdrop)) {
    picture = value_or_give_up(load_png(options.backdrop));
    size = {picture->width(), picture->height()};
  }
  if (!options.canvas.empty()) size = to_size(options.canvas, "--canvas");
  Image image = value_or_give_up(Image::make(size.width, size.height, PixelFormat::rgba8));
  if (picture) {
    paint_image(image, *picture, 0, 0);
  } else {
    fill_image(image,
               options.backdrop == "auto" ? contrasting(look) : to_color(options.backdrop, "--backdrop"));
  }
  return image;
}

void read_transform(const PlacementOptions& options, Placement& placement) {
  placement.rotate = to_number(options.rotate, "--rotate", -36000, 36000);
  const auto scales = split(options.scale, "--scale");
  if (scales.size() > 2) {
    throw Failure{wrong_usage, fmt::format("--scale: expected one factor or two, found '{}'", options.scale)};
  }
  placement.scale_x = to_number(scales[0], "--scale", -1000, 1000);
  placement.scale_y = scales.size() == 2 ? to_number(scales[1], "--scale", -1000, 1000) : placement.scale_x;
}

/// The canvas scaled and turned about the label's anchor, and upright around what comes out.
Canvas transformed(const PlacementOptions& options, const Canvas& canvas, const Rect& box) {
  constexpr float kSide = 32768;
  const View view{.width = kSide, .height = kSide};
  Placement p{.at = {kSide / 2, kSide / 2}, .pixelated = options.pixelated};
  if (!options.anchor.empty()) p.anchor = to_place(options.anchor, "--anchor");
  read_transform(options, p);
  if (p.rotate == 0 && p.scale_x == 1 && p.scale_y == 1) return canvas;
  const PixelPoint o = canvas.origin;
  const Rect own{-o.x, -o.y, static_cast<float>(canvas.width) - o.x, static_cast<float>(canvas.height) - o.y};
  const LabelMap map = value_or_give_up(map_label(box, p, view));
  const Rect seen = device_bounds(map, own, view);
  const float left = std::floor(seen.left + 1.0F / 64), top = std::floor(seen.top + 1.0F / 64);
  Canvas out;
  out.width = std::max(1, static_cast<int>(std::ceil(seen.right - left - 1.0F / 64)));
  out.height = std::max(1, static_cast<int>(std::ceil(seen.bottom - top - 1.0F / 64)));
  out.origin = {p.at.x - left - p.anchor.x * box.width(), p.at.y - top - p.anchor.y * box.height()};
  return out;
}

Placement read_placement(const PlacementOptions& options, const Picture& picture, const Canvas& fitted) {
  Placement placement;
  if (!options.pin.empty()) {
    placement = pinned(to_place(options.pin, "--pin"));
    if (!options.anchor.empty()) placement.anchor = to_place(options.anchor, "--anchor");
    if (!options.at.empty()) placement.at = to_point(options.at, "--at", 65536);
    read_transform(options, placement);
    return placement;
  }
  if (!options.anchor.empty()) placement.anchor = to_place(options.anchor, "--anchor");
  read_transform(options, placement);
  const Rect box = picture.laid.paragraph.box;
  const PixelPoint a = placement.anchor;
  if (!options.at.empty()) {
    placement.at = to_point(options.at, "--at", 65536);
  } else if (!options.canvas.empty() ||
             is_picture(options.backdrop)) {  // the anchor stands at the same point of the canvas
    placement.at = {a.x * picture.view.width, a.y * picture.view.height};
  } else {
    placement.at = {fitted.origin.x + a.x * box.width(), fitted.origin.y + a.y * box.height()};
  }
  return placement;
}

}  // namespace

namespace {

/// Whether a span moves.
bool moves(const LaidOut& laid) {
  return laid.rich && std::any_of(laid.rich->spans.begin(), laid.rich->spans.end(),
                                  [](const Span& span) { return !span.style.motion.empty(); });
}

/// Where the letters stand, with what looks of spans paint beyond the text's own look.
Rect ink_of(const Picture& picture) {
  const LaidOut& laid = picture.laid;
  const Rect plain = ink_box(laid.stack, laid.paragraph);
  if (!laid.rich) return plain;
  const Rect painted = ink_box(laid.stack, laid.paragraph, picture.look, looks_of(laid, nullptr));
  const Overhang own = overhang(picture.look, laid.paragraph.size);
  return enclosing(plain, {painted.left + own.left, painted.top + own.top, painted.right - own.right,
                           painted.bottom - own.bottom});
}

}  // namespace

namespace {

/// Reads --panel: what it is painted with, and how it lies around the label.
void read_panel(const std::string& text, Picture& picture) {
  if (text.empty()) return;
  const auto parts = split(text, "--panel");
  if (parts.size() > 3)
    throw Failure{wrong_usage,
                  fmt::format("--panel: expected a fill, a radius and a padding, found '{}'", text)};
  Panel panel;
  if (parts[0].find(".json#") != std::string::npos) {
    picture.panel_look = value_or_give_up(load_look(parts[0], &picture.laid.notes));
  } else {
    const Result<Fill> fill = read_fill(parts[0]);
    if (!fill) throw Failure{wrong_usage, fmt::format("--panel: {}", describe(fill.error()))};
    picture.panel_look.add({.fill = *fill});
  }
  if (parts.size() > 1) panel.radii.fill(to_number(parts[1], "--panel", 0, 4096));
  if (parts.size() > 2) panel.padding.fill(to_number(parts[2], "--panel", -4096, 4096));
  picture.panel = panel;
}

/// Reads --path.
OnPath read_path(const PlacementOptions& options, const TextStyle& style) {
  OnPath on;
  const std::string& text = options.path;
  if (text.empty()) return on;
  const auto numbers = [&](std::size_t from, std::size_t count) {
    std::vector<float> out;
    for (const std::string& part : split(text.substr(from), "--path", count)) {
      out.push_back(to_number(part, "--path", -65536, 65536));
    }
    return out;
  };
  TextPath::Made made;
  if (text.starts_with("arc:")) {
    const std::vector<float> n = numbers(4, 5);
    made = TextPath::arc({n[0], n[1]}, n[2], n[3], n[4]);
  } else if (text.starts_with("line:")) {
    const std::vector<float> n = numbers(5, 4);
    made = TextPath::line({n[0], n[1]}, {n[2], n[3]});
  } else {
    made = TextPath::contours(value_or_give_up(load_svg_path(text)), {});
  }
  if (!made) throw Failure{wrong_usage, fmt::format("--path: {}", describe(made.error()))};
  on.path = *std::move(made);
  on.upright = options.upright;
  on.align = style.align == TextAlign::center                                   ? 0.5F
             : style.align == TextAlign::right || style.align == TextAlign::end ? 1.0F
                                                                                : 0.0F;
  return on;
}

/// Where the panel stands, with what its look paints beyond it.
Rect with_panel(const Picture& picture, const Rect& ink) {
  if (!picture.panel) return ink;
  const Rect box = panel_shape(*picture.panel, picture.laid.paragraph.box).box;
  const Overhang out = overhang(picture.panel_look, picture.laid.paragraph.size);
  return enclosing(ink,
                   {box.left - out.left, box.top - out.top, box.right + out.right, box.bottom + out.bottom});
}

/// Cells have room for what the look paints around letters.
Rect ink_in_cells(const Picture& picture, const Rect& cells) {
  const Overhang over = overhang(picture.look, picture.laid.style.size);
  return {cells.left + over.left, cells.top + over.top, cells.right - over.right, cells.bottom - over.bottom};
}

/// Around which a canvas has its border: the label's box, or the letters where they stand elsewhere.
Canvas fit_to(const Picture& picture, const Rect& ink) {
  Paragraph framed;
  framed.size = picture.laid.paragraph.size;
  framed.box = picture.on_path.path ? ink : picture.laid.paragraph.box;
  return fit_canvas(framed, with_panel(picture, ink), picture.look);
}

/// The ink, with what motion and path add to each side of it.
Rect with_motion(Picture& picture, const Rect& ink, std::span<const double> times) {
  if (!picture.motion && !picture.on_path.path && !moves(picture.laid)) return ink;
  constexpr float kSide = 8192;
  picture.view = {.width = kSide, .height = kSide};
  picture.placement = {.at = {kSide / 2, kSide / 2}};
  TextContext context(picture.laid.stack, source_for(picture));
  TextScene scene(context);
  Label moving = add_label(picture, context, scene), still = add_label(picture, context, scene);
  still.set_motion({});
  value_or_give_up(still.set_path({}));
  if (picture.laid.rich) {
    RichText plain = *picture.laid.rich;
    for (Span& span : plain.spans) span.style.motion.clear();
    still.set_rich(plain);
  }
  const Rect rest = still.letters_box();
  Rect out = ink;
  for (const double& seconds : times) {
    value_or_give_up(scene.update(picture.view, seconds));
    const Rect moved = moving.letters_box();
    if (picture.on_path.path) {  // nothing is where it would be without
      const Rect there = ink_in_cells(picture, moved);
      out = &seconds == times.data() ? there : enclosing(out, there);
      continue;
    }
    out.left = std::min(out.left, ink.left + moved.left - rest.left);
    out.top = std::min(out.top, ink.top + moved.top - rest.top);
    out.right = std::max(out.right, ink.right + moved.right - rest.right);
    out.bottom = std::max(out.bottom, ink.bottom + moved.bottom - rest.bottom);
  }
  picture.placement = {};
  return out;
}

}  // namespace

namespace {

constexpr int kRulerRoom = 20;

/// Notes each side of the picture that what is painted leaves.
void note_off_picture(Picture& picture, const Rect& ink) {
  if (ink.empty() || picture.on_path.path) return;
  const LabelMap map =
      value_or_give_up(map_label(picture.laid.paragraph.box, picture.placement, picture.view));
  const Rect seen = device_bounds(map, ink, picture.view);
  const std::pair<const char*, float> sides[] = {{"left", -seen.left},
                                                 {"top", -seen.top},
                                                 {"right", seen.right - picture.view.width},
                                                 {"bottom", seen.bottom - picture.view.height}};
  for (const auto& [side, by] : sides) {
    if (by > 0.5F) picture.laid.notes.add({.kind = NoteKind::off_picture, .wanted = by, .text = side});
  }
}

/// Notes pixel faces at sizes that are no multiple of those at which they are crisp.
void note_off_grid(Picture& picture) {
  const float scale = std::abs(picture.placement.scale_y);
  const float size = picture.laid.paragraph.size * (picture.placement.pixelated ? 1 : scale);
  for (const StackFace& face : picture.laid.stack) {
    if (face->face() == nullptr) continue;
    const FaceFacts facts = face->face()->facts();
    std::vector<float> crisp(facts.strikes.begin(), facts.strikes.end());
    if (facts.crisp_size > 0) crisp.push_back(facts.crisp_size);
    const auto fits = [&](float own) {
      const float times = size * face.scale / own;
      return times > 0.5F && std::abs(times - std::round(times)) < 1e-3F;
    };
    if (crisp.empty() || std::any_of(crisp.begin(), crisp.end(), fits)) continue;
    picture.laid.notes.add(
        {.kind = NoteKind::off_grid, .wanted = size * face.scale, .given = crisp[0], .face = face->title()});
  }
}

}  // namespace

Picture make_picture(const LayoutOptions& layout, const LookOptions& look, const PlacementOptions& place,
                     std::span<const double> times) {
  Picture picture;
  picture.laid = lay_out(layout, look.base);
  const std::string& named = picture.laid.look;
  const Look own =
      named.empty() ? Look{}
                    : picture.laid.names->looks.get(value_or_give_up(picture.laid.names->looks.read(named)));
  picture.look = look.read(&picture.laid.notes, named.empty() ? nullptr : &own);
  picture.opacity = look.whole_opacity();
  picture.motion = value_or_give_up(read_motion(place.motion));
  picture.seconds = to_number(place.time, "--time", 0, 1e6F);
  read_panel(place.panel, picture);
  picture.on_path = read_path(place, picture.laid.style);
  const std::span<const double> shown = times.empty() ? std::span<const double>(&picture.seconds, 1) : times;
  const Rect ink = with_motion(picture, ink_of(picture), shown);
  Canvas fitted = transformed(place, fit_to(picture, ink), picture.laid.paragraph.box);
  if (place.guides) {  // room for the rulers, which would cover the text
    fitted.width += kRulerRoom, fitted.height += kRulerRoom;
    fitted.origin.x += kRulerRoom, fitted.origin.y += kRulerRoom;
  }
  picture.backdrop = make_backdrop(place, fitted, picture.look);
  picture.view.width = static_cast<float>(picture.backdrop.width());
  picture.view.height = static_cast<float>(picture.backdrop.height());
  picture.view.safe = to_insets(place.safe);
  picture.placement = read_placement(place, picture, fitted);
  picture.placement.pixelated = place.pixelated;
  const Placement& p = picture.placement;
  picture.plain = picture.opacity >= 1 && !place.pixelated && !picture.laid.atlas && !picture.motion &&
                  !picture.panel && !picture.on_path.path && !layout.reveal && !moves(picture.laid) &&
                  p.rotate == 0 && p.scale_x == 1 && p.scale_y == 1;
  note_off_picture(picture, with_panel(picture, ink));
  if (layout.size) note_off_grid(picture);
  return picture;
}

}  // namespace grafema::tool
