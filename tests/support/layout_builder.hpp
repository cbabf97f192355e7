// SPDX-License-Identifier: MIT
// GSUB and GPOS tables for tests: scripts, features and lookups put together by hand.
#pragma once

#include <string>
#include <vector>

#include "support/bytes.hpp"

namespace grafema::test {

struct LanguageDrawing {
  std::string tag;            ///< empty: the script's default
  std::vector<int> features;  ///< indices
  int required = 0xFFFF;
};
struct LayoutDrawing {
  std::vector<std::pair<std::string, std::vector<LanguageDrawing>>> scripts;
  std::vector<std::pair<std::string, std::vector<int>>> features;  ///< with their lookups
  std::vector<std::vector<std::byte>> lookups;
  std::vector<std::byte> variations;  ///< FeatureVariations; empty: none
};
std::vector<std::byte> make_layout(const LayoutDrawing& drawing);

/// Lookups for one feature of the Latin script.
std::vector<std::byte> simple_layout(const std::string& feature, const std::vector<int>& used,
                                     const std::vector<std::vector<std::byte>>& lookups);

/// A lookup of this type, each subtable plain or behind an extension of type `extension`.
std::vector<std::byte> make_lookup(int type, const std::vector<std::vector<std::byte>>& subtables,
                                   int flags = 0, int extension = 0, int mark_set = -1);

/// Coverage of format 1 and class definitions of format 2.
std::vector<std::byte> coverage(const std::vector<int>& glyphs);
std::vector<std::byte> classes(const std::vector<std::pair<int, int>>& glyph_and_class);

/// A table of 16-bit numbers that ends with sub-tables: each value -1 is the offset of the next of `parts`.
std::vector<std::byte> with_parts(std::vector<int> values, const std::vector<std::vector<std::byte>>& parts);

}  // namespace grafema::test
