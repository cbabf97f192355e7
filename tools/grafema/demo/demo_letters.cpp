// SPDX-License-Identifier: MIT
// Letters taken apart: dots, lines, marks, and a destination blind whose words melt.
#include <algorithm>
#include <array>
#include <cmath>

#include "demo/demo_canvas.hpp"
#include "grafema/draw/morph_text.hpp"
#include "grafema/outline/outline_points.hpp"
#include "grafema/outline/stroke.hpp"
#include "grafema/outline/triangles.hpp"
#include "grafema/raster/raster.hpp"
#include "grafema/sheet/captions.hpp"
#include "grafema/text/text_outline.hpp"

namespace grafema::tool {
namespace {

/// Outlines in pixels, y up, filled with one color.
class OutlineScene {
 public:
  OutlineScene() : scene_("#141a34") {}

  void fill(const Contours& contours, PixelPoint at, const Color& with) {
    const FontRect box = bounds(contours);
    if (box.empty()) return;
    const Rect area = Rect{box.x_min + at.x, at.y - box.y_max, box.x_max + at.x, at.y - box.y_min}.grown(1);
    Image& image = scene_.image();
    PixelRect cell = rounded_out(area);
    const int right = std::min(cell.x + cell.width, image.width()),
              bottom = std::min(cell.y + cell.height, image.height());
    cell.x = std::max(cell.x, 0), cell.y = std::max(cell.y, 0);
    cell.width = right - cell.x, cell.height = bottom - cell.y;
    if (cell.empty()) return;
    covered_.resize(static_cast<std::size_t>(cell.width) * static_cast<std::size_t>(cell.height));
    value_or_give_up(
        rasterize_coverage(contours, Transform{1, 0, 0, -1, at.x, at.y}, cell, covered_, scratch_));
    for (int y = 0; y < cell.height; ++y) {
      std::uint8_t* to = image.row(cell.y + y) + 4 * cell.x;
      for (int x = 0; x < cell.width; ++x, to += 4) {
        mix(to, with,
            covered_[static_cast<std::size_t>(y) * static_cast<std::size_t>(cell.width) +
                     static_cast<std::size_t>(x)]);
      }
    }
  }

  void caption(std::string_view text, PixelPoint at) {
    draw_caption(scene_.image(), std::string(text), at, color("#9fb4cc"), 2);
  }
  DemoScene& scene() { return scene_; }

 private:
  /// In linear light.
  static void mix(std::uint8_t* to, const Color& with, float share) {
    const std::array<float, 3> wanted = {with.red, with.green, with.blue};
    for (std::size_t i = 0; i < 3; ++i) {
      const float under = to_linear(static_cast<float>(to[i]) / 255);
      to[i] = static_cast<std::uint8_t>(
          std::lround(255 * to_srgb(under + (to_linear(wanted[i]) - under) * share * with.alpha)));
    }
  }

