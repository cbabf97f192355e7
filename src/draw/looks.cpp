// SPDX-License-Identifier: MIT
// Keeps looks by name.
#include "grafema/draw/looks.hpp"

#include <fmt/format.h>

#include "grafema/base/nearest.hpp"

namespace grafema {

LookBook::LookBook() { looks_.push_back({"plain", plain_look({1, 1, 1, 1})}); }

LookId LookBook::set(std::string_view name, const Look& look) {
  for (std::size_t i = 0; i < looks_.size(); ++i) {
    if (looks_[i].name != name) continue;
    set(LookId{static_cast<std::uint32_t>(i)}, look);
    return LookId{static_cast<std::uint32_t>(i)};
  }
  looks_.push_back({std::string(name), look});
  ++revision_;
  return LookId{static_cast<std::uint32_t>(looks_.size() - 1)};
}

void LookBook::set(LookId id, const Look& look) {
  Look& kept = looks_[static_cast<std::size_t>(id)].look;
  if (kept == look) return;
  kept = look;
  ++revision_;
}

Result<LookId> LookBook::read(std::string_view name) const {
  std::vector<std::string_view> names;
  for (std::size_t i = 0; i < looks_.size(); ++i) {
    if (looks_[i].name == name) return LookId{static_cast<std::uint32_t>(i)};
    names.push_back(looks_[i].name);
  }
  return fail(make_error(ErrorKind::bad_value, "the name of a look that is there",
                         fmt::format("'{}'{}", name, suggestion(name, names))));
}

}  // namespace grafema
