// SPDX-License-Identifier: MIT
// Outlines as Type 2 charstrings in a `CFF ` table (Adobe Technical Notes 5176 and 5177).
#include <fmt/format.h>

#include <cmath>

#include "write/tables/cff_numbers.hpp"
#include "write/tables/face_tables.hpp"
#include "write/tables/glyph_tables.hpp"

namespace grafema::detail {
namespace {

/// Strings below this number are those of the specification's list.
constexpr std::uint32_t kFirstOwnString = 391;

std::vector<std::byte> write_index(const std::vector<std::vector<std::byte>>& items) {
  TableWriter out;
  out.u16(static_cast<std::uint32_t>(items.size()));
  if (items.empty()) return std::move(out.bytes());
  out.u8(4);
  std::size_t at = 1;
  out.u32(1);
  for (const auto& item : items) at += item.size(), out.u32(static_cast<std::uint32_t>(at));
  for (const auto& item : items) out.append(item);
  return std::move(out.bytes());
}

std::vector<std::byte> bytes_of(std::string_view text) {
  std::vector<std::byte> out;
  for (const char c : text) out.push_back(static_cast<std::byte>(c));
  return out;
}

/// The glyph's charstring; its advance is relative to a nominal width of 0.
class Charstring {
 public:
  std::vector<std::byte> write(const FontPlan::Glyph& glyph) {
    out_ = {};
    x_ = y_ = 0;
    write_cff_number(out_, to_units(glyph.drawn->advance));
    const FontPoint* p = glyph.outline.points.data();
    for (const PathCommand command : glyph.outline.commands) {
      switch (command) {
        case PathCommand::moveto:
          step_to(*p), ++p;
          out_.u8(21);  // rmoveto
          break;
        case PathCommand::lineto:
          step_to(*p), ++p;
          out_.u8(5);  // rlineto
          break;
        case PathCommand::quadratic_curveto: {
          const FontPoint from = last_, c = p[0], to = p[1];
          curve({from.x + (c.x - from.x) * 2 / 3, from.y + (c.y - from.y) * 2 / 3},
                {to.x + (c.x - to.x) * 2 / 3, to.y + (c.y - to.y) * 2 / 3}, to);
          p += 2;
          break;
        }
        case PathCommand::curveto:
          curve(p[0], p[1], p[2]), p += 3;
          break;
        case PathCommand::closepath:
          break;
      }
    }
    out_.u8(14);  // endchar
    return std::move(out_.bytes());
  }

 private:
  void step_to(FontPoint p) {
    const int x = to_units(p.x), y = to_units(p.y);
    write_cff_number(out_, x - x_), write_cff_number(out_, y - y_);
    x_ = x, y_ = y, last_ = p;
  }
  void curve(FontPoint one, FontPoint two, FontPoint to) {
    step_to(one), step_to(two), step_to(to);
    out_.u8(8);  // rrcurveto
  }

  TableWriter out_;
  int x_ = 0, y_ = 0;
  FontPoint last_{};
};

}  // namespace

Result<WrittenTable> write_cff(const FontPlan& plan) {
  const FaceNames& names = plan.drawing->names;
  std::vector<std::vector<std::byte>> strings;
  const auto add_string = [&](std::string_view text) {
    strings.push_back(bytes_of(text));
    return kFirstOwnString + static_cast<std::uint32_t>(strings.size()) - 1;
  };
  const std::uint32_t family = add_string(names.family), full = add_string(names.family + " " + names.style);
  TableWriter charset;
  charset.u8(0);
  for (std::size_t i = 1; i < plan.glyphs.size(); ++i) charset.u16(add_string(plan.glyphs[i].name));
  if (kFirstOwnString + strings.size() > 64999)
    return fail(make_error(ErrorKind::bad_value, "at most 64,600 glyphs in a CFF table",
                           std::to_string(plan.glyphs.size())));
  std::vector<std::vector<std::byte>> charstrings;
  Charstring charstring;
  for (const FontPlan::Glyph& glyph : plan.glyphs) charstrings.push_back(charstring.write(glyph));

  const std::vector<std::byte> name_index = write_index({bytes_of(postscript_name(names))}),
                               string_index = write_index(strings),
                               charstring_index = write_index(charstrings);
  TableWriter private_dict;
  write_cff_number(private_dict, 0), private_dict.u8(20);  // defaultWidthX
  write_cff_number(private_dict, 0), private_dict.u8(21);  // nominalWidthX
  const auto top_dict = [&](std::size_t charset_at, std::size_t charstrings_at, std::size_t private_at) {
    TableWriter top;
    write_dict_offset(top, full), top.u8(2);
    write_dict_offset(top, family), top.u8(3);
    if (plan.drawing->units_per_em != 1000) {
      // The matrix as real numbers: 1 over the units of an em, twice.
      const std::string scale = fmt::format("{:.9f}", 1.0 / plan.drawing->units_per_em);
      const auto real = [&top](std::string_view text) {
        std::vector<std::uint32_t> nibbles;
        for (const char c : text) nibbles.push_back(c == '.' ? 0xA : static_cast<std::uint32_t>(c - '0'));
        nibbles.push_back(0xF);
        if (nibbles.size() % 2 == 1) nibbles.push_back(0xF);
        top.u8(30);
        for (std::size_t i = 0; i < nibbles.size(); i += 2) top.u8(nibbles[i] << 4 | nibbles[i + 1]);
      };
      real(scale), write_cff_number(top, 0), write_cff_number(top, 0), real(scale), write_cff_number(top, 0),
          write_cff_number(top, 0);
      top.u8(12), top.u8(7);  // FontMatrix
    }
    write_dict_offset(top, charset_at), top.u8(15);
    write_dict_offset(top, charstrings_at), top.u8(17);
    write_dict_offset(top, private_dict.size()), write_dict_offset(top, private_at), top.u8(18);
    return std::move(top.bytes());
  };
  const std::size_t top_size = write_index({top_dict(0, 0, 0)}).size();
  const std::size_t charset_at = 4 + name_index.size() + top_size + string_index.size() + 2;
  const std::size_t charstrings_at = charset_at + charset.size(),
                    private_at = charstrings_at + charstring_index.size();
  TableWriter out;
  out.u8(1), out.u8(0), out.u8(4), out.u8(4);  // version, header size, offset size
  out.append(name_index);
  out.append(write_index({top_dict(charset_at, charstrings_at, private_at)}));
  out.append(string_index);
  out.append(write_index({}));  // global subroutines: none
  out.append(charset.bytes()), out.append(charstring_index), out.append(private_dict.bytes());
  return WrittenTable{tag("CFF "), std::move(out.bytes())};
}

}  // namespace grafema::detail
