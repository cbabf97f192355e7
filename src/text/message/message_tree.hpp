// SPDX-License-Identifier: MIT
// A message pattern taken apart.
#pragma once

#include "grafema/text/message.hpp"

namespace grafema {

namespace detail {

struct MessageCase;

/// Words, a value, or a choice between cases.
struct MessagePiece {
  enum class Kind : std::uint8_t { words, value, plural, ordinal, select, number_sign };
  Kind kind = Kind::words;
  std::string words;        ///< literal
  std::string name;         ///< of the value
  std::string type, style;  ///< of a formatted value
  double offset = 0;        ///< of a plural
  std::vector<MessageCase> cases;
};

struct MessageCase {
  std::string selector;
  double exact = 0;
  bool is_exact = false;  ///< `=3`
  std::vector<MessagePiece> pieces;
};

}  // namespace detail

struct Message::Tree {
  std::vector<detail::MessagePiece> pieces;
  bool has_markup = false;  ///< a '<' or '&' stands in its words
};

}  // namespace grafema
