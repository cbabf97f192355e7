// SPDX-License-Identifier: MIT
// Loads family files and opens the faces that they name.
#include "grafema/files/family_file.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <map>

#include "files/fonts/font_files.hpp"
#include "files/json.hpp"
#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr int kFamilyVersion = 1;
constexpr std::size_t kMaxStyles = 4096;

class FamilyReader {
 public:
  /// `folder` stands before the names of files in what is made.
  FamilyReader(const Json& document, const std::function<Result<FontData>(const std::string&)>& open,
               std::filesystem::path folder, Notes* notes)
      : document_(document), open_(open), folder_(std::move(folder)), notes_(notes) {}

  FileResult<FamilySet> read() {
    check_head();
    if (!error_) read_families();
    if (!error_) read_fallback();
    if (error_) return tl::unexpected(*error_);
    return std::move(set_);
  }

 private:
  void wrong(const char* expected, const std::string& found, const std::string& file = {}) {
    if (!error_) error_ = FileError{make_error(ErrorKind::damaged, expected, found), file};
  }

  void check_head() {
    if (!document_.is_object() || document_.value("format", Json()) != "grafema-family") {
      return wrong("a family file with \"format\": \"grafema-family\"", "another document");
    }
    const Json version = document_.value("version", Json());
    if (!version.is_number_integer() || version.get<int>() < 1 || version.get<int>() > kFamilyVersion) {
      wrong("version 1", version.dump());
    }
  }

  void read_families() {
    constexpr std::string_view kKnownFields[] = {"format", "version", "families", "fallback",
                                                 "match_x_height"},
                               kOfFamily[] = {"styles"};
    detail::note_unknown_fields(document_, kKnownFields, "the file", notes_);
    const auto families = document_.find("families");
    if (families == document_.end() || !families->is_object() || families->empty()) {
      return wrong("at least one family in 'families'", "none");
    }
    std::size_t styles = 0;
    for (const auto& [name, family] : families->items()) {
      const auto list = family.is_object() ? family.find("styles") : family.end();
      if (!family.is_object() || list == family.end() || !list->is_object() || list->empty()) {
        return wrong("at least one style in 'styles'", fmt::format("none in family '{}'", name));
      }
      detail::note_unknown_fields(family, kOfFamily, fmt::format("family '{}'", name), notes_);
      Family made(name);
      for (const auto& [style, fields] : list->items()) {
        if (++styles > kMaxStyles) return wrong("at most 4096 styles", "more");
        read_style(made, style, fields);
        if (error_) return;
      }
      set_.families.push_back(std::move(made));
    }
  }

  void read_style(Family& family, const std::string& name, const Json& fields) {
    const std::string where = fmt::format("'{}' of '{}'", name, family.name());
    if (!fields.is_object()) return wrong("an object for each style", where);
    constexpr std::string_view kKnownFields[] = {"file",   "built_in", "face", "axes",
                                                 "weight", "width",    "slant"};
    detail::note_unknown_fields(fields, kKnownFields, where, notes_);
    const std::shared_ptr<const Face> face = open_face(fields, where);
    if (!face) return;
    FaceStyle style = style_of(*face);
    bool known = false;
    const FaceStyle by_name = read_style_words(name, &known);
    if (known) style = by_name;  // the file's words win over what the face says of itself
    style.weight = number(fields, "weight", style.weight, 1, 1000, where);
    style.width = number(fields, "width", style.width, 25, 400, where);
    if (const auto slant = fields.find("slant"); slant != fields.end()) {
      if (*slant == "upright") {
        style.slant = Slant::upright;
      } else if (*slant == "italic") {
        style.slant = Slant::italic;
      } else if (*slant == "oblique") {
        style.slant = Slant::oblique;
      } else {
        wrong("\"upright\", \"italic\" or \"oblique\" as slant", where);
      }
    }
    family.add({face, name, style, file_of(fields)});
  }

  float number(const Json& fields, const char* name, float fallback, float low, float high,
               const std::string& where) {
    const auto value = fields.find(name);
    if (value == fields.end()) return fallback;
    const double found = value->is_number() ? value->get<double>() : -1;
    if (found >= double{low} && found <= double{high}) return static_cast<float>(found);
    wrong("a number in its range",
          fmt::format("{} in '{}' of {}", value->dump(-1, ' ', false, Json::error_handler_t::replace), name,
                      where));
    return fallback;
  }

