// SPDX-License-Identifier: MIT
// Draws a label whose text melts into another.
#pragma once

#include <memory>
#include <string>

#include "grafema/draw/label.hpp"
#include "grafema/draw/morph_text.hpp"
#include "grafema/draw/text_scene.hpp"
#include "options/placement_options.hpp"

namespace grafema::tool {

/// How texts melt: --morph-to, --morph-as, --morph-pairing, --morph-easing, --morph-stagger.
struct MorphSettings {
  std::string to, pairing = "place", easing = "soft", stagger = "0.3", drawing = "filled";

  void add_to(Arguments& arguments);
};

class MorphPainter {
 public:
  /// `picture` holds the style, look and canvas; it must outlive the painter. `from` is the text that is
  /// there first.
  MorphPainter(Picture& picture, const std::string& from, const MorphSettings& settings);

  /// `t` from 0 to 1.
  void draw(float t, Image& image);

 private:
  Picture& picture_;
  std::unique_ptr<MorphText> morph_;
  std::unique_ptr<TextContext> context_;
  std::unique_ptr<TextScene> scene_;
};

}  // namespace grafema::tool
