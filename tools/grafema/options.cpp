// SPDX-License-Identifier: MIT
// Reads the groups of options that several subcommands have.
#include "options.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::tool {

void FontOptions::add_to(Arguments& arguments) {
  arguments.heading("Faces");
  arguments.inputs(
      "FONT", paths,
      "Font files of at most 1 GB, folders, zip archives or family files in fallback order; - is "
      "standard input; none: the built-in Quillmere Dot");
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
  add_characters(chars, out);
  add_characters(text, out);
  for (const std::string& file : files) {
    const std::vector<char32_t> found = value_or_give_up(load_characters(file));
    for (const char32_t c : found) wanted.asked_by.emplace(c, file);
    add(found);
  }
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
  arguments.option("--text", text, "S", "The text, UTF-8");
  arguments.option("--text-from", text_from, "FILE",
                   "The text of this file, of at most 4 MB; - is standard input");
  arguments.exclude("--text", "--text-from");
  arguments.option("--size", size, "PX", "Pixels per em (default 32)");
  arguments.option("--cap-height", cap_height, "PX", "Instead of --size: the height of capitals");
  arguments.option("--x-height", x_height, "PX", "Instead of --size: the height of small letters");
  arguments.option("--line-height", line_height, "PX", "Instead of --size: the natural height of a line");
  arguments.option("--align", align, "SIDE",
                   "left, center, right, start or end: lines against the widest one");
  arguments.option("--line-spacing", line_spacing, "F", "Multiple of the natural line height");
  arguments.option("--tracking", tracking, "PX", "Added between letters");
  arguments.option("--features", features, "TAG=N,...", "kern=0 is --no-kerning");
  arguments.flag("--no-kerning", no_kerning, "Leave pair kerning out");
  arguments.flag("--strict", strict, "Exit with 1 where there is any note");
}

namespace {

TextAlign to_align(const std::string& name) {
  constexpr std::pair<std::string_view, TextAlign> kNames[] = {{"left", TextAlign::left},
                                                               {"center", TextAlign::center},
                                                               {"right", TextAlign::right},
                                                               {"start", TextAlign::start},
                                                               {"end", TextAlign::end}};
  for (const auto& [known, align] : kNames) {
    if (known == name) return align;
  }
  throw Failure{wrong_usage,
                fmt::format("--align: expected left, center, right, start or end, found '{}'", name)};
}

/// Kerning is the one feature that is applied so far.
bool wants_kerning(const LayoutOptions& options) {
  bool kerning = !options.no_kerning;
  if (options.features.empty()) return kerning;
  for (const std::string& feature : split(options.features, "--features")) {
    if (feature != "kern=0" && feature != "kern=1" && feature != "kern") {
      throw Failure{
          wrong_usage,
          fmt::format(
              "--features: expected kern=0 or kern=1, the one feature that is applied so far, found '{}'",
              feature)};
    }
    kerning = kerning && feature != "kern=0";
  }
  return kerning;
}

float read_size(const LayoutOptions& options, const GlyphMetrics& face) {
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
  return size.value_or(TextStyle{}.size);
}

}  // namespace

LaidOut lay_out(const LayoutOptions& options) {
  constexpr std::size_t kMostText = std::size_t{4} << 20U;
  LaidOut out;
  if (!options.text && options.text_from.empty()) {
    throw Failure{wrong_usage, "expected a text: --text S, or --text-from FILE"};
  }
  if (!options.atlas.empty()) {
    if (!options.fonts.paths.empty()) throw Failure{wrong_usage, "expected FONT or --atlas, found both"};
    out.atlas = std::make_shared<const Atlas>(value_or_give_up(load_atlas(options.atlas)));
    out.stack = atlas_stack(out.atlas);
  } else {
    const LoadedFonts fonts = options.fonts.load();
    out.stack = stack_of(fonts);
    for (const Note& note : fonts.notes.all()) out.notes.add(note);
  }
  out.text = options.text ? *options.text : value_or_give_up(load_text(options.text_from, kMostText));
  check_text(out.text, options.text_from.empty() ? "--text" : options.text_from);
  TextStyle& style = out.style;
  style.size = read_size(options, *out.stack[0].metrics);
  style.align = to_align(options.align);
  style.line_spacing = to_number(options.line_spacing, "--line-spacing", 0, 100);
  style.tracking = to_number(options.tracking, "--tracking", -1000, 1000);
  style.kerning = wants_kerning(options);
  ShapeCache cache;
  value_or_give_up(grafema::lay_out(out.stack, out.text, style, cache, out.paragraph, &out.notes));
  return out;
}

