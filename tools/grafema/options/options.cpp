// SPDX-License-Identifier: MIT
// Reads the groups of options that several subcommands have.
#include "options/options.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/draw/ready_looks.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::tool {

void FontOptions::add_to(Arguments& arguments) {
  arguments.heading("Faces");
  arguments.inputs(
      "FONT", paths,
      "Font files of at most 1 GB, folders, zip archives, family files or names of installed families in "
      "fallback order; NAME#STYLE is one style; - is "
      "standard input; none: the built-in Quillmere Dot, as built-in:dot; built-in:sans is the other one");
  arguments.whole("--face", index, 0, 65535, "N", "Which face of a collection, from 0");
  arguments.option("--axes", axes, "TAG=N,...", "Where variable faces stand, such as wght=650,wdth=80");
}

void CharacterOptions::add_to(Arguments& arguments) {
  arguments.heading("Characters");
  arguments.option("--chars", chars, "S", "These characters");
  arguments.option("--text", text, "S", "The characters of this text, the same as --chars");
  arguments.option(
      "--text-from", files, "FILE",
      "Every character that occurs in these files, of at most 64 MB each (values of .json and .csv)");
  arguments.option("--range", range, "R", "Hexadecimal ranges such as 20-7E,A0-FF");
  arguments.option("--charset", sets, "NAME",
                   "ascii, upper, lower, digits, punctuation, latin1, latin-extended, greek, cyrillic");
  arguments.flag("--all", all, "Every glyph of the faces");
}

CharacterOptions::Wanted CharacterOptions::read_wanted() const {
  Wanted wanted;
  std::vector<char32_t>& out = wanted.characters;
  const auto add = [&out](const std::vector<char32_t>& more) {
    out.insert(out.end(), more.begin(), more.end());
  };
  check_text(chars, "--chars");
  check_text(text, "--text");
  const std::string words = unescaped(text, "--text");
  add_characters(chars, out);
  add_characters(words, out);
  for (const std::string& file : files) {
    const std::vector<char32_t> found = value_or_give_up(load_characters(file));
    for (const char32_t c : found) wanted.asked_by.emplace(c, file);
    add(found);
    wanted.texts += value_or_give_up(load_text(file, std::size_t{64} << 20U)) + '\n';
  }
  wanted.texts += chars + '\n' + words;
  for (const std::string& set : sets) {
    for (const std::string& name : split(set, "--charset")) add(value_or_give_up(read_character_set(name)));
  }
  if (!range.empty()) add(value_or_give_up(read_character_ranges(range)));
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  return wanted;
}

