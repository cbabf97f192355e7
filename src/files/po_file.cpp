// SPDX-License-Identifier: MIT
// Reads and writes gettext PO files (docs/formats/catalogs.md).
#include <fmt/format.h>

#include <algorithm>
#include <unordered_set>

#include "grafema/base/utf8.hpp"
#include "grafema/files/catalog_file.hpp"

namespace grafema {
namespace {

constexpr std::size_t kMaxPoMessages = 200000;

/// One entry as it stands in the file.
struct Entry {
  std::string context, id, text;
  bool has_context = false, has_id = false, has_text = false, fuzzy = false;
  std::uint32_t line = 0;
};

/// Reads entries one after another; the first failure is kept.
class PoReader {
 public:
  explicit PoReader(std::string_view text) : text_(text) {}

  Result<std::vector<Entry>> read() {
    while (at_ < text_.size() && !error_) {
      const std::size_t end = std::min(text_.find('\n', at_), text_.size());
      std::string_view line = text_.substr(at_, end - at_);
      at_ = end + 1;
      ++line_;
      while (!line.empty() && (line.back() == '\r' || line.back() == ' ' || line.back() == '\t'))
        line.remove_suffix(1);
      while (!line.empty() && (line.front() == ' ' || line.front() == '\t')) line.remove_prefix(1);
      take(line);
    }
    close();
    if (error_) return fail(*error_);
    return std::move(entries_);
  }

 private:
  void wrong(const char* expected, std::string_view found) {
    if (!error_)
      error_ =
          make_error(ErrorKind::damaged, expected, fmt::format("{} in line {}", found.substr(0, 60), line_));
  }

  void take(std::string_view line) {
    if (line.empty()) return close();
    if (line.front() == '#') return take_comment(line);
    if (line.front() == '"') return add_string(line);
    const std::size_t space = std::min(line.find_first_of(" \t\""), line.size());
    const std::string_view word = line.substr(0, space);
    std::string_view rest = line.substr(space);
    while (!rest.empty() && (rest.front() == ' ' || rest.front() == '\t')) rest.remove_prefix(1);
    if (word == "msgctxt") {
      if (entry_.has_id) close();
      begin();
      entry_.has_context = true, target_ = &entry_.context;
    } else if (word == "msgid") {
      if (entry_.has_id) close();
      begin();
      entry_.has_id = true, target_ = &entry_.id;
    } else if (word == "msgstr") {
      if (!entry_.has_id) return wrong("msgid before msgstr", line);
      if (entry_.has_text) return wrong("one msgstr for each msgid", line);
      entry_.has_text = true, target_ = &entry_.text;
    } else if (word == "msgid_plural" || word.starts_with("msgstr[")) {
      return wrong("plural forms within the pattern, as {n, plural, one {...} other {...}}", word);
    } else {
      return wrong("msgctxt, msgid, msgstr, a string or a comment", line);
    }
    add_string(rest);
  }

  void take_comment(std::string_view line) {
    if (line.starts_with("#~") || line.starts_with("#|")) return;  // no longer used; what it was before
    if (entry_.has_text) close();
    if (line.starts_with("#,") && line.find("fuzzy") != std::string_view::npos) fuzzy_ = true;
  }

  void begin() {
    if (entry_.has_context || entry_.has_id) return;
    entry_.line = line_;
    entry_.fuzzy = fuzzy_;
  }

  /// A string in quotes with the escapes of C.
  void add_string(std::string_view quoted) {
    if (target_ == nullptr || quoted.size() < 2 || quoted.front() != '"' || quoted.back() != '"') {
      return wrong("a string in quotes behind its keyword", quoted);
    }
    const std::string_view inner = quoted.substr(1, quoted.size() - 2);
    for (std::size_t i = 0; i < inner.size(); ++i) {
      if (inner[i] == '"') return wrong("\\\" within a string", quoted);
      if (inner[i] != '\\') {
        *target_ += inner[i];
        continue;
      }
      constexpr std::string_view kEscapes = "ntr\"\\", kMeans = "\n\t\r\"\\";
      const std::size_t known = i + 1 < inner.size() ? kEscapes.find(inner[i + 1]) : std::string_view::npos;
      if (known == std::string_view::npos)
        return wrong("\\n, \\t, \\r, \\\" or \\\\ behind a backslash", quoted);
      *target_ += kMeans[known];
      ++i;
    }
  }

  void close() {
    if (entry_.has_id && !entry_.has_text) wrong("msgstr behind msgid", "none");
    if (entry_.has_context && !entry_.has_id) wrong("msgid behind msgctxt", "none");
    if (entry_.has_text) entries_.push_back(std::move(entry_));
    if (entries_.size() > kMaxPoMessages) wrong("at most 200000 messages", "more");
    if (entry_.has_text || entry_.has_id) fuzzy_ = false;
    entry_ = {};
    target_ = nullptr;
  }

