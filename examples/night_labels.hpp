// SPDX-License-Identifier: MIT
// The labels of the night scene: signs in the street, names that follow trams, and a HUD.
#pragma once

#include <memory>
#include <string_view>
#include <vector>

#include "grafema/atlas/atlas.hpp"
#include "grafema/draw/label.hpp"
#include "grafema/render/opengl_renderer.hpp"
#include "street.hpp"

/// A bold sans where the system has one, else the face of the library, baked once: one page of distances
/// serves all sizes.
std::shared_ptr<const grafema::Atlas> bake_letters(grafema::FontStack& fonts);

/// Needs a current OpenGL context as long as it lives.
class NightScene {
 public:
  /// `looks` is the text of data/demo/looks.json.
  NightScene(grafema::TextContext& context, std::string_view looks);

  void move(double seconds);
  /// The street first, then what stands in it, then what lies on the glass.
  void draw(grafema::OpenGLRenderer& renderer, const grafema::View& view);
  /// What should not go unsaid: characters without a picture, looks that need more reach.
  void report() const;

 private:
  grafema::Label* add(std::vector<grafema::Label*>& list, const char* text, const char* look, float size);
  static void place(grafema::Label& label, const grafema::Placement& placement);
  void make_looks(std::string_view text);
  void make_signs();
  void make_trams();
  void make_hud();
  void show(grafema::OpenGLRenderer& renderer, std::vector<grafema::Label*>& labels,
            const grafema::View& view);

  grafema::TextContext& context_;
  Street street_;
  std::vector<std::unique_ptr<grafema::Label>> labels_;
  std::vector<grafema::Label*> world_, hud_, names_, numbers_;
  grafema::Label *clock_ = nullptr, *badge_ = nullptr, *title_ = nullptr;
  grafema::Notes notes_;
  std::vector<grafema::GlyphQuad> quads_;
  std::vector<grafema::Batch> batches_;
  std::vector<grafema::LayerRecord> layers_;
};
