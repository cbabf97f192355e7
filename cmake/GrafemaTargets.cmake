# SPDX-License-Identifier: MIT
# How each part of the library is built, how files are embedded, and what is installed.

# Flags that every target of this project has; none of them reaches a user's targets.
function(grafema_flags target)
  target_compile_features(${target} PUBLIC cxx_std_20)
  set_target_properties(${target} PROPERTIES CXX_EXTENSIONS OFF POSITION_INDEPENDENT_CODE ON)
  # Tests look inside: for them everything is visible.
  if(NOT (BUILD_SHARED_LIBS AND GRAFEMA_BUILD_TESTS))
    set_target_properties(${target} PROPERTIES CXX_VISIBILITY_PRESET hidden VISIBILITY_INLINES_HIDDEN ON)
  endif()
  # No fused multiply-add: stored results are the same bits on every machine.
  target_compile_options(${target} PRIVATE -ffp-contract=off -Wall -Wextra -Wpedantic -Wconversion -Wshadow
    -Wnon-virtual-dtor -Wold-style-cast -Wno-missing-field-initializers
    $<$<CXX_COMPILER_ID:Clang>:-Wno-sign-conversion>)  # part of -Wconversion there, not with g++
  # g++ 12 sees overlaps and ends in std::string and std::vector that cannot be (GCC bugs 105329, 105562); clang keeps
  # watch.
  if(CMAKE_CXX_COMPILER_ID STREQUAL "GNU" AND CMAKE_CXX_COMPILER_VERSION VERSION_LESS 13)
    target_compile_options(${target} PRIVATE -Wno-restrict -Wno-array-bounds -Wno-stringop-overflow)
  endif()
  if(GRAFEMA_WARNINGS_AS_ERRORS)
    target_compile_options(${target} PRIVATE -Werror)
  endif()
  if(GRAFEMA_ASSERTIONS)
    target_compile_options(${target} PRIVATE -UNDEBUG)
  endif()
  if(GRAFEMA_X86_64_V2 AND CMAKE_SYSTEM_PROCESSOR MATCHES "x86_64|AMD64")
    target_compile_options(${target} PRIVATE -march=x86-64-v2)
  endif()
  if(GRAFEMA_SANITIZE)
    target_compile_options(${target} PRIVATE -fsanitize=${GRAFEMA_SANITIZE} -fno-sanitize-recover=all
      -fno-omit-frame-pointer)
    target_link_options(${target} PUBLIC -fsanitize=${GRAFEMA_SANITIZE})
  endif()
endfunction()

# The fuzzer sees which branches of the library an input takes.
function(grafema_fuzzed target)
  if(GRAFEMA_BUILD_FUZZ)
    target_compile_options(${target} PRIVATE -fsanitize=fuzzer-no-link)
  endif()
endfunction()

# grafema_optimize(LEVEL target...): for what runs once, reads files or tests. To be compiled quickly counts for more
# than to run quickly. With GRAFEMA_QUICK it is optimized by one level less.
function(grafema_optimize level)
  if(GRAFEMA_QUICK AND level GREATER 0)
    math(EXPR level "${level} - 1")
  endif()
  foreach(target IN LISTS ARGN)
    target_compile_options(${target} PRIVATE $<$<CONFIG:Release,RelWithDebInfo>:-O${level}>)
  endforeach()
endfunction()

# Programs that load an OpenGL driver keep it loaded where leaks are looked for.
function(grafema_uses_driver)
  if(GRAFEMA_SANITIZE)
    foreach(target IN LISTS ARGN)
      target_sources(${target} PRIVATE ${PROJECT_SOURCE_DIR}/cmake/keep_libraries.cpp)
    endforeach()
  endif()
endfunction()

