// SPDX-License-Identifier: MIT
// Reads the words of styles and finds the nearest face.
#include "grafema/font/family.hpp"

#include <algorithm>
#include <array>
#include <optional>

namespace grafema {
namespace {

/// The words in small letters with everything but letters and digits left out.
std::string plain(std::string_view words) {
  std::string out;
  for (const char c : words) {
    if (c >= 'A' && c <= 'Z') out += static_cast<char>(c + 32);
    if ((c >= 'a' && c <= 'z') || (c >= '0' && c <= '9')) out += c;
  }
  return out;
}

enum class Quality : std::uint8_t { weight, width, slant };

struct StyleWordMeaning {
  std::string_view word;
  Quality quality;
  float value;
};

// Longer words stand before those that they contain. Weights and widths are those of OS/2 and CSS.
constexpr StyleWordMeaning kMeanings[] = {
    {"extracondensed", Quality::width, 62.5F},
    {"ultracondensed", Quality::width, 50},
    {"semicondensed", Quality::width, 87.5F},
    {"condensed", Quality::width, 75},
    {"narrow", Quality::width, 75},
    {"compressed", Quality::width, 62.5F},
    {"semiexpanded", Quality::width, 112.5F},
    {"extraexpanded", Quality::width, 150},
    {"ultraexpanded", Quality::width, 200},
    {"expanded", Quality::width, 125},
    {"extended", Quality::width, 125},
    {"wide", Quality::width, 125},
    {"hairline", Quality::weight, 100},
    {"thin", Quality::weight, 100},
    {"extralight", Quality::weight, 200},
    {"ultralight", Quality::weight, 200},
    {"semilight", Quality::weight, 350},
    {"demilight", Quality::weight, 350},
    {"light", Quality::weight, 300},
    {"regular", Quality::weight, 400},
    {"normal", Quality::weight, 400},
    {"roman", Quality::weight, 400},
    {"book", Quality::weight, 400},
    {"plain", Quality::weight, 400},
    {"text", Quality::weight, 400},
    {"medium", Quality::weight, 500},
    {"semibold", Quality::weight, 600},
    {"demibold", Quality::weight, 600},
    {"extrabold", Quality::weight, 800},
    {"ultrabold", Quality::weight, 800},
    {"bold", Quality::weight, 700},
    {"demi", Quality::weight, 600},
    {"extrablack", Quality::weight, 950},
    {"ultrablack", Quality::weight, 950},
    {"black", Quality::weight, 900},
    {"heavy", Quality::weight, 900},
    {"italic", Quality::slant, 1},
    {"kursiv", Quality::slant, 1},
    {"oblique", Quality::slant, 2},
    {"slanted", Quality::slant, 2},
    {"upright", Quality::slant, 0},
};

std::optional<float> leading_number(std::string_view text, std::size_t& length) {
  float value = 0;
  for (length = 0; length < text.size() && text[length] >= '0' && text[length] <= '9' && length < 5;
       ++length) {
    value = value * 10 + static_cast<float>(text[length] - '0');
  }
  return length == 0 ? std::nullopt : std::optional(value);
}

/// Lower is nearer; wanted and there are points, or the ends of what a variable face reaches.
struct Reach {
  float low = 0, high = 0;
  float nearest(float wanted) const { return std::clamp(wanted, low, high); }
};

constexpr float kOtherSide = 10000;  // more than any distance on the preferred side

float width_distance(float wanted, const Reach& there) {
  const float found = there.nearest(wanted);
  if (found == wanted) return 0;
  const bool preferred = wanted <= 100 ? found < wanted : found > wanted;
  return std::abs(found - wanted) + (preferred ? 0 : kOtherSide);
}

/// 400 to 500 looks up to 500 first, then down, then up; lighter wishes look down first, bolder ones up.
float weight_distance(float wanted, const Reach& there) {
  const float found = there.nearest(wanted), distance = std::abs(found - wanted);
  if (found == wanted) return 0;
  if (wanted >= 400 && wanted <= 500) {
    if (found > wanted && found <= 500) return distance;
    return distance + (found < wanted ? kOtherSide : 2 * kOtherSide);
  }
  const bool preferred = wanted < 400 ? found < wanted : found > wanted;
  return distance + (preferred ? 0 : kOtherSide);
}

float slant_distance(Slant wanted, Slant there) {
  constexpr std::array<std::array<float, 3>, 3> kOrder = {
      {{0, 2, 1}, {2, 0, 1}, {2, 1, 0}}};  // by wish, then by what is there
  return kOrder[static_cast<std::size_t>(wanted)][static_cast<std::size_t>(there)];
}

Reach reach_of(const Family::Member& member, const char* name, float own) {
  for (const Axis& axis : member.face->axes()) {
    if (axis.tag == tag(name)) return {axis.min, axis.max};
  }
  return {own, own};
}

/// What a member can show for the wish; a variable face may lean by an axis.
Slant slant_for(const Family::Member& member, Slant wanted) {
  for (const Axis& axis : member.face->axes()) {
    if (axis.tag == tag("ital") && axis.max >= 1 && wanted == Slant::italic) return wanted;
    if (axis.tag == tag("slnt") && axis.min < 0 && wanted != Slant::upright) return wanted;
  }
  return member.style.slant;
}

std::shared_ptr<const Face> placed(const Family::Member& member, const FaceStyle& style) {
  std::vector<AxisValue> place(member.face->place().begin(), member.face->place().end());
  bool moves = false;
  for (const Axis& axis : member.face->axes()) {
    const auto put = [&](float value) {
      std::erase_if(place, [&](const AxisValue& v) { return v.axis == axis.tag; });
      place.push_back({axis.tag, std::clamp(value, axis.min, axis.max)});
      moves = true;
    };
    if (axis.tag == tag("wght")) put(style.weight);
    if (axis.tag == tag("wdth")) put(style.width);
    if (axis.tag == tag("ital") && style.slant == Slant::italic) put(1);
    if (axis.tag == tag("slnt") && style.slant != Slant::upright && axis.min < 0) put(axis.min);
  }
  return moves ? member.face->instance(place) : member.face;
}

}  // namespace

FaceStyle read_style_words(std::string_view words, bool* known) {
  FaceStyle style;
  const std::string text = plain(words);
  if (known != nullptr) *known = true;
  for (std::size_t at = 0; at < text.size();) {
    const std::string_view rest = std::string_view(text).substr(at);
    std::size_t length = 0;
    if (const std::optional<float> number = leading_number(rest, length)) {
      if (*number >= 1 && *number <= 1000) style.weight = *number;
      at += length;
      continue;
    }
    const auto* meaning = std::find_if(std::begin(kMeanings), std::end(kMeanings),
                                       [&](const StyleWordMeaning& m) { return rest.starts_with(m.word); });
    if (meaning == std::end(kMeanings)) {
      if (known != nullptr) *known = false;
      ++at;
      continue;
    }
    if (meaning->quality == Quality::weight && (meaning->value != 400 || style.weight == 400)) {
      style.weight = meaning->value;
    }
    if (meaning->quality == Quality::width) style.width = meaning->value;
    if (meaning->quality == Quality::slant) style.slant = static_cast<Slant>(meaning->value);
    at += meaning->word.size();
  }
  return style;
}

FaceStyle style_of(const Face& face) {
  constexpr float kWidths[] = {100, 50, 62.5F, 75, 87.5F, 100, 112.5F, 125, 150, 200};  // by OS/2 width class
  const FaceFacts facts = face.facts();
  FaceStyle style{static_cast<float>(facts.weight_class),
                  facts.width_class < 10 ? kWidths[facts.width_class] : 100,
                  facts.italic ? Slant::italic : Slant::upright};
  if (style.weight == 0) style.weight = 400;
  if (facts.italic && read_style_words(face.names().style).slant == Slant::oblique) {
    style.slant = Slant::oblique;
  }
  return style;
}

void Family::add(std::shared_ptr<const Face> face) {
  const std::string style = face->names().style;
  const FaceStyle where = style_of(*face);
  add(Member{std::move(face), style, where, {}});
}

void Family::add(Member member) {
  if (member.face) members_.push_back(std::move(member));
}

std::shared_ptr<const Face> Family::find(const FaceStyle& style) const {
  const Member* best = nullptr;
  std::array<float, 3> least = {};
  for (const Member& member : members_) {
    const std::array<float, 3> distance = {
        width_distance(style.width, reach_of(member, "wdth", member.style.width)),
        slant_distance(style.slant, slant_for(member, style.slant)),
        weight_distance(style.weight, reach_of(member, "wght", member.style.weight))};
    if (best != nullptr && !(distance < least)) continue;
    best = &member;
    least = distance;
  }
  return best == nullptr ? nullptr : placed(*best, style);
}

std::shared_ptr<const Face> Family::find(std::string_view style_words) const {
  for (const Member& member : members_) {
    if (plain(member.name) == plain(style_words)) return member.face;
  }
  for (const Member& member : members_) {  // the designer's own names for places on the axes
    for (const NamedInstance& named : member.face->instances()) {
      if (plain(named.name) == plain(style_words)) return member.face->instance(named.coordinates);
    }
  }
  return find(read_style_words(style_words));
}

bool Family::understands(std::string_view style_words) const {
  bool known = false;
  read_style_words(style_words, &known);
  const std::string words = plain(style_words);
  return known || std::any_of(members_.begin(), members_.end(), [&](const Member& member) {
           const std::span<const NamedInstance> instances = member.face->instances();
           return plain(member.name) == words ||
                  std::any_of(instances.begin(), instances.end(),
                              [&](const NamedInstance& named) { return plain(named.name) == words; });
         });
}

std::vector<Family> gather_families(std::span<const std::shared_ptr<const Face>> faces) {
  std::vector<Family> families;
  for (const std::shared_ptr<const Face>& face : faces) {
    const std::string name = face->names().family;
    auto at =
        std::find_if(families.begin(), families.end(), [&](const Family& f) { return f.name() == name; });
    if (at == families.end()) at = families.emplace(families.end(), name);
    at->add(face);
  }
  return families;
}

}  // namespace grafema
