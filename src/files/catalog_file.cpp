// SPDX-License-Identifier: MIT
// Loads JSON catalogs and values.
#include "grafema/files/catalog_file.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <iterator>
#include <unordered_map>

#include "base/numbers.hpp"
#include "files/json.hpp"
#include "grafema/base/utf8.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr std::size_t kMaxMessages = 200000;

/// Reads characters and counts lines as they are taken.
class LineCounter {
 public:
  using iterator_category = std::input_iterator_tag;
  using value_type = char;
  using difference_type = std::ptrdiff_t;
  using pointer = const char*;
  using reference = const char&;

  LineCounter(const char* at, std::uint32_t* line) : at_(at), line_(line) {}
  reference operator*() const { return *at_; }
  LineCounter& operator++() {
    if (*at_ == '\n') ++*line_;
    ++at_;
    return *this;
  }
  LineCounter operator++(int) {
    const LineCounter before = *this;
    ++*this;
    return before;
  }
  bool operator==(const LineCounter& other) const { return at_ == other.at_; }
  bool operator!=(const LineCounter& other) const { return at_ != other.at_; }

 private:
  const char* at_;
  std::uint32_t* line_;
};

/// The line of every value by its path, and the first path that stands twice.
class PathLines final : public nlohmann::json_sax<Json> {
 public:
  explicit PathLines(const std::uint32_t& line) : line_(line) {}

  std::unordered_map<std::string, std::uint32_t> lines;
  std::string twice;
  std::uint32_t twice_line = 0;

  bool null() override { return true; }
  bool boolean(bool) override { return true; }
  bool number_integer(number_integer_t) override { return true; }
  bool number_unsigned(number_unsigned_t) override { return true; }
  bool number_float(number_float_t, const string_t&) override { return true; }
  bool string(string_t&) override { return true; }
  bool binary(binary_t&) override { return true; }
  bool start_object(std::size_t) override {
    path_.push_back(path_.empty() ? std::string() : key_);
    return path_.size() <= detail::kMaxDepth;
  }
  bool key(string_t& name) override {
    key_ = path_.back().empty() ? name : path_.back() + "." + name;
    if (!lines.emplace(key_, line_).second && twice.empty()) twice = key_, twice_line = line_;
    return true;
  }
  bool end_object() override {
    path_.pop_back();
    return true;
  }
  bool start_array(std::size_t) override { return ++arrays_ <= detail::kMaxDepth; }
  bool end_array() override {
    --arrays_;
    return true;
  }
  bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception&) override {
    return false;
  }

 private:
  const std::uint32_t& line_;
  std::vector<std::string> path_;
  std::string key_;
  std::size_t arrays_ = 0;
};

/// Days since 1970-01-01 of a date in the Gregorian calendar.
std::int64_t days_of(std::int64_t year, int month, int day) {
  year -= month <= 2 ? 1 : 0;
  const std::int64_t era = (year >= 0 ? year : year - 399) / 400, of_era = year - era * 400;
  const std::int64_t of_year = (153 * (month + (month > 2 ? -3 : 9)) + 2) / 5 + day - 1;
  return era * 146097 + of_era * 365 + of_era / 4 - of_era / 100 + of_year - 719468;
}

/// RFC 3339 in UTC: 2026-10-02, 2026-10-02T21:40 or 2026-10-02T21:40:30Z.
std::optional<double> find_moment(std::string_view text) {
  if (text.ends_with("Z")) text.remove_suffix(1);
  constexpr std::string_view kForm = "0000-00-00T00:00:00";
  if (text.size() != 10 && text.size() != 16 && text.size() != 19) return std::nullopt;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const bool digit = text[i] >= '0' && text[i] <= '9';
    if (kForm[i] == '0' ? !digit : text[i] != kForm[i]) return std::nullopt;
  }
  const auto number = [&](std::size_t at, std::size_t digits) {
    int value = 0;
    for (std::size_t i = at; i < at + digits && i < text.size(); ++i) value = value * 10 + (text[i] - '0');
    return value;
  };
  const int month = number(5, 2), day = number(8, 2), hour = number(11, 2), minute = number(14, 2),
            second = number(17, 2);
  if (month < 1 || month > 12 || day < 1 || day > 31 || hour > 23 || minute > 59 || second > 60)
    return std::nullopt;
  const std::int64_t days = days_of(number(0, 4), month, day), minutes = std::int64_t{hour} * 60 + minute;
  return static_cast<double>(days * 86400 + minutes * 60 + second);
}

}  // namespace

