// SPDX-License-Identifier: MIT
// Families of a game, and what stands in for a bold or an italic that a family does not have.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/base/notes.hpp"
#include "grafema/font/family.hpp"
#include "grafema/font/font_stack.hpp"

namespace grafema {

/// Which faces are wanted; what is left empty stays as it is.
struct FontRequest {
  std::string family = {};           ///< its name in any case
  std::optional<float> weight = {};  ///< 1..1000; 700 is bold
  std::optional<Slant> slant = {};
  bool operator==(const FontRequest&) const = default;
  bool empty() const { return family.empty() && !weight && !slant; }
};

/// Families by name, those of the fallback first.
class GRAFEMA_API FontBook {
 public:
  /// A family of the fallback, behind those that were added before; others are found by name alone.
  void add(Family family, bool in_fallback = true);
  std::span<const Family> families() const { return families_; }
  bool empty() const { return families_.empty(); }
  /// Whether faces of the fallback are scaled so that their small letters are as high as the first's.
  void match_x_height(bool match);
  /// Tells contents of books apart: moves with every change, and no two books that differ have the same.
  std::uint64_t revision() const { return revision_; }

  /// The family of that name, spelled in any case; null where there is none.
  const Family* find(std::string_view name) const;
  /// The family that holds the face; null where none does.
  const Family* family_of(const GlyphMetrics& face) const;
  /// The face of that style of each family, `family` first, then the fallback.
  FontStack make_stack(const Family& family, const FaceStyle& style, Notes* notes = nullptr) const;
  FontStack make_stack(std::string_view style_words = "Regular", Notes* notes = nullptr) const;

 private:
  std::vector<Family> families_;
  std::size_t fallback_count_ = 0;
  bool match_x_height_ = false;
  std::uint64_t revision_ = 0;
};

/// The faces of `around` in another family, weight or slant. Families come from the book, which may be null;
/// a family that it does not have is noted. A face whose family has none of that weight or slant is grown or
/// slanted, and noted: never one whose family has the real one.
GRAFEMA_API FontStack restyle(const FontStack& around, const FontRequest& request, const FontBook* book,
                              Notes* notes = nullptr);

/// By how many ems a face of `weight` is grown on every side to look as heavy as `wanted`: in proportion to
/// its own strokes, whatever the size.
GRAFEMA_API float made_bold(const GlyphMetrics& face, float weight, float wanted);

}  // namespace grafema
