// SPDX-License-Identifier: MIT
// Any text as a catalog, JSON or PO: what is read can be checked, and a PO file that gets more stays one.
#include "grafema/files/catalog_file.hpp"
#include "grafema/files/markup.hpp"
#include "grafema/text/message_check.hpp"
#include "input.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
  using namespace grafema;
  using fuzz::require;
  if (size > 1 << 14) return 0;
  const std::string_view text{reinterpret_cast<const char*>(data), size};
  (void)read_message_values(text);
  const auto json = read_json_catalog(text, "en");
  const auto po = read_po_catalog(text, "pl");
  for (const auto* read : {&json, &po}) {
    if (!*read || (*read)->messages.size() > 50) continue;
    const Catalog both[] = {**read, make_pseudo(**read)};
    MessageCheck check;
    check.markup = markup_or_plain;
    for (const MessageFault& fault : check_messages(both, check)) require(!fault.text.empty());
    const std::string more = add_to_po("", **read, "de");
    const auto again = read_po_catalog(more);
    require(again.has_value() && again->messages.empty() && again->language == "de");
    require(add_to_po(more, **read, "de") == more);
  }
  return 0;
}
