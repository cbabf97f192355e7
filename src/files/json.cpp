// SPDX-License-Identifier: MIT
// Reads and writes JSON documents.
#include "files/json.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "base/numbers.hpp"
#include "grafema/base/nearest.hpp"

namespace grafema::detail {

namespace {

tl::unexpected<Error> wrong_at(std::string_view text, std::size_t at, const char* expected) {
  at = std::min(at, text.size());
  const auto line = std::count(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(at), '\n') + 1;
  Error error = make_error(ErrorKind::damaged, expected, fmt::format("something else in line {}", line));
  error.offset = at;
  return fail(error);
}

/// Where brackets outside texts stand deeper than may be; parsers and destructors of documents recurse.
std::optional<std::size_t> find_too_deep(std::string_view text) {
  std::size_t depth = 0;
  bool in_text = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (in_text) {
      if (c == '\\') ++i;
      in_text = c != '"';
    } else if (c == '"') {
      in_text = true;
    } else if (c == '[' || c == '{') {
      if (++depth > kMaxDepth) return i;
    } else if ((c == ']' || c == '}') && depth > 0) {
      --depth;
    }
  }
  return std::nullopt;
}

}  // namespace

void note_unknown_fields(const Json& object, std::span<const std::string_view> known, std::string_view where,
                         Notes* notes) {
  if (notes == nullptr || !object.is_object()) return;
  for (const auto& [key, value] : object.items()) {
    if (std::find(known.begin(), known.end(), key) != known.end()) continue;
    notes->add({.kind = NoteKind::unknown_field,
                .text = fmt::format("'{}' in {}{}", key, where, suggestion(key, known))});
  }
}

std::string quoted(const Json& value) {
  constexpr std::size_t kMax = 40;
  std::string text = value.is_structured() ? value.is_array() ? "a list" : "an object"
                                           : value.dump(-1, ' ', true, Json::error_handler_t::replace);
  if (text.size() > kMax) text = text.substr(0, kMax) + "...";
  return text;
}

Result<Json> read_json(std::string_view text) {
  if (const std::optional<std::size_t> at = find_too_deep(text)) {
    return wrong_at(text, *at, "lists and objects at most 64 deep in each other");
  }
  try {
    return Json::parse(text);
  } catch (const nlohmann::json::parse_error& problem) {
    if (problem.byte > text.size()) {
      Error error = make_error(ErrorKind::damaged, "a JSON document", "its end: it ends too early");
      error.offset = text.size();
      return fail(error);
    }
    return wrong_at(text, problem.byte, "a JSON document");
  } catch (const nlohmann::json::out_of_range& problem) {
    const std::string_view words = problem.what();
    const std::size_t first = std::min(words.find('\''), words.size()), last = words.rfind('\'');
    const std::string_view number =
        last != std::string_view::npos && last > first ? words.substr(first, last - first + 1) : "one beyond";
    return fail(make_error(ErrorKind::damaged, "numbers up to 1.8e308", number.substr(0, 40)));
  } catch (...) {
    return fail(make_error(ErrorKind::damaged, "a JSON document of bounded depth"));
  }
}

Json number(float value) {
  if (!std::isfinite(value)) return nullptr;
  return find_number(shortest(value)).value_or(0);
}

std::string to_lines(const Json& document) {
  const auto dump = [](const Json& value) {
    return value.dump(-1, ' ', false, Json::error_handler_t::replace);
  };
  std::string out = "{";
  bool first = true;
  for (const auto& [key, value] : document.items()) {
    out += fmt::format("{}\n \"{}\": ", first ? "" : ",", key);
    first = false;
    if (!value.is_array() || value.empty() || !value.front().is_structured()) {
      out += dump(value);
      continue;
    }
    out += "[";
    for (std::size_t i = 0; i < value.size(); ++i) {
      out += fmt::format("{}\n  {}", i == 0 ? "" : ",", dump(value[i]));
    }
    out += "]";
  }
  return out + "\n}\n";
}

const Json* Fields::find(const char* name) const {
  if (!object_.is_object()) return nullptr;
  const auto at = object_.find(name);
  return at == object_.end() ? nullptr : &*at;
}

void Fields::fail_at(const char* name, const char* expected) {
  if (!error_) error_ = make_error(ErrorKind::damaged, expected, fmt::format("something else in '{}'", name));
}

void Fields::require(const char* name) {
  if (find(name) == nullptr && !error_) {
    error_ =
        make_error(ErrorKind::damaged, "a description with all its fields", fmt::format("no '{}'", name));
  }
}

std::string Fields::text(const char* name, std::string fallback) {
  const Json* value = find(name);
  if (value == nullptr) return fallback;
  if (!value->is_string()) fail_at(name, "a text");
  return value->is_string() ? value->get<std::string>() : fallback;
}

double Fields::decimal(const char* name, double fallback) {
  const Json* value = find(name);
  if (value == nullptr) return fallback;
  if (!value->is_number()) fail_at(name, "a number");
  return value->is_number() ? value->get<double>() : fallback;
}

bool Fields::flag(const char* name, bool fallback) {
  const Json* value = find(name);
  if (value == nullptr) return fallback;
  if (!value->is_boolean()) fail_at(name, "true or false");
  return value->is_boolean() ? value->get<bool>() : fallback;
}

int Fields::whole(const char* name, int fallback) {
  const double value = decimal(name, fallback);
  if (value == std::floor(value) && std::abs(value) <= std::numeric_limits<int>::max()) {
    return static_cast<int>(value);
  }
  fail_at(name, "a whole number");
  return fallback;
}

std::pair<int, int> Fields::pair(const char* name, std::pair<int, int> fallback) {
  const Json* value = find(name);
  if (value == nullptr) return fallback;
  if (value->is_number_integer()) return {whole(name, 0), whole(name, 0)};
  const auto fits = [](const Json& v) { return v.is_number_integer() && std::abs(v.get<double>()) <= 1e6; };
  if (!value->is_array() || value->size() != 2 || !fits((*value)[0]) || !fits((*value)[1])) {
    fail_at(name, "two whole numbers");
    return fallback;
  }
  return {(*value)[0].get<int>(), (*value)[1].get<int>()};
}

const Json* Fields::array(const char* name) {
  const Json* value = find(name);
  if (value != nullptr && !value->is_array()) fail_at(name, "a list");
  return value != nullptr && value->is_array() ? value : nullptr;
}

const Json* Fields::object(const char* name) {
  const Json* value = find(name);
  if (value != nullptr && !value->is_object()) fail_at(name, "an object");
  return value != nullptr && value->is_object() ? value : nullptr;
}

}  // namespace grafema::detail
