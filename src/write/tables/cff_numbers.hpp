// SPDX-License-Identifier: MIT
// Numbers of charstrings and dictionaries (Technical Notes 5176, section 4, and 5177, section 3.2).
#pragma once

#include "write/tables/table_writer.hpp"

namespace grafema::detail {

/// The shortest form of a whole number of at most 16 bits.
inline void write_cff_number(TableWriter& out, int v) {
  if (v >= -107 && v <= 107) {
    out.u8(static_cast<std::uint32_t>(v + 139));
  } else if (v >= 108 && v <= 1131) {
    out.u8(static_cast<std::uint32_t>((v - 108) / 256 + 247)), out.u8(static_cast<std::uint32_t>(v - 108));
  } else if (v >= -1131 && v <= -108) {
    out.u8(static_cast<std::uint32_t>((-v - 108) / 256 + 251)), out.u8(static_cast<std::uint32_t>(-v - 108));
  } else {
    out.u8(28), out.s16(v);
  }
}

/// Always five bytes, so that offsets in dictionaries may be written before they are known.
inline void write_dict_offset(TableWriter& out, std::size_t v) {
  out.u8(29), out.u32(static_cast<std::uint32_t>(v));
}

}  // namespace grafema::detail
