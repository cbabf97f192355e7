// SPDX-License-Identifier: MIT
// Text far smaller than its pictures: as bright as it is wide, and the same in both renderers.
#include <catch2/catch.hpp>
#include <cmath>

#include "grafema/atlas/glyph_cache.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "support/scene.hpp"

using namespace grafema;

namespace {

constexpr Color kBlack{0, 0, 0, 1};

double light_of(const Image& image) {
  double sum = 0;
  for (int y = 0; y < image.height(); ++y) {
    for (int x = 0; x < image.width(); ++x) {
      for (int c = 0; c < 3; ++c) sum += to_linear(static_cast<float>(image.value(x, y, c)) / 255);
    }
  }
  return sum;
}

struct Far {
  test::Scene scene;
  Label label;

  explicit Far(const std::shared_ptr<const Atlas>& atlas, const char* text = "Saltglass, ferry 12: Weir")
      : scene(atlas), label(scene.words.add(text)) {
    label.set_size(48);
  }
  View view(float scale) {
    return {.width = std::ceil(label.box().width() * scale) + 12, .height = std::ceil(70 * scale) + 12};
  }
  double light(float scale, PixelPoint at, float stretch = 1) {
    label.set_placement({.at = {5 + at.x, 5 + at.y}, .scale_x = scale, .scale_y = scale * stretch});
    return light_of(
        test::in_software(scene.words, view(scale * std::max(stretch, 1.0F)), Blending::linear, kBlack));
  }
};

Look framed() {
  Look look;
  look.add({.shift = {2, 2}, .grow = 1, .blur = 2, .fill = Fill::solid({0, 0.4F, 0.9F, 0.7F})});
  look.add({.grow = 2.5F, .fill = Fill::solid({0.9F, 0.3F, 0.1F, 1})});
  look.add({.fill = Fill::solid({1, 1, 1, 1})});
  return look;
}

std::shared_ptr<const Atlas> atlas_of(PictureKind kind) {
  return kind == PictureKind::color ? test::color_atlas() : test::atlas_of(test::dejavu(), kind, 48);
}

}  // namespace

namespace {

/// The least and the most light of a label that is shifted by tenths of a pixel.
struct Range {
  double least = 1e9, most = 0;
  Range(Far& far, float scale, float stretch) {
    for (int tenth = 0; tenth < 10; ++tenth) {
      const PixelPoint by{static_cast<float>(tenth) / 10, static_cast<float>(tenth * 3 % 10) / 10};
      const double light = far.light(scale, by, stretch);
      least = std::min(least, light), most = std::max(most, light);
    }
  }
};

}  // namespace

TEST_CASE("far text does not shimmer: shifted by tenths of a pixel its light stays within 3% of the mean",
          "[far][property]") {
  const auto kind = GENERATE(PictureKind::distance, PictureKind::distance_rgb, PictureKind::distance_rgba,
                             PictureKind::coverage, PictureKind::color);
  Far far(atlas_of(kind), kind == PictureKind::color ? "ABBA" : "Saltglass, ferry 12: Weir");
  const bool has_layers = GENERATE(false, true) && kind != PictureKind::color;
  if (has_layers) far.label.set_look(*far.scene.context.looks().set("framed", framed()));
  const float times = GENERATE(4.5F, 6.0F, 9.7F, 16.0F), stretch = GENERATE(1.0F, 0.5F);
  const bool is_loose = GENERATE(false, true);  // letters that share no pixel, or do
  REQUIRE(far.label.set_style({.size = 48, .tracking = is_loose ? 4 * times + 16 : 0}).has_value());
  const Range range(far, 1 / times, stretch);
  INFO("kind " << static_cast<int>(kind) << ", " << times << " times smaller, layers " << has_layers
               << ", loose " << is_loose << ", " << range.least << " to " << range.most);
  const double mean = (range.least + range.most) / 2;
  CHECK(mean > 1);
  CHECK(range.most - mean <= 0.03 * mean);
}

