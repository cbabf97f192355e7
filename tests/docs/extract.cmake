# SPDX-License-Identifier: MIT
# Takes the C++ out of the README and the pages of docs/, so that the tests build it as it stands there.

# grafema_extract_code(PAGE FOLDER FILES): writes every block of C++ of the page into FOLDER as NAME-1.cpp, NAME-2.cpp ... and
# lists them in FILES. A block with `int main` is a program as it stands; any other is put into the `main` of a file that
# includes all of the library.
function(grafema_extract_code page folder files)
  set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS ${page})
  get_filename_component(name ${page} NAME_WE)
  file(READ ${page} text)
  # What CMake's lists would take apart stands aside meanwhile.
  string(ASCII 1 semicolon)
  string(ASCII 2 open)
  string(ASCII 3 close)
  string(REPLACE ";" "${semicolon}" text "${text}")
  string(REPLACE "[" "${open}" text "${text}")
  string(REPLACE "]" "${close}" text "${text}")
  string(REGEX MATCHALL "```cpp\n([^`]|`[^`])*```" blocks "${text}")
  set(number 0)
  set(written "")
  foreach(block IN LISTS blocks)
    math(EXPR number "${number} + 1")
    string(REGEX REPLACE "^```cpp\n" "" block "${block}")
    string(REGEX REPLACE "```$" "" block "${block}")
    string(REPLACE "${semicolon}" ";" block "${block}")
    string(REPLACE "${open}" "[" block "${block}")
    string(REPLACE "${close}" "]" block "${block}")
    set(head "// SPDX-License-Identifier: MIT\n// Block ${number} of ${name}.\n")
    if(NOT block MATCHES "int main\\(")
      set(block "#include <cstdio>\n#include <string>\n#include <grafema/grafema.hpp>\nusing namespace grafema;\nint main() {\n${block}  return 0;\n}\n")
    endif()
    file(CONFIGURE OUTPUT ${folder}/${name}-${number}.cpp CONTENT "@head@@block@" @ONLY)
    list(APPEND written ${folder}/${name}-${number}.cpp)
  endforeach()
  set(${files} ${written} PARENT_SCOPE)
endfunction()
