// SPDX-License-Identifier: MIT
// Variable faces: their axes, named instances and the words for places on an axis (OpenType, fvar, avar,
// STAT).
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
  std::string name;  ///< for people; may be empty
  float min = 0, standard = 0, max = 0;
  bool hidden = false;  ///< the face asks not to offer it to users
};

/// A place that the designer named.
struct NamedInstance {
  std::string name;
  std::vector<AxisValue> coordinates;  ///< one for each axis
};

/// A word for a place or range on one axis, or for a place on several (STAT axis value tables).
struct StyleWord {
  std::string name;
  std::vector<AxisValue> at;  ///< one axis; several in format 4
  float low = 0, high = 0;    ///< the range it stands for, format 2; else both the value
  float linked = 0;           ///< the bold or italic partner's value, format 3
  bool has_link = false;
  bool elidable = false;  ///< left out of names, as "Regular" is
};

/// What STAT says about naming the styles of a family.
struct StyleAttributes {
  std::vector<Axis>
      axes;  ///< in the order in which words are put together; ranges only where fvar has the axis
  std::vector<StyleWord> words;
  std::string elided_fallback;  ///< the name where every word is left out
};

}  // namespace grafema
