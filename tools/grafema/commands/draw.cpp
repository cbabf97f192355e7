// SPDX-License-Identifier: MIT
// grafema draw: a picture of a text as a game would show it.
#include <fmt/format.h>

#include <algorithm>
#include <functional>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/draw/text_scene.hpp"
#include "grafema/files/animated_png.hpp"
#include "grafema/render/software_renderer.hpp"
#include "grafema/sheet/guides.hpp"
#include "morph_painter.hpp"
#include "options/placement_options.hpp"

namespace grafema::tool {
namespace {

struct DrawOptions {
  LayoutOptions layout;
  LookOptions look;
  PlacementOptions place;
  MorphSettings morph;
  std::string output, frames = "1", fps = "24";
};

/// Draws a label through pictures of glyphs and the software renderer, as a game does.
class LabelPainter {
 public:
  explicit LabelPainter(Picture& picture)
      : picture_(picture), context_(picture.laid.stack, source_for(picture)), scene_(context_) {
    (void)add_label(picture, context_, scene_);
  }

  void draw(double seconds, Image& image) {
    value_or_give_up(scene_.update(picture_.view, seconds, &picture_.laid.notes));
    to_premultiplied_alpha(image, Blending::linear);
    value_or_give_up(draw_in_software(scene_.memory(), Blending::linear, image));
    to_straight_alpha(image, Blending::linear);
  }

 private:
  Picture& picture_;
  TextContext context_;
  TextScene scene_;
};

PixelPoint origin_of(const Picture& picture) {
  Placement on_screen = picture.placement;
  on_screen.at = anchor_on_screen(picture.placement, picture.view);
  return label_origin(picture.laid.paragraph.box, on_screen);
}

int draw_one(const DrawOptions& options) {
  Picture picture = make_picture(options.layout, options.look, options.place);
  Image image = std::move(picture.backdrop);
  if (picture.plain) {
    value_or_give_up(paint(image, picture.laid.stack, picture.laid.paragraph, picture.look,
                           origin_of(picture), &picture.laid.notes, {.read_picture = read_png},
                           looks_of(picture.laid, &picture.laid.notes)));
  } else {
    LabelPainter(picture).draw(picture.seconds, image);
  }
  if (options.place.guides) {
    draw_guides(image, picture.laid.stack, picture.laid.text, picture.laid.paragraph, picture.placement,
                picture.view);
  }
  value_or_give_up(save_png(options.output, image));
  return report(picture.laid.notes, options.layout.strict);
}

constexpr std::string_view kNumber = "%d";

/// sign-%d.png as sign-07.png, so that names sort.
std::string numbered(const std::string& path, std::size_t number, std::size_t count) {
  const std::size_t at = path.find(kNumber), digits = fmt::format("{}", count - 1).size();
  return fmt::format("{}{:0{}}{}", path.substr(0, at), number, digits, path.substr(at + kNumber.size()));
}

/// Frames of `count` pictures of the canvas: an animated PNG, or numbered files.
void save_frames(const DrawOptions& options, const Picture& picture, std::size_t count, double fps,
                 const std::function<void(std::size_t, Image&)>& draw) {
  constexpr double kMaxBytes = 1U << 30U;
  if (static_cast<double>(picture.backdrop.bytes().size()) * static_cast<double>(count) > kMaxBytes) {
    throw Failure{wrong_usage, "expected frames of at most 1 GB in all; draw fewer or smaller ones"};
  }
  std::vector<Image> frames;
  for (std::size_t i = 0; i < count; ++i) {
    frames.push_back(picture.backdrop.clone());
    draw(i, frames.back());
  }
  if (options.output.find(kNumber) == std::string::npos) {
    value_or_give_up(save_animated_png(options.output, frames, fps));
    return;
  }
  for (std::size_t i = 0; i < count; ++i) {
    value_or_give_up(save_png(numbered(options.output, i, count), frames[i]));
  }
}

/// The text melts into that of --morph-to: the first frame shows the one, the last the other.
int draw_morph(const DrawOptions& options, std::size_t count, double fps) {
  check_text(options.morph.to, "--morph-to");
  if (options.layout.markup || !options.layout.atlas.empty()) {
    throw Failure{wrong_usage,
                  "--morph-to needs outlines of plain text: expected no --markup and no --atlas"};
  }
  if (options.place.motion != "still" || !options.place.path.empty()) {
    throw Failure{wrong_usage, "expected --morph-to, --motion or --path, found several"};
  }
  LayoutOptions layout = options.layout;
  const std::string from = lay_out(layout).text;
  // The canvas is that of the text with more lines, and no narrower than the other.
  const bool longer = std::count(options.morph.to.begin(), options.morph.to.end(), '\n') >
                      std::count(from.begin(), from.end(), '\n');
  if (longer) layout.text = options.morph.to, layout.text_from.clear();
  layout.reserve.push_back(longer ? from : options.morph.to);
  Picture picture = make_picture(layout, options.look, options.place);
  MorphPainter painter(picture, from, options.morph);
  save_frames(options, picture, count, fps, [&](std::size_t i, Image& image) {
    painter.draw(static_cast<float>(i) / static_cast<float>(count - 1), image);
  });
  return report(picture.laid.notes, options.layout.strict);
}

int draw_frames(const DrawOptions& options, std::size_t count) {
  const double fps = to_number(options.fps, "--fps", 0.01F, 600),
               begin = to_number(options.place.time, "--time", 0, 1e6F);
  if (options.place.guides) throw Failure{wrong_usage, "expected --guides or --frames, found both"};
  if (!options.morph.to.empty()) return draw_morph(options, count, fps);
  std::vector<double> times(count);
  for (std::size_t i = 0; i < count; ++i) times[i] = begin + static_cast<double>(i) / fps;
  Picture picture = make_picture(options.layout, options.look, options.place, times);
  LabelPainter painter(picture);
  save_frames(options, picture, count, fps,
              [&](std::size_t i, Image& image) { painter.draw(times[i], image); });
  return report(picture.laid.notes, options.layout.strict);
}

int run_draw(const DrawOptions& options) {
  check_output(options.output, {".png"});
  const auto count = static_cast<std::size_t>(to_number(options.frames, "--frames", 1, 10000));
  if (!options.morph.to.empty() && count < 2) {
    throw Failure{wrong_usage, "--morph-to melts over frames: expected --frames of 2 or more"};
  }
  const bool moves = count > 1 || options.output.find(kNumber) != std::string::npos;
  return moves ? draw_frames(options, count) : draw_one(options);
}

}  // namespace

void add_draw(CommandLine& line) {
  auto options = std::make_shared<DrawOptions>();
  Arguments& arguments = line.add("draw", "A picture of a text with fill, outline, shadow and glow",
                                  [options] { return run_draw(*options); });
  options->layout.add_to(arguments);
  options->look.add_to(arguments);
  options->place.add_to(arguments);
  arguments.heading("Frames");
  arguments.option(
      "--frames", options->frames, "N",
      "As many pictures, from --time on: an animated PNG, or files of their own where the name holds %d");
  arguments.option("--fps", options->fps, "F", "Frames a second");
  options->morph.add_to(arguments);
  arguments.heading("Output");
  arguments.option("-o,--output", options->output, "PNG", "The PNG to write; - is standard output",
                   Need::required);
  arguments.example(
      "Example: grafema draw --size 48 --text \"Pale Orchard\" --fill \"#f2b33d\" --outline 2,#1b2350 "
      "--backdrop \"#131a3a\" -o sign.png");
}

}  // namespace grafema::tool
