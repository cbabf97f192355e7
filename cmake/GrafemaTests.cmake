# SPDX-License-Identifier: MIT
# How test programs are built and run.

# grafema_test_flags(target...): tests compare numbers of all kinds, and are compiled in units.
function(grafema_test_flags)
  grafema_flags(${ARGN})
  grafema_units(${ARGN})
  foreach(target IN LISTS ARGN)
    target_compile_options(${target} PRIVATE -Wno-conversion)
    if(GRAFEMA_SANITIZE)
      target_compile_definitions(${target} PRIVATE GRAFEMA_SANITIZED)
    endif()
  endforeach()
endfunction()

# grafema_test(name SOURCES source... [LINK libraries...]): a test program whose cases ctest runs one by one.
function(grafema_test name)
  cmake_parse_arguments(PARSE_ARGV 1 arg "" "" "LINK;SOURCES")
  add_executable(${name} ${arg_SOURCES})
  target_link_libraries(${name} PRIVATE grafema_test_support ${arg_LINK})
  grafema_test_flags(${name})
  if(NOT GRAFEMA_SANITIZE)  # under sanitizers tests run long enough to be worth optimizing
    grafema_optimize(0 ${name})
  endif()
  grafema_group(${name} ${CMAKE_CURRENT_SOURCE_DIR} ${arg_SOURCES})
  # Headers that most tests read are read once for all of them.
  if(GRAFEMA_UNITS AND name STREQUAL library_tests)
    target_precompile_headers(${name} PRIVATE <algorithm> <array> <catch2/catch.hpp> <cmath> <filesystem>
      <fmt/format.h> <fstream> <functional> <grafema/grafema.hpp> <map> <memory> <optional> <random> <regex> <set>
      <span> <sstream> <string> <thread> <variant> <vector>)
  endif()
  # The leak checker trips over threads that the OpenGL driver has ended: under sanitizers it draws on ours. Pictures
  # are the same.
  set(environment "")
  if(GRAFEMA_SANITIZE)
    set(environment ENVIRONMENT LP_NUM_THREADS=0)
  endif()
  catch_discover_tests(${name} TEST_PREFIX "${name}: " PROPERTIES TIMEOUT 900 ${environment})
endfunction()
