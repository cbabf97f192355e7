// SPDX-License-Identifier: MIT
// Paints looks on grounds, and measures the light within letters and beside them.
#include "grafema/sheet/swatches.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "base/light.hpp"
#include "grafema/base/color.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/sheet/captions.hpp"

namespace grafema {
namespace {

constexpr int kMinColumn = 362, kMaxColumn = 4000, kLeft = 180, kGap = 6, kCaptionColor = 14;

/// Relative luminance (WCAG 2.2) of linear light.
float luminance(float red, float green, float blue) {
  return 0.2126F * red + 0.7152F * green + 0.0722F * blue;
}

float ratio(float a, float b) { return (std::max(a, b) + 0.05F) / (std::min(a, b) + 0.05F); }

float luminance_at(const Image& image, int x, int y) {
  const std::uint8_t* p = image.row(y) + static_cast<std::size_t>(x) * 4;
  return luminance(detail::light_of(p[0]), detail::light_of(p[1]), detail::light_of(p[2]));
}

const char* name_of(SwatchGround ground) {
  switch (ground) {
    case SwatchGround::light:
      return "light";
    case SwatchGround::dark:
      return "dark";
    case SwatchGround::busy:
      break;
  }
  return "busy";
}

/// A text in the middle of a swatch.
struct Words {
  Paragraph paragraph;
  PixelPoint origin;
  int column = kMinColumn;  ///< how wide the swatch is
};

int height_of(const SwatchOptions& options) { return static_cast<int>(std::ceil(options.size * 2)); }

Result<Words> lay_words(const FontStack& fonts, const SwatchOptions& options) {
  if (!(options.size >= 8 && options.size <= 128)) {
    return bad_value("a size of 8 to 128 pixels per em");
  }
  Words words;
  ShapeCache cache;
  if (const auto laid = lay_out(fonts, options.text, {.size = options.size}, cache, words.paragraph); !laid) {
    return fail(laid.error());
  }
  const Rect box = words.paragraph.box;
  words.column =
      static_cast<int>(std::clamp(box.width() + options.size, float{kMinColumn}, float{kMaxColumn}));
  words.origin = {std::round((static_cast<float>(words.column) - box.width()) / 2 - box.left),
                  std::round((static_cast<float>(height_of(options)) - box.height()) / 2 - box.top)};
  return words;
}

/// How much of each pixel letters cover, by a plain look: 255 all of it.
Result<Image> make_mask(const FontStack& fonts, const Words& words, int height) {
  Result<Image> mask = Image::make(words.column, height, PixelFormat::rgba8);
  if (!mask) return mask;
  fill_image(*mask, {0, 0, 0, 1});
  if (const auto painted = paint(*mask, fonts, words.paragraph, plain_look({1, 1, 1, 1}), words.origin);
      !painted) {
    return fail(painted.error());
  }
  return mask;
}

std::uint8_t covered_at(const Image& mask, int x, int y) {
  return mask.row(y)[static_cast<std::size_t>(x) * 4];
}

/// What the look paints, on nothing.
Result<Image> make_figure(const Look& look, const FontStack& fonts, const Words& words, int height) {
  Result<Image> figure = Image::make(words.column, height, PixelFormat::rgba8);
  if (!figure) return figure;
  if (const auto painted = paint(*figure, fonts, words.paragraph, look, words.origin); !painted) {
    return fail(painted.error());
  }
  return figure;
}

std::uint8_t painted_at(const Image& figure, int x, int y) {
  return figure.row(y)[static_cast<std::size_t>(x) * 4 + 3];
}

/// Whether more than half of a pixel that is not farther than `reach` is covered.
bool is_beside(const Image& image, std::uint8_t (*strength)(const Image&, int, int), int x, int y,
               int reach) {
  for (int v = std::max(y - reach, 0); v <= std::min(y + reach, image.height() - 1); ++v) {
    for (int u = std::max(x - reach, 0); u <= std::min(x + reach, image.width() - 1); ++u) {
      if (strength(image, u, v) > 128) return true;
    }
  }
  return false;
}

struct Mean {
  double sum = 0;
  int count = 0;
  void add(float v) { sum += v, ++count; }
  float mean() const { return static_cast<float>(sum / std::max(count, 1)); }
};

/// The least contrast of any stretch of the text, about a letter wide: that of letters to what is beside
/// them, or of letters and outline together to what is behind both, where that is more.
float contrast_of(const Image& picture, const Image& mask, const Image& figure, float size) {
  constexpr std::uint8_t kWhole = 254, kMax = 230, kLeast = 25;  // nearly all of the pixel, nearly nothing
  constexpr int kFew = 6;                                        // pixels that tell nothing
  const int stretch = std::max(8, static_cast<int>(size * 0.7F)),
            reach = std::max(1, static_cast<int>(size / 28));
  float least = 21;
  bool any = false;
  for (int begin = 0; begin < picture.width(); begin += stretch) {
    Mean within, beside, painted, behind;
    for (int y = 0; y < picture.height(); ++y) {
      for (int x = begin; x < std::min(begin + stretch, picture.width()); ++x) {
        const std::uint8_t covered = covered_at(mask, x, y);
        if (covered >= kWhole) within.add(luminance_at(picture, x, y));
        if (covered == 0 && is_beside(mask, covered_at, x, y, reach)) beside.add(luminance_at(picture, x, y));
        const std::uint8_t alpha = painted_at(figure, x, y);
        if (alpha >= kMax) painted.add(luminance_at(picture, x, y));
        if (alpha <= kLeast && is_beside(figure, painted_at, x, y, 2 * reach)) {
          behind.add(luminance_at(picture, x, y));
        }
      }
    }
    if (within.count < kFew || beside.count < kFew) continue;
    any = true;
    const bool stands_out = painted.count >= kFew && behind.count >= kFew;
    least = std::min(least, std::max(ratio(within.mean(), beside.mean()),
                                     stands_out ? ratio(painted.mean(), behind.mean()) : 1.0F));
  }
  return any ? least : 1;
}

Result<Image> paint_swatch(const Look& look, SwatchGround ground, const FontStack& fonts, const Words& words,
                           int height) {
  Result<Image> picture = make_ground(ground, words.column, height);
  if (!picture) return picture;
  if (const auto painted = paint(*picture, fonts, words.paragraph, look, words.origin); !painted) {
    return fail(painted.error());
  }
  return picture;
}

/// The same numbers on every machine.
unsigned scattered(unsigned& state) {
  state = state * 1664525U + 1013904223U;
  return state >> 8U;
}

}  // namespace

float contrast_ratio(const Color& a, const Color& b) {
  const auto of = [](const Color& c) {
    return luminance(to_linear(c.red), to_linear(c.green), to_linear(c.blue));
  };
  return ratio(of(a), of(b));
}

Result<Image> make_ground(SwatchGround ground, int width, int height) {
  Result<Image> image = Image::make(width, height, PixelFormat::rgba8);
  if (!image) return image;
  if (ground == SwatchGround::light) {
    fill_image(*image, {0.96F, 0.96F, 0.94F, 1});
    return image;
  }
  fill_image(*image, {0.06F, 0.08F, 0.14F, 1});
  if (ground == SwatchGround::dark) return image;
  unsigned state = 7;
  const float w = static_cast<float>(width), h = static_cast<float>(height);
  const int windows = std::min(width * height / 260, 20000);
  for (int i = 0; i < windows; ++i) {
    const float x = static_cast<float>(scattered(state) % 1000) / 1000 * w,
                y = static_cast<float>(scattered(state) % 1000) / 1000 * h;
    const auto wide = static_cast<float>(6 + scattered(state) % 22),
               high = static_cast<float>(6 + scattered(state) % 22);
    const float light = static_cast<float>(scattered(state) % 1000) / 1000,
                warm = static_cast<float>(scattered(state) % 1000) / 1000;
    paint_rect(*image, {x, y, x + wide, y + high},
               {light, light * (0.72F + 0.28F * (1 - warm)), light * (0.35F + 0.65F * (1 - warm)), 1});
  }
  return image;
}

Result<void> find_contrasts(std::span<Swatch> swatches, const FontStack& fonts, const SwatchOptions& options,
                            Notes* notes) {
  const Result<Words> words = lay_words(fonts, options);
  if (!words) return fail(words.error());
  const int height = height_of(options);
  const Result<Image> mask = make_mask(fonts, *words, height);
  if (!mask) return fail(mask.error());
  for (Swatch& swatch : swatches) {
    const Result<Image> figure = make_figure(swatch.look, fonts, *words, height);
    if (!figure) return fail(figure.error());
    for (std::size_t g = 0; g < kSwatchGrounds; ++g) {
      const auto ground = static_cast<SwatchGround>(g);
      const Result<Image> picture = paint_swatch(swatch.look, ground, fonts, *words, height);
      if (!picture) return fail(picture.error());
      swatch.contrast[g] = contrast_of(*picture, *mask, *figure, options.size);
      if (notes != nullptr && swatch.contrast[g] < kMinContrast) {
        notes->add({.kind = NoteKind::low_contrast,
                    .wanted = kMinContrast,
                    .given = swatch.contrast[g],
                    .look = swatch.name,
                    .text = name_of(ground)});
      }
    }
  }
  return {};
}

Result<Image> draw_swatches(std::span<const Swatch> swatches, const FontStack& fonts,
                            const SwatchOptions& options) {
  const Result<Words> words = lay_words(fonts, options);
  if (!words) return fail(words.error());
  const int height = height_of(options), row = height + kCaptionColor + kGap;
  const auto rows = static_cast<std::int64_t>(swatches.size());
  if (swatches.empty() || rows * row > Image::kMaxSide) {
    return bad_value("1 look at least, and no more than a sheet holds");
  }
  Result<Image> sheet = Image::make(kLeft + (words->column + kGap) * static_cast<int>(kSwatchGrounds),
                                    static_cast<int>(rows) * row, PixelFormat::rgba8);
  if (!sheet) return sheet;
  fill_image(*sheet, {0.16F, 0.17F, 0.2F, 1});
  const int middle = height / 2;
  int top = kGap;
  for (const Swatch& swatch : swatches) {
    draw_caption(*sheet, swatch.name, {12, static_cast<float>(top + middle - 6)}, {0.9F, 0.9F, 0.88F, 1}, 2);
    for (std::size_t g = 0; g < kSwatchGrounds; ++g) {
      const Result<Image> picture =
          paint_swatch(swatch.look, static_cast<SwatchGround>(g), fonts, *words, height);
      if (!picture) return fail(picture.error());
      const int left = kLeft + (words->column + kGap) * static_cast<int>(g);
      paint_image(*sheet, *picture, left, top);
      const bool is_low = swatch.contrast[g] < kMinContrast;
      draw_caption(*sheet,
                   fmt::format("{}: {:.1f} to 1{}", name_of(static_cast<SwatchGround>(g)), swatch.contrast[g],
                               is_low ? ", hard to read" : ""),
                   {static_cast<float>(left), static_cast<float>(top + height + 3)},
                   is_low ? Color{1, 0.55F, 0.45F, 1} : Color{0.7F, 0.78F, 0.74F, 1});
    }
    top += row;
  }
  return sheet;
}

}  // namespace grafema
