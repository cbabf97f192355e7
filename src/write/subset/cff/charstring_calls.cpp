// SPDX-License-Identifier: MIT
// Follows the stack of Type 2 charstrings as far as hint masks and calls need it (Technical Note 5177).
#include "write/subset/cff/charstring_calls.hpp"

#include <algorithm>

#include "write/tables/cff_numbers.hpp"

namespace grafema::detail {
namespace {

constexpr int kMaxNested = 10;
constexpr std::size_t kMaxSteps = 2'000'000;       // of a glyph
constexpr std::size_t kMaxAllSteps = 400'000'000;  // beyond, subroutines keep their numbers

std::size_t bias(std::size_t count) { return count < 1240 ? 107 : count < 33900 ? 1131 : 32768; }

/// A number that no subroutine has, so that a charstring that was wrong stays wrong.
int number_of_none(std::size_t count) { return bias(count) < 32768 ? -32768 : 32767; }

/// How an operator behind the escape byte changes the number of operands; `clears` where it takes all.
int change_of(unsigned op, bool& clears) {
  switch (op) {
    case 3:
    case 4:
    case 10:
    case 11:
    case 12:
    case 15:
    case 18:
    case 24:
      return -1;
    case 20:
    case 30:
      return -2;
    case 22:
      return -3;
    case 23:
    case 27:
      return 1;
    case 5:
    case 9:
    case 14:
    case 21:
    case 26:
    case 28:
    case 29:
      return 0;
    default:
      clears = true;
      return 0;
  }
}

}  // namespace

CharstringCalls::CharstringCalls(const CffSource& source)
    : source_(source), glyphs_(source.charstrings.size()), global_(source.global.size()) {
  for (const CffSource::Font& font : source.fonts) local_.emplace_back(font.local.size());
  if (source.variation_store.empty()) return;
  const ItemVariations store = ItemVariations::read(source.variation_store.from(2), {});
  for (std::size_t i = 0; i < source.variation_store.u16(2 + 6); ++i) {
    group_regions_.push_back(store.region_count(i));
  }
}

void CharstringCalls::visit(std::uint32_t glyph) {
  if (glyph >= glyphs_.size()) return;
  State state;
  state.font = source_.font_of(glyph);
  state.group = source_.fonts[state.font].variation_group;
  walk(source_.charstrings.get(glyph), glyphs_[glyph], false, state, 0);
}

/// What an operator of one byte does to the state. False where it can't be followed.
bool CharstringCalls::operate(unsigned op, double last, bool has_last, State& state) const {
  switch (op) {
    case 1:
    case 3:
    case 18:
    case 23:
    case 19:
    case 20:
      state.hints += state.depth / 2;
      break;
    case 15:
      if (!has_last) return false;
      state.group = to_offset(last);
      break;
    case 16: {
      const std::size_t count = to_offset(last),
                        regions = state.group < group_regions_.size() ? group_regions_[state.group] : 0,
                        taken = count * regions + 1;
      if (!has_last || taken > state.depth) return false;
      state.depth -= taken;
      return true;
    }
    case 14:
      state.ended = true;
      break;
    default:
      break;
  }
  state.depth = 0;
  return true;
}

void CharstringCalls::call(bool global, double number, State& state, int nested, Call& out) {
  std::vector<Body>& bodies = global ? global_ : local_[state.font];
  const CffIndex& index = global ? source_.global : source_.fonts[state.font].local;
  const double target = number + static_cast<double>(bias(bodies.size()));
  const bool known = target >= 0 && target < static_cast<double>(bodies.size());
  if (known) out.target = static_cast<std::uint32_t>(target);
  if (!known || nested >= kMaxNested) {
    state.ended = true;  // as a machine would end with an error
    return;
  }
  walk(index.get(out.target), bodies[out.target], global, state, nested + 1);
}

void CharstringCalls::walk(const TableView& code, Body& body, bool is_global, State& state, int nested) {
  const bool first = !body.seen;
  body.seen = true;
  std::size_t at = 0, masks = 0, calls = 0, number_at = 0;
  double last = 0;
  bool has_last = false;
  while (!state.ended && code.holds(at, 1)) {
    if (++steps_ > kMaxAllSteps) plain_ = false;
    if (++state.steps > kMaxSteps || steps_ > kMaxAllSteps) {
      state.ended = true;
      return;
    }
    const auto b0 = static_cast<unsigned>(code.bytes[at]);
    if (b0 >= 32 || b0 == 28) {
      const std::size_t bytes = b0 == 255 ? 5 : b0 == 28 ? 3 : b0 >= 247 ? 2 : 1;
      if (!code.holds(at, bytes)) {
        state.ended = true;
        return;
      }
      number_at = at, has_last = true;
      const int next = bytes == 2 ? static_cast<int>(code.bytes[at + 1]) : 0;
      last = b0 == 28    ? static_cast<double>(code.s16(at + 1))
             : b0 == 255 ? static_cast<std::int32_t>(code.u32(at + 1)) / 65536.0
             : b0 < 247  ? static_cast<double>(b0) - 139
             : b0 < 251  ? static_cast<double>(static_cast<int>(b0 - 247) * 256 + next + 108)
                         : static_cast<double>(-static_cast<int>(b0 - 251) * 256 - next - 108);
      at += bytes, ++state.depth;
      continue;
    }
    if (b0 == 10 || b0 == 29) {
      Call made{static_cast<std::uint32_t>(number_at), static_cast<std::uint32_t>(at), kNone, b0 == 29};
      if (!has_last || state.depth == 0) {
        plain_ = false, state.ended = true;
        return;
      }
      --state.depth, has_last = false;
      // What is local differs from font to font.
      if (is_global && !made.global && source_.fonts.size() > 1) plain_ = false;
      // The place is taken before the walk: a body may call itself.
      const std::size_t place = calls++;
      if (first) body.calls.push_back(made);
      call(made.global, last, state, nested, made);
      if (place < body.calls.size() && first) body.calls[place].target = made.target;
      if (!first && (place >= body.calls.size() || body.calls[place].operator_at != made.operator_at))
        plain_ = false;
      ++at;
      continue;
    }
    if (b0 == 11) return;
    if (b0 == 12) {
      if (!code.holds(at, 2)) return;
      bool clears = false;
      const int change = change_of(static_cast<unsigned>(code.bytes[at + 1]), clears);
      state.depth = clears || static_cast<int>(state.depth) + change < 0
                        ? 0
                        : static_cast<std::size_t>(static_cast<int>(state.depth) + change);
      at += 2, has_last = false;
      continue;
    }
    if (!operate(b0, last, has_last, state)) plain_ = false;
    ++at, has_last = false;
    if (b0 == 19 || b0 == 20) {
      const std::size_t bytes = (state.hints + 7) / 8;
      if (first) body.mask_bytes.push_back(static_cast<std::uint8_t>(std::min<std::size_t>(bytes, 255)));
      if (!first && (masks >= body.mask_bytes.size() || body.mask_bytes[masks] != bytes)) plain_ = false;
      ++masks, at += bytes;
    }
  }
}

void CharstringCalls::finish() {
  const auto number = [](const std::vector<Body>& bodies) {
    Numbers numbers;
    for (const Body& body : bodies) numbers.of.push_back(body.seen ? numbers.count++ : kNone);
    return numbers;
  };
  global_numbers_ = number(global_);
  for (const std::vector<Body>& bodies : local_) local_numbers_.push_back(number(bodies));
}

std::vector<std::byte> CharstringCalls::rewrite(const TableView& code, const Body& body,
                                                std::size_t font) const {
  std::vector<std::byte> all(code.bytes.begin(), code.bytes.end());
  if (!plain_ || body.calls.empty()) return all;
  const Numbers& local = local_numbers_[font];
  TableWriter out;
  std::size_t at = 0;
  const auto copy_to = [&](std::size_t end) {
    for (; at < end; ++at) out.u8(static_cast<std::uint32_t>(code.bytes[at]));
  };
  for (const Call& call : body.calls) {
    copy_to(call.number_at);
    const Numbers& numbers = call.global ? global_numbers_ : local;
    const std::uint32_t number = call.target < numbers.of.size() ? numbers.of[call.target] : kNone;
    write_cff_number(out, number == kNone ? number_of_none(numbers.count)
                                          : static_cast<int>(number) - static_cast<int>(bias(numbers.count)));
    at = call.operator_at;
  }
  copy_to(code.bytes.size());
  return std::move(out.bytes());
}

std::vector<std::byte> CharstringCalls::charstring(std::uint32_t glyph) const {
  if (glyph >= glyphs_.size()) return {};
  return rewrite(source_.charstrings.get(glyph), glyphs_[glyph], source_.font_of(glyph));
}

std::vector<std::vector<std::byte>> CharstringCalls::global() const {
  std::vector<std::vector<std::byte>> out;
  for (std::size_t i = 0; i < global_.size(); ++i) {
    if (!plain_ || global_[i].seen) out.push_back(rewrite(source_.global.get(i), global_[i], 0));
  }
  return out;
}

std::vector<std::vector<std::byte>> CharstringCalls::local(std::size_t font) const {
  std::vector<std::vector<std::byte>> out;
  for (std::size_t i = 0; i < local_[font].size(); ++i) {
    if (!plain_ || local_[font][i].seen) {
      out.push_back(rewrite(source_.fonts[font].local.get(i), local_[font][i], font));
    }
  }
  return out;
}

}  // namespace grafema::detail
