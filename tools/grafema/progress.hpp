// SPDX-License-Identifier: MIT
// A progress bar with the time left on standard error, and a tidy end on Ctrl-C.
#pragma once

#include <chrono>
#include <cstddef>
#include <string>

namespace grafema::tool {

/// Draws where standard error is a terminal; says whether to go on. One lives at a time.
class ProgressBar {
 public:
  /// `shown`: false under --quiet.
  ProgressBar(std::string what, bool shown);
  ~ProgressBar();
  ProgressBar(const ProgressBar&) = delete;
  ProgressBar& operator=(const ProgressBar&) = delete;

  /// False once Ctrl-C was pressed.
  bool update(std::size_t done, std::size_t total);
  /// Takes the bar off the terminal.
  void clear();

 private:
  std::string what_;
  bool shown_ = false, drawn_ = false;
  std::chrono::steady_clock::time_point started_, last_;
};

}  // namespace grafema::tool
