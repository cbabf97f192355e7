# SPDX-License-Identifier: MIT
# Script mode: for the font file INPUT writes the header OUTPUT.hpp with NAME::open(), and OUTPUT.cpp, whose
# assembler takes the file in.
file(WRITE ${OUTPUT}.hpp "// Made by grafema_embed_face.
#pragma once

#include <cstddef>
#include <span>

#include <grafema/font/face.hpp>

extern \"C\" const unsigned char grafema_face_${NAME}[], grafema_face_${NAME}_end[];

namespace ${NAME} {

/// The bytes of the font file, in the program's own memory.
inline std::span<const std::byte> file() {
  return std::as_bytes(std::span(grafema_face_${NAME}, grafema_face_${NAME}_end));
}

/// Face `index` of the file.
inline grafema::Result<std::shared_ptr<const grafema::Face>> open(std::size_t index = 0) {
  return grafema::Face::open(grafema::FontData::borrow(file()), index);
}

}  // namespace ${NAME}
")
string(REPLACE "\\" "\\\\" path "${INPUT}")
string(REPLACE "\"" "\\\"" path "${path}")
file(WRITE ${OUTPUT}.cpp "// Made by grafema_embed_face.
__asm__(
    \".pushsection .rodata\\n\"
    \".balign 16\\n\"
    \".global grafema_face_${NAME}\\n\"
    \"grafema_face_${NAME}:\\n\"
    \".incbin \\\"${path}\\\"\\n\"
    \".global grafema_face_${NAME}_end\\n\"
    \"grafema_face_${NAME}_end:\\n\"
    \".byte 0\\n\"
    \".popsection\\n\");
")
