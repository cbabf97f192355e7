// SPDX-License-Identifier: MIT
// Reads the tables of a face when they are asked for, at the face's place on its axes.
#include "font/face_tables.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <bit>

#include "base/hash.hpp"
#include "font/outline/strike_outlines.hpp"

namespace grafema {
namespace detail {

AdvanceVariations AdvanceVariations::read(const TableView& table, bool vertical,
                                          const std::vector<float>& coordinates) {
  AdvanceVariations made;
  if (table.u16(0) != 1 || table.u32(4) == 0) return made;
  made.store = ItemVariations::read(table.from(table.u32(4)), coordinates);
  if (table.u32(8) != 0) made.advances = IndexMap(table.from(table.u32(8)));
  made.has_origins = vertical && table.u32(20) != 0;
  if (made.has_origins) made.origins = IndexMap(table.from(table.u32(20)));
  return made;
}

namespace {

bool same_place(const std::vector<AxisValue>& coordinates, std::span<const AxisValue> place,
                const std::vector<Axis>& axes) {
  return std::all_of(axes.begin(), axes.end(), [&](const Axis& axis) {
    const auto value_in = [&](auto list) {
      for (const AxisValue& v : list) {
        if (v.axis == axis.tag) return std::clamp(v.value, axis.min, axis.max);
      }
      return axis.standard;
    };
    return value_in(std::span<const AxisValue>(coordinates)) == value_in(place);
  });
}

/// The word for the axis's value: one for exactly it, else one for a range that holds it.
const StyleWord* find_word(const StyleAttributes& style, const AxisValue& at) {
  for (const bool exact : {true, false}) {
    for (const StyleWord& word : style.words) {
      if (word.at.size() != 1 || word.at[0].axis != at.axis) continue;
      if (exact ? word.at[0].value == at.value : word.low <= at.value && at.value < word.high) return &word;
    }
  }
  return nullptr;
}

}  // namespace

std::string instance_style(const Face& face, const std::string& fallback) {
  const std::vector<Axis> axes = face.axes();
  for (const NamedInstance& named : face.instances()) {
    if (!named.name.empty() && same_place(named.coordinates, face.place(), axes)) return named.name;
  }
  const StyleAttributes style = face.style_attributes();
  std::string words;
  for (const Axis& axis : style.axes) {
    AxisValue at{axis.tag, axis.standard};
    for (const AxisValue& v : face.place()) {
      if (v.axis == axis.tag) at = v;
    }
    const StyleWord* word = find_word(style, at);
    if (word != nullptr && !word->elidable && !word->name.empty()) {
      words += fmt::format("{}{}", words.empty() ? "" : " ", word->name);
    }
    const bool moved = std::any_of(face.place().begin(), face.place().end(),
                                   [&](const AxisValue& v) { return v.axis == axis.tag; });
    if (word == nullptr && moved) {
      words += fmt::format("{}{} {}", words.empty() ? "" : " ", to_string(axis.tag), at.value);
    }
  }
  if (!words.empty()) return words;
  return style.elided_fallback.empty() ? fallback : style.elided_fallback;
}

}  // namespace detail

Result<void> Face::Tables::read_units() {
  outline_kind = detail::find_outline_kind(directory);
  if (outline_kind == OutlineKind::strikes) strikes = detail::read_strike_sizes(directory);
  units_per_em = required.units_per_em;
  if (required.units_per_em >= 16) return {};
  if (outline_kind == OutlineKind::cff || outline_kind == OutlineKind::cff2) {
    const Result<detail::CffOutlines>& outlines = cff();
    if (outlines && outlines->units_per_em()) units_per_em = static_cast<float>(*outlines->units_per_em());
  }
  if (units_per_em > 0) return {};
  return detail::damaged(directory.find(tag("head")), 18, "units per em of 16 to 16384", "0");
}

void Face::Tables::move_to(std::span<const AxisValue> wanted, Notes* notes) {
  const std::vector<Axis> axes = wanted.empty() ? std::vector<Axis>{} : detail::read_axes(directory);
  coordinates = wanted.empty() ? std::vector<float>{}
                               : detail::normalize(directory.find(tag("avar")), axes, wanted, notes);
  for (const Axis& axis : axes) {
    for (const AxisValue& v : wanted) {
      if (v.axis == axis.tag) {
        place.push_back(
            {axis.tag, std::isfinite(v.value) ? std::clamp(v.value, axis.min, axis.max) : axis.standard});
      }
    }
  }
  outline_kind = detail::find_outline_kind(directory);
  glyphs = {directory.find(tag("glyf")),
            directory.find(tag("loca")),
            required.long_offsets,
            required.glyph_count,
            required.horizontal,
            required.vertical,
            detail::GlyphVariations::read(directory.find(tag("gvar")), coordinates)};
  metric_variations = detail::MetricVariations(directory.find(tag("MVAR")), coordinates);
  horizontal_variations = detail::AdvanceVariations::read(directory.find(tag("HVAR")), false, coordinates);
  vertical_variations = detail::AdvanceVariations::read(directory.find(tag("VVAR")), true, coordinates);
  lines = detail::read_line_metrics(directory, metric_variations);
  detail::Fnv1a hash;
  hash.add_number(directory.hash());
  for (const float c : coordinates) hash.add_number(std::bit_cast<std::uint32_t>(c));
  id = FaceId{coordinates.empty() ? directory.hash() : hash.result()};
}

/// From HVAR or VVAR, else from the phantom points that gvar moves.
float Face::Tables::varied_advance(std::uint32_t glyph, float stored, bool vertical) const {
  const detail::AdvanceVariations& variations = vertical ? vertical_variations : horizontal_variations;
  if (!variations.store.empty()) return stored + variations.store.delta(variations.advances.find(glyph));
  if (outline_kind != OutlineKind::glyf || glyphs.variations.empty()) return stored;
  Contours unused;
  const Result<detail::GlyphCell> cell = detail::read_glyf_outline(glyphs, glyph, unused);
  if (!cell) return stored;
  return vertical ? cell->top - cell->bottom : cell->right - cell->left;
}

float Face::Tables::varied_origin(std::uint32_t glyph) const {
  return vertical_variations.has_origins
             ? vertical_variations.store.delta(vertical_variations.origins.find(glyph))
             : 0.0F;
}

const detail::FaceCharacters& Face::Tables::make_characters() const {
  return characters_.get([this] {
    detail::FaceCharacters made;
    Result<detail::CharacterMap> map =
        detail::CharacterMap::read(directory.find(tag("cmap")), required.glyph_count);
    if (map) made.map = *std::move(map);  // a face with a damaged cmap has no characters
    static_assert(std::tuple_size_v<decltype(made.quick)> == kQuickCharacters);
    for (std::size_t i = 0; i < made.quick.size(); ++i) {
      made.quick[i] = made.map.find(static_cast<char32_t>(i));
    }
    return made;
  });
}

const detail::FaceLayout& Face::Tables::layout() const {
  return layout_.get([this] {
    const detail::TableView gdef = directory.find(tag("GDEF"));
    const detail::ItemVariations& variations = layout_variations_.get([&] {
      const bool has_store = gdef.u16(0) == 1 && gdef.u16(2) >= 3 && gdef.u32(14) != 0;
      return has_store ? detail::ItemVariations::read(gdef.from(gdef.u32(14)), coordinates)
                       : detail::ItemVariations{};
    });
    const auto table = [&](const char* name) {
      return LayoutTable(directory.find(tag(name)).bytes, &variations, coordinates, units_per_em);
    };
    return detail::FaceLayout{GlyphDefinitions(gdef.bytes, &variations), table("GSUB"), table("GPOS")};
  });
}

const detail::FaceKerning& Face::Tables::make_kerning() const {
  return kerning_.get([this] {
    detail::FaceKerning made;
    made.pairs = detail::PairKerning::read(layout().positions, required.glyph_count);
    if (!made.pairs.empty()) {
      made.source = KerningSource::gpos;
      made.quick = made.pairs.quick();  // points at heap memory, which stays where it is when this is moved
      if (!made.pairs.has_gaps()) return made;
    }
    made.kern = detail::KernTable::read(directory.find(tag("kern")));
    if (made.source == KerningSource::none && made.kern.stated()) made.source = KerningSource::kern;
    return made;
  });
}

const Result<detail::CffOutlines>& Face::Tables::cff() const {
  return cff_.get([this] {
    const bool version2 = directory.find(tag("CFF ")).empty();
    return detail::CffOutlines::read(directory.find(tag(version2 ? "CFF2" : "CFF ")), version2, coordinates);
  });
}

const detail::PostNames& Face::Tables::post_names() const {
  return post_names_.get([this] { return detail::PostNames(directory.find(tag("post"))); });
}

}  // namespace grafema
