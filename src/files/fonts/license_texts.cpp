// SPDX-License-Identifier: MIT
// Tells licenses and notes with terms from other texts.
#include "files/fonts/license_texts.hpp"

#include <algorithm>
#include <filesystem>

#include "grafema/base/utf8.hpp"
#include "grafema/font/license.hpp"

namespace grafema {
namespace {

/// Whether a text says what may be done with a face.
bool tells_terms(const std::string& text) {
  const std::string nothing = "-";
  const LicenseReading read = read_license({}, {}, std::span(&text, 1)),
                       silent = read_license({}, {}, std::span(&nothing, 1));
  return read.known_as != silent.known_as || read.sentences != silent.sentences || read.sell != silent.sell ||
         read.ship_file != silent.ship_file || read.ship_pictures != silent.ship_pictures ||
         read.subset != silent.subset;
}

}  // namespace

std::string detail::small_letters(std::string text) {
  for (char& c : text) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c;
  return text;
}

detail::TextKind detail::kind_of_text(const std::string& file_name) {
  const std::filesystem::path path(file_name);
  const std::string file = small_letters(path.filename().string()),
                    extension = small_letters(path.extension().string());
  constexpr const char* kLicenseEndings[] = {"", ".txt", ".md", ".rtf", ".html", ".pdf"};
  constexpr const char* kLicenseWords[] = {"license",   "licence", "ofl",         "copying",
                                           "copyright", "eula",    "terms of use"};
  const auto in_name = [&](const char* word) { return file.find(word) != std::string::npos; };
  const auto is_ending = [&](const char* ending) { return extension == ending; };
  if (std::any_of(std::begin(kLicenseEndings), std::end(kLicenseEndings), is_ending) &&
      std::any_of(std::begin(kLicenseWords), std::end(kLicenseWords), in_name)) {
    return TextKind::license;
  }
  const bool is_text = extension == ".txt" || extension == ".md" || extension == ".nfo",
             is_readme = extension.empty() && (file.starts_with("readme") || file.starts_with("read me") ||
                                               file.starts_with("read_me"));
  return !file.starts_with('.') && (is_text || is_readme) ? TextKind::note : TextKind::none;
}

void detail::add_text(TextKind kind, const std::string& file_name, std::string text, FontSource& out) {
  const std::filesystem::path path(file_name);
  const std::string file = path.filename().string();
  const bool readable = small_letters(path.extension().string()) != ".pdf" && !find_invalid_utf8(text);
  if (kind == TextKind::license) {
    out.licenses.push_back({file, readable ? std::move(text) : std::string()});
  } else if (!readable) {
    out.texts_unread.push_back(file);
  } else if (tells_terms(text)) {
    out.licenses.push_back({file, std::move(text)});
  } else {
    out.texts_read.push_back(file);
  }
}

std::vector<std::string> texts_of(std::span<const LicenseText> licenses) {
  std::vector<std::string> texts;
  for (const LicenseText& license : licenses) {
    if (!license.text.empty()) texts.push_back(license.text);
  }
  return texts;
}

}  // namespace grafema
