// SPDX-License-Identifier: MIT
// Opens every font file below a folder and takes all that its faces offer.
#include <fmt/format.h>

#include <algorithm>
#include <chrono>
#include <filesystem>
#include <map>
#include <string>
#include <vector>

#include "grafema/font/face.hpp"
#include "grafema/outline/mesh.hpp"
#include "grafema/outline/triangles.hpp"

namespace {

namespace fs = std::filesystem;
using namespace grafema;

struct Totals {
  std::size_t files = 0, refused = 0, faces = 0, glyphs = 0, empty = 0, contours = 0, points = 0,
              characters = 0, bitmaps = 0, paints = 0, lookups = 0, errors = 0, triangles = 0, solids = 0,
              open = 0;
  double slowest_ms = 0;
  std::string slowest;
};

void complain(const fs::path& path, const Error& error, Totals& totals) {
  constexpr std::size_t kShown = 200;
  if (++totals.errors <= kShown) fmt::print("error: {}\n", describe(error, path.string()));
}

/// Whether every edge of the mesh is passed as often one way as the other.
bool is_closed(const Mesh& mesh) {
  std::map<std::pair<std::array<float, 3>, std::array<float, 3>>, int> edges;
  for (std::size_t i = 0; i < mesh.indices.size(); i += 3) {
    for (std::size_t k = 0; k < 3; ++k) {
      const auto a = mesh.vertices[mesh.indices[i + k]].position,
                 b = mesh.vertices[mesh.indices[i + (k + 1) % 3]].position;
      ++edges[{a, b}];
      --edges[{b, a}];
    }
  }
  return std::all_of(edges.begin(), edges.end(), [](const auto& edge) { return edge.second == 0; });
}

/// Every glyph as triangles; one in seven as a solid letter that must be closed.
void make_solid(const fs::path& path, std::uint32_t glyph, float em, const Contours& outline,
                Totals& totals) {
  Triangles triangles;
  if (const Result<void> made = triangulate(outline, em / 1000, triangles); !made)
    return complain(path, made.error(), totals);
  totals.triangles += triangles.triangle_count();
  if (glyph % 7 != 0) return;
  Mesh mesh;
  const Solid solid{
      .depth = em / 5, .bevel = {.width = em / 50, .back = glyph % 2 == 0}, .tolerance = em / 1000};
  if (const Result<void> made = extrude(outline, solid, mesh); !made)
    return complain(path, made.error(), totals);
  ++totals.solids;
  if (is_closed(mesh)) return;
  ++totals.open, ++totals.errors;
  fmt::print("error: {}: the solid of glyph {} is not closed\n", path.string(), glyph);
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
    make_solid(path, g, face.units_per_em(), outline, totals);
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
  fmt::print("{} triangles, {} solid letters, {} of them not closed\n", totals.triangles, totals.solids,
             totals.open);
  fmt::print("{} errors\n", totals.errors);
  return totals.errors == 0 ? 0 : 1;
}
