// SPDX-License-Identifier: MIT
// Groups of options that several subcommands have.
#pragma once

#include <map>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "common.hpp"
#include "grafema/atlas/glyph_source.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/placement.hpp"
#include "grafema/text/style_book.hpp"

namespace grafema::tool {

/// FONT... and --face.
struct FontOptions {
  std::vector<std::string> paths;
  long index = 0;
  std::string axes;

  void add_to(Arguments& arguments);
  LoadedFonts load() const { return load_fonts(paths, static_cast<std::size_t>(index), axes); }
};

/// --chars, --text-from, --range, --charset, --all.
struct CharacterOptions {
  std::string chars, text, range;
  std::vector<std::string> files, sets;
  bool all = false;

  void add_to(Arguments& arguments);
  bool asked() const {
    return !chars.empty() || !text.empty() || !files.empty() || !sets.empty() || !range.empty() || all;
  }
  /// Ascending, each once.
  std::vector<char32_t> read() const { return read_wanted().characters; }
  /// The same, and which file asked first for a character.
  struct Wanted {
    std::vector<char32_t> characters;
    std::map<char32_t, std::string> asked_by;
    std::string texts;  ///< all that was asked for as text, for its clusters
  };
  Wanted read_wanted() const;
};

/// --text, --text-from and how it is laid out.
struct LayoutOptions {
  FontOptions fonts;
  std::string atlas, text_from;
  std::optional<std::string> text;
  std::optional<std::string> size, cap_height, x_height, line_height;
  std::string align = "start", vertical_align = "top", line_spacing = "1", tracking = "0", features, language;
  std::string word_spacing = "0", indent, tabs, direction = "auto", breaking = "normal", max_lines = "0";
  std::string writing = "horizontal", stance = "mixed", digits_across = "0";
  std::string paragraph_spacing = "0", overflow = "show", ellipsis = "end", smallest, min_tracking;
  std::optional<std::string> wrap, box_height, leading;
  std::vector<std::string> reserve;
  bool markup = false;
  std::string named_style, values;  ///< --style FILE#NAME, --values FILE
  std::string clock;                ///< --clock; empty: now
  std::optional<std::string> reveal;
  bool no_kerning = false, balance = false, halve_ends = false, script_gaps = false, keep_last_words = false,
       justify_last = false, strict = false;

  void add_to(Arguments& arguments);
};

/// What the options say counts over what `style` says; an option that has its default says nothing.
TextStyle read_style(const LayoutOptions& options, TextStyle style);
/// Pixels per em: what --size or one of the heights says, else the style's.
float read_size(const LayoutOptions& options, const GlyphMetrics& face, const NamedStyle& named);

/// What names in markup and in styles stand for.
struct TextNames {
  FontBook fonts;
  StyleBook styles;
  IconBook icons;
  LookBook looks;  ///< of the file of --look, or of looks.json beside the styles
};

/// Text laid out as the options ask.
struct LaidOut {
  std::string text;
  std::optional<RichText> rich;  ///< where there is markup
  std::shared_ptr<TextNames> names;
  std::string look;  ///< that the style names
  std::size_t revealed = static_cast<std::size_t>(-1);
  TextStyle style;
  std::shared_ptr<const Atlas> atlas;  ///< where --atlas was given
  FontStack stack;
  Paragraph paragraph;
  Notes notes;
};
/// `look_file` is FILE or FILE#NAME of --look.
LaidOut lay_out(const LayoutOptions& options, const std::string& look_file = {});

/// The looks of a rich text's styles by the names of its spans; notes those that are not there.
LookOf looks_of(const LaidOut& laid, Notes* notes);

/// Returns true if `name` is a ready-made look and no file.
bool is_ready_look(const std::string& name);

/// --look and --fill, --outline, --shadow, --glow, --embolden, --opacity.
struct LookOptions {
  std::string base;                 ///< --look
  std::vector<std::string> values;  ///< --set
  std::optional<std::string> fill;
  std::string outline, shadow, glow, embolden = "0", opacity = "1";

  void add_to(Arguments& arguments);
  bool asked() const;
  /// --opacity, which `read` leaves out: a label fades as one thing.
  float whole_opacity() const;
  /// `named` is the look that the others add layers to where --look is not given.
  Look read(Notes* notes = nullptr, const Look* named = nullptr) const;
};

}  // namespace grafema::tool
