// SPDX-License-Identifier: MIT
// grafema demo: every picture of docs/screenshots and a contact sheet.
#include <fmt/format.h>

#include <filesystem>
#include <system_error>

#include "common.hpp"
#include "demo/demo_scenes.hpp"
#include "demo_face.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/sheet/contact_sheet.hpp"
#include "grafema/sheet/specimen.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::tool {
namespace {

struct DemoOptions {
  std::string folder = "out";
  bool quiet = false;
};

/// Saves pictures one by one and keeps them for the contact sheet.
class Gallery {
 public:
  Gallery(const DemoOptions& options) : options_(options) {}

  void add(const std::string& name, Image image) {
    const std::string path = (std::filesystem::path(options_.folder) / (name + ".png")).string();
    value_or_give_up(save_png(path, image));
    if (!options_.quiet) fmt::print("  {}\n", path);
    names_.push_back(name);
    images_.push_back(std::move(image));
  }

  void add_contact_sheet() {
    std::vector<NamedImage> list;
    for (std::size_t i = 0; i < images_.size(); ++i) list.push_back({names_[i], &images_[i]});
    Image sheet = value_or_give_up(draw_contact_sheet(list));
    add("contact-sheet", std::move(sheet));
  }

 private:
  const DemoOptions& options_;
  std::vector<std::string> names_;
  std::vector<Image> images_;
};

Atlas bake_demo(const std::shared_ptr<const Face>& face, PictureKind kind, float size,
                const DemoOptions& options, const std::string& name) {
  AtlasRecipe recipe;
  recipe.faces = {face};
  recipe.characters = value_or_give_up(read_character_set("ascii"));
  recipe.kind = kind;
  recipe.size = size;
  Atlas atlas = value_or_give_up(bake(recipe));
  value_or_give_up(save_atlas((std::filesystem::path(options.folder) / name).string(), atlas));
  return atlas;
}

void add_page(Gallery& gallery, const DemoOptions& options, const std::shared_ptr<const Face>& face,
              PictureKind kind, float size, const std::string& name) {
  const Atlas atlas = bake_demo(face, kind, size, options, name);
  const std::string caption =
      fmt::format("{}: {} of {} at {} px, {:.1f}% of the page used", name, to_string(kind),
                  face->names().full_name, size, 100 * atlas.used_area(1));
  gallery.add(name, draw_page(atlas, caption));
}

int run_demo(const DemoOptions& options) {
  std::error_code problem;
  std::filesystem::create_directories(options.folder, problem);
  if (problem) {
    throw Failure{bad_output, fmt::format("{} can't be made: {}", options.folder, problem.message())};
  }
  Gallery gallery(options);
  gallery.add("faces", draw_faces());
  gallery.add("board", draw_board());
  gallery.add("title", draw_title());
  gallery.add("sizes", draw_sizes());
  gallery.add("layout", draw_layout());
  gallery.add("languages", draw_languages());
  gallery.add("speech", draw_speech());
  gallery.add("typed_log", draw_typed_log());
  gallery.add("ticker", draw_ticker());
  gallery.add("messages", draw_worst_messages());
  if (std::optional<Image> night = draw_night()) gallery.add("night", *std::move(night));
  gallery.add("motions", draw_motions());
  gallery.add("letters", draw_letters());
  gallery.add("magnified", draw_magnified());
  gallery.add("painted", draw_painted());
  gallery.add("renderers", draw_side_by_side());
  add_page(gallery, options, demo_face(false), PictureKind::distance_rgb, 48, "page-distance");
  const std::shared_ptr<const Face> four[] = {demo_face(false), demo_face(true), built_in_face(),
                                              demo_signs()};
  SpecimenOptions sans;
  sans.text = "Saltglass Quay 0123456789";
  sans.sizes = {12, 16, 24, 36};
  sans.max_characters = 64;
  gallery.add("specimen-sans", value_or_give_up(draw_specimen(four, sans)));
  gallery.add_contact_sheet();
  return done;
}

}  // namespace

void add_demo(CommandLine& line) {
  auto options = std::make_shared<DemoOptions>();
  Arguments& arguments = line.add("demo", "Every picture of the documentation, and a contact sheet",
                                  [options] { return run_demo(*options); });
  arguments.option("-o,--output", options->folder, "DIR",
                   "The folder to write into; made where it is missing");
  arguments.flag("--quiet", options->quiet, "Print nothing where all went well");
  arguments.example("Example: grafema demo -o out");
}

}  // namespace grafema::tool