  std::string file_of(const Json& fields) const {
    const auto file = fields.find("file");
    return file != fields.end() && file->is_string() ? (folder_ / file->get<std::string>()).string()
                                                     : std::string();
  }

  std::vector<AxisValue> read_axes(const Json& fields, const std::string& where) {
    std::vector<AxisValue> place;
    const auto axes = fields.find("axes");
    if (axes == fields.end()) return place;
    if (!axes->is_object()) wrong("an object of axis tags and numbers in 'axes'", where);
    for (const auto& [axis, value] : axes->items()) {
      constexpr double kMax = 32768;  // OpenType, "Fixed"
      if (!value.is_number() || axis.empty() || axis.size() > 4 || !(std::abs(value.get<double>()) <= kMax)) {
        wrong("an axis tag with a number from -32768 to 32768", fmt::format("'{}' of {}", axis, where));
      } else {
        place.push_back({tag(axis), value.get<float>()});
      }
    }
    return place;
  }

  std::shared_ptr<const Face> open_face(const Json& fields, const std::string& where) {
    const std::vector<AxisValue> place = read_axes(fields, where);
    if (error_) return nullptr;
    const auto file = fields.find("file");
    const bool has_file = file != fields.end() && file->is_string(),
               built_in = fields.value("built_in", Json()) == true;
    if (has_file == built_in || (fields.contains("file") && !has_file)) {
      wrong("either a 'file' or \"built_in\": true", where);
      return nullptr;
    }
    if (built_in) return built_in_face();
    const auto index = static_cast<std::size_t>(number(fields, "face", 0, 0, 65535, where));
    const auto& path = file->get_ref<const std::string&>();
    const auto data = data_.find(path);
    Result<FontData> bytes = data != data_.end() ? Result<FontData>(data->second) : open_(path);
    if (bytes && data == data_.end()) bytes = unpack(*bytes);
    const auto face =
        bytes ? Face::open(*bytes, index, place) : Result<std::shared_ptr<const Face>>(fail(bytes.error()));
    if (!face) {
      if (!error_) error_ = FileError{face.error(), (folder_ / path).string()};
      return nullptr;
    }
    if (data == data_.end()) set_.files.push_back((folder_ / path).string());
    data_[path] = *bytes;
    return *face;
  }

  void read_fallback() {
    set_.match_x_height = document_.value("match_x_height", Json()) == true;
    set_.fallback_count = set_.families.size();
    const auto order = document_.find("fallback");
    if (order == document_.end()) return;
    if (!order->is_array() || order->empty()) {
      return wrong("a list of family names in 'fallback'", "something else");
    }
    std::size_t place = 0;
    for (const Json& name : *order) {
      const auto at = std::find_if(set_.families.begin(), set_.families.end(),
                                   [&](const Family& f) { return name == f.name(); });
      if (at == set_.families.end()) {
        std::vector<std::string_view> names;
        for (const Family& f : set_.families) names.push_back(f.name());
        const std::string asked = name.is_string()
                                      ? name.get<std::string>()
                                      : name.dump(-1, ' ', false, Json::error_handler_t::replace);
        return wrong("the name of a family in 'fallback'",
                     fmt::format("'{}'{}", asked, suggestion(asked, names)));
      }
      if (at < set_.families.begin() + static_cast<std::ptrdiff_t>(place)) {
        return wrong("each family once in 'fallback'", at->name());
      }
      std::rotate(set_.families.begin() + static_cast<std::ptrdiff_t>(place), at, at + 1);
      ++place;
    }
    set_.fallback_count = place;
  }

  const Json& document_;
  const std::function<Result<FontData>(const std::string&)>& open_;
  std::filesystem::path folder_;
  Notes* notes_;
  std::map<std::string, FontData> data_;
  FamilySet set_;
  std::optional<FileError> error_;
};

}  // namespace

