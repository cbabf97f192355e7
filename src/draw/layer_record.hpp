// SPDX-License-Identifier: MIT
// A layer of a look in texels of the pictures that it is drawn from.
#pragma once

#include <optional>

#include "draw/content/label_content.hpp"

namespace grafema::detail {

/// How many records a look takes: its layers, and behind them what their fills need.
std::size_t records_of(const Look& look);

/// What a layer does: bits as in SceneBatch::features.
SceneFeature features_of(const Layer& layer);

/// Writes them. `look` may have its lengths in ems.
void write_records(const Look& look, const Variant& variant, std::span<LayerRecord> out);

/// A layer's fill, where it is more than colors at corners; `layer` is the index of the layer's own record.
std::optional<FillRecord> fill_of(std::span<const LayerRecord> records, std::size_t layer);
/// The outline of the panel that a layer is of.
std::optional<PanelRecord> panel_of(std::span<const LayerRecord> records, std::size_t layer);

}  // namespace grafema::detail
