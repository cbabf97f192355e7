// SPDX-License-Identifier: MIT
// Paints text layer by layer from outlines.
#include "grafema/draw/paint.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "draw/content/fill_boxes.hpp"
#include "draw/layer_strengths.hpp"
#include "draw/light_math.hpp"
#include "raster/blend_color.hpp"

namespace grafema {
namespace {

/// Blends a picture with straight alpha over the target at `cell`, in linear light.
void blend_picture(Image& target, const PixelRect& cell, const Image& picture, float opacity) {
  for (int y = 0; y < cell.height; ++y) {
    const std::uint8_t* from = picture.row(y);
    std::uint8_t* to = target.row(cell.y + y) + static_cast<std::size_t>(cell.x) * 4;
    for (int x = 0; x < cell.width; ++x, from += 4, to += 4) {
      const float over = static_cast<float>(from[3]) / 255.0F * opacity;
      if (over <= 0) continue;
      const float under = static_cast<float>(to[3]) / 255.0F * (1 - over), alpha = over + under;
      for (int c = 0; c < 3; ++c) {
        const float light = (detail::light_of(from[c]) * over + detail::light_of(to[c]) * under) / alpha;
        to[c] = detail::to_byte(to_srgb(light));
      }
      to[3] = detail::to_byte(alpha);
    }
  }
}

/// The look of a style in pixels: its front layer is the last that is painted.
Look style_look(const Paragraph& paragraph, std::size_t style, const Look& look, const LookOf& look_of) {
  const Look* own = look_of ? look_of(style) : nullptr;
  return in_pixels(own != nullptr ? *own : look, paragraph.size * paragraph.styles[style].scale);
}

/// What COLR calls the text foreground color.
Color text_color_of(const Fill& fill) {
  return fill.kind == FillKind::corners ? fill.corners[0] : mean_color(fill);
}

class Painter {
 public:
  Painter(Image& target, const FontStack& stack, const Paragraph& paragraph, std::vector<Look> looks,
          PixelPoint origin, Notes* notes, const ColorPaintOptions& color)
      : target_(target),
        stack_(stack),
        paragraph_(paragraph),
        looks_(std::move(looks)),
        origin_(origin),
        notes_(notes),
        color_(color),
        box_(paragraph.box.moved(origin)) {}

  Result<void> paint() {
    std::size_t layers = 0;
    for (const Look& look : looks_) layers = std::max<std::size_t>(layers, look.count);
    for (std::size_t step = 0; step < layers; ++step) {
      if (const Result<void> painted = paint_step(step, layers); !painted) return painted;
    }
    return {};
  }

 private:
  /// One layer of every look; looks end together.
  Result<void> paint_step(std::size_t step, std::size_t layers) {
    joined_.clear();
    for (const PlacedGlyph& glyph : paragraph_.glyphs) {
      const Look& look = looks_[glyph.style];
      if (step + look.count < layers) continue;
      const std::size_t index = step + look.count - layers;
      const bool joins = look.layers[index].join && !is_colored(glyph, look);
      const Result<void> painted = joins ? paint_joined(look, index) : paint_glyph(glyph, look, index);
      if (painted) continue;
      if (painted.error().kind == ErrorKind::bad_value) return painted;
      if (notes_ != nullptr) {
        notes_->add({.kind = NoteKind::damaged_glyph,
                     .position = index_of(glyph.glyph),
                     .face = stack_[glyph.face]->title()});
      }
    }
    for (const PlacedBar& bar : paragraph_.bars) {
      const Look& look = looks_[bar.style];
      if (step + look.count < layers || look.layers[step + look.count - layers].join) continue;
      if (const Result<void> painted = paint_bar(bar, look, look.layers[step + look.count - layers]);
          !painted)
        return painted;
    }
    return {};
  }

  Result<void> paint_glyph(const PlacedGlyph& glyph, const Look& look, std::size_t index) {
    const Face& face = *stack_[glyph.face]->face();
    const PixelPoint pen{origin_.x + glyph.origin().x, origin_.y + glyph.origin().y};
    const float size = paragraph_.glyph_size(glyph);
    const Result<std::optional<FontRect>> color_area = color_box(face, glyph.glyph, size);
    if (!color_area) return fail(color_area.error());
    if (color_area->has_value()) {
      color_.text_color = text_color_of(look.layers[look.count - 1].fill);
      return paint_color(look, index, glyph, **color_area, size, pen);
    }
    if (const Result<void> read = face.read_outline(glyph.glyph, outline_, size); !read) return read;
    const PlacedFace& made = paragraph_.faces[glyph.face];
    const float scale = size / face.units_per_em();
    Transform map = glyph_transform(scale, pen);
    if (glyph.turned) {
      for (FontPoint& p : outline_.points) p = {p.y, -(p.x + p.y * made.lean)};
    } else {
      map.xy = made.lean * scale;
    }
    Layer layer = look.layers[index];
    if (!layer.inset) layer.grow += made.grow * size;
    return paint_outline(layer, look.opacity, map, fill_box_of(layer.fill.box, glyph));
  }