namespace {

FileResult<FamilySet> read_families_in(std::string_view text, const std::filesystem::path& folder,
                                       const std::function<Result<FontData>(const std::string& file)>& open,
                                       Notes* notes) {
  const Result<Json> document = detail::read_json(text);
  if (!document) return tl::unexpected(FileError{document.error(), {}});
  try {
    return FamilyReader(*document, open, folder, notes).read();
  } catch (const Json::exception&) {
    return tl::unexpected(FileError{make_error(ErrorKind::damaged, "a family file"), {}});
  }
}

}  // namespace

FileResult<FamilySet> read_families(std::string_view text,
                                    const std::function<Result<FontData>(const std::string& file)>& open,
                                    Notes* notes) {
  return read_families_in(text, {}, open, notes);
}

FileResult<FamilySet> load_families(const std::string& path, Notes* notes) {
  const FileResult<std::string> text = load_text(path);
  std::error_code unknown;
  const detail::SourceKind kind = std::filesystem::is_directory(path, unknown) ? detail::SourceKind::folder
                                  : text ? detail::source_kind(std::as_bytes(std::span(*text)))
                                         : detail::SourceKind::none;
  if (kind != detail::SourceKind::none && kind != detail::SourceKind::family_file) {
    constexpr const char* kExpected = "a family file (load_fonts loads font files, folders and archives)";
    return tl::unexpected(FileError{make_error(ErrorKind::damaged, kExpected, detail::to_words(kind)), path});
  }
  if (!text) return tl::unexpected(text.error());
  const std::filesystem::path folder = std::filesystem::path(path).parent_path();
  FileResult<FamilySet> set = read_families_in(
      *text, folder, [&](const std::string& file) { return FontData::read((folder / file).string()); },
      notes);
  if (!set && set.error().path.empty()) return tl::unexpected(FileError{set.error().error, path});
  return set;
}

FontBook make_book(const FamilySet& set) {
  FontBook book;
  for (std::size_t i = 0; i < set.families.size(); ++i) book.add(set.families[i], i < set.fallback_count);
  book.match_x_height(set.match_x_height);
  return book;
}

FontStack make_stack(const FamilySet& set, std::string_view style_words) {
  FontStack stack;
  for (std::size_t i = 0; i < set.fallback_count; ++i) {
    stack.add(set.families[i].find(style_words.empty() ? std::string_view(set.style) : style_words));
  }
  if (set.match_x_height) match_x_heights(stack);
  return stack;
}

namespace {

void add_line(std::string& page, const char* what, const std::string& text) {
  if (!text.empty()) page += fmt::format("  {}{}\n", what, text);
}

/// The first paragraph of a text, at most a few hundred letters: a page of credits is no license.
std::string beginning(const std::string& text) {
  constexpr std::size_t kMax = 400;
  std::string out = text.substr(0, text.find("\n\n"));
  std::replace(out.begin(), out.end(), '\n', ' ');
  if (out.size() > kMax) out = out.substr(0, out.rfind(' ', kMax)) + " ...";
  return out;
}

}  // namespace

std::string make_credits(std::span<const CreditedFace> faces) {
  std::string page = "FONTS\n";
  std::vector<std::string> families, texts;
  for (const CreditedFace& credited : faces) {
    const FaceNames names = credited.face->names();
    for (const std::string& text : credited.license_texts) {
      if (std::find(texts.begin(), texts.end(), text) == texts.end()) texts.push_back(text);
    }
    const std::string key = names.family + '\0' + names.copyright;
    if (std::find(families.begin(), families.end(), key) != families.end()) continue;
    families.push_back(key);
    const LicenseReading license = read_license(names, credited.face->facts(), credited.license_texts);
    page += fmt::format("\n{}\n", names.family);
    add_line(page, "Design: ", names.designer);
    add_line(page, "Foundry: ", names.manufacturer == names.designer ? std::string() : names.manufacturer);
    add_line(page, "", beginning(names.copyright));
    add_line(page, "License: ", license.known_as.empty() ? beginning(names.license) : license.known_as);
    add_line(page, "", names.license_url);
  }
  for (const std::string& text : texts) {
    page += fmt::format("\n----\n{}{}", text, text.ends_with('\n') ? "" : "\n");
  }
  return page;
}

}  // namespace grafema