void LayoutOptions::add_to(Arguments& arguments) {
  fonts.add_to(arguments);
  arguments.option("--atlas", atlas, "PREFIX.json",
                   "A baked atlas instead of fonts: characters and pair kerning, no font file");
  arguments.heading("Text and layout");
  arguments.option("--text", text, "S", "The text, UTF-8; \\n is a newline, \\t a tab, \\\\ a backslash");
  arguments.option("--text-from", text_from, "FILE",
                   "The text of this file, of at most 4 MB; - is standard input");
  arguments.exclude("--text", "--text-from");
  arguments.option("--size", size, "PX", "Pixels per em (default 32)");
  arguments.option("--cap-height", cap_height, "PX", "Instead of --size: the height of capitals");
  arguments.option("--x-height", x_height, "PX", "Instead of --size: the height of small letters");
  arguments.option("--line-height", line_height, "PX", "Instead of --size: the natural height of a line");
  arguments.option("--wrap", wrap, "PX", "Width of the box: lines end where they would be wider");
  arguments.option("--box-height", box_height, "PX", "Height of the box");
  arguments.option("--align", align, "SIDE",
                   "left, center, right, start, end or justify: lines in the box, or against the widest one");
  arguments.option("--valign", vertical_align, "PLACE",
                   "top, middle, cap-middle (capitals look centered), bottom or baseline");
  arguments.flag("--justify-last", justify_last, "Justify the last line of a paragraph too");
  arguments.option("--line-spacing", line_spacing, "F", "Multiple of the natural line height");
  arguments.option("--leading", leading, "PX", "Instead of --line-spacing: from baseline to baseline");
  arguments.option("--paragraph-spacing", paragraph_spacing, "PX", "Added between paragraphs");
  arguments.option("--tracking", tracking, "PX", "Added between letters");
  arguments.option("--word-spacing", word_spacing, "PX", "Added to spaces between words");
  arguments.option("--indent", indent, "PX[,PX]",
                   "Room before the first line of a paragraph, and before the others");
  arguments.option("--tabs", tabs, "X[SIDE],...",
                   "Tab stops, such as 80,200right,260decimal (left, right, center, decimal)");
  arguments.option("--features", features, "TAG[=N],...",
                   "OpenType features, such as liga=0,tnum,salt=2; kern=0 is --no-kerning");
  arguments.flag("--no-kerning", no_kerning, "Leave pair kerning out");
  arguments.option("--lang", language, "BCP47", "Language of the text, such as tr or zh-Hant");
  arguments.option("--dir", direction, "DIR", "auto, ltr or rtl: the direction of paragraphs");
  arguments.option("--writing", writing, "MODE",
                   "horizontal, vertical-rl or vertical-lr: lines from top to bottom, the first on the right "
                   "or on the left; --wrap is then a height");
  arguments.option("--stance", stance, "HOW",
                   "In vertical lines: mixed, upright or sideways letters (mixed: as their scripts have it)");
  arguments.option("--digits-across", digits_across, "N",
                   "In vertical lines: up to N digits, 4 at most, stand side by side");
  arguments.flag("--script-gaps", script_gaps,
                 "A quarter of an em between ideographs and Latin letters or digits");
  arguments.flag("--halve-ends", halve_ends, "Full-width punctuation that ends a line takes half its width");
  arguments.option("--break", breaking, "HOW",
                   "normal, strict or loose for CJK; anywhere breaks a word wider than its line");
  arguments.flag("--balance", balance, "As many lines as needed, of about equal widths");
  arguments.flag("--keep-last-words", keep_last_words, "No paragraph ends in a line of one word");
  arguments.option("--max-lines", max_lines, "N", "At most so many lines");
  arguments.option("--reserve", reserve, "TEXT", "Never narrower than this text; may be given again");
  arguments.option("--overflow", overflow, "HOW",
                   "show, clip, ellipsis, smaller or tighten: text that its box does not hold");
  arguments.option("--ellipsis", ellipsis, "PLACE", "end, middle or start");
  arguments.option("--smallest", smallest, "PX", "The smallest size of --overflow smaller (default 6)");
  arguments.option("--tightest", min_tracking, "PX",
                   "The least tracking of --overflow tighten (default -1.5)");
  arguments.flag("--markup", markup,
                 "The text is markup: <b> <i> <u> <s> <sub> <sup> <small> <br/> <span class=\"NAME\"> "
                 "<img src=\"NAME\"/> <wait s=\"1\"/>; NAME is a glyph, or a PNG beside the text's file");
  arguments.option("--style", named_style, "FILE#NAME",
                   "A style of a styles file; other options count over what it says");
  arguments.option(
      "--values", values, "FILE.json",
      "The text is a message pattern, as \"{n, plural, one {# stop} other {# stops}}\"; these are its "
      "values, --lang its language");
  arguments.option("--clock", clock, "TIME",
                   "What {\"clock\": true} among the values is, in UTC as 2026-10-02T21:40:00Z; else now");
  arguments.option("--reveal", reveal, "N", "Show the first N clusters alone; the layout is that of all");
  arguments.flag("--strict", strict, "Exit with 1 where there is any note");
}

float read_size(const LayoutOptions& options, const GlyphMetrics& face, const NamedStyle& named) {
  const std::tuple<const std::optional<std::string>&, const char*, SizeBy> asked[] = {
      {options.size, "--size", SizeBy::em},
      {options.cap_height, "--cap-height", SizeBy::cap_height},
      {options.x_height, "--x-height", SizeBy::x_height},
      {options.line_height, "--line-height", SizeBy::line_height}};
  std::optional<float> size;
  for (const auto& [text, name, by] : asked) {
    if (!text) continue;
    if (size) {
      throw Failure{wrong_usage, "expected one of --size, --cap-height, --x-height and --line-height"};
    }
    size = value_or_give_up(grafema::read_size(face, by, to_number(*text, name, kMinSize, kMaxSize)));
  }
  if (!size && named.span.cap_height) {
    return value_or_give_up(grafema::read_size(face, SizeBy::cap_height, *named.span.cap_height));
  }
  return size.value_or(named.text.size);
}

void LookOptions::add_to(Arguments& arguments) {
  arguments.heading("Look");
  std::string looks =
      "A look of a looks file, or a ready-made one; the other options add layers to it. Ready-made:";
  for (const std::string_view name : look_names()) looks += fmt::format(" {},", name);
  looks.back() = '.';
  arguments.option("--look", base, "FILE#NAME|NAME", looks.c_str());
  arguments.option("--set", values, "NAME=V",
                   "A parameter of that look: a color or a number; may be given again");
  arguments.option("--fill", fill, "C[,C,C,C]",
                   "One color, four for the corners (top left, top right, bottom right, bottom left), or "
                   "linear-gradient() or radial-gradient() as CSS has them");
  arguments.option("--outline", outline, "PX,C", "Width and color around the letters");
  arguments.option("--shadow", shadow, "DX,DY,BLUR,C", "Offset, softness and color behind the letters");
  arguments.option("--glow", glow, "PX,C", "Width and color of light around the letters");
  arguments.option("--embolden", embolden, "PX", "Widens every stroke on each side");
  arguments.option("--opacity", opacity, "F", "Of the whole, 0 to 1");
}

