// SPDX-License-Identifier: MIT
// Keeps looks by name.
#include "grafema/draw/looks.hpp"

#include <fmt/format.h>

#include "grafema/base/nearest.hpp"

namespace grafema {

LookBook::LookBook() {
  looks_.push_back({"plain", plain_look({1, 1, 1, 1})});
  ids_.emplace("plain", LookId{});
}

Result<LookId> LookBook::set(std::string_view name, const Look& look) {
  if (const Result<void> checked = check_look(look); !checked) return fail(checked.error());
  const auto at = ids_.find(name);
  if (at != ids_.end()) {
    change(at->second, look);
    return at->second;
  }
  const LookId id{static_cast<std::uint32_t>(looks_.size())};
  looks_.push_back({std::string(name), look});
  ids_.emplace(name, id);
  ++revision_;
  return id;
}

Result<void> LookBook::set(LookId id, const Look& look) {
  if (!has(id)) return fail(make_error(ErrorKind::bad_value, "a look of this book"));
  if (const Result<void> checked = check_look(look); !checked) return checked;
  change(id, look);
  return {};
}

void LookBook::change(LookId id, const Look& look) {
  Look& kept = looks_[static_cast<std::size_t>(id)].look;
  if (kept == look) return;
  kept = look;
  ++revision_;
}

Result<LookId> LookBook::read(std::string_view name) const {
  if (const auto at = ids_.find(name); at != ids_.end()) return at->second;
  std::vector<std::string_view> names;
  names.reserve(looks_.size());
  for (const Named& named : looks_) names.push_back(named.name);
  return fail(make_error(ErrorKind::bad_value, "the name of a look that is there",
                         fmt::format("'{}'{}", name, suggestion(name, names))));
}

}  // namespace grafema
