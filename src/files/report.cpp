// SPDX-License-Identifier: MIT
// The JSON documents that the command prints.
#include <fmt/format.h>

#include "files/json.hpp"
#include "grafema/files.hpp"
#include "grafema/unicode_blocks.hpp"

namespace grafema {
namespace {

using detail::Json;
using detail::number;

/// Whole numbers print without a fraction.
Json font_units(float value) { return static_cast<std::int64_t>(value); }

Json tag_list(const std::vector<Tag>& tags) {
  Json list = Json::array();
  for (const Tag tag : tags) {
    std::string text = to_string(tag);
    while (text.ends_with(' ')) text.pop_back();
    list.push_back(std::move(text));
  }
  return list;
}

const char* outline_name(OutlineKind kind) {
  constexpr const char* kNames[] = {"none", "glyf", "cff", "cff2"};
  return kNames[static_cast<std::size_t>(kind)];
}

const char* kerning_name(KerningSource source) {
  constexpr const char* kNames[] = {"none", "kern", "gpos"};
  return kNames[static_cast<std::size_t>(source)];
}

const char* embedding_name(Embedding embedding) {
  constexpr const char* kNames[] = {"installable", "editable", "preview", "restricted"};
  return kNames[static_cast<std::size_t>(embedding)];
}

void add_facts(const Face& face, Json& row) {
  const FaceFacts facts = face.facts();
  const LineMetrics lines = face.line_metrics();
  row["outlines"] = outline_name(facts.outlines);
  row["glyph_count"] = facts.glyph_count;
  row["units_per_em"] = font_units(face.units_per_em());
  row["ascent"] = font_units(lines.ascent);
  row["descent"] = font_units(lines.descent);
  row["line_gap"] = font_units(lines.line_gap);
  row["cap_height"] = font_units(facts.cap_height);
  row["x_height"] = font_units(facts.x_height);
  row["weight_class"] = facts.weight_class;
  row["width_class"] = facts.width_class;
  row["italic"] = facts.italic;
  row["monospaced"] = facts.monospaced;
  row["crisp_sizes"] = Json::array();
  for (int times = 1; facts.crisp_size > 0 && times <= 4; ++times) row["crisp_sizes"].push_back(number(facts.crisp_size * static_cast<float>(times)));
  row["scripts"] = tag_list(face.scripts());
  row["features"] = tag_list(face.features());
  row["kerning"] = kerning_name(face.kerning_source());
  row["embedding"] = embedding_name(facts.embedding);
  row["bitmap_only"] = facts.bitmap_only;
  row["subsetting"] = facts.subsetting;
}

Json face_row(const Face& face, std::size_t index) {
  const FaceNames names = face.names();
  Json row = {{"index", index}, {"family", names.family}, {"style", names.style}, {"full_name", names.full_name}, {"version", names.version}};
  add_facts(face, row);
  row["copyright"] = names.copyright;
  row["license"] = names.license;
  row["license_url"] = names.license_url;
  row["codepoint_count"] = face.characters().size();
  row["blocks"] = Json::array();
  for (const BlockCoverage& block : block_coverage(face)) {
    row["blocks"].push_back({{"name", block.name}, {"covered", block.covered}, {"assigned", block.assigned}});
  }
  return row;
}

}  // namespace

std::string measure_json(const FontStack& stack, std::string_view text, const Paragraph& p, const Notes& notes) {
  Json document = {{"size", number(p.size)}, {"text", std::string(text)}};
  document["width"] = number(p.advance_box.width());
  document["height"] = number(p.advance_box.height());
  document["ascent"] = number(p.ascent);
  document["descent"] = number(p.descent);
  document["line_height"] = number(p.line_height);
  const Rect ink = ink_box(stack, p);
  document["ink"] = {{"left", number(ink.left)}, {"top", number(ink.top)}, {"right", number(ink.right)}, {"bottom", number(ink.bottom)}};
  for (const char* list : {"lines", "glyphs", "missing", "notes"}) document[list] = Json::array();
  for (const Line& line : p.lines) {
    document["lines"].push_back({{"start", line.start}, {"end", line.end}, {"left", number(line.left)},
                                 {"baseline", number(line.baseline)}, {"width", number(line.width)}});
  }
  for (const PlacedGlyph& g : p.glyphs) {
    document["glyphs"].push_back({{"face", g.face}, {"glyph", index_of(g.glyph)}, {"text_start", g.text_start},
                                  {"x", number(g.pen.x)}, {"y", number(g.pen.y)}, {"advance", number(g.advance)}});
  }
  for (const Note& note : notes.all()) {
    if (note.kind == NoteKind::missing_character) {
      document["missing"].push_back(fmt::format("U+{:04X}", note.character));
    } else {
      document["notes"].push_back(describe(note));
    }
  }
  return detail::to_lines(document);
}

Result<std::string> inspect_json(const FontData& data, std::string_view file) {
  const Result<std::size_t> count = Face::count(data);
  if (!count) return fail(count.error());
  const bool collection = *count > 1 || (data.bytes().size() >= 4 && data.bytes()[0] == std::byte{'t'} && data.bytes()[3] == std::byte{'f'});
  Json document = {{"file", std::string(file)}, {"container", collection ? "collection" : "sfnt"}, {"faces", Json::array()}};
  for (std::size_t i = 0; i < *count; ++i) {
    const auto face = Face::open(data, i);
    if (!face) return fail(face.error());
    document["faces"].push_back(face_row(**face, i));
  }
  return detail::to_lines(document);
}

}  // namespace grafema
