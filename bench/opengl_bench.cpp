// SPDX-License-Identifier: MIT
// The OpenGL renderer against textured quads of the same area.
#include <epoxy/gl.h>

#include <cmath>

#include "bench.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/render/opengl_offscreen.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::bench {
namespace {

constexpr View kView{.width = 1280, .height = 800};

/// A screen of text: sixteen lines.
struct Scene {
  OpenGLOffscreen offscreen;
  OpenGLRenderer renderer;
  std::shared_ptr<AtlasSource> source;
  TextContext context;
  TextScene words;
  std::vector<Label> labels;

  static std::shared_ptr<AtlasSource> bake_source() {
    AtlasRecipe recipe;
    recipe.faces = {sans()};
    recipe.characters = *read_character_set("ascii");
    recipe.closure = false;
    return std::make_shared<AtlasSource>(std::make_shared<const Atlas>(*bake(recipe)));
  }

  /// `scale` times as large, in as many more lines.
  Scene(int layers, float scale)
      : offscreen(*OpenGLOffscreen::make(1280, 800)),
        renderer(*OpenGLRenderer::make()),
        source(bake_source()),
        context(FontStack{sans()}, source),
        words(context) {
    Look look;
    if (layers > 1) look.add({.shift = {2, 3}, .grow = 2, .blur = 3, .fill = Fill::solid({0, 0, 0, 0.6F})});
    if (layers > 1) look.add({.grow = 2, .fill = Fill::solid({0.1F, 0.14F, 0.31F, 1})});
    look.add({.fill = Fill::solid({0.95F, 0.7F, 0.24F, 1})});
    const LookId id = *context.looks().set("look", look);
    for (float y = 0; y < 16 * 49; y += 49 * scale) {
      labels.push_back(words.add("Last tram to Quillmere, 3 minutes late, from Foxglove Cross"));
      labels.back().set_look(id);
      labels.back().set_size(40);
      labels.back().set_placement({.at = {10, y}, .scale_x = scale, .scale_y = scale});
    }
    (void)words.update(kView, 0).has_value();
  }
};

/// A letter on the screen: a rectangle with a piece of the page on it.
struct PlainQuad {
  std::array<float, 4> origin, across, down;
  std::array<std::uint16_t, 4> cell;
};

/// All glyphs that are drawn, layer by layer. The labels stand upright.
std::vector<PlainQuad> quads_of(const SceneMemory& memory) {
  std::vector<PlainQuad> out;
  for (const SceneBatch& batch : memory.batches()) {
    for (const std::uint32_t entry : memory.order().subspan(batch.first, batch.count)) {
      if (entry == kNoGlyph) continue;
      const GlyphRecord& glyph = memory.glyphs()[entry / 8];
      const LayerRecord& layer = memory.layers()[glyph.record + entry % 8];
      const LabelRow& row = memory.rows()[glyph.row];
      PlainQuad quad{row.origin, row.across, row.down, glyph.cell};
      for (std::size_t k = 0; k < 4; ++k) {
        quad.origin[k] += row.across[k] * (glyph.x + layer.shift_x * layer.pixel) +
                          row.down[k] * (glyph.y + layer.shift_y * layer.pixel);
        quad.across[k] *= static_cast<float>(glyph.cell[2] + 1) * layer.pixel;
        quad.down[k] *= static_cast<float>(glyph.cell[3] + 1) * layer.pixel;
      }
      out.push_back(quad);
    }
  }
  return out;
}

/// Pixels that they cover, all of them together.
double pixels_of(const std::vector<PlainQuad>& quads) {
  double pixels = 0;
  for (const PlainQuad& q : quads) {
    pixels += std::abs(double{q.across[0]} * q.down[1] - double{q.across[1]} * q.down[0]) * kView.width / 2 *
              kView.height / 2;
  }
  return pixels;
}

/// Items are pixels of the quads.
void per_pixel(benchmark::State& state, double pixels) {
  state.SetItemsProcessed(state.iterations() * static_cast<std::int64_t>(pixels));
}

/// Covers are not counted: they are what joining and fading cost.
void renderer(benchmark::State& state, int layers, float scale, float opacity = 1) {
  Scene scene(layers, scale);
  const double pixels = pixels_of(quads_of(scene.words.memory()));
  for (Label& label : scene.labels) label.set_opacity(opacity);
  GRAFEMA_VERIFY(state, scene.words.update(kView, 0).has_value());
  for (auto _ : state) {
    GRAFEMA_VERIFY(state, scene.renderer.draw(scene.words.memory(), Blending::linear).has_value());
    glFinish();
  }
  GRAFEMA_VERIFY(state, scene.renderer.work().draw_calls > 0);
  per_pixel(state, pixels);
}

/// Plain text whose fill is more than a color.
Look filled_look(const std::string& what) {
  Look look;
  if (what == "gradient")
    look.add(
        {.fill =
             read_fill("linear-gradient(in oklab 100deg, #7ef0c9, #58a6ff 55%, #c792ff)").value_or(Fill{})});
  if (what == "image") {
    Result<Image> image = Image::make(256, 256, PixelFormat::rgb8);
    for (int i = 0; image && i < 256 * 256; ++i)
      image->row(i / 256)[i % 256 * 3] = static_cast<std::uint8_t>(i * 7);
    auto made = image ? FillImage::make(*image) : fail(image.error());
    if (made) look.add({.fill = Fill::of_image(*made)});
  }
  if (what == "light")
    look.add({.fill = Fill::solid({0.95F, 0.7F, 0.24F, 1}),
              .surface = {.width = 3, .height = 3, .round = 1, .specular = 0.8F}});
  if (what == "inset") look.add({.shift = {1, 2}, .blur = 1, .inset = true});
  if (what == "sweep") look.add({.sweep = {12, 9}});
  if (what == "joined") look.add({.join = true});
  return look;
}

void filled(benchmark::State& state, const char* what) {
  Scene scene(1, 1);
  const Look look = filled_look(what);
  const double pixels = pixels_of(quads_of(scene.words.memory()));
  GRAFEMA_VERIFY(state, look.count == 1 && scene.context.looks().set("look", look).has_value());
  GRAFEMA_VERIFY(state, scene.words.update(kView, 0).has_value());
  for (auto _ : state) {
    GRAFEMA_VERIFY(state, scene.renderer.draw(scene.words.memory(), Blending::linear).has_value());
    glFinish();
  }
  GRAFEMA_VERIFY(state, scene.renderer.work().draw_calls > 0);
  per_pixel(state, pixels);
}

constexpr const char* kVertex = R"(#version 330 core
layout(location = 0) in vec4 origin;
layout(location = 1) in vec4 across;
layout(location = 2) in vec4 down;
layout(location = 3) in vec4 cell;
out vec2 texel;
void main() {
  vec2 corner = vec2(gl_VertexID & 1, gl_VertexID >> 1);
  gl_Position = origin + across * corner.x + down * corner.y;
  texel = cell.xy - 0.5 + corner * (cell.zw + 1.0);
})";

