// SPDX-License-Identifier: MIT
// Makes an invented language of a source: accents on letters, longer words, everything else as it was.
#include <fmt/format.h>

#include "grafema/base/utf8.hpp"
#include "grafema/text/message_check.hpp"
#include "text/message/message_tree.hpp"

namespace grafema {
namespace {

using detail::MessagePiece;

/// Accented letters that most faces for European languages have.
constexpr std::pair<char, char32_t> kAccents[] = {
    {'a', 0xE5},  {'c', 0xE7},  {'d', 0x111}, {'e', 0xEB},  {'g', 0x11F}, {'i', 0xEE},
    {'l', 0x142}, {'n', 0xF1},  {'o', 0xF6},  {'r', 0x159}, {'s', 0x161}, {'t', 0x165},
    {'u', 0xFB},  {'y', 0xFD},  {'z', 0x17E}, {'A', 0xC5},  {'C', 0xC7},  {'D', 0x110},
    {'E', 0xCB},  {'G', 0x11E}, {'I', 0xCE},  {'L', 0x141}, {'N', 0xD1},  {'O', 0xD6},
    {'R', 0x158}, {'S', 0x160}, {'T', 0x164}, {'U', 0xDB},  {'Y', 0xDD},  {'Z', 0x17D}};

bool is_vowel(char c) { return std::string_view("aeiou").find(c) != std::string_view::npos; }

/// Words outside of tags and references.
std::string accented(std::string_view words) {
  std::string out;
  for (std::size_t i = 0; i < words.size(); ++i) {
    const char c = words[i];
    const char closes = c == '<' ? '>' : c == '&' ? ';' : '\0';
    const std::size_t end = closes != '\0' ? words.find(closes, i) : std::string_view::npos;
    if (end != std::string_view::npos) {
      out += words.substr(i, end + 1 - i);
      i = end;
      continue;
    }
    const auto* known =
        std::find_if(std::begin(kAccents), std::end(kAccents), [&](const auto& a) { return a.first == c; });
    if (known == std::end(kAccents)) {
      out += c;
      continue;
    }
    append_utf8(out, known->second);
    if (is_vowel(c)) append_utf8(out, known->second);  // as much longer as translations often are
  }
  return out;
}

/// Words as a pattern has them: quoted where they hold its signs.
std::string as_pattern(const std::string& words, bool in_plural) {
  std::string out;
  for (const char c : words) {
    if (c == '\'') {
      out += "''";
    } else if (c == '{' || c == '}' || (c == '#' && in_plural)) {
      (out += '\'') += c;
      out += '\'';
    } else {
      out += c;
    }
  }
  return out;
}

std::string write(const std::vector<MessagePiece>& pieces, bool in_plural) {
  std::string out;
  for (const MessagePiece& piece : pieces) {
    switch (piece.kind) {
      case MessagePiece::Kind::words:
        out += as_pattern(accented(piece.words), in_plural);
        break;
      case MessagePiece::Kind::number_sign:
        out += '#';
        break;
      case MessagePiece::Kind::value:
        out += '{' + piece.name + (piece.type.empty() ? "" : ", " + piece.type) +
               (piece.style.empty() ? "" : ", " + piece.style) + '}';
        break;
      case MessagePiece::Kind::plural:
      case MessagePiece::Kind::ordinal:
      case MessagePiece::Kind::select: {
        const bool counts = piece.kind != MessagePiece::Kind::select;
        out += '{' + piece.name +
               (!counts                                    ? ", select,"
                : piece.kind == MessagePiece::Kind::plural ? ", plural,"
                                                           : ", selectordinal,");
        if (piece.offset != 0) out += fmt::format(" offset:{}", piece.offset);
        for (const detail::MessageCase& one : piece.cases) {
          out += ' ' + one.selector + " {" + write(one.pieces, counts || in_plural) + '}';
        }
        out += '}';
        break;
      }
    }
  }
  return out;
}

}  // namespace

Catalog make_pseudo(const Catalog& source) {
  Catalog out{"en-XA", {}};
  for (const CatalogMessage& message : source.messages) {
    CatalogMessage made = message;
    if (const Result<Message> parsed = Message::parse(message.pattern); parsed) {
      made.pattern = write(parsed->tree().pieces, false);
    }
    out.messages.push_back(std::move(made));
  }
  return out;
}

}  // namespace grafema
