# SPDX-License-Identifier: MIT
# Script mode: turns the font file INPUT into the header OUTPUT with NAME::open().
file(READ ${INPUT} hex HEX)
string(REGEX REPLACE "([0-9a-f][0-9a-f])" "0x\\1," bytes "${hex}")
string(REGEX REPLACE "(0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,)" "\\1\n" bytes "${bytes}")
file(WRITE ${OUTPUT} "// Made by grafema_embed_face.\n#pragma once\n\n#include <cstddef>\n#include <span>\n\n#include <grafema/font/face.hpp>\n\nnamespace ${NAME} {\n\ninline constexpr unsigned char file[] = {\n${bytes}};\n\n/// Face `index` of the file, which stays in the program's own memory.\ninline grafema::Result<std::shared_ptr<const grafema::Face>> open(std::size_t index = 0) {\n  return grafema::Face::open(grafema::FontData::borrow(std::as_bytes(std::span(file))), index);\n}\n\n}  // namespace ${NAME}\n")
