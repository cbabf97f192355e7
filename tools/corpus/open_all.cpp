// SPDX-License-Identifier: MIT
// Opens every font file below a folder and takes all that its faces offer.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <filesystem>
#include <string>
#include <vector>

#include "grafema/font/face.hpp"

namespace {

namespace fs = std::filesystem;
using namespace grafema;

struct Totals {
  std::size_t files = 0, refused = 0, faces = 0, glyphs = 0, empty = 0, contours = 0, points = 0,
              characters = 0, bitmaps = 0, paints = 0, lookups = 0, errors = 0;
  double slowest_ms = 0;
  std::string slowest;
};

void complain(const fs::path& path, const Error& error, Totals& totals) {
  constexpr std::size_t kShown = 200;
  if (++totals.errors <= kShown) fmt::print("error: {}\n", describe(error, path.string()));
}

void take_glyphs(const fs::path& path, const Face& face, Totals& totals) {
  Contours outline;
  for (std::uint32_t g = 0; g < face.glyph_count(); ++g) {
    const auto start = std::chrono::steady_clock::now();
    const Result<void> read = face.read_outline(GlyphId{g}, outline);
    const double ms =
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
    if (ms > totals.slowest_ms) {
      totals.slowest_ms = ms, totals.slowest = fmt::format("{} glyph {}", path.filename().string(), g);
    }
    if (!read) complain(path, read.error(), totals);
    ++totals.glyphs;
    totals.empty += outline.commands.empty() ? 1 : 0;
    totals.contours += static_cast<std::size_t>(
        std::count(outline.commands.begin(), outline.commands.end(), PathCommand::closepath));
    totals.points += outline.points.size();
    const auto paint = face.read_paint(GlyphId{g});
    if (!paint) complain(path, paint.error(), totals);
    if (paint && *paint) totals.paints += (*paint)->paints.size();
    if (face.find_bitmap(GlyphId{g}, 128)) ++totals.bitmaps;
    (void)face.kerning(GlyphId{g}, GlyphId{(g * 7) % face.glyph_count()}, tag("latn"));
    (void)face.vertical_origin(GlyphId{g});
    (void)face.glyph_name(GlyphId{g});
  }
}

void take_face(const fs::path& path, const Face& face, Totals& totals) {
  ++totals.faces;
  totals.characters += face.characters().size();
  (void)face.facts();
  (void)face.names();
  for (std::size_t i = 0; i < face.substitutions().lookup_count(); ++i) {
    totals.lookups += face.substitutions().substitution(i).rules.empty() ? 0 : 1;
  }
  for (std::size_t i = 0; i < face.positions().lookup_count(); ++i) {
    totals.lookups += face.positions().positioning(i).rules.empty() ? 0 : 1;
  }
  take_glyphs(path, face, totals);
}

void take_file(const fs::path& path, Totals& totals) {
  const Result<FontData> data = FontData::map(path.string());
  if (!data || !find_container(data->bytes())) return;
  ++totals.files;
  const Result<FontData> plain = unpack(*data);
  const Result<std::size_t> count = plain ? Face::count(*plain) : Result<std::size_t>(fail(plain.error()));
  if (!count) {
    ++totals.refused;
    return complain(path, count.error(), totals);
  }
  for (std::size_t i = 0; i < *count; ++i) {
    const auto face = Face::open(*plain, i);
    if (!face) {
      totals.refused += i == 0 ? 1 : 0;
      complain(path, face.error(), totals);
      continue;
    }
    take_face(path, **face, totals);
    // Variable faces also at both ends of every axis.
    for (const Axis& axis : (*face)->axes()) {
      for (const float value : {axis.min, axis.max}) {
        const AxisValue at[] = {{axis.tag, value}};
        take_face(path, *(*face)->instance(at), totals);
      }
    }
  }
}

}  // namespace

int main(int argc, char** argv) {
  if (argc != 2 || !fs::is_directory(argv[1])) {
    fmt::print(stderr, "usage: open_all DIR\n");
    return 2;
  }
  Totals totals;
  std::vector<fs::path> paths;
  for (const auto& entry :
       fs::recursive_directory_iterator(argv[1], fs::directory_options::skip_permission_denied)) {
    if (entry.is_regular_file()) paths.push_back(entry.path());
  }
  std::sort(paths.begin(), paths.end());
  for (const fs::path& path : paths) take_file(path, totals);
  fmt::print(
      "{} files, {} refused, {} faces (instances included), {} glyphs ({} without outline), {} contours, {} "
      "points\n",
      totals.files, totals.refused, totals.faces, totals.glyphs, totals.empty, totals.contours,
      totals.points);
  fmt::print("{} characters, {} lookups, {} embedded pictures, {} paints; slowest glyph {:.1f} ms: {}\n",
             totals.characters, totals.lookups, totals.bitmaps, totals.paints, totals.slowest_ms,
             totals.slowest);
  fmt::print("{} errors\n", totals.errors);
  return totals.errors == 0 ? 0 : 1;
}
