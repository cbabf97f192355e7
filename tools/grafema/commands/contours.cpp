// SPDX-License-Identifier: MIT
// grafema contours: letters as outlines, points, lines and marks.
#include <fmt/format.h>

#include <cmath>

#include "grafema/outline/outline_points.hpp"
#include "grafema/outline/stroke.hpp"
#include "grafema/outline/triangles.hpp"
#include "grafema/text/text_outline.hpp"
#include "options/options.hpp"
#include "reports/json_lines.hpp"

namespace grafema::tool {
namespace {

struct ContoursOptions {
  LayoutOptions layout;
  std::optional<long> points;
  std::optional<std::string> step, stroke, marks, svg;
  std::string cap = "butt", join = "miter", dashes, drawn = "0,1", mark_size = "20", mark_font;
  bool corners = false, united = false, along = false, json = false;
};

/// A letter of the text, in units of the first face, around its pen.
struct Letter {
  std::uint32_t glyph = 0;  // of the paragraph
  float x = 0, y = 0;       // its pen, y up from the first line's baseline
  Contours contours;
  std::vector<OutlinePoint> points;
};

/// What was made of all letters.
class Shapes {
 public:
  Shapes(const ContoursOptions& options, const LaidOut& laid) : options_(options), laid_(laid) {
    units_ = laid.stack[0]->units_per_em();
    per_pixel_ = units_ / laid.paragraph.size;
  }

  void make() {
    std::vector<LetterOutline> outlines;
    value_or_give_up(outline_text(laid_.stack, laid_.paragraph, outlines, nullptr));
    const float baseline = laid_.paragraph.lines[0].baseline;
    for (const LetterOutline& outline : outlines) {
      const PixelPoint pen = laid_.paragraph.glyphs[outline.glyph].origin();
      Letter& letter = letters.emplace_back();
      letter.glyph = outline.glyph;
      letter.x = pen.x * per_pixel_, letter.y = (baseline - pen.y) * per_pixel_;
      read(letter);
      if (options_.united || options_.stroke) unite(letter.contours);
      if (options_.points || options_.step) spread(letter);
      if (options_.stroke) draw_line(letter);
      if (options_.marks) place(letter);
    }
  }

  float units() const { return units_; }
  std::vector<Letter> letters;

 private:
  /// As the font file has it where that is its size: whole numbers stay whole.
  void read(Letter& letter) const {
    const PlacedGlyph& glyph = laid_.paragraph.glyphs[letter.glyph];
    const FontStack& faces = laid_.paragraph.rich_fonts ? *laid_.paragraph.rich_fonts : laid_.stack;
    const Face& face = *faces[glyph.face]->face();
    if (!face.read_outline(glyph.glyph, letter.contours)) letter.contours.clear();
    const float scale = laid_.paragraph.glyph_size(glyph) / face.units_per_em() * per_pixel_;
    const float lean = laid_.paragraph.faces[glyph.face].lean;
    if (std::abs(scale - 1) < 1e-6F && lean == 0) return;
    for (FontPoint& p : letter.contours.points) p = {(p.x + p.y * lean) * scale, p.y * scale};
  }

  void spread(Letter& letter) {
    outline_.measure(letter.contours);
    if (options_.points) {
      value_or_give_up(
          outline_.spread(static_cast<std::size_t>(*options_.points), options_.corners, letter.points));
    } else {
      const double step = to_number(*options_.step, "--step", 1e-3F, 1e6F);
      value_or_give_up(outline_.spread_by(step, options_.corners, letter.points));
    }
  }

