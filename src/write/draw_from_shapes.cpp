// SPDX-License-Identifier: MIT
// From drawn shapes to glyphs: strokes outlined, shapes united, placed between their bearings.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "grafema/base/utf8.hpp"
#include "grafema/write/shape_sheet.hpp"
#include "outline/pen.hpp"
#include "outline/quadratics.hpp"
#include "write/skeleton_fit.hpp"

namespace grafema {
namespace {

/// Font units that outlines may leave the true ones by.
constexpr double kTolerance = 0.5;

tl::unexpected<Error> bad(const char* expected, const std::string& found) {
  return fail(make_error(ErrorKind::bad_value, expected, found));
}

bool within(double v, double low, double high) { return v >= low && v <= high; }

/// Turns contours round: transforms that mirror do.
void reverse(Contours& contours) {
  Contours out;
  std::size_t at = 0;
  for (std::size_t i = 0; i < contours.commands.size();) {
    std::vector<PathCommand> commands;
    std::vector<FontPoint> points = {contours.points[at++]};
    for (++i; i < contours.commands.size() && contours.commands[i] != PathCommand::moveto; ++i) {
      const PathCommand c = contours.commands[i];
      if (c == PathCommand::closepath) continue;
      commands.push_back(c);
      const std::size_t taken = c == PathCommand::lineto ? 1 : c == PathCommand::quadratic_curveto ? 2 : 3;
      for (std::size_t k = 0; k < taken; ++k) points.push_back(contours.points[at++]);
    }
    out.commands.push_back(PathCommand::moveto);
    out.commands.insert(out.commands.end(), commands.rbegin(), commands.rend());
    out.points.insert(out.points.end(), points.rbegin(), points.rend());
    out.close();
  }
  contours = std::move(out);
}

class Drawer {
 public:
  Drawer(const ShapeSheet& sheet, const SheetStyle& style)
      : sheet_(sheet), style_(style), scale_(sheet.units_per_em / double{sheet.em}) {}

  Result<void> run(FontDrawing& out) {
    const auto missing = std::find_if(sheet_.drawings.begin(), sheet_.drawings.end(),
                                      [](const CharacterDrawing& d) { return d.name == ".notdef"; });
    if (missing != sheet_.drawings.end()) {
      Result<DrawnGlyph> glyph = draw(*missing);
      if (!glyph) return fail(glyph.error());
      glyph->name.clear(), glyph->characters.clear();
      out.glyphs.push_back(*std::move(glyph));
    } else {
      out.glyphs.push_back(empty_box());
    }
    bool has_space = false;
    for (const CharacterDrawing& drawing : sheet_.drawings) {
      if (drawing.name == ".notdef") continue;
      for (const char32_t c : drawing.characters) {
        const auto [first, is_new] = seen_.emplace(c, drawing.place);
        if (!is_new)
          return bad("each character once", fmt::format("{} after {}", drawing.place, first->second));
        has_space = has_space || c == U' ';
      }
      Result<DrawnGlyph> glyph = draw(drawing);
      if (!glyph) return fail(glyph.error());
      out.glyphs.push_back(*std::move(glyph));
    }
    if (has_space) return {};
    DrawnGlyph space;
    space.characters = {0x20};
    if (!seen_.contains(0xA0)) space.characters.push_back(0xA0);
    space.advance = units(sheet_.space * style_.widen);
    space.name = "space";
    out.glyphs.push_back(std::move(space));
    return {};
  }

 private:
  float units(double v) const { return static_cast<float>(std::floor(v * scale_ + 0.5)); }

  DrawnGlyph empty_box() const {
    const float w = units(sheet_.em * 0.5), h = units(sheet_.ascent * 0.9), line = units(sheet_.em * 0.05),
                side = units(sheet_.em * 0.06);
    DrawnGlyph box;
    box.advance = w + 2 * side;
    const auto frame = [&](float inset, bool turned) {
      const float l = side + inset, r = side + w - inset, b = inset, t = h - inset;
      box.outline.move_to({l, b});
      box.outline.line_to(turned ? FontPoint{r, b} : FontPoint{l, t});
      box.outline.line_to({r, t});
      box.outline.line_to(turned ? FontPoint{l, t} : FontPoint{r, b});
      box.outline.close();
    };
    frame(0, false), frame(line, true);
    return box;
  }

