# SPDX-License-Identifier: MIT
# Atlases and faces as part of a game's build.

# grafema_give_header(TARGET NAME FOLDER_VARIABLE): TARGET includes <NAME.hpp>, which some command writes into that
# folder.
function(grafema_give_header target name folder_variable)
  set(folder ${CMAKE_CURRENT_BINARY_DIR}/grafema_${name})
  file(MAKE_DIRECTORY ${folder})
  target_sources(${target} PRIVATE ${folder}/${name}.hpp)
  target_include_directories(${target} PRIVATE ${folder})
  set(${folder_variable} ${folder} PARENT_SCOPE)
endfunction()

# grafema_bake(TARGET NAME [FONTS FILE...] [OPTIONS ...]): bakes an atlas when TARGET is built, again whenever a font
# or a text that it is made from changes, and gives TARGET the header <NAME.hpp>, whose NAME::load() is the atlas.
# OPTIONS are those of `grafema bake`.
function(grafema_bake target name)
  cmake_parse_arguments(PARSE_ARGV 2 arg "" "" "FONTS;OPTIONS")
  if(arg_UNPARSED_ARGUMENTS OR arg_KEYWORDS_MISSING_VALUES)
    message(FATAL_ERROR "grafema_bake(${target} ${name}): expected FONTS and OPTIONS with values, found: "
      "${arg_UNPARSED_ARGUMENTS} ${arg_KEYWORDS_MISSING_VALUES}")
  endif()
  if(NOT TARGET grafema::tool)
    message(FATAL_ERROR "grafema_bake needs the grafema command: install it, or set GRAFEMA_BUILD_TOOL")
  endif()
  grafema_give_header(${target} ${name} folder)
  set(fonts "")
  foreach(font IN LISTS arg_FONTS)
    get_filename_component(font "${font}" ABSOLUTE)
    if(NOT EXISTS "${font}")
      message(FATAL_ERROR "grafema_bake(${target} ${name}): there is no font ${font}")
    endif()
    list(APPEND fonts "${font}")
  endforeach()
  add_custom_command(
    OUTPUT ${folder}/${name}.hpp
    BYPRODUCTS ${folder}/${name}.json
    COMMAND grafema::tool bake ${fonts} ${arg_OPTIONS} --quiet -o ${folder}/${name}
      --header ${folder}/${name}.hpp --depfile ${folder}/${name}.d
    DEPENDS ${fonts}
    DEPFILE ${folder}/${name}.d
    WORKING_DIRECTORY ${CMAKE_CURRENT_SOURCE_DIR}
    COMMENT "Baking ${name}"
    VERBATIM)
endfunction()

# grafema_embed_face(TARGET NAME FILE): gives TARGET the header <NAME.hpp>, whose NAME::open() opens the font file,
# which is compiled in.
function(grafema_embed_face target name file)
  get_filename_component(file "${file}" ABSOLUTE)
  if(NOT EXISTS "${file}")
    message(FATAL_ERROR "grafema_embed_face(${target} ${name}): there is no font ${file}")
  endif()
  grafema_give_header(${target} ${name} folder)
  add_custom_command(
    OUTPUT ${folder}/${name}.hpp ${folder}/${name}.cpp
    COMMAND ${CMAKE_COMMAND} "-DINPUT=${file}" -DNAME=${name} -DOUTPUT=${folder}/${name}
      -P ${CMAKE_CURRENT_FUNCTION_LIST_DIR}/embed_face.cmake
    DEPENDS ${CMAKE_CURRENT_FUNCTION_LIST_DIR}/embed_face.cmake
    COMMENT "Embedding ${name}"
    VERBATIM)
  target_sources(${target} PRIVATE ${folder}/${name}.cpp)
  # The assembler reads the font when the source is compiled.
  set_source_files_properties(${folder}/${name}.cpp PROPERTIES OBJECT_DEPENDS "${file}" SKIP_PRECOMPILE_HEADERS ON
    SKIP_UNITY_BUILD_INCLUSION ON)
endfunction()
