// SPDX-License-Identifier: MIT
// Gathers the fonts, looks and styles that the scenes share.
#include <cstdio>
#include <iostream>

#include "demo_face.hpp"
#include "grafema/files/files.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/styles_file.hpp"
#include "stage.hpp"

using namespace grafema;

FontBook demo_fonts() {
  FontBook book;
  Family sans("Quillmere Sans");
  sans.add(demo_face()), sans.add(demo_face(true));
  book.add(std::move(sans));
  // Scripts that it has not, where the system has a face for them.
  for (const auto& [name, file] :
       {std::pair{"Arabic and Hebrew", "dejavu/DejaVuSans.ttf"}, std::pair{"Thai", "tlwg/Waree.ttf"},
        std::pair{"Japanese", "vlgothic/VL-Gothic-Regular.ttf"}}) {
    const auto face = open_face(std::string("/usr/share/fonts/truetype/") + file);
    if (!face) continue;
    Family family(name);
    family.add(*face);
    book.add(std::move(family));
  }
  return book;
}

std::unique_ptr<TextContext> demo_context(const DemoReader& read) {
  FontBook book = demo_fonts();
  auto context = std::make_unique<TextContext>(book.make_stack(), nullptr);
  context->set_fonts_by_name(std::move(book));
  const auto looks = read_looks(read("looks.json"));
  if (!looks) std::cerr << describe(looks.error()) << '\n';
  for (const NamedLook& look : looks.value_or(std::vector<NamedLook>{})) {
    if (!context->looks().set(look.name, look.look))
      std::fprintf(stderr, "look %s refused\n", look.name.c_str());
  }
  const auto styles = read_styles(read("styles.json"));
  if (!styles) std::cerr << describe(styles.error()) << '\n';
  for (const NamedStyle& style : styles.value_or(std::vector<NamedStyle>{})) {
    if (!context->styles().set(style)) std::fprintf(stderr, "style %s refused\n", style.name.c_str());
  }
  const auto signs = demo_signs();
  for (const auto& [name, sign] : {std::pair{"umbrella", U'\uE005'}, std::pair{"warning", U'\uE00C'},
                                   std::pair{"bell", U'\uE004'}, std::pair{"arrow", U'\uE009'}}) {
    Icon icon;
    icon.face = signs, icon.glyph = signs->find_glyph(sign);
    context->icons().set(name, icon);
  }
  context->messages().set_markup(markup_or_plain);
  return context;
}
