// SPDX-License-Identifier: MIT
// Writes indexes, dictionaries and charstrings.
#include "support/cff_builder.hpp"

#include <cmath>
#include <sstream>

namespace grafema::test {
namespace {

void put_number(Bytes& out, double value) {
  const long whole = std::lround(value);
  if (static_cast<double>(whole) != value) {
    out.u8(255).fixed(value);
  } else if (whole >= -107 && whole <= 107) {
    out.u8(whole + 139);
  } else if (whole >= 108 && whole <= 1131) {
    out.u8(247 + (whole - 108) / 256).u8((whole - 108) % 256);
  } else if (whole <= -108 && whole >= -1131) {
    out.u8(251 + (-whole - 108) / 256).u8((-whole - 108) % 256);
  } else {
    out.u8(28).u16(whole);
  }
}

Bytes index(const std::vector<std::vector<std::byte>>& items, bool version2 = false) {
  Bytes out;
  if (version2) {
    out.u32(static_cast<long>(items.size()));
  } else {
    out.u16(static_cast<long>(items.size()));
  }
  if (items.empty()) return out;
  std::size_t total = 1;
  for (const auto& item : items) total += item.size();
  const bool wide = total > 0xFFFF;
  out.u8(wide ? 4 : 2);
  long at = 1;
  const auto offset = [&] { wide ? out.u32(at) : out.u16(at); };
  for (const auto& item : items) {
    offset();
    at += static_cast<long>(item.size());
  }
  offset();
  for (const auto& item : items) out.add(item);
  return out;
}

/// Offsets in dictionaries have five bytes, so that their length does not depend on them.
Bytes& dict_offset(Bytes& dict, std::size_t value) { return dict.u8(29).u32(static_cast<long>(value)); }

/// Real numbers as nibbles.
void put_real(Bytes& out, const std::string& text) {
  out.u8(30);
  std::vector<int> nibbles;
  for (const char c : text) {
    if (c >= '0' && c <= '9') nibbles.push_back(c - '0');
    if (c == '.') nibbles.push_back(10);
    if (c == '-') nibbles.push_back(!nibbles.empty() && nibbles.back() == 11 ? 12 : 14);
    if (c == 'e') nibbles.push_back(11);
    if (c == '-' && nibbles.size() > 1 && nibbles[nibbles.size() - 2] == 11) nibbles.erase(nibbles.end() - 2);
  }
  nibbles.push_back(15);
  if (nibbles.size() % 2 != 0) nibbles.push_back(15);
  for (std::size_t i = 0; i < nibbles.size(); i += 2) out.u8(nibbles[i] * 16 + nibbles[i + 1]);
}

void put_matrix(Bytes& dict, const std::string& matrix) {
  if (matrix.empty()) return;
  std::istringstream in(matrix);
  for (std::string number; in >> number;) put_real(dict, number);
  dict.u8(12).u8(7);
}

}  // namespace

Charstring& Charstring::number(double value) {
  put_number(out_, value);
  return *this;
}

Charstring& Charstring::op(std::initializer_list<double> numbers, int op) {
  for (const double n : numbers) number(n);
  if (op >= 1200) out_.u8(12);
  out_.u8(op >= 1200 ? op - 1200 : op);
  return *this;
}

Charstring& Charstring::raw(std::initializer_list<int> bytes) {
  for (const int b : bytes) out_.u8(b);
  return *this;
}

std::vector<std::byte> make_cff(const CffDrawing& d) {
  const Bytes header = Bytes().u8(1).u8(0).u8(4).u8(4), names = index({Bytes().text("Test").get()}),
              global = index(d.global), glyphs = index(d.glyphs);
  std::vector<std::vector<std::byte>> own;
  for (const std::string& name : d.names) own.push_back(Bytes().text(name).get());
  const Bytes strings = index(own);
  Bytes charset = Bytes().u8(0);
  for (std::size_t i = 1; i < d.glyphs.size(); ++i) {
    charset.u16(d.charset.empty() ? 390 + static_cast<long>(i) : d.charset[i - 1]);
  }
  const Bytes local = index(d.local);
  Bytes private_dict;
  private_dict.u8(139 + 6).u8(
      19);  // Subrs right behind this dictionary, four operators of two bytes each before them
  private_dict.u8(139).u8(20).u8(139).u8(21);
  Bytes select;
  const long half = static_cast<long>(d.glyphs.size() / 2);
  if (d.select_format == 0) {
    select.u8(0);
    for (std::size_t i = 0; i < d.glyphs.size(); ++i) select.u8(static_cast<long>(i) < half ? 0 : 1);
  } else {
    select.u8(3).u16(2).u16(0).u8(0).u16(half).u8(1).u16(static_cast<long>(d.glyphs.size()));
  }
  // Written twice: first to learn the lengths.
  std::size_t at_charset = 0, at_glyphs = 0, at_private = 0, at_dicts = 0, at_select = 0;
  std::vector<std::byte> out;
  for (int round = 0; round < 2; ++round) {
    Bytes top;
    if (d.keyed) top.u8(139).u8(139).u8(139).u8(12).u8(30);
    put_matrix(top, d.matrix);
    dict_offset(top, at_charset).u8(15);
    dict_offset(top, at_glyphs).u8(17);
    if (d.keyed) {
      dict_offset(top, at_dicts).u8(12).u8(36);
      dict_offset(top, at_select).u8(12).u8(37);
    } else {
      dict_offset(top, private_dict.size());
      dict_offset(top, at_private).u8(18);
    }
    std::vector<std::vector<std::byte>> dicts;
    for (std::size_t i = 0; i < 2 && d.keyed; ++i) {
      Bytes dict;
      if (i < d.dict_matrices.size()) put_matrix(dict, d.dict_matrices[i]);
      dict_offset(dict, private_dict.size());
      dict_offset(dict, at_private).u8(18);
      dicts.push_back(dict.get());
    }
    Bytes all;
    all.add(header).add(names).add(index({top.get()})).add(strings).add(global);
    at_charset = all.size();
    all.add(charset);
    at_glyphs = all.size();
    all.add(glyphs);
    at_private = all.size();
    all.add(private_dict).add(local);
    at_dicts = all.size();
    if (d.keyed) all.add(index(dicts));
    at_select = all.size();
    if (d.keyed) all.add(select);
    out = all.get();
  }
  return out;
}

std::vector<std::byte> make_variation_store(const std::vector<std::vector<std::array<double, 3>>>& regions,
                                            const std::vector<std::vector<int>>& rows) {
  const std::size_t axes = regions.at(0).size();
  Bytes list = Bytes().u16(static_cast<long>(axes)).u16(static_cast<long>(regions.size()));
  for (const auto& region : regions) {
    for (const auto& axis : region) list.f2dot14(axis[0]).f2dot14(axis[1]).f2dot14(axis[2]);
  }
  Bytes data = Bytes()
                   .u16(static_cast<long>(rows.size()))
                   .u16(static_cast<long>(regions.size()))
                   .u16(static_cast<long>(regions.size()));
  for (std::size_t i = 0; i < regions.size(); ++i) data.u16(static_cast<long>(i));
  for (const auto& row : rows) {
    for (const int delta : row) data.u16(delta);
  }
  return Bytes().u16(1).u32(12).u16(1).u32(static_cast<long>(12 + list.size())).add(list).add(data);
}

std::vector<std::byte> make_cff2(const std::vector<std::vector<std::byte>>& glyphs,
                                 const std::vector<std::vector<std::byte>>& global) {
  const std::vector<std::byte> store = make_variation_store({{{{0, 1, 1}}}}, {});
  const Bytes global_index = index(global, true), glyph_index = index(glyphs, true);
  std::size_t at_store = 0, at_glyphs = 0, at_dicts = 0, at_private = 0;
  std::vector<std::byte> out;
  for (int round = 0; round < 2; ++round) {
    Bytes top, dict;
    dict_offset(top, at_glyphs).u8(17);
    dict_offset(top, at_store).u8(24);
    dict_offset(top, at_dicts).u8(12).u8(36);
    dict_offset(dict, 2);
    dict_offset(dict, at_private).u8(18);
    Bytes all;
    all.u8(2).u8(0).u8(5).u16(static_cast<long>(top.size())).add(top).add(global_index);
    at_store = all.size();
    all.u16(static_cast<long>(store.size())).add(store);
    at_glyphs = all.size();
    all.add(glyph_index);
    at_dicts = all.size();
    all.add(index({dict.get()}, true));
    at_private = all.size();
    all.u8(139).u8(22);  // group 0
    out = all.get();
  }
  return out;
}

}  // namespace grafema::test
