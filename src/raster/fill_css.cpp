// SPDX-License-Identifier: MIT
// Fills in CSS notation: colors, linear-gradient() and radial-gradient() (CSS Images 4, section 3).
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <vector>

#include "base/numbers.hpp"
#include "raster/fill_css.hpp"

namespace grafema {
namespace {

constexpr const char* kNotation = "a CSS color, four of them, linear-gradient() or radial-gradient()";

/// Splits at separators that stand in no parentheses; empty pieces are kept where `keeps_empty`.
std::vector<std::string_view> split(std::string_view text, std::string_view separators, bool keeps_empty) {
  std::vector<std::string_view> pieces;
  int depth = 0;
  std::size_t begin = 0;
  for (std::size_t i = 0; i <= text.size(); ++i) {
    const bool ends = i == text.size() || (depth == 0 && separators.find(text[i]) != std::string_view::npos);
    if (ends && (keeps_empty || i > begin)) pieces.push_back(text.substr(begin, i - begin));
    if (ends) begin = i + 1;
    if (i < text.size() && text[i] == '(') ++depth;
    if (i < text.size() && text[i] == ')') --depth;
  }
  return pieces;
}

std::vector<std::string_view> words_of(std::string_view text) { return split(text, " \t\r\n", false); }

std::optional<float> find_percentage(std::string_view word) {
  if (word == "0") return 0.0F;
  if (!word.ends_with('%')) return std::nullopt;
  const std::optional<double> v = detail::find_number(word.substr(0, word.size() - 1));
  if (!v || std::abs(*v) > 1e6) return std::nullopt;
  return static_cast<float>(*v / 100);
}

/// Degrees.
std::optional<float> find_angle(std::string_view word) {
  struct Unit {
    std::string_view name;
    double degrees;
  };
  constexpr Unit kUnits[] = {{"deg", 1}, {"grad", 0.9}, {"rad", 57.29577951308232}, {"turn", 360}};
  for (const Unit& unit : kUnits) {
    if (!word.ends_with(unit.name)) continue;
    const std::optional<double> v = detail::find_number(word.substr(0, word.size() - unit.name.size()));
    if (v && std::abs(*v) < 1e6) return static_cast<float>(*v * unit.degrees);
  }
  return std::nullopt;
}

class GradientReader {
 public:
  GradientReader(FillKind kind, const detail::ColorNames& names) : names_(names) { fill_.kind = kind; }

  Result<detail::NamedFill> read(std::string_view inside) {
    std::vector<std::string_view> parts = split(inside, ",", true);
    const std::vector<std::string_view> head = words_of(parts.front());
    if (!head.empty() && !is_stop(head)) {
      read_head(head);
      parts.erase(parts.begin());
    }
    for (const std::string_view part : parts) read_stop(words_of(part));
    if (wrong_ != nullptr) return fail(make_error(ErrorKind::bad_value, wrong_, found_));
    if (fill_.stop_count < 2) return bad_value("a gradient of two colors or more");
    place_stops();
    return detail::NamedFill{fill_, of_stops_};
  }

 private:
  std::optional<Color> find_color(std::string_view word) const {
    if (word.starts_with('$')) return names_ ? names_(word.substr(1)) : std::nullopt;
    const Result<Color> color = read_color(word);
    return color ? std::optional(*color) : std::nullopt;
  }

  bool is_stop(const std::vector<std::string_view>& words) const {
    return std::any_of(words.begin(), words.end(),
                       [this](std::string_view w) { return w.starts_with('$') || find_color(w); });
  }

  void give_up(const char* expected, std::string_view found) {
    if (wrong_ == nullptr) wrong_ = expected, found_ = found;
  }

  void read_head(const std::vector<std::string_view>& words) {
    for (std::size_t i = 0; i < words.size() && wrong_ == nullptr;) {
      if (words[i] == "in") {
        i = read_space(words, i + 1);
      } else if (fill_.kind == FillKind::linear) {
        i = read_way(words, i);
      } else {
        i = words[i] == "at" ? read_center(words, i + 1) : read_shape(words, i);
      }
    }
    if (fill_.kind == FillKind::radial) find_radius();
  }

  std::size_t read_space(const std::vector<std::string_view>& words, std::size_t i) {
    const std::string_view word = i < words.size() ? words[i] : std::string_view("nothing");
    if (word == "srgb")
      fill_.mixed_in = MixSpace::srgb;
    else if (word == "srgb-linear")
      fill_.mixed_in = MixSpace::linear;
    else if (word == "oklab")
      fill_.mixed_in = MixSpace::oklab;
    else
      give_up("srgb, srgb-linear or oklab behind 'in'", word);
    return i + 1;
  }

