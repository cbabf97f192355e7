// SPDX-License-Identifier: MIT
// Looks, layers and fills of a looks file, and the parameters that they name.
#include "files/look_reader.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "grafema/base/nearest.hpp"
#include "raster/fill_css.hpp"

namespace grafema::detail {
namespace {

constexpr int kMaxBases = 64;  // of a look, one on the other

/// `$name` without its sign; nothing where the value is none.
std::optional<std::string> parameter_of(const Json& value) {
  if (!value.is_string()) return std::nullopt;
  const auto text = value.get<std::string>();
  return text.starts_with('$') ? std::optional(text.substr(1)) : std::nullopt;
}

bool is_number_in(const Json& value, double low, double high) {
  return value.is_number() && value.get<double>() >= low && value.get<double>() <= high;
}

}  // namespace

LooksReader::LooksReader(const Json& looks, const Json* parameters, ImageOfLook images, Notes* notes)
    : parameters_(parameters), images_(std::move(images)), notes_(notes) {
  for (const auto& [name, object] : looks.items()) entries_[name].object = &object;
}

const NamedLook& LooksReader::read(const std::string& name, int depth) {
  Entry& entry = entries_.at(name);
  if (entry.done) return entry.read;
  if (entry.open) wrong("a look that is not based on itself", name);
  if (depth > kMaxBases) wrong("looks at most 64 deep based on each other", name);
  if (error_) return entry.read;
  entry.open = true;
  NamedLook made = read_object(*entry.object, name, depth);
  entry.read = std::move(made);
  entry.open = false;
  entry.done = true;
  return entry.read;
}

NamedLook LooksReader::read_object(const Json& object, const std::string& name, int depth) {
  constexpr std::string_view kKnown[] = {"based_on", "opacity", "unit", "layers"};
  NamedLook named;
  named.name = name;
  if (!object.is_object()) {
    wrong("an object for each look", fmt::format("{} as look '{}'", quoted(object), name));
    return named;
  }
  note_unknown_fields(object, kKnown, fmt::format("look '{}'", name), notes_);
  if (object.contains("based_on")) named = read_base(object["based_on"], name, depth);
  number(object, "opacity", named.look.opacity, {0, 1}, {named}, LookTarget::opacity);
  if (object.contains("unit")) named.look.in_ems = object["unit"] == "em";
  if (object.contains("unit") && object["unit"] != "em" && object["unit"] != "px") {
    wrong_value("\"px\" or \"em\"", object["unit"], "unit", name);
  }
  if (object.contains("layers")) read_layers(object["layers"], named);
  if (named.look.count == 0) wrong("at least one layer", name);
  if (!error_) {
    if (const Result<void> checked = check_look(named.look); !checked) wrong(checked.error().expected, name);
  }
  return named;
}

NamedLook LooksReader::read_base(const Json& base, const std::string& name, int depth) {
  if (base.is_string() && entries_.count(base.get<std::string>()) != 0) {
    NamedLook named = read(base.get<std::string>(), depth + 1);
    named.name = name;
    return named;
  }
  std::vector<std::string_view> names;
  for (const auto& [key, value] : entries_) names.push_back(key);
  const std::string asked = base.is_string() ? base.get<std::string>() : quoted(base);
  if (!error_) {
    error_ = make_error(ErrorKind::damaged, "a look of this file in based_on",
                        fmt::format("'{}' in look '{}'{}", asked, name, suggestion(asked, names)));
  }
  NamedLook named;
  named.name = name;
  return named;
}

void LooksReader::read_layers(const Json& layers, NamedLook& named) {
  if (!layers.is_array()) wrong("a list of layers", named.name);
  if (!layers.is_array()) return;
  Look& look = named.look;
  for (const Json& object : layers) {
    if (!object.is_object()) wrong("an object for each layer", named.name);
    if (!object.is_object()) return;
    // A layer of the base is changed in place, others come on top.
    float at = look.count;
    if (object.contains("at"))
      plain_number(object["at"], "at", at, {0, static_cast<double>(look.count)}, {named});
    if (at >= Look::kMaxLayers) wrong("at most eight layers", named.name);
    if (error_) return;
    const auto layer = static_cast<std::size_t>(at);
    if (layer == look.count) ++look.count;
    read_layer(object, {named, layer});
  }
}

void LooksReader::read_layer(const Json& object, const Place& place) {
  constexpr std::string_view kKnown[] = {"at",    "grow",  "blur",  "hollow",  "inset", "line",    "dash",
                                         "shift", "sweep", "sharp", "outline", "fill",  "surface", "join"};
  note_unknown_fields(object, kKnown, fmt::format("a layer of look '{}'", place.named.name), notes_);
  Layer& layer = place.at();
  if (object.contains("outline")) read_outline(object["outline"], place);
  number(object, "grow", layer.grow, {-kMaxPixels, kMaxPixels}, place, LookTarget::grow);
  number(object, "blur", layer.blur, {0, kMaxPixels}, place, LookTarget::blur);
  number(object, "line", layer.line, {0, kMaxPixels}, place, LookTarget::line);
  flag(object, "hollow", layer.hollow, place);
  flag(object, "inset", layer.inset, place);
  flag(object, "sharp", layer.sharp, place);
  flag(object, "join", layer.join, place);
  pair(object, "shift", layer.shift, place, LookTarget::shift_x, LookTarget::shift_y);
  pair(object, "sweep", layer.sweep, place, LookTarget::sweep_x, LookTarget::sweep_y);
  if (object.contains("dash")) read_dash(object["dash"], place);
  if (object.contains("fill")) read_fill(object["fill"], place);
  if (object.contains("surface")) read_surface(object["surface"], place);
}

void LooksReader::read_surface(const Json& object, const Place& place) {
  constexpr std::string_view kKnown[] = {
      "width", "surfaceScale", "round", "diffuseConstant", "specularConstant", "specularExponent",
      "grain", "mirror"};
  if (!object.is_object()) return wrong_value("an object", object, "surface", place.named.name);
  note_unknown_fields(object, kKnown, fmt::format("a surface of look '{}'", place.named.name), notes_);
  Surface& surface = place.at().surface;
  const auto take = [&](const char* field, float& out, Range range) {
    if (object.contains(field)) plain_number(object[field], field, out, range, place);
  };
  take("width", surface.width, {0, kMaxPixels}),
      take("surfaceScale", surface.height, {-kMaxPixels, kMaxPixels});
  take("round", surface.round, {0, 1}), take("diffuseConstant", surface.diffuse, {0, 100});
  take("specularConstant", surface.specular, {0, 100}), take("specularExponent", surface.exponent, {1, 128});
  if (object.contains("grain")) {
    read_surface_image(object["grain"], "grain", surface.grain, &surface.grain_scale, surface.grain_strength,
                       place);
  }
  if (object.contains("mirror")) {
    read_surface_image(object["mirror"], "mirror", surface.mirror, nullptr, surface.mirror_strength, place);
  }
}

/// An image of a surface, and how strong it is; `scale` where it has one.
void LooksReader::read_surface_image(const Json& object, const char* field,
                                     std::shared_ptr<const FillImage>& out, float* scale, float& strength,
                                     const Place& place) {
  constexpr std::string_view kKnown[] = {"image", "strength", "scale"};
  if (!object.is_object()) return wrong_value("an object", object, field, place.named.name);
  note_unknown_fields(object, std::span(kKnown).first(scale != nullptr ? 3 : 2),
                      fmt::format("'{}' of look '{}'", field, place.named.name), notes_);
  if (!object.contains("image") || !object["image"].is_string()) {
    return wrong_value("the name of an image file", object.value("image", Json()), field, place.named.name);
  }
  out = image_named(object["image"].get<std::string>(), place);
  const Range strengths = scale != nullptr ? Range{-16, 16} : Range{0, 1};
  if (object.contains("strength")) plain_number(object["strength"], "strength", strength, strengths, place);
  if (scale != nullptr && object.contains("scale")) {
    plain_number(object["scale"], "scale", *scale, {1 / kMaxScale, kMaxScale}, place);
  }
}

/// Null where there is none, which is then the error.
std::shared_ptr<const FillImage> LooksReader::image_named(const std::string& name, const Place& place) {
  Result<std::shared_ptr<const FillImage>> image = images_(name);
  if (image) return *std::move(image);
  error_ = image.error();
  error_->with_found(fmt::format("{} ('{}' of look '{}')", error_->found.data(), name, place.named.name));
  return nullptr;
}

/// A width, or a width and where it lies: growth and line of the layer.
void LooksReader::read_outline(const Json& value, const Place& place) {
  constexpr std::pair<std::string_view, OutlinePlace> kPlaces[] = {{"outside", OutlinePlace::outside},
                                                                   {"centered", OutlinePlace::centered},
                                                                   {"inside", OutlinePlace::inside}};
  float width = 1;
  OutlinePlace lies = OutlinePlace::outside;
  if (value.is_object()) {
    constexpr std::string_view kKnown[] = {"width", "place"};
    note_unknown_fields(value, kKnown, fmt::format("an outline of look '{}'", place.named.name), notes_);
    if (value.contains("width")) plain_number(value["width"], "width", width, {0, kMaxPixels}, place);
    word(value, "place", lies, kPlaces, "\"outside\", \"centered\" or \"inside\"", place);
  } else {
    plain_number(value, "outline", width, {0, kMaxPixels}, place);
  }
  const Layer made = outline_layer(width, lies, {});
  place.at().grow = made.grow, place.at().line = made.line;
  unbind(place, LookTarget::grow), unbind(place, LookTarget::line);
}

void LooksReader::read_dash(const Json& list, const Place& place) {
  PixelPoint dash;
  if (list.is_array() && list.size() == 2 && is_number_in(list[0], 0, kMaxPixels) &&
      is_number_in(list[1], 0, kMaxPixels)) {
    dash = {list[0].get<float>(), list[1].get<float>()};
  } else {
    wrong_value("two lengths, a dash and a gap,", list, "dash", place.named.name);
  }
  place.at().dash = dash.x, place.at().gap = dash.y;
}

// --- Fills.

// --- Values.

void LooksReader::plain_number(const Json& value, const char* field, float& out, Range range,
                               const Place& place) {
  if (is_number_in(value, range.low, range.high)) {
    out = value.get<float>();
  } else {
    wrong_value("a number in range", value, field, place.named.name);
  }
}

void LooksReader::number(const Json& object, const char* field, float& out, Range range, const Place& place,
                         LookTarget target) {
  if (!object.contains(field)) return;
  unbind(place, target);
  const std::optional<std::string> name = parameter_of(object[field]);
  if (!name) return plain_number(object[field], field, out, range, place);
  const bool is_there =
      parameters_ != nullptr && parameters_->contains(*name) && (*parameters_)[*name].is_number();
  if (!is_there) return wrong_parameter(*name, place.named.name);
  plain_number((*parameters_)[*name], field, out, range, place);
  bind(place, *name, target);
}

void LooksReader::flag(const Json& object, const char* field, bool& out, const Place& place) {
  if (!object.contains(field)) return;
  if (!object[field].is_boolean())
    return wrong_value("true or false", object[field], field, place.named.name);
  out = object[field].get<bool>();
}

void LooksReader::pair(const Json& object, const char* field, PixelPoint& out, Range range,
                       const Place& place) {
  if (!object.contains(field)) return;
  const Json& list = object[field];
  const auto fits = [&](const Json& v) { return is_number_in(v, range.low, range.high); };
  if (!list.is_array() || list.size() != 2 || !fits(list[0]) || !fits(list[1])) {
    return wrong_value("two numbers in range", list, field, place.named.name);
  }
  out = {list[0].get<float>(), list[1].get<float>()};
}

/// Each of the two may be a parameter.
void LooksReader::pair(const Json& object, const char* field, PixelPoint& out, const Place& place,
                       LookTarget x, LookTarget y) {
  if (!object.contains(field)) return;
  const Json& list = object[field];
  if (!list.is_array() || list.size() != 2) return wrong_value("two numbers", list, field, place.named.name);
  number(Json{{field, list[0]}}, field, out.x, {-kMaxPixels, kMaxPixels}, place, x);
  number(Json{{field, list[1]}}, field, out.y, {-kMaxPixels, kMaxPixels}, place, y);
}

// --- Parameters.

std::optional<Color> LooksReader::color_of(std::string_view parameter) {
  const std::string name(parameter);
  if (parameters_ == nullptr || !parameters_->contains(name) || !(*parameters_)[name].is_string())
    return std::nullopt;
  const Result<Color> color = read_color((*parameters_)[name].get<std::string>());
  return color ? std::optional(*color) : std::nullopt;
}

void LooksReader::bind(const Place& place, std::string_view parameter, LookTarget target, std::size_t index) {
  place.named.parameters.push_back({std::string(parameter), target, static_cast<std::uint8_t>(place.layer),
                                    static_cast<std::uint8_t>(index)});
}

/// What a look was based on said so; this one says otherwise.
void LooksReader::unbind(const Place& place, LookTarget target) {
  std::erase_if(place.named.parameters,
                [&](const LookParameter& p) { return p.target == target && p.layer == place.layer; });
}

void LooksReader::wrong(const char* expected, const std::string& look) {
  if (!error_) error_ = make_error(ErrorKind::damaged, expected, fmt::format("another in look '{}'", look));
}

void LooksReader::wrong_value(const char* expected, const Json& value, const char* field,
                              const std::string& look) {
  if (error_) return;
  error_ = make_error(ErrorKind::damaged, expected,
                      fmt::format("{} in '{}' of look '{}'", quoted(value), field, look));
}

void LooksReader::wrong_parameter(std::string_view name, const std::string& look) {
  if (error_) return;
  std::vector<std::string> names;
  if (parameters_ != nullptr) {
    for (const auto& [key, value] : parameters_->items()) names.push_back(key);
  }
  const std::vector<std::string_view> views(names.begin(), names.end());
  error_ =
      make_error(ErrorKind::damaged, "a parameter of this file, a color or a number as its place wants it",
                 fmt::format("'${}' in look '{}'{}", name, look, suggestion(name, views)));
}

}  // namespace grafema::detail
