// SPDX-License-Identifier: MIT
// Paints color glyphs node by node onto pictures of floats.
#include "grafema/raster/color_paint.hpp"

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "raster/embedded_picture.hpp"
#include "raster/gradient.hpp"
#include "raster/scratch.hpp"

namespace grafema {
namespace {

using detail::Gradient;
using detail::Tone;

/// A picture as large as the target.
using Canvas = std::vector<Tone>;

Transform composed(const Transform& outer, const FontTransform& t) {
  return {outer.xx * t.xx + outer.xy * t.yx,
          outer.xx * t.xy + outer.xy * t.yy,
          outer.yx * t.xx + outer.yy * t.yx,
          outer.yx * t.xy + outer.yy * t.yy,
          outer.xx * t.dx + outer.xy * t.dy + outer.dx,
          outer.yx * t.dx + outer.yy * t.dy + outer.dy};
}

/// The other way round; nothing where the map squeezes everything into a line.
std::optional<Transform> inverse(const Transform& t) {
  const double d = double{t.xx} * t.yy - double{t.xy} * t.yx;
  if (!(std::abs(d) > 1e-20)) return std::nullopt;
  const auto f = [](double v) { return static_cast<float>(v); };
  return Transform{f(t.yy / d),
                   f(-t.xy / d),
                   f(-t.yx / d),
                   f(t.xx / d),
                   f((double{t.xy} * t.dy - double{t.yy} * t.dx) / d),
                   f((double{t.yx} * t.dx - double{t.xx} * t.dy) / d)};
}

Contours rectangle(const FontRect& r) {
  Contours c;
  c.move_to({r.x_min, r.y_min}), c.line_to({r.x_min, r.y_max}), c.line_to({r.x_max, r.y_max}),
      c.line_to({r.x_max, r.y_min}), c.close();
  return c;
}

class Painter {
 public:
  Painter(const Face& face, const ColorPaintOptions& options, const Image& target, RasterScratch& scratch)
      : face_(face),
        text_color_(options.text_color),
        width_(target.width()),
        height_(target.height()),
        scratch_(scratch) {
    std::vector<Palette> palettes = face.palettes();
    if (!palettes.empty()) {
      palette_ = std::move(palettes[options.palette < palettes.size() ? options.palette : 0].colors);
    }
  }

  Canvas empty() const {
    return Canvas(static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_));
  }

  Result<void> paint_layers(std::span<const ColorLayer> layers, const Transform& map, Canvas& onto) {
    for (const ColorLayer& layer : layers) {
      if (const Result<void> masked = find_mask(layer.glyph, map); !masked) return masked;
      const Tone color = tone(layer.color);
      for (std::size_t i = 0; i < onto.size(); ++i) onto[i] = over(color * mask_[i], onto[i]);
    }
    return {};
  }

  Result<void> paint_graph(const PaintGraph& graph, const Transform& map, Canvas& onto) {
    if (graph.paints.empty()) return {};
    return paint(graph, 0, map, onto);
  }

 private:
  Tone tone(const PaletteColor& c) const {
    Color color = c.entry == PaletteColor::kTextColor ? text_color_
                  : c.entry < palette_.size()         ? palette_[c.entry]
                                                      : Color{0, 0, 0, 1};
    color.alpha *= c.alpha;
    return detail::to_tone(color);
  }

  Result<void> find_mask(const Contours& outline, const Transform& map) {
    mask_.resize(static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_));
    return rasterize_coverage(outline, map, {0, 0, width_, height_}, mask_, scratch_);
  }

  Result<void> find_mask(GlyphId glyph, const Transform& map) {
    if (const Result<void> read = face_.read_outline(glyph, outline_); !read) return read;
    RasterScratch::Memory& memory = scratch_.memory();
    if (!memory.steps_given) memory.steps = detail::Steps();
    detail::unite(outline_, memory.steps);
    return find_mask(outline_, map);
  }

  /// The graph has no cycles and its depth is bounded: reading it has seen to that.
  Result<void> paint(const PaintGraph& graph, std::uint32_t index, const Transform& map, Canvas& onto) {
    const Paint& p = graph.paints[index];
    if (!p.clip) return paint_node(graph, p, map, onto);
    Canvas inner = empty();
    if (const Result<void> painted = paint_node(graph, p, map, inner); !painted) return painted;
    if (const Result<void> masked = find_mask(rectangle(*p.clip), map); !masked) return masked;
    for (std::size_t i = 0; i < onto.size(); ++i) onto[i] = over(inner[i] * mask_[i], onto[i]);
    return {};
  }

