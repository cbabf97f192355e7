# SPDX-License-Identifier: MIT
# What is installed: parts of the library, what finds them, and the command.
include(GNUInstallDirs)
include(CMakePackageConfigHelpers)

# Installs the parts that are built, each with its targets in a file of its own, so that a user's find_package needs
# only what the parts that it names need.
function(grafema_install)
  set(destination ${CMAKE_INSTALL_LIBDIR}/cmake/grafema)
  get_property(parts GLOBAL PROPERTY GRAFEMA_PARTS)
  foreach(part IN LISTS parts)
    install(TARGETS grafema_${part} EXPORT grafema-${part}-targets FILE_SET HEADERS)
    install(EXPORT grafema-${part}-targets NAMESPACE grafema:: DESTINATION ${destination})
    grafema_package(${part})
  endforeach()
  if(TARGET grafema_tool)
    install(TARGETS grafema_tool EXPORT grafema-tool-targets)
    install(EXPORT grafema-tool-targets NAMESPACE grafema:: DESTINATION ${destination})
  endif()
  set(GRAFEMA_INSTALLED_PARTS "${parts}")
  configure_package_config_file(${PROJECT_SOURCE_DIR}/cmake/grafemaConfig.cmake.in
    ${PROJECT_BINARY_DIR}/grafemaConfig.cmake INSTALL_DESTINATION ${destination})
  write_basic_package_version_file(${PROJECT_BINARY_DIR}/grafemaConfigVersion.cmake COMPATIBILITY SameMinorVersion)
  install(FILES ${PROJECT_SOURCE_DIR}/cmake/GrafemaBake.cmake ${PROJECT_SOURCE_DIR}/cmake/embed_face.cmake
    ${PROJECT_BINARY_DIR}/grafemaConfig.cmake ${PROJECT_BINARY_DIR}/grafemaConfigVersion.cmake
    DESTINATION ${destination})
endfunction()

# grafema_package(part): writes grafema-<part>.pc for pkg-config, which requires the parts below it.
function(grafema_package part)
  get_target_property(below grafema_${part} LINK_LIBRARIES)
  list(FILTER below INCLUDE REGEX "^grafema::")
  list(TRANSFORM below REPLACE "grafema::" "grafema-")
  list(JOIN below ", " requires)
  get_target_property(packages grafema_${part} GRAFEMA_PACKAGES)
  list(JOIN packages ", " private)
  get_target_property(libraries grafema_${part} GRAFEMA_LIBRARIES)
  list(TRANSFORM libraries PREPEND " -l")
  list(JOIN libraries "" libraries)
  set(file ${PROJECT_BINARY_DIR}/grafema-${part}.pc)
  file(RELATIVE_PATH up /${CMAKE_INSTALL_LIBDIR}/pkgconfig /)
  file(WRITE ${file} "prefix=\${pcfiledir}/${up}
libdir=\${prefix}/${CMAKE_INSTALL_LIBDIR}
includedir=\${prefix}/${CMAKE_INSTALL_INCLUDEDIR}

Name: grafema-${part}
Description: ${PROJECT_DESCRIPTION}: ${part}
Version: ${PROJECT_VERSION}
Requires: ${requires}
Requires.private: ${private}
Libs: -L\${libdir} -lgrafema_${part}
Libs.private: -pthread -ldl${libraries}
Cflags: -I\${includedir}
")
  install(FILES ${file} DESTINATION ${CMAKE_INSTALL_LIBDIR}/pkgconfig)
endfunction()
