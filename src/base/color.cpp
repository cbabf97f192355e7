// SPDX-License-Identifier: MIT
// Reads CSS colors and converts between sRGB and linear light.
#include "grafema/base/color.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include "base/numbers.hpp"

namespace grafema {
namespace {

struct NamedColor {
  std::string_view name;
  std::uint32_t rgb;
};

constexpr NamedColor kNames[] = {
#include "base/color_names.inc"
};

constexpr const char* kNotation =
    "a CSS color such as #f2b33d, #f2b33dcc, a name such as orange, rgb(), hsl() or oklch()";

tl::unexpected<Error> not_a_color(std::string_view text) {
  return fail(make_error(ErrorKind::bad_value, kNotation, text));
}

float clamp_unit(double value) { return static_cast<float>(std::clamp(value, 0.0, 1.0)); }

Color from_bytes(std::uint32_t r, std::uint32_t g, std::uint32_t b, std::uint32_t a) {
  return {static_cast<float>(r) / 255.0F, static_cast<float>(g) / 255.0F, static_cast<float>(b) / 255.0F,
          static_cast<float>(a) / 255.0F};
}

int hex_digit(char c) {
  if (c >= '0' && c <= '9') return c - '0';
  if (c >= 'a' && c <= 'f') return c - 'a' + 10;
  return -1;
}

Result<Color> read_hex(std::string_view text) {
  const std::string_view digits = text.substr(1);
  std::array<std::uint32_t, 8> d = {};
  if (digits.size() > 8 || digits.size() < 3) return not_a_color(text);
  for (std::size_t i = 0; i < digits.size(); ++i) {
    if (hex_digit(digits[i]) < 0) return not_a_color(text);
    d[i] = static_cast<std::uint32_t>(hex_digit(digits[i]));
  }
  switch (digits.size()) {
    case 3:
      return from_bytes(d[0] * 17, d[1] * 17, d[2] * 17, 255);
    case 4:
      return from_bytes(d[0] * 17, d[1] * 17, d[2] * 17, d[3] * 17);
    case 6:
      return from_bytes(d[0] * 16 + d[1], d[2] * 16 + d[3], d[4] * 16 + d[5], 255);
    case 8:
      return from_bytes(d[0] * 16 + d[1], d[2] * 16 + d[3], d[4] * 16 + d[5], d[6] * 16 + d[7]);
    default:
      return not_a_color(text);
  }
}

/// An argument of a color function: its number, and whether a percent sign followed.
struct Argument {
  double value = 0;
  bool percent = false;
};

struct Arguments {
  std::array<Argument, 4> list;
  std::size_t count = 0;
};

std::optional<Argument> find_argument(std::string_view word) {
  Argument argument;
  if (word == "none") return argument;
  if (word.ends_with('%')) {
    argument.percent = true;
    word.remove_suffix(1);
  } else if (word.ends_with("deg")) {
    word.remove_suffix(3);
  }
  const std::optional<double> value = detail::find_number(word);
  if (!value) return std::nullopt;
  argument.value = *value;
  return argument;
}

/// Splits what stands between the parentheses at commas, spaces and the slash before alpha.
std::optional<Arguments> find_arguments(std::string_view text) {
  Arguments arguments;
  std::size_t at = 0;
  constexpr std::string_view kSeparators = " ,/\t";
  while ((at = text.find_first_not_of(kSeparators, at)) != std::string_view::npos) {
    const std::size_t end = std::min(text.find_first_of(kSeparators, at), text.size());
    const std::optional<Argument> argument = find_argument(text.substr(at, end - at));
    if (!argument || arguments.count == 4) return std::nullopt;
    arguments.list[arguments.count++] = *argument;
    at = end;
  }
  return arguments.count >= 3 ? std::optional(arguments) : std::nullopt;
}

double scaled(const Argument& a, double per_percent, double per_number) {
  return a.value * (a.percent ? per_percent : per_number);
}

Color from_rgb(const Arguments& a, float alpha) {
  const auto channel = [&a](std::size_t i) { return clamp_unit(scaled(a.list[i], 0.01, 1.0 / 255)); };
  return {channel(0), channel(1), channel(2), alpha};
}

/// CSS Color 4, section 7.1.
Color from_hsl(const Arguments& a, float alpha) {
  const double hue = a.list[0].value - 360 * std::floor(a.list[0].value / 360);
  const double saturation = std::clamp(a.list[1].value / 100, 0.0, 1.0);
  const double lightness = std::clamp(a.list[2].value / 100, 0.0, 1.0);
  const auto channel = [&](double n) {
    double k = n + hue / 30;
    k -= 12 * std::floor(k / 12);
    const double amount = saturation * std::min(lightness, 1 - lightness);
    return clamp_unit(lightness - amount * std::max(-1.0, std::min({k - 3, 9 - k, 1.0})));
  };
  return {channel(0), channel(8), channel(4), alpha};
}

/// CSS Color 4, sections 9.4 and 18: Oklab's cone responses are cubes, the matrices are the specification's.
Color from_oklch(const Arguments& args, float alpha) {
  const double lightness = scaled(args.list[0], 0.01, 1);
  const double chroma = scaled(args.list[1], 0.004, 1);
  const detail::SineCosine hue = detail::sine_cosine(args.list[2].value);
  const double a = chroma * hue.cosine, b = chroma * hue.sine;
  const double l = lightness + 0.3963377774 * a + 0.2158037573 * b;
  const double m = lightness - 0.1055613458 * a - 0.0638541728 * b;
  const double s = lightness - 0.0894841775 * a - 1.2914855480 * b;
  const double l3 = l * l * l, m3 = m * m * m, s3 = s * s * s;
  return {to_srgb(clamp_unit(4.0767416621 * l3 - 3.3077115913 * m3 + 0.2309699292 * s3)),
          to_srgb(clamp_unit(-1.2684380046 * l3 + 2.6097574011 * m3 - 0.3413193965 * s3)),
          to_srgb(clamp_unit(-0.0041960863 * l3 - 0.7034186147 * m3 + 1.7076147010 * s3)), alpha};
}

Result<Color> read_function(std::string_view text) {
  const std::size_t open = text.find('(');
  std::string_view name = text.substr(0, open);
  if (name.ends_with('a')) name.remove_suffix(1);  // rgba() and hsla() are the same functions today
  const std::optional<Arguments> arguments = find_arguments(text.substr(open + 1, text.size() - open - 2));
  if (!arguments) return not_a_color(text);
  const float alpha = arguments->count == 4 ? clamp_unit(scaled(arguments->list[3], 0.01, 1)) : 1.0F;
  if (name == "rgb") return from_rgb(*arguments, alpha);
  if (name == "hsl") return from_hsl(*arguments, alpha);
  if (name == "oklch") return from_oklch(*arguments, alpha);
  return not_a_color(text);
}

}  // namespace

Result<Color> read_color(std::string_view original) {
  std::string text(original);
  for (char& c : text) c = c >= 'A' && c <= 'Z' ? static_cast<char>(c + 32) : c;
  if (text.starts_with('#')) return read_hex(text);
  if (text.ends_with(')') && text.find('(') != std::string::npos) return read_function(text);
  if (text == "transparent") return Color{0, 0, 0, 0};
  const auto* found =
      std::lower_bound(std::begin(kNames), std::end(kNames), std::string_view(text),
                       [](const NamedColor& c, std::string_view name) { return c.name < name; });
  if (found == std::end(kNames) || found->name != text) return not_a_color(original);
  return from_bytes(found->rgb >> 16, (found->rgb >> 8) & 0xFF, found->rgb & 0xFF, 255);
}

std::string to_string(const Color& color) {
  const auto byte = [](float v) { return static_cast<unsigned>(std::clamp(v, 0.0F, 1.0F) * 255.0F + 0.5F); };
  std::string text = fmt::format("#{:02x}{:02x}{:02x}", byte(color.red), byte(color.green), byte(color.blue));
  if (byte(color.alpha) != 255) text += fmt::format("{:02x}", byte(color.alpha));
  return text;
}

float to_linear(float srgb) {
  const double v = std::clamp(static_cast<double>(srgb), 0.0, 1.0);
  if (v <= 0.04045) return static_cast<float>(v / 12.92);
  const double base = (v + 0.055) / 1.055;
  return static_cast<float>(base * base * detail::root(base * base, 5));  // base^2.4
}

float to_srgb(float linear) {
  const double v = std::clamp(static_cast<double>(linear), 0.0, 1.0);
  if (v <= 0.0031308) return static_cast<float>(v * 12.92);
  const double twelfth = std::sqrt(std::sqrt(detail::root(v, 3)));
  const double power = twelfth * twelfth * twelfth * twelfth * twelfth;  // v^(5/12)
  return static_cast<float>(1.055 * power - 0.055);
}

}  // namespace grafema