  Result<void> paint_node(const PaintGraph& graph, const Paint& p, const Transform& map, Canvas& onto) {
    switch (p.kind) {
      case PaintKind::solid:
        fill_solid(tone(p.color), onto);
        return {};
      case PaintKind::linear_gradient:
      case PaintKind::radial_gradient:
      case PaintKind::sweep_gradient:
        fill_gradient(p, map, onto);
        return {};
      case PaintKind::transform:
        return p.children.empty() ? Result<void>{}
                                  : paint(graph, p.children[0], composed(map, p.transform), onto);
      case PaintKind::glyph:
        return paint_glyph(graph, p, map, onto);
      case PaintKind::composite:
        return paint_composite(graph, p, map, onto);
      case PaintKind::layers:
        break;
    }
    for (const std::uint32_t child : p.children) {
      if (const Result<void> painted = paint(graph, child, map, onto); !painted) return painted;
    }
    return {};
  }

  static void fill_solid(const Tone& color, Canvas& onto) {
    for (Tone& t : onto) t = over(color, t);
  }

  void fill_gradient(const Paint& p, const Transform& map, Canvas& onto) const {
    std::vector<Gradient::Stop> stops;
    for (const ColorStop& s : p.stops) stops.push_back({s.offset, tone(s.color)});
    const Gradient gradient(p, std::move(stops));
    const std::optional<Transform> back = inverse(map);
    if (!back) return;
    for (int y = 0; y < height_; ++y) {
      for (int x = 0; x < width_; ++x) {
        const PixelPoint at = (*back)(static_cast<float>(x) + 0.5F, static_cast<float>(y) + 0.5F);
        Tone& t = onto[static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) +
                       static_cast<std::size_t>(x)];
        t = over(gradient.at({at.x, at.y}), t);
      }
    }
  }

  Result<void> paint_glyph(const PaintGraph& graph, const Paint& p, const Transform& map, Canvas& onto) {
    Canvas inner = empty();
    if (!p.children.empty()) {
      if (const Result<void> painted = paint(graph, p.children[0], map, inner); !painted) return painted;
    }
    if (const Result<void> masked = find_mask(p.glyph, map); !masked) return masked;
    for (std::size_t i = 0; i < onto.size(); ++i) onto[i] = over(inner[i] * mask_[i], onto[i]);
    return {};
  }

  Result<void> paint_composite(const PaintGraph& graph, const Paint& p, const Transform& map, Canvas& onto) {
    if (p.children.size() < 2) return {};
    Canvas source = empty(), backdrop = empty();
    if (const Result<void> painted = paint(graph, p.children[0], map, source); !painted) return painted;
    if (const Result<void> painted = paint(graph, p.children[1], map, backdrop); !painted) return painted;
    for (std::size_t i = 0; i < onto.size(); ++i) {
      onto[i] = over(composite(p.mode, source[i], backdrop[i]), onto[i]);
    }
    return {};
  }

  const Face& face_;
  Color text_color_;
  int width_, height_;
  RasterScratch& scratch_;
  std::vector<Color> palette_;
  Contours outline_;
  std::vector<float> mask_;
};

/// Lays the canvas over the target and rounds to 8 bits.
void put(const Canvas& canvas, Image& target) {
  using detail::to_byte;
  for (int y = 0; y < target.height(); ++y) {
    std::uint8_t* pixel = target.row(y);
    for (int x = 0; x < target.width(); ++x, pixel += 4) {
      const Tone& t = canvas[static_cast<std::size_t>(y) * static_cast<std::size_t>(target.width()) +
                             static_cast<std::size_t>(x)];
      if (!(t.alpha > 0)) continue;
      const float under = static_cast<float>(pixel[3]) / 255;
      const auto part = [&](int c) { return static_cast<float>(pixel[c]) / 255 * under; };
      const Tone sum = over(t, {part(0), part(1), part(2), under});
      pixel[0] = to_byte(sum.red / sum.alpha), pixel[1] = to_byte(sum.green / sum.alpha),
      pixel[2] = to_byte(sum.blue / sum.alpha);
      pixel[3] = to_byte(sum.alpha);
    }
  }
}

