// SPDX-License-Identifier: MIT
// The face that is compiled into the library.
#include "grafema/font/face.hpp"

namespace grafema {
namespace detail {

// Defined by the source that the build makes from data/faces/quillmere_dot.ttf.
extern const unsigned char built_in_font_bytes[];
extern const std::size_t built_in_font_bytes_size;

}  // namespace detail

FontData built_in_font() {
  return FontData::borrow(
      std::as_bytes(std::span(detail::built_in_font_bytes, detail::built_in_font_bytes_size)));
}

std::shared_ptr<const Face> built_in_face() { return *Face::open(built_in_font()); }

std::shared_ptr<const Face> or_built_in(const Result<std::shared_ptr<const Face>>& face, Notes* notes) {
  if (face) return *face;
  if (notes != nullptr) notes->add({.kind = NoteKind::built_in_face});
  return built_in_face();
}

}  // namespace grafema
