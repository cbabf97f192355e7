# SPDX-License-Identifier: MIT
# Script mode: turns the bytes of INPUT into the C++ source OUTPUT that defines NAME.
file(READ ${INPUT} hex HEX)
string(LENGTH "${hex}" length)
math(EXPR size "${length} / 2")
string(REGEX REPLACE "([0-9a-f][0-9a-f])" "0x\\1," bytes "${hex}")
string(REGEX REPLACE "(0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,0x..,)" "\\1\n" bytes "${bytes}")
file(WRITE ${OUTPUT} "// Made from a file by cmake/embed.cmake.\n#include <cstddef>\nnamespace grafema::detail {\nextern const unsigned char ${NAME}[];\nextern const std::size_t ${NAME}_size;\nconst unsigned char ${NAME}[] = {\n${bytes}};\nconst std::size_t ${NAME}_size = ${size};\n}  // namespace grafema::detail\n")
