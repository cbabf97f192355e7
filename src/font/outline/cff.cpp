// SPDX-License-Identifier: MIT
// Reads the dictionaries of CFF and CFF2 and draws their glyphs.
#include "font/outline/cff.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "font/characters/glyph_names.hpp"

namespace grafema::detail {
namespace {

/// Dictionaries have a few hundred bytes; in a hostile file many may lie on top of each other.
constexpr std::size_t kMaxFontDicts = 1024, kMaxDictBytes = 65536;

/// Where the parts stand that the top dictionary tells of.
struct TopDict {
  std::size_t char_strings = 0, charset = 0, private_size = 0, private_at = 0, font_dicts = 0,
              font_select = 0, variation_store = 0;
  bool keyed = false;
  std::optional<std::array<double, 6>> matrix;
};

std::optional<std::array<double, 6>> to_matrix(std::span<const double> v) {
  if (v.size() != 6 || !(std::abs(v[0] * v[3] - v[1] * v[2]) > 0)) return std::nullopt;
  return std::array<double, 6>{v[0], v[1], v[2], v[3], v[4], v[5]};
}

TopDict read_top(const TableView& dict) {
  TopDict top;
  visit_dict(dict, [&top](CffOperator op, std::span<const double> v) {
    if (op == CffOperator::registry) top.keyed = true;
    if (op == CffOperator::font_matrix) top.matrix = to_matrix(v);
    if (v.empty()) return;
    if (op == CffOperator::char_strings) top.char_strings = to_offset(v[0]);
    if (op == CffOperator::charset) top.charset = to_offset(v[0]);
    if (op == CffOperator::font_dicts) top.font_dicts = to_offset(v[0]);
    if (op == CffOperator::font_select) top.font_select = to_offset(v[0]);
    if (op == CffOperator::variation_store) top.variation_store = to_offset(v[0]);
    if (op == CffOperator::private_dict && v.size() == 2) {
      top.private_size = to_offset(v[0]), top.private_at = to_offset(v[1]);
    }
  });
  return top;
}

}  // namespace

void CffOutlines::read_private(std::size_t offset, std::size_t size, FontDict& dict) const {
  if (!table_.holds(offset, size) || size > kMaxDictBytes) return;
  std::size_t local = 0;
  visit_dict({table_.tag, table_.bytes.subspan(offset, size)},
             [&](CffOperator op, std::span<const double> v) {
               if (v.empty()) return;
               if (op == CffOperator::local_subroutines) local = to_offset(v[0]);
               if (op == CffOperator::variation_group) dict.variation_group = to_offset(v[0]);
             });
  if (local == 0) return;
  if (Result<CffIndex> index = CffIndex::read(table_, offset + local, version2_)) dict.local = *index;
}

CffOutlines::FontDict CffOutlines::read_font_dict(const TableView& dict) const {
  FontDict made;
  if (dict.bytes.size() > kMaxDictBytes) return made;
  visit_dict(dict, [&](CffOperator op, std::span<const double> v) {
    if (op == CffOperator::font_matrix) made.matrix = to_matrix(v);
    if (op == CffOperator::private_dict && v.size() == 2) {
      read_private(to_offset(v[1]), to_offset(v[0]), made);
    }
  });
  return made;
}

Result<CffOutlines> CffOutlines::read(const TableView& table, bool version2,
                                      const std::vector<float>& coordinates) {
  CffOutlines made;
  made.table_ = table;
  made.version2_ = version2;
  if (!table.holds(0, 5)) return damaged(table, 0, "a header");
  std::size_t at = static_cast<std::size_t>(table.bytes[2]);
  TableView dict{table.tag, {}};
  if (version2) {
    const std::size_t size = table.u16(3);
    if (!table.holds(at, size)) return damaged(table, 3, "a top dictionary that lies inside the table");
    dict.bytes = table.bytes.subspan(at, size);
    at += size;
  } else {
    const Result<CffIndex> names = CffIndex::read(table, at, false);
    if (!names) return fail(names.error());
    const Result<CffIndex> dicts = CffIndex::read(table, names->end(), false);
    if (!dicts) return fail(dicts.error());
    dict = dicts->get(0);
    Result<CffIndex> strings = CffIndex::read(table, dicts->end(), false);
    if (!strings) return fail(strings.error());
    made.strings_ = *strings;
    at = strings->end();
  }
  if (Result<CffIndex> global = CffIndex::read(table, at, version2)) made.global_ = *global;
  const TopDict top = read_top(dict);
  if (top.char_strings == 0) {
    return damaged(table, at, "a top dictionary that tells where the charstrings are");
  }
  Result<CffIndex> char_strings = CffIndex::read(table, top.char_strings, version2);
  if (!char_strings) return fail(char_strings.error());
  made.char_strings_ = *char_strings;
  made.keyed_ = top.keyed;
  made.matrix_ = top.matrix;
  if (!version2) {
    made.charset_ = CffCharset(
        table, top.charset, static_cast<std::uint32_t>(std::min<std::size_t>(char_strings->size(), 0xFFFF)));
  }
  if (top.variation_store != 0) {
    made.variations_ = ItemVariations::read(table.from(top.variation_store + 2), coordinates);
  }
  if (top.font_select != 0) made.select_ = FontSelect(table.from(top.font_select));
  if (top.font_dicts != 0) {
    const Result<CffIndex> dicts = CffIndex::read(table, top.font_dicts, version2);
    if (!dicts) return fail(dicts.error());
    for (std::size_t i = 0; i < std::min(dicts->size(), kMaxFontDicts); ++i) {
      made.dicts_.push_back(made.read_font_dict(dicts->get(i)));
    }
  } else {
    made.dicts_.emplace_back();
    made.read_private(top.private_at, top.private_size, made.dicts_[0]);
  }
  if (made.dicts_.empty()) made.dicts_.emplace_back();
  return made;
}

/// The whole way from charstring units to the em: the font dictionary's matrix, then that of the top
/// dictionary.
std::optional<CffOutlines::Matrix> CffOutlines::matrix_of(const FontDict& dict) const {
  if (!dict.matrix || !matrix_) return dict.matrix ? dict.matrix : matrix_;
  const Matrix &a = *dict.matrix, &b = *matrix_;
  return Matrix{a[0] * b[0] + a[1] * b[2],        a[0] * b[1] + a[1] * b[3],
                a[2] * b[0] + a[3] * b[2],        a[2] * b[1] + a[3] * b[3],
                a[4] * b[0] + a[5] * b[2] + b[4], a[4] * b[1] + a[5] * b[3] + b[5]};
}

std::optional<double> CffOutlines::units_per_em() const {
  const std::optional<Matrix> matrix = dicts_.empty() ? matrix_ : matrix_of(dicts_[0]);
  if (!matrix || !((*matrix)[3] > 1e-5 && (*matrix)[3] <= 1)) return std::nullopt;
  return std::round(1 / (*matrix)[3]);
}

Result<void> CffOutlines::draw(std::uint32_t glyph, const FontDict& dict, Contours& out) const {
  const CharstringContext context{&global_, &dict.local, version2_ ? &variations_ : nullptr,
                                  dict.variation_group, version2_};
  const Result<Accented> drawn = run_charstring(char_strings_.get(glyph), context, 0, 0, out);
  if (!drawn) return fail(drawn.error());
  if (!drawn->used) return {};
  out.may_overlap = true;
  for (const bool accent : {false, true}) {
    const std::uint32_t part = charset_.find(standard_encoding(accent ? drawn->accent : drawn->base));
    if (part == 0) {
      return damaged(table_, Error::kNowhere, "letters and accents that the font has",
                     fmt::format("glyph {}", glyph));
    }
    const Result<Accented> part_drawn =
        run_charstring(char_strings_.get(part), context, accent ? drawn->dx : 0, accent ? drawn->dy : 0, out);
    if (!part_drawn) return fail(part_drawn.error());
  }
  return {};
}

std::vector<std::uint32_t> CffOutlines::accent_parts(std::uint32_t glyph) const {
  const FontDict& dict = dicts_[std::min(select_.find(glyph), dicts_.size() - 1)];
  const CharstringContext context{&global_, &dict.local, version2_ ? &variations_ : nullptr,
                                  dict.variation_group, version2_};
  Contours unused;
  const Result<Accented> drawn = run_charstring(char_strings_.get(glyph), context, 0, 0, unused);
  if (!drawn || !drawn->used) return {};
  return {charset_.find(standard_encoding(drawn->base)), charset_.find(standard_encoding(drawn->accent))};
}

Result<void> CffOutlines::read_outline(std::uint32_t glyph, double units_per_em, Contours& out) const {
  out.clear();
  const FontDict& dict = dicts_[std::min(select_.find(glyph), dicts_.size() - 1)];
  if (Result<void> drawn = draw(glyph, dict, out); !drawn) {
    out.clear();
    Error error = drawn.error();
    error.table = table_.tag;
    if (error.found[0] == 0) error.with_found(fmt::format("glyph {}", glyph));
    return fail(error);
  }
  if (version2_) out.may_overlap = true;
  const std::optional<Matrix> matrix = matrix_of(dict);
  if (!matrix) return {};
  Matrix m = *matrix;
  for (double& v : m) v *= units_per_em;
  constexpr double kClose = 1e-3;  // 1/2048 is written as 0.000488281
  if (std::abs(m[0] - 1) < kClose && std::abs(m[3] - 1) < kClose && m[1] == 0 && m[2] == 0 && m[4] == 0 &&
      m[5] == 0) {
    return {};
  }
  for (FontPoint& p : out.points) {
    const double x = static_cast<double>(p.x), y = static_cast<double>(p.y);
    p = {static_cast<float>(m[0] * x + m[2] * y + m[4]), static_cast<float>(m[1] * x + m[3] * y + m[5])};
  }
  return {};
}

std::string CffOutlines::glyph_name(std::uint32_t glyph) const {
  if (version2_ || keyed_ || glyph >= glyph_count()) return {};
  const std::uint16_t id = charset_.name_of(glyph);
  if (id < kStandardStringCount) return std::string(standard_string(id));
  const TableView text = strings_.get(id - kStandardStringCount);
  return {reinterpret_cast<const char*>(text.bytes.data()), text.bytes.size()};
}

}  // namespace grafema::detail
