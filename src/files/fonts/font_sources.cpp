// SPDX-License-Identifier: MIT
// Finds the fonts of a path or name, and gathers their faces into families.
#include "grafema/files/font_sources.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <map>
#include <set>

#include "files/fonts/font_files.hpp"
#include "files/fonts/license_texts.hpp"
#include "grafema/base/nearest.hpp"

namespace grafema {
namespace {

namespace fs = std::filesystem;
using detail::SourceKind;
using detail::TextKind;

constexpr std::size_t kMaxFontBytes = std::size_t{256} << 20U;

tl::unexpected<FileError> fails(ErrorKind kind, const char* expected, const std::string& found,
                                const std::string& path) {
  return tl::unexpected(FileError{make_error(kind, expected, found), path});
}

std::string to_text(std::span<const std::byte> bytes) {
  return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

void add_font(const std::string& path, FontData data, FontSource& out) {
  const auto face = Face::open(data);
  if (face) {
    out.fonts.push_back({path, std::move(data)});
  } else {
    out.passed_over.push_back({face.error(), path});
  }
}

/// Reads the texts among the files.
void read_texts(std::span<const std::string> files, FontSource& out) {
  std::size_t notes = 0;
  for (const std::string& file : files) {
    const TextKind kind = detail::kind_of_text(file);
    if (kind == TextKind::none) continue;
    const bool is_note = kind == TextKind::note;
    const Result<FontData> data =
        FontData::read(file, is_note ? detail::kMaxNoteBytes : detail::kMaxLicenseBytes);
    if (!data || (is_note && ++notes > detail::kMaxNotes)) {
      out.texts_unread.push_back(fs::path(file).filename().string());
    } else {
      detail::add_text(kind, file, to_text(data->bytes()), out);
    }
  }
}

FileResult<FontSource> find_in_folder(const std::string& folder) {
  std::error_code error;
  const fs::directory_iterator readable(folder, error);
  if (error) return fails(ErrorKind::file_unreadable, "a folder", error.message(), folder);
  FontSource out;
  out.several = true;
  const std::vector<std::string> files = detail::files_below(folder);
  read_texts(files, out);
  for (const std::string& file : files) {
    if (!detail::named_as_font(file)) continue;
    if (const Result<FontData> data = FontData::read(file)) add_font(file, *data, out);
  }
  if (out.fonts.empty()) {
    return fails(ErrorKind::not_a_font, "a folder with fonts that can be read", "none", folder);
  }
  return out;
}

FileResult<FontSource> find_in_archive(const std::string& path) {
  FontSource out;
  out.several = true;
  std::size_t notes = 0;
  const auto limit = [](const std::string& name) -> std::size_t {
    if (detail::named_as_font(name)) return kMaxFontBytes;
    const TextKind kind = detail::kind_of_text(name);
    return kind == TextKind::license ? detail::kMaxLicenseBytes
           : kind == TextKind::note  ? detail::kMaxNoteBytes
                                     : 0;
  };
  const auto take = [&](detail::ArchiveFile file) {
    const bool font = detail::named_as_font(file.name);
    const TextKind kind = detail::kind_of_text(file.name);
    const bool too_many = !font && kind == TextKind::note && ++notes > detail::kMaxNotes;
    if (!file.bytes.empty() && !too_many) {
      if (font) return add_font(path + "/" + file.name, FontData::own(std::move(file.bytes)), out);
      return detail::add_text(kind, file.name, to_text(file.bytes), out);
    }
    if (!font) return out.texts_unread.push_back(fs::path(file.name).filename().string());
    out.passed_over.push_back({make_error(ErrorKind::file_unreadable, "at most 256 MB a font and 1 GB in all",
                                          fmt::format("{} bytes", file.size)),
                               path + "/" + file.name});
  };
  const Result<void> read = detail::read_archive(path, limit, take);
  if (!read) return tl::unexpected(FileError{read.error(), path});
  if (out.fonts.empty()) {
    return fails(ErrorKind::not_a_font, "an archive with fonts that can be read", "none", path);
  }
  std::sort(out.fonts.begin(), out.fonts.end(),
            [](const FoundFont& a, const FoundFont& b) { return a.path < b.path; });
  return out;
}

FontSource with_texts_beside(const std::string& path, const FontData& data) {
  FontSource out;
  out.fonts.push_back({path, data});
  std::vector<std::string> beside;
  std::error_code error;
  const fs::path folder = fs::path(path).has_parent_path() ? fs::path(path).parent_path() : fs::path(".");
  for (auto at = fs::directory_iterator(folder, error); !error && at != fs::directory_iterator();
       at.increment(error)) {
    std::error_code unknown;
    if (at->is_regular_file(unknown)) beside.push_back(at->path().string());
  }
  std::sort(beside.begin(), beside.end());
  read_texts(beside, out);
  return out;
}

/// Adds the fonts of one source to those of several, and each text once.
void join(FontSource& all, FontSource one) {
  std::move(one.fonts.begin(), one.fonts.end(), std::back_inserter(all.fonts));
  for (LicenseText& license : one.licenses) {
    const bool there = std::any_of(all.licenses.begin(), all.licenses.end(), [&](const LicenseText& l) {
      return l.name == license.name && l.text == license.text;
    });
    if (!there) all.licenses.push_back(std::move(license));
  }
  const auto add_names = [](std::vector<std::string>& to, const std::vector<std::string>& from) {
    for (const std::string& name : from) {
      if (std::find(to.begin(), to.end(), name) == to.end()) to.push_back(name);
    }
  };
  add_names(all.texts_read, one.texts_read);
  add_names(all.texts_unread, one.texts_unread);
}

FileResult<FontSource> find_each(const std::set<std::string>& files) {
  FontSource out;
  out.several = true;
  for (const std::string& file : files) {
    const Result<FontData> data = FontData::read(file);
    if (!data) return tl::unexpected(FileError{data.error(), file});
    join(out, with_texts_beside(file, *data));
  }
  return out;
}

bool same_name(const std::string& a, const std::string& b) {
  return detail::small_letters(a) == detail::small_letters(b);
}

/// The installed faces of a family, or the face of that full name: "DejaVu Sans Bold".
FileResult<std::vector<InstalledFace>> find_installed(const std::string& name) {
  std::vector<InstalledFace> all = installed_faces(), family, face;
  for (const InstalledFace& installed : all) {
    if (same_name(installed.family, name)) family.push_back(installed);
    if (same_name(installed.family + " " + installed.style, name)) face.push_back(installed);
  }
  if (!family.empty() || !face.empty()) return family.empty() ? face : family;
  std::vector<std::string_view> names;
  for (const InstalledFace& installed : all) {
    if (names.empty() || names.back() != installed.family) names.emplace_back(installed.family);
  }
  return fails(ErrorKind::file_unreadable, "a file, a folder or the name of an installed family",
               fmt::format("'{}', which is none{}", name, suggestion(name, names)), {});
}

/// Whether the words may be the name of a family: nobody writes a folder or an ending there.
bool may_be_family(const std::string& name) {
  return !name.empty() && name.find('/') == std::string::npos && !detail::named_as_font(name) &&
         !detail::small_letters(name).ends_with(".json") && !detail::small_letters(name).ends_with(".zip");
}

bool is_there(const std::string& path) {
  std::error_code unknown;
  return path == "-" || fs::exists(path, unknown);
}

FileResult<FontData> read_path(const std::string& path) {
  if (path == "-") {
    const FileResult<std::string> bytes = load_text(path, std::size_t{1} << 30U);
    if (!bytes) return tl::unexpected(bytes.error());
    return FontData::copy(std::as_bytes(std::span(*bytes)));
  }
  const Result<FontData> data = FontData::read(path);
  if (!data) return tl::unexpected(FileError{data.error(), path});
  return *data;
}

/// A name in its parts: the path or family, and the style behind `#`. A path that has a `#` itself wins.
std::pair<std::string, std::string> without_style(const std::string& name) {
  const std::size_t hash = is_there(name) ? std::string::npos : name.rfind('#');
  if (hash == std::string::npos) return {name, {}};
  return {name.substr(0, hash), name.substr(hash + 1)};
}

/// Faces sorted into families, with the files that they come from.
std::vector<Family> gather(std::span<const FoundFont> fonts, const FaceChoice& choice, Notes* notes) {
  std::vector<std::shared_ptr<const Face>> faces;
  std::map<const Face*, std::string> files;
  for (const FoundFont& font : fonts) {
    const Result<FontData> data = unpack(font.data);
    const Result<std::size_t> count = data ? Face::count(*data) : Result<std::size_t>(0);
    for (std::size_t i = 0; count && i < *count; ++i) {
      const auto face = Face::open(*data, i);
      if (!face) continue;
      const bool moved = !choice.place.empty() && !(*face)->axes().empty();
      faces.push_back(moved ? (*face)->instance(choice.place, notes) : *face);
      files[faces.back().get()] = font.path;
    }
  }
  std::vector<Family> families;
  for (const Family& gathered : gather_families(faces)) {
    Family family(gathered.name());
    for (Family::Member member : gathered.members()) {
      member.file = files[member.face.get()];
      family.add(std::move(member));
    }
    families.push_back(std::move(family));
  }
  return families;
}

/// The family of one face.
FileResult<Family> family_of_face(const FoundFont& font, const FaceChoice& choice, Notes* notes) {
  const auto face = Face::open(font.data, choice.index, choice.place, notes);
  if (!face) return tl::unexpected(FileError{face.error(), font.path});
  Family family((*face)->names().family);
  family.add({*face, (*face)->names().style, style_of(**face), font.path});
  return family;
}

/// A set of one face, which is the one that is taken whatever it is called.
FamilySet set_of(Family family) {
  FamilySet set;
  set.style = family.members()[0].name;
  set.fallback_count = 1;
  set.files.push_back(family.members()[0].file);
  set.families.push_back(std::move(family));
  return set;
}

FamilySet set_of(std::vector<Family> families) {
  FamilySet set;
  set.families = std::move(families);
  set.fallback_count = set.families.size();
  for (const Family& family : set.families) {
    for (const Family::Member& member : family.members()) {
      if (std::find(set.files.begin(), set.files.end(), member.file) == set.files.end())
        set.files.push_back(member.file);
    }
  }
  return set;
}

/// The faces of an installed family; a face's own full name stands for it and its style.
FileResult<FamilySet> load_installed(const std::string& name, const FaceChoice& choice, Notes* notes) {
  const FileResult<std::vector<InstalledFace>> installed = find_installed(name);
  if (!installed) return tl::unexpected(installed.error());
  std::vector<FoundFont> fonts;
  Family family(installed->front().family);
  for (const InstalledFace& face : *installed) {
    const FileResult<FontData> data = read_path(face.path);
    if (!data) return tl::unexpected(data.error());
    const auto opened = family_of_face({face.path, *data}, {face.index, choice.place}, notes);
    if (!opened) return tl::unexpected(opened.error());
    family.add(opened->members()[0]);
  }
  std::vector<Family> families;
  families.push_back(std::move(family));
  return set_of(std::move(families));
}

FileResult<FamilySet> load_unstyled(const std::string& name, bool styled, const FaceChoice& choice,
                                    Notes* notes) {
  if (name == "built-in:dot" || name == "built-in:sans") {
    FileResult<Family> family = family_of_face(
        {name, name == "built-in:sans" ? built_in_sans_font() : built_in_font()}, choice, notes);
    if (!family) return tl::unexpected(family.error());
    return set_of(*std::move(family));
  }
  if (!is_there(name) && may_be_family(name)) return load_installed(name, choice, notes);
  std::error_code unknown;
  if (!fs::is_directory(name, unknown)) {
    const FileResult<FontData> data = read_path(name);
    if (!data) return tl::unexpected(data.error());
    const SourceKind kind = detail::source_kind(data->bytes());
    if (kind == SourceKind::family_file || detail::small_letters(name).ends_with(".json"))
      return load_families(name, notes);
    if (kind != SourceKind::archive) {
      const std::vector<FoundFont> font{{name, *data}};
      if (styled) return set_of(gather(font, choice, notes));
      FileResult<Family> family = family_of_face(font[0], choice, notes);
      if (!family) return tl::unexpected(family.error());
      return set_of(*std::move(family));
    }
  }
  const FileResult<FontSource> source = find_fonts(name);
  if (!source) return tl::unexpected(source.error());
  return set_of(gather(source->fonts, choice, notes));
}

}  // namespace

FileResult<FontSource> find_fonts(const std::string& path) {
  const std::string name = without_style(path).first;
  std::error_code unknown;
  if (fs::is_directory(name, unknown)) return find_in_folder(name);
  if (!is_there(name) && may_be_family(name)) {
    const FileResult<std::vector<InstalledFace>> installed = find_installed(name);
    if (!installed) return tl::unexpected(installed.error());
    std::set<std::string> files;
    for (const InstalledFace& face : *installed) files.insert(face.path);
    return find_each(files);
  }
  const FileResult<FontData> data = read_path(name);
  if (!data) return tl::unexpected(data.error());
  const SourceKind kind = detail::source_kind(data->bytes());
  if (kind == SourceKind::archive) return find_in_archive(name);
  if (kind == SourceKind::family_file || detail::small_letters(name).ends_with(".json")) {
    const FileResult<FamilySet> set = load_families(name);
    if (!set) return tl::unexpected(set.error());
    return find_each({set->files.begin(), set->files.end()});
  }
  if (name == "-") return FontSource{.fonts = {{name, *data}}};
  return with_texts_beside(name, *data);
}

FileResult<FamilySet> load_fonts(const std::string& name, Notes* notes, const FaceChoice& choice) {
  const auto [source, style] = without_style(name);
  FileResult<FamilySet> set = load_unstyled(source, !style.empty(), choice, notes);
  if (!set || style.empty()) return set;
  const Family& first = set->families.front();
  if (!first.understands(style)) {
    std::vector<std::string> owned;
    for (const Family::Member& member : first.members()) {
      owned.push_back(member.name);
      for (const NamedInstance& instance : member.face->instances()) owned.push_back(instance.name);
    }
    const std::vector<std::string_view> names(owned.begin(), owned.end());
    return fails(ErrorKind::bad_value, "a style of the family",
                 fmt::format("'{}'{}", style, suggestion(style, names)),
                 is_there(source) ? source : std::string());
  }
  set->style = style;
  return set;
}

}  // namespace grafema
