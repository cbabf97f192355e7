// SPDX-License-Identifier: MIT
// Prints faces so that a person can choose: what it is, what it can, what a game may do with it.
#include "reports/inspect_report.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <map>
#include <sstream>

#include "grafema/font/block_coverage.hpp"
#include "grafema/text/script_check.hpp"
#include "grafema/unicode/blocks.hpp"

namespace grafema::tool {
namespace {

constexpr std::size_t kReportWidth = 96;  // of a line of running text

std::string joined(const std::vector<Tag>& tags) {
  std::string text;
  for (const Tag tag : tags) {
    std::string one = to_string(tag);
    while (one.ends_with(' ')) one.pop_back();
    text += (text.empty() ? "" : " ") + one;
  }
  return text.empty() ? "none" : text;
}

const char* words_for(Embedding embedding) {
  switch (embedding) {
    case Embedding::installable:
      return "installable: may be embedded and installed";
    case Embedding::editable:
      return "editable: may be embedded in documents that can be edited";
    case Embedding::preview:
      return "preview and print: may be embedded in documents to be read";
    case Embedding::restricted:
      return "restricted: not without the owner's permission";
  }
  return "";
}

/// Lines of at most `kReportWidth` bytes, broken at spaces.
std::vector<std::string> wrapped(const std::string& text) {
  std::vector<std::string> lines;
  std::istringstream in(text);
  for (std::string line; std::getline(in, line);) {
    while (line.size() > kReportWidth) {
      std::size_t at = line.rfind(' ', kReportWidth);
      if (at == std::string::npos || at == 0) at = line.find(' ', kReportWidth);
      if (at == std::string::npos) break;
      lines.push_back(line.substr(0, at));
      line.erase(0, at + 1);
    }
    while (!line.empty() && (line.back() == ' ' || line.back() == '\r')) line.pop_back();
    if (!line.empty()) lines.push_back(line);
  }
  return lines;
}

/// One row of the report; nothing where there is no value. The first lines of a long one.
void print_row(const char* name, const std::string& value, std::size_t most = 4) {
  const std::vector<std::string> lines = wrapped(value);
  for (std::size_t i = 0; i < std::min(lines.size(), most); ++i) {
    fmt::print("  {:<14}{}\n", i == 0 ? name : "", lines[i]);
  }
  if (lines.size() > most) {
    fmt::print("  {:<14}({} lines more; --json has them all)\n", "", lines.size() - most);
  }
}

void print_metrics(const Face& face, const FaceFacts& facts) {
  const LineMetrics m = face.line_metrics();
  print_row("em", fmt::format("{} units", face.units_per_em()));
  print_row("line", fmt::format("ascent {}, descent {}, gap {}", m.ascent, m.descent, m.line_gap));
  print_row("heights", fmt::format("capitals {}, small letters {}", facts.cap_height, facts.x_height));
  print_row("strokes",
            fmt::format("underline at {}, {} thick; strikeout at {}, {} thick", facts.underline_position,
                        facts.underline_thickness, facts.strikeout_position, facts.strikeout_thickness));
  if (const auto vertical = face.vertical_line_metrics()) {
    print_row("vertical", fmt::format("right {}, left {}, gap {}", vertical->ascent, vertical->descent,
                                      vertical->line_gap));
  }
  if (!facts.strikes.empty()) {
    print_row("crisp at", fmt::format("{} px and their multiples", fmt::join(facts.strikes, ", ")));
  }
  if (facts.crisp_size > 0) print_row("crisp at", fmt::format("{} px and its multiples", facts.crisp_size));
}

void print_axes(const Face& face) {
  const char* name = "axes";
  for (const Axis& axis : face.axes()) {
    print_row(name, fmt::format("{} {} to {}, standard {}  {}{}", to_string(axis.tag), axis.min, axis.max,
                                axis.standard, axis.name, axis.hidden ? " (hidden)" : ""));
    name = "";
  }
  std::string named;
  for (const NamedInstance& instance : face.instances()) {
    named += fmt::format("{}{}", named.empty() ? "" : ", ", instance.name);
  }
  print_row("named", named);
}

std::string color_words(const Face& face) {
  const ColorKinds kinds = face.color_kinds();
  std::string text;
  const auto add = [&text](bool has, const std::string& words) {
    if (has) text += (text.empty() ? "" : ", ") + words;
  };
  add(kinds.layers, "layers (COLR 0)");
  add(kinds.paints, "paint graphs (COLR 1)");
  std::string sizes;
  for (const std::uint16_t size : face.bitmap_sizes()) {
    sizes += fmt::format("{}{}", sizes.empty() ? "" : ", ", size);
  }
  add(kinds.cbdt, fmt::format("pictures of {} px (CBDT)", sizes));
  add(kinds.sbix, fmt::format("pictures of {} px (sbix)", sizes));
  add(kinds.documents, "SVG documents (not read)");
  if (const std::size_t count = face.palettes().size(); count > 0) {
    add(true, fmt::format("{} palette{}", count, count == 1 ? "" : "s"));
  }
  return text;
}

void print_coverage(const Face& face) {
  fmt::print("\n  {} characters\n", face.characters().size());
  for (const auto& [block, covered] : block_coverage(face)) {
    constexpr std::size_t kBarWidth = 20;
    const std::size_t full =
        block.assigned == 0 ? 0 : std::max<std::size_t>(1, covered * kBarWidth / block.assigned);
    std::string bar(std::min(full, kBarWidth), '#');
    bar.resize(kBarWidth, '.');
    fmt::print("    {:<44} {} {:>5} of {}\n", block.name, bar, covered, block.assigned);
  }
}

/// What became of each text file beside the faces.
std::vector<std::string> text_rows(const FontSource& source) {
  std::vector<std::string> rows;
  for (const LicenseText& license : source.licenses) {
    rows.push_back(license.name + (license.text.empty() ? " (not plain text, not read)" : ""));
  }
  for (const std::string& name : source.texts_read) rows.push_back(name + " (says nothing about terms)");
  for (const std::string& name : source.texts_unread) {
    rows.push_back(name + " (not read: too large, too many, or no text in UTF-8)");
  }
  return rows;
}

void print_license(const FaceNames& names, const FaceFacts& facts, const FontSource& source) {
  const LicenseReading reading = read_license(names, facts, texts_of(source.licenses));
  fmt::print("\n  May a game ship it?\n");
  print_row("the file", to_words(reading.ship_file));
  print_row("an atlas", to_words(reading.ship_pictures));
  print_row("a subset", to_words(reading.subset));
  print_row("and be sold", to_words(reading.sell));
  print_row("credit", reading.credit_needed      ? "needed: the copyright notice must come along"
                      : reading.known_as.empty() ? "not said"
                                                 : "not demanded");
  for (const std::string& sentence : reading.sentences) print_row("because", sentence);
  print_row("embedding", words_for(facts.embedding));
  if (facts.bitmap_only) print_row("", "bitmaps only: outlines may not be embedded");
  if (!facts.subsetting) print_row("", "may not be subset");
  print_row("copyright", names.copyright);
  print_row("license", names.license);
  print_row("license at", names.license_url);
  for (const std::string& line : text_rows(source)) print_row("beside it", line);
}

const char* container_words(const FoundFont& font) {
  const std::optional<Container> container = find_container(font.data.bytes());
  constexpr const char* kWords[] = {"OpenType", "collection", "WOFF", "WOFF2"};
  return container ? kWords[static_cast<std::size_t>(*container)] : "";
}

std::string style_words(const FaceFacts& facts) {
  constexpr const char* kWidths[] = {"unknown",        "ultra-condensed", "extra-condensed", "condensed",
                                     "semi-condensed", "normal",          "semi-expanded",   "expanded",
                                     "extra-expanded", "ultra-expanded"};
  const char* width = kWidths[facts.width_class < std::size(kWidths) ? facts.width_class : 0];
  return fmt::format("weight {}, {} width{}{}", facts.weight_class, width, facts.italic ? ", italic" : "",
                     facts.monospaced ? ", monospaced" : "");
}

constexpr const char* kOutlines[] = {"no", "TrueType", "CFF", "CFF2", "pixel"};

/// Of each script that takes more than letters, whether the face has what it takes.
void print_writing(const Face& face) {
  constexpr std::size_t kFew = 10;  // signs that a face of other scripts has
  const char* row = "writing";
  for (const CheckedScript& checked : check_scripts(face)) {
    if (checked.characters < kFew || (checked.met.empty() && checked.unmet.empty())) continue;
    print_row(row, describe(checked));
    row = "";
  }
}

}  // namespace

void print_face(const Face& face, const FoundFont& font, std::size_t index, std::size_t count,
                const FontSource& source) {
  const FaceNames names = face.names();
  const FaceFacts facts = face.facts();
  constexpr const char* kKerning[] = {"none", "kern table", "GPOS"};
  const std::string place = count > 1 ? fmt::format("  (face {} of {})", index, count) : "";
  fmt::print("{} {}{}\n", names.family, names.style, place);
  print_row("file", fmt::format("{}, {} bytes{}", container_words(font), font.data.bytes().size(),
                                font.path.empty() ? ", part of the library" : ""));
  print_row("version", names.version);
  print_row("made by", names.designer.empty() || names.designer == names.manufacturer ? names.manufacturer
                       : names.manufacturer.empty()                                   ? names.designer
                                                    : names.designer + ", " + names.manufacturer);
  print_row("style", style_words(facts));
  print_row("glyphs", fmt::format("{}, {} outlines", facts.glyph_count,
                                  kOutlines[static_cast<std::size_t>(facts.outlines)]));
  print_row("color", color_words(face));
  print_metrics(face, facts);
  print_axes(face);
  print_row("kerning", kKerning[static_cast<std::size_t>(face.kerning_source())]);
  print_row("scripts", joined(face.scripts()));
  print_writing(face);
  print_row("features", joined(face.features()));
  print_row("languages",
            names.supported_languages.empty() ? names.design_languages : names.supported_languages);
  print_license(names, facts, source);
  print_coverage(face);
}

void print_overview(const FontSource& source, const FamilySet* families) {
  struct Row {
    std::string family, style, file, verdict;
    std::size_t characters;
  };
  std::vector<Row> rows;
  std::map<std::string, std::size_t> verdicts;
  const std::vector<std::string> texts = texts_of(source.licenses);
  const auto add = [&](const Face& face, const std::string& family, const std::string& style,
                       const std::string& file) {
    const LicenseReading reading = read_license(face.names(), face.facts(), texts);
    for (const std::string& sentence : reading.sentences) ++verdicts[sentence];
    rows.push_back({family, style, file, to_words(reading.ship_file), face.characters().size()});
  };
  if (families != nullptr) {
    for (const Family& family : families->families) {
      for (const Family::Member& member : family.members()) {
        add(*member.face, family.name(), member.name, member.file.empty() ? "built in" : member.file);
      }
    }
  } else {
    for (const FoundFont& font : source.fonts) {
      const Result<std::size_t> count = Face::count(font.data);
      for (std::size_t i = 0; count && i < *count; ++i) {
        const auto face = Face::open(font.data, i);
        if (!face) continue;
        const FaceNames names = (*face)->names();
        add(**face, names.family, names.style, font.path + (*count > 1 ? fmt::format(" (face {})", i) : ""));
      }
    }
  }
  std::size_t family_width = 6, style_width = 5;
  for (const Row& row : rows) {
    family_width = std::max(family_width, row.family.size());
    style_width = std::max(style_width, row.style.size());
  }
  fmt::print("{:<{}}  {:<{}}  {:>6}  {:<20}  file\n", "family", family_width, "style", style_width, "chars",
             "ship the file?");
  for (const Row& row : rows) {
    fmt::print("{:<{}}  {:<{}}  {:>6}  {:<20}  {}\n", row.family, family_width, row.style, style_width,
               row.characters, row.verdict, row.file);
  }
  fmt::print("\n");
  for (const auto& [sentence, count] : verdicts) {
    fmt::print("{} face{}: {}\n", count, count == 1 ? "" : "s", sentence);
  }
  for (const std::string& row : text_rows(source)) fmt::print("license text: {}\n", row);
}

}  // namespace grafema::tool
