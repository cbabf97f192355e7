// SPDX-License-Identifier: MIT
// Fills of a looks file.
#include <fmt/format.h>

#include <algorithm>

#include "files/look_reader.hpp"
#include "raster/fill_css.hpp"

namespace grafema::detail {

void LooksReader::read_fill(const Json& value, const Place& place) {
  unbind(place, LookTarget::corner), unbind(place, LookTarget::stop);
  place.at().fill = Fill::solid({0, 0, 0, 1});
  if (value.is_string()) return read_css(value.get<std::string>(), place);
  if (value.is_array()) return read_corners(value, place);
  if (value.is_object()) return read_fill_object(value, place);
  wrong("a color, four, or an object as fill", place.named.name);
}

void LooksReader::read_css(const std::string& css, const Place& place) {
  std::string unknown;
  const Result<NamedFill> read = read_named_fill(css, [&](std::string_view name) {
    const std::optional<Color> color = color_of(name);
    if (!color) unknown = name;
    return color;
  });
  if (!unknown.empty()) return wrong_parameter(unknown, place.named.name);
  if (!read) {
    if (!error_) {
      error_ =
          make_error(ErrorKind::damaged, read.error().expected,
                     fmt::format("'{}' in 'fill' of look '{}'", read.error().found.data(), place.named.name));
    }
    return;
  }
  place.at().fill = read->fill;
  for (std::size_t i = 0; i < read->of_stops.size(); ++i) {
    if (read->of_stops[i].empty()) continue;
    if (read->fill.has_stops()) bind(place, read->of_stops[i], LookTarget::stop, i);
    for (std::size_t c = 0; c < 4 && !read->fill.has_stops(); ++c)
      bind(place, read->of_stops[i], LookTarget::corner, c);
  }
}

void LooksReader::read_corners(const Json& list, const Place& place) {
  if (list.size() != 4) return wrong("a color or four as fill", place.named.name);
  for (std::size_t i = 0; i < 4 && !error_; ++i) {
    const std::string text = list[i].is_string() ? list[i].get<std::string>() : std::string();
    if (text.starts_with('$')) {
      const std::optional<Color> color = color_of(std::string_view(text).substr(1));
      if (!color) return wrong_parameter(std::string_view(text).substr(1), place.named.name);
      place.at().fill.corners[i] = *color;
      bind(place, std::string_view(text).substr(1), LookTarget::corner, i);
      continue;
    }
    const Result<Color> color = read_color(text);
    if (!color) return wrong("CSS colors as fill", place.named.name);
    place.at().fill.corners[i] = *color;
  }
}

void LooksReader::read_fill_object(const Json& object, const Place& place) {
  constexpr std::string_view kKnown[] = {"css",   "corners", "image",  "box",  "fit",   "repeat",
                                         "scale", "offset",  "scroll", "tint", "slices"};
  constexpr std::pair<std::string_view, FillBox> kBoxes[] = {
      {"label", FillBox::label}, {"line", FillBox::line}, {"glyph", FillBox::glyph}};
  note_unknown_fields(object, kKnown, fmt::format("a fill of look '{}'", place.named.name), notes_);
  const int kinds = (object.contains("css") ? 1 : 0) + (object.contains("corners") ? 1 : 0) +
                    (object.contains("image") ? 1 : 0);
  if (kinds != 1) return wrong("one of css, corners and image in a fill", place.named.name);
  if (object.contains("css")) {
    if (!object["css"].is_string()) return wrong_value("text", object["css"], "css", place.named.name);
    read_css(object["css"].get<std::string>(), place);
  } else if (object.contains("corners")) {
    if (!object["corners"].is_array())
      return wrong_value("four colors", object["corners"], "corners", place.named.name);
    read_corners(object["corners"], place);
  } else {
    read_image(object, place);
  }
  word(object, "box", place.at().fill.box, kBoxes, "\"label\", \"line\" or \"glyph\"", place);
}

void LooksReader::read_image(const Json& object, const Place& place) {
  constexpr std::pair<std::string_view, ImageFit> kFits[] = {{"none", ImageFit::none},
                                                             {"fill", ImageFit::fill},
                                                             {"cover", ImageFit::cover},
                                                             {"contain", ImageFit::contain}};
  const Json& name = object["image"];
  if (!name.is_string()) return wrong_value("the name of an image file", name, "image", place.named.name);
  if (object.contains("tint"))
    read_css(object["tint"].is_string() ? object["tint"].get<std::string>() : "", place);
  const std::array<Color, 4> tint =
      object.contains("tint") ? place.at().fill.corners : Fill::solid({1, 1, 1, 1}).corners;
  if (place.at().fill.has_stops()) return wrong("one color as tint", place.named.name);
  if (error_) return;
  std::shared_ptr<const FillImage> image = image_named(name.get<std::string>(), place);
  if (!image) return;
  Fill& fill = place.at().fill;
  fill = Fill::of_image(std::move(image));
  fill.corners = tint;
  word(object, "fit", fill.fit, kFits, "\"none\", \"fill\", \"cover\" or \"contain\"", place);
  flag(object, "repeat", fill.repeats, place);
  if (object.contains("scale") && object["scale"].is_number()) {
    float scale = 1;
    plain_number(object["scale"], "scale", scale, {1 / kMaxScale, kMaxScale}, place);
    fill.scale = {scale, scale};
  } else {
    pair(object, "scale", fill.scale, {1 / kMaxScale, kMaxScale}, place);
  }
  pair(object, "offset", fill.offset, {-kMaxPixels, kMaxPixels}, place);
  pair(object, "scroll", fill.scroll, {-kMaxPixels, kMaxPixels}, place);
  if (object.contains("slices")) read_slices(object["slices"], place);
}

/// One width or four.
void LooksReader::read_slices(const Json& value, const Place& place) {
  Fill& fill = place.at().fill;
  const bool is_list = value.is_array() && value.size() == 4;
  for (std::size_t i = 0; i < 4 && !error_; ++i) {
    plain_number(is_list ? value[i] : value, "slices", fill.slices[i], {0, kMaxPixels - 1}, place);
  }
}

}  // namespace grafema::detail
