// SPDX-License-Identifier: MIT
// The machine that runs Type 2 charstrings: its stack, its pen, its operators.
#pragma once

#include <array>
#include <optional>
#include <span>

#include "font/outline/charstring.hpp"

namespace grafema::detail {

constexpr std::size_t kStackSize = 513;  // of CFF2; CFF asks for 48
constexpr int kMaxSubroutineDepth = 10;
/// Steps of one glyph; the most elaborate real ones stay below a hundred thousand.
constexpr std::size_t kMaxSteps = 2'000'000;
constexpr std::size_t kMaxPoints = 200'000;
constexpr std::size_t kRegisters = 32;

/// Runs one charstring. Operators stand in charstring_operators.cpp, the loop that reads them in
/// charstring.cpp.
class CharstringMachine {
 public:
  CharstringMachine(const CharstringContext& context, double dx, double dy, Contours& out)
      : context_(context), out_(out), x_(dx), y_(dy) {}

  Result<Accented> run(const TableView& charstring) {
    if (const Result<void> ran = run_in(charstring, 0); !ran) return fail(ran.error());
    close();
    return accented_;
  }

 private:
  Result<void> run_in(const TableView& code, int depth);
  /// What an operator leaves to do.
  enum class Next : std::uint8_t { go_on, leave, unknown, broken };
  Next step(const TableView& code, std::size_t& at, unsigned op);
  Next escaped(unsigned op);
  Next arithmetic(unsigned op);
  Next memory(unsigned op);
  Next flex(unsigned op);
  Result<void> call(const CffIndex* index, int depth);
  std::optional<std::size_t> read_number(const TableView& code, std::size_t at, unsigned b0);

  bool push(double value) {
    if (size_ == kStackSize) return false;
    stack_[size_++] = value;
    return true;
  }
  double pop() { return size_ > 0 ? stack_[--size_] : 0; }
  /// The operands of an operator that draws, without the width that the first one of a glyph may begin with.
  std::span<const double> arguments(std::size_t expected, bool even = false) {
    std::size_t first = 0;
    if (!width_seen_ && !context_.version2) first = even ? size_ % 2 : size_ > expected ? 1 : 0;
    width_seen_ = true;
    const std::span<const double> all(stack_.data() + first, size_ - first);
    size_ = 0;
    return all;
  }
  std::span<const double> all() {
    const std::span<const double> values(stack_.data(), size_);
    size_ = 0;
    return values;
  }

  FontPoint here() const { return {static_cast<float>(x_), static_cast<float>(y_)}; }
  FontPoint moved(double dx, double dy) {
    x_ += dx;
    y_ += dy;
    return here();
  }
  void close() {
    if (open_) out_.close();
    open_ = false;
  }
  void move(double dx, double dy) {
    close();
    moved(dx, dy);
    started_ = true;
  }
  /// A contour is written when its first piece is: points that nothing leads to are left out.
  void begin_piece() {
    if (open_) return;
    out_.move_to(here());
    open_ = true;
  }
  void line(double dx, double dy) {
    begin_piece();
    out_.line_to(moved(dx, dy));
  }
  void curve(double ax, double ay, double bx, double by, double cx, double cy) {
    begin_piece();
    const FontPoint a = moved(ax, ay), b = moved(bx, by);
    out_.curve_to(a, b, moved(cx, cy));
  }

  void hints() { hint_count_ += arguments(0, true).size() / 2; }
  void lines(std::span<const double> v);
  void alternating_lines(std::span<const double> v, bool horizontal);
  void curves(std::span<const double> v);
  void flat_curves(std::span<const double> v, bool horizontal);
  void alternating_curves(std::span<const double> v, bool horizontal);
  void end_glyph();
  bool blend();

  const CharstringContext& context_;
  Contours& out_;
  double x_, y_;
  std::array<double, kStackSize> stack_;
  std::array<double, kRegisters> registers_ = {};
  std::size_t size_ = 0, hint_count_ = 0, steps_ = 0;
  std::optional<std::size_t> group_;
  bool width_seen_ = false, open_ = false, started_ = false, ended_ = false;
  Accented accented_;
};

}  // namespace grafema::detail
