// SPDX-License-Identifier: MIT
// What options of layout say: names of alignments and the like, features, tab stops.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "options/options.hpp"

namespace grafema::tool {
namespace {

/// The value that goes by a name; a name that is not known is a wrong use.
template <class Value, std::size_t Count>
Value to_value(const std::string& name, const char* option,
               const std::pair<std::string_view, Value> (&names)[Count]) {
  std::string expected;
  for (std::size_t i = 0; i < Count; ++i) {
    if (names[i].first == name) return names[i].second;
    if (names[i].first.empty()) continue;
    expected += (expected.empty() ? "" : (i + 1 == Count ? " or " : ", ")) + std::string(names[i].first);
  }
  throw Failure{wrong_usage, fmt::format("{}: expected {}, found '{}'", option, expected, name)};
}

constexpr std::pair<std::string_view, TextAlign> kAligns[] = {
    {"left", TextAlign::left},      {"center", TextAlign::center}, {"right", TextAlign::right},
    {"start", TextAlign::start},    {"end", TextAlign::end},       {"middle", TextAlign::center},
    {"justify", TextAlign::justify}};
constexpr std::pair<std::string_view, VerticalAlign> kVerticalAligns[] = {
    {"top", VerticalAlign::top},       {"middle", VerticalAlign::middle},
    {"center", VerticalAlign::middle}, {"cap-middle", VerticalAlign::cap_middle},
    {"bottom", VerticalAlign::bottom}, {"baseline", VerticalAlign::baseline}};
constexpr std::pair<std::string_view, TextDirection> kDirections[] = {{"auto", TextDirection::automatic},
                                                                      {"ltr", TextDirection::left_to_right},
                                                                      {"rtl", TextDirection::right_to_left}};
constexpr std::pair<std::string_view, LineBreaking> kBreakings[] = {{"normal", LineBreaking::normal},
                                                                    {"strict", LineBreaking::strict},
                                                                    {"loose", LineBreaking::loose},
                                                                    {"anywhere", LineBreaking::anywhere}};
constexpr std::pair<std::string_view, WritingMode> kWritings[] = {{"horizontal", WritingMode::horizontal},
                                                                  {"vertical-rl", WritingMode::vertical_rl},
                                                                  {"vertical-lr", WritingMode::vertical_lr}};
constexpr std::pair<std::string_view, LetterStance> kStances[] = {
    {"mixed", LetterStance::mixed}, {"upright", LetterStance::upright}, {"sideways", LetterStance::sideways}};
constexpr std::pair<std::string_view, Overflow> kOverflows[] = {{"show", Overflow::show},
                                                                {"clip", Overflow::clip},
                                                                {"ellipsis", Overflow::ellipsis},
                                                                {"smaller", Overflow::smaller},
                                                                {"tighten", Overflow::tighten}};
constexpr std::pair<std::string_view, EllipsisPlace> kEllipses[] = {
    {"end", EllipsisPlace::end}, {"middle", EllipsisPlace::middle}, {"start", EllipsisPlace::start}};
constexpr std::pair<std::string_view, TabAlign> kTabAligns[] = {{"", TabAlign::left},
                                                                {"left", TabAlign::left},
                                                                {"right", TabAlign::right},
                                                                {"center", TabAlign::center},
                                                                {"decimal", TabAlign::decimal}};
constexpr float kFarthest = 1e6F;

std::vector<FeatureSetting> read_features(const std::string& text) {
  std::vector<FeatureSetting> out;
  if (text.empty()) return out;
  for (const std::string& part : split(text, "--features")) {
    const std::size_t equals = part.find('=');
    const std::string name = part.substr(0, equals);
    if (name.empty() || name.size() > 4) {
      throw Failure{wrong_usage, fmt::format("--features: expected a tag of four letters, found '{}'", part)};
    }
    FeatureSetting setting;
    setting.tag = tag(name);
    if (equals != std::string::npos) {
      const float value = to_number(part.substr(equals + 1), "--features", 0, 65535);
      if (value != std::floor(value)) {
        throw Failure{wrong_usage, fmt::format("--features: expected a whole number, found '{}'", part)};
      }
      setting.value = static_cast<std::uint32_t>(value);
    }
    out.push_back(setting);
  }
  return out;
}

std::vector<TabStop> read_tabs(const std::string& text) {
  std::vector<TabStop> out;
  if (text.empty()) return out;
  for (const std::string& part : split(text, "--tabs")) {
    const std::size_t letters = std::min(part.find_first_not_of("0123456789.+-"), part.size());
    out.push_back({to_number(part.substr(0, letters), "--tabs", 0, kFarthest),
                   to_value(part.substr(letters), "--tabs", kTabAligns)});
  }
  std::sort(out.begin(), out.end(), [](const TabStop& a, const TabStop& b) { return a.x < b.x; });
  return out;
}

}  // namespace

/// What the options say counts over what `style` says; an option that has its default says nothing.
TextStyle read_style(const LayoutOptions& o, TextStyle style) {
  static const LayoutOptions kUsual;
  const auto given = [&](std::string LayoutOptions::*option) { return o.*option != kUsual.*option; };
  const auto length = [](const std::optional<std::string>& text, const char* name,
                         std::optional<float>& out) {
    if (text) out = to_number(*text, name, 0, kFarthest);
  };
  const auto number = [&](std::string LayoutOptions::*option, const char* name, float low, float high,
                          float& out) {
    if (given(option)) out = to_number(o.*option, name, low, high);
  };
  if (given(&LayoutOptions::align)) style.align = to_value(o.align, "--align", kAligns);
  if (given(&LayoutOptions::vertical_align)) {
    style.vertical_align = to_value(o.vertical_align, "--valign", kVerticalAligns);
  }
  if (given(&LayoutOptions::direction)) style.direction = to_value(o.direction, "--dir", kDirections);
  if (given(&LayoutOptions::breaking)) style.breaking = to_value(o.breaking, "--break", kBreakings);
  if (given(&LayoutOptions::writing)) style.writing = to_value(o.writing, "--writing", kWritings);
  if (given(&LayoutOptions::stance)) style.stance = to_value(o.stance, "--stance", kStances);
  if (float digits = 0; given(&LayoutOptions::digits_across)) {
    digits = to_number(o.digits_across, "--digits-across", 0, 4);
    style.digits_across = static_cast<std::size_t>(digits);
  }
  style.halve_ends = style.halve_ends || o.halve_ends;
  style.script_gaps = style.script_gaps || o.script_gaps;
  if (given(&LayoutOptions::overflow)) style.overflow = to_value(o.overflow, "--overflow", kOverflows);
  if (given(&LayoutOptions::ellipsis)) style.ellipsis = to_value(o.ellipsis, "--ellipsis", kEllipses);
  number(&LayoutOptions::line_spacing, "--line-spacing", 0, 100, style.line_spacing);
  number(&LayoutOptions::tracking, "--tracking", -1000, 1000, style.tracking);
  number(&LayoutOptions::word_spacing, "--word-spacing", -1000, 1000, style.word_spacing);
  number(&LayoutOptions::paragraph_spacing, "--paragraph-spacing", -1000, 1000, style.paragraph_spacing);
  number(&LayoutOptions::smallest, "--smallest", kMinSize, kMaxSize, style.min_size);
  number(&LayoutOptions::min_tracking, "--tightest", -1000, 1000, style.min_tracking);
  length(o.wrap, "--wrap", style.wrap);
  length(o.box_height, "--box-height", style.box_height);
  length(o.leading, "--leading", style.leading);
  if (!o.indent.empty()) {
    const std::vector<std::string> parts = split(o.indent, "--indent");
    if (parts.size() > 2) throw Failure{wrong_usage, "--indent: expected one length or two"};
    style.first_indent = to_number(parts[0], "--indent", -kFarthest, kFarthest);
    if (parts.size() == 2) style.indent = to_number(parts[1], "--indent", -kFarthest, kFarthest);
  }
  if (!o.tabs.empty()) style.tabs = read_tabs(o.tabs);
  for (const FeatureSetting& setting : read_features(o.features)) style.features.push_back(setting);
  if (!o.language.empty()) style.language = o.language;
  style.kerning = style.kerning && !o.no_kerning;
  style.balance = style.balance || o.balance;
  style.keep_last_words = style.keep_last_words || o.keep_last_words;
  style.justify_last = style.justify_last || o.justify_last;
  if (given(&LayoutOptions::max_lines)) {
    style.max_lines = static_cast<std::size_t>(to_number(o.max_lines, "--max-lines", 0, 1e6F));
  }
  for (const std::string& sample : o.reserve) check_text(sample, "--reserve");
  style.reserve = o.reserve;
  return style;
}

}  // namespace grafema::tool
