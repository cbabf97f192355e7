// SPDX-License-Identifier: MIT
// The command line: what subcommands take, its help, its errors. arguments.cpp alone knows the parser.
#pragma once

#include <cstddef>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace grafema::tool {

enum class Need : unsigned char { optional, required };

/// What one subcommand takes. Variables that are bound must live until the command has run.
class Arguments {
 public:
  /// What is declared from here on stands below this heading in the help.
  void heading(std::string title);
  /// A word without an option before it, such as FONT.
  void input(const char* name, std::string& to, const char* help, Need need = Need::optional);
  void inputs(const char* name, std::vector<std::string>& to, const char* help, Need need = Need::optional);
  /// An option with a value; `names` is "--size" or "-o,--output", `value` stands for the value in the help
  /// ("PX"). Given twice, the last one counts. A text that is not empty is shown as the default.
  void option(const char* names, std::string& to, const char* value, const char* help,
              Need need = Need::optional);
  void option(const char* names, std::optional<std::string>& to, const char* value, const char* help);
  /// One value or several, and the option may be given again.
  void option(const char* names, std::vector<std::string>& to, const char* value, const char* help);
  /// A whole number from `low` to `high`; the one that `to` holds is shown as the default.
  void whole(const char* names, long& to, long low, long high, const char* value, const char* help);
  void whole(const char* names, std::optional<long>& to, long low, long high, const char* value,
             const char* help);
  void flag(const char* name, bool& to, const char* help);
  /// Refuses a command line that has both.
  void exclude(const char* one, const char* other);
  /// The last lines of the help.
  void example(std::string text);

  struct State;
  explicit Arguments(std::unique_ptr<State> state);
  ~Arguments();
  State& state() { return *state_; }

 private:
  std::unique_ptr<State> state_;
};

/// All subcommands.
class CommandLine {
 public:
  CommandLine();
  ~CommandLine();
  CommandLine(const CommandLine&) = delete;
  CommandLine& operator=(const CommandLine&) = delete;

  /// Adds a subcommand; `run` gives the exit code. Commands stand in the help as they are added.
  Arguments& add(const char* name, const char* summary, std::function<int()> run);
  /// Reads the command line and runs the subcommand that it names, or prints the help or the version that it
  /// asks for; the overview if it is empty. Throws Failure where it is wrong.
  int run(int argc, char** argv);

 private:
  struct State;
  std::unique_ptr<State> state_;
};

}  // namespace grafema::tool
