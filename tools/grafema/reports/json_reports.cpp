// SPDX-License-Identifier: MIT
// The JSON documents that the command prints.
#include "reports/json_reports.hpp"

#include <fmt/format.h>

#include <cmath>
#include <cstdlib>
#include "reports/json_lines.hpp"

#include "grafema/base/utf8.hpp"
#include "grafema/font/block_coverage.hpp"
#include "grafema/font/license.hpp"

namespace grafema::tool {
namespace {

/// Whole numbers print without a fraction.
Json font_units(float value) { return static_cast<std::int64_t>(value); }

std::string plain_tag(Tag tag) {
  std::string text = to_string(tag);
  while (text.ends_with(' ')) text.pop_back();
  return text;
}

Json tag_list(const std::vector<Tag>& tags) {
  Json list = Json::array();
  for (const Tag tag : tags) list.push_back(plain_tag(tag));
  return list;
}

Json script_row(const CheckedScript& checked) {
  const auto list = [](const std::vector<ScriptNeed>& needs) {
    constexpr const char* kNeeds[] = {"rules", "joins", "conjuncts", "marks"};
    Json out = Json::array();
    for (const ScriptNeed need : needs) out.push_back(kNeeds[static_cast<std::size_t>(need)]);
    return out;
  };
  return {
      {"script", plain_tag(checked.script)}, {"name", checked.name},     {"characters", checked.characters},
      {"supplied", checked.supplied},        {"met", list(checked.met)}, {"unmet", list(checked.unmet)},
      {"words", describe(checked)}};
}

Json color_list(const ColorKinds& kinds) {
  Json list = Json::array();
  if (kinds.layers) list.push_back("colr0");
  if (kinds.paints) list.push_back("colr1");
  if (kinds.cbdt) list.push_back("cbdt");
  if (kinds.sbix) list.push_back("sbix");
  if (kinds.documents) list.push_back("svg");
  return list;
}

const char* container_name(std::span<const std::byte> bytes) {
  switch (find_container(bytes).value_or(Container::sfnt)) {
    case Container::sfnt:
      return "sfnt";
    case Container::collection:
      return "collection";
    case Container::woff:
      return "woff";
    case Container::woff2:
      return "woff2";
  }
  return "";
}

const char* outline_name(OutlineKind kind) {
  constexpr const char* kNames[] = {"none", "glyf", "cff", "cff2", "none"};
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
  for (const std::uint16_t strike : facts.strikes) row["crisp_sizes"].push_back(strike);
  for (int times = 1; facts.crisp_size > 0 && times <= 4; ++times) {
    row["crisp_sizes"].push_back(number(facts.crisp_size * static_cast<float>(times)));
  }
  row["axes"] = Json::array();
  for (const Axis& axis : face.axes()) {
    row["axes"].push_back({{"tag", plain_tag(axis.tag)},
                           {"name", axis.name},
                           {"min", number(axis.min)},
                           {"default", number(axis.standard)},
                           {"max", number(axis.max)}});
  }
  row["instances"] = Json::array();
  for (const NamedInstance& instance : face.instances()) {
    Json coordinates = Json::object();
    for (const AxisValue& v : instance.coordinates) coordinates[plain_tag(v.axis)] = number(v.value);
    row["instances"].push_back({{"name", instance.name}, {"coordinates", std::move(coordinates)}});
  }
  row["scripts"] = tag_list(face.scripts());
  row["writing"] = Json::array();
  for (const CheckedScript& checked : check_scripts(face)) row["writing"].push_back(script_row(checked));
  row["features"] = tag_list(face.features());
  row["kerning"] = kerning_name(face.kerning_source());
  row["color"] = color_list(face.color_kinds());
  row["embedding"] = embedding_name(facts.embedding);
  row["bitmap_only"] = facts.bitmap_only;
  row["subsetting"] = facts.subsetting;
}

Json terms_row(const FaceNames& names, const FaceFacts& facts, std::span<const std::string> texts) {
  const auto key = [](Allowed allowed) {
    constexpr const char* kKeys[] = {"yes", "with_conditions", "no", "unsaid"};
    return kKeys[static_cast<std::size_t>(allowed)];
  };
  const LicenseReading terms = read_license(names, facts, texts);
  return {{"known_as", terms.known_as},
          {"ship_file", key(terms.ship_file)},
          {"ship_pictures", key(terms.ship_pictures)},
          {"subset", key(terms.subset)},
          {"sell", key(terms.sell)},
          {"credit_needed", terms.credit_needed},
          {"license_needed", terms.license_needed},
          {"sentences", terms.sentences}};
}

Json face_row(const Face& face, std::size_t index, const FontSource& source) {
  const FaceNames names = face.names();
  Json row = {{"index", index},
              {"family", names.family},
              {"style", names.style},
              {"full_name", names.full_name},
              {"version", names.version}};
  add_facts(face, row);
  row["copyright"] = names.copyright;
  row["license"] = names.license;
  row["license_url"] = names.license_url;
  row["license_files"] = Json::array();
  for (const LicenseText& license : source.licenses) row["license_files"].push_back(license.name);
  row["texts_read"] = source.texts_read;
  row["texts_unread"] = source.texts_unread;
  row["terms"] = terms_row(names, face.facts(), texts_of(source.licenses));
  row["codepoint_count"] = face.characters().size();
  row["blocks"] = Json::array();
  for (const auto& [block, covered] : block_coverage(face)) {
    row["blocks"].push_back({{"name", block.name}, {"covered", covered}, {"assigned", block.assigned}});
  }
  return row;
}

}  // namespace

std::string measure_json(const FontStack& stack, std::string_view text, const Paragraph& p,
                         const Notes& notes) {
  Json document = {{"size", number(p.size)}, {"text", std::string(text)}};
  document["width"] = number(p.advance_box.width());
  document["height"] = number(p.advance_box.height());
  document["ascent"] = number(p.ascent);
  document["descent"] = number(p.descent);
  document["line_height"] = number(p.line_height);
  constexpr const char* kModeNames[] = {"horizontal", "vertical-rl", "vertical-lr"};
  if (p.writing != WritingMode::horizontal)
    document["writing"] = kModeNames[static_cast<std::size_t>(p.writing)];
  const Rect ink = ink_box(stack, p);
  document["ink"] = {{"left", number(ink.left)},
                     {"top", number(ink.top)},
                     {"right", number(ink.right)},
                     {"bottom", number(ink.bottom)}};
  for (const char* list : {"lines", "glyphs", "missing", "notes"}) document[list] = Json::array();
  for (const Line& line : p.lines) {
    document["lines"].push_back({{"start", line.start},
                                 {"end", line.end},
                                 {"left", number(line.left)},
                                 {"baseline", number(line.baseline)},
                                 {"width", number(line.width)},
                                 {"top", number(line.top)},
                                 {"height", number(line.height)},
                                 {"direction", line.right_to_left ? "rtl" : "ltr"}});
  }
  for (const PlacedGlyph& g : p.glyphs) {
    Json row = {{"face", g.face},       {"glyph", index_of(g.glyph)}, {"text_start", g.text_start},
                {"x", number(g.pen.x)}, {"y", number(g.pen.y)},       {"advance", number(g.advance)}};
    if (g.offset != PixelPoint{}) row["offset"] = {number(g.offset.x), number(g.offset.y)};
    const bool one_character =
        g.text_start < text.size() && g.text_end - g.text_start == decode_utf8(text, g.text_start).length;
    if (p.styles.size() > 1) row["span"] = g.style;
    if (g.turned) row["turned"] = true;
    if (!one_character) row["cluster"] = {g.text_start, g.text_end};
    document["glyphs"].push_back(std::move(row));
  }
  for (const Note& note : notes.all()) {
    if (note.kind == NoteKind::missing_character) {
      document["missing"].push_back(fmt::format("U+{:04X}", note.character));
    } else {
      document["notes"].push_back(describe(note));
    }
  }
  return to_lines(document);
}

Result<std::string> inspect_json(const FontData& data, std::string_view file, const FontSource& source) {
  const Result<FontData> plain = unpack(data);
  const Result<std::size_t> count = plain ? Face::count(*plain) : Result<std::size_t>(fail(plain.error()));
  if (!count) return fail(count.error());
  Json document = {
      {"file", std::string(file)}, {"container", container_name(data.bytes())}, {"faces", Json::array()}};
  for (std::size_t i = 0; i < *count; ++i) {
    const auto face = Face::open(*plain, i);
    if (!face) return fail(face.error());
    document["faces"].push_back(face_row(**face, i, source));
  }
  return to_lines(document);
}

std::string missing_json(std::span<const MissingReportFace> faces, std::span<const CheckedCharacter> checked,
                         std::span<const CheckedCluster> clusters, std::span<const FaceScript> scripts,
                         const std::map<char32_t, std::vector<std::string>>& wanted) {
  constexpr const char* kFates[] = {"supplied", "missing", "empty", "missing_shape", "capital_shape"};
  Json document = {{"characters", checked.size()}, {"faces", Json::array()}, {"trouble", Json::array()}};
  for (std::size_t i = 0; i < faces.size(); ++i) {
    Json row = {{"name", faces[i].name}, {"file", faces[i].file}, {"supplies", Json::array()}};
    for (const CheckedCharacter& c : checked) {
      if (c.fate != CharacterFate::missing && c.face == i) {
        row["supplies"].push_back(fmt::format("U+{:04X}", static_cast<unsigned>(c.character)));
      }
    }
    document["faces"].push_back(std::move(row));
  }
  for (const CheckedCharacter& c : checked) {
    if (c.fate == CharacterFate::supplied) continue;
    Json row = {{"character", fmt::format("U+{:04X}", static_cast<unsigned>(c.character))},
                {"name", character_name(c.character)},
                {"fate", kFates[static_cast<std::size_t>(c.fate)]}};
    if (c.fate != CharacterFate::missing) row["face"] = c.face;
    if (const auto files = wanted.find(c.character); files != wanted.end()) row["wanted_by"] = files->second;
    document["trouble"].push_back(std::move(row));
  }
  const auto points = [](const std::vector<char32_t>& characters) {
    Json list = Json::array();
    for (const char32_t c : characters) list.push_back(fmt::format("U+{:04X}", static_cast<unsigned>(c)));
    return list;
  };
  document["clusters"] = Json::array();
  for (const CheckedCluster& cluster : clusters) {
    if (cluster.missing.empty() && cluster.face == 0) continue;
    document["clusters"].push_back({{"characters", points(cluster.characters)},
                                    {"face", cluster.face},
                                    {"missing", points(cluster.missing)}});
  }
  document["scripts"] = Json::array();
  for (const FaceScript& one : scripts) {
    Json row = script_row(one.checked);
    row["face"] = one.face;
    document["scripts"].push_back(std::move(row));
  }
  return to_lines(document);
}

}  // namespace grafema::tool
