// SPDX-License-Identifier: MIT
// Reads CFF's header, indexes and dictionaries; writes indexes and numbers (Technical Note 5176).
#include "write/subset/cff/cff_source.hpp"

#include <algorithm>

namespace grafema::detail {
namespace {

constexpr std::size_t kMaxFonts = 1024, kMaxDictBytes = 65536;

/// Where the operand of a dictionary that begins at `at` ends.
std::size_t end_of_operand(const TableView& dict, std::size_t at) {
  const auto b0 = static_cast<unsigned>(dict.bytes[at]);
  if (b0 == 28) return at + 3;
  if (b0 == 29) return at + 5;
  if (b0 >= 247 && b0 <= 254) return at + 2;
  if (b0 != 30) return at + 1;
  for (++at; dict.holds(at, 1); ++at) {  // a real number: half bytes up to one that says the end
    const auto byte = static_cast<unsigned>(dict.bytes[at]);
    if ((byte & 15U) == 15 || byte >> 4 == 15) return at + 1;
  }
  return at;
}

CffSource::Font read_font(const CffSource& source, const TableView& dict) {
  CffSource::Font font;
  font.dict = dict;
  for (const DictEntry& entry : read_entries(dict)) {
    if (entry.op != CffOperator::private_dict || entry.values.size() != 2) continue;
    const std::size_t size = to_offset(entry.values[0]), at = to_offset(entry.values[1]);
    if (size > kMaxDictBytes || !source.table.holds(at, size)) continue;
    font.private_dict = {source.table.tag, source.table.bytes.subspan(at, size)};
    std::size_t local = 0;
    for (const DictEntry& own : read_entries(font.private_dict)) {
      if (own.values.empty()) continue;
      if (own.op == CffOperator::local_subroutines) local = to_offset(own.values[0]);
      if (own.op == CffOperator::variation_group) font.variation_group = to_offset(own.values[0]);
    }
    if (local == 0) continue;
    if (Result<CffIndex> index = CffIndex::read(source.table, at + local, source.version2))
      font.local = *index;
  }
  return font;
}

}  // namespace

std::vector<DictEntry> read_entries(const TableView& dict) {
  std::vector<DictEntry> entries;
  std::size_t begin = 0, at = 0;
  if (dict.bytes.size() > kMaxDictBytes) return entries;
  while (dict.holds(at, 1)) {
    const auto b0 = static_cast<unsigned>(dict.bytes[at]);
    if (b0 > 24 || b0 == static_cast<unsigned>(CffOperator::blend)) {
      at = end_of_operand(dict, at);
      continue;
    }
    if (b0 == 12 && !dict.holds(at, 2)) break;
    DictEntry entry;
    entry.operands = {dict.tag, dict.bytes.subspan(begin, at - begin)};
    at += b0 == 12 ? 2 : 1;
    visit_dict({dict.tag, dict.bytes.subspan(begin, at - begin)},
               [&entry](CffOperator op, std::span<const double> values) {
                 entry.op = op;
                 entry.values.assign(values.begin(), values.end());
               });
    entries.push_back(std::move(entry));
    begin = at;
  }
  return entries;
}

Result<CffSource> CffSource::read(const TableView& table, bool version2) {
  CffSource source;
  source.table = table, source.version2 = version2;
  if (!table.holds(0, 5)) return damaged(table, table.bytes.size(), "a header of at least 4 bytes");
  std::size_t at = static_cast<std::size_t>(table.bytes[2]);
  if (version2) {
    const std::size_t size = table.u16(3);
    if (!table.holds(at, size)) return damaged(table, 3, "a top dictionary inside the table");
    source.top = {table.tag, table.bytes.subspan(at, size)};
    at += size;
  } else {
    const Result<CffIndex> names = CffIndex::read(table, at, false);
    if (!names) return fail(names.error());
    const Result<CffIndex> tops = CffIndex::read(table, names->end(), false);
    if (!tops) return fail(tops.error());
    const Result<CffIndex> strings = CffIndex::read(table, tops->end(), false);
    if (!strings) return fail(strings.error());
    source.names = *names, source.strings = *strings, source.top = tops->get(0);
    at = strings->end();
  }
  const Result<CffIndex> global = CffIndex::read(table, at, version2);
  if (!global) return fail(global.error());
  source.global = *global;
  std::size_t charstrings = 0, select = 0, fonts = 0, store = 0;
  for (const DictEntry& entry : read_entries(source.top)) {
    source.keyed = source.keyed || entry.op == CffOperator::registry;
    if (entry.values.empty()) continue;
    const std::size_t offset = to_offset(entry.values[0]);
    if (entry.op == CffOperator::char_strings) charstrings = offset;
    if (entry.op == CffOperator::charset) source.charset_at = offset;
    if (entry.op == CffOperator::font_select) select = offset;
    if (entry.op == CffOperator::font_dicts) fonts = offset;
    if (entry.op == CffOperator::variation_store) store = offset;
  }
  if (charstrings == 0) return damaged(table, 0, "a top dictionary that tells where the charstrings are");
  const Result<CffIndex> index = CffIndex::read(table, charstrings, version2);
  if (!index) return fail(index.error());
  source.charstrings = *index;
  if (!version2) {
    source.charset = CffCharset(table, source.charset_at,
                                static_cast<std::uint32_t>(std::min<std::size_t>(index->size(), 0xFFFF)));
  }
  if (select != 0) source.select = FontSelect(table.from(select));
  if (store != 0) source.variation_store = table.from(store);
  if (fonts != 0) {
    const Result<CffIndex> dicts = CffIndex::read(table, fonts, version2);
    if (!dicts) return fail(dicts.error());
    for (std::size_t i = 0; i < std::min(dicts->size(), kMaxFonts); ++i) {
      source.fonts.push_back(read_font(source, dicts->get(i)));
    }
  } else {
    source.fonts.push_back(read_font(source, source.top));
  }
  if (source.fonts.empty()) source.fonts.emplace_back();
  return source;
}

void write_operator(TableWriter& out, CffOperator op) {
  const auto value = static_cast<std::uint32_t>(op);
  if (value > 0xFF) out.u8(12);
  out.u8(value);
}

std::vector<std::byte> write_cff_index(const std::vector<std::vector<std::byte>>& items, bool version2) {
  TableWriter out;
  if (version2) out.u32(static_cast<std::uint32_t>(items.size()));
  if (!version2) out.u16(static_cast<std::uint32_t>(items.size()));
  if (items.empty()) return std::move(out.bytes());
  std::size_t end = 1;
  for (const auto& item : items) end += item.size();
  const unsigned bytes = end < 0x100 ? 1 : end < 0x10000 ? 2 : end < 0x1000000 ? 3 : 4;
  out.u8(bytes);
  const auto offset = [&](std::size_t v) {
    for (unsigned b = bytes; b-- > 0;) out.u8(static_cast<std::uint32_t>(v >> (8 * b)));
  };
  std::size_t at = 1;
  offset(at);
  for (const auto& item : items) offset(at += item.size());
  for (const auto& item : items) out.append(item);
  return std::move(out.bytes());
}

}  // namespace grafema::detail
