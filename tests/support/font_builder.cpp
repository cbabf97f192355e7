// SPDX-License-Identifier: MIT
// Takes fonts apart and puts them together.
#include "support/font_builder.hpp"

#include "support/support.hpp"

namespace grafema::test {
namespace {

std::size_t number(const std::vector<std::byte>& bytes, std::size_t at, std::size_t count) {
  std::size_t value = 0;
  for (std::size_t i = 0; i < count; ++i) value = value << 8 | static_cast<std::size_t>(bytes[at + i]);
  return value;
}

void add(std::vector<std::byte>& bytes, std::size_t value, std::size_t count) {
  for (std::size_t i = count; i-- > 0;) bytes.push_back(static_cast<std::byte>(value >> (8 * i) & 0xFF));
}

}  // namespace

std::vector<std::byte> words(std::initializer_list<int> values) {
  std::vector<std::byte> bytes;
  for (const int value : values) {
    add(bytes, static_cast<std::size_t>(static_cast<unsigned>(value) & 0xFFFFU), 2);
  }
  return bytes;
}

std::vector<std::byte> joined(std::initializer_list<std::vector<std::byte>> parts) {
  std::vector<std::byte> bytes;
  for (const auto& part : parts) bytes.insert(bytes.end(), part.begin(), part.end());
  return bytes;
}

FontBuilder::FontBuilder() : FontBuilder(dot_bytes()) { remove("GPOS"), remove("GDEF"); }

FontBuilder::FontBuilder(const std::vector<std::byte>& file) {
  for (std::size_t i = 0; i < number(file, 4, 2); ++i) {
    const std::size_t record = 12 + i * 16;
    std::string tag;
    for (std::size_t c = 0; c < 4; ++c) tag += static_cast<char>(file[record + c]);
    const auto first = file.begin() + static_cast<std::ptrdiff_t>(number(file, record + 8, 4));
    tables_[tag] = {first, first + static_cast<std::ptrdiff_t>(number(file, record + 12, 4))};
  }
}

void FontBuilder::put16(const std::string& tag, std::size_t at, int value) {
  const std::vector<std::byte> two = words({value});
  tables_[tag].at(at) = two[0];
  tables_[tag].at(at + 1) = two[1];
}

std::vector<std::byte> FontBuilder::bytes() const {
  std::vector<std::byte> out;
  add(out, 0x00010000, 4);
  add(out, tables_.size(), 2);
  for (int i = 0; i < 3; ++i) add(out, 0, 2);
  std::size_t offset = 12 + tables_.size() * 16;
  for (const auto& [tag, table] : tables_) {
    for (const char c : tag) out.push_back(static_cast<std::byte>(c));
    add(out, 0, 4);
    add(out, offset, 4);
    add(out, table.size(), 4);
    offset += (table.size() + 3) / 4 * 4;
  }
  for (const auto& [tag, table] : tables_) {
    out.insert(out.end(), table.begin(), table.end());
    while (out.size() % 4 != 0) out.push_back(std::byte{0});
  }
  return out;
}

std::shared_ptr<const Face> FontBuilder::face() const {
  const auto opened = Face::open(FontData::own(bytes()));
  REQUIRE(opened.has_value());
  return *opened;
}

}  // namespace grafema::test
