// SPDX-License-Identifier: MIT
// Messages by id, in the languages of a game, with their fallback.
#pragma once

#include <map>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "grafema/text/message.hpp"
#include "grafema/text/style_book.hpp"

namespace grafema {

/// A message of a catalog.
struct CatalogMessage {
  std::string id = {};
  std::string pattern = {};
  std::string style = {};      ///< of a StyleBook; empty: none
  MessageValues example = {};  ///< values as long as they can get
  std::uint32_t line = 0;      ///< in its file, from 1; 0 where that is not known
};

/// The messages of one language, in the order of their file.
struct Catalog {
  std::string language = {};  ///< BCP 47
  std::vector<CatalogMessage> messages = {};
};

/// The catalogs of a game. Belongs to one thread. Labels that show a message follow all that is set here.
class GRAFEMA_API MessageBook {
 public:
  MessageBook();
  ~MessageBook();
  MessageBook(const MessageBook&) = delete;
  MessageBook& operator=(const MessageBook&) = delete;

  /// Adds a catalog, or replaces the one of that language. The first is the source: what no other has is
  /// taken from it.
  void add(Catalog catalog);
  /// From `pt-BR` it falls back to `pt` and then to the source.
  void set_language(std::string_view language);
  const std::string& language() const&;
  void set_time_zone(std::string_view name);  ///< IANA, such as "Europe/Lisbon"; "UTC" before
  /// Sets the time that MessageValue::clock stands for: seconds since 1970-01-01 00:00 UTC. A message that
  /// shows the clock before this call shows 1970, and a note says so.
  void set_clock(double seconds);
  double clock() const;
  /// Reads `<b>` and the like in patterns; without it they are plain text.
  void set_markup(MarkupReader reader);

  /// The message in the language or what it falls back to; null where no catalog has it.
  const CatalogMessage* find(std::string_view id) const;

  /// Fills `out` with the message. A value that is missing stands as its name in braces, and an id that is
  /// missing as itself, and both are noted, as is a pattern that can't be read. Gives the moment when the
  /// clock changes the text next, infinite where it never does.
  double format(std::string_view id, const MessageValues& values, RichText& out,
                const MarkupNames& names = {}, Notes* notes = nullptr);

  /// The same of a pattern that is of no catalog, in the book's language.
  double format_pattern(std::string_view pattern, const MessageValues& values, RichText& out,
                        const MarkupNames& names = {}, Notes* notes = nullptr);

  /// The plural forms that a language has for numbers up to 200 and for fractions, such as one, few, other.
  static std::vector<std::string> plural_forms(std::string_view language, bool ordinal = false);
  /// The whole numbers of 0 to 200 that take a form.
  static std::vector<double> numbers_of(std::string_view language, std::string_view form,
                                        bool ordinal = false);

  std::uint64_t revision() const;  ///< moves when catalogs, language, time zone or markup are set

  struct State;

 private:
  std::unique_ptr<State> state_;
};

}  // namespace grafema