TEST_CASE("far text is as bright as it is wide, its letter grown or not", "[far][property]") {
  const auto kind = GENERATE(PictureKind::distance, PictureKind::distance_rgb, PictureKind::distance_rgba,
                             PictureKind::coverage);
  Far far(atlas_of(kind));
  const float times = GENERATE(3.0F, 6.0F, 12.0F, 24.0F, 48.0F);
  const bool is_grown = GENERATE(false, true);
  Look look;
  look.add({.grow = 2.5F, .fill = Fill::solid({1, 1, 1, 1})});
  if (is_grown) far.label.set_look(*far.scene.context.looks().set("grown", look));
  // Letters that share no pixel: where they do, each covers some of the other's light.
  REQUIRE(far.label.set_style({.size = 48, .tracking = 4 * times + 16}).has_value());
  const double near = far.light(1, {});
  INFO("kind " << static_cast<int>(kind) << ", " << times << " times smaller, grown " << is_grown);
  CHECK(far.light(1 / times, {0.3F, 0.6F}) * times * times == Approx(near).epsilon(0.04));
}

TEST_CASE("a line under letters is as bright as it is wide when it is far", "[far]") {
  Far far(atlas_of(PictureKind::distance));
  SpanStyle line;
  line.underline = true;
  RichText text;
  text.append("        ", line).append(".");
  far.label.set_rich(text);
  const float times = GENERATE(6.0F, 15.0F, 40.0F);
  const double near = far.light(1, {});
  for (const float y : {0.0F, 0.25F, 0.5F, 0.8F}) {
    INFO(times << " times smaller at " << y);
    CHECK(far.light(1 / times, {0.1F, y}) * times * times == Approx(near).epsilon(0.04));
  }
}

TEST_CASE("a cell's smaller pictures hold the mean of what is on it, and nothing of its neighbors",
          "[far][atlas][property]") {
  const auto kind = GENERATE(PictureKind::distance, PictureKind::coverage);
  const auto atlas = test::atlas_of(test::dejavu(), kind, 40);
  const AtlasSource source(atlas);
  const ImageView page = source.pixels(0), far = source.mipmap_pixels(0);
  REQUIRE(far.width == (page.width + 1) / 2);
  REQUIRE(far.height == (page.height + 1) / 2);
  CHECK(source.mipmap_pixels(0).data == far.data);  // made once
  const float reach = atlas->strikes[0].reach;
  for (const AtlasGlyph& glyph : atlas->glyphs) {
    if (!glyph.page) continue;
    double covered = 0;
    const auto narrow = [](int v) { return static_cast<std::uint16_t>(v); };
    for (int y = glyph.cell.y; y < glyph.cell.y + glyph.cell.height; ++y) {
      for (int x = glyph.cell.x; x < glyph.cell.x + glyph.cell.width; ++x) {
        const float v = static_cast<float>(page.row(y)[x]) / 255;
        covered += kind == PictureKind::coverage ? v : std::clamp(0.5F + (v - 0.5F) * 2 * reach, 0.0F, 1.0F);
      }
    }
    for (const int level : {1, 2}) {
      const auto cell = mipmap_cell(
          {narrow(glyph.cell.x), narrow(glyph.cell.y), narrow(glyph.cell.width), narrow(glyph.cell.height)},
          level);
      if (cell[2] == 0) continue;
      double sum = 0;
      for (int y = cell[1]; y < cell[1] + cell[3]; ++y) {
        for (int x = cell[0]; x < cell[0] + cell[2]; ++x) {
          sum += far.row(y)[static_cast<std::size_t>(x) * bytes_per_pixel(far.format)] / 255.0;
        }
      }
      const double texels = level == 1 ? 16 : 256, rounding = cell[2] * cell[3] * texels / 510;
      INFO("glyph " << index_of(glyph.glyph) << ", level " << level);
      CHECK(std::abs(sum * texels - covered) <= rounding + 0.1);
    }
  }
}

TEST_CASE("smaller pictures of cells that touch stand apart", "[far][property]") {
  // Whatever the sides and places of cells that lie a texel apart or touch, theirs never meet.
  const auto places = [](std::array<std::uint16_t, 4> cell) {
    std::vector<std::array<std::uint16_t, 4>> out = {mipmap_cell(cell, 1)};
    if (const auto second = mipmap_cell(cell, 2); second[2] != 0) out.push_back(second);
    return out;
  };
  const auto meet = [](const std::array<std::uint16_t, 4>& a, const std::array<std::uint16_t, 4>& b) {
    return a[0] < b[0] + b[2] && b[0] < a[0] + a[2] && a[1] < b[1] + b[3] && b[1] < a[1] + a[3];
  };
  for (std::uint16_t x = 0; x < 4; ++x) {
    for (std::uint16_t width = 2; width < 70; ++width) {
      for (const std::uint16_t gap : {0, 1}) {
        const std::array<std::uint16_t, 4> left = {x, 3, width, 40},
                                           right = {static_cast<std::uint16_t>(x + width + gap), 3, 9, 40},
                                           below = {x, static_cast<std::uint16_t>(43 + gap), width, 9};
        const auto own = places(left);
        if (own.size() == 2) CHECK_FALSE(meet(own[0], own[1]));
        for (const auto& a : own) {
          for (const auto& b : places(right)) CHECK_FALSE(meet(a, b));
          for (const auto& b : places(below)) CHECK_FALSE(meet(a, b));
        }
      }
    }
  }
}