  std::size_t read_way(const std::vector<std::string_view>& words, std::size_t i) {
    if (words[i] != "to") {
      const std::optional<float> angle = find_angle(words[i]);
      if (!angle) give_up("an angle such as 45deg, or 'to right'", words[i]);
      fill_.angle = angle.value_or(0);
      return i + 1;
    }
    int x = 0, y = 0;
    for (++i; i < words.size() && words[i] != "in"; ++i) {
      if (words[i] == "left" && x == 0)
        x = -1;
      else if (words[i] == "right" && x == 0)
        x = 1;
      else if (words[i] == "top" && y == 0)
        y = -1;
      else if (words[i] == "bottom" && y == 0)
        y = 1;
      else
        give_up("left, right, top, bottom or two of them behind 'to'", words[i]);
    }
    if (x == 0 && y == 0) give_up("left, right, top, bottom or two of them behind 'to'", "nothing");
    fill_.to_corner = x != 0 && y != 0;
    fill_.angle = fill_.to_corner ? (x > 0 ? (y < 0 ? 45.0F : 135.0F) : (y < 0 ? 315.0F : 225.0F))
                  : x != 0        ? (x > 0 ? 90.0F : 270.0F)
                                  : (y < 0 ? 0.0F : 180.0F);
    return i;
  }

  std::size_t read_shape(const std::vector<std::string_view>& words, std::size_t i) {
    struct Extent {
      std::string_view name;
      RadialExtent extent;
    };
    constexpr Extent kExtents[] = {{"closest-side", RadialExtent::closest_side},
                                   {"farthest-side", RadialExtent::farthest_side},
                                   {"closest-corner", RadialExtent::closest_corner},
                                   {"farthest-corner", RadialExtent::farthest_corner}};
    const std::string_view word = words[i];
    if (word == "circle" || word == "ellipse") {
      is_circle_ = word == "circle";
      return i + 1;
    }
    for (const Extent& e : kExtents) {
      if (word == e.name) {
        extent_ = e.extent;
        return i + 1;
      }
    }
    const std::optional<float> x = find_percentage(word),
                               y = i + 1 < words.size() ? find_percentage(words[i + 1]) : std::nullopt;
    if (x && y && *x >= 0 && *y >= 0) {
      fill_.radius = {*x, *y}, has_radius_ = true;
      return i + 2;
    }
    give_up("circle, ellipse, an extent such as closest-side, two percentages, 'at' or 'in'", word);
    return i + 1;
  }

  std::size_t read_center(const std::vector<std::string_view>& words, std::size_t i) {
    int count = 0;
    bool has_x = false;
    for (; i < words.size() && words[i] != "in" && count < 2; ++i, ++count) {
      const std::string_view word = words[i];
      if (word == "left" || word == "right") {
        // A word for across may stand behind one for down.
        if (has_x) fill_.center.y = fill_.center.x;
        fill_.center.x = word == "left" ? 0.0F : 1.0F, has_x = true;
      } else if (word == "top" || word == "bottom") {
        fill_.center.y = word == "top" ? 0.0F : 1.0F;
      } else {
        const std::optional<float> v = word == "center" ? 0.5F : find_percentage(word);
        if (!v) give_up("a place of words and percentages behind 'at'", word);
        (count == 0 ? fill_.center.x : fill_.center.y) = v.value_or(0);
        has_x = has_x || count == 0;
      }
    }
    if (count == 0) give_up("a place behind 'at'", "nothing");
    return i;
  }

  /// An ellipse has one ratio wherever it ends: its radii are fractions.
  void find_radius() {
    if (is_circle_) {
      fill_.extent = extent_;
      if (has_radius_) give_up("an extent for a circle", "percentages");
      return;
    }
    if (has_radius_) return;
    const auto is_near = extent_ == RadialExtent::closest_side || extent_ == RadialExtent::closest_corner;
    const float to_corner =
        extent_ == RadialExtent::closest_corner || extent_ == RadialExtent::farthest_corner ? 1.41421356F
                                                                                            : 1.0F;
    const auto radius = [&](float at) {
      const float low = std::abs(at), high = std::abs(1 - at);
      return (is_near ? std::min(low, high) : std::max(low, high)) * to_corner;
    };
    fill_.radius = {radius(fill_.center.x), radius(fill_.center.y)};
  }

