// SPDX-License-Identifier: MIT
// grafema draw: a picture of a text as a game would show it.
#include <fmt/format.h>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/draw/emit.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/sheet/guides.hpp"
#include "placement_options.hpp"

namespace grafema::tool {
namespace {

struct Options {
  LayoutOptions layout;
  LookOptions look;
  PlacementOptions place;
  std::string output;
};

/// Through a label, pictures of glyphs and the software renderer, as a game draws.
void draw_label(Picture& picture, Image& image) {
  const std::shared_ptr<GlyphSource> source = source_for(picture);
  TextContext context(picture.laid.stack, source);
  const std::unique_ptr<Label> label = make_label(picture, context);
  Label* const labels[] = {label.get()};
  QuadBuffer quads;
  value_or_give_up(emit_quads(context, labels, picture.view, quads, &picture.laid.notes));
  to_premultiplied_alpha(image, Blending::linear);
  value_or_give_up(draw_in_software(quads.list(), *source, picture.view, Blending::linear, image));
  to_straight_alpha(image, Blending::linear);
}

int run(const Options& options) {
  check_output(options.output, {".png"});
  Picture picture = make_picture(options.layout, options.look, options.place);
  Image image = std::move(picture.backdrop);
  Placement on_screen = picture.placement;
  on_screen.at = anchor_on_screen(picture.placement, picture.view);
  const PixelPoint origin = label_origin(picture.laid.paragraph.box, on_screen);
  if (picture.plain) {
    value_or_give_up(paint(image, picture.laid.stack, picture.laid.paragraph, picture.look, origin,
                           &picture.laid.notes, {.read_picture = read_png},
                           looks_of(picture.laid, &picture.laid.notes)));
  } else {
    draw_label(picture, image);
  }
  if (options.place.guides) {
    draw_guides(image, picture.laid.stack, picture.laid.text, picture.laid.paragraph, picture.placement,
                picture.view);
  }
  value_or_give_up(save_png(options.output, image));
  return report(picture.laid.notes, options.layout.strict);
}

}  // namespace

void add_draw(CommandLine& line) {
  auto options = std::make_shared<Options>();
  Arguments& arguments = line.add("draw", "A picture of a text with fill, outline, shadow and glow",
                                  [options] { return run(*options); });
  options->layout.add_to(arguments);
  options->look.add_to(arguments);
  options->place.add_to(arguments);
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "PNG", "The PNG to write; - is standard output",
                   Need::required);
  arguments.example(
      "Example: grafema draw --size 48 --text \"Pale Orchard\" --fill \"#f2b33d\" --outline 2,#1b2350 "
      "--backdrop \"#131a3a\" -o sign.png");
}

}  // namespace grafema::tool