  FontPoint to_font(double x, double y) const {
    return {static_cast<float>(x * scale_), static_cast<float>((sheet_.baseline - y) * scale_)};
  }

  /// Appends to `out` what the shape inks; font units, y up.
  Result<void> add_shape(const DrawnShape& shape, const detail::SkeletonFit& fit, Contours& out) const {
    if (shape.filled) {
      Contours filled = shape.path;
      for (FontPoint& p : filled.points) {
        const PixelPoint q = shape.to_drawing(p.x, p.y);
        const FontPoint fitted = fit({q.x, q.y});
        p = to_font(fitted.x, fitted.y);
      }
      if (shape.even_odd && !detail::make_nonzero(filled))
        return bad("even-odd fills whose contours do not cross", shape.element);
      unite(filled);
      append(filled, out);
    }
    if (shape.stroked) add_stroke(shape, fit, out);
    return {};
  }

  void add_stroke(const DrawnShape& shape, const detail::SkeletonFit& fit, Contours& out) const {
    const Transform& t = shape.to_drawing;
    const double area = double{t.xx} * t.yy - double{t.xy} * t.yx, size = std::sqrt(std::abs(area));
    // Turned, mirrored or scaled alike both ways: the pen stays round, and the skeleton may be fitted.
    const double off =
        std::abs(double{t.xx} * t.xy + double{t.yx} * t.yy) +
        std::abs(double{t.xx} * t.xx + double{t.yx} * t.yx - double{t.xy} * t.xy - double{t.yy} * t.yy);
    const bool round_pen = off <= 1e-4 * size * size;
    detail::PenLine line{shape.path, shape.width};
    detail::PenStyle style{shape.cap, shape.join, shape.miter_limit, kTolerance / scale_};
    if (round_pen) {
      for (FontPoint& p : line.skeleton.points) {
        const PixelPoint q = t(p.x, p.y);
        p = fit({q.x, q.y});
      }
      line.width *= size * (1 + (style_.pen - 1) * shape.pen_share);
    } else {
      style.tolerance /= std::max(size, 1e-6);
    }
    std::vector<Contours> outlined(1);
    detail::outline_pen({line}, style, outlined);
    Contours& pen = outlined[0];
    for (FontPoint& p : pen.points) {
      const PixelPoint q = round_pen ? PixelPoint{p.x, p.y} : t(p.x, p.y);
      p = to_font(q.x, q.y);
    }
    // The pen runs clockwise where y goes up; turning y over turns it round, a mirroring transform once more.
    if (round_pen || area > 0) reverse(pen);
    append(pen, out);
  }

  static void append(const Contours& from, Contours& to) {
    to.commands.insert(to.commands.end(), from.commands.begin(), from.commands.end());
    to.points.insert(to.points.end(), from.points.begin(), from.points.end());
    to.united = false;
  }

  /// United, in whole units. What can't be united is filled the same, with overlaps.
  void finish(Contours& outline) const {
    unite(outline);
    outline.may_overlap = !outline.united;
    if (!sheet_.cff) {
      detail::make_quadratic(outline, kTolerance);
      detail::round_outline(outline);
    }
  }

