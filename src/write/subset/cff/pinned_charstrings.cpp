// SPDX-License-Identifier: MIT
// Runs charstrings on numbers that carry their deltas along (OpenType, CFF2 charstrings).
#include "write/subset/cff/pinned_charstrings.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace grafema::detail {
namespace {

constexpr int kMaxPinnedNesting = 10;
constexpr std::size_t kMaxPinnedSteps = 2'000'000, kMaxStack = 513;

void write_value(TableWriter& out, double v) {
  const double whole = std::round(v);
  if (std::abs(v - whole) < 1.0 / 131072 && std::abs(whole) <= 32767) {
    const int n = static_cast<int>(whole);
    if (n >= -107 && n <= 107) {
      out.u8(static_cast<std::uint32_t>(n + 139));
    } else {
      out.u8(28), out.s16(n);
    }
  } else {
    const double fixed = std::clamp(v * 65536, -2147483648.0, 2147483647.0);
    out.u8(255), out.u32(static_cast<std::uint32_t>(static_cast<std::int32_t>(std::lround(fixed))));
  }
}

}  // namespace

PinnedCharstrings::PinnedCharstrings(const CffSource& source, const Pins& pins)
    : source_(source), axes_left_(pins.axes_left()) {
  const TableView store = source.variation_store.empty() ? TableView{} : source.variation_store.from(2);
  if (!pins.any() || store.u16(0) != 1 || store.u32(2) == 0) return;
  reduced_ = reduce_regions(store, pins);
  if (reduced_.from.empty()) return;
  for (std::size_t g = 0; g < store.u16(6); ++g) {
    Group group;
    const std::uint32_t offset = store.u32(8 + g * 4);
    const TableView data = offset == 0 ? TableView{} : store.from(offset);
    for (std::size_t r = 0; r < data.u16(4) && data.holds(6 + r * 2, 2); ++r) {
      group.old.push_back(data.u16(6 + r * 2));
      const int place = group.old.back() < reduced_.from.size() ? reduced_.from[group.old.back()].second : -1;
      if (place >= 0) group.regions.push_back(static_cast<std::uint16_t>(place));
    }
    std::sort(group.regions.begin(), group.regions.end());
    group.regions.erase(std::unique(group.regions.begin(), group.regions.end()), group.regions.end());
    groups_.push_back(std::move(group));
  }
}

/// One glyph being rewritten.
struct PinnedCharstrings::Machine {
  const PinnedCharstrings& of;
  std::size_t font = 0, group = 0, hints = 0, steps = 0;
  std::vector<Operand> stack = {};
  TableWriter out = {};

  const Group* blended() const { return group < of.groups_.size() ? &of.groups_[group] : nullptr; }

  void put(unsigned op) {
    for (const Operand& operand : stack) {
      write_value(out, operand.base);
      const bool varies =
          std::any_of(operand.deltas.begin(), operand.deltas.end(), [](double d) { return d != 0; });
      if (!varies) continue;
      for (const double delta : operand.deltas) write_value(out, delta);
      write_value(out, 1), out.u8(16);
    }
    stack.clear();
    if (op >= 0x100) out.u8(12);
    out.u8(op);
  }

  bool blend() {
    const Group* group_now = blended();
    if (stack.empty() || group_now == nullptr) return false;
    const std::size_t count = to_offset(stack.back().base), regions = group_now->old.size();
    stack.pop_back();
    if (count > kMaxStack || count * (regions + 1) > stack.size()) return false;
    const std::size_t first = stack.size() - count * (regions + 1);
    for (std::size_t i = 0; i < count; ++i) {
      Operand& value = stack[first + i];
      value.deltas.assign(group_now->regions.size(), 0);
      for (std::size_t r = 0; r < regions; ++r) {
        const std::size_t old = group_now->old[r];
        if (old >= of.reduced_.from.size()) continue;
        const double change =
            double{of.reduced_.from[old].first} * stack[first + count + i * regions + r].base;
        if (of.reduced_.from[old].second < 0) {
          value.base += change;
          continue;
        }
        const auto at = std::lower_bound(group_now->regions.begin(), group_now->regions.end(),
                                         static_cast<std::uint16_t>(of.reduced_.from[old].second));
        value.deltas[static_cast<std::size_t>(at - group_now->regions.begin())] += change;
      }
    }
    stack.resize(first + count);
    return true;
  }

  bool call(const CffIndex& index, int nested) {
    if (stack.empty() || nested >= kMaxPinnedNesting) return false;
    const int bias = index.size() < 1240 ? 107 : index.size() < 33900 ? 1131 : 32768;
    const double target = stack.back().base + bias;
    stack.pop_back();
    if (!(target >= 0 && target < static_cast<double>(index.size()))) return false;
    return run(index.get(static_cast<std::size_t>(target)), nested + 1);
  }

