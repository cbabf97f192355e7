// SPDX-License-Identifier: MIT
// Puts tables together into a font file (OpenType, "Organization of an OpenType font").
#include <algorithm>
#include <bit>

#include "write/tables/table_writer.hpp"

namespace grafema::detail {

std::uint32_t checksum(const std::vector<std::byte>& bytes) {
  std::uint32_t sum = 0;
  for (std::size_t i = 0; i < bytes.size(); ++i) {
    sum += static_cast<std::uint32_t>(bytes[i]) << (24 - 8 * (i % 4));
  }
  return sum;
}

std::vector<std::byte> assemble(std::vector<WrittenTable> tables, bool cff) {
  std::sort(tables.begin(), tables.end(),
            [](const WrittenTable& a, const WrittenTable& b) { return a.tag < b.tag; });
  TableWriter out;
  const auto count = static_cast<std::uint32_t>(tables.size());
  const std::uint32_t search = std::bit_floor(count) * 16;
  out.u32(cff ? 0x4F54544F : 0x00010000);
  out.u16(count);
  out.u16(search);
  out.u16(static_cast<std::uint32_t>(std::bit_width(count) - 1));
  out.u16(count * 16 - search);
  std::size_t offset = 12 + tables.size() * 16, head_at = 0;
  for (const WrittenTable& table : tables) {
    out.u32(static_cast<std::uint32_t>(table.tag));
    out.u32(checksum(table.bytes));
    out.u32(static_cast<std::uint32_t>(offset));
    out.u32(static_cast<std::uint32_t>(table.bytes.size()));
    if (table.tag == tag("head")) head_at = offset;
    offset += (table.bytes.size() + 3) / 4 * 4;
  }
  for (const WrittenTable& table : tables) {
    out.append(table.bytes);
    out.align(4);
  }
  out.put_u32(head_at + 8, 0xB1B0AFBAU - checksum(out.bytes()));
  return std::move(out.bytes());
}

}  // namespace grafema::detail
