// SPDX-License-Identifier: MIT
// grafema extrude: solid letters for 3D scenes.
#include <fmt/format.h>

#include <filesystem>

#include "grafema/files/mesh_file.hpp"
#include "grafema/outline/triangles.hpp"
#include "grafema/sheet/solid_preview.hpp"
#include "grafema/text/solid_text.hpp"
#include "grafema/text/text_outline.hpp"
#include "options/options.hpp"
#include "reports/json_lines.hpp"

namespace grafema::tool {
namespace {

struct ExtrudeOptions {
  LayoutOptions layout;
  std::string depth = "0.2", bevel = "0", shape = "round", sharp = "40", tolerance = "0.001";
  std::string front = "#d8dade", side, edge, output, collision, preview, origin = "top-left";
  long segments = 4, corners = 8;
  bool flat_back = false, letters = false, json = false;
};

/// COLOR[,METALLIC[,ROUGHNESS]]; commas within rgb() and the like belong to the color.
SolidMaterial to_material(const std::string& text, const char* option) {
  SolidMaterial out;
  const std::size_t color_end = text.find(',', text.rfind(')') == std::string::npos ? 0 : text.rfind(')'));
  out.color = to_color(text.substr(0, color_end), option);
  if (color_end == std::string::npos) return out;
  const std::vector<std::string> parts = split(text.substr(color_end + 1), option);
  if (parts.size() > 2)
    throw Failure{wrong_usage,
                  fmt::format("{}: expected COLOR, a metallic and a roughness, found '{}'", option, text)};
  out.metallic = to_number(parts[0], option, 0, 1);
  if (parts.size() == 2) out.roughness = to_number(parts[1], option, 0, 1);
  return out;
}

SolidTextStyle read_solid(const ExtrudeOptions& options) {
  SolidTextStyle style;
  style.depth = to_number(options.depth, "--depth", 1e-4F, 1e3F);
  const std::vector<std::string> bevel = split(options.bevel, "--bevel");
  if (bevel.size() > 2)
    throw Failure{wrong_usage,
                  fmt::format("--bevel: expected a width and a height, found '{}'", options.bevel)};
  style.bevel = to_number(bevel[0], "--bevel", 0, 10);
  if (bevel.size() == 2) style.bevel_height = to_number(bevel[1], "--bevel", 0, 1e3F);
  if (options.shape == "flat") {
    style.bevel_shape = BevelShape::flat;
  } else if (options.shape == "concave") {
    style.bevel_shape = BevelShape::concave;
  } else if (options.shape != "round") {
    throw Failure{wrong_usage,
                  fmt::format("--bevel-shape: expected round, flat or concave, found '{}'", options.shape)};
  }
  style.bevel_segments = static_cast<int>(options.segments);
  style.bevel_back = !options.flat_back;
  style.sharp_angle = to_number(options.sharp, "--sharp-angle", 0, 180);
  style.tolerance = to_number(options.tolerance, "--tolerance", 1e-6F, 1);
  if (options.layout.size) style.unit = to_number(*options.layout.size, "--size", kMinSize, 8192);
  return style;
}

/// Convex polygons of each letter, in ems, y up, from the text's top left.
std::string collision_json(const LaidOut& laid, const ExtrudeOptions& options) {
  std::vector<LetterOutline> letters;
  value_or_give_up(outline_text(laid.stack, laid.paragraph, letters));
  Json out = {{"unit", "em"}, {"letters", Json::array()}};
  Triangulator triangulator;
  Triangles triangles;
  ConvexPieces pieces;
  const float em = laid.paragraph.size;
  for (const LetterOutline& letter : letters) {
    // A collision shape is a tenth as exact as what is seen.
    value_or_give_up(triangulator.run(letter.contours,
                                      to_number(options.tolerance, "--tolerance", 1e-6F, 1) * em * 10,
                                      triangles, TriangleShape::rounded));
    if (triangles.indices.empty()) continue;
    make_convex_pieces(triangles, pieces, static_cast<std::size_t>(options.corners));
    Json item = {{"text_start", laid.paragraph.glyphs[letter.glyph].text_start}, {"pieces", Json::array()}};
    for (std::size_t i = 0; i < pieces.size(); ++i) {
      Json polygon = Json::array();
      for (const std::uint32_t index : pieces.piece(i))
        polygon.push_back({number(triangles.points[index].x / em), number(triangles.points[index].y / em)});
      item["pieces"].push_back(polygon);
    }
    out["letters"].push_back(item);
  }
  return to_lines(out);
}

/// Moves the model so that a point of the text's box, in fractions, is its origin.
void move_origin(const Paragraph& paragraph, PixelPoint place, float unit, SolidText& text) {
  const float scale = unit / paragraph.size, x = paragraph.box.width() * place.x * scale,
              y = paragraph.box.height() * place.y * scale;
  for (MeshVertex& vertex : text.mesh.vertices) vertex.position[0] -= x, vertex.position[1] += y;
  for (SolidLetter& letter : text.letters) letter.pivot[0] -= x, letter.pivot[1] += y;
}

int run_extrude(const ExtrudeOptions& options) {
  check_output(options.output, {".glb", ".obj"});
  if (!options.preview.empty()) check_output(options.preview, {".png"});
  const PixelPoint origin = to_place(options.origin, "--origin");
  if (!options.collision.empty()) check_output(options.collision, {".json"});
  const SolidTextStyle style = read_solid(options);
  ModelOptions model;
  model.front = to_material(options.front, "--front");
  model.side = options.side.empty() ? model.front : to_material(options.side, "--side");
  model.bevel = options.edge.empty() ? model.side : to_material(options.edge, "--edge");
  model.letter_meshes = options.letters;
  model.name = std::filesystem::path(options.output).stem().string();
  LaidOut laid = lay_out(options.layout);
  SolidText text;
  value_or_give_up(make_solid_text(laid.stack, laid.paragraph, style, text, &laid.notes));
  move_origin(laid.paragraph, origin, style.unit, text);
  value_or_give_up(save_model(options.output, text, model));
  if (!options.preview.empty()) {
    value_or_give_up(save_png(options.preview, value_or_give_up(draw_solid_preview(text, model))));
  }
  if (!options.collision.empty())
    value_or_give_up(save_text(options.collision, collision_json(laid, options)));
  const std::size_t triangles = text.mesh.indices.size() / 3,
                    bytes = text.mesh.vertices.size() * sizeof(MeshVertex) + text.mesh.indices.size() * 4;
  if (options.json) {
    fmt::print("{}\n", Json{{"letters", text.letters.size()},
                            {"vertices", text.mesh.vertices.size()},
                            {"triangles", triangles},
                            {"bytes", bytes}}
                           .dump());
  } else if (options.output != "-") {
    fmt::print("{} letters, {} triangles, {} vertices, {:.1f} KB a letter\n", text.letters.size(), triangles,
               text.mesh.vertices.size(),
               static_cast<double>(bytes) / 1024 /
                   static_cast<double>(std::max<std::size_t>(text.letters.size(), 1)));
  }
  return report(laid.notes, options.layout.strict);
}

}  // namespace

void add_extrude(CommandLine& line) {
  auto options = std::make_shared<ExtrudeOptions>();
  Arguments& arguments =
      line.add("extrude", "Solid letters as glTF or OBJ", [options] { return run_extrude(*options); });
  options->layout.add_to(arguments);
  arguments.heading("Shape");
  arguments.option("--depth", options->depth, "EM", "From front to back");
  arguments.option("--bevel", options->bevel, "EM[,EM]",
                   "How wide the edge around the front is cut away, and how deep");
  arguments.option("--bevel-shape", options->shape, "round|flat|concave", "The bevel's profile");
  arguments.whole("--segments", options->segments, 1, 64, "N", "Steps of a round or concave bevel");
  arguments.flag("--flat-back", options->flat_back, "No bevel at the back");
  arguments.option("--sharp-angle", options->sharp, "DEG", "Surfaces that meet at less are shaded as one");
  arguments.option("--tolerance", options->tolerance, "EM", "How far straight pieces may leave the curves");
  arguments.heading("Materials: a color, how metallic and how rough, 0 to 1");
  arguments.option("--front", options->front, "C[,M[,R]]", "Front and back");
  arguments.option("--side", options->side, "C[,M[,R]]", "The sides; as the front where not given");
  arguments.option("--edge", options->edge, "C[,M[,R]]", "The bevel; as the sides where not given");
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "FILE",
                   "A binary glTF file (.glb), or OBJ with its materials beside it (.obj)", Need::required);
  arguments.option("--preview", options->preview, "PNG", "Also a picture of the model, turned and lit");
  arguments.option(
      "--origin", options->origin, "PLACE",
      "The point of the text's box that is the model's origin: words such as center or bottom-left, "
      "or fractions such as 0.5,1");
  arguments.flag("--letters", options->letters, "A mesh for each letter, with its pen as pivot");
  arguments.option("--collision", options->collision, "FILE",
                   "Convex pieces of each letter for a physics engine, as JSON");
  arguments.whole("--collision-corners", options->corners, 3, 256, "N", "Most corners of a piece");
  arguments.flag("--json", options->json, "Figures as one JSON document on standard output");
  arguments.example(
      "Example: grafema extrude DejaVuSans-Bold.ttf --text \"Salt & Glass\" --depth 0.25 --bevel 0.03 "
      "--front \"#f2b33d,1,0.3\" -o title.glb");
}

}  // namespace grafema::tool
