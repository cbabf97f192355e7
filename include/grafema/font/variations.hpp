// SPDX-License-Identifier: MIT
// Variable faces: axes, named instances, words for places on an axis (OpenType, fvar, avar, STAT).
#pragma once

#include <cstdint>
#include <string>
#include <vector>

#include "grafema/base/error.hpp"

namespace grafema {

/// A place on an axis, in the axis's own units (`wght` 650).
struct AxisValue {
  Tag axis{};
  float value = 0;
  bool operator==(const AxisValue&) const = default;
};

/// One axis of a variable face.
struct Axis {
  Tag tag{};
  std::string name = {};  ///< for people; may be empty
  float min = 0, standard = 0, max = 0;
  bool hidden = false;  ///< the face asks not to offer it to users
};

/// A place that the designer named.
struct NamedInstance {
  std::string name = {};
  std::vector<AxisValue> coordinates = {};  ///< one for each axis
};

/// A word for a place or range on one axis, or for a place on several (STAT axis value tables).
struct StyleWord {
  std::string name = {};
  std::vector<AxisValue> at = {};  ///< one axis; several in format 4
  float low = 0,
        high = 0;  ///< the range that the word stands for (format 2); both the value itself in other formats
  float linked = 0;  ///< the value of the bold or italic partner (format 3)
  bool has_link = false;
  bool elidable =
      false;  ///< whether the word is left out where names of styles are put together, as "Regular" is
};

/// What STAT says about naming the styles of a family.
struct StyleAttributes {
  std::vector<Axis> axes = {};  ///< in the order in which words are put together; `min` and `max` are set
                                ///< where fvar has the axis
  std::vector<StyleWord> words = {};
  std::string elided_fallback = {};  ///< the name of the style whose words are all left out
};

}  // namespace grafema
