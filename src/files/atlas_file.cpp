// SPDX-License-Identifier: MIT
// Writes baked atlases: pages first, the descriptor last.
#include <fmt/format.h>

#include <filesystem>

#include "files/json.hpp"
#include "grafema/files.hpp"

namespace grafema {
namespace {

using detail::Json;
using detail::number;

std::string page_path(const std::string& prefix, std::size_t page) { return fmt::format("{}-{}.png", prefix, page); }

Json glyph_row(const AtlasGlyph& glyph) {
  Json row = {{"strike", glyph.strike}, {"glyph", index_of(glyph.glyph)}};
  Json codepoints = Json::array();
  for (const char32_t c : glyph.codepoints) codepoints.push_back(static_cast<std::uint32_t>(c));
  row["codepoints"] = std::move(codepoints);
  if (glyph.page) {
    row["page"] = *glyph.page;
    row["cell"] = {glyph.cell.x, glyph.cell.y, glyph.cell.width, glyph.cell.height};
    row["offset"] = {number(glyph.offset.x), number(glyph.offset.y)};
  }
  row["advance"] = number(glyph.advance);
  return row;
}

Json classes_row(const std::vector<std::vector<GlyphId>>& classes) {
  Json rows = Json::array();
  for (const std::vector<GlyphId>& members : classes) {
    Json row = Json::array();
    for (const GlyphId glyph : members) row.push_back(index_of(glyph));
    rows.push_back(std::move(row));
  }
  return rows;
}

Json kerning_row(const AtlasKerning& kerning) {
  Json pairs = Json::array(), values = Json::array();
  for (const AtlasKerning::Pair& pair : kerning.pairs) pairs.push_back({index_of(pair.left), index_of(pair.right), number(pair.value)});
  for (std::size_t row = 0; row < kerning.first.size(); ++row) {
    Json line = Json::array();
    for (std::size_t column = 0; column < kerning.second.size(); ++column) {
      line.push_back(number(kerning.values[row * kerning.second.size() + column]));
    }
    values.push_back(std::move(line));
  }
  return {{"strike", kerning.strike}, {"pairs", std::move(pairs)}, {"first", classes_row(kerning.first)},
          {"second", classes_row(kerning.second)}, {"values", std::move(values)}};
}

Json descriptor(const std::string& prefix, const Atlas& atlas) {
  Json document = {{"format", "grafema-atlas"}, {"version", 1}, {"key", atlas.key}};
  for (const char* list : {"pages", "faces", "strikes", "glyphs", "kerning"}) document[list] = Json::array();
  for (std::size_t i = 0; i < atlas.pages.size(); ++i) {
    const Image& image = atlas.pages[i].image;
    document["pages"].push_back({{"image", std::filesystem::path(page_path(prefix, i)).filename().string()},
                                 {"kind", to_string(atlas.pages[i].kind)}, {"width", image.width()}, {"height", image.height()},
                                 {"hash", fmt::format("{:016x}", pixel_hash(image))}});
  }
  for (const AtlasFace& face : atlas.faces) {
    document["faces"].push_back({{"id", fmt::format("{:016x}", static_cast<std::uint64_t>(face.id))}, {"family", face.family},
                                 {"style", face.style}, {"axes", Json::object()}, {"copyright", face.copyright}, {"license", face.license}});
  }
  for (const Strike& s : atlas.strikes) {
    document["strikes"].push_back({{"face", s.face}, {"kind", to_string(s.kind)}, {"size", number(s.size)}, {"reach", number(s.reach)},
                                   {"padding", number(s.padding)}, {"ascent", number(s.lines.ascent)},
                                   {"descent", number(s.lines.descent)}, {"line_gap", number(s.lines.line_gap)}});
  }
  for (const AtlasGlyph& glyph : atlas.glyphs) document["glyphs"].push_back(glyph_row(glyph));
  for (const AtlasKerning& kerning : atlas.kerning) document["kerning"].push_back(kerning_row(kerning));
  return document;
}

}  // namespace

FileResult<std::vector<std::string>> save_atlas(const std::string& prefix, const Atlas& atlas) {
  std::vector<std::string> paths;
  for (std::size_t i = 0; i < atlas.pages.size(); ++i) {
    paths.push_back(page_path(prefix, i));
    if (FileResult<void> saved = save_png(paths.back(), atlas.pages[i].image); !saved) return tl::unexpected(saved.error());
  }
  paths.push_back(prefix + ".json");
  if (FileResult<void> saved = save_text(paths.back(), detail::to_lines(descriptor(prefix, atlas))); !saved) {
    return tl::unexpected(saved.error());
  }
  return paths;
}

}  // namespace grafema
