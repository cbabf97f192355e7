// SPDX-License-Identifier: MIT
// What a face keeps: tables read when it is opened and those that wait for their first use.
#pragma once

#include <array>

#include "font/characters/cmap.hpp"
#include "font/characters/glyph_names.hpp"
#include "font/container/lazy.hpp"
#include "font/layout/kern.hpp"
#include "font/layout/pair_kerning.hpp"
#include "font/metrics/metrics_tables.hpp"
#include "font/outline/cff.hpp"
#include "font/outline/glyf.hpp"
#include "font/variation/axes.hpp"

namespace grafema {
namespace detail {

struct FaceCharacters {
  CharacterMap map;
  std::array<GlyphId, 0x250> quick = {};  ///< Face::kQuickCharacters of them
};

struct FaceLayout {
  GlyphDefinitions definitions;
  LayoutTable substitutions, positions;
};

struct FaceKerning {
  KerningSource source = KerningSource::none;
  PairKerning pairs;
  Face::QuickKerning quick;
  KernTable kern;
};

/// HVAR or VVAR at the face's place on its axes.
struct AdvanceVariations {
  ItemVariations store;
  IndexMap advances, origins;
  bool has_origins = false;

  static AdvanceVariations read(const TableView& table, bool vertical, const std::vector<float>& coordinates);
};

/// The style of an instance: the designer's name for that place, else the words of STAT, else `fallback` and
/// the values.
std::string instance_style(const Face& face, const std::string& fallback);

}  // namespace detail

struct Face::Tables {
  FontData data;
  detail::Directory directory;
  detail::FaceTables required;
  float units_per_em = 0;
  OutlineKind outline_kind = OutlineKind::none;
  std::vector<std::uint16_t> strikes;  ///< sizes, where the outlines are their pixels
  FaceId id{};

  // What depends on the place on the axes.
  std::vector<AxisValue> place;
  std::vector<float> coordinates;  ///< normalized; empty at the standard place
  detail::GlyphTables glyphs;
  detail::MetricVariations metric_variations;
  detail::AdvanceVariations horizontal_variations, vertical_variations;
  LineMetrics lines;

  /// Units per em from `head`, or where that says nothing from CFF's font matrix.
  Result<void> read_units();
  void move_to(std::span<const AxisValue> wanted, Notes* notes);
  float varied_advance(std::uint32_t glyph, float stored, bool vertical) const;
  float varied_origin(std::uint32_t glyph) const;

  const detail::FaceCharacters& characters() const {
    const detail::FaceCharacters* made = characters_.find();
    return made != nullptr ? *made : make_characters();
  }
  const detail::FaceKerning& kerning() const {
    const detail::FaceKerning* made = kerning_.find();
    return made != nullptr ? *made : make_kerning();
  }
  const detail::FaceLayout& layout() const;
  const Result<detail::CffOutlines>& cff() const;
  const detail::PostNames& post_names() const;

 private:
  const detail::FaceCharacters& make_characters() const;
  const detail::FaceKerning& make_kerning() const;

  detail::Lazy<detail::FaceCharacters> characters_;
  detail::Lazy<detail::ItemVariations> layout_variations_;  ///< of GDEF, which the layout tables point at
  detail::Lazy<detail::FaceLayout> layout_;
  detail::Lazy<detail::FaceKerning> kerning_;
  detail::Lazy<Result<detail::CffOutlines>> cff_;
  detail::Lazy<detail::PostNames> post_names_;
};

}  // namespace grafema
