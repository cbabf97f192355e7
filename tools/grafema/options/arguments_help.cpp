// SPDX-License-Identifier: MIT
// Lays the help of commands out in two columns.
#include "options/arguments_help.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace grafema::tool {
namespace {

constexpr std::size_t kHelpWidth = 100, kLeft = 26;

/// Prints `text` from column `kLeft` on, broken between words.
void print_wrapped(const std::string& text) {
  std::size_t at = 0;
  while (at < text.size()) {
    std::size_t end = std::min(text.size(), at + kHelpWidth - kLeft);
    if (end < text.size()) {
      const std::size_t space = text.rfind(' ', end);
      if (space != std::string::npos && space > at) end = space;
    }
    if (at > 0) fmt::print("{:{}}", "", kLeft);
    fmt::print("{}\n", text.substr(at, end - at));
    at = text.find_first_not_of(' ', end);
    if (at == std::string::npos) return;
  }
  if (text.empty()) fmt::print("\n");
}

void print_row(const std::string& left, const std::string& right) {
  if (left.size() + 2 < kLeft) {
    fmt::print("  {:{}}", left, kLeft - 2);
  } else {
    fmt::print("  {}\n{:{}}", left, "", kLeft);
  }
  print_wrapped(right);
}

void print_row(const HelpRow& row) {
  std::string names;
  for (const std::string& name : names_of(row)) names += (names.empty() ? "" : ", ") + name;
  const std::string space = row.is_input || row.value.empty() ? "" : " ";
  const std::string standard = row.standard.empty() ? "" : fmt::format(" (default {})", row.standard);
  print_row(names + space + row.value, row.help + standard);
}

std::string usage_of(const CommandHelp& help) {
  std::string usage = fmt::format("grafema {}", help.name);
  for (const HelpRow& row : help.rows) {
    if (!row.is_input) continue;
    const std::string name = row.names + row.value;
    usage += row.required ? " " + name : fmt::format(" [{}]", name);
  }
  for (const HelpRow& row : help.rows) {
    if (!row.is_input && row.required) usage += " " + label_of(row);
  }
  return usage + " [options]";
}

}  // namespace

std::vector<std::string> names_of(const HelpRow& row) {
  std::vector<std::string> names;
  for (std::size_t at = 0; at <= row.names.size();) {
    const std::size_t comma = std::min(row.names.find(',', at), row.names.size());
    names.push_back(row.names.substr(at, comma - at));
    at = comma + 1;
  }
  return names;
}

std::string label_of(const HelpRow& row) {
  const std::string name = names_of(row).front();
  return row.is_input || row.value.empty() ? name : name + " " + row.value;
}

void print(const CommandHelp& help) {
  fmt::print("{}.\n\nusage: {}\n", help.summary, usage_of(help));
  // Rows of one heading stand together, headings in the order in which each came first.
  std::vector<std::string> headings;
  for (const HelpRow& row : help.rows) {
    if (std::find(headings.begin(), headings.end(), row.heading) == headings.end()) {
      headings.push_back(row.heading);
    }
  }
  for (const std::string& heading : headings) {
    fmt::print("\n{}\n", heading);
    for (const HelpRow& row : help.rows) {
      if (row.heading == heading) print_row(row);
    }
  }
  fmt::print("\n{}\n", help.example);
}

void print_overview(const std::vector<const CommandHelp*>& commands) {
  fmt::print("Text for games, from font file to lit pixel.\n\nusage: grafema COMMAND ...\n\n");
  for (const CommandHelp* command : commands) print_row(command->name, command->summary);
  fmt::print(
      "\nWithout a font every command uses Quillmere Dot, which is built in. grafema help COMMAND tells "
      "more.\n"
      "Example: grafema draw --text \"Pale Orchard\" --size 48 -o sign.png\n");
}

}  // namespace grafema::tool
