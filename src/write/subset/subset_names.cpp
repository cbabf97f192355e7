// SPDX-License-Identifier: MIT
// Writes name, post, cmap and OS/2 of a subset.
#include "write/subset/subset_names.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <map>
#include <tuple>

#include "base/hash.hpp"
#include "font/characters/text_encoding.hpp"
#include "grafema/base/notes.hpp"
#include "write/subset/pins.hpp"
#include "write/tables/face_tables.hpp"
#include "write/tables/unicode_ranges.hpp"

namespace grafema::detail {
namespace {

std::string in_lower_case(std::string text) {
  for (char& c : text) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
  return text;
}

/// Whether `text` says "Reserved Font Name" and, in the same sentence, the first word of `family`.
bool reserves(const std::string& text, const std::string& family) {
  const std::string all = in_lower_case(text), name = in_lower_case(family),
                    word(name.begin(), std::find(name.begin(), name.end(), ' '));
  constexpr std::string_view kPhrase = "reserved font name";
  constexpr std::size_t kLine = 200;
  if (word.empty()) return false;
  std::string_view rest = all;
  for (std::size_t at = rest.find(kPhrase); at != std::string_view::npos; at = rest.find(kPhrase)) {
    rest.remove_prefix(at + kPhrase.size());
    const std::string_view line = rest.substr(0, std::min(rest.find('\n'), kLine));
    if (line.find(word) != std::string_view::npos) return true;
  }
  return false;
}

bool reserves(const FaceNames& names, const std::string& family) {
  return reserves(names.copyright, family) || reserves(names.license, family) ||
         reserves(names.description, family);
}

/// A record of `name` and its text as it stands there.
struct NameRecord {
  std::uint16_t platform = 0, encoding = 0, language = 0, id = 0;
  std::vector<std::byte> text;
  auto key() const { return std::tie(platform, encoding, language, id); }
};

std::vector<NameRecord> read_records(const TableView& name) {
  std::vector<NameRecord> records;
  const std::size_t storage = name.u16(4);
  for (std::size_t i = 0; i < name.u16(2) && name.holds(6 + i * 12, 12); ++i) {
    const std::size_t at = 6 + i * 12, length = name.u16(at + 8), offset = storage + name.u16(at + 10);
    if (!name.holds(offset, length)) continue;
    const auto bytes = name.bytes.subspan(offset, length);
    records.push_back(
        {name.u16(at), name.u16(at + 2), name.u16(at + 4), name.u16(at + 6), {bytes.begin(), bytes.end()}});
  }
  return records;
}

/// The text in the letters of the record's platform: UTF-16, or ASCII where that is an old one.
std::vector<std::byte> encoded(const NameRecord& record, const std::string& text) {
  const std::string letters = record.platform == 1 ? text : to_utf16(text);
  std::vector<std::byte> out;
  for (const char c : letters) {
    const auto byte = static_cast<std::uint8_t>(c);
    out.push_back(static_cast<std::byte>(record.platform == 1 && byte > 126 ? '?' : byte));
  }
  return out;
}

}  // namespace

std::map<std::uint16_t, std::string> new_names(const SubsetPlan& plan) {
  const FaceNames old = plan.face->names();
  const std::string style = plan.pins.all() ? plan.pinned->names().style : old.style;
  std::map<std::uint16_t, std::string> out;
  if (plan.family.empty() && style == old.style) return out;
  FaceNames names;
  names.family = plan.family.empty() ? old.family : plan.family;
  names.style = style.empty() ? "Regular" : style;
  const bool plain = names.style == "Regular" || names.style == "Bold" || names.style == "Italic" ||
                     names.style == "Bold Italic";
  out[1] = plain ? names.family : names.family + " " + names.style;
  out[2] = plain ? names.style : "Regular";
  out[4] = names.style == "Regular" ? names.family : names.family + " " + names.style;
  out[6] = postscript_name(names);
  out[3] = old.version + ";" + out[6];
  out[16] = plain ? "" : names.family;
  out[17] = plain ? "" : names.style;
  out[18] = out[20] = out[21] = out[22] = "";
  out[25] = plan.pins.axes_left() > 0 ? out[6].substr(0, out[6].find('-')) : "";
  return out;
}

Result<std::string> new_family(const Face& face, const SubsetRecipe& recipe, Notes* notes) {
  const FaceNames names = face.names();
  if (!recipe.family.empty()) {
    if (!recipe.permit && reserves(names, recipe.family)) {
      return fail(
          make_error(ErrorKind::forbidden, "a name that the license does not reserve", recipe.family));
    }
    return recipe.family;
  }
  if (recipe.permit || !reserves(names, names.family)) return std::string();
  Fnv1a hash;
  hash.add_number(static_cast<std::uint64_t>(face.id()));
  for (const char32_t c : recipe.characters) hash.add_number(c);
  const std::string family = fmt::format("Subset {:06X}", hash.result() & 0xFFFFFF);
  if (notes != nullptr) {
    notes->add({.kind = NoteKind::reserved_name, .face = names.family, .text = family});
  }
  return family;
}

WrittenTable subset_name(const SubsetPlan& plan) {
  std::vector<NameRecord> records = read_records(plan.table("name"));
  // What Windows' platform tells needs no second telling for the Macintosh's.
  const auto told = [&](std::uint16_t id) {
    return std::any_of(records.begin(), records.end(),
                       [&](const NameRecord& r) { return r.id == id && r.platform == 3; });
  };
  std::vector<NameRecord> kept;
  for (const NameRecord& record : records) {
    if ((record.platform == 1 && told(record.id)) || record.language >= 0x8000) continue;
    kept.push_back(record);
  }
  const std::map<std::uint16_t, std::string> changed = new_names(plan);
  for (const auto& [id, text] : changed) {
    const std::uint16_t changed_id = id;
    bool found = false;
    for (NameRecord& record : kept) {
      if (record.id != changed_id) continue;
      record.text = encoded(record, text);
      found = true;
    }
    if (!found && !text.empty()) {
      NameRecord record{3, 1, 0x0409, changed_id, {}};
      record.text = encoded(record, text);
      kept.push_back(std::move(record));
    }
  }
  kept.erase(std::remove_if(kept.begin(), kept.end(),
                            [&](const NameRecord& r) { return r.text.empty() && changed.count(r.id) != 0; }),
             kept.end());
  std::stable_sort(kept.begin(), kept.end(),
                   [](const NameRecord& a, const NameRecord& b) { return a.key() < b.key(); });
  kept.erase(std::unique(kept.begin(), kept.end(),
                         [](const NameRecord& a, const NameRecord& b) { return a.key() == b.key(); }),
             kept.end());
  TableWriter lines, texts;
  std::map<std::string, std::uint32_t> places;
  std::uint32_t count = 0;
  for (const NameRecord& record : kept) {
    const auto [place, is_new] =
        places.emplace(std::string(reinterpret_cast<const char*>(record.text.data()), record.text.size()),
                       static_cast<std::uint32_t>(texts.size()));
    if (is_new && texts.size() + record.text.size() > 0xFFFF) {
      places.erase(place);  // never with texts that overlap in the old file
      continue;
    }
    if (is_new) texts.append(record.text);
    lines.u16(record.platform), lines.u16(record.encoding), lines.u16(record.language), lines.u16(record.id);
    lines.u16(static_cast<std::uint32_t>(record.text.size())), lines.u16(place->second);
    ++count;
  }
  TableWriter out;
  out.u16(0), out.u16(count), out.u16(6 + count * 12);
  out.append(lines.bytes()), out.append(texts.bytes());
  return {tag("name"), std::move(out.bytes())};
}

WrittenTable subset_post(const SubsetPlan& plan) {
  const TableView post = plan.table("post");
  TableWriter out;
  for (std::size_t i = 0; i < 32; ++i) {
    out.u8(post.holds(i, 1) ? static_cast<std::uint32_t>(post.bytes[i]) : 0U);
  }
  const std::uint32_t version = post.u32(0);
  const bool named = (version == 0x00010000 || version == 0x00020000) && !plan.recipe->lean;
  out.put_u32(0, named ? 0x00020000 : 0x00030000);
  if (named) {
    constexpr std::uint32_t kOwn = 258, kMax = 32767;
    TableWriter texts;
    std::uint32_t next = kOwn;
    out.u16(static_cast<std::uint32_t>(plan.kept.size()));
    for (const std::uint16_t old : plan.kept) {
      const std::string name = plan.face->glyph_name(GlyphId{old});
      if (name.empty() || name == ".notdef" || name.size() > 255 || next > kMax) {
        out.u16(0);
        continue;
      }
      out.u16(next++);
      texts.u8(static_cast<std::uint32_t>(name.size()));
      for (const char c : name) texts.u8(static_cast<std::uint8_t>(c));
    }
    out.append(texts.bytes());
  }
  return {tag("post"), std::move(out.bytes())};
}

namespace {

/// Format 14: of each selector the characters that have a glyph of their own.
std::vector<std::byte> write_variants(const SubsetPlan& plan) {
  struct Selected {
    char32_t selector;
    CharacterList glyphs;
  };
  std::vector<Selected> all;
  for (const char32_t selector : plan.face->variation_selectors()) {
    if (!std::binary_search(plan.wanted.begin(), plan.wanted.end(), selector)) continue;
    Selected selected{selector, {}};
    for (const auto& [character, usual] : plan.characters) {
      const int glyph = plan.to(plan.face->find_variant(character, selector));
      if (glyph > 0 && glyph != usual)
        selected.glyphs.emplace_back(character, static_cast<std::uint16_t>(glyph));
    }
    if (!selected.glyphs.empty()) all.push_back(std::move(selected));
  }
  if (all.empty()) return {};
  TableWriter out, lists;
  const std::size_t head = 10 + all.size() * 11;
  const auto u24 = [](TableWriter& to, std::uint32_t v) { to.u8(v >> 16), to.u16(v); };
  for (const Selected& selected : all) {
    u24(out, selected.selector), out.u32(0), out.u32(static_cast<std::uint32_t>(head + lists.size()));
    lists.u32(static_cast<std::uint32_t>(selected.glyphs.size()));
    for (const auto& [character, glyph] : selected.glyphs) u24(lists, character), lists.u16(glyph);
  }
  TableWriter table;
  table.u16(14), table.u32(static_cast<std::uint32_t>(head + lists.size()));
  table.u32(static_cast<std::uint32_t>(all.size()));
  table.append(out.bytes()), table.append(lists.bytes());
  return std::move(table.bytes());
}

}  // namespace

WrittenTable subset_cmap(const SubsetPlan& plan) { return write_cmap(plan.characters, write_variants(plan)); }

std::optional<WrittenTable> subset_os2(const SubsetPlan& plan) {
  const TableView old = plan.table("OS/2");
  if (!old.holds(0, 68)) return std::nullopt;
  std::vector<std::byte> bytes = copy_of(old);
  const auto put_u32 = [&bytes](std::size_t at, std::uint32_t v) {
    put_u16(bytes, at, static_cast<int>(v >> 16)), put_u16(bytes, at + 2, static_cast<int>(v & 0xFFFFU));
  };
  const auto ranges = unicode_ranges(plan.characters);
  for (std::size_t i = 0; i < 4; ++i) put_u32(42 + i * 4, ranges[i]);
  if (!plan.characters.empty()) {
    put_u16(bytes, 64, static_cast<int>(std::min<char32_t>(plan.characters.front().first, 0xFFFF)));
    put_u16(bytes, 66, static_cast<int>(std::min<char32_t>(plan.characters.back().first, 0xFFFF)));
  }
  if (old.u16(0) >= 1 && old.holds(78, 8)) {
    const auto pages = code_pages(plan.characters);
    for (std::size_t i = 0; i < 2; ++i) put_u32(78 + i * 4, old.u32(78 + i * 4) & pages[i]);
  }
  for (const AxisValue& pin : plan.recipe->pins) {
    if (pin.axis == tag("wght")) put_u16(bytes, 4, static_cast<int>(std::clamp(pin.value, 1.0F, 1000.0F)));
  }
  const std::map<std::uint16_t, std::string> names = new_names(plan);
  if (plan.pins.all() && names.count(2) != 0) {
    constexpr int kItalic = 1, kBold = 0x20, kRegular = 0x40;
    const bool bold = names.at(2).find("Bold") != std::string::npos,
               italic = names.at(2).find("Italic") != std::string::npos;
    put_u16(bytes, 62,
            (old.u16(62) & ~(kItalic | kBold | kRegular)) | (bold ? kBold : 0) | (italic ? kItalic : 0) |
                (bold || italic ? 0 : kRegular));
  }
  return WrittenTable{tag("OS/2"), std::move(bytes)};
}

}  // namespace grafema::detail