Result<double> read_moment(std::string_view text) {
  const std::optional<double> moment = find_moment(text);
  if (!moment) return bad_value("a moment in UTC, such as 2026-10-02T21:40:00Z", text);
  return *moment;
}

namespace {

Result<MessageValue> read_value(const Json& value, const std::string& name, const IconBook* icons) {
  const auto wrong = [&](const char* expected) {
    return fail(
        make_error(ErrorKind::damaged, expected, fmt::format("{} as '{}'", detail::quoted(value), name)));
  };
  if (value.is_string()) return MessageValue(value.get<std::string>());
  if (value.is_number()) return MessageValue(value.get<double>());
  if (value.is_array()) {
    std::vector<std::string> texts;
    for (const Json& item : value) {
      if (!item.is_string()) return wrong("a list of texts");
      texts.push_back(item.get<std::string>());
    }
    return MessageValue::list(std::move(texts));
  }
  if (!value.is_object() || value.size() != 1)
    return wrong("a text, a number, a list or an object as {\"icon\": \"bell\"}");
  const std::string kind = value.begin().key();
  const Json& inner = value.front();
  if (kind == "clock") return MessageValue::clock();
  if (!inner.is_string()) return wrong("a text in the object");
  const std::string text = inner.get<std::string>();
  if (kind == "message") return MessageValue::message(text);
  if (kind == "icon") {
    const Icon* icon = icons != nullptr ? icons->find(text) : nullptr;
    return MessageValue::icon(icon != nullptr ? *icon : Icon{}, text);
  }
  if (kind != "date") return wrong("date, clock, icon or message");
  const std::optional<double> moment = find_moment(text);
  if (!moment) return wrong("a date as 2026-10-02T21:40:00Z");
  return MessageValue::date(*moment);
}

Result<MessageValues> read_all_values(const Json& object, const IconBook* icons) {
  MessageValues out;
  for (const auto& [name, value] : object.items()) {
    Result<MessageValue> read = read_value(value, name, icons);
    if (!read) return fail(read.error());
    out.set(name, *read);
  }
  return out;
}

/// Takes the objects of a document for messages.
class CatalogReader {
 public:
  CatalogReader(const PathLines& lines, Catalog& out) : lines_(lines), out_(out) {}

  Result<void> read(const Json& object, const std::string& path) {
    for (const auto& [name, value] : object.items()) {
      if (path.empty() && name == "$schema") continue;
      const std::string id = path.empty() ? name : fmt::format("{}.{}", path, name);
      if (out_.messages.size() == kMaxMessages) return wrong("at most 200000 messages", "more", id);
      if (value.is_string()) {
        add(id).pattern = value.get<std::string>();
      } else if (value.is_object() && value.contains("text") && value["text"].is_string()) {
        if (const Result<void> read = read_message(value, id); !read) return read;
      } else if (value.is_object()) {
        if (const Result<void> deeper = this->read(value, id); !deeper) return deeper;
      } else {
        return wrong("a pattern, or an object of them", detail::quoted(value), id);
      }
    }
    return {};
  }

 private:
  CatalogMessage& add(const std::string& id) {
    CatalogMessage message;
    message.id = id;
    const auto line = lines_.lines.find(id);
    message.line = line != lines_.lines.end() ? line->second : 0;
    out_.messages.push_back(std::move(message));
    return out_.messages.back();
  }
  static tl::unexpected<Error> wrong(const char* expected, const std::string& found, const std::string& id) {
    return fail(make_error(ErrorKind::damaged, expected, fmt::format("{} as '{}'", found, id)));
  }
  Result<void> read_message(const Json& object, const std::string& id) {
    CatalogMessage& message = add(id);
    for (const auto& [name, value] : object.items()) {
      if (name == "text") {
        message.pattern = value.get<std::string>();
      } else if (name == "style" && value.is_string()) {
        message.style = value.get<std::string>();
      } else if (name == "example" && value.is_object()) {
        Result<MessageValues> values = read_all_values(value, nullptr);
        if (!values) return fail(values.error());
        message.example = *std::move(values);
      } else {
        return wrong("text, style (a text) and example (an object) alone", "'" + name + "'", id);
      }
    }
    return {};
  }

