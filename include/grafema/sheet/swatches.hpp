// SPDX-License-Identifier: MIT
// Looks on light, dark and busy backdrops, and how well their letters stand out.
#pragma once

#include <array>
#include <span>
#include <string>
#include <vector>

#include "grafema/base/image.hpp"
#include "grafema/base/notes.hpp"
#include "grafema/draw/look.hpp"
#include "grafema/font/font_stack.hpp"

namespace grafema {

/// The contrast ratio of two opaque colors (WCAG 2.2, relative luminance): 1 to 21.
GRAFEMA_API float contrast_ratio(const Color& a, const Color& b);

/// Below this, text is hard to read (WCAG 2.2, success criterion 1.4.3).
constexpr float kMinContrast = 4.5F;

enum class SwatchGround : std::uint8_t { light, dark, busy };
constexpr std::size_t kSwatchGrounds = 3;

/// A backdrop of a kind, opaque rgba8; the busy one has light and dark windows of many sizes, always the
/// same.
GRAFEMA_API Result<Image> make_ground(SwatchGround ground, int width, int height);

struct SwatchOptions {
  std::string text = "Ninth Lantern";
  float size = 36;  ///< pixels per em, 8..128
};

/// A look, and its contrast ratio on each kind of ground: of the light within letters to that right beside
/// them, as the look paints both, or of letters and outline together to what is behind them, where that is
/// more; of the stretch of the text where it is least. 1 where the face has no letters for the text.
struct Swatch {
  std::string name = {};
  Look look = {};
  std::array<float, kSwatchGrounds> contrast = {};
};

/// Finds the contrasts of looks. Notes those below kMinContrast (NoteKind::low_contrast).
GRAFEMA_API Result<void> find_contrasts(std::span<Swatch> swatches, const FontStack& fonts,
                                        const SwatchOptions& options = {}, Notes* notes = nullptr);

/// A sheet: a row for each look with its name, on each ground, the contrast below. Fails with `bad_value`
/// where there is no look, or so many that the sheet would be higher than a picture can be.
GRAFEMA_API Result<Image> draw_swatches(std::span<const Swatch> swatches, const FontStack& fonts,
                                        const SwatchOptions& options = {});

}  // namespace grafema
