// SPDX-License-Identifier: MIT
// Shared inputs of the benchmarks.
#include <cstdio>
#include <cstdlib>

#include "bench.hpp"

namespace grafema::bench {

std::shared_ptr<const Face> sans() {
  static const std::shared_ptr<const Face> face = [] {
    const auto data = FontData::read(kSansPath);
    const auto opened = data ? Face::open(*data) : Result<std::shared_ptr<const Face>>(fail(data.error()));
    if (!opened) {
      std::fprintf(stderr, "%s\n", describe(opened.error(), kSansPath).c_str());
      std::exit(1);
    }
    return *opened;
  }();
  return face;
}

const std::vector<NamedOutline>& ascii_outlines() {
  static const std::vector<NamedOutline> outlines = [] {
    std::vector<NamedOutline> list;
    for (char32_t c = 0x21; c < 0x7F; ++c) {
      NamedOutline outline{sans()->find_glyph(c), {}};
      if (!sans()->read_outline(outline.glyph, outline.contours)) continue;
      unite(outline.contours);  // as a bake does, once for all sizes
      list.push_back(std::move(outline));
    }
    return list;
  }();
  return outlines;
}

}  // namespace grafema::bench
