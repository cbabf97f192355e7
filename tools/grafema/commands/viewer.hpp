// SPDX-License-Identifier: MIT
// The label of `grafema view`, rebuilt when a file or a key changes it.
#pragma once

#include <filesystem>
#include <memory>

#include "commands/picture_layer.hpp"
#include "grafema/atlas/atlas_source.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "options/placement_options.hpp"

namespace grafema::tool {

struct ViewOptions {
  LayoutOptions layout;
  LookOptions look;
  PlacementOptions place;
};

/// Needs a current OpenGL context as long as it lives.
class Viewer {
 public:
  explicit Viewer(ViewOptions options);
  ~Viewer();

  int width() const { return static_cast<int>(picture_.view.width); }
  int height() const { return static_cast<int>(picture_.view.height); }
  /// Reads everything anew. A failure leaves the picture as it was and is kept as a message.
  void rebuild();
  /// Rebuilds where a font, look, text or backdrop file is newer than what is shown; whether it did.
  bool follow_files();
  /// + - size, L look, A anchor, G guides, B backdrop, D device size, S safe area; whether it means anything.
  bool press(char key);
  void set_pointer(double x, double y) { pointer_ = {static_cast<float>(x), static_cast<float>(y)}; }
  /// Draws into the bound framebuffer; with captions that show the pointer, the keys and the command line.
  void draw(double seconds, bool captions);
  /// The `grafema draw` that makes the same picture.
  std::string command() const;
  Notes& notes() { return picture_.laid.notes; }

 private:
  void build();
  void show(TextScene& scene, double seconds);
  void draw_captions();
  std::vector<std::string> files() const;

  ViewOptions options_;
  Picture picture_;
  std::shared_ptr<GlyphSource> source_;
  std::shared_ptr<AtlasSource> caption_source_;
  std::unique_ptr<TextContext> context_, caption_context_;
  std::unique_ptr<TextScene> scene_, caption_scene_;
  Label label_;
  OpenGLRenderer renderer_;
  PictureLayer backdrop_, guides_;
  std::vector<std::filesystem::file_time_type> times_;
  std::string message_;
  PixelPoint pointer_;
  std::size_t anchor_ = 0, backdrop_color_ = 0, device_ = 0, look_ = 0;
};

}  // namespace grafema::tool
