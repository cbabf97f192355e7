// SPDX-License-Identifier: MIT
// The operators of charstrings: lines and curves, blending, arithmetic and memory.
#include <algorithm>
#include <cmath>

#include "font/outline/charstring_machine.hpp"

namespace grafema::detail {

void CharstringMachine::lines(std::span<const double> v) {
  for (std::size_t i = 0; i + 1 < v.size(); i += 2) line(v[i], v[i + 1]);
}

void CharstringMachine::alternating_lines(std::span<const double> v, bool horizontal) {
  for (const double d : v) {
    line(horizontal ? d : 0, horizontal ? 0 : d);
    horizontal = !horizontal;
  }
}

void CharstringMachine::curves(std::span<const double> v) {
  for (std::size_t i = 0; i + 5 < v.size(); i += 6) {
    curve(v[i], v[i + 1], v[i + 2], v[i + 3], v[i + 4], v[i + 5]);
  }
}

/// hhcurveto and vvcurveto: curves that begin and end along one axis; an odd first number is the other start
/// component.
void CharstringMachine::flat_curves(std::span<const double> v, bool horizontal) {
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

/// hvcurveto and vhcurveto: curves that begin along one axis and end along the other, by turns; the last may
/// end freely.
void CharstringMachine::alternating_curves(std::span<const double> v, bool horizontal) {
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

void CharstringMachine::end_glyph() {
  const std::span<const double> v = arguments(size_ >= 4 ? 4 : 0);
  close();
  ended_ = true;
  if (v.size() < 4) return;
  accented_ = {true, v[0], v[1], static_cast<unsigned>(std::clamp(v[2], 0.0, 255.0)),
               static_cast<unsigned>(std::clamp(v[3], 0.0, 255.0))};
}

/// CFF2: each number on the stack is followed, after all of them, by what every region adds to it.
bool CharstringMachine::blend() {
  const double stated = pop();
  if (!(stated >= 0 && stated <= kStackSize) || context_.variations == nullptr) return false;
  const auto count = static_cast<std::size_t>(stated);
  const std::size_t group = group_.value_or(context_.variation_group),
                    regions = context_.variations->region_count(group);
  if (regions > kStackSize || count * (regions + 1) > size_) return false;
  const std::size_t first = size_ - count * (regions + 1), deltas = first + count;
  for (std::size_t i = 0; i < count; ++i) {
    for (std::size_t r = 0; r < regions; ++r) {
      stack_[first + i] += stack_[deltas + i * regions + r] *
                           static_cast<double>(context_.variations->region_weight(group, r));
    }
  }
  size_ = deltas;
  return true;
}

CharstringMachine::Next CharstringMachine::arithmetic(unsigned op) {
  const bool one = op == 5 || op == 9 || op == 14 || op == 18 || op == 26;
  const std::size_t needed = op == 23 ? 0 : op == 22 ? 4 : one ? 1 : 2;
  if (size_ < needed) return Next::broken;
  const double b = needed > 0 ? pop() : 0, a = needed > 1 ? pop() : 0;
  switch (op) {
    case 3:
      push(a != 0 && b != 0 ? 1 : 0);
      break;
    case 4:
      push(a != 0 || b != 0 ? 1 : 0);
      break;
    case 5:
      push(b == 0 ? 1 : 0);
      break;
    case 9:
      push(std::abs(b));
      break;
    case 10:
      push(a + b);
      break;
    case 11:
      push(a - b);
      break;
    case 12:
      push(b == 0 ? 0 : a / b);
      break;
    case 14:
      push(-b);
      break;
    case 15:
      push(a == b ? 1 : 0);
      break;
    case 18:
      break;
    case 22: {  // ifelse: the first value where a <= b, else the second
      const double second = pop(), first = pop();
      push(a <= b ? first : second);
      break;
    }
    case 23:
      return push(0.5) ? Next::go_on : Next::broken;  // random: the same glyph must be the same each time
    case 24:
      push(a * b);
      break;
    case 26:
      push(b > 0 ? std::sqrt(b) : 0);
      break;
    default:
      break;
  }
  return Next::go_on;
}

CharstringMachine::Next CharstringMachine::memory(unsigned op) {
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
CharstringMachine::Next CharstringMachine::flex(unsigned op) {
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

}  // namespace grafema::detail
