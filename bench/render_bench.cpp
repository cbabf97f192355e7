// SPDX-License-Identifier: MIT
// Painting quads in software, against painting outlines and against blending alone.
#include "bench.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/base/color.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::bench {
namespace {

constexpr View kView{.width = 1280, .height = 800};
constexpr const char* kText =
    "Last tram to Quillmere\nFoxglove Cross, 3 minutes late\nMarrow Hill, Saltglass Quay";

Look look_of(int layers) {
  Look look;
  if (layers > 1) look.add({.shift = {2, 3}, .grow = 2, .blur = 3, .fill = Fill::solid({0, 0, 0, 0.6F})});
  if (layers > 1) look.add({.grow = 2, .fill = Fill::solid({0.1F, 0.14F, 0.31F, 1})});
  look.add({.fill = Fill::solid({0.95F, 0.7F, 0.24F, 1})});
  return look;
}

/// Three lines on a picture of a screen's size.
struct Scene {
  FontStack stack{sans()};
  std::shared_ptr<AtlasSource> source;
  std::unique_ptr<TextContext> context;
  std::unique_ptr<TextScene> words;
  Label label;
  Image image = *Image::make(1280, 800, PixelFormat::rgba8);

  Scene(float size, int layers) {
    AtlasRecipe recipe;
    recipe.faces = {sans()};
    recipe.characters = *read_character_set("ascii");
    recipe.closure = false;
    source = std::make_shared<AtlasSource>(std::make_shared<const Atlas>(*bake(recipe)));
    context = std::make_unique<TextContext>(stack, source);
    words = std::make_unique<TextScene>(*context);
    label = words->add(kText);
    label.set_look(*context->looks().set("look", look_of(layers)));
    label.set_size(size);
    label.move_to({20, 20});
    (void)words->update(kView, 0).has_value();
    fill_image(image, {0.4F, 0.5F, 0.6F, 1});
  }
};

void software(benchmark::State& state, float size, int layers) {
  Scene scene(size, layers);
  for (auto _ : state) {
    GRAFEMA_VERIFY(state, draw_in_software(scene.words->memory(), Blending::linear, scene.image).has_value());
  }
}

void outlines(benchmark::State& state, float size, int layers) {
  Scene scene(size, layers);
  for (auto _ : state) {
    GRAFEMA_VERIFY(
        state,
        paint(scene.image, scene.stack, scene.label.paragraph(), look_of(layers), {20, 20}).has_value());
  }
}

/// Light from tables, mixed and back, for each pixel of the boxes of the letters: what no renderer is
/// without.
void blending_floor(benchmark::State& state, float size, int layers) {
  Scene scene(size, layers);
  std::vector<float> light(256);
  for (std::size_t i = 0; i < 256; ++i) light[i] = to_linear(static_cast<float>(i) / 255);
  std::vector<std::uint8_t> bytes(65537);
  for (std::size_t i = 0; i < bytes.size(); ++i) {
    bytes[i] = static_cast<std::uint8_t>(to_srgb(static_cast<float>(i) / 65536) * 255 + 0.5F);
  }
  const Paragraph& paragraph = scene.label.paragraph();
  for (auto _ : state) {
    for (int layer = 0; layer < layers; ++layer) {
      for (const PlacedGlyph& glyph : paragraph.glyphs) {
        const PixelRect cell =
            rounded_out(to_pixels(sans()->glyph_box(glyph.glyph), size / sans()->units_per_em())
                            .moved(glyph.pen)
                            .moved({20, 20}));
        for (int y = std::max(cell.y, 0); y < std::min(cell.y + cell.height, 800); ++y) {
          for (int x = std::max(cell.x, 0); x < std::min(cell.x + cell.width, 1280); ++x) {
            std::uint8_t* pixel = scene.image.row(y) + x * 4;
            const float cover = static_cast<float>((x * 7 + y) & 255) / 255;
            for (int c = 0; c < 3; ++c) {
              pixel[c] =
                  bytes[static_cast<std::size_t>((0.5F * cover + light[pixel[c]] * (1 - cover)) * 65536)];
            }
          }
        }
      }
    }
    benchmark::DoNotOptimize(scene.image.row(0));
  }
}

void add(const char* name, float size, int layers) {
  const std::string text = name;
  benchmark::RegisterBenchmark(text.c_str(), software, size, layers);
  benchmark::RegisterBenchmark((text + "/outlines").c_str(), outlines, size, layers);
  benchmark::RegisterBenchmark((text + "/floor").c_str(), blending_floor, size, layers);
}

const bool registered = [] {
  add("software, plain, 16 px", 16, 1);
  add("software, plain, 32 px", 32, 1);
  add("software, plain, 72 px", 72, 1);
  add("software, three layers, 72 px", 72, 3);
  return true;
}();

}  // namespace
}  // namespace grafema::bench