  const PathLines& lines_;
  Catalog& out_;
};

Result<void> check_utf8(std::string_view text) {
  const std::optional<std::size_t> at = find_invalid_utf8(text);
  if (!at) return {};
  Error error =
      make_error(ErrorKind::bad_text, "UTF-8", fmt::format("{:02X}", static_cast<unsigned char>(text[*at])));
  error.offset = *at;
  return fail(error);
}

std::string_view without_mark(std::string_view text) {
  return text.substr(text.starts_with("\xEF\xBB\xBF") ? 3 : 0);
}

bool is_language(std::string_view text) {
  const std::size_t first = std::min(text.find('-'), text.size());
  if (first < 2 || first > 3) return false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
    if (!letter && (i < first || (c != '-' && !(c >= '0' && c <= '9')))) return false;
  }
  return true;
}

}  // namespace

std::string language_of_file(std::string_view path) {
  std::string_view name = path.substr(path.rfind('/') == std::string_view::npos ? 0 : path.rfind('/') + 1);
  name = name.substr(0, name.rfind('.'));
  std::string whole(name);
  std::replace(whole.begin(), whole.end(), '_', '-');
  if (is_language(whole) && whole.size() <= 10) return whole;
  const std::size_t cut = name.find_last_of("_.");
  if (cut != std::string_view::npos && is_language(name.substr(cut + 1)))
    return std::string(name.substr(cut + 1));
  return is_language(name) ? std::string(name) : std::string();
}

Result<Catalog> read_json_catalog(std::string_view text, std::string_view language) {
  if (const Result<void> checked = check_utf8(text); !checked) return fail(checked.error());
  text = without_mark(text);
  const Result<Json> document = detail::read_json(text);
  if (!document) return fail(document.error());
  if (!document->is_object())
    return fail(make_error(ErrorKind::damaged, "an object of messages", "another document"));
  std::uint32_t line = 1;
  PathLines lines(line);
  Json::sax_parse(LineCounter(text.data(), &line), LineCounter(text.data() + text.size(), &line), &lines);
  if (!lines.twice.empty()) {
    return fail(make_error(ErrorKind::damaged, "each id once",
                           fmt::format("'{}' again in line {}", lines.twice, lines.twice_line)));
  }
  Catalog out;
  out.language = language;
  CatalogReader reader(lines, out);
  if (const Result<void> read = reader.read(*document, ""); !read) return fail(read.error());
  return out;
}

FileResult<Catalog> load_catalog(const std::string& path) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  const std::string language = language_of_file(path);
  Result<Catalog> catalog =
      path.ends_with(".po") ? read_po_catalog(*text, language) : read_json_catalog(*text, language);
  if (catalog && catalog->language.empty()) {
    catalog = fail(
        make_error(ErrorKind::damaged, "a file named for its language, as de.json or strings_pt-BR.json"));
  }
  if (!catalog) return tl::unexpected<FileError>({catalog.error(), path});
  return *std::move(catalog);
}

FileResult<void> load_catalog(const std::string& path, MessageBook& book) {
  FileResult<Catalog> catalog = load_catalog(path);
  if (!catalog) return tl::unexpected(catalog.error());
  book.add(*std::move(catalog));
  return {};
}

Result<MessageValues> read_message_values(std::string_view text, const IconBook* icons) {
  const Result<Json> document = detail::read_json(without_mark(text));
  if (!document) return fail(document.error());
  if (!document->is_object())
    return fail(make_error(ErrorKind::damaged, "an object of values", "another document"));
  return read_all_values(*document, icons);
}

FileResult<MessageValues> load_message_values(const std::string& path, const IconBook* icons) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  Result<MessageValues> values = read_message_values(*text, icons);
  if (!values) return tl::unexpected<FileError>({values.error(), path});
  return *std::move(values);
}

}  // namespace grafema