  std::string_view text_;
  std::size_t at_ = 0;
  std::uint32_t line_ = 0;
  bool fuzzy_ = false;
  Entry entry_;
  std::string* target_ = nullptr;
  std::vector<Entry> entries_;
  std::optional<Error> error_;
};

/// A line of the header, such as "Language: de".
std::string field_of(std::string_view header, std::string_view name) {
  std::size_t at = 0;
  while (at < header.size()) {
    const std::size_t end = std::min(header.find('\n', at), header.size());
    std::string_view line = header.substr(at, end - at);
    at = end + 1;
    if (!line.starts_with(name) || line.size() <= name.size() || line[name.size()] != ':') continue;
    line.remove_prefix(name.size() + 1);
    while (!line.empty() && line.front() == ' ') line.remove_prefix(1);
    return std::string(line);
  }
  return {};
}

Result<void> check_header(const std::string& header) {
  const std::string type = field_of(header, "Content-Type");
  const std::size_t at = type.find("charset=");
  if (at == std::string::npos) return {};
  std::string charset = type.substr(at + 8);
  std::transform(charset.begin(), charset.end(), charset.begin(),
                 [](char c) { return c >= 'a' && c <= 'z' ? static_cast<char>(c - 32) : c; });
  if (charset == "UTF-8" || charset == "CHARSET" || charset == "ASCII" || charset == "US-ASCII") return {};
  return fail(make_error(ErrorKind::bad_text, "charset=UTF-8 in the header", charset));
}

std::string po_string(std::string_view text) {
  std::string out = "\"";
  for (const char c : text) {
    c == '\n'                 ? out += "\\n"
    : c == '\t'               ? out += "\\t"
    : c == '\r'               ? out += "\\r"
    : (c == '"' || c == '\\') ? (out += '\\') += c
                              : out += c;
  }
  return out + "\"";
}

}  // namespace

Result<Catalog> read_po_catalog(std::string_view text, std::string_view language) {
  if (const std::optional<std::size_t> at = find_invalid_utf8(text)) {
    Error error = make_error(ErrorKind::bad_text, "UTF-8",
                             fmt::format("{:02X}", static_cast<unsigned char>(text[*at])));
    error.offset = *at;
    return fail(error);
  }
  if (text.starts_with("\xEF\xBB\xBF")) text.remove_prefix(3);
  Result<std::vector<Entry>> entries = PoReader(text).read();
  if (!entries) return fail(entries.error());
  Catalog out;
  out.language = language;
  std::unordered_set<std::string> seen;
  for (Entry& entry : *entries) {
    if (entry.id.empty() && !entry.has_context) {
      if (const Result<void> checked = check_header(entry.text); !checked) return fail(checked.error());
      std::string named = field_of(entry.text, "Language");
      std::replace(named.begin(), named.end(), '_', '-');
      if (!named.empty()) out.language = named;
      continue;
    }
    std::string id = entry.has_context ? entry.context : entry.id;
    if (!seen.insert(id).second) {
      return fail(make_error(ErrorKind::damaged, "each id once",
                             fmt::format("'{}' again in line {}", id, entry.line)));
    }
    if (entry.text.empty() || entry.fuzzy) continue;  // not translated yet
    CatalogMessage message;
    message.id = std::move(id), message.pattern = std::move(entry.text), message.line = entry.line;
    out.messages.push_back(std::move(message));
  }
  return out;
}

std::string add_to_po(std::string_view text, const Catalog& source, std::string_view language) {
  std::string out(text);
  std::unordered_set<std::string> known;
  if (const Result<std::vector<Entry>> entries = PoReader(text).read(); entries) {
    for (const Entry& entry : *entries) known.insert(entry.has_context ? entry.context : entry.id);
  }
  if (out.empty()) {
    out = fmt::format(
        "msgid \"\"\nmsgstr \"\"\n\"Language: {}\\n\"\n\"Content-Type: text/plain; charset=UTF-8\\n\"\n"
        "\"Content-Transfer-Encoding: 8bit\\n\"\n",
        language);
  }
  if (!out.ends_with('\n')) out += '\n';
  for (const CatalogMessage& message : source.messages) {
    if (known.count(message.id) != 0) continue;
    out += fmt::format("\nmsgctxt {}\nmsgid {}\nmsgstr \"\"\n", po_string(message.id),
                       po_string(message.pattern));
  }
  return out;
}

}  // namespace grafema
