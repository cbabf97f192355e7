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

constexpr std::size_t kMany = 1U << 20U;  // so many characters are collected before each is kept once

void keep_each_once(std::vector<char32_t>& characters) {
  std::sort(characters.begin(), characters.end());
  characters.erase(std::unique(characters.begin(), characters.end()), characters.end());
}

/// The characters of a text of any length, a piece at a time so that little memory is taken.
void add_in_pieces(std::string_view text, std::vector<char32_t>& out) {
  while (!text.empty()) {
    std::size_t end = std::min(text.size(), kMany);
    while (end < text.size() && (static_cast<unsigned char>(text[end]) & 0xC0U) == 0x80U) ++end;
    add_characters(text.substr(0, end), out);
    keep_each_once(out);
    text.remove_prefix(end);
  }
}

/// Collects the string values of a JSON document as they are read, not the keys; no document is built.
class ValueCollector final : public nlohmann::json_sax<Json> {
 public:
  explicit ValueCollector(std::vector<char32_t>& out) : out_(out) {}

  bool null() override { return true; }
  bool boolean(bool) override { return true; }
  bool number_integer(number_integer_t) override { return true; }
  bool number_unsigned(number_unsigned_t) override { return true; }
  bool number_float(number_float_t, const string_t&) override { return true; }
  bool string(string_t& text) override {
    add_characters(text, out_);
    if (out_.size() > kMany) keep_each_once(out_);
    return true;
  }
  bool binary(binary_t&) override { return true; }
  bool start_object(std::size_t) override { return true; }
  bool key(string_t&) override { return true; }
  bool end_object() override { return true; }
  bool start_array(std::size_t) override { return true; }
  bool end_array() override { return true; }
  bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override {
    return false;
  }

 private:
  std::vector<char32_t>& out_;
};

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
  add_in_pieces(values, out);
}

Result<void> read_values(std::string_view text, std::vector<char32_t>& out) {
  ValueCollector collector(out);
  if (Json::sax_parse(text, &collector)) return {};
  return fail(detail::read_json(text).error());  // says where
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
    if (const Result<void> read = read_values(*text, out); !read) {
      return tl::unexpected<FileError>({read.error(), path});
    }
  } else if (path.ends_with(".csv")) {
    add_fields(*text, out);
  } else {
    add_in_pieces(*text, out);
  }
  keep_each_once(out);
  std::erase_if(out, [](char32_t c) { return c < 0x20 || c == 0xFEFF; });
  return out;
}

}  // namespace grafema
