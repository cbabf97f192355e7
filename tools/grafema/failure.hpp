// SPDX-License-Identifier: MIT
// How a command ends: exit codes, and the sentence of one that failed.
#pragma once

#include <string>

namespace grafema::tool {

enum Exit : int {
  done = 0,
  answered_no = 1,
  wrong_usage = 2,
  bad_input = 3,
  bad_output = 4,
  interrupted = 130
};

/// Thrown by subcommands and caught by main alone.
struct Failure {
  int exit = bad_input;
  std::string message;
};

}  // namespace grafema::tool
