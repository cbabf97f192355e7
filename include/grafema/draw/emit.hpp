// SPDX-License-Identifier: MIT
// From labels to quads: the part that runs every frame.
#pragma once

#include <span>

#include "grafema/draw/label.hpp"
#include "grafema/draw/quad_buffer.hpp"

namespace grafema {

/// Fills `out` with the visible labels in order, each layer by layer. Labels whose text, style, fonts or
/// source changed are laid out and resolved first; the others only placed, and those that stand wholly
/// outside the view left out. What layout and pictures had to be noted for (missing characters and pictures,
/// looks that need more reach than the pictures have) is noted each time, with the label's name. Allocates
/// nothing in steady state. Fails with `bad_value` where the view can't be used, or a label is null, was
/// moved from or is of another context; nothing is emitted then.
GRAFEMA_API Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view,
                                    QuadList& out, Notes* notes = nullptr);

/// The same into memory that grows to what is needed.
GRAFEMA_API Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view,
                                    QuadBuffer& out, Notes* notes = nullptr);

}  // namespace grafema
