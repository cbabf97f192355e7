// SPDX-License-Identifier: MIT
// The faces of the examples, compiled in.
#pragma once

#include "grafema/font/face.hpp"

/// Quillmere Sans, or its bold.
std::shared_ptr<const grafema::Face> demo_face(bool bold = false);
/// Quillmere Signs: icons from U+E000 on, each also by its name.
std::shared_ptr<const grafema::Face> demo_signs();
