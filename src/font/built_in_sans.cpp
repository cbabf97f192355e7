// SPDX-License-Identifier: MIT
// The second face that is compiled in. It stands by itself, so that linkers leave it out where nobody asks.
#include "grafema/font/face.hpp"

namespace grafema {
namespace detail {

// Defined by the source that the build makes from data/faces/quillmere_sans_latin.ttf.
extern const unsigned char built_in_sans_bytes[];
extern const std::size_t built_in_sans_bytes_size;

}  // namespace detail

FontData built_in_sans_font() {
  return FontData::borrow(
      std::as_bytes(std::span(detail::built_in_sans_bytes, detail::built_in_sans_bytes_size)));
}

std::shared_ptr<const Face> built_in_sans_face() { return *Face::open(built_in_sans_font()); }

}  // namespace grafema
