# SPDX-License-Identifier: MIT
# How each part of the library is built, how files are embedded, and what is installed.

set(GRAFEMA_EXCEPTIONS_OFF -fno-exceptions)

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
  # g++ 12 sees overlaps and ends in std::string and std::vector that cannot be (GCC bugs 105329, 105562); clang keeps watch.
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
    target_compile_options(${target} PRIVATE -fsanitize=${GRAFEMA_SANITIZE} -fno-sanitize-recover=all -fno-omit-frame-pointer)
    target_link_options(${target} PUBLIC -fsanitize=${GRAFEMA_SANITIZE})
  endif()
  if(GRAFEMA_BUILD_FUZZ)  # the fuzzer sees which branches of the library an input takes
    target_compile_options(${target} PRIVATE -fsanitize=fuzzer-no-link)
  endif()
endfunction()

# Headers that are slow to read and never change, read once for a group of targets with like flags. No header of our own
# is among them: each must be included where it is used, and a change to one must not rebuild everything.
set(GRAFEMA_STANDARD_HEADERS <algorithm> <array> <cmath> <cstddef> <cstdint> <cstring> <functional> <limits> <map> <memory>
  <optional> <span> <string> <string_view> <tuple> <utility> <variant> <vector> <tl/expected.hpp>)

# grafema_precompile(target HEADERS header... | FROM other)
function(grafema_precompile target)
  cmake_parse_arguments(PARSE_ARGV 1 arg "" "FROM" "HEADERS")
  if(NOT GRAFEMA_PRECOMPILE OR BUILD_SHARED_LIBS)  # each shared library has a definition of its own
    return()
  endif()
  if(arg_FROM)
    target_precompile_headers(${target} REUSE_FROM ${arg_FROM})
  else()
    target_precompile_headers(${target} PRIVATE ${GRAFEMA_STANDARD_HEADERS} ${arg_HEADERS})
  endif()
endfunction()

# For what runs once, reads files or tests: to be compiled quickly counts for more than to run quickly.
function(grafema_compile_quickly)
  foreach(target IN LISTS ARGN)
    target_compile_options(${target} PRIVATE $<$<CONFIG:Release,RelWithDebInfo>:-O1>)
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

# grafema_library(name PUBLIC_HEADERS ... SOURCES ... LINK_PUBLIC ... LINK_PRIVATE ... [EXCEPTIONS])
function(grafema_library name)
  cmake_parse_arguments(PARSE_ARGV 1 arg "EXCEPTIONS" "" "PUBLIC_HEADERS;SOURCES;LINK_PUBLIC;LINK_PRIVATE")
  set(target grafema_${name})
  list(TRANSFORM arg_SOURCES PREPEND ${CMAKE_CURRENT_SOURCE_DIR}/src/)
  list(TRANSFORM arg_PUBLIC_HEADERS PREPEND ${CMAKE_CURRENT_SOURCE_DIR}/include/grafema/)
  add_library(${target} ${arg_SOURCES})
  add_library(grafema::${name} ALIAS ${target})
  target_sources(${target} PUBLIC FILE_SET HEADERS BASE_DIRS ${CMAKE_CURRENT_SOURCE_DIR}/include FILES ${arg_PUBLIC_HEADERS})
  target_include_directories(${target} PRIVATE ${CMAKE_CURRENT_SOURCE_DIR}/src)
  target_link_libraries(${target} PUBLIC ${arg_LINK_PUBLIC} PRIVATE ${arg_LINK_PRIVATE})
  set_target_properties(${target} PROPERTIES EXPORT_NAME ${name} VERIFY_INTERFACE_HEADER_SETS ON
    VERSION ${PROJECT_VERSION} SOVERSION ${PROJECT_VERSION_MAJOR})
  if(NOT arg_EXCEPTIONS)
    target_compile_options(${target} PRIVATE ${GRAFEMA_EXCEPTIONS_OFF})
  endif()
  grafema_flags(${target})
endfunction()

# grafema_embed(FILE NAME SOURCE): writes a C++ source that defines `const unsigned char grafema::detail::NAME[]` and
# its size NAME_size from the bytes of FILE.
function(grafema_embed file name source)
  add_custom_command(
    OUTPUT ${CMAKE_CURRENT_BINARY_DIR}/${source}
    COMMAND ${CMAKE_COMMAND} -DINPUT=${file} -DNAME=${name} -DOUTPUT=${CMAKE_CURRENT_BINARY_DIR}/${source}
      -P ${PROJECT_SOURCE_DIR}/cmake/embed.cmake
    DEPENDS ${file} ${PROJECT_SOURCE_DIR}/cmake/embed.cmake
    VERBATIM)
endfunction()

# grafema_package(name REQUIRES module... PRIVATE module...): writes grafema-<name>.pc for pkg-config.
function(grafema_package name)
  cmake_parse_arguments(PARSE_ARGV 1 arg "" "" "REQUIRES;PRIVATE")
  string(REPLACE ";" ", " requires "${arg_REQUIRES}")
  string(REPLACE ";" ", " private "${arg_PRIVATE}")
  set(file ${CMAKE_CURRENT_BINARY_DIR}/grafema-${name}.pc)
  file(RELATIVE_PATH up /${CMAKE_INSTALL_LIBDIR}/pkgconfig /)
  file(WRITE ${file} "prefix=\${pcfiledir}/${up}
libdir=\${prefix}/${CMAKE_INSTALL_LIBDIR}
includedir=\${prefix}/${CMAKE_INSTALL_INCLUDEDIR}

Name: grafema-${name}
Description: ${PROJECT_DESCRIPTION}: ${name}
Version: ${PROJECT_VERSION}
Requires: ${requires}
Requires.private: ${private}
Libs: -L\${libdir} -lgrafema_${name}
Libs.private: -pthread -ldl
Cflags: -I\${includedir}
")
  install(FILES ${file} DESTINATION ${CMAKE_INSTALL_LIBDIR}/pkgconfig)
endfunction()

# grafema_install(name...): installs the parts, each with its targets in a file of its own, so that a user's find_package needs
# only what the parts that he names need.
function(grafema_install)
  set(destination ${CMAKE_INSTALL_LIBDIR}/cmake/grafema)
  foreach(name IN LISTS ARGN)
    install(TARGETS grafema_${name} EXPORT grafema-${name}-targets FILE_SET HEADERS)
    install(EXPORT grafema-${name}-targets NAMESPACE grafema:: DESTINATION ${destination})
  endforeach()
  if(TARGET grafema_tool)
    install(EXPORT grafema-tool-targets NAMESPACE grafema:: DESTINATION ${destination})
  endif()
  set(GRAFEMA_INSTALLED_PARTS "${ARGN}")
  configure_package_config_file(${CMAKE_CURRENT_SOURCE_DIR}/cmake/grafemaConfig.cmake.in
    ${CMAKE_CURRENT_BINARY_DIR}/grafemaConfig.cmake INSTALL_DESTINATION ${destination})
  write_basic_package_version_file(${CMAKE_CURRENT_BINARY_DIR}/grafemaConfigVersion.cmake COMPATIBILITY SameMinorVersion)
  install(FILES ${CMAKE_CURRENT_SOURCE_DIR}/cmake/GrafemaBake.cmake ${CMAKE_CURRENT_SOURCE_DIR}/cmake/embed_face.cmake
    ${CMAKE_CURRENT_BINARY_DIR}/grafemaConfig.cmake ${CMAKE_CURRENT_BINARY_DIR}/grafemaConfigVersion.cmake
    DESTINATION ${destination})
endfunction()
