// SPDX-License-Identifier: MIT
// From labels to quads: the part that runs every frame.
#pragma once

#include <span>

#include "grafema/draw/label.hpp"
#include "grafema/draw/quads.hpp"

namespace grafema {

/// Fills `out` with the visible labels in order, each layer by layer. Labels whose text, style, fonts or
/// source changed are laid out and resolved first; the others only placed. Glyphs that the source does not
/// have, and looks that need more reach than the pictures have, are noted. Allocates nothing in steady state.
/// Fails with `bad_value` where a placement or the view can't be used.
GRAFEMA_API Result<void> emit_quads(TextContext& context, std::span<Label* const> labels, const View& view,
                                    QuadList& out, Notes* notes = nullptr);

}  // namespace grafema