  void draw_line(Letter& letter) const {
    StrokeStyle style;
    style.width = to_number(*options_.stroke, "--stroke", 1e-3F, 1e5F) * per_pixel_;
    style.cap = options_.cap == "round"    ? StrokeCap::round
                : options_.cap == "square" ? StrokeCap::square
                                           : StrokeCap::butt;
    style.join = options_.join == "round"   ? StrokeJoin::round
                 : options_.join == "bevel" ? StrokeJoin::bevel
                                            : StrokeJoin::miter;
    if (!options_.dashes.empty()) {
      for (const std::string& d : split(options_.dashes, "--dashes"))
        style.dashes.push_back(to_number(d, "--dashes", 0, 1e5F) * per_pixel_);
    }
    const std::vector<std::string> shares = split(options_.drawn, "--drawn", 2);
    style.from = to_number(shares[0], "--drawn", 0, 1), style.to = to_number(shares[1], "--drawn", 0, 1);
    style.tolerance = units_ / 2000;
    Contours line;
    value_or_give_up(stroke(letter.contours, style, line));
    letter.contours = std::move(line);
  }

  /// dot, arrow, or the letters of a text, one after the other.
  void place(Letter& letter) {
    const float size = to_number(options_.mark_size, "--mark-size", 1e-3F, 1e5F) * per_pixel_;
    Contours out;
    if (*options_.marks == "dot" || *options_.marks == "arrow") {
      Contours mark;
      if (*options_.marks == "dot") {
        add_circle(size / 2, mark);
      } else {
        add_arrow(size, mark);
      }
      value_or_give_up(
          place_marks(letter.points, mark, {.along = options_.along || *options_.marks == "arrow"}, out));
    } else {
      place_text(letter, size, out);
    }
    letter.contours = std::move(out);
  }

  void place_text(const Letter& letter, float size, Contours& out) {
    if (mark_glyphs_.empty()) {
      TextStyle style;
      style.size = laid_.paragraph.size;
      const FontStack faces =
          options_.mark_font.empty() ? laid_.stack : stack_of(load_fonts({options_.mark_font}, 0, {}));
      ShapeCache cache;
      Paragraph paragraph;
      value_or_give_up(lay_out(faces, *options_.marks, style, cache, paragraph));
      std::vector<LetterOutline> outlines;
      value_or_give_up(outline_text(faces, paragraph, outlines));
      for (LetterOutline& o : outlines) {
        // Its middle on the baseline, as high as wide: scaled to an em of `size`.
        const PlacedGlyph& glyph = paragraph.glyphs[o.glyph];
        const PixelPoint pen = glyph.origin();
        for (FontPoint& p : o.contours.points) {
          p = {(p.x - pen.x - glyph.advance / 2) / style.size * size, (p.y + pen.y) / style.size * size};
        }
        mark_glyphs_.push_back(std::move(o.contours));
      }
    }
    for (std::size_t i = 0; i < letter.points.size() && !mark_glyphs_.empty(); ++i) {
      value_or_give_up(place_marks({&letter.points[i], 1}, mark_glyphs_[i % mark_glyphs_.size()],
                                   {.along = options_.along}, out));
    }
  }

