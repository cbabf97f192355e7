// SPDX-License-Identifier: MIT
// Scenes of the examples as pictures, and the worst messages of a catalog with faults.
#include <array>

#include "common.hpp"
#include "demo/demo_scenes.hpp"
#include "grafema/files/catalog_file.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/styles_file.hpp"
#include "grafema/sheet/overflows.hpp"
#include "software_stage.hpp"

namespace grafema::detail {
// Files of data/demo, made by grafema_embed.
#define GRAFEMA_DEMO_FILE(name)      \
  extern const unsigned char name[]; \
  extern const std::size_t name##_size;
GRAFEMA_DEMO_FILE(demo_looks)
GRAFEMA_DEMO_FILE(demo_effects)
GRAFEMA_DEMO_FILE(demo_planks)
GRAFEMA_DEMO_FILE(demo_frame)
GRAFEMA_DEMO_FILE(demo_hammered)
GRAFEMA_DEMO_FILE(demo_dusk)
GRAFEMA_DEMO_FILE(demo_styles)
GRAFEMA_DEMO_FILE(demo_en)
GRAFEMA_DEMO_FILE(demo_de)
GRAFEMA_DEMO_FILE(demo_el)
GRAFEMA_DEMO_FILE(demo_uk)
GRAFEMA_DEMO_FILE(demo_ar)
GRAFEMA_DEMO_FILE(demo_he)
GRAFEMA_DEMO_FILE(demo_th)
GRAFEMA_DEMO_FILE(demo_ja)
GRAFEMA_DEMO_FILE(demo_pl)
#undef GRAFEMA_DEMO_FILE
}  // namespace grafema::detail

namespace grafema::tool {
namespace {}  // namespace

std::string demo_file(const std::string& name) {
  struct File {
    const char* name;
    const unsigned char* bytes;
    std::size_t size;
  };
  using namespace detail;
  const std::array<File, 16> files = {{{"effects.json", demo_effects, demo_effects_size},
                                       {"planks.png", demo_planks, demo_planks_size},
                                       {"frame.png", demo_frame, demo_frame_size},
                                       {"hammered.png", demo_hammered, demo_hammered_size},
                                       {"dusk.png", demo_dusk, demo_dusk_size},
                                       {"looks.json", demo_looks, demo_looks_size},
                                       {"styles.json", demo_styles, demo_styles_size},
                                       {"messages/en.json", demo_en, demo_en_size},
                                       {"messages/de.json", demo_de, demo_de_size},
                                       {"messages/el.json", demo_el, demo_el_size},
                                       {"messages/uk.json", demo_uk, demo_uk_size},
                                       {"messages/ar.json", demo_ar, demo_ar_size},
                                       {"messages/he.json", demo_he, demo_he_size},
                                       {"messages/th.po", demo_th, demo_th_size},
                                       {"messages/ja.json", demo_ja, demo_ja_size},
                                       {"messages/faulty_pl.json", demo_pl, demo_pl_size}}};
  for (const File& file : files) {
    if (name == file.name) return {reinterpret_cast<const char*>(file.bytes), file.size};
  }
  return {};
}

namespace {

Image drawn(Scene& scene, double seconds) {
  for (double now = 0; now < seconds; now += 1 / 60.0) scene.step(now);
  scene.step(seconds);
  SoftwareStage stage(1280, 800);
  scene.draw(stage);
  return stage.take();
}

}  // namespace

Image draw_speech() { return drawn(*make_speech(demo_file), 4.1); }

Image draw_typed_log() {
  const std::unique_ptr<Scene> scene = make_typed_log(demo_file);
  for (int i = 0; i < 2; ++i) scene->press(Key::up, false, false);
  scene->press(Key::home, false, false);
  for (int i = 0; i < 5; ++i) scene->press(Key::right, true, true);
  return drawn(*scene, 0.1);
}

Image draw_ticker() { return drawn(*make_ticker(demo_file), 13.5); }

Image draw_worst_messages() {
  std::vector<Catalog> catalogs;
  catalogs.push_back(value_or_give_up(read_json_catalog(demo_file("messages/en.json"), "en")));
  catalogs.push_back(value_or_give_up(read_json_catalog(demo_file("messages/faulty_pl.json"), "pl")));
  catalogs.push_back(make_pseudo(catalogs[0]));
  StyleBook styles;
  for (const NamedStyle& style : value_or_give_up(read_styles(demo_file("styles.json")))) {
    value_or_give_up(styles.set(style));
  }
  LookBook looks;
  for (const NamedLook& look : value_or_give_up(read_looks(demo_file("looks.json")))) {
    value_or_give_up(looks.set(look.name, look.look));
  }
  const FontBook fonts = demo_fonts();
  MessageCheck check;
  check.fonts = fonts.make_stack();
  check.families = &fonts, check.styles = &styles, check.markup = markup_or_plain;
  return value_or_give_up(draw_overflows(check_messages(catalogs, check), check, looks));
}

}  // namespace grafema::tool
