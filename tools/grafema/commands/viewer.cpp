// SPDX-License-Identifier: MIT
// Builds, follows and draws the label of `grafema view`.
#include "commands/viewer.hpp"

#include <epoxy/gl.h>
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <system_error>

#include "grafema/atlas/atlas_source.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/draw/paint.hpp"
#include "grafema/sheet/guides.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema::tool {
namespace {

constexpr std::array<const char*, 9> kAnchors = {"0.5,0.5", "0,0",   "0.5,0", "1,0",  "1,0.5",
                                                 "1,1",     "0.5,1", "0,1",   "0,0.5"};
constexpr std::array<const char*, 5> kBackdrops = {"#1b2350", "#f4efe1", "#6f8fb0", "black", "white"};
constexpr std::array<const char*, 4> kDevices = {"960x540", "1280x800", "640x360", "540x960"};

std::shared_ptr<const Atlas> bake_captions() {
  AtlasRecipe recipe;
  recipe.faces = {built_in_face()};
  recipe.characters = *read_character_set("ascii");
  recipe.kind = PictureKind::coverage;
  recipe.size = 12;
  return std::make_shared<const Atlas>(value_or_give_up(bake(recipe)));
}

std::string quoted(const std::string& text) {
  constexpr std::string_view kPlain =
      "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789._-/,:=+%";
  if (!text.empty() && text.find_first_not_of(kPlain) == std::string::npos) return text;
  std::string out = "'";
  for (const char c : text) out += c == '\'' ? std::string("'\\''") : std::string(1, c);
  return out + "'";
}

}  // namespace

Viewer::Viewer(ViewOptions options)
    : options_(std::move(options)), renderer_(value_or_give_up(OpenGLRenderer::make())) {
  caption_source_ = std::make_shared<AtlasSource>(bake_captions());
  caption_context_ = std::make_unique<TextContext>(FontStack{built_in_face()}, caption_source_);
  caption_scene_ = std::make_unique<TextScene>(*caption_context_);
  build();
}

Viewer::~Viewer() = default;

void Viewer::build() {
  Picture picture = make_picture(options_.layout, options_.look, options_.place);
  const std::shared_ptr<GlyphSource> source = source_for(picture);
  auto context = std::make_unique<TextContext>(picture.laid.stack, source);
  auto scene = std::make_unique<TextScene>(*context);
  label_ = add_label(picture, *context, *scene);
  scene_ = std::move(scene);  // before the context that it belongs to
  context_ = std::move(context);
  source_ = source;
  picture_ = std::move(picture);
  backdrop_.set(picture_.backdrop);
  Image guides = value_or_give_up(Image::make(width(), height(), PixelFormat::rgba8));
  if (options_.place.guides) {
    draw_guides(guides, picture_.laid.stack, picture_.laid.text, picture_.laid.paragraph, picture_.placement,
                picture_.view);
  }
  guides_.set(guides);
  message_.clear();
  times_.clear();
  for (const std::string& file : files()) {
    std::error_code ignored;
    times_.push_back(std::filesystem::last_write_time(file, ignored));
  }
}

void Viewer::rebuild() {
  try {
    build();
  } catch (const Failure& failure) {
    message_ = failure.message;
  }
}

std::vector<std::string> Viewer::files() const {
  std::vector<std::string> out;
  for (const std::string& font : options_.layout.fonts.paths) out.push_back(path_of(font));
  const std::string look = options_.look.base.substr(0, options_.look.base.rfind('#'));
  for (const std::string& file :
       {options_.layout.atlas, options_.layout.text_from, look, options_.place.backdrop,
        options_.layout.named_style.substr(0, options_.layout.named_style.rfind('#')),
        options_.layout.values}) {
    std::error_code ignored;
    if (std::filesystem::is_regular_file(file, ignored)) out.push_back(file);
  }
  return out;
}

bool Viewer::follow_files() {
  const std::vector<std::string> now = files();
  bool changed = now.size() != times_.size();
  for (std::size_t i = 0; i < now.size() && !changed; ++i) {
    std::error_code ignored;
    changed = std::filesystem::last_write_time(now[i], ignored) != times_[i];
    if (changed) times_[i] = std::filesystem::last_write_time(now[i], ignored);
  }
  if (changed) rebuild();
  return changed;
}

bool Viewer::press(char key) {
  PlacementOptions& place = options_.place;
  const float size = picture_.laid.style.size;
  const auto resize = [this](float wanted) {
    options_.layout.cap_height.reset(), options_.layout.x_height.reset(), options_.layout.line_height.reset();
    options_.layout.size = fmt::format("{}", std::clamp(wanted, 1.0F, 1000.0F));
  };
  switch (key) {
    case '+':
      resize(size + std::max(1.0F, std::floor(size / 12)));
      break;
    case '-':
      resize(size - std::max(1.0F, std::floor(size / 12)));
      break;
    case 'A':
      place.anchor = kAnchors[++anchor_ % kAnchors.size()], place.at.clear();
      break;
    case 'G':
      place.guides = !place.guides;
      break;
    case 'B':
      place.backdrop = kBackdrops[backdrop_color_++ % kBackdrops.size()];
      break;
    case 'D':
      place.canvas = kDevices[++device_ % kDevices.size()];
      break;
    case 'S':
      place.safe = place.safe.empty() ? "40" : "";
      break;
    case 'L': {
      const std::size_t hash = options_.look.base.rfind('#');
      const auto looks = hash == std::string::npos ? FileResult<std::vector<NamedLook>>{}
                                                   : load_looks(options_.look.base.substr(0, hash));
      if (looks && !looks->empty()) {
        options_.look.base = options_.look.base.substr(0, hash + 1) + (*looks)[++look_ % looks->size()].name;
      }
      break;
    }
    default:
      return false;
  }
  rebuild();
  return true;
}

