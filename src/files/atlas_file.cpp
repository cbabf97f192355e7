// SPDX-License-Identifier: MIT
// Writes baked atlases: pages first, the descriptor last.
#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <iterator>

#include "base/progress.hpp"
#include "files/json.hpp"
#include "files/outputs/kept_pages.hpp"
#include "files/outputs/staged_files.hpp"
#include "grafema/atlas/bake.hpp"
#include "grafema/base/workers.hpp"
#include "grafema/files/files.hpp"
#include "grafema/files/output_files.hpp"

namespace grafema {
namespace {

using detail::Json;
using detail::number;

std::string page_path(const std::string& prefix, std::size_t page) {
  return fmt::format("{}-{}.png", prefix, page);
}

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
  if (glyph.phase != 0) row["phase"] = glyph.phase;
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
  for (const AtlasKerning::Pair& pair : kerning.pairs) {
    pairs.push_back({index_of(pair.left), index_of(pair.right), number(pair.value)});
  }
  for (std::size_t row = 0; row < kerning.first.size(); ++row) {
    Json line = Json::array();
    for (std::size_t column = 0; column < kerning.second.size(); ++column) {
      line.push_back(number(kerning.values[row * kerning.second.size() + column]));
    }
    values.push_back(std::move(line));
  }
  return {{"strike", kerning.strike},
          {"pairs", std::move(pairs)},
          {"first", classes_row(kerning.first)},
          {"second", classes_row(kerning.second)},
          {"values", std::move(values)}};
}

Json descriptor(const std::string& prefix, const Atlas& atlas) {
  Json document = {{"format", "grafema-atlas"}, {"version", 1}, {"key", atlas.key}};
  for (const char* list : {"pages", "faces", "strikes", "glyphs", "kerning"}) document[list] = Json::array();
  for (std::size_t i = 0; i < atlas.pages.size(); ++i) {
    const Image& image = atlas.pages[i].image;
    document["pages"].push_back({{"image", std::filesystem::path(page_path(prefix, i)).filename().string()},
                                 {"kind", to_string(atlas.pages[i].kind)},
                                 {"width", image.width()},
                                 {"height", image.height()},
                                 {"hash", fmt::format("{:016x}", pixel_hash(image))}});
  }
  for (const AtlasFace& face : atlas.faces) {
    Json axes = Json::object();
    for (const AxisValue& axis : face.axes) axes[to_string(axis.axis)] = number(axis.value);
    document["faces"].push_back({{"id", fmt::format("{:016x}", static_cast<std::uint64_t>(face.id))},
                                 {"family", face.family},
                                 {"style", face.style},
                                 {"axes", std::move(axes)},
                                 {"copyright", face.copyright},
                                 {"license", face.license}});
  }
  for (const Strike& s : atlas.strikes) {
    document["strikes"].push_back({{"face", s.face},
                                   {"kind", to_string(s.kind)},
                                   {"size", number(s.size)},
                                   {"reach", number(s.reach)},
                                   {"padding", number(s.padding)},
                                   {"ascent", number(s.lines.ascent)},
                                   {"descent", number(s.lines.descent)},
                                   {"line_gap", number(s.lines.line_gap)}});
  }
  for (const AtlasGlyph& glyph : atlas.glyphs) document["glyphs"].push_back(glyph_row(glyph));
  for (const AtlasKerning& kerning : atlas.kerning) document["kerning"].push_back(kerning_row(kerning));
  return document;
}

bool is_identifier(const std::string& name) {
  const auto letter = [](char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_'; };
  return !name.empty() && letter(name[0]) &&
         std::all_of(name.begin(), name.end(), [&](char c) { return letter(c) || (c >= '0' && c <= '9'); });
}

/// Bytes as the elements of an array, 32 a line.
void append_bytes(std::string& out, std::string_view name, std::span<const std::byte> bytes) {
  fmt::format_to(std::back_inserter(out), "inline constexpr unsigned char {}[{}] = {{", name, bytes.size());
  for (std::size_t i = 0; i < bytes.size(); ++i) {
    fmt::format_to(std::back_inserter(out), "{}{},", i % 32 == 0 ? "\n" : "",
                   std::to_integer<unsigned>(bytes[i]));
  }
  out += "\n};\n";
}

/// Where pages of the atlas that is there stay until its descriptor is replaced; empty where there is none.
std::vector<std::string> pages_kept_for(const std::string& prefix, std::size_t count) {
  std::vector<std::string> names(count);
  const ReplaceableReads looked_at;
  std::error_code unknown;
  if (!std::filesystem::is_regular_file(prefix + ".json", unknown)) return names;
  const FileResult<std::string> text = load_text(prefix + ".json");
  const Result<Json> document = text ? detail::read_json(*text) : Result<Json>(fail(text.error().error));
  if (!document || !document->is_object() || !document->contains("pages")) return names;
  std::size_t page = 0;
  for (const Json& row : (*document)["pages"]) {
    const auto hash = row.is_object() ? row.find("hash") : row.end();
    const bool known = row.is_object() && hash != row.end() && hash->is_string();
    if (page < count && known && detail::is_page_hash(hash->get_ref<const std::string&>())) {
      names[page] = detail::kept_page(page_path(prefix, page), *hash);
    }
    ++page;
  }
  return names;
}

/// After the commit, removes pages that ended runs kept.
void remove_kept_pages_of(const std::string& prefix) {
  namespace fs = std::filesystem;
  const fs::path folder = fs::path(prefix).parent_path();
  const std::string first = fs::path(prefix).filename().string() + "-";
  std::error_code error;
  for (fs::directory_iterator at(folder.empty() ? "." : folder, error);
       !error && at != fs::directory_iterator(); at.increment(error)) {
    const std::string name = at->path().filename().string();
    const std::size_t end = name.rfind(".png.");
    const bool is_kept = name.starts_with(first) && end != std::string::npos && end > first.size() - 1 &&
                         name.find_first_not_of("0123456789", first.size()) == end &&
                         detail::is_page_hash(name.substr(end + 5));
    if (is_kept) detail::staged_here()->remove_at_end((folder / name).string());
  }
}

}  // namespace

FileResult<void> save_atlas_header(const std::string& path, const std::string& name, const Atlas& atlas) {
  const auto refuse = [&path](const Error& error) { return tl::unexpected<FileError>({error, path}); };
  if (!is_identifier(name)) return refuse(make_error(ErrorKind::bad_value, "a C++ identifier", name));
  std::string text = fmt::format(
      "// Made by grafema bake, key {}.\n#pragma once\n\n#include <array>\n#include <cstddef>\n#include "
      "<span>\n#include <string_view>\n\n"
      "#include <grafema/files/files.hpp>\n\nnamespace {} {{\n\n",
      atlas.key, name);
  std::string list;
  for (std::size_t i = 0; i < atlas.pages.size(); ++i) {
    const Result<std::vector<std::byte>> png = make_png(atlas.pages[i].image);
    if (!png) return refuse(png.error());
    append_bytes(text, fmt::format("page_{}", i), *png);
    list += fmt::format("std::as_bytes(std::span(page_{})), ", i);
  }
  const std::string json = detail::to_lines(descriptor(name, atlas));
  append_bytes(text, "descriptor", std::as_bytes(std::span(json.data(), json.size())));
  text += fmt::format(
      "\ninline grafema::Result<grafema::Atlas> load() {{\n  const std::array<std::span<const std::byte>, "
      "{}> pages = {{{}}};\n"
      "  return grafema::read_atlas({{reinterpret_cast<const char*>(descriptor), sizeof descriptor}}, "
      "pages);\n}}\n\n}}  // namespace {}\n",
      atlas.pages.size(), list, name);
  std::error_code
      none;  // a header that is the same keeps its time, and what includes it is not compiled again
  if (std::filesystem::exists(path, none)) {
    const ReplaceableReads looked_at;
    if (const FileResult<std::string> before = load_text(path); before && *before == text) return {};
  }
  return save_text(path, text);
}

FileResult<std::vector<std::string>> save_atlas(const std::string& prefix, const Atlas& atlas,
                                                const BakeControl& control) {
  const std::size_t count = atlas.pages.size();
  std::vector<Result<std::vector<std::byte>>> made(count);
  detail::Progress progress(control.progress, count);
  progress.add(0);
  run_parts(control.workers, count, [&](std::size_t i) {
    if (!progress.go_on()) return;
    made[i] = make_png(atlas.pages[i].image);
    progress.add(1);
  });
  if (!progress.go_on()) {
    return tl::unexpected<FileError>({make_error(ErrorKind::interrupted, "leave to go on"), prefix});
  }
  OutputFiles outputs;
  const std::vector<std::string> before = pages_kept_for(prefix, count);
  std::vector<std::string> paths;
  FileResult<void> saved;
  for (std::size_t i = 0; i < count && saved; ++i) {
    paths.push_back(page_path(prefix, i));
    if (!made[i]) return tl::unexpected<FileError>({made[i].error(), paths.back()});
    saved = detail::save_keeping(paths.back(), *made[i], before[i]);
    *made[i] = {};
  }
  paths.push_back(prefix + ".json");
  if (saved) saved = save_text(paths.back(), detail::to_lines(descriptor(prefix, atlas)));
  remove_kept_pages_of(prefix);
  if (saved) saved = outputs.commit();
  if (!saved) return tl::unexpected(saved.error());
  return paths;
}

}  // namespace grafema
