// SPDX-License-Identifier: MIT
// The grafema command: finds the subcommand, runs it, turns failures into exit codes.
#include <CLI/CLI.hpp>
#include <cstdio>
#include <exception>

#include "common.hpp"

namespace {

using namespace grafema::tool;

int run(int argc, char** argv) {
  CLI::App app("Text for games, from font file to lit pixel.", "grafema");
  app.set_version_flag("--version", std::string("grafema ") + GRAFEMA_VERSION);
  app.require_subcommand(1);
  app.fallthrough(false);
  const Registered commands[] = {
      add_inspect(app), add_missing(app), add_specimen(app),  add_bake(app), add_repaint(app),
      add_measure(app), add_draw(app),    add_make_font(app), add_demo(app),
#ifdef GRAFEMA_HAS_OPENGL
      add_view(app),
#endif
  };
  try {
    app.parse(argc, argv);
  } catch (const CLI::ParseError& problem) {
    const bool asked_for = problem.get_exit_code() == 0;  // --help and --version
    app.exit(problem);
    return asked_for ? int{done} : int{wrong_usage};
  }
  for (const Registered& command : commands) {
    if (command.app->parsed()) return command.run();
  }
  return wrong_usage;
}

}  // namespace

int main(int argc, char** argv) {
  try {
    return run(argc, argv);
  } catch (const Failure& failure) {
    std::fprintf(stderr, "grafema: %s\n", failure.message.c_str());
    return failure.exit;
  } catch (const std::exception& problem) {
    std::fprintf(stderr, "grafema: %s\n", problem.what());
    return bad_input;
  }
}
