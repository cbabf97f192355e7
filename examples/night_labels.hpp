// SPDX-License-Identifier: MIT
// The labels of the night scene: signs in the street, names that follow trams, and a HUD.
#pragma once

#include <functional>
#include <memory>
#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/draw/text_scene.hpp"
#include "street.hpp"

/// A bold sans where the system has one, else the face of the library, baked once, with the ideographs of a
/// sign where there is a face of them: one page of distances serves all sizes.
std::shared_ptr<const grafema::Atlas> bake_letters(grafema::FontStack& fonts);

/// Needs a current OpenGL context as long as it lives.
class NightScene {
 public:
  /// The context has the looks of data/demo/looks.json.
  explicit NightScene(grafema::TextContext& context);

  void move(double seconds);
  /// Paints words into the framebuffer that is bound.
  using Painter = std::function<void(const grafema::SceneMemory& words)>;
  /// The street first, then what stands in it, then what lies on the glass.
  void draw(const Painter& paint, const grafema::View& view);
  /// What should not go unsaid: characters without a picture, looks that need more reach.
  void report() const;

 private:
  grafema::Label add(grafema::TextScene& scene, const char* text, const char* look, float size);
  void make_signs();
  void make_neon(const Sign& sign);
  void make_trams();
  void make_hud();
  void show(const Painter& paint, grafema::TextScene& scene, const grafema::View& view);

  grafema::TextContext& context_;
  Street street_;
  grafema::TextScene world_, hud_;
  std::vector<grafema::Label> names_, numbers_;
  grafema::Label clock_, badge_;
  double seconds_ = 0;
  grafema::Notes notes_;
};
