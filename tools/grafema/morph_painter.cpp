// SPDX-License-Identifier: MIT
// A label of a MorphText, drawn as a game would.
#include "morph_painter.hpp"

#include <algorithm>
#include <cmath>

#include "grafema/draw/text_scene.hpp"
#include "grafema/render/software_renderer.hpp"

namespace grafema::tool {
namespace {

MorphPairing to_pairing(const std::string& name) {
  if (name == "place") return MorphPairing::place;
  if (name == "likeness") return MorphPairing::likeness;
  throw Failure{wrong_usage, "--morph-pairing: expected place or likeness, found '" + name + "'"};
}

MorphEasing to_easing(const std::string& name) {
  if (name == "even") return MorphEasing::even;
  if (name == "soft") return MorphEasing::soft;
  if (name == "fall") return MorphEasing::fall;
  if (name == "brake") return MorphEasing::brake;
  if (name == "overshoot") return MorphEasing::overshoot;
  throw Failure{wrong_usage,
                "--morph-easing: expected even, soft, fall, brake or overshoot, found '" + name + "'"};
}

/// filled, line or dots, with the width of lines and dots behind a comma.
void read_drawing(const std::string& text, MorphTextOptions& options) {
  const std::vector<std::string> parts = split(text, "--morph-as");
  if (parts[0] == "line") {
    options.drawing = MorphDrawing::line;
  } else if (parts[0] == "dots") {
    options.drawing = MorphDrawing::dots;
  } else if (parts[0] != "filled" || parts.size() > 1) {
    throw Failure{wrong_usage,
                  "--morph-as: expected filled, line[,PX] or dots[,PX[,PX]], found '" + text + "'"};
  }
  if (parts.size() > 1) options.line_width = to_number(parts[1], "--morph-as", 0.1F, 1000);
  options.dot_step =
      parts.size() > 2 ? to_number(parts[2], "--morph-as", 0.1F, 1e5F) : options.line_width * 1.8F;
}

}  // namespace

void MorphSettings::add_to(Arguments& arguments) {
  arguments.option("--morph-to", to, "S", "The text that the first one melts into, over the frames");
  arguments.option("--morph-as", drawing, "filled|line|dots[,PX[,PX]]",
                   "What is drawn of it: how wide lines and dots are, how far dots stand apart");
  arguments.option("--morph-pairing", pairing, "place|likeness", "Which letter becomes which");
  arguments.option("--morph-easing", easing, "even|soft|fall|brake|overshoot",
                   "How a letter's change begins and ends");
  arguments.option("--morph-stagger", stagger, "F",
                   "How much later the last letter begins, as a share of the whole");
}

MorphPainter::MorphPainter(Picture& picture, const std::string& from, const MorphSettings& settings)
    : picture_(picture) {
  const LaidOut& laid = picture.laid;
  MorphTextOptions options;
  options.style = laid.style;
  options.pairing = to_pairing(settings.pairing);
  options.easing = to_easing(settings.easing);
  options.stagger = to_number(settings.stagger, "--morph-stagger", 0, 0.99F);
  read_drawing(settings.drawing, options);
  const float reach = required_reach(picture.look, laid.style.size);
  if (reach > 0.5F || !picture.plain) {
    options.kind = PictureKind::distance;
    options.reach = std::clamp(std::ceil(reach) + 1, 4.0F, 64.0F);
  }
  morph_ = value_or_give_up(MorphText::make(laid.stack, {from, settings.to}, options, &picture.laid.notes));
  context_ = std::make_unique<TextContext>(morph_->fonts(), morph_->source());
  scene_ = std::make_unique<TextScene>(*context_);
  Label label = scene_->add(morph_->text());
  value_or_give_up(label.set_style(morph_->label_style()));
  label.set_placement(picture.placement);
  label.set_look(value_or_give_up(context_->looks().set("the label's own", picture.look)));
  if (picture.panel) {
    Panel panel = *picture.panel;
    panel.look = value_or_give_up(context_->looks().set("the label's panel", picture.panel_look));
    value_or_give_up(label.set_panel(panel));
  }
  label.set_opacity(picture.opacity);
}

void MorphPainter::draw(float t, Image& image) {
  morph_->show(t);
  value_or_give_up(scene_->update(picture_.view, 0, &picture_.laid.notes));
  to_premultiplied_alpha(image, Blending::linear);
  value_or_give_up(draw_in_software(scene_->memory(), Blending::linear, image));
  to_straight_alpha(image, Blending::linear);
}

}  // namespace grafema::tool
