// SPDX-License-Identifier: MIT
// JSON in and out without exceptions leaving the module.
#pragma once

#include <nlohmann/json.hpp>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include "files/json_fields.hpp"
#include "grafema/base/error.hpp"
#include "grafema/base/notes.hpp"

namespace grafema::detail {

using Json = nlohmann::basic_json<IndexedFields>;

/// How deep lists and objects of a document may stand in each other.
constexpr std::size_t kMaxDepth = 64;

/// A document; the error names the line. Nesting deeper than `kMaxDepth` is damage.
Result<Json> read_json(std::string_view text);

/// Notes each field of an object that is not among `known`, with the nearest of those. `where` says which
/// object.
void note_unknown_fields(const Json& object, std::span<const std::string_view> known, std::string_view where,
                         Notes* notes);

/// A value as an error quotes it: short, and UTF-8 whatever the document has.
std::string quoted(const Json& value);

/// A float as the shortest decimal number that reads back to it.
Json number(float value);

/// One line for each element of the document's top-level arrays and each top-level field.
std::string to_lines(const Json& document);

/// Fields of an object with checks; the first failure is kept and later calls give defaults.
class Fields {
 public:
  explicit Fields(const Json& object) : object_(object) {}

  std::string text(const char* name, std::string fallback = {});
  int whole(const char* name, int fallback);
  double decimal(const char* name, double fallback);
  bool flag(const char* name, bool fallback);
  /// A list of two numbers, or one number for both.
  std::pair<int, int> pair(const char* name, std::pair<int, int> fallback);
  const Json* array(const char* name);
  const Json* object(const char* name);
  void require(const char* name);
  void fail_at(const char* name, const char* expected);
  const std::optional<Error>& error() const { return error_; }

 private:
  const Json* find(const char* name) const;

  const Json& object_;
  std::optional<Error> error_;
};

}  // namespace grafema::detail