bool is_ready_look(const std::string& name) {
  std::error_code none;
  return read_ready_look(name).has_value() && !std::filesystem::exists(name, none);
}

bool LookOptions::asked() const {
  return !base.empty() || fill || !outline.empty() || !shadow.empty() || !glow.empty() || embolden != "0" ||
         opacity != "1";
}

namespace {

/// A look of a file, with parameters set.
Look load_base(const std::string& base, const std::vector<std::string>& values, Notes* notes) {
  const bool ready = is_ready_look(base);
  const Look plain =
      value_or_give_up(ready ? FileResult<Look>(*read_ready_look(base)) : load_look(base, notes));
  if (values.empty()) return plain;
  LookBook book;
  if (ready) {
    value_or_give_up(book.set("ready", plain));
  } else {
    value_or_give_up(load_looks(base.substr(0, base.rfind('#')), book));
  }
  const std::string name = base.rfind('#') == std::string::npos ? "" : base.substr(base.rfind('#') + 1);
  // The only look of a file needs no name.
  const LookId id = name.empty() ? LookId{1} : value_or_give_up(book.read(name));
  for (const std::string& value : values) {
    const std::size_t equals = value.find('=');
    if (equals == std::string::npos || equals == 0) {
      throw Failure{
          wrong_usage,
          fmt::format("--set: expected a name and a value, such as team=#d9514a, found '{}'", value)};
    }
    const std::string parameter = value.substr(0, equals), text = value.substr(equals + 1);
    const Result<Color> color = read_color(text);
    const Result<void> set = color ? book.set_parameter(id, parameter, *color)
                                   : book.set_parameter(id, parameter, to_number(text, "--set", -4096, 4096));
    if (!set) throw Failure{wrong_usage, fmt::format("--set: {}", describe(set.error()))};
  }
  return book.get(id);
}

Fill read_fill_option(const std::string& text) {
  Result<Fill> fill = read_fill(text);
  if (!fill) throw Failure{wrong_usage, fmt::format("--fill: {}", describe(fill.error()))};
  return *std::move(fill);
}

}  // namespace

float LookOptions::whole_opacity() const { return to_number(opacity, "--opacity", 0, 1); }

/// Back to front: shadow, glow, outline, fill. Shadow and glow are those of the outlined letter.
Look LookOptions::read(Notes* notes, const Look* named) const {
  constexpr float kMax = 256;
  Look look;
  if (!base.empty()) {
    look = load_base(base, values, notes);
  } else if (named != nullptr) {
    look = *named;
  }
  const auto add = [&look](const Layer& layer) {
    if (!look.add(layer)) {
      throw Failure{wrong_usage, fmt::format("expected at most {} layers in a look", Look::kMaxLayers)};
    }
  };
  const float bolder = to_number(embolden, "--embolden", -kMax, kMax);
  const auto outline_parts = outline.empty() ? std::vector<std::string>{} : split(outline, "--outline", 2);
  const float outer = bolder + (outline.empty() ? 0 : to_number(outline_parts[0], "--outline", 0, kMax));
  if (!shadow.empty()) {
    const auto parts = split(shadow, "--shadow", 4);
    add({.shift = {to_number(parts[0], "--shadow", -4096, 4096),
                   to_number(parts[1], "--shadow", -4096, 4096)},
         .grow = outer,
         .blur = to_number(parts[2], "--shadow", 0, kMax),
         .fill = Fill::solid(to_color(parts[3], "--shadow"))});
  }
  if (!glow.empty()) {
    const auto parts = split(glow, "--glow", 2);
    const float half = to_number(parts[0], "--glow", 0, kMax) /
                       2;  // half of the glow's width is full, then it fades over as much
    add({.grow = outer + half, .blur = half, .fill = Fill::solid(to_color(parts[1], "--glow"))});
  }
  if (!outline.empty()) add({.grow = outer, .fill = Fill::solid(to_color(outline_parts[1], "--outline"))});
  if (!fill && look.count > 0 && (!base.empty() || named != nullptr) && bolder == 0) return look;
  add({.grow = bolder, .fill = read_fill_option(fill.value_or("black"))});
  return look;
}

}  // namespace grafema::tool
