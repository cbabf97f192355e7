// SPDX-License-Identifier: MIT
// Faces gathered under one name, found by weight, width and slant or by the words of a style.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/font/face.hpp"

namespace grafema {

enum class Slant : std::uint8_t { upright, italic, oblique };

/// Where a face stands in its family (CSS Fonts Module Level 4: font-weight, font-width, font-style).
struct FaceStyle {
  float weight = 400;  ///< 1..1000; 400 is regular, 700 bold
  float width = 100;   ///< percent of the normal width, 50..200
  Slant slant = Slant::upright;
  bool operator==(const FaceStyle&) const = default;
};

/// The style that words stand for, in any spelling: "Bold Italic", "semi-bold condensed",
/// "ExtraLightOblique", "600". Words that say nothing about style are passed over; `known`, where given,
/// tells whether every word was understood.
GRAFEMA_API FaceStyle read_style_words(std::string_view words, bool* known = nullptr);

/// The style of a face as its tables tell it.
GRAFEMA_API FaceStyle style_of(const Face& face);

/// Faces of one family. Variable faces stand for every style that their axes reach.
class GRAFEMA_API Family {
 public:
  struct Member {
    std::shared_ptr<const Face> face = {};
    std::string name = {};  ///< the name of the style, such as "Bold Italic"
    FaceStyle style = {};
    std::string file = {};  ///< the font file, where it came from one
  };

  explicit Family(std::string name = {}) : name_(std::move(name)) {}
  const std::string& name() const { return name_; }
  std::span<const Member> members() const { return members_; }

  /// With the name and style that the face's tables tell.
  void add(std::shared_ptr<const Face> face);
  void add(Member member);

  /// The face nearest to the style: by width first, then slant, then weight (CSS Fonts Level 4, "Font style
  /// matching"). A variable face gives its instance at that style. Null where the family is empty.
  std::shared_ptr<const Face> find(const FaceStyle& style) const;
  /// The member of that name, spelled in any way, else the face nearest to what the words mean.
  std::shared_ptr<const Face> find(std::string_view style_words) const;
  /// Returns true if the words name a member or a named instance, or are words for a style: "Bold Italic".
  bool understands(std::string_view style_words) const;

 private:
  std::string name_;
  std::vector<Member> members_;
};

/// Sorts faces into families by their names. Families stand in the order in which their first faces came.
GRAFEMA_API std::vector<Family> gather_families(std::span<const std::shared_ptr<const Face>> faces);

}  // namespace grafema
