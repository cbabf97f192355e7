// SPDX-License-Identifier: MIT
// Pictures to judge by: specimens, guides, contact sheets. Their own captions are set in Quillmere Dot.
#pragma once

#include <memory>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/draw/paint.hpp"
#include "grafema/draw/placement.hpp"

namespace grafema {

/// One line of caption text, `scale` pixels a pixel of Quillmere Dot (1..16), its box's top left corner at
/// `at`. Gives the caption's width.
GRAFEMA_API float draw_caption(Image& target, std::string_view text, PixelPoint at, const Color& color,
                               int scale = 1);

/// How wide `draw_caption` makes a text, in pixels.
GRAFEMA_API float caption_width(std::string_view text, int scale = 1);

struct SpecimenOptions {
  std::string text = "Last tram to Quillmere 0123456789";
  std::vector<float> sizes = {12, 16, 24, 32, 48, 64};  ///< pixels per em, each kMinSize to 512
  Color ink{0.10F, 0.11F, 0.14F, 1}, paper{0.965F, 0.957F, 0.93F, 1};
  std::size_t most_characters = 128;  ///< of the character set, per face
};

/// Every face in a column of its own: its name, the text in each size, the named metrics lines of the
/// largest, and the characters with their code points. Fails with `bad_value` for sizes out of range or no
/// face.
GRAFEMA_API Result<Image> draw_specimen(std::span<const std::shared_ptr<const Face>> faces,
                                        const SpecimenOptions& options);

/// Draws rulers and the safe area (gray, where it is smaller than the target), and of a placed label its
/// baselines (red), advance box (blue), ink box (green) and anchor (a cross). `view` is as large as the
/// target. Nothing of the label where `map_label` refuses its placement.
GRAFEMA_API void draw_guides(Image& target, const FontStack& stack, const Paragraph& paragraph,
                             const Placement& placement, const View& view);

struct NamedImage {
  std::string name;
  const Image* image = nullptr;
};

/// All pictures on one sheet, made smaller where they are wider than `column` pixels, each with its name
/// below.
GRAFEMA_API Result<Image> draw_contact_sheet(std::span<const NamedImage> images, int columns = 3,
                                             int column = 420);

/// A copy with sides of at most `max_width` x `max_height`, averaged in linear light; the picture itself
/// where it fits.
GRAFEMA_API Result<Image> shrunk(const Image& image, int max_width, int max_height);

}  // namespace grafema