  Result<DrawnGlyph> draw(const CharacterDrawing& drawing) const {
    const detail::SkeletonFit fit(drawing, sheet_, style_);
    DrawnGlyph glyph;
    glyph.characters = drawing.characters;
    glyph.name = name_of(drawing);
    Contours outline;
    std::vector<DrawnLayer> layers;
    bool colored = false;
    for (const DrawnShape& shape : drawing.shapes) {
      Contours ink;
      if (Result<void> added = add_shape(shape, fit, ink); !added) return fail(added.error());
      append(ink, outline);
      const Color color = shape.filled ? shape.fill : shape.stroke;
      colored = colored || color.red + color.green + color.blue > 0;
      if (layers.empty() || !(layers.back().color == color)) layers.push_back({{}, color});
      append(ink, layers.back().outline);
    }
    for (const FontPoint p : outline.points) {
      if (!within(p.x, -16000, 16000) || !within(p.y, -16000, 16000))
        return bad("drawings within 16000 font units of their origin", drawing.place);
    }
    finish(outline);
    const FontRect box = bounds(outline);
    float shift = 0;
    const double left = drawing.left.value_or(sheet_.left_bearing),
                 right = drawing.right.value_or(sheet_.right_bearing);
    if (drawing.advance) {
      glyph.advance = units(*drawing.advance * style_.widen);
    } else if (!box.empty()) {
      const float wanted = units(left * style_.bearings);
      shift = wanted - std::floor(box.x_min + 0.5F);
      glyph.advance = std::max(std::floor(box.x_max + 0.5F) + shift + units(right * style_.bearings), 0.0F);
    } else {
      glyph.advance = units(sheet_.space);
    }
    if (!within(glyph.advance, 0, 65535)) return bad("advances of 0 to 65535 font units", drawing.place);
    const auto move = [shift](Contours& c) {
      for (FontPoint& p : c.points) p.x += shift;
    };
    move(outline);
    glyph.outline = std::move(outline);
    for (DrawnLayer& layer : layers) {
      if (!sheet_.color || !colored) break;
      finish(layer.outline), move(layer.outline);
      glyph.layers.push_back(std::move(layer));
    }
    for (const DrawnAnchor& anchor : drawing.anchors) {
      const FontPoint at = fit(anchor.at);
      const FontPoint placed = to_font(at.x, at.y);
      glyph.anchors.push_back(
          {anchor.name, {std::floor(placed.x + shift + 0.5F), std::floor(placed.y + 0.5F)}, anchor.attaches});
    }
    return glyph;
  }

  /// Names of files and elements, in the letters that names of glyphs may have.
  static std::string name_of(const CharacterDrawing& drawing) {
    std::string name;
    for (const char c : drawing.name) {
      const bool good =
          (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '.' || c == '_';
      if (!good && c != '-' && c != ' ') return {};  // made from its character
      name += good ? c : '_';
    }
    return name;
  }

  const ShapeSheet& sheet_;
  const SheetStyle& style_;
  double scale_;
  std::map<char32_t, std::string> seen_;
};

Result<void> check(const ShapeSheet& sheet, std::size_t style) {
  if (sheet.units_per_em < 16 || sheet.units_per_em > 16384)
    return bad("units per em of 16 to 16384", std::to_string(sheet.units_per_em));
  if (!within(sheet.em, 1e-3, 1e6)) return bad("an em of up to a million units", fmt::format("{}", sheet.em));
  for (const float v : {sheet.baseline, sheet.ascent, sheet.descent, sheet.line_gap, sheet.left_bearing,
                        sheet.right_bearing, sheet.space}) {
    if (!within(v, -1e6, 1e6)) return bad("lengths of up to a million units", fmt::format("{}", v));
  }
  if (sheet.space < 0) return bad("a space of 0 or more", fmt::format("{}", sheet.space));
  if (style >= sheet.styles.size()) return bad("one of the sheet's styles", std::to_string(style));
  const SheetStyle& s = sheet.styles[style];
  if (!within(s.pen, 0.01, 100) || !within(s.widen, 0.01, 100) || !within(s.bearings, 0, 100))
    return bad("a pen, width and bearings of 0.01 to 100 times the drawn ones", s.name);
  if (sheet.drawings.empty()) return bad("at least one drawing", "none");
  return {};
}

}  // namespace

Result<FontDrawing> draw_from_shapes(const ShapeSheet& sheet, std::size_t style) {
  if (const Result<void> checked = check(sheet, style); !checked) return fail(checked.error());
  const SheetStyle& chosen = sheet.styles[style];
  const float scale = sheet.units_per_em / sheet.em;
  FontDrawing drawing;
  drawing.names = sheet.names;
  drawing.names.style = chosen.name;
  drawing.weight_class = chosen.weight_class;
  drawing.units_per_em = sheet.units_per_em;
  drawing.lines = {std::floor(sheet.ascent * scale + 0.5F), std::floor(sheet.descent * scale + 0.5F),
                   std::floor(sheet.line_gap * scale + 0.5F)};
  drawing.cff = sheet.cff;
  if (const Result<void> drawn = Drawer(sheet, chosen).run(drawing); !drawn) return fail(drawn.error());
  for (const DrawnPair& pair : sheet.kerning)
    drawing.kerning.push_back({pair.left, pair.right, pair.value * scale});
  if (const Result<void> ruled = apply_rules(sheet.rules, scale, drawing); !ruled) return fail(ruled.error());
  return drawing;
}

}  // namespace grafema
