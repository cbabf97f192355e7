// SPDX-License-Identifier: MIT
// Declares options to the parser, and says in our own words what is wrong with a command line.
#include "options/arguments.hpp"

#include <fmt/format.h>

#include <CLI/App.hpp>
#include <CLI/Config.hpp>
#include <CLI/Formatter.hpp>
#include <charconv>
#include <span>
#include <string_view>

#include "failure.hpp"
#include "grafema/base/nearest.hpp"
#include "options/arguments_help.hpp"

namespace grafema::tool {

struct Arguments::State {
  CLI::App* app = nullptr;
  std::function<int()> run;
  CommandHelp help;
  std::vector<std::pair<CLI::Option*, std::size_t>> declared;  // and which row of the help it is
  std::vector<std::pair<std::string, std::string>> exclusions;
  std::string current_heading;

  void note(CLI::Option* option, const char* names, const char* value, const char* text, Need need, bool word,
            std::string standard) {
    declared.emplace_back(option, help.rows.size());
    const std::string heading = current_heading.empty() ? (word ? "Input" : "Options") : current_heading;
    help.rows.push_back({heading, names, value, text, std::move(standard), word, need == Need::required});
  }
};

Arguments::Arguments(std::unique_ptr<State> state) : state_(std::move(state)) {}
Arguments::~Arguments() = default;

void Arguments::heading(std::string title) { state_->current_heading = std::move(title); }
void Arguments::example(std::string text) { state_->help.example = std::move(text); }
void Arguments::exclude(const char* one, const char* other) { state_->exclusions.emplace_back(one, other); }

void Arguments::input(const char* name, std::string& to, const char* help, Need need) {
  state_->note(state_->app->add_option(name, to), name, "", help, need, true, "");
}

void Arguments::inputs(const char* name, std::vector<std::string>& to, const char* help, Need need) {
  state_->note(state_->app->add_option(name, to), name, "...", help, need, true, "");
}

void Arguments::option(const char* names, std::string& to, const char* value, const char* help, Need need) {
  CLI::Option* option = state_->app->add_option(names, to);
  option->multi_option_policy(CLI::MultiOptionPolicy::TakeLast);
  state_->note(option, names, value, help, need, false, to);
}

void Arguments::option(const char* names, std::optional<std::string>& to, const char* value,
                       const char* help) {
  CLI::Option* option =
      state_->app->add_option_function<std::string>(names, [&to](const std::string& text) { to = text; });
  option->multi_option_policy(CLI::MultiOptionPolicy::TakeLast);
  state_->note(option, names, value, help, Need::optional, false, "");
}

void Arguments::option(const char* names, std::vector<std::string>& to, const char* value, const char* help) {
  state_->note(state_->app->add_option(names, to), names, value, help, Need::optional, false, "");
}

namespace {

long to_whole(const std::string& text, const char* names, long low, long high) {
  long number = 0;
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), number);
  const bool whole = error == std::errc() && end == text.data() + text.size();
  if (whole && number >= low && number <= high) return number;
  throw Failure{wrong_usage,
                fmt::format("{}: expected a whole number from {} to {}, found '{}'", names, low, high, text)};
}

}  // namespace

void Arguments::whole(const char* names, long& to, long low, long high, const char* value, const char* help) {
  CLI::Option* option = state_->app->add_option_function<std::string>(
      names, [&to, names, low, high](const std::string& text) { to = to_whole(text, names, low, high); });
  option->multi_option_policy(CLI::MultiOptionPolicy::TakeLast);
  state_->note(option, names, value, help, Need::optional, false, fmt::format("{}", to));
}

void Arguments::whole(const char* names, std::optional<long>& to, long low, long high, const char* value,
                      const char* help) {
  CLI::Option* option = state_->app->add_option_function<std::string>(
      names, [&to, names, low, high](const std::string& text) { to = to_whole(text, names, low, high); });
  option->multi_option_policy(CLI::MultiOptionPolicy::TakeLast);
  state_->note(option, names, value, help, Need::optional, false, "");
}

void Arguments::flag(const char* name, bool& to, const char* help) {
  state_->note(state_->app->add_flag(name, to), name, "", help, Need::optional, false, "");
}

struct CommandLine::State {
  CLI::App app;
  std::vector<std::unique_ptr<Arguments>> commands;

  Arguments::State* chosen();
  std::vector<std::string> names() const;
  int help(std::span<char* const> words);
  [[noreturn]] void refuse_unknown(const std::vector<std::string>& words,
                                   const std::vector<std::string>& known, const std::string& command);
  void check(Arguments::State& command);
  void print_help(Arguments::State* command);
};

CommandLine::CommandLine() : state_(std::make_unique<State>()) {
  state_->app.allow_extras();
  state_->app.fallthrough(false);
  state_->app.set_version_flag("--version", std::string("grafema ") + GRAFEMA_VERSION);
}

CommandLine::~CommandLine() = default;

Arguments& CommandLine::add(const char* name, const char* summary, std::function<int()> run) {
  auto state = std::make_unique<Arguments::State>();
  state->app = state_->app.add_subcommand(name);
  state->app->allow_extras();
  state->run = std::move(run);
  state->help.name = name;
  state->help.summary = summary;
  return *state_->commands.emplace_back(std::make_unique<Arguments>(std::move(state)));
}

Arguments::State* CommandLine::State::chosen() {
  for (const auto& command : commands) {
    if (command->state().app->parsed()) return &command->state();
  }
  return nullptr;
}

