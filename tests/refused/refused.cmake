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

# Each public header compiles alone.
file(GLOB_RECURSE headers CONFIGURE_DEPENDS ${PROJECT_SOURCE_DIR}/include/*.hpp)
list(LENGTH headers count)
add_test(NAME "headers: each of ${count} public headers compiles alone"
  COMMAND ${CMAKE_CURRENT_LIST_DIR}/headers_alone ${CMAKE_CXX_COMPILER} ${PROJECT_SOURCE_DIR}/include ${headers})
# The longest by far: it begins first, beside the others.
set_tests_properties("headers: each of ${count} public headers compiles alone" PROPERTIES COST 1000)
