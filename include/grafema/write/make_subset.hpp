// SPDX-License-Identifier: MIT
// Smaller fonts: a face reduced to some characters, which measures, shapes and draws those as before.
#pragma once

#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema {

/// What a subset keeps.
struct SubsetRecipe {
  std::vector<char32_t> characters = {};  ///< in any order; those that the face does not have are noted
  bool all_characters = false;            ///< every character of the face, for who wants to pin axes alone
  /// Features that stay, beside those that shaping applies by itself; all where this is not set. A feature
  /// that goes takes the glyphs with it that only it can show.
  std::optional<std::vector<Tag>> features = {};
  /// Axes of a variable face that are to stand still; the others stay variable. A face at a place of its own
  /// is pinned there.
  std::vector<AxisValue> pins = {};
  /// The family's name in the new file; empty: as it was. A license that reserves the name asks for another
  /// one: where none is given here, one is made and noted.
  std::string family = {};
  /// Leaves out what drawing with this library needs no more than browsers do: instructions for screens of
  /// few pixels, names of glyphs, and the `kern` table where GPOS kerns every script.
  bool lean = false;
  /// Takes the responsibility where the permission bits or the license forbid a subset.
  bool permit = false;
  /// Called with how many of all steps are done; false ends the work.
  std::function<bool(std::size_t done, std::size_t total)> progress = {};
};

/// How many bytes a table had and has.
struct TableSizes {
  Tag table{};
  std::size_t before = 0, after = 0;  ///< `after` is 0 for a table that was left out
};

struct Subset {
  std::vector<std::byte> font = {};  ///< an OpenType file of one face
  std::vector<GlyphId> glyphs = {};  ///< the glyph of the face that each glyph of the subset was, ascending
  std::size_t character_count = 0;   ///< characters that it maps
  std::vector<TableSizes> tables = {};  ///< of every table that the face has, by tag
};

/// Reduces a face to characters and what shaping can make of them: composites, ligatures and other
/// substitutions, color layers, marks and kerning come along, glyphs are renumbered in their order. For texts
/// of those characters the subset has the same advances, outlines, colors, pictures and positions as the
/// face; pinned axes round to whole font units. Tables that only other programs read and that name glyphs
/// (`MATH`, `JSTF`, `SVG `, tables of other shaping systems, of devices, signatures) are left out and noted.
/// Fails with `forbidden` where the face's embedding bits or license do not allow it and `permit` is not set;
/// with `bad_value` for no character that the face has, or pins of axes and values that it does not have;
/// with `damaged` where glyphs or rules that are kept can't be read; `interrupted` where `progress` says so.
GRAFEMA_API Result<Subset> make_subset(const Face& face, const SubsetRecipe& recipe, Notes* notes = nullptr);

}  // namespace grafema
