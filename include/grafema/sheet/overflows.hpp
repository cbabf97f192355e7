// SPDX-License-Identifier: MIT
// Messages that do not fit, drawn in their boxes.
#pragma once

#include "grafema/base/image.hpp"
#include "grafema/draw/looks.hpp"
#include "grafema/text/message_check.hpp"

namespace grafema {

/// The worst `most` of the faults that are overflows, each with its box, its text as laid out, and what
/// stands out of the box marked. Looks are those of the styles where `looks` has them. One line says so where
/// nothing overflows.
GRAFEMA_API Result<Image> draw_overflows(std::span<const MessageFault> faults, const MessageCheck& check,
                                         const LookBook& looks, std::size_t most = 20);

}  // namespace grafema
