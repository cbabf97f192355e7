// SPDX-License-Identifier: MIT
// Reads indexes, dictionaries, charsets and font selection of CFF.
#include "font/outline/cff_data.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace grafema::detail {

Result<CffIndex> CffIndex::read(const TableView& table, std::size_t at, bool version2) {
  const std::size_t count_bytes = version2 ? 4 : 2;
  if (!table.holds(at, count_bytes)) return damaged(table, at, "an index");
  CffIndex index;
  index.table_ = table;
  index.count_ = version2 ? be32(table.bytes, at) : be16(table.bytes, at);
  index.end_ = at + count_bytes;
  if (index.count_ == 0) return index;
  index.offset_bytes_ = table.holds(index.end_, 1) ? static_cast<std::size_t>(table.bytes[index.end_]) : 0;
  index.offsets_at_ = index.end_ + 1;
  if (index.offset_bytes_ < 1 || index.offset_bytes_ > 4) {
    return damaged(table, index.end_, "offsets of 1 to 4 bytes", fmt::format("{}", index.offset_bytes_));
  }
  if (!table.holds(index.offsets_at_, 0) ||
      index.count_ >= (table.bytes.size() - index.offsets_at_) / index.offset_bytes_) {
    return damaged(table, at, "a count of strings that fits the table", fmt::format("{}", index.count_));
  }
  index.data_at_ = index.offsets_at_ + (index.count_ + 1) * index.offset_bytes_ - 1;  // offsets count from 1
  index.end_ = index.data_at_ + index.offset(index.count_);
  return index;
}

std::size_t CffIndex::offset(std::size_t i) const {
  std::size_t value = 0;
  for (std::size_t b = 0; b < offset_bytes_; ++b) {
    value = value << 8 | static_cast<std::size_t>(table_.bytes[offsets_at_ + i * offset_bytes_ + b]);
  }
  return value;
}

TableView CffIndex::get(std::size_t i) const {
  if (i >= count_) return {table_.tag, {}};
  const std::size_t begin = offset(i), end = offset(i + 1);
  if (begin < 1 || end < begin || !table_.holds(data_at_ + begin, end - begin)) return {table_.tag, {}};
  return {table_.tag, table_.bytes.subspan(data_at_ + begin, end - begin)};
}

namespace {

/// A real number: half bytes that spell it. Gives where it ends.
std::size_t read_real(const TableView& dict, std::size_t at, double& value) {
  double digits = 0;
  int exponent = 0, stated = 0;
  bool negative = false, fraction = false, in_exponent = false, negative_exponent = false;
  for (bool done = false; !done && dict.holds(at, 1); ++at) {
    const auto byte = static_cast<unsigned>(dict.bytes[at]);
    for (const unsigned nibble : {byte >> 4, byte & 15U}) {
      if (nibble < 10 && in_exponent) {
        stated = std::min(stated * 10 + static_cast<int>(nibble), 100);
      } else if (nibble < 10) {
        digits = digits * 10 + nibble;
        exponent -= fraction ? 1 : 0;
      } else if (nibble == 10) {
        fraction = true;
      } else if (nibble == 11 || nibble == 12) {
        in_exponent = true;
        negative_exponent = nibble == 12;
      } else if (nibble == 14) {
        negative = true;
      } else if (nibble == 15) {
        done = true;
        break;
      }
    }
  }
  exponent += negative_exponent ? -stated : stated;
  double power = 1;
  for (int i = 0; i < std::min(std::abs(exponent), 300); ++i) {
    power *= 10;
  }  // exact up to 10^22, which all fonts stay below
  value = (exponent < 0 ? digits / power : digits * power) * (negative ? -1 : 1);
  return at;
}

}  // namespace

void visit_dict(const TableView& dict,
                const std::function<void(CffOperator, std::span<const double>)>& visit) {
  constexpr std::size_t kMaxOperands = 513;
  std::vector<double> operands;
  std::size_t at = 0;
  while (dict.holds(at, 1)) {
    const auto b0 = static_cast<unsigned>(dict.bytes[at++]);
    double value = 0;
    if (b0 == 28) {
      value = dict.s16(at);
      at += 2;
    } else if (b0 == 29) {
      value = static_cast<std::int32_t>(dict.u32(at));
      at += 4;
    } else if (b0 == 30) {
      at = read_real(dict, at, value);
    } else if (b0 >= 32 && b0 <= 246) {
      value = static_cast<double>(b0) - 139;
    } else if (b0 >= 247 && b0 <= 254) {
      const double b1 = dict.holds(at, 1) ? static_cast<double>(static_cast<unsigned>(dict.bytes[at])) : 0;
      value = b0 <= 250 ? (b0 - 247) * 256.0 + b1 + 108 : -((b0 - 251) * 256.0) - b1 - 108;
      ++at;
    } else if (b0 <= 24) {
      const unsigned second = b0 == 12 && dict.holds(at, 1) ? static_cast<unsigned>(dict.bytes[at++]) : 0;
      visit(static_cast<CffOperator>(b0 == 12 ? 0x0C00U + second : b0), operands);
      operands.clear();
      continue;
    }
    if (operands.size() < kMaxOperands) operands.push_back(value);
  }
}