  const ContoursOptions& options_;
  const LaidOut& laid_;
  float units_, per_pixel_;
  OutlinePoints outline_;
  std::vector<Contours> mark_glyphs_;
};

/// The commands of a path with their points, in the letters of SVG.
template <class Visit>
void each_command(const Contours& c, Visit visit) {
  std::size_t at = 0;
  for (const PathCommand command : c.commands) {
    const std::size_t count = command == PathCommand::curveto             ? 3
                              : command == PathCommand::quadratic_curveto ? 2
                              : command == PathCommand::closepath         ? 0
                                                                          : 1;
    visit("MLQCZ"[static_cast<std::size_t>(command)], std::span(c.points).subspan(at, count));
    at += count;
  }
}

Json contours_json(const Contours& c) {
  Json contours = Json::array();
  each_command(c, [&](char name, std::span<const FontPoint> points) {
    if (name == 'M' || contours.empty()) contours.push_back(Json::array());
    Json command = Json::array({std::string(1, name)});
    for (const FontPoint p : points) command.push_back(number(p.x)), command.push_back(number(p.y));
    contours.back().push_back(command);
  });
  return contours;
}

Json points_json(const std::vector<OutlinePoint>& points) {
  Json out = Json::array();
  for (const OutlinePoint& p : points) {
    Json point = {{"x", number(p.place.x)},
                  {"y", number(p.place.y)},
                  {"tangent", {number(p.tangent.x), number(p.tangent.y)}},
                  {"normal", {number(p.normal.x), number(p.normal.y)}},
                  {"curvature", number(p.curvature)},
                  {"contour", p.contour},
                  {"at", number(p.fraction)}};
    if (p.hole) point["hole"] = true;
    if (p.corner) point["corner"] = true;
    out.push_back(point);
  }
  return out;
}

std::string document(const Shapes& shapes, const LaidOut& laid) {
  Json out = {{"units_per_em", number(shapes.units())}, {"glyphs", Json::array()}};
  for (const Letter& letter : shapes.letters) {
    const PlacedGlyph& glyph = laid.paragraph.glyphs[letter.glyph];
    Json item = {{"glyph", index_of(glyph.glyph)}, {"text_start", glyph.text_start}, {"x", number(letter.x)}};
    if (letter.y != 0) item["y"] = number(letter.y);
    item["advance"] = number(glyph.advance * shapes.units() / laid.paragraph.size);
    item["contours"] = contours_json(letter.contours);
    if (!letter.points.empty()) item["points"] = points_json(letter.points);
    out["glyphs"].push_back(item);
  }
  return to_lines(out);
}

/// SVG 2: y down, a path for each letter; points, where nothing stands on them, as dots.
std::string svg_of(const Shapes& shapes, const LaidOut& laid, bool dots) {
  const Paragraph& p = laid.paragraph;
  const float scale = shapes.units() / p.size, border = shapes.units() / 10;
  FontRect box{0, -p.advance_box.height() * scale + p.lines[0].baseline * scale,
               p.advance_box.width() * scale, p.lines[0].baseline * scale};
  std::string paths;
  for (const Letter& letter : shapes.letters) {
    std::string path;
    each_command(letter.contours, [&](char name, std::span<const FontPoint> points) {
      path += name;
      const char* comma = "";
      for (const FontPoint q : points) {
        const float x = letter.x + q.x, y = letter.y + q.y;
        box = {std::min(box.x_min, x), std::min(box.y_min, y), std::max(box.x_max, x),
               std::max(box.y_max, y)};
        path += fmt::format("{}{} {}", comma, x, -y);
        comma = " ";
      }
    });
    if (!path.empty())
      paths += fmt::format(
          "  <path d=\"{}\"{}/>\n", path,
          dots ? " fill=\"none\" stroke=\"#8a8f98\" stroke-width=\"1\" vector-effect=\"non-scaling-stroke\""
               : "");
    for (const OutlinePoint& point : letter.points) {
      if (!dots) break;
      paths += fmt::format("  <circle cx=\"{}\" cy=\"{}\" r=\"{}\"/>\n", letter.x + point.place.x,
                           -(letter.y + point.place.y), shapes.units() / 120);
    }
  }
  const float width = box.x_max - box.x_min + 2 * border, height = box.y_max - box.y_min + 2 * border;
  return fmt::format(
      "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{}\" height=\"{}\" viewBox=\"{} {} {} "
      "{}\">\n{}</svg>\n",
      width / scale, height / scale, box.x_min - border, -box.y_max - border, width, height, paths);
}

void print_report(const Shapes& shapes, const LaidOut& laid) {
  OutlinePoints outline;
  Triangles triangles;
  fmt::print("units   {} per em\n", shapes.units());
  for (const Letter& letter : shapes.letters) {
    const PlacedGlyph& glyph = laid.paragraph.glyphs[letter.glyph];
    outline.measure(letter.contours);
    value_or_give_up(triangulate(letter.contours, shapes.units() / 4000, triangles));
    fmt::print(
        "glyph {:>5}  byte {:>3}  x {:>9.2f}  {} contours, {} curves, {:.1f} units long, {:.0f} square units",
        index_of(glyph.glyph), glyph.text_start, letter.x, outline.contour_count(),
        letter.contours.commands.size() - 2 * outline.contour_count(), outline.length(), triangles.area());
    fmt::print("{}\n", letter.points.empty() ? "" : fmt::format(", {} points", letter.points.size()));
  }
}

int run_contours(const ContoursOptions& options) {
  if (options.points && options.step) throw Failure{wrong_usage, "expected --points or --step, found both"};
  if (options.marks && !options.points && !options.step)
    throw Failure{wrong_usage, "--marks stand on points: expected --points or --step"};
  if (options.marks && options.stroke) throw Failure{wrong_usage, "expected --stroke or --marks, found both"};
  const auto one_of = [](const std::string& value, const char* option,
                         std::initializer_list<std::string_view> names) {
    for (const std::string_view name : names) {
      if (name == value) return;
    }
    throw Failure{wrong_usage,
                  fmt::format("{}: expected {}, found '{}'", option, fmt::join(names, ", "), value)};
  };
  one_of(options.cap, "--cap", {"butt", "round", "square"});
  one_of(options.join, "--join", {"miter", "round", "bevel"});
  if (options.svg) check_output(*options.svg, {".svg"});
  const LaidOut laid = lay_out(options.layout);
  Shapes shapes(options, laid);
  shapes.make();
  if (options.svg)
    value_or_give_up(save_text(*options.svg, svg_of(shapes, laid, !options.marks && !options.stroke)));
  if (options.json) {
    fmt::print("{}", document(shapes, laid));
  } else if (!options.svg) {
    print_report(shapes, laid);
  }
  return report(laid.notes, options.layout.strict);
}

}  // namespace

void add_contours(CommandLine& line) {
  auto options = std::make_shared<ContoursOptions>();
  Arguments& arguments = line.add("contours", "Outlines of a text: curves, points, lines and marks",
                                  [options] { return run_contours(*options); });
  options->layout.add_to(arguments);
  arguments.heading("Points");
  arguments.whole("--points", options->points, 1, 10'000'000, "N",
                  "As many points on each glyph, evenly by length");
  arguments.option("--step", options->step, "UNITS", "Points as far apart, in font units");
  arguments.flag("--corners", options->corners, "Corners are points");
  arguments.flag("--united", options->united, "Overlapping contours become one, before anything else");
  arguments.heading("Lines along the outlines");
  arguments.option("--stroke", options->stroke, "PX",
                   "Lines as wide, in pixels at --size, instead of the outlines");
  arguments.option("--cap", options->cap, "butt|round|square", "Ends of lines");
  arguments.option("--join", options->join, "miter|round|bevel", "Corners of lines");
  arguments.option("--dashes", options->dashes, "PX[,PX...]", "Lines and gaps in turn");
  arguments.option("--drawn", options->drawn, "F,F", "The shares of each contour between which it is drawn");
  arguments.heading("Marks on the points");
  arguments.option("--marks", options->marks, "dot|arrow|TEXT",
                   "What stands on each point; of a text letter after letter");
  arguments.option("--mark-size", options->mark_size, "PX",
                   "How large a mark is, or an em of the text's letters");
  arguments.option("--mark-font", options->mark_font, "FONT", "The face of that text, such as one of icons");
  arguments.flag("--along", options->along, "Marks are turned along the outline");
  arguments.heading("Report");
  arguments.flag("--json", options->json, "One JSON document on standard output");
  arguments.option("--svg", options->svg, "FILE", "The shapes as an SVG file");
  arguments.example(
      "Example: grafema contours DejaVuSans-Bold.ttf --size 200 --text \"Tinsel Quay\" --step 60 --marks dot "
      "--mark-size 6 --svg dots.svg");
}

}  // namespace grafema::tool
