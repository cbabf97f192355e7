// SPDX-License-Identifier: MIT
// Catalogs of messages on disk: JSON and gettext PO.
#pragma once

#include <string>
#include <string_view>

#include "grafema/files/files.hpp"
#include "grafema/text/message_book.hpp"

namespace grafema {

/// Loads a catalog (docs/formats/catalogs.md): PO where the name ends in .po, else JSON. Its language is the
/// header's of a PO file, else what the name says: `de.json`, `strings_pt-BR.json`. Fails with `bad_text`
/// where it is not UTF-8 and with `damaged` where it is no catalog or has an id twice; messages that can't be
/// parsed are none of its faults.
GRAFEMA_API FileResult<Catalog> load_catalog(const std::string& path);
/// Loads a catalog into a book; nothing is set where the file can't be read, so that a game goes on with what
/// it has.
GRAFEMA_API FileResult<void> load_catalog(const std::string& path, MessageBook& book);

/// The same from text. `language` is that of a PO file whose header names none.
GRAFEMA_API Result<Catalog> read_json_catalog(std::string_view text, std::string_view language);
GRAFEMA_API Result<Catalog> read_po_catalog(std::string_view text, std::string_view language = {});

/// A PO file with the messages of `source` that `text`, itself a PO file or empty, does not have put behind
/// it, to be translated: `msgctxt` is the id, `msgid` the pattern.
GRAFEMA_API std::string add_to_po(std::string_view text, const Catalog& source, std::string_view language);

/// The language that a file's name says; empty where it says none.
GRAFEMA_API std::string language_of_file(std::string_view path);

/// A moment in UTC (RFC 3339) as 2026-10-02, 2026-10-02T21:40 or 2026-10-02T21:40:30Z: seconds since
/// 1970-01-01 00:00 UTC. Fails with `bad_value`.
GRAFEMA_API Result<double> read_moment(std::string_view text);

/// Values by name as JSON: texts, numbers, lists of texts, {"date": "2026-10-02T21:40:00Z"}, {"clock": true},
/// {"icon": "bell"} (of `icons`), {"message": "id"}. Fails with `damaged` and the name.
GRAFEMA_API Result<MessageValues> read_message_values(std::string_view text, const IconBook* icons = nullptr);
GRAFEMA_API FileResult<MessageValues> load_message_values(const std::string& path,
                                                          const IconBook* icons = nullptr);

}  // namespace grafema
