// SPDX-License-Identifier: MIT
// Loads looks and what they are based on.
#include <fmt/format.h>

#include <filesystem>
#include <map>

#include "files/look_reader.hpp"
#include "grafema/base/nearest.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr int kLooksVersion = 1;

Result<std::vector<NamedLook>> read_document(std::string_view text, detail::ImageOfLook images,
                                             Notes* notes) {
  const Result<Json> document = detail::read_json(text);
  if (!document) return fail(document.error());
  detail::Fields fields(*document);
  fields.require("looks");
  if (fields.text("format") != "grafema-looks") fields.fail_at("format", "\"grafema-looks\"");
  if (fields.whole("version", 0) < 1 || fields.whole("version", 0) > kLooksVersion) {
    fields.fail_at("version", "version 1");
  }
  const Json* looks = fields.object("looks");
  const Json* parameters = document->contains("parameters") ? fields.object("parameters") : nullptr;
  if (fields.error()) return fail(*fields.error());
  constexpr std::string_view kKnown[] = {"$schema", "format", "version", "parameters", "looks"};
  detail::note_unknown_fields(*document, kKnown, "the file", notes);
  detail::LooksReader reader(*looks, parameters, std::move(images), notes);
  std::vector<NamedLook> out;
  for (const auto& [name, object] : looks->items()) {
    out.push_back(reader.read(name));
    if (reader.error()) break;
  }
  if (reader.error()) return fail(*reader.error());
  return out;
}

/// Images beside a looks file, each read once.
class ImagesBeside {
 public:
  explicit ImagesBeside(const std::string& path) : folder_(std::filesystem::path(path).parent_path()) {}

  Result<std::shared_ptr<const FillImage>> operator()(const std::string& name) {
    if (const auto at = read_.find(name); at != read_.end()) return at->second;
    const FileResult<Image> image = load_png((folder_ / name).string());
    if (!image) return fail(image.error().error);
    Result<std::shared_ptr<const FillImage>> made = FillImage::make(*image);
    if (made) read_[name] = *made;
    return made;
  }

 private:
  std::filesystem::path folder_;
  std::map<std::string, std::shared_ptr<const FillImage>> read_;
};

}  // namespace

Result<std::vector<NamedLook>> read_looks(std::string_view text, Notes* notes, const ImagesByName& images) {
  return read_document(
      text,
      [&images](const std::string& name) -> Result<std::shared_ptr<const FillImage>> {
        const auto at = images.find(name);
        if (at != images.end() && at->second) return at->second;
        return bad_value("an image of that name", "none");
      },
      notes);
}

FileResult<std::vector<NamedLook>> load_looks(const std::string& path, Notes* notes) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  Result<std::vector<NamedLook>> looks = read_document(*text, ImagesBeside(path), notes);
  if (!looks) return tl::unexpected<FileError>({looks.error(), path});
  return *std::move(looks);
}

FileResult<void> load_looks(const std::string& path, LookBook& book, Notes* notes) {
  const FileResult<std::vector<NamedLook>> looks = load_looks(path, notes);
  if (!looks) return tl::unexpected(looks.error());
  for (const NamedLook& look : *looks) {
    if (const Result<LookId> set = book.set(look.name, look.look, look.parameters); !set) {
      return tl::unexpected<FileError>({set.error(), path});
    }
  }
  return {};
}

FileResult<Look> load_look(const std::string& path_and_name, Notes* notes) {
  const std::size_t hash = path_and_name.rfind('#');
  const std::string path = path_and_name.substr(0, hash),
                    name = hash == std::string::npos ? "" : path_and_name.substr(hash + 1);
  const FileResult<std::vector<NamedLook>> looks = load_looks(path, notes);
  if (!looks) return tl::unexpected(looks.error());
  std::vector<std::string_view> names;
  for (const NamedLook& look : *looks) {
    if (look.name == name || (name.empty() && looks->size() == 1)) return look.look;
    names.push_back(look.name);
  }
  return tl::unexpected<FileError>(
      {make_error(ErrorKind::bad_value, "FILE#NAME with the name of a look in the file",
                  fmt::format("'{}'{}", name, suggestion(name, names))),
       path});
}

}  // namespace grafema