constexpr const char* kFragment = R"(#version 330 core
uniform sampler2D page;
in vec2 texel;
out vec4 color;
void main() { color = texture(page, texel / vec2(textureSize(page, 0))) * vec4(0.89, 0.45, 0.03, 1.0); }
)";

/// The quads of one layer with their piece of the page on them, as it is.
void plain_quads(benchmark::State& state, float scale) {
  Scene scene(1, scale);
  const GLuint program = glCreateProgram();
  for (const auto& [type, text] :
       {std::pair(GL_VERTEX_SHADER, kVertex), std::pair(GL_FRAGMENT_SHADER, kFragment)}) {
    const GLuint shader = glCreateShader(static_cast<GLenum>(type));
    glShaderSource(shader, 1, &text, nullptr);
    glCompileShader(shader);
    glAttachShader(program, shader);
  }
  glLinkProgram(program);
  glUseProgram(program);
  GLuint texture = 0, array = 0, buffer = 0;
  glGenTextures(1, &texture);
  glBindTexture(GL_TEXTURE_2D, texture);
  const ImageView page = scene.source->pixels(0);
  glTexImage2D(GL_TEXTURE_2D, 0, GL_RGBA8, page.width, page.height, 0, GL_RGBA, GL_UNSIGNED_BYTE, page.data);
  glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_MIN_FILTER, GL_LINEAR);
  const std::vector<PlainQuad> quads = quads_of(scene.words.memory());
  glGenVertexArrays(1, &array), glBindVertexArray(array);
  glGenBuffers(1, &buffer), glBindBuffer(GL_ARRAY_BUFFER, buffer);
  const std::pair<GLenum, std::size_t> fields[] = {{GL_FLOAT, offsetof(PlainQuad, origin)},
                                                   {GL_FLOAT, offsetof(PlainQuad, across)},
                                                   {GL_FLOAT, offsetof(PlainQuad, down)},
                                                   {GL_UNSIGNED_SHORT, offsetof(PlainQuad, cell)}};
  for (GLuint i = 0; i < 4; ++i) {
    glEnableVertexAttribArray(i);
    glVertexAttribPointer(i, 4, fields[i].first, GL_FALSE, sizeof(PlainQuad),
                          reinterpret_cast<const void*>(fields[i].second));
    glVertexAttribDivisor(i, 1);
  }
  glEnable(GL_BLEND);
  glBlendFunc(GL_ONE, GL_ONE_MINUS_SRC_ALPHA);
  for (auto _ : state) {
    glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(quads.size() * sizeof(PlainQuad)), quads.data(),
                 GL_STREAM_DRAW);
    glDrawArraysInstanced(GL_TRIANGLE_STRIP, 0, 4, static_cast<GLsizei>(quads.size()));
    glFinish();
  }
  GRAFEMA_VERIFY(state, glGetError() == GL_NO_ERROR);
  per_pixel(state, pixels_of(quads));
}