  void read_stop(const std::vector<std::string_view>& words) {
    std::optional<Color> color;
    std::string_view name;
    std::array<std::optional<float>, 2> places;
    std::size_t count = 0;
    for (const std::string_view word : words) {
      const std::optional<Color> read = find_color(word);
      const std::optional<float> place = find_percentage(word);
      if (read && !color) {
        color = *read;
        if (word.starts_with('$')) name = word.substr(1);
      } else if (place && count < 2)
        places[count++] = place;
      else
        return give_up("a color and up to two percentages for each stop", word);
    }
    if (!color)
      return give_up("a color in each stop", words.empty() ? std::string_view("nothing") : words.front());
    for (std::size_t i = 0; i < std::max<std::size_t>(count, 1); ++i) {
      if (fill_.stop_count == Fill::kMaxStops) return give_up("at most 8 stops", "more");
      placed_[fill_.stop_count] = places[i].has_value();
      of_stops_[fill_.stop_count] = name;
      fill_.stops[fill_.stop_count++] = {places[i].value_or(0), *color};
    }
  }

  /// CSS Images 4, section 3.5.1: ends are 0 and 1, none comes before another, the rest stands evenly
  /// between.
  void place_stops() {
    const std::size_t last = fill_.stop_count - std::size_t{1};
    if (!placed_[0]) fill_.stops[0].at = 0;
    if (!placed_[last]) fill_.stops[last].at = 1;
    placed_[0] = placed_[last] = true;
    float most = fill_.stops[0].at;
    for (std::size_t i = 0; i <= last; ++i) {
      if (placed_[i]) most = fill_.stops[i].at = std::max(fill_.stops[i].at, most);
    }
    for (std::size_t i = 1; i < last; ++i) {
      if (placed_[i]) continue;
      std::size_t end = i;
      while (!placed_[end]) ++end;
      const float from = fill_.stops[i - 1].at,
                  step = (fill_.stops[end].at - from) / static_cast<float>(end - i + 1);
      fill_.stops[i].at = from + step;
      placed_[i] = true;
    }
  }

  const detail::ColorNames& names_;
  Fill fill_;
  std::array<std::string_view, Fill::kMaxStops> of_stops_ = {};
  std::array<bool, Fill::kMaxStops> placed_ = {};
  RadialExtent extent_ = RadialExtent::farthest_corner;
  bool is_circle_ = false, has_radius_ = false;
  const char* wrong_ = nullptr;
  std::string_view found_;
};

}  // namespace

Result<detail::NamedFill> detail::read_named_fill(std::string_view css, const ColorNames& names) {
  constexpr std::string_view kSpaces = " \t\r\n";
  const std::size_t begin = css.find_first_not_of(kSpaces);
  if (begin == std::string_view::npos) return fail(make_error(ErrorKind::bad_value, kNotation, "nothing"));
  std::string_view text = css.substr(begin, css.find_last_not_of(kSpaces) + 1 - begin);
  struct Function {
    std::string_view name;
    FillKind kind;
  };
  constexpr Function kFunctions[] = {{"linear-gradient(", FillKind::linear},
                                     {"radial-gradient(", FillKind::radial}};
  for (const Function& function : kFunctions) {
    if (!text.starts_with(function.name)) continue;
    if (!text.ends_with(')')) return bad_value("a ')' at the end of a gradient", text);
    text = text.substr(function.name.size(), text.size() - function.name.size() - 1);
    return GradientReader(function.kind, names).read(text);
  }
  if (text.starts_with('$')) {
    const std::optional<Color> color = names ? names(text.substr(1)) : std::nullopt;
    if (!color) return fail(make_error(ErrorKind::bad_value, kNotation, text));
    return NamedFill{Fill::solid(*color), {text.substr(1)}};
  }
  const std::vector<std::string_view> parts = split(text, ",", true);
  if (parts.size() != 1 && parts.size() != 4) {
    return bad_value("one color, four for the corners, or a gradient",
                     fmt::format("{} colors", parts.size()));
  }
  std::array<Color, 4> corners;
  for (std::size_t i = 0; i < 4; ++i) {
    const std::string_view part = parts[i % parts.size()];
    const std::size_t first = part.find_first_not_of(' ');
    const Result<Color> color = read_color(first == std::string_view::npos ? part : part.substr(first));
    if (!color) return fail(make_error(ErrorKind::bad_value, kNotation, text));
    corners[i] = *color;
  }
  return NamedFill{Fill::four(corners[0], corners[1], corners[2], corners[3])};
}

Result<Fill> read_fill(std::string_view css) {
  const Result<detail::NamedFill> read = detail::read_named_fill(css, {});
  if (!read) return fail(read.error());
  return read->fill;
}

}  // namespace grafema
