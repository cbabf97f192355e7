// SPDX-License-Identifier: MIT
// Loads looks and what they are based on.
#include <fmt/format.h>

#include <cmath>
#include <set>

#include "files/json.hpp"
#include "grafema/base/nearest.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr int kNewestVersion = 1;
constexpr double kMostPixels = 4096;

/// Reads one look after another; the first failure is kept.
class LooksReader {
 public:
  explicit LooksReader(const Json& looks) : looks_(looks) {}

  const std::optional<Error>& error() const { return error_; }

  Look read(const std::string& name) {
    if (!open_.insert(name).second) {
      wrong("a look that is not based on itself", name);
      return {};
    }
    const Json& object = looks_[name];
    Look look;
    if (!object.is_object()) {
      wrong("an object for each look", name);
    } else {
      if (object.contains("based_on")) look = read_base(object["based_on"], name);
      look.opacity = static_cast<float>(number(object, "opacity", look.opacity, 0, 1, name));
      if (object.contains("unit")) look.in_ems = object["unit"] == "em";
      if (object.contains("unit") && object["unit"] != "em" && object["unit"] != "px") {
        wrong("\"px\" or \"em\" as unit", name);
      }
      if (object.contains("layers")) read_layers(object["layers"], look, name);
      if (look.count == 0) wrong("at least one layer", name);
    }
    open_.erase(name);
    return look;
  }

 private:
  void wrong(const char* expected, const std::string& where) {
    if (!error_) {
      error_ = make_error(ErrorKind::damaged, expected, fmt::format("another in look '{}'", where));
    }
  }

  Look read_base(const Json& base, const std::string& name) {
    if (base.is_string() && looks_.contains(base.get<std::string>())) return read(base.get<std::string>());
    std::vector<std::string_view> names;
    for (const auto& [key, value] : looks_.items()) names.push_back(key);
    const std::string asked = base.is_string() ? base.get<std::string>() : base.dump();
    if (!error_) {
      error_ = make_error(ErrorKind::damaged, "a look of this file in based_on",
                          fmt::format("'{}' in look '{}'{}", asked, name, suggestion(asked, names)));
    }
    return {};
  }

  double number(const Json& object, const char* field, double fallback, double low, double high,
                const std::string& name) {
    if (!object.contains(field)) return fallback;
    const double v = object[field].is_number() ? object[field].get<double>() : NAN;
    if (v >= low && v <= high) return v;
    if (!error_) {
      error_ = make_error(ErrorKind::damaged, "a number in range",
                          fmt::format("another in look '{}': {}", name, field));
    }
    return fallback;
  }

  void read_layers(const Json& layers, Look& look, const std::string& name) {
    if (!layers.is_array()) wrong("a list of layers", name);
    if (!layers.is_array()) return;
    for (const Json& object : layers) {
      if (!object.is_object()) wrong("an object for each layer", name);
      if (!object.is_object()) return;
      // A layer of the base is changed in place, others come on top.
      const auto at = static_cast<std::size_t>(
          number(object, "at", look.count, 0, static_cast<double>(look.count), name));
      if (at >= Look::kMaxLayers) wrong("at most eight layers", name);
      if (error_) return;
      if (at == look.count) ++look.count;
      read_layer(object, look.layers[at], name);
    }
  }

  void read_layer(const Json& object, Layer& layer, const std::string& name) {
    layer.grow = static_cast<float>(number(object, "grow", layer.grow, -kMostPixels, kMostPixels, name));
    layer.blur = static_cast<float>(number(object, "blur", layer.blur, 0, kMostPixels, name));
    if (object.contains("hollow")) {
      layer.hollow = object["hollow"].is_boolean() && object["hollow"].get<bool>();
    }
    if (object.contains("shift")) read_shift(object["shift"], layer, name);
    if (object.contains("fill")) read_fill(object["fill"], layer.fill, name);
  }

  void read_shift(const Json& list, Layer& layer, const std::string& name) {
    const auto fits = [](const Json& v) { return v.is_number() && std::abs(v.get<double>()) <= kMostPixels; };
    if (!list.is_array() || list.size() != 2 || !fits(list[0]) || !fits(list[1])) {
      wrong("two numbers as shift", name);
    } else {
      layer.shift = {list[0].get<float>(), list[1].get<float>()};
    }
  }

  void read_fill(const Json& value, Fill& fill, const std::string& name) {
    const bool one = value.is_string();
    if (!one && !(value.is_array() && value.size() == 4)) wrong("a color or four as fill", name);
    for (std::size_t i = 0; i < 4 && !error_; ++i) {
      const Json& text = one ? value : value[i];
      const Result<Color> color = read_color(text.is_string() ? text.get<std::string>() : std::string());
      if (!color) wrong("CSS colors as fill", name);
      if (color) fill.corners[i] = *color;
    }
  }

  const Json& looks_;
  std::set<std::string> open_;
  std::optional<Error> error_;
};

}  // namespace

FileResult<std::vector<NamedLook>> load_looks(const std::string& path) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  Result<std::vector<NamedLook>> looks = read_looks(*text);
  if (!looks) return tl::unexpected<FileError>({looks.error(), path});
  return *std::move(looks);
}

Result<std::vector<NamedLook>> read_looks(std::string_view text) {
  const Result<Json> document = detail::read_json(text);
  if (!document) return fail(document.error());
  detail::Fields fields(*document);
  fields.require("looks");
  if (fields.text("format") != "grafema-looks") fields.fail_at("format", "\"grafema-looks\"");
  if (fields.whole("version", 0) < 1 || fields.whole("version", 0) > kNewestVersion) {
    fields.fail_at("version", "version 1");
  }
  const Json* looks = fields.object("looks");
  if (fields.error()) return fail(*fields.error());
  LooksReader reader(*looks);
  std::vector<NamedLook> out;
  for (const auto& [name, object] : looks->items()) out.push_back({name, reader.read(name)});
  if (reader.error()) return fail(*reader.error());
  return out;
}

FileResult<Look> load_look(const std::string& path_and_name) {
  const std::size_t hash = path_and_name.rfind('#');
  const std::string path = path_and_name.substr(0, hash),
                    name = hash == std::string::npos ? "" : path_and_name.substr(hash + 1);
  const FileResult<std::vector<NamedLook>> looks = load_looks(path);
  if (!looks) return tl::unexpected(looks.error());
  std::vector<std::string_view> names;
  for (const NamedLook& look : *looks) {
    if (look.name == name || (name.empty() && looks->size() == 1)) return look.look;
    names.push_back(look.name);
  }
  return tl::unexpected<FileError>(
      {make_error(ErrorKind::bad_value, "FILE#NAME with the name of a look in the file",
                  fmt::format("'{}'{}", name, suggestion(name, names))),
       path});
}

}  // namespace grafema