std::size_t to_offset(double value) {
  return value >= 0 && value < 4294967296.0 ? static_cast<std::size_t>(value) : 0;
}

std::size_t FontSelect::find(std::uint32_t glyph) const {
  const unsigned format = table_.empty() ? 0U : static_cast<unsigned>(table_.bytes[0]);
  if (format == 0) {
    return table_.holds(1 + std::size_t{glyph}, 1)
               ? static_cast<std::size_t>(table_.bytes[1 + std::size_t{glyph}])
               : 0;
  }
  if (format != 3 && format != 4) return 0;
  const bool wide = format == 4;
  const std::size_t range_bytes = wide ? 6 : 3, first_at = wide ? 5 : 3;
  std::size_t low = 0, high = wide ? table_.u32(1) : table_.u16(1);
  if (table_.bytes.size() < first_at) return 0;
  high = std::min(high, (table_.bytes.size() - first_at) / range_bytes);
  const auto first_of = [&](std::size_t i) {
    return wide ? table_.u32(first_at + i * range_bytes)
                : std::uint32_t{table_.u16(first_at + i * range_bytes)};
  };
  if (high == 0 || glyph < first_of(0)) return 0;
  while (high - low > 1) {  // the last range that does not begin after the glyph
    const std::size_t middle = (low + high) / 2;
    (first_of(middle) <= glyph ? low : high) = middle;
  }
  const std::size_t at = first_at + low * range_bytes;
  return wide ? table_.u16(at + 4) : static_cast<std::size_t>(table_.bytes[at + 2]);
}

CffCharset::CffCharset(const TableView& table, std::size_t offset, std::uint32_t glyph_count) {
  ids_.reserve(glyph_count);
  ids_.push_back(0);
  if (offset <= 2) {  // ISOAdobe counts up; the two expert sets have no letters that accents need
    for (std::uint32_t i = 1; i < std::min(glyph_count, offset == 0 ? 229U : 1U); ++i) {
      ids_.push_back(static_cast<std::uint16_t>(i));
    }
    return;
  }
  const TableView data = table.from(offset);
  const unsigned format = data.empty() ? 3U : static_cast<unsigned>(data.bytes[0]);
  std::size_t at = 1;
  while (ids_.size() < glyph_count && format <= 2 && data.holds(at, 2)) {
    const unsigned first = data.u16(at);
    at += 2;
    unsigned left = 0;
    if (format == 1 && data.holds(at, 1)) left = static_cast<unsigned>(data.bytes[at]);
    if (format == 2) left = data.u16(at);
    at += format;
    for (unsigned i = 0; i <= left && ids_.size() < glyph_count; ++i) {
      ids_.push_back(static_cast<std::uint16_t>(first + i));
    }
  }
}

std::uint32_t CffCharset::find(std::uint16_t id) const {
  const auto found = std::find(ids_.begin(), ids_.end(), id);
  return found == ids_.end() ? 0 : static_cast<std::uint32_t>(found - ids_.begin());
}

std::uint16_t standard_encoding(unsigned code) {
  struct Run {
    unsigned first, last, id;
  };
  constexpr Run kRuns[] = {{32, 126, 1},    {161, 175, 96},  {177, 180, 111}, {182, 189, 115},
                           {191, 191, 123}, {193, 200, 124}, {202, 203, 132}, {205, 208, 134},
                           {225, 225, 138}, {227, 227, 139}, {232, 235, 140}, {241, 241, 144},
                           {245, 245, 145}, {248, 251, 146}};
  for (const Run& run : kRuns) {
    if (code >= run.first && code <= run.last) return static_cast<std::uint16_t>(run.id + code - run.first);
  }
  return 0;
}

}  // namespace grafema::detail