/// The box of what a graph paints, gathered from its glyphs; a graph's own clip box says it at once.
class BoxFinder {
 public:
  BoxFinder(const Face& face, const PaintGraph& graph) : face_(face), graph_(graph) {}

  FontRect find() {
    add(0, {});
    return box_;
  }

 private:
  void add(std::uint32_t index, const Transform& map) {
    const Paint& p = graph_.paints[index];
    if (p.clip) return add(*p.clip, map);
    if (p.kind == PaintKind::glyph) {
      Contours outline;
      if (face_.read_outline(p.glyph, outline)) add(bounds(outline), map);
      return;  // its child paints inside
    }
    const Transform inner = p.kind == PaintKind::transform ? composed(map, p.transform) : map;
    for (const std::uint32_t child : p.children) add(child, inner);
  }

  void add(const FontRect& r, const Transform& map) {
    if (r.empty()) return;
    for (const FontPoint corner :
         {FontPoint{r.x_min, r.y_min}, {r.x_max, r.y_min}, {r.x_min, r.y_max}, {r.x_max, r.y_max}}) {
      const PixelPoint p = map(corner.x, corner.y);
      if (!std::isfinite(p.x) || !std::isfinite(p.y)) continue;
      box_ = box_.empty() ? FontRect{p.x, p.y, p.x, p.y}
                          : FontRect{std::min(box_.x_min, p.x), std::min(box_.y_min, p.y),
                                     std::max(box_.x_max, p.x), std::max(box_.y_max, p.y)};
    }
  }

  const Face& face_;
  const PaintGraph& graph_;
  FontRect box_;
};

}  // namespace

Result<std::optional<FontRect>> color_box(const Face& face, GlyphId glyph, float size) {
  const Result<std::optional<PaintGraph>> graph = face.read_paint(glyph);
  if (!graph) return fail(graph.error());
  if (*graph && !(*graph)->paints.empty()) return BoxFinder(face, **graph).find();
  FontRect box;
  Contours outline;
  for (const ColorLayer& layer : face.color_layers(glyph)) {
    if (!face.read_outline(layer.glyph, outline)) continue;
    const FontRect b = bounds(outline);
    if (b.empty()) continue;
    box = box.empty() ? b
                      : FontRect{std::min(box.x_min, b.x_min), std::min(box.y_min, b.y_min),
                                 std::max(box.x_max, b.x_max), std::max(box.y_max, b.y_max)};
  }
  if (!box.empty()) return box;
  return detail::embedded_box(face, glyph, size);
}

Result<bool> paint_color_glyph(const Face& face, GlyphId glyph, const Transform& to_pixels,
                               const ColorPaintOptions& options, Image& target, RasterScratch& scratch) {
  if (target.format() != PixelFormat::rgba8) {
    return bad_value("an rgba8 picture to paint on");
  }
  const Result<std::optional<PaintGraph>> graph = face.read_paint(glyph);
  if (!graph) return fail(graph.error());
  const std::vector<ColorLayer> layers = *graph ? std::vector<ColorLayer>{} : face.color_layers(glyph);
  if (!*graph && layers.empty()) return detail::paint_embedded(face, glyph, to_pixels, options, target);
  // Every node may take a picture of its own.
  constexpr std::size_t kMaxWork = 1U << 26U;
  const std::size_t pixels =
      static_cast<std::size_t>(target.width()) * static_cast<std::size_t>(target.height());
  if (pixels * (*graph ? (*graph)->paints.size() : layers.size()) > kMaxWork) {
    return fail(
        make_error(ErrorKind::unsupported, "a color glyph of fewer parts, or a smaller picture of it"));
  }
  Painter painter(face, options, target, scratch);
  Canvas canvas = painter.empty();
  const Result<void> painted = *graph ? painter.paint_graph(**graph, to_pixels, canvas)
                                      : painter.paint_layers(layers, to_pixels, canvas);
  if (!painted) return fail(painted.error());
  put(canvas, target);
  return true;
}

}  // namespace grafema