  bool is_colored(const PlacedGlyph& glyph, const Look&) const {
    const auto box = color_box(*stack_[glyph.face]->face(), glyph.glyph, paragraph_.glyph_size(glyph));
    return box && box->has_value();
  }

  /// All letters of a look, and lines under them, as one outline: the first that comes up paints it. Those
  /// that are made bold are one by themselves, since their edges lie elsewhere.
  Result<void> paint_joined(const Look& look, std::size_t index) {
    const bool is_done =
        std::any_of(joined_.begin(), joined_.end(), [&](const Look* l) { return *l == look; });
    if (is_done) return {};
    joined_.push_back(&look);
    std::vector<float> growths = {0};
    for (std::size_t g = 0; g < growths.size(); ++g) {
      all_.clear();
      for (const PlacedGlyph& glyph : paragraph_.glyphs) {
        if (looks_[glyph.style] != look || is_colored(glyph, look)) continue;
        const float growth = paragraph_.faces[glyph.face].grow * paragraph_.glyph_size(glyph);
        if (std::find(growths.begin(), growths.end(), growth) == growths.end()) growths.push_back(growth);
        if (growth != growths[g]) continue;
        if (const Result<void> added = add_letter(glyph); !added) return added;
      }
      for (const PlacedBar& bar : paragraph_.bars) {
        if (looks_[bar.style] == look && g == 0) add_bar(bar);
      }
      Layer layer = look.layers[index];
      if (!layer.inset) layer.grow += growths[g];
      outline_ = all_;
      outline_.may_overlap = true, outline_.united = false;
      if (const Result<void> painted = paint_outline(layer, look.opacity, glyph_transform(1), box_); !painted)
        return painted;
    }
    return {};
  }

  /// Adds the filled side of a letter, where it stands, y up.
  Result<void> add_letter(const PlacedGlyph& glyph) {
    const Face& face = *stack_[glyph.face]->face();
    const float size = paragraph_.glyph_size(glyph);
    if (const Result<void> read = face.read_outline(glyph.glyph, outline_, size); !read) return read;
    unite(outline_);  // contours that run the other way round would leave each other out
    const float scale = paragraph_.glyph_size(glyph) / face.units_per_em();
    const PixelPoint pen{origin_.x + glyph.origin().x, origin_.y + glyph.origin().y};
    const float lean = paragraph_.faces[glyph.face].lean;
    for (FontPoint& p : outline_.points) {
      const FontPoint own{(p.x + p.y * lean) * scale, p.y * scale};
      p = glyph.turned ? FontPoint{own.y + pen.x, -own.x - pen.y} : FontPoint{own.x + pen.x, own.y - pen.y};
    }
    append(outline_);
    return {};
  }

  void add_bar(const PlacedBar& bar) {
    const Rect box = bar.box.moved(origin_);
    outline_.clear();
    outline_.move_to({box.left, -box.bottom}), outline_.line_to({box.left, -box.top});
    outline_.line_to({box.right, -box.top}), outline_.line_to({box.right, -box.bottom});
    outline_.close();
    append(outline_);
  }

  void append(const Contours& more) {
    all_.commands.insert(all_.commands.end(), more.commands.begin(), more.commands.end());
    all_.points.insert(all_.points.end(), more.points.begin(), more.points.end());
  }

  Result<void> paint_bar(const PlacedBar& bar, const Look& look, const Layer& layer) {
    const float width = bar.box.width(), height = bar.box.height();
    outline_.clear();
    outline_.move_to({0, 0}), outline_.line_to({width, 0});
    outline_.line_to({width, -height}), outline_.line_to({0, -height});
    outline_.close();
    return paint_outline(layer, look.opacity,
                         glyph_transform(1, {origin_.x + bar.box.left, origin_.y + bar.box.top}),
                         fill_box_of(layer.fill.box, bar));
  }

  /// `filled` is the box that the layer's fill spans.
  Result<void> paint_outline(const Layer& layer, float opacity, const Transform& map, const Rect& filled) {
    const FontRect box = bounds(outline_);
    if (box.empty()) return {};
    // Neither turned nor mirrored, at most slanted.
    const PixelPoint a = map(box.x_min, box.y_min), b = map(box.x_max, box.y_min),
                     c = map(box.x_min, box.y_max), d = map(box.x_max, box.y_max);
    const Rect area{std::min(a.x, c.x), c.y, std::max(b.x, d.x), a.y};
    const PixelRect cell = clipped(detail::painted_area(layer, area));
    if (cell.empty()) return {};
    const auto strengths = strengths_.make(layer, outline_, map, cell);
    if (!strengths) return fail(strengths.error());
    if (layer.surface.width > 0) return blend_lit(layer, opacity, map, {cell, area}, *strengths, filled);
    blend(target_, cell, *strengths, layer.fill, filled, opacity);
    return {};
  }

