// SPDX-License-Identifier: MIT
// How the help of commands is laid out.
#pragma once

#include <string>
#include <vector>

namespace grafema::tool {

/// One option or input as the help shows it.
struct HelpRow {
  std::string heading, names, value, help, standard;
  bool is_input = false, required = false;
};

struct CommandHelp {
  std::string name, summary, example;
  std::vector<HelpRow> rows;
};

/// "-o" and "--output" of "-o,--output".
std::vector<std::string> names_of(const HelpRow& row);
/// As it stands in a sentence: "-o PNG", "--size PX", "SHEET".
std::string label_of(const HelpRow& row);

/// Prints a command's summary, usage, options below their headings, and example.
void print(const CommandHelp& help);
/// Prints what grafema is and what each command does.
void print_overview(const std::vector<const CommandHelp*>& commands);

}  // namespace grafema::tool
