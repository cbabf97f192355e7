// SPDX-License-Identifier: MIT
// The Type 2 charstring machine: numbers on a stack, operators that draw, hint operators that are stepped over.
#include "font/outline/charstring.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace grafema::detail {
namespace {

constexpr std::size_t kStackSize = 513;  // of CFF2; CFF asks for 48
constexpr int kMaxDepth = 10;
/// Steps of one glyph; the most elaborate real ones stay below a hundred thousand.
constexpr std::size_t kMaxSteps = 2'000'000;
constexpr std::size_t kMaxPoints = 200'000;
constexpr std::size_t kRegisters = 32;

class Machine {
 public:
  Machine(const CharstringContext& context, double dx, double dy, Contours& out) : context_(context), out_(out), x_(dx), y_(dy) {}

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
    out_.cubic_to(a, b, moved(cx, cy));
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

void Machine::lines(std::span<const double> v) {
  for (std::size_t i = 0; i + 1 < v.size(); i += 2) line(v[i], v[i + 1]);
}

void Machine::alternating_lines(std::span<const double> v, bool horizontal) {
  for (const double d : v) {
    line(horizontal ? d : 0, horizontal ? 0 : d);
    horizontal = !horizontal;
  }
}

void Machine::curves(std::span<const double> v) {
  for (std::size_t i = 0; i + 5 < v.size(); i += 6) curve(v[i], v[i + 1], v[i + 2], v[i + 3], v[i + 4], v[i + 5]);
}

/// hhcurveto and vvcurveto: curves that begin and end along one axis; an odd first number is the other start component.
void Machine::flat_curves(std::span<const double> v, bool horizontal) {
  double other = 0;
  if (v.size() % 4 != 0 && !v.empty()) {
    other = v[0];
    v = v.subspan(1);
  }
  for (std::size_t i = 0; i + 3 < v.size(); i += 4) {
    if (horizontal) {
      curve(v[i], other, v[i + 1], v[i + 2], v[i + 3], 0);
    } else {
      curve(other, v[i], v[i + 1], v[i + 2], 0, v[i + 3]);
    }
    other = 0;
  }
}

/// hvcurveto and vhcurveto: curves that begin along one axis and end along the other, by turns; the last may end freely.
void Machine::alternating_curves(std::span<const double> v, bool horizontal) {
  for (std::size_t i = 0; i + 3 < v.size(); i += 4) {
    const double last = v.size() - i == 5 ? v[i + 4] : 0;
    if (horizontal) {
      curve(v[i], 0, v[i + 1], v[i + 2], last, v[i + 3]);
    } else {
      curve(0, v[i], v[i + 1], v[i + 2], v[i + 3], last);
    }
    horizontal = !horizontal;
  }
}

void Machine::end_glyph() {
  const std::span<const double> v = arguments(size_ >= 4 ? 4 : 0);
  close();
  ended_ = true;
  if (v.size() < 4) return;
  accented_ = {true, v[0], v[1], static_cast<unsigned>(std::clamp(v[2], 0.0, 255.0)), static_cast<unsigned>(std::clamp(v[3], 0.0, 255.0))};
}

/// CFF2: each number on the stack is followed, after all of them, by what every region adds to it.
bool Machine::blend() {
  const double stated = pop();
  if (!(stated >= 0 && stated <= kStackSize) || context_.variations == nullptr) return false;
  const auto count = static_cast<std::size_t>(stated);
  const std::size_t group = group_.value_or(context_.variation_group), regions = context_.variations->region_count(group);
  if (regions > kStackSize || count * (regions + 1) > size_) return false;
  const std::size_t first = size_ - count * (regions + 1), deltas = first + count;
  for (std::size_t i = 0; i < count; ++i) {
    for (std::size_t r = 0; r < regions; ++r) stack_[first + i] += stack_[deltas + i * regions + r] * static_cast<double>(context_.variations->region_weight(group, r));
  }
  size_ = deltas;
  return true;
}

std::optional<std::size_t> Machine::read_number(const TableView& code, std::size_t at, unsigned b0) {
  const auto byte = [&](std::size_t i) { return static_cast<int>(code.bytes[i]); };
  const std::size_t bytes = b0 == 255 ? 4 : b0 == 28 ? 2 : b0 >= 247 ? 1 : 0;
  if (!code.holds(at, bytes)) return std::nullopt;
  double value = static_cast<double>(b0) - 139;
  if (b0 == 28) value = code.s16(at);
  if (b0 >= 247 && b0 <= 250) value = static_cast<int>(b0 - 247) * 256 + byte(at) + 108;
  if (b0 >= 251 && b0 <= 254) value = -static_cast<int>(b0 - 251) * 256 - byte(at) - 108;
  if (b0 == 255) value = static_cast<std::int32_t>(code.u32(at)) / 65536.0;
  if (!push(value)) return std::nullopt;
  return at + bytes;
}

Result<void> Machine::call(const CffIndex* index, int depth) {
  const TableView none{tag("CFF "), {}};
  const std::size_t count = index == nullptr ? 0 : index->size();
  const int bias = count < 1240 ? 107 : count < 33900 ? 1131 : 32768;
  const double number = pop() + bias;
  if (!(number >= 0 && number < static_cast<double>(count))) return damaged(none, Error::kNowhere, "the number of a subroutine that exists", fmt::format("{} of {}", number, count));
  if (depth + 1 > kMaxDepth) return damaged(none, Error::kNowhere, "subroutines nested no deeper than 10");
  return run_in(index->get(static_cast<std::size_t>(number)), depth + 1);
}

Result<void> Machine::run_in(const TableView& code, int depth) {
  std::size_t at = 0;
  while (!ended_ && code.holds(at, 1)) {
    if (++steps_ > kMaxSteps || out_.points.size() > kMaxPoints) return damaged(code, at, "a glyph of less than two million steps and 200,000 points");
    const auto b0 = static_cast<unsigned>(code.bytes[at++]);
    if (b0 >= 32 || b0 == 28) {
      const std::optional<std::size_t> next = read_number(code, at, b0);
      if (!next) return damaged(code, at, "a number, and room for it on a stack of 513");
      at = *next;
      continue;
    }
    if (b0 == 10 || b0 == 29) {
      if (const Result<void> called = call(b0 == 10 ? context_.local : context_.global, depth); !called) return called;
      continue;
    }
    switch (step(code, at, b0)) {
      case Next::go_on: break;
      case Next::leave: return {};
      case Next::unknown: size_ = 0; break;  // reserved operators clear the stack
      case Next::broken: return damaged(code, at - 1, "an operator with its operands", fmt::format("operator {}", b0));
    }
  }
  return {};
}

Machine::Next Machine::step(const TableView& code, std::size_t& at, unsigned op) {
  switch (op) {
    case 1: case 3: case 18: case 23: hints(); break;
    case 19: case 20:
      hints();
      at += (hint_count_ + 7) / 8;
      break;
    case 21: { const auto v = arguments(2); if (v.size() < 2) return Next::broken; move(v[v.size() - 2], v[v.size() - 1]); break; }
    case 22: { const auto v = arguments(1); if (v.empty()) return Next::broken; move(v.back(), 0); break; }
    case 4: { const auto v = arguments(1); if (v.empty()) return Next::broken; move(0, v.back()); break; }
    case 5: lines(all()); break;
    case 6: alternating_lines(all(), true); break;
    case 7: alternating_lines(all(), false); break;
    case 8: curves(all()); break;
    case 11: return Next::leave;
    case 12: {
      if (!code.holds(at, 1)) return Next::broken;
      return escaped(static_cast<unsigned>(code.bytes[at++]));
    }
    case 14: end_glyph(); break;
    case 15: group_ = to_offset(pop()); break;
    case 16: return blend() ? Next::go_on : Next::broken;
    case 24: {  // curves, then a line
      const auto v = all();
      if (v.size() < 2) return Next::broken;
      curves(v.first(v.size() - 2));
      lines(v.last(2));
      break;
    }
    case 25: {  // lines, then a curve
      const auto v = all();
      if (v.size() < 6) return Next::broken;
      lines(v.first(v.size() - 6));
      curves(v.last(6));
      break;
    }
    case 26: flat_curves(all(), false); break;
    case 27: flat_curves(all(), true); break;
    case 30: alternating_curves(all(), false); break;
    case 31: alternating_curves(all(), true); break;
    default: return Next::unknown;
  }
  return Next::go_on;
}

Machine::Next Machine::escaped(unsigned op) {
  if (op >= 34 && op <= 37) return flex(op);
  switch (op) {
    case 20: case 21: case 27: case 28: case 29: case 30: return memory(op);
    case 3: case 4: case 5: case 9: case 10: case 11: case 12: case 14: case 15: case 18: case 22: case 23: case 24: case 26: return arithmetic(op);
    default: return Next::unknown;
  }
}

Machine::Next Machine::arithmetic(unsigned op) {
  const bool one = op == 5 || op == 9 || op == 14 || op == 18 || op == 26;
  const std::size_t needed = op == 23 ? 0 : op == 22 ? 4 : one ? 1 : 2;
  if (size_ < needed) return Next::broken;
  const double b = needed > 0 ? pop() : 0, a = needed > 1 ? pop() : 0;
  switch (op) {
    case 3: push(a != 0 && b != 0 ? 1 : 0); break;
    case 4: push(a != 0 || b != 0 ? 1 : 0); break;
    case 5: push(b == 0 ? 1 : 0); break;
    case 9: push(std::abs(b)); break;
    case 10: push(a + b); break;
    case 11: push(a - b); break;
    case 12: push(b == 0 ? 0 : a / b); break;
    case 14: push(-b); break;
    case 15: push(a == b ? 1 : 0); break;
    case 18: break;
    case 22: {  // ifelse: the first value where a <= b, else the second
      const double second = pop(), first = pop();
      push(a <= b ? first : second);
      break;
    }
    case 23: return push(0.5) ? Next::go_on : Next::broken;  // random: the same glyph must be the same each time
    case 24: push(a * b); break;
    case 26: push(b > 0 ? std::sqrt(b) : 0); break;
    default: break;
  }
  return Next::go_on;
}

Machine::Next Machine::memory(unsigned op) {
  const std::size_t needed = op == 21 || op == 27 ? 1 : 2;
  if (size_ < needed) return Next::broken;
  const double top = pop();
  if (op == 20 || op == 21) {  // put, get
    if (!(top >= 0 && top < kRegisters)) return Next::broken;
    double& cell = registers_[static_cast<std::size_t>(top)];
    if (op == 20) cell = pop();
    if (op == 21) push(cell);
  } else if (op == 27) {  // dup
    push(top);
    if (!push(top)) return Next::broken;
  } else if (op == 28) {  // exch
    const double below = pop();
    push(top);
    push(below);
  } else if (op == 29) {  // index: a negative one copies the topmost
    const std::size_t depth = top > 0 ? to_offset(top) : 0;
    if (depth >= size_) return Next::broken;
    push(stack_[size_ - 1 - depth]);
  } else {  // roll: `count` elements by `top`, upward where that is positive
    const std::size_t count = to_offset(pop());
    if (count > size_ || !(std::abs(top) <= 1e6)) return Next::broken;
    if (count == 0) return Next::go_on;
    const auto n = static_cast<long>(count), by = (static_cast<long>(top) % n + n) % n;
    double* first = stack_.data() + (size_ - count);
    std::rotate(first, first + (n - by), first + n);
  }
  return Next::go_on;
}

/// Two curves that a flat place is drawn with; here they are always drawn as curves.
Machine::Next Machine::flex(unsigned op) {
  const std::span<const double> v = all();
  constexpr std::size_t kOperands[] = {7, 13, 9, 11};
  const std::size_t needed = kOperands[op - 34];
  if (v.size() < needed - (op == 35 ? 1U : 0U)) return Next::broken;
  if (op == 34) {
    curve(v[0], 0, v[1], v[2], v[3], 0);
    curve(v[4], 0, v[5], -v[2], v[6], 0);
  } else if (op == 35) {
    curves(v.first(12));
  } else if (op == 36) {
    curve(v[0], v[1], v[2], v[3], v[4], 0);
    curve(v[5], 0, v[6], v[7], v[8], -(v[1] + v[3] + v[7]));
  } else {
    double dx = 0, dy = 0;
    for (std::size_t i = 0; i < 10; i += 2) dx += v[i], dy += v[i + 1];
    const bool horizontal = std::abs(dx) > std::abs(dy);
    curve(v[0], v[1], v[2], v[3], v[4], v[5]);
    curve(v[6], v[7], v[8], v[9], horizontal ? v[10] : -dx, horizontal ? -dy : v[10]);
  }
  return Next::go_on;
}

}  // namespace

Result<Accented> run_charstring(const TableView& charstring, const CharstringContext& context, double dx, double dy, Contours& out) {
  return Machine(context, dx, dy, out).run(charstring);
}

}  // namespace grafema::detail
