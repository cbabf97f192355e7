// SPDX-License-Identifier: MIT
// Messages: patterns with named values that become words in a language.
#pragma once

#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/base/error.hpp"
#include "grafema/text/rich_text.hpp"

namespace grafema {

/// What stands in for a name of a pattern.
class GRAFEMA_API MessageValue {
 public:
  enum class Kind : std::uint8_t {
    text,
    number,
    date,   ///< a moment: seconds since 1970-01-01 00:00 UTC
    clock,  ///< now, as the book's clock has it
    list,   ///< texts that are joined as the language does
    icon,
    rich,     ///< text with spans
    message,  ///< another message, by its id
  };

  MessageValue() = default;
  MessageValue(std::string_view text)
      : text_(text) {}                             // NOLINT(google-explicit-constructor): values are what
  MessageValue(const char* text) : text_(text) {}  // NOLINT(google-explicit-constructor): they are made of
  MessageValue(const std::string& text) : text_(text) {}  // NOLINT(google-explicit-constructor)
  MessageValue(double number)
      : kind_(Kind::number), number_(number) {}  // NOLINT(google-explicit-constructor)
  MessageValue(int number)
      : MessageValue(static_cast<double>(number)) {}  // NOLINT(google-explicit-constructor)
  MessageValue(std::int64_t number)
      : MessageValue(static_cast<double>(number)) {}  // NOLINT(google-explicit-constructor)
  static MessageValue date(double seconds);
  static MessageValue clock();
  static MessageValue list(std::vector<std::string> texts);
  static MessageValue icon(const Icon& icon, std::string_view name = {});
  static MessageValue rich(RichText text);
  static MessageValue message(std::string_view id);

  Kind kind() const { return kind_; }
  const std::string& text() const { return text_; }  ///< of a text; the id of a message
  double number() const { return number_; }          ///< of a number; the seconds of a date
  const std::vector<std::string>& texts() const { return texts_; }
  const RichText& rich_text() const;  ///< of a rich text and an icon; empty for others
  bool operator==(const MessageValue& other) const;

 private:
  Kind kind_ = Kind::text;
  double number_ = 0;
  std::string text_;
  std::vector<std::string> texts_;
  std::shared_ptr<const RichText> rich_;
};

/// Values by name.
class GRAFEMA_API MessageValues {
 public:
  MessageValues() = default;
  MessageValues(std::initializer_list<std::pair<std::string_view, MessageValue>> values);
  /// The same value again changes nothing.
  void set(std::string_view name, const MessageValue& value);
  void clear();
  const MessageValue* find(std::string_view name) const;  ///< null where there is none
  std::span<const std::pair<std::string, MessageValue>> all() const { return values_; }
  std::uint64_t revision() const { return revision_; }  ///< moves when a value changes

 private:
  std::vector<std::pair<std::string, MessageValue>> values_;
  std::uint64_t revision_ = 1;
};

/// What a pattern asks of a value.
struct MessageArgument {
  std::string name = {};
  std::string type = {};  ///< "", number, date, time, duration, list, plural, selectordinal, select ...
  std::vector<std::string> cases = {};  ///< of the last three, in the order of the pattern
};

/// A pattern taken apart: that of Unicode's MessageFormat as ICU reads it, named values alone.
class GRAFEMA_API Message {
 public:
  /// Fails with `damaged`; the error's offset is the byte, and what was found tells line and column.
  static Result<Message> parse(std::string_view pattern);
  /// Each use of a value, in the order of the pattern.
  std::vector<MessageArgument> arguments() const;
  /// The pattern's own words: what stands outside of braces, cases of plurals and selections one after
  /// another.
  std::vector<std::string> texts() const;

  struct Tree;
  const Tree& tree() const { return *tree_; }

 private:
  std::shared_ptr<const Tree> tree_;
};

}  // namespace grafema
