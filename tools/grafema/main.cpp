// SPDX-License-Identifier: MIT
// The grafema command: runs a subcommand, turns failures into exit codes.
#include <cstdio>
#include <exception>
#include <new>

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
  add_looks(line);
  add_contours(line);
  add_extrude(line);
  add_messages(line);
  add_make_font(line);
  add_subset(line);
  add_demo(line);
  return line.run(argc, argv);
}

void say(const std::string& message) {
  std::fprintf(stderr, "%s %s\n", in_color(stderr, "grafema:", fmt::terminal_color::red).c_str(),
               message.c_str());
}

}  // namespace

int main(int argc, char** argv) {
  try {
    return run(argc, argv);
  } catch (const Failure& failure) {
    remove_made_folders();
    return say(failure.message), failure.exit;
  } catch (const std::bad_alloc&) {
    return say("there is not memory enough for this"), bad_input;
  } catch (const std::exception& problem) {
    return say(problem.what()), bad_input;
  }
}
