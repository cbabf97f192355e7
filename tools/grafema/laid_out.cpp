// SPDX-License-Identifier: MIT
// Loads what a text needs (faces, styles, looks, icons) and lays it out.
#include <fmt/format.h>

#include <chrono>
#include <filesystem>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/files/catalog_file.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/picture_icon.hpp"
#include "grafema/files/styles_file.hpp"
#include "options/options.hpp"

namespace grafema::tool {
namespace {

constexpr std::size_t kMaxText = std::size_t{4} << 20U;

std::string file_of(const std::string& path_and_name) {
  return path_and_name.substr(0, path_and_name.rfind('#'));
}

void load_faces(const LayoutOptions& options, LaidOut& out) {
  if (!options.atlas.empty()) {
    if (!options.fonts.paths.empty()) throw Failure{wrong_usage, "expected FONT or --atlas, found both"};
    out.atlas = std::make_shared<const Atlas>(value_or_give_up(load_atlas(options.atlas)));
    out.stack = atlas_stack(out.atlas);
    return;
  }
  const LoadedFonts fonts = options.fonts.load();
  out.stack = stack_of(fonts);
  out.names->fonts = fonts.book;
  for (const LoadedFace& face : fonts.faces) out.names->icons.add_glyphs(face.face);
  for (const Note& note : fonts.notes.all()) out.notes.add(note);
}

/// Looks by name: those of --look's file, else of looks.json beside the styles.
void load_named_looks(const std::string& look_file, const std::string& styles_file, LaidOut& out) {
  if (!look_file.empty() && !is_ready_look(look_file)) {
    value_or_give_up(load_looks(file_of(look_file), out.names->looks));
    return;
  }
  const std::filesystem::path beside = std::filesystem::path(styles_file).parent_path() / "looks.json";
  std::error_code ignored;
  if (styles_file.empty() || !std::filesystem::is_regular_file(beside, ignored)) return;
  value_or_give_up(load_looks(beside.string(), out.names->looks, &out.notes));
}

NamedStyle load_named_style(const LayoutOptions& options, LaidOut& out) {
  if (options.named_style.empty()) return {};
  value_or_give_up(load_styles(file_of(options.named_style), out.names->styles, &out.notes));
  // Without #NAME a file of several styles gives them to the spans alone.
  const bool named = options.named_style.find('#') != std::string::npos;
  if (!named && out.names->styles.all().size() > 1) return {};
  NamedStyle style = value_or_give_up(load_style(options.named_style));
  out.stack = restyle(out.stack, style.span.font, &out.names->fonts, &out.notes);
  out.look = style.span.look;
  return style;
}

/// Pictures that markup names, `<img src="coin.png"/>`, beside the text's file.
void load_picture_icons(const LayoutOptions& options, LaidOut& out) {
  constexpr std::string_view kSource = "src=\"";
  const std::filesystem::path folder = std::filesystem::path(options.text_from).parent_path();
  for (std::size_t at = out.text.find(kSource); at != std::string::npos; at = out.text.find(kSource, at)) {
    at += kSource.size();
    const std::string name = out.text.substr(at, out.text.find('"', at) - at);
    if (!name.ends_with(".png") || out.names->icons.find(name) != nullptr) continue;
    out.names->icons.set(name, value_or_give_up(load_picture_icon((folder / name).string())));
  }
}

/// The text as a message pattern with the values of --values.
RichText format_message(const LayoutOptions& options, const MarkupNames& names, LaidOut& out) {
  MessageBook book;
  book.set_language(options.language.empty() ? "en" : options.language);
  if (options.markup) book.set_markup(markup_or_plain);
  book.set_clock(
      options.clock.empty()
          ? std::chrono::duration<double>(std::chrono::system_clock::now().time_since_epoch()).count()
          : value_or_give_up(read_moment(options.clock)));
  RichText made;
  book.format_pattern(out.text, value_or_give_up(load_message_values(options.values, names.icons)), made,
                      names, &out.notes);
  return made;
}

}  // namespace

LaidOut lay_out(const LayoutOptions& options, const std::string& look_file) {
  LaidOut out;
  out.names = std::make_shared<TextNames>();
  if (!options.text && options.text_from.empty()) {
    throw Failure{wrong_usage, "expected a text: --text S, or --text-from FILE"};
  }
  load_faces(options, out);
  out.text = options.text ? unescaped(*options.text, "--text")
                          : value_or_give_up(load_text(options.text_from, kMaxText));
  check_text(out.text, options.text_from.empty() ? "--text" : options.text_from);
  if (!options.text) {  // the newline that ends a file is not part of its text
    if (out.text.ends_with('\n')) out.text.pop_back();
    if (out.text.ends_with('\r')) out.text.pop_back();
  }
  const NamedStyle named = load_named_style(options, out);
  load_named_looks(look_file, file_of(options.named_style), out);
  out.style = read_style(options, named.text);
  out.style.size = read_size(options, *out.stack[0].metrics, named);
  if (options.reveal)
    out.revealed = static_cast<std::size_t>(to_number(*options.reveal, "--reveal", 0, 1e9F));
  ShapeCache cache;
  if (options.markup) load_picture_icons(options, out);
  const MarkupNames names{&out.names->styles, &out.names->icons};
  if (!options.values.empty()) {
    out.rich = format_message(options, names, out);
    if (out.rich->plain()) out.text = std::exchange(out.rich, std::nullopt)->text;
  } else if (options.markup) {
    out.rich = markup_or_plain(out.text, names, &out.notes);
  }
  if (out.rich) {
    out.text = out.rich->text;
    value_or_give_up(grafema::lay_out(out.stack, *out.rich, out.style, cache, out.paragraph, &out.notes,
                                      &out.names->fonts));
  } else {
    value_or_give_up(grafema::lay_out(out.stack, out.text, out.style, cache, out.paragraph, &out.notes));
  }
  return out;
}

LookOf looks_of(const LaidOut& laid, Notes* notes) {
  if (!laid.rich) return {};
  std::vector<const Look*> looks;
  for (const PlacedStyle& style : laid.paragraph.styles) {
    looks.push_back(nullptr);
    if (style.look == PlacedStyle::kNone) continue;
    const Result<LookId> found = laid.names->looks.read(laid.rich->spans[style.look].style.look);
    if (found) looks.back() = &laid.names->looks.get(*found);
    if (!found && notes != nullptr) {
      notes->add(
          {.kind = NoteKind::unknown_name, .text = fmt::format("look {}", found.error().found.data())});
    }
  }
  return [looks = std::move(looks)](std::size_t style) { return looks[style]; };
}

}  // namespace grafema::tool
