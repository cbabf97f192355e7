// SPDX-License-Identifier: MIT
// Keeps looks by name.
#include "grafema/draw/looks.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "grafema/base/nearest.hpp"

namespace grafema {

LookBook::LookBook() {
  looks_.push_back({"plain", plain_look({0, 0, 0, 1}), {}});
  ids_.emplace("plain", LookId{});
}

Result<LookId> LookBook::set(std::string_view name, const Look& look, std::vector<LookParameter> parameters) {
  if (const Result<void> checked = check_look(look); !checked) return fail(checked.error());
  const auto at = ids_.find(name);
  if (at != ids_.end()) {
    change(at->second, look);
    looks_[static_cast<std::size_t>(at->second)].parameters = std::move(parameters);
    return at->second;
  }
  const LookId id{static_cast<std::uint32_t>(looks_.size())};
  looks_.push_back({std::string(name), look, std::move(parameters)});
  ids_.emplace(name, id);
  ++revision_;
  return id;
}

Result<LookId> LookBook::copy(std::string_view name, LookId from) {
  if (!has(from)) return bad_value("a look of this book");
  const Named source = looks_[static_cast<std::size_t>(from)];
  return set(name, source.look, source.parameters);
}

namespace {

void put(Look& look, const LookParameter& p, const Color& color) {
  Fill& fill = look.layers[p.layer].fill;
  (p.target == LookTarget::stop ? fill.stops[p.index].color : fill.corners[p.index]) = color;
}

void put(Look& look, const LookParameter& p, float number) {
  Layer& layer = look.layers[p.layer];
  switch (p.target) {
    case LookTarget::grow:
      layer.grow = number;
      break;
    case LookTarget::blur:
      layer.blur = number;
      break;
    case LookTarget::line:
      layer.line = number;
      break;
    case LookTarget::shift_x:
      layer.shift.x = number;
      break;
    case LookTarget::shift_y:
      layer.shift.y = number;
      break;
    case LookTarget::sweep_x:
      layer.sweep.x = number;
      break;
    case LookTarget::sweep_y:
      layer.sweep.y = number;
      break;
    case LookTarget::opacity:
      look.opacity = number;
      break;
    default:
      break;
  }
}

constexpr bool is_color(const Color&) { return true; }
constexpr bool is_color(float) { return false; }

/// Whether it names something that is there, and of that type.
bool fits(const LookParameter& p, const Look& look, bool color) {
  const std::size_t places = p.target == LookTarget::stop     ? Fill::kMaxStops
                             : p.target == LookTarget::corner ? 4
                                                              : 1;
  return p.is_color() == color && (p.target == LookTarget::opacity || p.layer < look.count) &&
         p.index < places;
}

}  // namespace

template <class Value>
Result<void> LookBook::set_in(std::size_t first, std::size_t end, std::string_view name, const Value& value) {
  bool found = false;
  // All are tried before one is changed.
  for (const bool is_trial : {true, false}) {
    for (std::size_t i = first; i < end; ++i) {
      const Named& named = looks_[i];
      const auto is_meant = [&](const LookParameter& p) {
        return p.name == name && fits(p, named.look, is_color(value));
      };
      if (std::none_of(named.parameters.begin(), named.parameters.end(), is_meant)) continue;
      found = true;
      Look look = named.look;
      for (const LookParameter& p : named.parameters) {
        if (is_meant(p)) put(look, p, value);
      }
      if (Result<void> checked = check_look(look); !checked) return checked;
      if (!is_trial) change(LookId{static_cast<std::uint32_t>(i)}, look);
    }
  }
  if (found) return {};
  std::vector<std::string_view> names;
  for (std::size_t i = first; i < end; ++i) {
    for (const LookParameter& p : looks_[i].parameters) {
      if (p.is_color() == is_color(value)) names.push_back(p.name);
    }
  }
  return fail(make_error(ErrorKind::bad_value,
                         is_color(value) ? "the name of a color of a look" : "the name of a number of a look",
                         fmt::format("'{}'{}", name, suggestion(name, names))));
}

Result<void> LookBook::set_parameter(std::string_view name, const Color& color) {
  return set_in(0, looks_.size(), name, color);
}

Result<void> LookBook::set_parameter(std::string_view name, float number) {
  return set_in(0, looks_.size(), name, number);
}

Result<void> LookBook::set_parameter(LookId id, std::string_view name, const Color& color) {
  if (!has(id)) return bad_value("a look of this book");
  return set_in(static_cast<std::size_t>(id), static_cast<std::size_t>(id) + 1, name, color);
}

Result<void> LookBook::set_parameter(LookId id, std::string_view name, float number) {
  if (!has(id)) return bad_value("a look of this book");
  return set_in(static_cast<std::size_t>(id), static_cast<std::size_t>(id) + 1, name, number);
}

Result<void> LookBook::set(LookId id, const Look& look) {
  if (!has(id)) return bad_value("a look of this book");
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