# grafema_library(part LINK_PUBLIC target... LINK_PRIVATE target... PACKAGES name... [LIBRARIES name...] [EXCEPTIONS]):
# a part of the library, whose sources come from grafema_sources. PACKAGES: what pkg-config calls the libraries that it
# needs. LIBRARIES: those that pkg-config does not know.
function(grafema_library part)
  cmake_parse_arguments(PARSE_ARGV 1 arg "EXCEPTIONS" "" "LINK_PUBLIC;LINK_PRIVATE;PACKAGES;LIBRARIES")
  set(target grafema_${part})
  add_library(${target})
  add_library(grafema::${part} ALIAS ${target})
  target_sources(${target} PUBLIC FILE_SET HEADERS BASE_DIRS ${PROJECT_SOURCE_DIR}/include)
  target_include_directories(${target} PRIVATE ${PROJECT_SOURCE_DIR}/src)
  target_link_libraries(${target} PUBLIC ${arg_LINK_PUBLIC} PRIVATE ${arg_LINK_PRIVATE})
  set_target_properties(${target} PROPERTIES EXPORT_NAME ${part} GRAFEMA_PACKAGES "${arg_PACKAGES}"
    GRAFEMA_LIBRARIES "${arg_LIBRARIES}"
    VERSION ${PROJECT_VERSION} SOVERSION ${PROJECT_VERSION_MAJOR})
  if(NOT arg_EXCEPTIONS)
    target_compile_options(${target} PRIVATE -fno-exceptions)
  endif()
  grafema_flags(${target})
  grafema_fuzzed(${target})
  grafema_units(${target})
  grafema_precompile(${target})
  set_property(GLOBAL APPEND PROPERTY GRAFEMA_PARTS ${part})
endfunction()

# grafema_sources(part [PUBLIC_HEADERS header...] [SOURCES source...]): what the caller's folder gives to a part;
# nothing where that part is not built. Public headers stand in the folder of the same name below include/grafema. A
# dozen sources of a module are compiled at once.
function(grafema_sources part)
  cmake_parse_arguments(PARSE_ARGV 1 arg "" "" "PUBLIC_HEADERS;SOURCES")
  set(target grafema_${part})
  if(arg_UNPARSED_ARGUMENTS)
    message(FATAL_ERROR "grafema_sources: ${arg_UNPARSED_ARGUMENTS} are neither PUBLIC_HEADERS nor SOURCES")
  elseif(NOT TARGET ${target})
    return()
  endif()
  file(RELATIVE_PATH folder ${PROJECT_SOURCE_DIR}/src ${CMAKE_CURRENT_SOURCE_DIR})
  list(TRANSFORM arg_PUBLIC_HEADERS PREPEND ${PROJECT_SOURCE_DIR}/include/grafema/${folder}/)
  list(TRANSFORM arg_SOURCES PREPEND ${CMAKE_CURRENT_SOURCE_DIR}/)
  target_sources(${target} PUBLIC FILE_SET HEADERS FILES ${arg_PUBLIC_HEADERS} PRIVATE ${arg_SOURCES})
  grafema_group(${target} ${PROJECT_SOURCE_DIR}/src ${arg_SOURCES})
endfunction()

# grafema_units(target...): sources are compiled in units, which read their headers once. g++ takes a class that one
# source defines for one of a header where sources stand together.
function(grafema_units)
  if(GRAFEMA_UNITS)
    set_target_properties(${ARGN} PROPERTIES UNITY_BUILD ON UNITY_BUILD_MODE GROUP)
    foreach(target IN LISTS ARGN)
      target_compile_options(${target} PRIVATE $<$<CXX_COMPILER_ID:GNU>:-Wno-subobject-linkage>)
    endforeach()
  endif()
endfunction()

# grafema_group(target TOP source...): the units of a target: up to two dozen sources of one folder directly below TOP.
function(grafema_group target top)
  foreach(source IN LISTS ARGN)
    cmake_path(ABSOLUTE_PATH source)
    file(RELATIVE_PATH name ${top} ${source})
    string(REGEX REPLACE "/.*" "" folder ${name})
    get_property(before GLOBAL PROPERTY GRAFEMA_UNITS_${target}_${folder})
    set_property(GLOBAL APPEND PROPERTY GRAFEMA_UNITS_${target}_${folder} ${source})
    list(LENGTH before count)
    math(EXPR unit "${count} / 24")
    set_source_files_properties(${source} TARGET_DIRECTORY ${target} PROPERTIES UNITY_GROUP ${folder}_${unit})
  endforeach()
