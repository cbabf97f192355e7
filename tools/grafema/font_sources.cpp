// SPDX-License-Identifier: MIT
// Looks into folders and archives for fonts and license texts.
#include "font_sources.hpp"

#include <fmt/format.h>
#include <zip.h>

#include <algorithm>
#include <filesystem>
#include <memory>

#include "common.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/font/license.hpp"

namespace grafema::tool {
namespace {

namespace fs = std::filesystem;

// Archives come from the net: what they may unfold into is bounded.
constexpr std::size_t kMaxFiles = 20'000, kMaxFileBytes = std::size_t{256} << 20,
                      kMaxBytes = std::size_t{1} << 30, kMaxLicenseBytes = 1 << 20, kMaxNoteBytes = 64 << 10,
                      kMaxNotes = 64;
constexpr int kMaxDepth = 8;

std::string lower(std::string text) {
  for (char& c : text) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c;
  return text;
}

bool looks_like_font(const std::string& name) {
  const std::string extension = lower(fs::path(name).extension().string());
  constexpr const char* kExtensions[] = {".ttf", ".otf", ".ttc", ".otc", ".woff", ".woff2", ".otb", ".dfont"};
  return std::any_of(std::begin(kExtensions), std::end(kExtensions),
                     [&](const char* e) { return extension == e; });
}

bool looks_like_license(const std::string& name) {
  const std::string stem = lower(fs::path(name).filename().string()),
                    extension = lower(fs::path(name).extension().string());
  if (!extension.empty() && extension != ".txt" && extension != ".md" && extension != ".rtf" &&
      extension != ".html" && extension != ".pdf") {
    return false;
  }
  constexpr const char* kWords[] = {"license",   "licence", "ofl",         "copying",
                                    "copyright", "eula",    "terms of use"};
  return std::any_of(std::begin(kWords), std::end(kWords),
                     [&](const char* w) { return stem.find(w) != std::string::npos; });
}

/// Texts in which makers of faces write what may be done with them, whatever the file is called.
bool looks_like_note(const std::string& name) {
  const std::string file = lower(fs::path(name).filename().string()),
                    extension = lower(fs::path(name).extension().string());
  const bool is_text = extension == ".txt" || extension == ".md" || extension == ".nfo";
  return !looks_like_license(name) && !file.starts_with('.') &&
         (is_text || (extension.empty() && (file.starts_with("readme") || file.starts_with("read me") ||
                                            file.starts_with("read_me"))));
}

/// Whether a text says what may be done with a face.
bool tells_terms(const std::string& text) {
  const std::string nothing = "-";
  const LicenseReading read = read_license({}, {}, std::span(&text, 1)),
                       silent = read_license({}, {}, std::span(&nothing, 1));
  return read.known_as != silent.known_as || read.sentences != silent.sentences || read.sell != silent.sell ||
         read.ship_file != silent.ship_file || read.ship_pictures != silent.ship_pictures ||
         read.subset != silent.subset;
}

/// Keeps a note if it tells terms; one that can't be read is named.
void add_note(const std::string& name, std::string text, FontSource& out) {
  const std::string file = fs::path(name).filename().string();
  if (find_invalid_utf8(text)) return out.unread.push_back(file);
  if (tells_terms(text)) out.licenses.push_back({file, std::move(text)});
}

void add_license(const std::string& name, std::string text, FontSource& out) {
  const std::string extension = lower(fs::path(name).extension().string());
  if (extension == ".pdf" || find_invalid_utf8(text)) text.clear();
  out.licenses.push_back({fs::path(name).filename().string(), std::move(text)});
}

void add_font(const std::string& path, FontData data, FontSource& out, std::vector<std::string>* damaged) {
  const auto face = Face::open(data);
  if (face) {
    out.fonts.push_back({path, std::move(data)});
  } else if (damaged != nullptr) {
    damaged->push_back(describe(FileError{face.error(), path}));
  }
}

void read_license_file(const fs::path& path, FontSource& out) {
  const Result<FontData> data = FontData::read(path.string(), kMaxLicenseBytes);
  if (!data) return;
  const auto bytes = data->bytes();
  add_license(path.filename().string(), {reinterpret_cast<const char*>(bytes.data()), bytes.size()}, out);
}

void read_note_file(const fs::path& path, std::size_t& read, FontSource& out) {
  const Result<FontData> data = FontData::read(path.string(), kMaxNoteBytes);
  if (!data || ++read > kMaxNotes) return out.unread.push_back(path.filename().string());
  const auto bytes = data->bytes();
  add_note(path.filename().string(), {reinterpret_cast<const char*>(bytes.data()), bytes.size()}, out);
}

FontSource open_folder(const fs::path& folder, std::vector<std::string>* damaged) {
  FontSource out;
  out.several = true;
  std::vector<fs::path> files;
  std::error_code error;
  for (auto at =
           fs::recursive_directory_iterator(folder, fs::directory_options::skip_permission_denied, error);
       at != fs::recursive_directory_iterator(); at.increment(error)) {
    if (error || files.size() == kMaxFiles) break;
    if (at.depth() >= kMaxDepth) at.disable_recursion_pending();
    if (at->is_regular_file(error)) files.push_back(at->path());
  }
  std::sort(files.begin(), files.end());
  std::size_t notes = 0;
  for (const fs::path& file : files) {
    if (looks_like_license(file.string())) read_license_file(file, out);
    if (looks_like_note(file.string())) read_note_file(file, notes, out);
    if (!looks_like_font(file.string())) continue;
    if (const Result<FontData> data = FontData::read(file.string())) {
      add_font(file.string(), *data, out, damaged);
    }
  }
  return out;
}

struct ArchiveCloser {
  void operator()(zip_t* archive) const { zip_discard(archive); }
  void operator()(zip_file_t* file) const { zip_fclose(file); }
};

std::vector<std::byte> read_entry(zip_t* archive, zip_uint64_t index, std::size_t size) {
  std::vector<std::byte> bytes(size);
  const std::unique_ptr<zip_file_t, ArchiveCloser> file(zip_fopen_index(archive, index, 0));
  const zip_int64_t got = file ? zip_fread(file.get(), bytes.data(), size) : -1;
  bytes.resize(got < 0 ? 0 : static_cast<std::size_t>(got));
  return bytes;
}

FontSource open_archive(const std::string& path, std::vector<std::string>* damaged) {
  int problem = 0;
  const std::unique_ptr<zip_t, ArchiveCloser> archive(
      zip_open(path.c_str(), ZIP_RDONLY | ZIP_CHECKCONS, &problem));
  if (!archive) give_up(make_error(ErrorKind::damaged, "a zip archive"), path);
  FontSource out;
  out.several = true;
  const auto count = std::min<zip_int64_t>(zip_get_num_entries(archive.get(), 0), kMaxFiles);
  std::size_t left = kMaxBytes, notes = 0;
  for (zip_uint64_t i = 0; i < static_cast<zip_uint64_t>(std::max<zip_int64_t>(count, 0)); ++i) {
    zip_stat_t entry;
    zip_stat_init(&entry);
    if (zip_stat_index(archive.get(), i, 0, &entry) != 0 || (entry.valid & ZIP_STAT_NAME) == 0 ||
        (entry.valid & ZIP_STAT_SIZE) == 0) {
      continue;
    }
    const std::string name = entry.name;
    if (name.starts_with("__MACOSX/"))
      continue;  // what one system keeps beside each file, under the same names
    const bool font = looks_like_font(name), license = looks_like_license(name), note = looks_like_note(name);
    if ((!font && !license && !note) || entry.size == 0) continue;
    if (note && (entry.size > kMaxNoteBytes || ++notes > kMaxNotes)) {
      out.unread.push_back(fs::path(name).filename().string());
      continue;
    }
    if (entry.size > (font ? kMaxFileBytes : kMaxLicenseBytes) || entry.size > left) {
      if (damaged != nullptr) damaged->push_back(fmt::format("{}/{}: too large, passed over", path, name));
      continue;
    }
    left -= entry.size;
    std::vector<std::byte> bytes = read_entry(archive.get(), i, entry.size);
    if (note) add_note(name, {reinterpret_cast<const char*>(bytes.data()), bytes.size()}, out);
    if (license) add_license(name, {reinterpret_cast<const char*>(bytes.data()), bytes.size()}, out);
    if (font) add_font(path + "/" + name, FontData::own(std::move(bytes)), out, damaged);
  }
  std::sort(out.fonts.begin(), out.fonts.end(),
            [](const FoundFont& a, const FoundFont& b) { return a.path < b.path; });
  return out;
}

bool is_archive(const FontData& data) {
  const auto bytes = data.bytes();
  return bytes.size() >= 4 && bytes[0] == std::byte{'P'} && bytes[1] == std::byte{'K'} &&
         bytes[2] == std::byte{3} && bytes[3] == std::byte{4};
}

FontSource open_file(const std::string& path, const FontData& data) {
  FontSource out;
  out.fonts.push_back({path, data});
  std::error_code error;
  const fs::path folder = fs::path(path).has_parent_path() ? fs::path(path).parent_path() : fs::path(".");
  std::vector<fs::path> beside;
  for (auto at = fs::directory_iterator(folder, error); !error && at != fs::directory_iterator();
       at.increment(error)) {
    const std::string name = at->path().string();
    if (at->is_regular_file(error) && (looks_like_license(name) || looks_like_note(name)))
      beside.push_back(at->path());
  }
  std::sort(beside.begin(), beside.end());
  std::size_t notes = 0;
  for (const fs::path& file : beside) {
    if (looks_like_license(file.string())) {
      read_license_file(file, out);
    } else {
      read_note_file(file, notes, out);
    }
  }
  return out;
}

}  // namespace

FontSource open_source(const std::string& path, std::vector<std::string>* damaged) {
  std::error_code error;
  if (fs::is_directory(path, error)) {
    const fs::directory_iterator readable(path, error);
    if (error) give_up(FileError{make_error(ErrorKind::file_unreadable, "a folder", error.message()), path});
    FontSource folder = open_folder(path, damaged);
    if (folder.fonts.empty()) {
      give_up(make_error(ErrorKind::not_a_font, "a folder with fonts that can be read", "none"), path);
    }
    return folder;
  }
  if (path == "-") {
    const std::string bytes = value_or_give_up(load_text(path, std::size_t{1} << 30U));
    FontSource out;
    out.fonts.push_back({path, FontData::copy(std::as_bytes(std::span(bytes)))});
    return out;
  }
  const Result<FontData> data = FontData::read(path);
  if (!data) give_up(FileError{data.error(), path});
  if (!is_archive(*data)) return open_file(path, *data);
  FontSource archive = open_archive(path, damaged);
  if (archive.fonts.empty()) {
    give_up(make_error(ErrorKind::not_a_font, "an archive with fonts that can be read", "none"), path);
  }
  return archive;
}

bool is_family_file(const std::string& path) {
  return lower(path.substr(0, path.find('#'))).ends_with(".json");
}

std::vector<std::string> texts_of(const std::vector<LicenseText>& licenses) {
  std::vector<std::string> texts;
  for (const LicenseText& license : licenses) {
    if (!license.text.empty()) texts.push_back(license.text);
  }
  return texts;
}

}  // namespace grafema::tool
