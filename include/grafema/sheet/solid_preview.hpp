// SPDX-License-Identifier: MIT
// A picture of solid letters, to see a model before it is loaded into a scene.
#pragma once

#include "grafema/base/color.hpp"
#include "grafema/base/image.hpp"
#include "grafema/files/mesh_file.hpp"

namespace grafema {

struct SolidPreviewOptions {
  int width = 1280, height = 720;  ///< pixels, 16 to 8192
  float yaw = -24;                 ///< degrees by which the letters are turned to the right, -80 to 80
  float pitch = 16;                ///< degrees by which their top is turned toward the reader, -80 to 80
  Color ground{0.16F, 0.17F, 0.20F, 1};
};

/// Draws the mesh in the middle of the picture, as large as it fits, in parallel projection, lit from the
/// upper left, with the colors of its materials. Fails with `bad_value` where there is nothing to draw or an
/// option is out of its range.
GRAFEMA_API Result<Image> draw_solid_preview(const SolidText& text, const ModelOptions& materials,
                                             const SolidPreviewOptions& options = {});

}  // namespace grafema