  DemoScene scene_;
  RasterScratch scratch_;
  std::vector<float> covered_;
};

/// A line of text as united letters around its top left corner.
std::vector<LetterOutline> letters_of(std::string_view text, float size, bool bold) {
  const FontStack stack{demo_face(bold)};
  ShapeCache cache;
  Paragraph paragraph;
  value_or_give_up(lay_out(stack, text, {.size = size}, cache, paragraph));
  std::vector<LetterOutline> letters;
  value_or_give_up(outline_text(stack, paragraph, letters));
  for (LetterOutline& letter : letters) unite(letter.contours);
  return letters;
}

void draw_dotted_word(OutlineScene& scene) {
  Contours dot, dots;
  OutlinePoints outline;
  std::vector<OutlinePoint> points;
  add_circle(2.6F, dot);
  const PixelPoint at{40, 40};
  for (const LetterOutline& letter : letters_of("Salt & Glass", 132, true)) {
    outline.measure(letter.contours);
    value_or_give_up(outline.spread_by(8.4, true, points));
    dots.clear();
    value_or_give_up(place_marks(points, dot, {}, dots));
    scene.fill(dots, at, color("#f2b33d"));
  }
  scene.caption("points 8.4 px apart, corners kept", {44, 206});
}

void draw_lines(OutlineScene& scene) {
  const PixelPoint at{40, 236};
  float drawn = 0.2F;
  for (const LetterOutline& letter : letters_of("Tramway", 118, true)) {
    Contours line;
    value_or_give_up(
        stroke(letter.contours, {.width = 7, .join = StrokeJoin::round, .tolerance = 0.05F}, line));
    scene.fill(line, at, color("#2c3767"));
    value_or_give_up(stroke(
        letter.contours,
        {.width = 3, .cap = StrokeCap::round, .join = StrokeJoin::round, .to = drawn, .tolerance = 0.05F},
        line));
    scene.fill(line, at, color("#7ef0c9"));
    drawn = std::min(drawn + 0.14F, 1.0F);
  }
  scene.caption("lines, drawn on letter by letter", {44, 388});
  for (const LetterOutline& letter : letters_of("Quay", 96, true)) {
    Contours line;
    value_or_give_up(stroke(
        letter.contours, {.width = 4, .cap = StrokeCap::round, .dashes = {0, 8}, .tolerance = 0.05F}, line));
    scene.fill(line, {690, 250}, color("#f7d488"));
    value_or_give_up(
        stroke(letter.contours,
               {.width = 2, .join = StrokeJoin::miter, .dashes = {14, 6, 3, 6}, .tolerance = 0.05F}, line));
    scene.fill(line, {980, 250}, color("#e98a6a"));
  }
  scene.caption("dashes with round and butt caps", {694, 388});
}

/// Arrows that go around a title, and letters that stand on another.
void draw_marks(OutlineScene& scene) {
  OutlinePoints outline;
  std::vector<OutlinePoint> points;
  Contours arrow, marks;
  add_arrow(9, arrow);
  for (const LetterOutline& letter : letters_of("HALT", 132, true)) {
    scene.fill(letter.contours, {40, 414}, color("#26305c"));
    outline.measure(letter.contours);
    value_or_give_up(outline.spread_by(15, false, points));
    marks.clear();
    value_or_give_up(place_marks(points, arrow, {.along = true}, marks));
    scene.fill(marks, {40, 414}, color("#8fd3ff"));
  }
  scene.caption("marks along a title", {44, 576});
  const std::vector<LetterOutline> words = letters_of("last tram to quillmere ", 14, true);
  std::size_t next = 0;
  for (const LetterOutline& letter : letters_of("O", 170, true)) {
    outline.measure(letter.contours);
    value_or_give_up(outline.spread_by(10.5, false, points));
    for (const OutlinePoint& p : points) {
      if (p.hole) continue;
      Contours glyph = words[next % words.size()].contours;
      ++next;
      const FontRect box = bounds(glyph);
      for (FontPoint& q : glyph.points) q.x -= (box.x_min + box.x_max) / 2, q.y += 13;
      marks.clear();
      value_or_give_up(place_marks({&p, 1}, glyph, {.along = true, .aside = 3}, marks));
      scene.fill(marks, {590, 402}, color("#fdf3d0"));
    }
  }
  scene.caption("text along outlines", {564, 576});
}

/// What a physics engine takes.
void draw_pieces(OutlineScene& scene) {
  const std::array<const char*, 5> tints = {"#6b8cff", "#7ef0c9", "#f2b33d", "#e98a6a", "#c792ff"};
  std::size_t tint = 0;
  for (const LetterOutline& letter : letters_of("Sg&", 150, true)) {
    Triangles triangles;
    value_or_give_up(triangulate(letter.contours, 0.4F, triangles, TriangleShape::rounded));
    ConvexPieces pieces;
    make_convex_pieces(triangles, pieces);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      Contours piece;
      for (const std::uint32_t index : pieces.piece(i)) {
        if (piece.commands.empty()) {
          piece.move_to(triangles.points[index]);
        } else {
          piece.line_to(triangles.points[index]);
        }
      }
      piece.close();
      scene.fill(piece, {880, 404}, color(tints[tint++ % tints.size()]));
    }
  }
  scene.caption("convex pieces for physics", {884, 576});
}

/// Five moments of a destination blind.
void draw_blind(OutlineScene& scene) {
  const auto morph =
      value_or_give_up(MorphText::make(FontStack{demo_face(true)}, {"Pale Orchard", "Larkspur Halt"},
                                       {.style = {.size = 28}, .stagger = 0.35F}));
  Contours letters;
  for (int i = 0; i < 5; ++i) {
    const float left = 22 + 252 * static_cast<float>(i);
    scene.scene().bar({left, 622, left + 232, 742}, "#0b0f22");
    scene.scene().bar({left + 6, 640, left + 226, 724}, "#101735");
    morph->outline(static_cast<float>(i) / 4, letters);
    const Rect reach = morph->reach();
    const PixelPoint at{left + 116 - (reach.left + reach.right) / 2, 682 - (reach.top + reach.bottom) / 2};
    scene.fill(letters, at, color("#ffc247"));
  }
  scene.caption("a destination blind: one word melts into the next", {26, 762});
}

}  // namespace

Image draw_letters() {
  OutlineScene scene;
  draw_dotted_word(scene);
  draw_lines(scene);
  draw_marks(scene);
  draw_pieces(scene);
  draw_blind(scene);
  return scene.scene().take();
}

}  // namespace grafema::tool
