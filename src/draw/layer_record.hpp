// SPDX-License-Identifier: MIT
// A layer of a look in texels of the pictures that it is drawn from.
#pragma once

#include "draw/label_state.hpp"

namespace grafema::detail {

/// `look` has its lengths in pixels.
LayerRecord layer_record(const Look& look, std::size_t layer, const Variant& variant);

}  // namespace grafema::detail
