// SPDX-License-Identifier: MIT
// Runs Type 2 charstrings, which draw CFF glyphs (Technical Note 5177; OpenType, CFF2 charstrings).
#pragma once

#include "font/outline/cff_data.hpp"
#include "font/variation/item_variations.hpp"
#include "grafema/outline/contours.hpp"

namespace grafema::detail {

/// What a charstring may refer to.
struct CharstringContext {
  const CffIndex* global = nullptr;
  const CffIndex* local = nullptr;
  const ItemVariations* variations = nullptr;  ///< CFF2 alone
  std::size_t variation_group = 0;
  bool version2 = false;
};

/// An accented letter of old fonts: two glyphs of the standard encoding, the second shifted.
struct Accented {
  bool used = false;
  double dx = 0, dy = 0;
  unsigned base = 0, accent = 0;
};

/// Appends what the charstring draws, shifted by (dx, dy), and says whether it ends with an accent. Fails
/// with `damaged` where the program makes no sense or asks for more than a glyph may.
Result<Accented> run_charstring(const TableView& charstring, const CharstringContext& context, double dx,
                                double dy, Contours& out);

}  // namespace grafema::detail
