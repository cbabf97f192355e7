// SPDX-License-Identifier: MIT
// grafema messages: holds catalogs against the first, and finds what does not fit its box.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <nlohmann/json.hpp>

#include "common.hpp"
#include "grafema/files/catalog_file.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/output_files.hpp"
#include "grafema/files/styles_file.hpp"
#include "grafema/sheet/overflows.hpp"
#include "options/options.hpp"

namespace grafema::tool {
namespace {

using Json = nlohmann::ordered_json;

struct MessagesOptions {
  std::vector<std::string> catalogs, fonts;
  std::string styles, output;
  bool pseudo = false, json = false, add_missing = false;
};

/// What is checked, and where it came from.
struct Loaded {
  std::vector<Catalog> catalogs;
  std::vector<std::string> files;  ///< of the catalogs; empty for the invented one
  LoadedFonts fonts;
  StyleBook styles;
  IconBook icons;
  LookBook looks;
  Notes notes;
};

constexpr const char* kKinds[kMessageFaultKinds] = {"missing", "spare", "pattern",   "values", "plural-form",
                                                    "markup",  "name",  "character", "script", "overflow"};

void load(const MessagesOptions& options, Loaded& out) {
  for (const std::string& path : options.catalogs) {
    out.catalogs.push_back(value_or_give_up(load_catalog(path)));
    out.files.push_back(path);
  }
  if (options.pseudo) {
    out.catalogs.push_back(make_pseudo(out.catalogs[0]));
    out.files.emplace_back();
  }
  out.fonts = load_fonts(options.fonts, 0, "");
  for (const LoadedFace& face : out.fonts.faces) out.icons.add_glyphs(face.face);
  if (options.styles.empty()) return;
  value_or_give_up(load_styles(options.styles, out.styles, &out.notes));
  const std::filesystem::path looks = std::filesystem::path(options.styles).parent_path() / "looks.json";
  std::error_code ignored;
  if (std::filesystem::is_regular_file(looks, ignored))
    value_or_give_up(load_looks(looks.string(), out.looks, &out.notes));
}

std::size_t count_of(const std::vector<MessageFault>& faults, const std::string& language) {
  return static_cast<std::size_t>(std::count_if(
      faults.begin(), faults.end(), [&](const MessageFault& f) { return f.language == language; }));
}

void print_report(const Loaded& loaded, const std::vector<MessageFault>& faults) {
  for (std::size_t c = 0; c < loaded.catalogs.size(); ++c) {
    const Catalog& catalog = loaded.catalogs[c];
    const std::size_t count = count_of(faults, catalog.language);
    fmt::print("{:<6} {:>4} messages  {}  {}\n", catalog.language, catalog.messages.size(),
               count == 0 ? "nothing wrong" : fmt::format("{} {}", count, count == 1 ? "fault" : "faults"),
               loaded.files[c].empty() ? "(invented)" : loaded.files[c]);
    for (const MessageFault& fault : faults) {
      if (fault.language != catalog.language) continue;
      fmt::print("  {}{}: {} ({})\n", fault.id, fault.line != 0 ? fmt::format(", line {}", fault.line) : "",
                 fault.text, kKinds[static_cast<std::size_t>(fault.kind)]);
    }
  }
}

void print_json(const Loaded& loaded, const std::vector<MessageFault>& faults) {
  const auto dump = [](const Json& value) {
    return value.dump(-1, ' ', false, Json::error_handler_t::replace);
  };
  fmt::print("{{\"source\": {},\n \"catalogs\": [", dump(loaded.catalogs[0].language));
  for (std::size_t c = 0; c < loaded.catalogs.size(); ++c) {
    const Catalog& catalog = loaded.catalogs[c];
    const Json row = {{"language", catalog.language},
                      {"file", loaded.files[c]},
                      {"messages", catalog.messages.size()},
                      {"faults", count_of(faults, catalog.language)}};
    fmt::print("{}\n  {}", c == 0 ? "" : ",", dump(row));
  }
  fmt::print("],\n \"faults\": [");
  for (std::size_t i = 0; i < faults.size(); ++i) {
    const MessageFault& f = faults[i];
    Json row = {{"language", f.language},
                {"id", f.id},
                {"kind", kKinds[static_cast<std::size_t>(f.kind)]},
                {"text", f.text}};
    if (f.line != 0) row["line"] = f.line;
    if (f.kind == MessageFaultKind::overflow) {
      row["style"] = f.style;
      row["over"] = {std::round(f.over_x * 100) / 100, std::round(f.over_y * 100) / 100};
      row["shown"] = f.shown.text;
    }
    fmt::print("{}\n  {}", i == 0 ? "" : ",", dump(row));
  }
  fmt::print("]}}\n");
}

/// The invented language as a JSON catalog.
std::string to_json(const Catalog& catalog) {
  std::string out = "{";
  for (const CatalogMessage& message : catalog.messages) {
    const auto quoted = [](const std::string& text) {
      return Json(text).dump(-1, ' ', false, Json::error_handler_t::replace);
    };
    out += fmt::format("{}\n {}: {}", out.size() > 1 ? "," : "", quoted(message.id), quoted(message.pattern));
  }
  return out + "\n}\n";
}

/// PO catalogs get what they lack, to be translated.
void add_missing_messages(const MessagesOptions& options, const Loaded& loaded) {
  for (std::size_t c = 1; c < options.catalogs.size(); ++c) {
    const std::string& path = options.catalogs[c];
    if (!path.ends_with(".po")) continue;
    const ReplaceableReads changed;
    const std::string text = value_or_give_up(load_text(path));
    const std::string more = add_to_po(text, loaded.catalogs[0], loaded.catalogs[c].language);
    if (more != text) value_or_give_up(save_text(path, more));
  }
}

int run_messages(const MessagesOptions& options) {
  if (options.catalogs.empty()) throw Failure{wrong_usage, "expected at least one CATALOG, the source first"};
  if (!options.output.empty()) check_output(options.output, {".png", ".json"});
  const bool writes_pseudo = options.output.ends_with(".json");
  if (writes_pseudo && !options.pseudo)
    throw Failure{wrong_usage, "-o FILE.json is for --pseudo; a picture ends in .png"};
  Loaded loaded;
  load(options, loaded);
  if (options.add_missing) add_missing_messages(options, loaded);
  MessageCheck check;
  check.fonts = stack_of(loaded.fonts);
  check.families = &loaded.fonts.book;
  check.icons = &loaded.icons;
  if (!options.styles.empty()) check.styles = &loaded.styles;
  check.markup = markup_or_plain;
  // Without faces nothing is known of characters: the built-in face has few.
  if (options.fonts.empty()) check.fonts = {};
  const std::vector<MessageFault> faults = check_messages(loaded.catalogs, check);
  if (options.json) {
    print_json(loaded, faults);
  } else {
    print_report(loaded, faults);
  }
  if (writes_pseudo) {
    value_or_give_up(save_text(options.output, to_json(loaded.catalogs.back())));
  } else if (!options.output.empty()) {
    value_or_give_up(save_png(options.output, value_or_give_up(draw_overflows(faults, check, loaded.looks))));
  }
  report(loaded.notes, false);
  return faults.empty() ? done : answered_no;
}

}  // namespace

void add_messages(CommandLine& line) {
  auto options = std::make_shared<MessagesOptions>();
  Arguments& arguments = line.add(
      "messages",
      "What is missing or wrong in translations, or too long for its box; exit code 1 where anything is",
      [options] { return run_messages(*options); });
  arguments.heading("Catalogs");
  arguments.inputs("CATALOG", options->catalogs,
                   "Message catalogs, one a language: JSON or gettext PO; the first is the source");
  arguments.heading("Boxes");
  arguments.option("--fonts", options->fonts, "FONT",
                   "Font files, folders, zip archives or family files: finds characters that no face has");
  arguments.option("--styles", options->styles, "FILE",
                   "A styles file: lays every message out in the box of its style");
  arguments.flag("--pseudo", options->pseudo,
                 "Check an invented language too, made of the source: long and accented");
  arguments.flag("--add-missing", options->add_missing,
                 "Put ids that PO catalogs lack behind them, to be translated");
  arguments.heading("Report");
  arguments.flag("--json", options->json, "One JSON document on standard output");
  arguments.option(
      "-o,--output", options->output, "FILE",
      "A .png of the worst twenty in their boxes; with --pseudo a .json of the invented language");
  arguments.example(
      "Example: grafema messages en.json de.json pl.po --fonts fonts.json --styles styles.json -o worst.png");
}

}  // namespace grafema::tool