  bool run(const TableView& code, int nested) {
    std::size_t at = 0;
    while (code.holds(at, 1)) {
      if (++steps > kMaxPinnedSteps) return false;
      const auto b0 = static_cast<unsigned>(code.bytes[at]);
      if (b0 >= 32 || b0 == 28) {
        if (!push(code, at, b0)) return false;
        continue;
      }
      ++at;
      switch (b0) {
        case 10:
          if (!call(of.source_.fonts[font].local, nested)) return false;
          break;
        case 29:
          if (!call(of.source_.global, nested)) return false;
          break;
        case 11:
        case 14:
          return true;
        case 15:
          if (stack.empty()) return false;
          group = to_offset(stack.back().base);
          stack.clear();
          if (of.axes_left_ > 0) write_value(out, static_cast<double>(group)), out.u8(15);
          break;
        case 16:
          if (!blend()) return false;
          break;
        case 1:
        case 3:
        case 18:
        case 23:
        case 19:
        case 20: {
          hints += stack.size() / 2;
          put(b0);
          const std::size_t mask = b0 == 19 || b0 == 20 ? (hints + 7) / 8 : 0;
          if (!code.holds(at, mask)) return false;
          for (std::size_t i = 0; i < mask; ++i) out.u8(static_cast<std::uint32_t>(code.bytes[at++]));
          break;
        }
        case 12:
          if (!code.holds(at, 1)) return false;
          put(0x100U | static_cast<unsigned>(code.bytes[at++]));
          break;
        default:
          put(b0);
          break;
      }
    }
    return true;
  }

  bool push(const TableView& code, std::size_t& at, unsigned b0) {
    const std::size_t bytes = b0 == 255 ? 5 : b0 == 28 ? 3 : b0 >= 247 ? 2 : 1;
    if (!code.holds(at, bytes) || stack.size() >= kMaxStack) return false;
    const int next = bytes == 2 ? static_cast<int>(code.bytes[at + 1]) : 0;
    const double value = b0 == 28    ? static_cast<double>(code.s16(at + 1))
                         : b0 == 255 ? static_cast<std::int32_t>(code.u32(at + 1)) / 65536.0
                         : b0 < 247  ? static_cast<double>(b0) - 139
                         : b0 < 251  ? static_cast<double>(static_cast<int>(b0 - 247) * 256 + next + 108)
                                     : static_cast<double>(-static_cast<int>(b0 - 251) * 256 - next - 108);
    stack.push_back({value, {}});
    at += bytes;
    return true;
  }
};

Result<std::vector<std::byte>> PinnedCharstrings::rewrite(std::uint32_t glyph) const {
  Machine machine{*this, source_.font_of(glyph)};
  machine.group = source_.fonts[machine.font].variation_group;
  if (!machine.run(source_.charstrings.get(glyph), 0)) {
    return damaged(source_.table, Error::kNowhere, "operators with their operands",
                   fmt::format("glyph {}", glyph));
  }
  return std::move(machine.out.bytes());
}

void PinnedCharstrings::write_private(std::size_t font, TableWriter& out) const {
  const std::size_t group = source_.fonts[font].variation_group;
  if (group == 0 || axes_left_ == 0) return;
  out.u8(28), out.s16(static_cast<int>(group));
  write_operator(out, CffOperator::variation_group);
}

std::vector<std::byte> PinnedCharstrings::store() const {
  if (axes_left_ == 0 || groups_.empty()) return {};
  TableWriter out, data;
  const std::size_t list_at = 8 + groups_.size() * 4,
                    data_at = list_at + 4 + reduced_.regions.size() * axes_left_ * 6;
  out.u16(1), out.u32(static_cast<std::uint32_t>(list_at)),
      out.u16(static_cast<std::uint32_t>(groups_.size()));
  for (const Group& group : groups_) {
    out.u32(static_cast<std::uint32_t>(data_at + data.size()));
    data.u16(0), data.u16(0), data.u16(static_cast<std::uint32_t>(group.regions.size()));
    for (const std::uint16_t region : group.regions) data.u16(region);
  }
  out.u16(static_cast<std::uint32_t>(axes_left_)),
      out.u16(static_cast<std::uint32_t>(reduced_.regions.size()));
  for (const Region& region : reduced_.regions) {
    for (const auto& axis : region) out.s16(axis[0]), out.s16(axis[1]), out.s16(axis[2]);
  }
  out.append(data.bytes());
  TableWriter whole;
  whole.u16(static_cast<std::uint32_t>(out.size()));
  whole.append(out.bytes());
  return std::move(whole.bytes());
}

}  // namespace grafema::detail