  /// The pixels where a letter may paint, and the box of its outline.
  struct PaintedCell {
    PixelRect cell;
    Rect letter;
  };

  /// Light falls on the layer as it does by default.
  Result<void> blend_lit(const Layer& layer, float opacity, const Transform& map, const PaintedCell& painted,
                         std::span<const float> strengths, const Rect& filled) {
    const PixelRect& cell = painted.cell;
    const Surface& surface = layer.surface;
    const detail::LightVectors lights = detail::light_vectors(
        lighting_, 1, static_cast<float>(target_.width()), static_cast<float>(target_.height()));
    const auto heights = strengths_.make_heights(layer, outline_, map, cell);
    if (!heights) return fail(heights.error());
    const auto at = [&](int x, int y) {
      const int cx = std::clamp(x, 0, cell.width - 1), cy = std::clamp(y, 0, cell.height - 1);
      return static_cast<std::size_t>(cy) * static_cast<std::size_t>(cell.width) +
             static_cast<std::size_t>(cx);
    };
    for (int y = 0; y < cell.height; ++y) {
      for (int x = 0; x < cell.width; ++x) {
        const float strength = strengths[at(x, y)] * opacity;
        if (strength <= 0) continue;
        const std::span<const float> h = *heights;
        const PixelPoint rise{(h[at(x + 1, y)] - h[at(x - 1, y)]) / 2,
                              (h[at(x, y + 1)] - h[at(x, y - 1)]) / 2};
        const float length = std::max(std::hypot(rise.x, rise.y), 1.0F);
        const PixelPoint device{static_cast<float>(cell.x + x) + 0.5F, static_cast<float>(cell.y + y) + 0.5F};
        detail::SurfacePoint point{.surface = surface, .inside = h[at(x, y)], .device = device};
        point.rise = {rise.x / length, rise.y / length};
        if (surface.grain) {
          const float scale = surface.grain_scale;
          const PixelPoint place{(device.x - painted.letter.left) / scale,
                                 (device.y - painted.letter.top) / scale};
          const PixelPoint tilt = detail::grain_at(*surface.grain, place, {1 / scale, 1 / scale});
          point.tilt = {tilt.x * surface.grain_strength, tilt.y * surface.grain_strength};
        }
        point.mirror = surface.mirror.get(), point.mirrored = surface.mirror_strength;
        Color color = color_at(layer.fill, device, filled);
        const auto light = detail::lit_color(
            {to_linear(color.red), to_linear(color.green), to_linear(color.blue)}, point, lights);
        color = {to_srgb(light[0]), to_srgb(light[1]), to_srgb(light[2]), color.alpha};
        detail::blend_color(target_, cell.x + x, cell.y + y, color, strength);
      }
    }
    return {};
  }

  /// A glyph's own colors in the front layer, its shape in the others.
  Result<void> paint_color(const Look& look, std::size_t index, const PlacedGlyph& placed,
                           const FontRect& box, float size, PixelPoint pen) {
    const Face& face = *stack_[placed.face]->face();
    const Layer& layer = look.layers[index];
    const bool front = index + 1 == look.count;
    if (!front && (layer.inset || layer.line > 0)) return {};  // a picture has no edge to follow
    const float scale = size / face.units_per_em();
    const PixelPoint shifted{pen.x + layer.shift.x, pen.y + layer.shift.y};
    const PixelRect cell = clipped(to_pixels(box, scale).moved(shifted));
    if (cell.empty()) return {};
    Result<Image> picture = Image::make(cell.width, cell.height, PixelFormat::rgba8);
    if (!picture) return fail(picture.error());
    Transform map = glyph_transform(scale, shifted);
    map.dx -= static_cast<float>(cell.x), map.dy -= static_cast<float>(cell.y);
    color_.size = size;
    const Result<bool> painted = paint_color_glyph(face, placed.glyph, map, color_, *picture, scratch_);
    if (!painted) return fail(painted.error());
    if (!*painted) return fail(make_error(ErrorKind::unsupported, "a reader of embedded pictures"));
    if (front) {
      blend_picture(target_, cell, *picture, look.opacity);
      return {};
    }
    alphas_.clear();
    for (int y = 0; y < cell.height; ++y) {
      for (int x = 0; x < cell.width; ++x) {
        alphas_.push_back(static_cast<float>(picture->value(x, y, 3)) / 255.0F);
      }
    }
    blend(target_, cell, alphas_, layer.fill, fill_box_of(layer.fill.box, placed), look.opacity);
    return {};
  }

