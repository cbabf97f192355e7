// SPDX-License-Identifier: MIT
// grafema draw: a picture of a text as a game would show it.
#include <fmt/format.h>

#include "grafema/sheet.hpp"
#include "options.hpp"

namespace grafema::tool {
namespace {

struct Options {
  LayoutOptions layout;
  LookOptions look;
  std::string output, canvas, backdrop = "transparent", at, anchor = "0,0";
  bool guides = false;
};

PixelPoint to_point(const std::string& text, const char* option, float most) {
  const auto parts = split(text, option, 2);
  return {to_number(parts[0], option, -most, most), to_number(parts[1], option, -most, most)};
}

bool is_picture(const std::string& backdrop) { return backdrop.ends_with(".png") || backdrop.ends_with(".PNG"); }

Image make_canvas(const Options& options, const Canvas& fitted) {
  PageSize size{fitted.width, fitted.height};
  std::optional<Image> picture;
  if (is_picture(options.backdrop)) {
    picture = value_or_give_up(load_png(options.backdrop));
    size = {picture->width(), picture->height()};
  }
  if (!options.canvas.empty()) size = to_size(options.canvas, "--canvas");
  Image image = value_or_give_up(Image::make(size.width, size.height, PixelFormat::rgba8));
  if (picture) {
    paint_image(image, *picture, 0, 0);
  } else {
    fill_image(image, to_color(options.backdrop, "--backdrop"));
  }
  return image;
}

int run(const Options& options) {
  LaidOut laid = lay_out(options.layout);
  const Look look = options.look.read();
  const Rect ink = ink_box(laid.stack, laid.paragraph), box = laid.paragraph.advance_box;
  const Canvas fitted = fit_canvas(laid.paragraph, ink, look);
  Image image = make_canvas(options, fitted);
  Placement placement;
  placement.anchor = to_point(options.anchor, "--anchor", 1000);
  const bool own_canvas = !options.canvas.empty() || is_picture(options.backdrop);
  if (!options.at.empty()) {
    placement.at = to_point(options.at, "--at", 65536);
  } else if (own_canvas) {  // the anchor stands at the same point of the canvas
    placement.at = {placement.anchor.x * static_cast<float>(image.width()), placement.anchor.y * static_cast<float>(image.height())};
  } else {
    placement.at = {fitted.origin.x + placement.anchor.x * box.width(), fitted.origin.y + placement.anchor.y * box.height()};
  }
  const PixelPoint origin = label_origin(box, placement);
  value_or_give_up(paint(image, laid.stack, laid.paragraph, look, origin, &laid.notes));
  if (options.guides) draw_guides(image, laid.stack, laid.paragraph, origin, placement.at);
  value_or_give_up(save_png(options.output, image));
  return report(laid.notes, options.layout.strict);
}

}  // namespace

Registered add_draw(CLI::App& app) {
  auto options = std::make_shared<Options>();
  CLI::App* command = app.add_subcommand("draw", "A picture of a text with fill, outline, shadow and glow");
  options->layout.add_to(*command);
  options->look.add_to(*command);
  command->add_option("-o,--output", options->output, "The PNG to write; - is standard output")->type_name("PNG")->required();
  command->add_option("--canvas", options->canvas, "Size of the picture; none: the label and a border of half its size")->type_name("WxH");
  command->add_option("--backdrop", options->backdrop, "A color or a PNG below the text")->type_name("COLOR|PNG")->capture_default_str();
  command->add_option("--at", options->at, "Where the anchor stands; none: at the anchor's place in the canvas")->type_name("X,Y");
  command->add_option("--anchor", options->anchor, "The point of the label's box that stands there, in fractions")->type_name("FX,FY")->capture_default_str();
  command->add_flag("--guides", options->guides, "Rulers, anchor, baselines, advance and ink boxes");
  command->footer("Example: grafema draw --size 48 --text \"Pale Orchard\" --fill \"#ffb703\" --outline 2,#14213d --backdrop \"#0b132b\" -o sign.png");
  return {command, [options] { return run(*options); }};
}

}  // namespace grafema::tool
