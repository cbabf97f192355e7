// SPDX-License-Identifier: MIT
// The characters that a game's text files need.
#include <algorithm>

#include "files/json.hpp"
#include "grafema/base/utf8.hpp"
#include "grafema/files/files.hpp"
#include "grafema/unicode/character_sets.hpp"

namespace grafema {
namespace {

using detail::Json;

/// Collects the string values, not the keys; a list of what is left to visit stands any depth of nesting.
void add_values(const Json& document, std::vector<char32_t>& out) {
  std::vector<const Json*> left = {&document};
  while (!left.empty()) {
    const Json& value = *left.back();
    left.pop_back();
    if (value.is_string()) add_characters(value.get_ref<const std::string&>(), out);
    if (!value.is_structured()) continue;
    for (const Json& inner : value) left.push_back(&inner);
  }
}

/// RFC 4180: fields between commas; in quotes a comma is text and two quotes are one.
void add_fields(std::string_view text, std::vector<char32_t>& out) {
  bool quoted = false;
  std::string values;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (c == '"' && quoted && i + 1 < text.size() && text[i + 1] == '"') {
      values += c;
      ++i;
    } else if (c == '"') {
      quoted = !quoted;
    } else if (quoted || (c != ',' && c != '\r')) {
      values += c;
    }
  }
  add_characters(values, out);
}

}  // namespace

FileResult<std::vector<char32_t>> load_characters(const std::string& path) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  if (const std::optional<std::size_t> at = find_invalid_utf8(*text)) {
    Error error = make_error(ErrorKind::bad_text, "UTF-8");
    error.offset = *at;
    return tl::unexpected<FileError>({error, path});
  }
  std::vector<char32_t> out;
  if (path.ends_with(".json")) {
    const Result<Json> document = detail::read_json(*text);
    if (!document) return tl::unexpected<FileError>({document.error(), path});
    add_values(*document, out);
  } else if (path.ends_with(".csv")) {
    add_fields(*text, out);
  } else {
    add_characters(*text, out);
  }
  std::sort(out.begin(), out.end());
  out.erase(std::unique(out.begin(), out.end()), out.end());
  std::erase_if(out, [](char32_t c) { return c < 0x20 || c == 0xFEFF; });
  return out;
}

}  // namespace grafema
