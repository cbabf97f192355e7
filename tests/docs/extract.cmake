# SPDX-License-Identifier: MIT
# Takes the C++ out of the README and the pages of docs/, so that the tests build it as it stands there.

# grafema_extract_code(PAGE FOLDER FILES): writes every block of C++ of the page into FOLDER as NAME-1.cpp,
# NAME-2.cpp ... and lists them in FILES. A block with `int main` is a program as it stands; any other is put into
# the `main` of a file that includes all of the library.
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
      string(PREPEND block "#include <cstdio>\n#include <iostream>\n#include <string>\n"
        "#include <grafema/grafema.hpp>\n"
        "using namespace grafema;\nint main() {\n")
      string(APPEND block "  return 0;\n}\n")
    endif()
    file(CONFIGURE OUTPUT ${folder}/${name}-${number}.cpp CONTENT "@head@@block@" @ONLY)
    list(APPEND written ${folder}/${name}-${number}.cpp)
  endforeach()
  set(${files} ${written} PARENT_SCOPE)
endfunction()

# Builds every block of C++ of README.md and docs/ under a user's strict warnings, all in one program, where each has a
# namespace of its own, and runs each as a test.
function(grafema_test_documentation)
  file(GLOB pages CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/docs/*.md ${PROJECT_SOURCE_DIR}/docs/formats/*.md)
  set(folder ${CMAKE_CURRENT_BINARY_DIR}/docs)
  set(includes "#include <string_view>\n")
  set(blocks "")
  set(calls "")
  foreach(page IN LISTS pages ITEMS ${PROJECT_SOURCE_DIR}/README.md)
    grafema_extract_code(${page} ${folder} programs)
    foreach(program IN LISTS programs)
      get_filename_component(name ${program} NAME_WE)
      string(MAKE_C_IDENTIFIER ${name} space)
      file(STRINGS ${program} lines REGEX "^#include")
      list(JOIN lines "\n" lines)
      # Read before all namespaces: inside one they then add nothing.
      string(APPEND includes "${lines}\n")
      string(APPEND blocks "namespace ${space} {\n#include \"${program}\"\n}\n")
      string(APPEND calls "  if (name == \"${name}\") return ${space}::main();\n")
      add_test(NAME "docs: ${name} runs" COMMAND documentation ${name} WORKING_DIRECTORY ${folder})
    endforeach()
  endforeach()
  file(CONFIGURE OUTPUT ${folder}/documentation.cpp @ONLY CONTENT "@includes@@blocks@int main(int, char** arguments) {
  const std::string_view name = arguments[1];
@calls@  return 2;
}
")
  add_executable(documentation ${folder}/documentation.cpp)
  target_link_libraries(documentation PRIVATE grafema::grafema)
  target_compile_options(documentation PRIVATE -Wall -Wextra -Werror)
endfunction()
