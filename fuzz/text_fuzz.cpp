// SPDX-License-Identifier: MIT
// Any text, shaped by any bytes as layout tables and laid out in any box; sums and lines are checked.
#include <cmath>

#include "grafema/text/shaped_text.hpp"
#include "input.hpp"

namespace {

using namespace grafema;
using fuzz::require;
using Bytes = std::vector<std::byte>;

void put16(Bytes& out, std::size_t value) {
  out.push_back(static_cast<std::byte>(value >> 8 & 0xFF));
  out.push_back(static_cast<std::byte>(value & 0xFF));
}
void put32(Bytes& out, std::size_t value) { put16(out, value >> 16), put16(out, value & 0xFFFF); }

/// The built-in face with other layout tables.
std::shared_ptr<const Face> face_with(std::span<const std::byte> gdef, std::span<const std::byte> gpos,
                                      std::span<const std::byte> gsub) {
  static const std::shared_ptr<const Face> plain = built_in_face();
  std::vector<std::pair<Tag, std::span<const std::byte>>> tables = {
      {tag("GDEF"), gdef}, {tag("GPOS"), gpos}, {tag("GSUB"), gsub}};
  for (const char* name : {"OS/2", "cmap", "glyf", "head", "hhea", "hmtx", "loca", "maxp", "name", "post"}) {
    tables.emplace_back(tag(name), plain->table(tag(name)));
  }
  std::erase_if(tables, [](const auto& t) { return t.second.empty(); });
  Bytes out;
  put32(out, 0x00010000), put16(out, tables.size()), put16(out, 0), put16(out, 0), put16(out, 0);
  std::size_t at = 12 + tables.size() * 16;
  for (const auto& [name, bytes] : tables) {
    put32(out, static_cast<std::uint32_t>(name)), put32(out, 0), put32(out, at), put32(out, bytes.size());
    at += (bytes.size() + 3) / 4 * 4;
  }
  for (const auto& [name, bytes] : tables) {
    out.insert(out.end(), bytes.begin(), bytes.end());
    while (out.size() % 4 != 0) out.push_back(std::byte{0});
  }
  const auto opened = Face::open(FontData::copy(out));
  return opened ? *opened : nullptr;
}

TextStyle style_of(std::uint8_t bits, std::uint8_t more) {
  TextStyle style{.size = 20};
  if ((bits & 1) != 0) style.wrap = static_cast<float>(more) * 2;
  if ((bits & 2) != 0) style.breaking = LineBreaking::anywhere;
  if ((bits & 4) != 0) style.align = TextAlign::justify;
  if ((bits & 8) != 0) style.direction = TextDirection::right_to_left;
  if ((bits & 16) != 0) style.box_height = 50.0F;
  style.overflow = static_cast<Overflow>((bits >> 5) % 5);
  if ((more & 1) != 0) style.tabs = {{40, TabAlign::decimal}, {90, TabAlign::right}};
  if ((more & 2) != 0) style.features = {{tag("liga"), 0, 1, 5}, {tag("salt"), 2}};
  if ((more & 4) != 0) style.balance = style.keep_last_words = true;
  if ((more & 8) != 0) style.tracking = -2;
  return style;
}

void check(const ShapedText& shaped) {
  for (const ShapedRun& run : shaped.runs()) {
    std::uint32_t before = run.first;
    for (std::uint32_t g = run.first_glyph; g < run.end_glyph; ++g) {
      require(shaped.glyphs()[g].cluster >= before && shaped.glyphs()[g].cluster < run.end);
      before = shaped.glyphs()[g].cluster;
    }
  }
}

void check(const Paragraph& p, const TextStyle& style, std::size_t bytes) {
  std::uint32_t at = 0;
  for (const Line& line : p.lines) {
    require(line.start == at && line.first_glyph <= line.end_glyph && line.end_glyph <= p.glyphs.size());
    at = line.end;
    double sum = 0;
    for (std::uint32_t g = line.first_glyph; g < line.end_glyph; ++g)
      sum += static_cast<double>(p.glyphs[g].advance);
    const bool plain = !style.wrap && style.overflow == Overflow::show;
    require(!plain || std::abs(sum - static_cast<double>(line.width)) <= 0.01 + std::abs(sum) * 1e-4);
  }
  require(style.overflow != Overflow::show || at == bytes);
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  if (size < 4 || size > 1 << 12) return 0;
  const std::size_t length = std::min<std::size_t>(data[2], size - 4);
  const std::string_view text(reinterpret_cast<const char*>(data + 4), length);
  const auto rest = fuzz::bytes_of(data + 4 + length, size - 4 - length);
  const std::size_t third = rest.size() * data[3] / 512;
  const auto face = face_with(rest.subspan(0, third), rest.subspan(third, third), rest.subspan(2 * third));
  if (face == nullptr) return 0;
  const TextStyle style = style_of(data[0], data[1]);
  const FontStack stack{face};
  ShapeCache cache, other;
  ShapedText shaped, again;
  Paragraph p, q;
  if (!shaped.set(stack, text, style, cache)) return 0;
  check(shaped);
  require(shaped.lay_out(style, cache, p).has_value());
  check(p, style, text.size());
  require(again.set(stack, text, style, other).has_value() && again.lay_out(style, other, q).has_value());
  require(p.glyphs == q.glyphs && p.lines == q.lines);
  std::vector<CaretStop> stops;
  caret_stops(p, text, stops);
  return 0;
}
