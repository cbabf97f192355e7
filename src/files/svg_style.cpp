// SPDX-License-Identifier: MIT
// Property by property, and the functions of transforms.
#include "files/svg_style.hpp"

#include <array>
#include <cmath>
#include <utility>

#include "base/numbers.hpp"

namespace grafema::detail {
namespace {

constexpr std::string_view kSpaces = " \t\r\n\f";

std::string_view trimmed(std::string_view text) {
  const std::size_t first = text.find_first_not_of(kSpaces);
  if (first == std::string_view::npos) return {};
  return text.substr(first, text.find_last_not_of(kSpaces) - first + 1);
}

tl::unexpected<Error> wrong(const char* expected, std::string_view found) {
  return fail(make_error(ErrorKind::damaged, expected, found));
}

/// One of a few words.
template <class Value, std::size_t count>
Result<void> choose(const std::array<std::pair<std::string_view, Value>, count>& words, std::string_view word,
                    const char* expected, Value& out) {
  for (const auto& [name, value] : words) {
    if (name != word) continue;
    out = value;
    return {};
  }
  return wrong(expected, word);
}

Result<void> set_paint(std::string_view value, Color current, bool& painted, Color& color) {
  if (value == "none") {
    painted = false;
    return {};
  }
  if (value.starts_with("url("))
    return fail(make_error(ErrorKind::unsupported, "a plain color or none", value));
  painted = true;
  if (value == "currentColor" || value == "currentcolor") {
    color = current;
    return {};
  }
  const Result<Color> read = read_color(value);
  if (!read) return wrong("a color", value);
  color = *read;
  return {};
}

}  // namespace

Result<void> SvgStyle::set(std::string_view property, std::string_view value) {
  value = trimmed(value);
  if (value == "inherit" || value.empty()) return {};
  if (property == "fill") return set_paint(value, current, filled, fill);
  if (property == "stroke") return set_paint(value, current, stroked, stroke);
  if (property == "color") {
    bool painted = true;
    return set_paint(value, current, painted, current);
  }
  if (property == "fill-rule") {
    constexpr std::array<std::pair<std::string_view, bool>, 2> kRules = {
        {{"nonzero", false}, {"evenodd", true}}};
    return choose(kRules, value, "nonzero or evenodd", even_odd);
  }
  if (property == "stroke-linecap") {
    constexpr std::array<std::pair<std::string_view, StrokeCap>, 3> kCaps = {
        {{"butt", StrokeCap::butt}, {"round", StrokeCap::round}, {"square", StrokeCap::square}}};
    return choose(kCaps, value, "butt, round or square", cap);
  }
  if (property == "stroke-linejoin") {
    constexpr std::array<std::pair<std::string_view, StrokeJoin>, 3> kJoins = {
        {{"miter", StrokeJoin::miter}, {"round", StrokeJoin::round}, {"bevel", StrokeJoin::bevel}}};
    return choose(kJoins, value, "miter, round or bevel", join);
  }
  if (property == "stroke-width") {
    const std::optional<double> length = read_svg_length(value);
    if (!length || !(*length > 0)) return wrong("a stroke width above 0, without % or em", value);
    width = *length;
    return {};
  }
  if (property == "stroke-miterlimit") {
    const std::optional<double> limit = find_number(value);
    if (!limit || !(*limit >= 1)) return wrong("a miter limit of 1 or more", value);
    miter_limit = *limit;
    return {};
  }
  if (property == "data-pen") {
    const std::optional<double> share = find_number(value);
    if (!share || !(*share >= 0 && *share <= 1)) return wrong("a share of the pen's change, 0 to 1", value);
    pen_share = *share;
    return {};
  }
  if (property == "display" || property == "visibility") {
    if (value == "none" || value == "hidden" || value == "collapse") shown = false;
    return {};
  }
  for (const std::string_view name : {"filter", "mask", "clip-path", "marker", "marker-start", "marker-mid",
                                      "marker-end", "stroke-dasharray"}) {
    if (property == name && value != "none") {
      return fail(make_error(ErrorKind::unsupported, "no filter, mask, clip-path, marker or stroke-dasharray",
                             std::string(property)));
    }
  }
  return {};
}

Result<void> SvgStyle::set_all(std::string_view declarations) {
  while (!declarations.empty()) {
    const std::size_t end = declarations.find(';');
    const std::string_view one = trimmed(declarations.substr(0, end));
    declarations = end == std::string_view::npos ? std::string_view{} : declarations.substr(end + 1);
    if (one.empty()) continue;
    const std::size_t colon = one.find(':');
    if (colon == std::string_view::npos) return wrong("a property, a colon and a value", one);
    if (Result<void> set_one = set(trimmed(one.substr(0, colon)), one.substr(colon + 1)); !set_one)
      return set_one;
  }
  return {};
}

SvgMatrix SvgMatrix::operator*(const SvgMatrix& in) const {
  return {a * in.a + c * in.b, b * in.a + d * in.b,     a * in.c + c * in.d,
          b * in.c + d * in.d, a * in.e + c * in.f + e, b * in.e + d * in.f + f};
}

Transform SvgMatrix::rounded() const {
  const auto narrow = [](double v) { return static_cast<float>(v); };
  return {narrow(a), narrow(c), narrow(b), narrow(d), narrow(e), narrow(f)};
}

std::optional<std::vector<double>> read_svg_numbers(std::string_view text) {
  std::vector<double> numbers;
  while (true) {
    const std::size_t first = text.find_first_not_of(" \t\r\n\f,");
    if (first == std::string_view::npos) return numbers;
    text.remove_prefix(first);
    std::size_t end = text.find_first_of(" \t\r\n\f,");
    end = std::min(end, text.size());
    // A sign may follow a number without anything between.
    for (std::size_t i = 1; i < end; ++i) {
      if ((text[i] == '-' || text[i] == '+') && text[i - 1] != 'e' && text[i - 1] != 'E') end = i;
    }
    std::string_view one = text.substr(0, end);
    if (one.starts_with('+')) one.remove_prefix(1);
    const std::optional<double> value = find_number(one);
    if (!value || std::abs(*value) > 1e6) return std::nullopt;
    numbers.push_back(*value);
    text.remove_prefix(end);
  }
}

std::optional<double> read_svg_length(std::string_view text) {
  constexpr std::array<std::pair<std::string_view, double>, 7> kUnits = {{{"px", 1},
                                                                          {"pt", 96.0 / 72},
                                                                          {"pc", 16},
                                                                          {"mm", 96 / 25.4},
                                                                          {"cm", 96 / 2.54},
                                                                          {"in", 96},
                                                                          {"Q", 96 / 101.6}}};
  text = trimmed(text);
  double scale = 1;
  for (const auto& [unit, pixels] : kUnits) {
    if (!text.ends_with(unit)) continue;
    scale = pixels;
    text.remove_suffix(unit.size());
    break;
  }
  if (text.starts_with('+')) text.remove_prefix(1);
  const std::optional<double> value = find_number(text);
  if (!value || std::abs(*value) > 1e6) return std::nullopt;
  return *value * scale;
}

namespace {

std::optional<SvgMatrix> make_matrix(std::string_view function, const std::vector<double>& v) {
  const std::size_t n = v.size();
  if (function == "matrix" && n == 6) return SvgMatrix{v[0], v[1], v[2], v[3], v[4], v[5]};
  if (function == "translate" && (n == 1 || n == 2)) return SvgMatrix{1, 0, 0, 1, v[0], n == 2 ? v[1] : 0};
  if (function == "scale" && (n == 1 || n == 2)) return SvgMatrix{v[0], 0, 0, n == 2 ? v[1] : v[0], 0, 0};
  if (function == "rotate" && (n == 1 || n == 3)) {
    const SineCosine turn = sine_cosine(v[0]);
    const SvgMatrix rotated{turn.cosine, turn.sine, -turn.sine, turn.cosine, 0, 0};
    if (n == 1) return rotated;
    return SvgMatrix{1, 0, 0, 1, v[1], v[2]} * rotated * SvgMatrix{1, 0, 0, 1, -v[1], -v[2]};
  }
  const bool skews = (function == "skewX" || function == "skewY") && n == 1;
  if (!skews || std::abs(sine_cosine(v[0]).cosine) < 1e-6) return std::nullopt;
  const SineCosine turn = sine_cosine(v[0]);
  const double slant = turn.sine / turn.cosine;
  return function == "skewX" ? SvgMatrix{1, 0, slant, 1, 0, 0} : SvgMatrix{1, slant, 0, 1, 0, 0};
}

}  // namespace

Result<SvgMatrix> read_svg_transform(std::string_view text) {
  SvgMatrix whole;
  while (true) {
    const std::size_t first = text.find_first_not_of(" \t\r\n\f,");
    if (first == std::string_view::npos) return whole;
    text.remove_prefix(first);
    const std::size_t open = text.find('('), close = text.find(')');
    if (open == std::string_view::npos || close == std::string_view::npos || close < open)
      return wrong("transform functions with numbers in brackets", text.substr(0, 40));
    const std::optional<std::vector<double>> numbers =
        read_svg_numbers(text.substr(open + 1, close - open - 1));
    const std::optional<SvgMatrix> one =
        numbers ? make_matrix(trimmed(text.substr(0, open)), *numbers) : std::nullopt;
    if (!one) {
      return wrong("matrix, translate, scale, rotate, skewX or skewY with their numbers",
                   text.substr(0, std::min<std::size_t>(close + 1, 60)));
    }
    whole = whole * *one;
    text.remove_prefix(close + 1);
  }
}

}  // namespace grafema::detail