std::string Viewer::command() const {
  std::string out = "grafema draw";
  for (const std::string& path : options_.layout.fonts.paths) out += " " + quoted(path);
  const auto add = [&out](const char* name, const std::string& value, const std::string& usual = "") {
    if (value != usual) out += fmt::format(" {} {}", name, quoted(value));
  };
  const LayoutOptions& l = options_.layout;
  add("--atlas", l.atlas), add("--text-from", l.text_from), add("--text", l.text.value_or(""));
  add("--size", fmt::format("{}", picture_.laid.style.size));
  add("--align", l.align, "start"), add("--line-spacing", l.line_spacing, "1"),
      add("--tracking", l.tracking, "0");
  add("--wrap", l.wrap.value_or("")), add("--box-height", l.box_height.value_or("")),
      add("--leading", l.leading.value_or("")), add("--valign", l.vertical_align, "top");
  add("--paragraph-spacing", l.paragraph_spacing, "0"), add("--word-spacing", l.word_spacing, "0");
  add("--indent", l.indent), add("--tabs", l.tabs), add("--features", l.features), add("--lang", l.language);
  add("--dir", l.direction, "auto"), add("--break", l.breaking, "normal"),
      add("--max-lines", l.max_lines, "0");
  add("--writing", l.writing, "horizontal"), add("--stance", l.stance, "mixed");
  add("--digits-across", l.digits_across, "0");
  if (l.halve_ends) out += " --halve-ends";
  if (l.script_gaps) out += " --script-gaps";
  add("--overflow", l.overflow, "show"), add("--ellipsis", l.ellipsis, "end");
  add("--smallest", l.smallest), add("--tightest", l.min_tracking);
  for (const std::string& sample : l.reserve) add("--reserve", sample);
  add("--style", l.named_style), add("--values", l.values), add("--reveal", l.reveal.value_or(""));
  if (l.markup) out += " --markup";
  if (l.balance) out += " --balance";
  if (l.keep_last_words) out += " --keep-last-words";
  if (l.justify_last) out += " --justify-last";
  if (!picture_.laid.style.kerning) out += " --no-kerning";
  const LookOptions& k = options_.look;
  add("--look", k.base);
  for (const std::string& value : k.values) add("--set", value);
  add("--fill", k.fill.value_or("")), add("--outline", k.outline), add("--shadow", k.shadow),
      add("--glow", k.glow);
  add("--embolden", k.embolden, "0"), add("--opacity", k.opacity, "1");
  const PlacementOptions& p = options_.place;
  add("--canvas", p.canvas), add("--backdrop", p.backdrop, "transparent"), add("--at", p.at),
      add("--anchor", p.anchor), add("--rotate", p.rotate, "0");
  add("--scale", p.scale, "1"), add("--safe", p.safe), add("--pin", p.pin), add("--panel", p.panel),
      add("--path", p.path), add("--motion", p.motion, "still"), add("--time", p.time, "0");
  return out + (p.upright ? " --upright" : "") + (p.guides ? " --guides" : "") + " -o label.png";
}

void Viewer::show(TextScene& scene, double seconds) {
  value_or_give_up(scene.update(picture_.view, seconds, &picture_.laid.notes));
  value_or_give_up(renderer_.draw(scene.memory(), Blending::linear));
}

void Viewer::draw(double seconds, bool captions) {
  if (const auto cache = std::dynamic_pointer_cast<GlyphCache>(source_)) cache->begin_frame();
  glViewport(0, 0, width(), height());
  glClearColor(0, 0, 0, 0);
  glClear(GL_COLOR_BUFFER_BIT);
  backdrop_.draw();
  show(*scene_, seconds);
  guides_.draw();
  if (captions) draw_captions();
}

void Viewer::draw_captions() {
  const auto at =
      from_device(*map_label(label_.box(), picture_.placement, picture_.view), pointer_, picture_.view);
  const std::string where = fmt::format("pointer {:.0f}, {:.0f}   in the label {:.1f}, {:.1f}", pointer_.x,
                                        pointer_.y, at ? at->x : 0, at ? at->y : 0);
  std::vector<std::string> lines = {
      where, "+ - size   L look   A anchor   G guides   B backdrop   D device   S safe area"};
  std::string rest = message_.empty() ? command() : message_;
  constexpr float kCharacter = 5.8F;  // how wide the pixel face is on average
  const auto most = static_cast<std::size_t>(std::max(20.0F, (picture_.view.width - 12) / kCharacter));
  for (; rest.size() > most && rest.rfind(' ', most) != std::string::npos;
       rest.erase(0, rest.rfind(' ', most))) {
    lines.push_back(rest.substr(0, rest.rfind(' ', most)));
  }
  lines.push_back(rest);
  Look look;
  look.add({.shift = {1, 1}, .fill = Fill::solid({0, 0, 0, 0.8F})});
  look.add({.fill = Fill::solid({1, 0.9F, 0.7F, 1})});
  const LookId id = *caption_context_->looks().set("caption", look);
  caption_scene_->clear();
  for (std::size_t i = 0; i < lines.size(); ++i) {
    Label label = caption_scene_->add(lines[i]);
    label.set_size(12);
    label.set_look(id);
    label.move_to({6, picture_.view.height - 4 - 14 * static_cast<float>(lines.size() - i)});
  }
  show(*caption_scene_, 0);
}

}  // namespace grafema::tool
