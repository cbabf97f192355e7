// SPDX-License-Identifier: MIT
// Reads Type 2 charstrings byte by byte and runs their operators.
#include "font/outline/charstring.hpp"

#include <fmt/format.h>

#include "font/outline/charstring_machine.hpp"

namespace grafema::detail {

std::optional<std::size_t> CharstringMachine::read_number(const TableView& code, std::size_t at,
                                                          unsigned b0) {
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

Result<void> CharstringMachine::call(const CffIndex* index, int depth) {
  const TableView none{tag("CFF "), {}};
  const std::size_t count = index == nullptr ? 0 : index->size();
  const int bias = count < 1240 ? 107 : count < 33900 ? 1131 : 32768;
  const double number = pop() + bias;
  if (!(number >= 0 && number < static_cast<double>(count))) {
    return damaged(none, Error::kNowhere, "the number of a subroutine that exists",
                   fmt::format("{} of {}", number, count));
  }
  if (depth + 1 > kMaxSubroutineDepth)
    return damaged(none, Error::kNowhere, "subroutines nested no deeper than 10");
  return run_in(index->get(static_cast<std::size_t>(number)), depth + 1);
}

Result<void> CharstringMachine::run_in(const TableView& code, int depth) {
  std::size_t at = 0;
  while (!ended_ && code.holds(at, 1)) {
    if (++steps_ > kMaxSteps || out_.points.size() > kMaxPoints) {
      return damaged(code, at, "a glyph of less than two million steps and 200,000 points");
    }
    const auto b0 = static_cast<unsigned>(code.bytes[at++]);
    if (b0 >= 32 || b0 == 28) {
      const std::optional<std::size_t> next = read_number(code, at, b0);
      if (!next) return damaged(code, at, "a number, and room for it on a stack of 513");
      at = *next;
      continue;
    }
    if (b0 == 10 || b0 == 29) {
      if (const Result<void> called = call(b0 == 10 ? context_.local : context_.global, depth); !called) {
        return called;
      }
      continue;
    }
    switch (step(code, at, b0)) {
      case Next::go_on:
        break;
      case Next::leave:
        return {};
      case Next::unknown:
        size_ = 0;
        break;  // reserved operators clear the stack
      case Next::broken:
        return damaged(code, at - 1, "an operator with its operands", fmt::format("operator {}", b0));
    }
  }
  return {};
}

CharstringMachine::Next CharstringMachine::step(const TableView& code, std::size_t& at, unsigned op) {
  switch (op) {
    case 1:
    case 3:
    case 18:
    case 23:
      hints();
      break;
    case 19:
    case 20:
      hints();
      at += (hint_count_ + 7) / 8;
      break;
    case 21: {
      const auto v = arguments(2);
      if (v.size() < 2) return Next::broken;
      move(v[v.size() - 2], v[v.size() - 1]);
      break;
    }
    case 22: {
      const auto v = arguments(1);
      if (v.empty()) return Next::broken;
      move(v.back(), 0);
      break;
    }
    case 4: {
      const auto v = arguments(1);
      if (v.empty()) return Next::broken;
      move(0, v.back());
      break;
    }
    case 5:
      lines(all());
      break;
    case 6:
      alternating_lines(all(), true);
      break;
    case 7:
      alternating_lines(all(), false);
      break;
    case 8:
      curves(all());
      break;
    case 11:
      return Next::leave;
    case 12: {
      if (!code.holds(at, 1)) return Next::broken;
      return escaped(static_cast<unsigned>(code.bytes[at++]));
    }
    case 14:
      end_glyph();
      break;
    case 15:
      group_ = to_offset(pop());
      break;
    case 16:
      return blend() ? Next::go_on : Next::broken;
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
    case 26:
      flat_curves(all(), false);
      break;
    case 27:
      flat_curves(all(), true);
      break;
    case 30:
      alternating_curves(all(), false);
      break;
    case 31:
      alternating_curves(all(), true);
      break;
    default:
      return Next::unknown;
  }
  return Next::go_on;
}

CharstringMachine::Next CharstringMachine::escaped(unsigned op) {
  if (op >= 34 && op <= 37) return flex(op);
  switch (op) {
    case 20:
    case 21:
    case 27:
    case 28:
    case 29:
    case 30:
      return memory(op);
    case 3:
    case 4:
    case 5:
    case 9:
    case 10:
    case 11:
    case 12:
    case 14:
    case 15:
    case 18:
    case 22:
    case 23:
    case 24:
    case 26:
      return arithmetic(op);
    default:
      return Next::unknown;
  }
}

Result<Accented> run_charstring(const TableView& charstring, const CharstringContext& context, double dx,
                                double dy, Contours& out) {
  return CharstringMachine(context, dx, dy, out).run(charstring);
}

}  // namespace grafema::detail
