// SPDX-License-Identifier: MIT
// Faces in the order in which they are asked for a character.
#pragma once

#include <initializer_list>
#include <memory>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema {

/// A face of a FontStack.
struct StackFace {
  std::shared_ptr<const GlyphMetrics> metrics = {};  ///< never null
  float scale = 1;     ///< size of the face as a multiple of the size of the text
  float grow = 0;      ///< ems by which its shapes are widened on every side: a bold that is made, not drawn
  bool widens = true;  ///< whether advances grow with the shapes; not where all letters are as wide
  float slant =
      0;  ///< degrees by which its upright strokes are made to lean to the right, about the baseline
  bool operator==(const StackFace&) const = default;
  const GlyphMetrics* operator->() const { return metrics.get(); }
};

/// The first face sets the line metrics and stands in with its missing-glyph shape; the others are its
/// fallback.
class GRAFEMA_API FontStack {
 public:
  FontStack() = default;
  /// `FontStack{regular, greek, icons}`; each face as `add` takes it.
  FontStack(std::initializer_list<std::shared_ptr<const GlyphMetrics>> faces);

  /// Puts the face last. It must not be null and `scale` must be above 0 and finite: asserted, and without
  /// assertions a null face is left out and a scale out of its range counts as 1.
  void add(std::shared_ptr<const GlyphMetrics> face, float scale = 1) {
    insert(size(), std::move(face), scale);
  }
  /// The same with all that a stack says of a face; a growth or slant that is not finite counts as 0.
  void add(StackFace face);
  /// Puts the face at `place`, at most behind the last; otherwise as `add`.
  void insert(std::size_t place, std::shared_ptr<const GlyphMetrics> face, float scale = 1);
  /// `index` must be below `size()`; `scale` as for `add`.
  void set_scale(std::size_t index, float scale);

  std::size_t size() const { return faces_.size(); }
  bool empty() const { return faces_.empty(); }
  const StackFace& operator[](std::size_t index) const { return faces_[index]; }
  bool operator==(const FontStack&) const = default;
  auto begin() const { return faces_.begin(); }
  auto end() const { return faces_.end(); }

  /// A glyph and the index of the face that has it.
  struct Found {
    std::size_t face = 0;
    GlyphId glyph = kMissingGlyph;
  };
  /// The first face that has the character; face 0 and `kMissingGlyph` where none has it.
  Found find(char32_t character) const {
    for (std::size_t i = 0; i < faces_.size(); ++i) {
      const GlyphId glyph = faces_[i]->find_glyph(character);
      if (glyph != kMissingGlyph) return {i, glyph};
    }
    return {};
  }

 private:
  std::vector<StackFace> faces_;
};

/// Scales the faces so that small letters of each are as high as those of the first. Faces without small
/// letters, or without tables, keep the size of the text.
GRAFEMA_API void match_x_heights(FontStack& stack);

}  // namespace grafema
