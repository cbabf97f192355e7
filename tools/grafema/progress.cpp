// SPDX-License-Identifier: MIT
// Draws the bar and listens for Ctrl-C.
#include "progress.hpp"

#include <fmt/format.h>
#include <unistd.h>

#include <csignal>

namespace grafema::tool {
namespace {

volatile std::sig_atomic_t interrupted_by_user = 0;

void note_interrupt(int) { interrupted_by_user = 1; }

}  // namespace

ProgressBar::ProgressBar(std::string what, bool shown)
    : what_(std::move(what)), shown_(shown && isatty(STDERR_FILENO) == 1) {
  started_ = last_ = std::chrono::steady_clock::now();
  interrupted_by_user = 0;
  std::signal(SIGINT, note_interrupt);
}

ProgressBar::~ProgressBar() {
  clear();
  std::signal(SIGINT, SIG_DFL);
}

bool ProgressBar::update(std::size_t done, std::size_t total) {
  const auto now = std::chrono::steady_clock::now();
  constexpr std::chrono::milliseconds kPause(100), kQuickWork(300);
  if (shown_ && total > 0 && now - last_ > kPause && now - started_ > kQuickWork) {
    last_ = now;
    drawn_ = true;
    const double part = static_cast<double>(done) / static_cast<double>(total),
                 gone = std::chrono::duration<double>(now - started_).count();
    constexpr int kWidth = 32;
    const int full = static_cast<int>(part * kWidth);
    fmt::print(stderr, "\r{} {:>3.0f}% {}{} {}/{}  {:.0f} s left ", what_, part * 100,
               std::string(static_cast<std::size_t>(full), '='),
               std::string(static_cast<std::size_t>(kWidth - full), '.'), done, total,
               part > 0 ? gone / part - gone : 0);
  }
  return interrupted_by_user == 0;
}

void ProgressBar::clear() {
  if (drawn_) fmt::print(stderr, "\r{}\r", std::string(96, ' '));
  drawn_ = false;
}

}  // namespace grafema::tool