namespace {

/// Options that people try first, and what does it here.
constexpr std::pair<std::string_view, std::string_view> kElsewhere[] = {
    {"--background", "--backdrop COLOR|PNG"},
    {"--bold", "a bold face is FONT#Bold; --embolden PX widens the strokes of any face"},
    {"--border", "--outline PX,COLOR"},
    {"--bg", "--backdrop COLOR|PNG"},
    {"--color", "--fill COLOR"},
    {"--colour", "--fill COLOR"},
    {"--file", "--text-from FILE, or a font file as a word of its own"},
    {"--font", "a font file, folder or name is a word of its own: grafema draw my.ttf --text S"},
    {"--font-size", "--size PX"},
    {"--gradient", "--fill \"linear-gradient(gold, #d9514a)\""},
    {"--input", "a font file is a word of its own: grafema inspect my.ttf"},
    {"--italic", "an italic face is FONT#Italic"},
    {"--kerning", "kerning is on; --no-kerning leaves it out"},
    {"--letter-spacing", "--tracking PX"},
    {"--max-width", "--wrap PX"},
    {"--out", "-o FILE"},
    {"--output", "-o FILE"},
    {"--outline-color", "--outline PX,COLOR"},
    {"--position", "--at X,Y"},
    {"--rotation", "--rotate DEG"},
    {"--spacing", "--tracking PX between letters, --line-spacing F between lines"},
    {"--stroke", "--outline PX,COLOR"},
    {"--weight", "--axes wght=650 of a variable face, or FONT#Bold"},
    {"--width", "--wrap PX"},
};

/// What stands for an option that no command has; empty where nothing does.
std::string elsewhere(std::string_view option) {
  for (const auto& [name, here] : kElsewhere) {
    if (name == option) return fmt::format("; here it is: {}", here);
  }
  return {};
}

}  // namespace

/// Names the first word that nothing takes.
void CommandLine::State::refuse_unknown(const std::vector<std::string>& words,
                                        const std::vector<std::string>& known, const std::string& command) {
  const std::string word = words.front().substr(0, words.front().find('='));
  const std::vector<std::string_view> names(known.begin(), known.end());
  const bool is_option = word.size() > 1 && word.front() == '-';
  const std::string what = is_option         ? "unknown option "
                           : command.empty() ? "unknown command "
                                             : "nothing takes ";
  std::string instead = is_option ? elsewhere(word) : "";
  if (instead.empty() && (is_option || command.empty())) instead = suggestion(word, names);
  throw Failure{wrong_usage, fmt::format("{}'{}'{}", what, word, instead)};
}

void CommandLine::State::check(Arguments::State& command) {
  std::vector<std::string> names = {"--help"};
  for (const HelpRow& row : command.help.rows) {
    for (const std::string& name : names_of(row)) names.push_back(name);
  }
  const std::vector<std::string> extra = command.app->remaining();
  if (!extra.empty()) refuse_unknown(extra, names, command.help.name);
  for (const auto& [option, row] : command.declared) {
    const HelpRow& shown = command.help.rows[row];
    if (!shown.required || option->count() > 0) continue;
    throw Failure{wrong_usage,
                  fmt::format("grafema {} needs {}: {}", command.help.name, label_of(shown), shown.help)};
  }
  for (const auto& [one, other] : command.exclusions) {
    if (command.app->count(one) > 0 && command.app->count(other) > 0) {
      throw Failure{wrong_usage, fmt::format("expected {} or {}, found both", one, other)};
    }
  }
}

void CommandLine::State::print_help(Arguments::State* command) {
  if (command != nullptr) {
    print(command->help);
    return;
  }
  std::vector<const CommandHelp*> all;
  for (const auto& each : commands) all.push_back(&each->state().help);
  print_overview(all);
}

std::vector<std::string> CommandLine::State::names() const {
  std::vector<std::string> out;
  for (const auto& each : commands) out.push_back(each->state().help.name);
  return out;
}

/// `grafema` alone and `grafema help [COMMAND]`.
int CommandLine::State::help(std::span<char* const> words) {
  if (words.empty()) return print_help(nullptr), done;
  if (words.size() > 1)
    throw Failure{wrong_usage, fmt::format("help: expected one command, found '{}'", words[1])};
  for (const auto& each : commands) {
    if (each->state().help.name == words[0]) return print_help(&each->state()), done;
  }
  refuse_unknown({words[0]}, names(), "");
}

namespace {

/// The option that an error of the parser begins with, "--size: 1 required TEXT missing".
std::string blamed(const CLI::ParseError& problem) {
  const std::string text = problem.what();
  return text.substr(0, text.find(':'));
}

}  // namespace

int CommandLine::run(int argc, char** argv) {
  State& s = *state_;
  const std::span<char* const> words(argv, static_cast<std::size_t>(argc));
  if (argc <= 1) return s.help({});
  if (std::string_view(argv[1]) == "help") return s.help(words.subspan(2));
  try {
    s.app.parse(argc, argv);
  } catch (const CLI::CallForHelp&) {
    s.print_help(s.chosen());
    return done;
  } catch (const CLI::CallForVersion& version) {
    fmt::print("{}\n", version.what());
    return done;
  } catch (const CLI::ArgumentMismatch& problem) {
    throw Failure{wrong_usage, fmt::format("{}: expected a value", blamed(problem))};
  } catch (const CLI::ParseError& problem) {
    throw Failure{wrong_usage, fmt::format("{}: not understood", blamed(problem))};
  }
  Arguments::State* command = s.chosen();
  if (command == nullptr) {
    if (const std::vector<std::string> extra = s.app.remaining(); !extra.empty()) {
      s.refuse_unknown(extra, s.names(), "");
    }
    throw Failure{wrong_usage, "expected a command; grafema --help lists them"};
  }
  s.check(*command);
  return command->run();
}

}  // namespace grafema::tool
