// SPDX-License-Identifier: MIT
// Pairs of kept glyphs in `kern` (OpenType, kern, formats 0 and 2).
#include <algorithm>

#include "write/subset/layout/subset_kerning.hpp"

namespace grafema::detail {
namespace {

constexpr std::size_t kMaxKernSubtables = 24;
constexpr unsigned kVertical = 0x8000, kMinimum = 2, kCrossStream = 4, kHorizontal = 1;

struct Pair {
  std::uint32_t key;  ///< left glyph in the upper half, right one in the lower
  std::int16_t value;
};

std::vector<Pair> read_pairs(const SubsetPlan& plan, const TableView& pairs, std::size_t stated) {
  std::vector<Pair> out;
  const std::size_t count = std::min(stated, pairs.bytes.size() / 6);
  for (std::size_t i = 0; i < count; ++i) {
    const int left = plan.to(std::uint32_t{pairs.u16(i * 6)}),
              right = plan.to(std::uint32_t{pairs.u16(i * 6 + 2)});
    if (left < 0 || right < 0) continue;
    out.push_back(
        {static_cast<std::uint32_t>(left) << 16 | static_cast<std::uint32_t>(right), pairs.s16(i * 6 + 4)});
  }
  // The first of two that are the same is what a reader finds.
  std::stable_sort(out.begin(), out.end(), [](const Pair& a, const Pair& b) { return a.key < b.key; });
  out.erase(std::unique(out.begin(), out.end(), [](const Pair& a, const Pair& b) { return a.key == b.key; }),
            out.end());
  return out;
}

/// One side of a class array: the class offset of each kept glyph as the file has it.
struct Side {
  std::vector<int> offsets;  ///< by new number
  std::size_t first = 0, count = 0;
};
Side read_side(const SubsetPlan& plan, const TableView& table, int none) {
  Side side;
  const std::size_t begin = table.u16(0), count = table.u16(2);
  std::size_t last = 0;
  side.first = plan.kept.size();
  for (std::size_t i = 0; i < plan.kept.size(); ++i) {
    const std::size_t old = plan.kept[i];
    const bool inside = old >= begin && old - begin < count && table.holds(4 + (old - begin) * 2, 2);
    side.offsets.push_back(inside ? table.u16(4 + (old - begin) * 2) : none);
    if (!inside) continue;
    side.first = std::min(side.first, i), last = i;
  }
  side.count = side.first == plan.kept.size() ? 0 : last - side.first + 1;
  return side;
}

/// Format 2: rows and columns that kept glyphs use. Offsets of the left side count from the subtable's begin.
/// Glyphs outside the arrays have the first row and column; a row before the array holds nothing. Nothing
/// where no pair moves.
std::optional<std::vector<std::byte>> copy_classes(const SubsetPlan& plan, const TableView& data,
                                                   std::size_t header, std::size_t new_header) {
  const std::size_t left_at = data.u16(header + 2), right_at = data.u16(header + 4);
  const int array = data.u16(header + 6);
  const Side left = read_side(plan, data.from(left_at), array),
             right = read_side(plan, data.from(right_at), 0);
  const auto used = [](const Side& side, int least) {
    std::vector<int> values = {least};
    for (const int v : side.offsets) {
      if (v >= least) values.push_back(v);
    }
    std::sort(values.begin(), values.end());
    values.erase(std::unique(values.begin(), values.end()), values.end());
    return values;
  };
  const std::vector<int> rows = used(left, array), columns = used(right, 0);
  const std::size_t begin = new_header + 8, row_bytes = columns.size() * 2, left_bytes = 4 + left.count * 2,
                    right_bytes = 4 + right.count * 2, new_array = begin + left_bytes + right_bytes;
  if (new_array + (rows.size() + 1) * row_bytes > 0xFFFF) return std::nullopt;
  TableWriter out, values;
  bool moves = false;
  for (const int row : rows) {
    for (const int column : columns) {
      values.s16(data.s16(static_cast<std::size_t>(row) + static_cast<std::size_t>(column)));
      moves = moves || data.s16(static_cast<std::size_t>(row) + static_cast<std::size_t>(column)) != 0;
    }
  }
  if (!moves) return std::nullopt;
  for (std::size_t i = 0; i < columns.size(); ++i) values.u16(0);
  out.u16(static_cast<std::uint32_t>(row_bytes)), out.u16(static_cast<std::uint32_t>(begin));
  out.u16(static_cast<std::uint32_t>(begin + left_bytes)), out.u16(static_cast<std::uint32_t>(new_array));
  const auto place = [](const std::vector<int>& list, int v) {
    const auto at = std::lower_bound(list.begin(), list.end(), v);
    return static_cast<std::size_t>((at != list.end() && *at == v ? at : list.end()) - list.begin());
  };
  out.u16(static_cast<std::uint32_t>(left.count == 0 ? 0 : left.first));
  out.u16(static_cast<std::uint32_t>(left.count));
  for (std::size_t i = 0; i < left.count; ++i) {
    const std::size_t row = place(rows, left.offsets[left.first + i]);
    out.u16(static_cast<std::uint32_t>(new_array + row * row_bytes));
  }
  out.u16(static_cast<std::uint32_t>(right.count == 0 ? 0 : right.first));
  out.u16(static_cast<std::uint32_t>(right.count));
  for (std::size_t i = 0; i < right.count; ++i) {
    out.u16(static_cast<std::uint32_t>(place(columns, right.offsets[right.first + i]) * 2));
  }
  out.append(values.bytes());
  return std::move(out.bytes());
}

std::vector<std::byte> write_pairs(const std::vector<Pair>& pairs, std::size_t first, std::size_t count) {
  std::uint32_t search = 1, bits = 0;
  while (std::size_t{search} * 2 <= count) search *= 2, ++bits;
  TableWriter out;
  out.u16(static_cast<std::uint32_t>(count)),
      out.u16(static_cast<std::uint32_t>(std::size_t{search} * 6) & 0xFFFFU), out.u16(bits);
  out.u16(static_cast<std::uint32_t>(count * 6 - std::size_t{search} * 6) & 0xFFFFU);
  for (std::size_t i = first; i < first + count; ++i) out.u32(pairs[i].key), out.s16(pairs[i].value);
  return std::move(out.bytes());
}

}  // namespace

std::optional<WrittenTable> subset_kerning(const SubsetPlan& plan) {
  const TableView kern = plan.table("kern");
  const bool apple = kern.u16(0) == 1;
  if (kern.empty() || (!apple && kern.u16(0) != 0)) return std::nullopt;
  const std::size_t header = apple ? 8 : 6,
                    count = std::min<std::size_t>(apple ? kern.u32(4) : kern.u16(2), kMaxKernSubtables);
  TableWriter body;
  std::uint32_t written = 0;
  const auto put = [&](unsigned format, bool overrides, const std::vector<std::byte>& bytes) {
    const std::size_t length = std::min<std::size_t>(bytes.size() + 6, 0xFFFF);
    body.u16(0), body.u16(static_cast<std::uint32_t>(length));
    body.u16(format << 8 | kHorizontal | (overrides ? 8U : 0U));
    body.append(bytes);
    ++written;
  };
  std::size_t at = apple ? 8 : 4;
  for (std::size_t i = 0; i < count && kern.holds(at, header + 8); ++i) {
    const std::size_t length = apple ? kern.u32(at) : kern.u16(at + 2);
    const unsigned coverage = kern.u16(at + 4), format = apple ? coverage & 0xFFU : coverage >> 8;
    const bool plain = apple ? (coverage & (kVertical | 0x6000U)) == 0
                             : (coverage & kHorizontal) != 0 && (coverage & (kMinimum | kCrossStream)) == 0;
    const TableView data = kern.from(at);
    const bool overrides = !apple && (coverage & 8U) != 0;
    if (plain && format == 0) {
      const std::vector<Pair> pairs = read_pairs(plan, data.from(header + 8), data.u16(header));
      constexpr std::size_t kMax = 10920;  // more do not fit a length of 16 bits
      for (std::size_t first = 0; first < pairs.size(); first += kMax) {
        put(0, overrides, write_pairs(pairs, first, std::min(kMax, pairs.size() - first)));
      }
    }
    if (plain && format == 2) {
      if (const auto classes = copy_classes(plan, data, header, 6)) put(2, overrides, *classes);
    }
    if (length < header) break;
    at += length;
  }
  if (written == 0) return std::nullopt;
  TableWriter out;
  out.u16(0), out.u16(written), out.append(body.bytes());
  return WrittenTable{kern.tag, std::move(out.bytes())};
}

}  // namespace grafema::detail
