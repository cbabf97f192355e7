# SPDX-License-Identifier: MIT
# Script mode: turns the bytes of INPUT into the C++ source OUTPUT that defines NAME.
file(READ ${INPUT} hex HEX)
string(LENGTH "${hex}" length)
math(EXPR size "${length} / 2")
string(REGEX REPLACE "([0-9a-f][0-9a-f])" "0x\\1," bytes "${hex}")
string(REPEAT "0x..," 16 row)
string(REGEX REPLACE "(${row})" "\\1\n" bytes "${bytes}")
file(WRITE ${OUTPUT} "// Made from a file by cmake/embed.cmake.
#include <cstddef>
namespace grafema::detail {
extern const unsigned char ${NAME}[];
extern const std::size_t ${NAME}_size;
const unsigned char ${NAME}[] = {
${bytes}};
const std::size_t ${NAME}_size = ${size};
}  // namespace grafema::detail
")
