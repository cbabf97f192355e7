// SPDX-License-Identifier: MIT
// Any text as a message pattern with values of every kind; the invented language can be read too.
#include <cmath>

#include "grafema/text/message_check.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  using fuzz::require;
  if (size < 2 || size > 1 << 12) return 0;
  static const char* const kLanguages[] = {"en", "pl", "ar", "hi", "ja", "zz", "pt-BR"};
  const std::string_view text{reinterpret_cast<const char*>(data + 1), size - 1};
  const auto message = Message::parse(text);
  static MessageBook book;
  book.set_language(kLanguages[data[0] % 7]);
  book.set_clock(1790942400 + data[0]);
  RichText out;
  Notes notes;
  const MessageValues values{{"n", 3},
                             {"a", 1.5},
                             {"b", "text <&"},
                             {"t", MessageValue::date(1e9 * data[0])},
                             {"x", NAN},
                             {"c", MessageValue::clock()},
                             {"l", MessageValue::list({"a", "b"})},
                             {"i", -1e300},
                             {"m", MessageValue::message("m")}};
  const double next = book.format_pattern(text, values, out, {}, &notes);
  require(next > 1790942400 + data[0]);
  if (!message) {
    require(out.text == text && !notes.empty());
    return 0;
  }
  const Catalog pseudo = make_pseudo({"en", {{.id = "m", .pattern = std::string(text)}}});
  const auto again = Message::parse(pseudo.messages[0].pattern);
  require(again.has_value());
  const auto one = message->arguments(), two = again->arguments();
  require(one.size() == two.size());
  for (std::size_t i = 0; i < one.size(); ++i)
    require(one[i].name == two[i].name && one[i].cases == two[i].cases);
  return 0;
}
