// SPDX-License-Identifier: MIT
// Programs for the kinds of pictures and for what layers need.
#pragma once

#include <epoxy/gl.h>

#include <string>

#include "grafema/draw/quads.hpp"
#include "grafema/render/blending.hpp"

namespace grafema::detail {

/// What the layers of a list need of a program.
struct Features {
  bool gamma = false, hollow = false, effects = false, fills = false;

  std::size_t index(QuadKind kind) const {
    return static_cast<std::size_t>(kind) * 16 + (gamma ? 8U : 0U) + (hollow ? 4U : 0U) +
           (effects ? 2U : 0U) + (fills ? 1U : 0U);
  }
};
constexpr std::size_t kPrograms = kQuadKinds * 16;

/// What the layers of a list need, all of them together.
Features features_of(const QuadList& list, Blending blending);

/// A program, and where its uniforms are.
struct Program {
  GLuint name = 0;
  GLint first_record = -1, viewport = -1;
};

/// Name 0 where the driver refuses it; `complaint` says why. The program is in use then.
Program make_program(QuadKind kind, const Features& features, std::string& complaint);

}  // namespace grafema::detail
