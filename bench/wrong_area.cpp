// SPDX-License-Identifier: MIT
// Over whole faces: the wrong area of magnified pictures by three channels and by one. Cells of 32 pixels.
#include <CLI/CLI.hpp>
#include <cstdio>

#include "grafema/font/face.hpp"
#include "support/magnified.hpp"

using namespace grafema;

namespace {

void measure(const Face& face, const std::string& name, std::uint32_t count, const test::Magnifying& how) {
  RasterScratch scratch;
  long single = 0, median = 0;
  int glyphs = 0, worse = 0;
  for (std::uint32_t g = 0; g < std::min(face.glyph_count(), count); ++g) {
    Contours outline;
    if (!face.read_outline(GlyphId{g}, outline) || outline.verbs.empty()) continue;
    unite(outline);
    const Result<test::WrongSamples> wrong =
        test::count_wrong(outline, 32 / face.units_per_em(), how, scratch);
    if (!wrong) continue;
    ++glyphs, single += wrong->single, median += wrong->median;
    if (wrong->median <= wrong->single) continue;
    ++worse;
    std::printf("  glyph %u: %ld samples, %ld with one channel\n", g, wrong->median, wrong->single);
  }
  std::printf("%-28s %6d glyphs  %10ld wrong with one channel  %10ld with three  share %.3f  %d worse\n",
              name.c_str(), glyphs, single, median,
              single > 0 ? static_cast<double>(median) / static_cast<double>(single) : 0.0, worse);
}

}  // namespace

int main(int argc, char** argv) {
  CLI::App app{
      "Wrong area of magnified distance pictures, three channels against one; none named: the built-in face"};
  std::vector<std::string> fonts;
  std::uint32_t count = 900;
  int bits = 8;
  test::Magnifying how;
  app.add_option("FONT", fonts);
  app.add_option("--glyphs", count, "The first N of each face")->capture_default_str();
  app.add_option("--bits", bits, "8 or 16")->capture_default_str()->check(CLI::IsMember({8, 16}));
  app.add_option("--times", how.times, "Samples along a side of a pixel")
      ->capture_default_str()
      ->check(CLI::Range(2, 64));
  app.add_option("--reach", how.reach)->capture_default_str()->check(CLI::Range(1, 64));
  app.add_option("--either", how.either, "Samples this near to the edge count for neither")
      ->capture_default_str();
  CLI11_PARSE(app, argc, argv);
  how.levels = bits == 8 ? 255 : 65535;
  if (fonts.empty()) measure(*built_in_face(), "Quillmere Dot", count, how);
  for (const std::string& path : fonts) {
    const auto data = FontData::read(path);
    const auto face = data ? Face::open(*data) : fail(data.error());
    if (!face) {
      std::fprintf(stderr, "%s can't be opened\n", path.c_str());
      return 1;
    }
    measure(**face, path.substr(path.rfind('/') + 1), count, how);
  }
}