  Rect fill_box_of(FillBox wanted, const PlacedGlyph& glyph) {
    if (wanted == FillBox::label) return box_;
    const auto index = static_cast<std::size_t>(&glyph - paragraph_.glyphs.data());
    return detail::box_of(boxes_.of_glyph(paragraph_, index), wanted).moved(origin_);
  }
  Rect fill_box_of(FillBox wanted, const PlacedBar& bar) {
    return wanted == FillBox::label ? box_
                                    : detail::box_of(boxes_.of_bar(paragraph_, bar), wanted).moved(origin_);
  }

  /// The part of a box that the target shows.
  PixelRect clipped(const Rect& box) const {
    const auto bound = [](float v, int limit) { return std::clamp(v, 0.0F, static_cast<float>(limit)); };
    return rounded_out({bound(box.left, target_.width()), bound(box.top, target_.height()),
                        bound(box.right, target_.width()), bound(box.bottom, target_.height())});
  }

  Image& target_;
  const FontStack& stack_;
  const Paragraph& paragraph_;
  std::vector<Look> looks_;  // by style, in pixels
  PixelPoint origin_;
  Notes* notes_;
  ColorPaintOptions color_;
  Rect box_;
  Contours outline_, all_;           // all_: of a joined layer
  std::vector<const Look*> joined_;  // of this step, that were painted
  RasterScratch scratch_;
  std::vector<float> alphas_;
  detail::LayerStrengths strengths_;
  detail::BoxFinder boxes_;
  Lighting lighting_;
};

}  // namespace

Result<void> paint(Image& target, const FontStack& stack, const Paragraph& paragraph, const Look& look,
                   PixelPoint origin, Notes* notes, const ColorPaintOptions& color, const LookOf& look_of) {
  if (target.format() != PixelFormat::rgba8) {
    return bad_value("an rgba8 picture to paint on");
  }
  if (!std::isfinite(origin.x) || !std::isfinite(origin.y)) {
    return bad_value("a place of finite numbers");
  }
  const FontStack& fonts = paragraph.rich_fonts ? *paragraph.rich_fonts : stack;
  for (const auto& face : fonts) {
    if (face->face() == nullptr) return bad_value("faces with outlines");
  }
  std::vector<Look> looks;
  for (std::size_t style = 0; style < paragraph.styles.size(); ++style) {
    looks.push_back(style_look(paragraph, style, look, look_of));
    if (const Result<void> checked = check_look(looks.back()); !checked) return checked;
  }
  return Painter(target, fonts, paragraph, std::move(looks), origin, notes, color).paint();
}

namespace {

bool shows_something(const Fill& fill) {
  const auto visible = [](const Color& c) { return c.alpha > 0; };
  if (!fill.has_stops()) return std::any_of(fill.corners.begin(), fill.corners.end(), visible);
  return std::any_of(fill.stops.begin(), fill.stops.begin() + fill.stop_count,
                     [&](const FillStop& stop) { return visible(stop.color); });
}

/// What a look paints of a shape with this box.
Rect painted_box(const Look& look, const Rect& plain) {
  Rect box;
  for (std::size_t i = 0; i < look.count && !plain.empty(); ++i) {
    const Layer& layer = look.layers[i];
    if (look.opacity <= 0 || !shows_something(layer.fill)) continue;
    if (layer.inset) {
      box = enclosing(box, plain);
      continue;
    }
    // Grown and blurred edges are those of distances, which pixels see from half a pixel away.
    const float fades = detail::is_plain(layer) ? 0.0F : 0.5F;
    const Rect first = plain.moved(layer.shift);
    box = enclosing(box, enclosing(first, first.moved(layer.sweep)).grown(outward(layer) + fades));
  }
  return box;
}

}  // namespace

Rect ink_box(const FontStack& stack, const Paragraph& paragraph, const Look& look, const LookOf& look_of) {
  if (paragraph.styles.size() == 1) {
    return painted_box(in_pixels(look, paragraph.size), ink_box(stack, paragraph));
  }
  Rect box;
  for (std::uint32_t g = 0; g < paragraph.glyphs.size(); ++g) {
    const Look own = style_look(paragraph, paragraph.glyphs[g].style, look, look_of);
    box = enclosing(box, painted_box(own, ink_box(stack, paragraph, g, g + 1)));
  }
  for (const PlacedBar& bar : paragraph.bars) {
    box = enclosing(box, painted_box(style_look(paragraph, bar.style, look, look_of), bar.box));
  }
  return box;
}

}  // namespace grafema
