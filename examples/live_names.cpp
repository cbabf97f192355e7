// SPDX-License-Identifier: MIT
// Ten thousand names that follow people through the rain, a thousand of them never seen before.
#include <array>
#include <cmath>
#include <cstdio>
#include <iostream>
#include <string>
#include <vector>

#include "demo_face.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/grafema.hpp"
#include "grafema/window/text_window.hpp"

using namespace grafema;

namespace {

constexpr std::size_t kPeople = 10000, kStrangers = 1000;

/// A number that depends on its arguments alone, 0..below-1.
unsigned scattered(unsigned a, unsigned b, unsigned below) {
  unsigned h = a * 0x9E3779B9U + b * 0x85EBCA6BU + 1;
  h = (h ^ h >> 16U) * 0x7FEB352DU;
  h = (h ^ h >> 15U) * 0x846CA68BU;
  return (h ^ h >> 16U) % below;
}

std::string known_name(unsigned person) {
  constexpr std::array<const char*, 5> kFirst = {"Ilse", "Tomek", "Wren", "Samar", "Aoife"},
                                       kLast = {"Varga", "Oyelaran", "Achterberg", "Ostrel", "Lindqvist"};
  return std::string(kFirst[scattered(person, 1, 5)]) + " " + kLast[scattered(person, 2, 5)];
}

/// Letters that nobody had before: from Greek, Cyrillic and Armenian.
std::string strange_name(unsigned person) {
  constexpr std::array<std::array<unsigned, 2>, 3> kLetters = {{{0x3B1, 17}, {0x430, 32}, {0x561, 38}}};
  const auto& letters = kLetters[scattered(person, 3, 3)];
  std::string name;
  for (unsigned i = 0; i < 5 + scattered(person, 4, 4); ++i) {
    append_utf8(name, static_cast<char32_t>(letters[0] + scattered(person, 5 + i, letters[1])));
  }
  return name;
}

/// Where somebody is in a city of five by five screens: everyone walks a street up or down, and comes in
/// again at its other end.
PixelPoint place_of(unsigned person, double seconds) {
  constexpr double kWide = 6400, kHigh = 4000;
  const double speed = 20.0 + scattered(person, 20, 40), way = scattered(person, 21, 2) == 0 ? 1 : -1;
  const double along = scattered(person, 22, 64000) / 10.0 + way * speed * seconds;
  return {static_cast<float>(along - std::floor(along / kWide) * kWide - kWide / 2 + 640),
          static_cast<float>(scattered(person, 23, 250) * 16 - kHigh / 2 + 400)};
}

}  // namespace

int main(int argc, char** argv) {
  TextWindow window("Live names", argc, argv);
  ThreadWorkers workers;
  GlyphCacheOptions options;
  options.workers = &workers;
  options.size = 20, options.reach = 3;  // names are small: larger pictures would cost more to draw
  std::shared_ptr<GlyphCache> cache = *GlyphCache::make(options);
  const FontStack fonts{demo_face()};
  if (const auto added = cache->add(fonts); !added) return std::cerr << describe(added.error()) << '\n', 1;
  TextContext context(fonts, cache);
  TextScene names(context);
  const LookId calm = *context.looks().set("calm", plain_look({0.62F, 0.72F, 0.85F, 0.8F}));
  const LookId bright =
      *context.looks().set("new", outlined_look({1, 0.78F, 0.35F, 1}, {0.1F, 0.05F, 0.2F, 0.9F}, 1.2F));
  std::vector<Label> labels(kPeople);
  std::vector<PixelPoint> places(kPeople);
  if (!names.reserve(kPeople, kPeople * 16)) return 1;
  for (unsigned i = 0; i < kPeople; ++i) {
    const bool is_stranger = i >= kPeople - kStrangers;
    labels[i] = names.add(is_stranger ? strange_name(i) : known_name(i));
    labels[i].set_look(is_stranger ? bright : calm);
    labels[i].set_size(is_stranger ? 17.0F : 14.0F);
  }
  while (window.next()) {
    cache->begin_frame();
    for (unsigned i = 0; i < kPeople; ++i) places[i] = place_of(i, window.seconds());
    if (!names.move(labels, places) || !window.draw(names)) break;
  }
  if (!window.result()) return std::cerr << describe(window.result().error()) << '\n', 1;
  std::printf("%zu names, %llu glyphs made\n", names.size(),
              static_cast<unsigned long long>(cache->work().made));
  return 0;
}
