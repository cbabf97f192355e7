// SPDX-License-Identifier: MIT
// Named looks that many labels share and that may change while the game runs.
#pragma once

#include <string>
#include <string_view>
#include <unordered_map>
#include <vector>

#include "grafema/draw/look.hpp"

namespace grafema {

/// A look of a LookBook. 0 is the plain black one that is always there.
enum class LookId : std::uint32_t {};

/// What of a look a parameter says.
enum class LookTarget : std::uint8_t {
  corner,  ///< a color of a fill's corners, by index; of an image the first is its tint
  stop,    ///< the color of a stop, by index
  grow,
  blur,
  line,
  shift_x,
  shift_y,
  sweep_x,
  sweep_y,
  opacity,  ///< of the whole look
};

/// A color or number of a look that a game sets by name.
struct LookParameter {
  std::string name = {};
  LookTarget target = LookTarget::corner;
  std::uint8_t layer = 0, index = 0;
  bool is_color() const { return target <= LookTarget::stop; }
  bool operator==(const LookParameter&) const = default;
};

/// Looks by name. Changing one shows on every label that uses it.
class GRAFEMA_API LookBook {
 public:
  LookBook();

  /// Adds a look, or changes the one of that name. Fails with `bad_value` as `check_look` does.
  Result<LookId> set(std::string_view name, const Look& look, std::vector<LookParameter> parameters = {});
  /// Fails with `bad_value` as `check_look` does, and where the book has no such look.
  Result<void> set(LookId id, const Look& look);
  /// Sets what is called so in every look, or in one: a color, or a number in the look's own unit. Fails with
  /// `bad_value` where there is no such color or number, with the nearest name, and where `check_look` would;
  /// nothing is changed then.
  Result<void> set_parameter(std::string_view name, const Color& color);
  Result<void> set_parameter(std::string_view name, float number);
  Result<void> set_parameter(LookId id, std::string_view name, const Color& color);
  Result<void> set_parameter(LookId id, std::string_view name, float number);
  /// A new look of that name, or one that is there, becomes like another, parameters included: one for each
  /// team.
  Result<LookId> copy(std::string_view name, LookId from);
  /// Fails with `bad_value`; the error names the look whose name is nearest.
  Result<LookId> read(std::string_view name) const;
  bool has(LookId id) const { return static_cast<std::size_t>(id) < looks_.size(); }
  /// The plain one where the book has no such look.
  const Look& get(LookId id) const { return looks_[has(id) ? static_cast<std::size_t>(id) : 0].look; }
  std::string_view name(LookId id) const& { return looks_[has(id) ? static_cast<std::size_t>(id) : 0].name; }
  std::string_view name(LookId id) const&& = delete;
  std::size_t size() const { return looks_.size(); }
  /// Moves whenever a look is added or changed.
  std::uint64_t revision() const { return revision_; }

 private:
  void change(LookId id, const Look& look);
  template <class Value>
  Result<void> set_in(std::size_t first, std::size_t end, std::string_view name, const Value& value);

  struct Named {
    std::string name = {};
    Look look = {};
    std::vector<LookParameter> parameters = {};
  };
  struct Hash {
    using is_transparent = void;
    std::size_t operator()(std::string_view name) const { return std::hash<std::string_view>{}(name); }
  };
  std::vector<Named> looks_;
  std::unordered_map<std::string, LookId, Hash, std::equal_to<>> ids_;
  std::uint64_t revision_ = 1;
};

}  // namespace grafema
