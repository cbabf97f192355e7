// SPDX-License-Identifier: MIT
// Where the label of `draw` and `view` stands, and the picture around it.
#pragma once

#include "grafema/draw/motion.hpp"
#include "grafema/draw/text_scene.hpp"
#include "options/options.hpp"

namespace grafema::tool {

/// --canvas, --backdrop, --at, --anchor, --rotate, --scale, --safe, --pin, --panel, --path,
/// --motion, --time, --guides.
struct PlacementOptions {
  std::string canvas, backdrop = "transparent", at, anchor, rotate = "0", scale = "1", safe, pin, panel, path,
                      motion = "still", time = "0";
  bool upright = false, pixelated = false, guides = false;

  void add_to(Arguments& arguments);
};

/// A label and the canvas that it stands on, ready to be drawn.
struct Picture {
  LaidOut laid;
  Look look;
  float opacity = 1;
  std::optional<Panel> panel;
  Look panel_look;
  OnPath on_path;
  Placement placement;
  View view;
  Motion motion;
  double seconds = 0;
  Image backdrop;      ///< straight alpha, of the view's size
  bool plain = false;  ///< upright, unscaled, still: can be painted straight from outlines
};

/// The canvas holds what letters reach by their motion at `times`, seconds; where there are none, at the time
/// of the options.
Picture make_picture(const LayoutOptions& layout, const LookOptions& look, const PlacementOptions& place,
                     std::span<const double> times = {});

/// The pictures that the label is drawn from: those of `atlas_for`, or a cache for a rich text.
std::shared_ptr<GlyphSource> source_for(const Picture& picture);

/// The label of a picture, with all that its names stand for put into the context.
Label add_label(const Picture& picture, TextContext& context, TextScene& scene);

/// Pictures of all glyphs of the text, with the reach that the look needs: the atlas that was given, or one
/// baked for it.
std::shared_ptr<const Atlas> atlas_for(const Picture& picture);

}  // namespace grafema::tool
