// SPDX-License-Identifier: MIT
// Holds catalogs against the first of them: what is missing, wrong, or does not fit its box.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "grafema/text/message_book.hpp"

namespace grafema {

enum class MessageFaultKind : std::uint8_t {
  missing,      ///< the source has the id, this catalog has not
  spare,        ///< the source does not have the id
  pattern,      ///< the pattern can't be parsed
  values,       ///< it asks for other values than the source
  plural_form,  ///< a plural form that the language needs is missing
  markup,       ///< markup can't be read, or has other elements or names than the source
  name,         ///< a style, icon, look or value that is not known
  character,    ///< no face has a character
  script,       ///< no face shapes a script that must be shaped
  overflow,     ///< it does not fit the box of its style
};
constexpr std::size_t kMessageFaultKinds = 10;

struct MessageFault {
  MessageFaultKind kind{};
  std::string language = {}, id = {};
  std::uint32_t line = 0;        ///< of the catalog's file; 0 where that is not known
  std::string text = {};         ///< one sentence
  float over_x = 0, over_y = 0;  ///< of an overflow: pixels that stand out of the box
  RichText shown = {};           ///< of an overflow: with the values that were too long
  std::string style = {};        ///< of an overflow
};

struct MessageCheck {
  FontStack fonts = {};                ///< for characters and boxes; empty: neither is checked
  const FontBook* families = nullptr;  ///< that styles name
  const StyleBook* styles = nullptr;   ///< boxes; null: none are checked
  const IconBook* icons = nullptr;
  MarkupReader markup = {};  ///< without it markup is not checked
};

/// Checks all catalogs against the first, which is the source; its own messages are checked too. Each message
/// is laid out with its example values (or the source's), in every plural form and selection, in the box of
/// its style. In the order of catalogs and ids.
GRAFEMA_API std::vector<MessageFault> check_messages(std::span<const Catalog> catalogs,
                                                     const MessageCheck& check);

/// An invented language with long accented words, made of the source: values, choices and markup stay. Its
/// language tag is `en-XA`.
GRAFEMA_API Catalog make_pseudo(const Catalog& source);

}  // namespace grafema
