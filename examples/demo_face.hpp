// SPDX-License-Identifier: MIT
// The sans of the examples, where the system has it.
#pragma once

#include "grafema/files/files.hpp"

/// DejaVu Sans; the built-in face where it is not installed.
inline std::shared_ptr<const grafema::Face> demo_face(bool bold = false) {
  const char* path = bold ? "/usr/share/fonts/truetype/dejavu/DejaVuSans-Bold.ttf"
                          : "/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf";
  auto face = grafema::open_face(path);
  return face ? *face : grafema::built_in_face();
}
