// SPDX-License-Identifier: MIT
// From drawn shapes to glyphs: strokes outlined, shapes united, placed between their bearings.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "grafema/base/utf8.hpp"
#include "grafema/write/shape_sheet.hpp"
#include "outline/flatten/quadratics.hpp"
#include "write/drawings/shape_ink.hpp"

namespace grafema {
namespace {

/// Font units that outlines may leave the true ones by.
constexpr double kTolerance = 0.5;

bool within(double v, double low, double high) { return v >= low && v <= high; }

class Drawer {
 public:
  /// `styles`: one, or those of a variable face, its default first.
  Drawer(const ShapeSheet& sheet, std::vector<const SheetStyle*> styles)
      : sheet_(sheet),
        styles_(std::move(styles)),
        scale_(sheet.units_per_em / double{sheet.em}),
        ink_(sheet, styles_) {}

  Result<void> run(FontDrawing& out) {
    const auto missing = std::find_if(sheet_.drawings.begin(), sheet_.drawings.end(),
                                      [](const CharacterDrawing& d) { return d.name == ".notdef"; });
    if (missing != sheet_.drawings.end()) {
      Result<DrawnGlyph> glyph = draw(*missing);
      if (!glyph) return fail(glyph.error());
      glyph->name.clear(), glyph->characters.clear();
      out.glyphs.push_back(*std::move(glyph));
    } else {
      DrawnGlyph box = empty_box();
      for (std::size_t w = 1; w < styles_.size(); ++w)
        box.masters.push_back({box.outline, box.advance, {}, {}});
      out.glyphs.push_back(std::move(box));
    }
    bool has_space = false;
    for (const CharacterDrawing& drawing : sheet_.drawings) {
      if (drawing.name == ".notdef") continue;
      for (const char32_t c : drawing.characters) {
        const auto [first, is_new] = seen_.emplace(c, drawing.place);
        if (!is_new)
          return bad_value("each character once", fmt::format("{} after {}", drawing.place, first->second));
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
    space.advance = units(sheet_.space * styles_[0]->widen);
    for (std::size_t w = 1; w < styles_.size(); ++w) {
      space.masters.push_back({{}, units(sheet_.space * styles_[w]->widen), {}, {}});
    }
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

  bool is_variable() const { return styles_.size() > 1; }

  /// United, in whole units; what can't be united is filled the same, with overlaps. Weights of a variable
  /// face keep their overlaps: their points must answer each other.
  void finish(std::vector<Contours>& outlines) const {
    if (is_variable()) {
      detail::make_quadratic(outlines, kTolerance);
      for (Contours& outline : outlines) {
        for (FontPoint& p : outline.points) p = {std::floor(p.x + 0.5F), std::floor(p.y + 0.5F)};
        outline.may_overlap = true;
      }
      return;
    }
    Contours& outline = outlines[0];
    unite(outline);
    outline.may_overlap = !outline.united;
    if (!sheet_.cff) {
      detail::make_quadratic(outlines, kTolerance);
      detail::round_outline(outlines[0]);
    }
  }

  struct Layer {
    std::vector<Contours> outlines;
    Color color;
  };

  Result<DrawnGlyph> draw(const CharacterDrawing& drawing) const {
    const std::vector<detail::SkeletonFit> fits = ink_.fit(drawing);
    DrawnGlyph glyph;
    glyph.characters = drawing.characters;
    glyph.name = name_of(drawing);
    std::vector<Contours> outlines(styles_.size());
    std::vector<Layer> layers;
    bool colored = false;
    for (const DrawnShape& shape : drawing.shapes) {
      std::vector<Contours> ink(styles_.size());
      if (Result<void> added = ink_.add(shape, fits, ink); !added) return fail(added.error());
      const Color color = shape.filled ? shape.fill : shape.stroke;
      colored = colored || color.red + color.green + color.blue > 0;
      if (layers.empty() || !(layers.back().color == color))
        layers.push_back({std::vector<Contours>(styles_.size()), color});
      for (std::size_t w = 0; w < styles_.size(); ++w) {
        detail::append(ink[w], outlines[w]), detail::append(ink[w], layers.back().outlines[w]);
      }
    }
    for (const Contours& outline : outlines) {
      for (const FontPoint p : outline.points) {
        if (!within(p.x, -16000, 16000) || !within(p.y, -16000, 16000))
          return bad_value("drawings within 16000 font units of their origin", drawing.place);
      }
    }
    finish(outlines);
    std::vector<float> shifts;
    for (std::size_t w = 0; w < styles_.size(); ++w) {
      DrawnMaster master = place(drawing, outlines[w], fits[w], *styles_[w], shifts);
      if (!within(master.advance, 0, 65535))
        return bad_value("advances of 0 to 65535 font units", drawing.place);
      if (w == 0) {
        glyph.outline = std::move(master.outline), glyph.advance = master.advance,
        glyph.anchors = std::move(master.anchors);
      } else {
        glyph.masters.push_back(std::move(master));
      }
    }
    for (Layer& layer : layers) {
      if (!sheet_.color || !colored || is_variable()) break;
      finish(layer.outlines), move(layer.outlines[0], shifts[0]);
      glyph.layers.push_back({std::move(layer.outlines[0]), layer.color});
    }
    return glyph;
  }

  static void move(Contours& outline, float x) {
    for (FontPoint& p : outline.points) p.x += x;
  }

  /// Between its bearings, with its anchors. Appends how far it was moved to `shifts`.
  DrawnMaster place(const CharacterDrawing& drawing, Contours& outline, const detail::SkeletonFit& fit,
                    const SheetStyle& style, std::vector<float>& shifts) const {
    DrawnMaster master;
    const FontRect box = bounds(outline);
    float shift = 0;
    const double left = drawing.left.value_or(sheet_.left_bearing),
                 right = drawing.right.value_or(sheet_.right_bearing);
    if (drawing.advance) {
      master.advance = units(*drawing.advance * style.widen);
    } else if (!box.empty()) {
      shift = units(left * style.bearings) - std::floor(box.x_min + 0.5F);
      master.advance = std::max(std::floor(box.x_max + 0.5F) + shift + units(right * style.bearings), 0.0F);
    } else {
      master.advance = units(sheet_.space);
    }
    move(outline, shift);
    shifts.push_back(shift);
    master.outline = std::move(outline);
    for (const DrawnAnchor& anchor : drawing.anchors) {
      const FontPoint at = fit(anchor.at), placed = ink_.to_font(at.x, at.y);
      master.anchors.push_back(
          {anchor.name, {std::floor(placed.x + shift + 0.5F), std::floor(placed.y + 0.5F)}, anchor.attaches});
    }
    return master;
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
  std::vector<const SheetStyle*> styles_;
  double scale_;
  detail::ShapeInk ink_;
  std::map<char32_t, std::string> seen_;
};

Result<void> check(const ShapeSheet& sheet) {
  if (sheet.units_per_em < 16 || sheet.units_per_em > 16384)
    return bad_value("units per em of 16 to 16384", std::to_string(sheet.units_per_em));
  if (!within(sheet.em, 1e-3, 1e6))
    return bad_value("an em of up to a million units", fmt::format("{}", sheet.em));
  for (const float v : {sheet.baseline, sheet.ascent, sheet.descent, sheet.line_gap, sheet.left_bearing,
                        sheet.right_bearing, sheet.space}) {
    if (!within(v, -1e6, 1e6)) return bad_value("lengths of up to a million units", fmt::format("{}", v));
  }
  if (sheet.space < 0) return bad_value("a space of 0 or more", fmt::format("{}", sheet.space));
  for (const SheetStyle& s : sheet.styles) {
    if (!within(s.pen, 0.01, 100) || !within(s.widen, 0.01, 100) || !within(s.bearings, 0, 100))
      return bad_value("a pen, width and bearings of 0.01 to 100 times the drawn ones", s.name);
  }
  if (sheet.drawings.empty()) return bad_value("at least one drawing", "none");
  return {};
}

Result<FontDrawing> draw(const ShapeSheet& sheet, std::vector<const SheetStyle*> styles) {
  const SheetStyle& chosen = *styles[0];
  const float scale = static_cast<float>(sheet.units_per_em) / sheet.em;
  FontDrawing drawing;
  drawing.names = sheet.names;
  drawing.names.style = chosen.name;
  drawing.weight_class = chosen.weight_class;
  drawing.units_per_em = sheet.units_per_em;
  drawing.lines = {std::floor(sheet.ascent * scale + 0.5F), std::floor(sheet.descent * scale + 0.5F),
                   std::floor(sheet.line_gap * scale + 0.5F)};
  drawing.cff = sheet.cff;
  for (std::size_t w = 1; w < styles.size(); ++w)
    drawing.masters.push_back({styles[w]->name, styles[w]->weight_class});
  if (const Result<void> drawn = Drawer(sheet, std::move(styles)).run(drawing); !drawn)
    return fail(drawn.error());
  for (const DrawnPair& pair : sheet.kerning)
    drawing.kerning.push_back({pair.left, pair.right, pair.value * scale});
  if (const Result<void> ruled = apply_rules(sheet.rules, scale, drawing); !ruled) return fail(ruled.error());
  return drawing;
}

}  // namespace

Result<FontDrawing> draw_from_shapes(const ShapeSheet& sheet, std::size_t style) {
  if (const Result<void> checked = check(sheet); !checked) return fail(checked.error());
  if (style >= sheet.styles.size()) return bad_value("one of the sheet's styles", std::to_string(style));
  return draw(sheet, {&sheet.styles[style]});
}

Result<FontDrawing> draw_variable_from_shapes(const ShapeSheet& sheet) {
  if (const Result<void> checked = check(sheet); !checked) return fail(checked.error());
  if (sheet.styles.size() < 2)
    return bad_value("two styles or more for a variable face", std::to_string(sheet.styles.size()));
  if (sheet.cff) return fail(make_error(ErrorKind::unsupported, "a variable face as .ttf", ".otf"));
  std::vector<const SheetStyle*> styles;
  for (const SheetStyle& style : sheet.styles) styles.push_back(&style);
  return draw(sheet, std::move(styles));
}

}  // namespace grafema
