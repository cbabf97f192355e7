// SPDX-License-Identifier: MIT
// All that a new font is made from: glyphs, and what they do beside each other.
#pragma once

#include <array>
#include <string>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/font/face.hpp"

namespace grafema {

/// A point where glyphs meet: an accent's comes to stand on its letter's of the same name.
struct DrawnAnchor {
  std::string name = {};
  FontPoint at = {};
  bool attaches = false;  ///< the accent's own point; a glyph that has one is a mark
};

/// Another glyph as part of this one, moved; TrueType holds it once.
struct DrawnPart {
  std::string glyph = {};  ///< by name
  float dx = 0, dy = 0;
};

/// One color of a color glyph (`COLR` version 0), from back to front.
struct DrawnLayer {
  Contours outline = {};
  Color color = {};
};

/// A glyph as another weight of a variable face has it.
struct DrawnMaster {
  Contours outline = {};                  ///< with the commands of the glyph's own
  float advance = 0;                      ///< 0..65535
  std::vector<DrawnAnchor> anchors = {};  ///< in the glyph's order
  std::vector<DrawnPart> parts = {};      ///< in the glyph's order
};

/// A weight that a variable face has beside that of its drawing.
struct FontMaster {
  std::string name = {};  ///< the name of the style
  std::uint16_t weight_class = 700;
};

/// A glyph to be written; lengths are font units.
struct DrawnGlyph {
  std::vector<char32_t> characters =
      {};  ///< the characters that show it; none for the first glyph of a font, its
           ///< missing-glyph shape, and for those that substitutions bring
  Contours outline =
      {};  ///< filled sides on the right (y up: clockwise); cubic curves only where `FontDrawing::cff`
  float advance = 0;      ///< 0..65535
  std::string name = {};  ///< 1 to 63 of A-Z a-z 0-9 . _; empty: one is made from its first character
  std::vector<DrawnPart> parts = {};  ///< added to its outline
  std::vector<DrawnAnchor> anchors = {};
  std::vector<DrawnMaster> masters = {};  ///< one for each of `FontDrawing::masters`
  std::vector<DrawnLayer> layers = {};    ///< where it has colors; `outline` is for who can't paint them
};

struct DrawnPair {
  char32_t left = 0, right = 0;
  float value = 0;  ///< added to the advance of `left`
};

/// Kerning between any of some glyphs and any of others.
struct ClassKerning {
  std::vector<std::vector<std::string>> left,
      right = {};                  ///< names of glyphs, each in one class of a side at most
  std::vector<float> values = {};  ///< left classes by right classes, row by row; font units
};

/// Glyphs in a row that become one.
struct DrawnLigature {
  std::vector<std::string> from = {};  ///< two or more, by name
  std::string to = {};
};

/// A glyph that another takes the place of while a feature is on.
struct DrawnAlternate {
  Tag feature{};  ///< as `tnum`; of a `locl` feature the language too
  std::string from = {}, to = {};
  Tag script{}, language{};  ///< OpenType tags, as `cyrl` and `SRB `; Tag{}: all
};

/// Lengths are font units; ascent and descent are both positive.
struct FontDrawing {
  FaceNames names = {};
  std::uint16_t units_per_em = 1000;  ///< 16..16384
  LineMetrics lines = {};
  std::uint16_t weight_class = 400;
  std::vector<DrawnGlyph> glyphs = {};  ///< at least the missing-glyph shape
  std::vector<DrawnPair> kerning = {};  ///< stands before `classes`
  ClassKerning classes = {};
  std::vector<DrawnLigature> ligatures = {};
  std::vector<DrawnAlternate> alternates = {};
  Embedding embedding = Embedding::installable;
  std::vector<FontMaster> masters = {};  ///< a variable face with a `wght` axis, where there are any
  bool cff = false;                      ///< cubic curves in a `CFF ` table instead of `glyf`
};

}  // namespace grafema
