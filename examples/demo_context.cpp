// SPDX-License-Identifier: MIT
// Gathers the fonts, looks and styles that the scenes share.
#include <cstdio>

#include "grafema/files/files.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/files/styles_file.hpp"
#include "stage.hpp"

using namespace grafema;

FontBook demo_fonts() {
  FontBook book;
  const auto add = [&](const char* name, std::initializer_list<const char*> files) {
    Family family(name);
    for (const char* file : files) {
      const auto face = open_face(std::string("/usr/share/fonts/truetype/") + file);
      if (face) family.add(*face);
    }
    if (!family.members().empty()) book.add(std::move(family));
  };
  add("Sans", {"dejavu/DejaVuSans.ttf", "dejavu/DejaVuSans-Bold.ttf"});
  add("Thai", {"tlwg/Waree.ttf"});
  add("Japanese", {"vlgothic/VL-Gothic-Regular.ttf"});
  if (book.empty()) {
    Family dot("Quillmere Dot");
    dot.add(built_in_face());
    book.add(std::move(dot));
  }
  return book;
}

std::unique_ptr<TextContext> demo_context(const DemoReader& read) {
  FontBook book = demo_fonts();
  auto context = std::make_unique<TextContext>(book.make_stack(), nullptr);
  context->set_fonts_by_name(std::move(book));
  const auto looks = read_looks(read("looks.json"));
  if (!looks) print_error(looks.error());
  for (const NamedLook& look : looks.value_or(std::vector<NamedLook>{})) {
    if (!context->looks().set(look.name, look.look))
      std::fprintf(stderr, "look %s refused\n", look.name.c_str());
  }
  const auto styles = read_styles(read("styles.json"));
  if (!styles) print_error(styles.error());
  for (const NamedStyle& style : styles.value_or(std::vector<NamedStyle>{})) {
    if (!context->styles().set(style)) std::fprintf(stderr, "style %s refused\n", style.name.c_str());
  }
  // Signs of the face that have a character serve as icons.
  const auto sans = context->fonts()[0].metrics;
  for (const auto& [name, sign] : {std::pair{"umbrella", U'\u2602'}, std::pair{"warning", U'\u26A0'},
                                   std::pair{"bell", U'\u266A'}, std::pair{"arrow", U'\u2192'}}) {
    Icon icon;
    icon.face = sans, icon.glyph = sans->find_glyph(sign);
    context->icons().set(name, icon);
  }
  context->messages().set_markup(markup_or_plain);
  return context;
}
