// SPDX-License-Identifier: MIT
// Turns errors into sentences.
#include "grafema/base/error.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace grafema {

std::string to_string(Tag tag) {
  std::string text;
  for (int shift = 24; shift >= 0; shift -= 8) {
    const auto c = static_cast<char>((static_cast<std::uint32_t>(tag) >> shift) & 0xFF);
    text += c >= ' ' && c <= '~' ? c : '?';
  }
  return text;
}

Error& Error::with_found(std::string_view text) {
  const std::size_t length = std::min(text.size(), found.size() - 1);
  std::replace_copy(text.begin(), text.begin() + length, found.begin(), '\0', '?');
  found[length] = '\0';
  return *this;
}

Error make_error(ErrorKind kind, const char* expected, std::string_view found) {
  Error error;
  error.kind = kind;
  error.expected = expected;
  error.with_found(found);
  return error;
}

namespace {

/// Text of a file that could end or color a message: control characters become `\x1B`.
std::string visible(std::string_view text) {
  std::string out;
  for (const char c : text) {
    const auto byte = static_cast<unsigned char>(c);
    if (byte < 0x20 || byte == 0x7F) {
      out += fmt::format("\\x{:02X}", byte);
    } else {
      out += c;
    }
  }
  return out;
}

const char* headline(ErrorKind kind) {
  switch (kind) {
    case ErrorKind::file_unreadable:
      return "can't be read";
    case ErrorKind::file_unwritable:
      return "can't be written";
    case ErrorKind::not_a_font:
      return "is not a font file";
    case ErrorKind::not_an_image:
      return "is not a picture that can be read";
    case ErrorKind::damaged:
      return "is damaged";
    case ErrorKind::unsupported:
      return "can't be used";
    case ErrorKind::bad_value:
      return "value out of range";
    case ErrorKind::bad_text:
      return "is not UTF-8";
    case ErrorKind::does_not_fit:
      return "does not fit";
    case ErrorKind::forbidden:
      return "is not permitted";
    case ErrorKind::interrupted:
      return "was interrupted";
  }
  return "failed";
}

}  // namespace

std::string describe(const Error& error, std::string_view file) {
  const char* between = error.kind == ErrorKind::bad_value ? ": " : " ";
  std::string text = file.empty() ? std::string(headline(error.kind))
                                  : fmt::format("{}{}{}", visible(file), between, headline(error.kind));
  if (error.table != Tag{}) text += fmt::format(" in table '{}'", to_string(error.table));
  if (error.offset != Error::kNowhere) text += fmt::format(" at byte {}", error.offset);
  if (error.expected[0] != '\0') text += fmt::format(": expected {}", error.expected);
  if (error.found[0] != '\0') {
    text += fmt::format("{} {}", error.expected[0] != '\0' ? ", found" : ":", visible(error.found.data()));
  }
  return text;
}

}  // namespace grafema
