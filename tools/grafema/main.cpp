// SPDX-License-Identifier: MIT
// The grafema command: runs a subcommand, turns failures into exit codes.
#include <cerrno>
#include <cstdio>
#include <exception>
#include <new>
#include <system_error>

#include "common.hpp"
#include "grafema/files/output_files.hpp"

namespace {

using namespace grafema;
using namespace grafema::tool;

/// What was printed is on its way, or the command has failed.
void finish_printing() {
  if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return;
  const int code = errno;
  throw Failure{bad_output,
                fmt::format("standard output can't be written: {}",
                            code != 0 ? std::generic_category().message(code) : "an error before")};
}

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
  OutputFiles outputs;
  const int exit = line.run(argc, argv);
  finish_printing();
  value_or_give_up(outputs.commit());
  return exit;
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
  } catch (const std::system_error& problem) {  // printing fails so
    return say(fmt::format("standard output can't be written: {}", problem.code().message())), bad_output;
  } catch (const std::exception& problem) {
    return say(problem.what()), bad_input;
  }
}
