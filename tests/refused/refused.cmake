# SPDX-License-Identifier: MIT
# Wrong uses are refused by the compiler, each for its own fault: the right one, case 0, compiles.
foreach(case RANGE 9)
  add_test(NAME "refused: case ${case} of tests/refused/refused.cpp"
    COMMAND ${CMAKE_CXX_COMPILER} -std=c++20 -fsyntax-only -I${PROJECT_SOURCE_DIR}/include -DCASE=${case}
      ${CMAKE_CURRENT_LIST_DIR}/refused.cpp)
  if(case GREATER 0)
    set_tests_properties("refused: case ${case} of tests/refused/refused.cpp" PROPERTIES
      PASS_REGULAR_EXPRESSION "deleted function|cannot convert|could not convert|private within this context")
  endif()
endforeach()