TEST_CASE("smaller pictures of a live cache follow it", "[far][cache]") {
  GlyphCacheOptions options;
  options.size = 40, options.frame_time = std::chrono::hours(1), options.first_page = {128, 128};
  options.largest_page = {256, 256}, options.budget = 3 * 256 * 256 * 4;
  const auto draw = [&](TextContext& context, GlyphCache& cache, const char* text) {
    TextScene words(context);
    Label label = words.add(text);
    label.set_placement({.at = {4, 4}, .scale_x = 0.1F, .scale_y = 0.1F});
    label.set_size(40);
    cache.begin_frame();
    return test::in_software(words, {.width = 64, .height = 16}, Blending::linear, kBlack);
  };
  const FontStack fonts{test::dejavu()};
  std::shared_ptr<GlyphCache> lasting = *GlyphCache::make(options);
  REQUIRE(lasting->add(fonts).has_value());
  test::WhiteContext context(fonts, lasting);
  for (const char* text : {"Weir", "Saltglass", "QWERTZUIOP", "0123456789", "asdfgyxcvbn", "%&$@#!?",
                           "HJKLBNM", "Saltglass", "Weir"}) {
    std::shared_ptr<GlyphCache> fresh = *GlyphCache::make(options);
    REQUIRE(fresh->add(fonts).has_value());
    test::WhiteContext other(fonts, fresh);
    INFO(text);
    CHECK(test::share_that_differs(draw(context, *lasting, text), draw(other, *fresh, text), 1) == 0);
  }
}

TEST_CASE("far text agrees in both renderers, flat, turned and going away", "[far][render][opengl]") {
  const auto kind =
      GENERATE(PictureKind::distance, PictureKind::distance_rgba, PictureKind::coverage, PictureKind::color);
  const auto flavor = GENERATE(OpenGLFlavor::core_33, OpenGLFlavor::es_30);
  const std::string how = GENERATE("flat", "turned", "going away");
  test::Scene scene(atlas_of(kind));
  const View view{.width = 320, .height = 200, .projection = test::perspective(50, 1.6F, 0.1F, 200)};
  const LookId look = *scene.context.looks().set("framed", framed());
  for (int i = 0; i < 12; ++i) {
    const char* text = kind == PictureKind::color ? "ABBABAAB" : "Pale Orchard, Weir 9";
    const float scale = 0.22F / (1 + static_cast<float>(i) * 0.4F);
    Placement p{.at = {8, 6 + static_cast<float>(i) * 16.3F}, .scale_x = scale, .scale_y = scale};
    if (how == "turned") p.at.x = 40, p.rotate = 7.0F * static_cast<float>(i), p.scale_x *= 0.6F;
    if (how == "going away") {
      p = {.kind = PlaceKind::world, .world_per_pixel = 0.01F};
      p.world = test::multiplied(test::moved(-3, 1.5F - static_cast<float>(i) * 0.3F, -6),
                                 test::turned_about_y(72));
      p.anchor = {0.1F, 0.5F}, p.scale_x = 3;
    }
    Label label = scene.words.add(text);
    label.set_size(48);
    label.set_placement(p);
    if (i % 2 == 1) label.set_look(look);
  }
  constexpr Color kBackdrop{0.44F, 0.56F, 0.69F, 1};
  const Image software = test::in_software(scene.words, view, Blending::linear, kBackdrop),
              opengl = test::in_opengl(scene.words, view, Blending::linear, kBackdrop, flavor);
  INFO(how << ", kind " << static_cast<int>(kind) << ": " << test::first_difference(software, opengl, 3));
  CHECK(test::share_that_differs(software, opengl, 3) <= 0.001);
  Image empty = *Image::make(320, 200, PixelFormat::rgba8);
  fill_image(empty, kBackdrop);
  CHECK(test::share_that_differs(software, empty, 8) > 0.005);  // agreeing on nothing proves nothing
}