endfunction()

# grafema_precompile(target): standard headers that most sources read are read once for all parts with like flags.
function(grafema_precompile target)
  get_target_property(options ${target} COMPILE_OPTIONS)
  if(NOT GRAFEMA_UNITS OR BUILD_SHARED_LIBS OR NOT "-fno-exceptions" IN_LIST options OR target STREQUAL grafema_window)
    return()
  elseif(target STREQUAL grafema_core)
    target_precompile_headers(${target} PRIVATE <algorithm> <array> <cmath> <cstdint> <cstring> <functional> <map>
      <memory> <optional> <span> <string> <string_view> <variant> <vector> <tl/expected.hpp> <fmt/format.h>)
  else()
    target_precompile_headers(${target} REUSE_FROM grafema_core)
  endif()
endfunction()

# Stops where a source of a folder is built by no target, as one is that no list names.
function(grafema_check_sources)
  set(folders src)
  foreach(folder IN ITEMS tools examples bench tests fuzz)
    string(TOUPPER ${folder} option)
    string(REPLACE TOOLS TOOL option ${option})
    # Tests that count memory are not built under sanitizers.
    if(GRAFEMA_BUILD_${option} AND NOT (folder STREQUAL tests AND GRAFEMA_SANITIZE))
      list(APPEND folders ${folder})
    endif()
  endforeach()
  if(GRAFEMA_CORE_ONLY OR NOT GRAFEMA_WINDOW)
    return()
  endif()
  grafema_built_sources(${PROJECT_SOURCE_DIR} built)
  foreach(folder IN LISTS folders)
    file(GLOB_RECURSE sources CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/${folder}/*.cpp)
    list(REMOVE_ITEM sources ${built})
    list(FILTER sources EXCLUDE REGEX "/tests/(package|refused)/|/make_seeds")  # built by tests alone
    list(APPEND stray ${sources})
  endforeach()
  file(GLOB_RECURSE headers CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/include/*.hpp)
  list(REMOVE_ITEM headers ${built})
  list(APPEND stray ${headers})
  if(stray)
    list(JOIN stray "\n  " stray)
    message(FATAL_ERROR "No CMakeLists.txt names these sources:\n  ${stray}")
  endif()
endfunction()

# grafema_built_sources(folder RESULT): the sources of all targets of a folder and those below it, and their public
# headers.
function(grafema_built_sources folder result)
  get_property(targets DIRECTORY ${folder} PROPERTY BUILDSYSTEM_TARGETS)
  get_property(below DIRECTORY ${folder} PROPERTY SUBDIRECTORIES)
  set(all "")
  foreach(target IN LISTS targets)
    get_target_property(sources ${target} SOURCES)
    get_target_property(headers ${target} HEADER_SET)
    get_target_property(home ${target} SOURCE_DIR)
    foreach(source IN LISTS sources headers)
      cmake_path(ABSOLUTE_PATH source BASE_DIRECTORY ${home} NORMALIZE)
      list(APPEND all ${source})
    endforeach()
  endforeach()
  foreach(next IN LISTS below)
    grafema_built_sources(${next} more)
    list(APPEND all ${more})
  endforeach()
  set(${result} ${all} PARENT_SCOPE)
endfunction()

# grafema_embed(target NAME FILE): gives the target a source that defines `const unsigned char
# grafema::detail::NAME[]` and its size NAME_size from the bytes of FILE.
function(grafema_embed target name file)
  set(source ${CMAKE_CURRENT_BINARY_DIR}/${name}.cpp)
  add_custom_command(
    OUTPUT ${source}
    COMMAND ${CMAKE_COMMAND} -DINPUT=${file} -DNAME=${name} -DOUTPUT=${source}
      -P ${PROJECT_SOURCE_DIR}/cmake/embed.cmake
    DEPENDS ${file} ${PROJECT_SOURCE_DIR}/cmake/embed.cmake
    VERBATIM)
  target_sources(${target} PRIVATE ${source})
  set_source_files_properties(${source} PROPERTIES SKIP_UNITY_BUILD_INCLUSION ON)
endfunction()
