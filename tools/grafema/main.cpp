// SPDX-License-Identifier: MIT
// The grafema command: runs a subcommand, turns failures into exit codes.
#include <cstdio>
#include <exception>

#include "common.hpp"

namespace {

using namespace grafema::tool;

int run(int argc, char** argv) {
  CommandLine line;
  add_inspect(line);
  add_missing(line);
  add_specimen(line);
  add_bake(line);
  add_repaint(line);
  add_measure(line);
  add_draw(line);
#ifdef GRAFEMA_HAS_OPENGL
  add_view(line);
#endif
  add_make_font(line);
  add_demo(line);
  return line.run(argc, argv);
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
