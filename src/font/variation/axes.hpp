// SPDX-License-Identifier: MIT
// Axes of a variable face, and their values as normalized coordinates (OpenType, fvar, avar, STAT).
#pragma once

#include <vector>

#include "font/container/sfnt.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/font/variations.hpp"

namespace grafema::detail {

/// Empty where the face is not variable or its fvar is damaged.
std::vector<Axis> read_axes(const Directory& directory);
std::vector<NamedInstance> read_instances(const Directory& directory);
StyleAttributes read_style_attributes(const Directory& directory);

/// From -1 to 1 for each axis: values clamped with a note, the rest at their standard, bent by avar. Values
/// of axes that the face does not have are noted. Empty where every axis is at its standard.
std::vector<float> normalize(const TableView& avar, const std::vector<Axis>& axes,
                             std::span<const AxisValue> values, Notes* notes);

/// What a variation region weighs at one axis (OpenType, chapter 7, "Algorithm for interpolation of instance
/// values").
float axis_weight(float start, float peak, float end, float coordinate);

/// A signed number with 14 or 16 bits of fraction.
inline float f2dot14(const TableView& table, std::size_t at) {
  return static_cast<float>(table.s16(at)) / 16384.0F;
}
inline float fixed(const TableView& table, std::size_t at) {
  return static_cast<float>(static_cast<double>(static_cast<std::int32_t>(table.u32(at))) / 65536.0);
}

}  // namespace grafema::detail
