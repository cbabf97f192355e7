// SPDX-License-Identifier: MIT
// A picture to choose faces by.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <vector>

#include "grafema/base/color.hpp"
#include "grafema/base/image.hpp"
#include "grafema/font/face.hpp"

namespace grafema {

struct SpecimenOptions {
  std::string text = "Last tram to Quillmere 0123456789";
  std::vector<float> sizes = {12, 16, 24, 32, 48, 64};  ///< pixels per em, each kMinSize to 512
  Color ink{0.10F, 0.11F, 0.14F, 1}, paper{0.965F, 0.957F, 0.93F, 1};
  std::size_t max_characters = 128;  ///< how many characters of each face are shown
  std::size_t max_icons = 1500;      ///< how many glyphs of a face whose characters are mostly private use
};

/// Every face in a column of its own: its name, the text in each size, the named metrics lines of the
/// largest, and the characters with their code points. Faces of icons show their own characters instead of
/// the text, and all glyphs with their names. Fails with `bad_value` for sizes out of range or no
/// face.
GRAFEMA_API Result<Image> draw_specimen(std::span<const std::shared_ptr<const Face>> faces,
                                        const SpecimenOptions& options);

}  // namespace grafema