void LookOptions::add_to(Arguments& arguments) {
  arguments.heading("Look");
  arguments.option("--look", base, "FILE#NAME", "A look of a looks file; the other options add layers to it");
  arguments.option("--fill", fill, "C[,C,C,C]",
                   "One color, or four for the corners: top left, top right, bottom right, bottom left");
  arguments.option("--outline", outline, "PX,C", "Width and color around the letters");
  arguments.option("--shadow", shadow, "DX,DY,BLUR,C", "Offset, softness and color behind the letters");
  arguments.option("--glow", glow, "PX,C", "Width and color of light around the letters");
  arguments.option("--embolden", embolden, "PX", "Widens every stroke on each side");
  arguments.option("--opacity", opacity, "F", "Of the whole, 0 to 1");
}

bool LookOptions::asked() const {
  return !base.empty() || fill || !outline.empty() || !shadow.empty() || !glow.empty() || embolden != "0" ||
         opacity != "1";
}

/// Back to front: shadow, glow, outline, fill. Shadow and glow are those of the outlined letter.
Look LookOptions::read(Notes* notes) const {
  constexpr float kMost = 256;
  Look look;
  if (!base.empty()) look = value_or_give_up(load_look(base, notes));
  look.opacity *= to_number(opacity, "--opacity", 0, 1);
  const auto add = [&look](const Layer& layer) {
    if (!look.add(layer)) {
      throw Failure{wrong_usage, fmt::format("expected at most {} layers in a look", Look::kMaxLayers)};
    }
  };
  const float bolder = to_number(embolden, "--embolden", -kMost, kMost);
  const auto outline_parts = outline.empty() ? std::vector<std::string>{} : split(outline, "--outline", 2);
  const float outer = bolder + (outline.empty() ? 0 : to_number(outline_parts[0], "--outline", 0, kMost));
  if (!shadow.empty()) {
    const auto parts = split(shadow, "--shadow", 4);
    add({.shift = {to_number(parts[0], "--shadow", -4096, 4096),
                   to_number(parts[1], "--shadow", -4096, 4096)},
         .grow = outer,
         .blur = to_number(parts[2], "--shadow", 0, kMost),
         .fill = Fill::solid(to_color(parts[3], "--shadow"))});
  }
  if (!glow.empty()) {
    const auto parts = split(glow, "--glow", 2);
    const float half = to_number(parts[0], "--glow", 0, kMost) /
                       2;  // half of the glow's width is full, then it fades over as much
    add({.grow = outer + half, .blur = half, .fill = Fill::solid(to_color(parts[1], "--glow"))});
  }
  if (!outline.empty()) add({.grow = outer, .fill = Fill::solid(to_color(outline_parts[1], "--outline"))});
  if (!fill && !base.empty() && bolder == 0) return look;
  const auto colors = split(fill.value_or("black"), "--fill");
  if (colors.size() != 1 && colors.size() != 4) {
    throw Failure{wrong_usage, fmt::format("--fill: expected one color or four, found {}", colors.size())};
  }
  Layer front{.grow = bolder};
  for (std::size_t i = 0; i < 4; ++i) {
    front.fill.corners[i] = to_color(colors[colors.size() == 4 ? i : 0], "--fill");
  }
  add(front);
  return look;
}

}  // namespace grafema::tool
