// SPDX-License-Identifier: MIT
// grafema make-font: a font from drawn characters.
#include "grafema/write/make_font.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <set>

#include "common.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/svg_drawings.hpp"
#include "grafema/write/lint_drawings.hpp"
#include "grafema/write/propose_kerning.hpp"
#include "reports/json_lines.hpp"
#include "reports/kerning_proof.hpp"

namespace grafema::tool {
namespace {

struct MakeFontOptions {
  std::vector<std::string> sheets;
  std::string output, style, proposal, proof;
  bool variable = false, lint = false;
};

bool is_png(const std::string& path) { return std::filesystem::path(path).extension() == ".png"; }

/// The style of that name; the first where none was asked for.
std::size_t find_style(const ShapeSheet& sheet, const std::string& name) {
  if (name.empty()) return 0;
  std::string known;
  for (std::size_t i = 0; i < sheet.styles.size(); ++i) {
    if (sheet.styles[i].name == name) return i;
    known += (i > 0 ? ", " : "") + sheet.styles[i].name;
  }
  give_up(make_error(ErrorKind::bad_value, "a --style of the description",
                     fmt::format("'{}'; it has {}", name, known)));
}

/// The sheet of a picture. Writes a description beside one that has none.
PixelSheet load_sheet(const std::string& png, Notes& notes) {
  const std::filesystem::path path(png), description = std::filesystem::path(png).replace_extension(".json");
  std::error_code unknown;
  if (std::filesystem::exists(description, unknown)) return value_or_give_up(load_font_sheet(png, &notes));
  Image picture = value_or_give_up(load_png(png));
  const std::string text = value_or_give_up(propose_font_sheet(picture, path.stem().string()), png);
  value_or_give_up(save_text(description.string(), text));
  const Json found = Json::parse(text);
  fmt::print(stderr,
             "{} describes cells of {} x {} pixels in {} rows, baseline {}; look whether the characters are "
             "right, and run again where they are not\n",
             description.string(), found["cell"][0].dump(), found["cell"][1].dump(), found["rows"].size(),
             found["baseline"].dump());
  return value_or_give_up(read_font_sheet(std::move(picture), text, &notes), png);
}

FontDrawing draw(const MakeFontOptions& options, Notes& notes) {
  if (is_png(options.sheets[0])) {
    if (options.sheets.size() > 1 || !options.style.empty())
      give_up(make_error(ErrorKind::bad_value, "one PNG, or SVG files and folders"), options.sheets[0]);
    const PixelSheet sheet = load_sheet(options.sheets[0], notes);
    return value_or_give_up(draw_from_sheet(sheet), options.sheets[0]);
  }
  ShapeSheet sheet = value_or_give_up(load_shape_sheet(options.sheets, &notes));
  sheet.cff = std::filesystem::path(options.output).extension() == ".otf";
  if (options.variable) return value_or_give_up(draw_variable_from_shapes(sheet), options.sheets[0]);
  return value_or_give_up(draw_from_shapes(sheet, find_style(sheet, options.style)), options.sheets[0]);
}

/// The fields that the description takes over as they are; lengths are font units.
std::string to_text(const KerningProposal& proposal) {
  Json groups;
  for (const auto& [side, list] :
       {std::pair{"left", &proposal.left_groups}, std::pair{"right", &proposal.right_groups}}) {
    groups[side] = Json::object();
    for (const KerningGroup& group : *list) {
      std::string members;
      for (const std::string& member : group.members) members += member;
      groups[side][group.name] = members;
    }
  }
  groups["values"] = Json::object();
  for (const GroupPair& pair : proposal.pairs)
    groups["values"][pair.left + " " + pair.right] = number(pair.value);
  return Json{{"kerning_groups", std::move(groups)}}.dump(1, ' ', false) + "\n";
}

/// One line for each fault; 1 where there are any.
int lint(const MakeFontOptions& options) {
  Notes notes;
  if (!is_png(options.sheets[0]))
    give_up(make_error(ErrorKind::unsupported, "a PNG grid of pixels to lint"), options.sheets[0]);
  const PixelSheet sheet = value_or_give_up(load_font_sheet(options.sheets[0], &notes));
  const std::vector<DrawingFault> faults = value_or_give_up(lint_drawings(sheet), options.sheets[0]);
  std::string missing;
  for (const DrawingFault& fault : faults) {
    if (fault.kind != DrawingFaultKind::no_partner) {
      fmt::print("{}\n", fault.text());
      continue;
    }
    missing += missing.empty() ? "" : " ";
    append_utf8(missing, fault.fellow);
  }
  if (!missing.empty()) fmt::print("missing, though their other case or side is there: {}\n", missing);
  fmt::print(stderr, "{}: {} faults\n", options.sheets[0], faults.size());
  const int noted = report(notes, false);
  return faults.empty() ? noted : 1;
}

/// Drawings that no text can show: a font with them is seldom what was meant.
void tell_unreachable(const FontDrawing& drawing) {
  std::set<std::string> brought;
  for (const DrawnLigature& ligature : drawing.ligatures) brought.insert(ligature.to);
  for (const DrawnAlternate& alternate : drawing.alternates) brought.insert(alternate.to);
  for (const DrawnGlyph& glyph : drawing.glyphs) {
    for (const DrawnPart& part : glyph.parts) brought.insert(part.glyph);
  }
  for (std::size_t i = 1; i < drawing.glyphs.size(); ++i) {
    const DrawnGlyph& glyph = drawing.glyphs[i];
    if (!glyph.characters.empty() || brought.contains(glyph.name)) continue;
    fmt::print(stderr,
               "note: no text shows the drawing '{}': give it data-characters, or bring it in by a ligature "
               "or an alternate\n",
               glyph.name);
  }
}

/// Places for accents that no accent of the drawing takes: probably a name that is misspelled.
void tell_lonely_anchors(const FontDrawing& drawing) {
  std::set<std::string> taken, told;
  for (const DrawnGlyph& glyph : drawing.glyphs) {
    for (const DrawnAnchor& anchor : glyph.anchors) {
      if (anchor.attaches) taken.insert(anchor.name);
    }
  }
  for (const DrawnGlyph& glyph : drawing.glyphs) {
    for (const DrawnAnchor& anchor : glyph.anchors) {
      if (anchor.attaches || taken.contains(anchor.name) || !told.insert(anchor.name).second) continue;
      fmt::print(stderr, "note: no accent attaches to the anchor '{}', which '{}' has\n", anchor.name,
                 glyph.name.empty() ? "a drawing" : glyph.name);
    }
  }
}

int run_make_font(const MakeFontOptions& options) {
  if (options.lint) return lint(options);
  if (options.output.empty() && options.proposal.empty())
    give_up(make_error(ErrorKind::bad_value, "-o, --lint or --propose-kerning"), "make-font");
  if (!options.output.empty()) check_output(options.output, {".ttf", ".otf"});
  if (!options.proposal.empty()) check_output(options.proposal, {".json"});
  if (!options.proof.empty()) check_output(options.proof, {".png"});
  Notes notes;
  const FontDrawing drawing = draw(options, notes);
  if (!options.proposal.empty()) {
    const KerningProposal proposal = value_or_give_up(propose_kerning(drawing), options.sheets[0]);
    value_or_give_up(save_text(options.proposal, to_text(proposal)));
    fmt::print(stderr, "{}: {} values between {} and {} groups\n", options.proposal, proposal.pairs.size(),
               proposal.left_groups.size(), proposal.right_groups.size());
    if (options.output.empty()) return report(notes, false);
  }
  const std::vector<std::byte> font = value_or_give_up(make_font(drawing), options.sheets[0]);
  if (!options.proof.empty()) {
    const auto face = value_or_give_up(Face::open(FontData::own(font)), options.output);
    value_or_give_up(save_png(options.proof, draw_kerning_proof(drawing, face)));
  }
  value_or_give_up(save_file(options.output, font));
  const std::uint32_t glyphs =
      value_or_give_up(Face::open(FontData::borrow(font)), options.output)->glyph_count();
  const std::size_t classes = static_cast<std::size_t>(std::count_if(
      drawing.classes.values.begin(), drawing.classes.values.end(), [](float v) { return v != 0; }));
  fmt::print(stderr, "{} {}: {} glyphs, {} kerning pairs, {} of classes, {} ligatures, {} bytes\n",
             drawing.names.family, drawing.names.style, glyphs, drawing.kerning.size(), classes,
             drawing.ligatures.size(), font.size());
  tell_unreachable(drawing);
  tell_lonely_anchors(drawing);
  return report(notes, false);
}

}  // namespace

void add_make_font(CommandLine& line) {
  auto options = std::make_shared<MakeFontOptions>();
  Arguments& arguments =
      line.add("make-font", "A font from drawn characters: a PNG grid of pixels, or shapes in SVG",
               [options] { return run_make_font(*options); });
  arguments.inputs("SHEET", options->sheets,
                   "A PNG; or SVG files with a group for each character, folders with a file for each. The "
                   "description stands beside the first: same name with .json",
                   Need::required);
  arguments.option("-o,--output", options->output, "FILE",
                   "The font to write: .ttf, or .otf with cubic curves");
  arguments.option("--style", options->style, "NAME", "One of the description's styles (default: the first)");
  arguments.flag("--variable", options->variable, "One variable face of all the description's styles");
  arguments.flag(
      "--lint", options->lint,
      "Lists what is probably wrong with a PNG's letters: cell, pixel and fellow; ends with 1 where "
      "there is anything");
  arguments.option("--propose-kerning", options->proposal, "FILE.json",
                   "Writes kerning that makes the white between letters equal, in the description's words: "
                   "take it over, edit it, or leave it");
  arguments.option("--proof", options->proof, "PNG",
                   "Every kerned pair without and with its kerning, worst first");
  arguments.example("Example: grafema make-font data/faces/quillmere_dot.png -o quillmere_dot.ttf");
}

}  // namespace grafema::tool
