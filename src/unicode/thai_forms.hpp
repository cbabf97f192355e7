// SPDX-License-Identifier: MIT
// Private-use characters by which Thai faces without layout tables have marks and letters in other places.
#pragma once

#include <cstdint>

namespace grafema::detail {

/// What the form is for: a mark closer to its letter, left of its stem, both; a letter without its foot.
enum class ThaiMove : std::uint8_t { down, left, down_left, no_foot };

struct ThaiForm {
  char32_t character = 0, form = 0;
  ThaiMove move{};
};

inline constexpr ThaiForm kThaiForms[] = {
    {0x0E48, 0xF70A, ThaiMove::down},      {0x0E49, 0xF70B, ThaiMove::down},
    {0x0E4A, 0xF70C, ThaiMove::down},      {0x0E4B, 0xF70D, ThaiMove::down},
    {0x0E4C, 0xF70E, ThaiMove::down},      {0x0E38, 0xF718, ThaiMove::down},
    {0x0E39, 0xF719, ThaiMove::down},      {0x0E3A, 0xF71A, ThaiMove::down},
    {0x0E48, 0xF705, ThaiMove::down_left}, {0x0E49, 0xF706, ThaiMove::down_left},
    {0x0E4A, 0xF707, ThaiMove::down_left}, {0x0E4B, 0xF708, ThaiMove::down_left},
    {0x0E4C, 0xF709, ThaiMove::down_left}, {0x0E48, 0xF713, ThaiMove::left},
    {0x0E49, 0xF714, ThaiMove::left},      {0x0E4A, 0xF715, ThaiMove::left},
    {0x0E4B, 0xF716, ThaiMove::left},      {0x0E4C, 0xF717, ThaiMove::left},
    {0x0E31, 0xF710, ThaiMove::left},      {0x0E34, 0xF701, ThaiMove::left},
    {0x0E35, 0xF702, ThaiMove::left},      {0x0E36, 0xF703, ThaiMove::left},
    {0x0E37, 0xF704, ThaiMove::left},      {0x0E47, 0xF712, ThaiMove::left},
    {0x0E4D, 0xF711, ThaiMove::left},      {0x0E0D, 0xF70F, ThaiMove::no_foot},
    {0x0E10, 0xF700, ThaiMove::no_foot},
};

}  // namespace grafema::detail
