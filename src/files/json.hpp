// SPDX-License-Identifier: MIT
// JSON in and out without exceptions leaving the module.
#pragma once

#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <string_view>

#include "grafema/base/error.hpp"

namespace grafema::detail {

using Json = nlohmann::ordered_json;

/// A document; the error names the line.
Result<Json> read_json(std::string_view text);

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
