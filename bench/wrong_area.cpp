// SPDX-License-Identifier: MIT
// Over whole faces: the wrong area of magnified pictures by three channels and by one.
#include <CLI/CLI.hpp>
#include <cstdio>

#include "grafema/font/face.hpp"
#include "support/magnified.hpp"

using namespace grafema;

namespace {

/// What was found in one face at one size.
struct Sums {
  long single = 0, median = 0, glyphs = 0, worse = 0, far = 0;
  long single_at_corners = 0, median_at_corners = 0;
  float farthest = 0;
};

Sums measure(const Face& face, float size, std::uint32_t count, const test::Magnifying& how, bool list) {
  constexpr float kFar = 0.5F;  // pixels that a sample may lie on the wrong side
  RasterScratch scratch;
  Sums sums;
  for (std::uint32_t g = 0; g < std::min(face.glyph_count(), count); ++g) {
    Contours outline;
    if (!face.read_outline(GlyphId{g}, outline) || outline.commands.empty()) continue;
    unite(outline);
    const Result<test::WrongSamples> wrong =
        test::count_wrong(outline, size / face.units_per_em(), how, scratch);
    if (!wrong) continue;
    ++sums.glyphs, sums.single += wrong->single, sums.median += wrong->median;
    sums.single_at_corners += wrong->single_at_corners, sums.median_at_corners += wrong->median_at_corners;
    sums.worse += wrong->median > wrong->single ? 1 : 0;
    sums.far += wrong->farthest > kFar ? 1 : 0;
    if (list && (wrong->median > wrong->single || wrong->farthest > kFar)) {
      std::printf(
          "  glyph %u: %ld samples, %ld with one channel; farthest %.2f px at %.1f, %.1f of its cell\n", g,
          wrong->median, wrong->single, static_cast<double>(wrong->farthest),
          static_cast<double>(wrong->where.x), static_cast<double>(wrong->where.y));
    }
    sums.farthest = std::max(sums.farthest, wrong->farthest);
  }
  return sums;
}

double share(long three, long one) {
  return one > 0 ? static_cast<double>(three) / static_cast<double>(one) : 0;
}

void print(const std::string& name, float size, const Sums& s) {
  std::printf(
      "%-36s %3.0f px %6ld glyphs  wrong %9ld with one channel %9ld with three  share %.3f, at "
      "corners %.3f  %ld worse  "
      "farthest %.2f px  %ld beyond half a pixel\n",
      name.c_str(), static_cast<double>(size), s.glyphs, s.single, s.median, share(s.median, s.single),
      share(s.median_at_corners, s.single_at_corners), s.worse, static_cast<double>(s.farthest), s.far);
}

}  // namespace

int main(int argc, char** argv) {
  CLI::App app{
      "Wrong area of magnified distance pictures, three channels against one, and the farthest sample that "
      "one "
      "channel has right and three have wrong. None named: the built-in face. Returns 1 where a sample lies "
      "half a "
      "pixel on the wrong side"};
  std::vector<std::string> fonts;
  std::uint32_t count = 900;
  int bits = 8;
  std::vector<float> sizes = {32};
  bool list = false;
  test::Magnifying how;
  app.add_option("FONT", fonts);
  app.add_option("--glyphs", count, "The first N of each face")->capture_default_str();
  app.add_option("--size", sizes, "Pixels per em; several may be given")->capture_default_str();
  app.add_flag("--list", list, "Names each glyph that is worse with three channels, or far off");
  app.add_option("--bits", bits, "8 or 16")->capture_default_str()->check(CLI::IsMember({8, 16}));
  app.add_option("--times", how.times, "Samples along a side of a pixel")
      ->capture_default_str()
      ->check(CLI::Range(2, 64));
  app.add_option("--reach", how.reach)->capture_default_str()->check(CLI::Range(1, 64));
  app.add_option("--either", how.either, "Samples this near to the edge count for neither")
      ->capture_default_str();
  CLI11_PARSE(app, argc, argv);
  how.levels = bits == 8 ? 255 : 65535;
  long far = 0;
  const auto run = [&](const Face& face, const std::string& name) {
    for (const float size : sizes) {
      const Sums sums = measure(face, size, count, how, list);
      print(name, size, sums);
      far += sums.far;
    }
  };
  if (fonts.empty()) run(*built_in_face(), "Quillmere Dot");
  for (const std::string& path : fonts) {
    const auto data = FontData::read(path);
    const auto face = data ? Face::open(*data) : fail(data.error());
    if (!face) {
      std::fprintf(stderr, "%s can't be opened\n", path.c_str());
      return 1;
    }
    run(**face, path.substr(path.rfind('/') + 1));
  }
  return far == 0 ? 0 : 1;
}