BENCHMARK_CAPTURE(renderer, plain, 1, 1)->Name("OpenGL, a screen of plain text")->UseRealTime();
BENCHMARK_CAPTURE(plain_quads, one, 1)->Name("OpenGL, a screen of plain text/floor")->UseRealTime();
BENCHMARK_CAPTURE(renderer, layered, 3, 1)->Name("OpenGL, a screen of three layers")->UseRealTime();
BENCHMARK_CAPTURE(plain_quads, three, 1)->Name("OpenGL, a screen of three layers/floor")->UseRealTime();
BENCHMARK_CAPTURE(filled, gradient, "gradient")->Name("OpenGL, a screen of gradients")->UseRealTime();
BENCHMARK_CAPTURE(renderer, gradient, 1, 1)->Name("OpenGL, a screen of gradients/floor")->UseRealTime();
BENCHMARK_CAPTURE(filled, image, "image")->Name("OpenGL, a screen of images")->UseRealTime();
BENCHMARK_CAPTURE(renderer, image, 1, 1)->Name("OpenGL, a screen of images/floor")->UseRealTime();
BENCHMARK_CAPTURE(filled, light, "light")->Name("OpenGL, a screen of light")->UseRealTime();
BENCHMARK_CAPTURE(renderer, light, 1, 1)->Name("OpenGL, a screen of light/floor")->UseRealTime();
BENCHMARK_CAPTURE(filled, inset, "inset")->Name("OpenGL, a screen of insets")->UseRealTime();
BENCHMARK_CAPTURE(renderer, inset, 1, 1)->Name("OpenGL, a screen of insets/floor")->UseRealTime();
BENCHMARK_CAPTURE(filled, sweep, "sweep")->Name("OpenGL, a screen of long shadows")->UseRealTime();
BENCHMARK_CAPTURE(renderer, sweep, 1, 1)->Name("OpenGL, a screen of long shadows/floor")->UseRealTime();
BENCHMARK_CAPTURE(filled, joined, "joined")->Name("OpenGL, a screen of joined letters")->UseRealTime();
BENCHMARK_CAPTURE(renderer, joined, 1, 1)->Name("OpenGL, a screen of joined letters/floor")->UseRealTime();
BENCHMARK_CAPTURE(renderer, fading, 3, 1, 0.5F)->Name("OpenGL, a screen of fading labels")->UseRealTime();
BENCHMARK_CAPTURE(renderer, fading, 3, 1)->Name("OpenGL, a screen of fading labels/floor")->UseRealTime();
BENCHMARK_CAPTURE(renderer, far, 1, 0.125F)->Name("OpenGL, plain text an eighth as large")->UseRealTime();
BENCHMARK_CAPTURE(plain_quads, far, 0.125F)
    ->Name("OpenGL, plain text an eighth as large/floor")
    ->UseRealTime();

}  // namespace
}  // namespace grafema::bench
