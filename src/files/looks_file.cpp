// SPDX-License-Identifier: MIT
// Loads looks and what they are based on.
#include <fmt/format.h>

#include <cmath>
#include <map>

#include "files/json.hpp"
#include "grafema/base/nearest.hpp"
#include "grafema/files/files.hpp"

namespace grafema {
namespace {

using detail::Json;

constexpr int kNewestVersion = 1;
constexpr double kMostPixels = 4096;

constexpr int kMostBases = 64;  // of a look, one on the other

/// Reads one look after another, each once; the first failure is kept.
class LooksReader {
 public:
  LooksReader(const Json& looks, Notes* notes) : notes_(notes) {
    for (const auto& [name, object] : looks.items()) entries_[name].object = &object;
  }

  const std::optional<Error>& error() const { return error_; }

  const Look& read(const std::string& name, int depth = 0) {
    Entry& entry = entries_.at(name);
    if (entry.done) return entry.look;
    if (entry.open) wrong("a look that is not based on itself", name);
    if (depth > kMostBases) wrong("looks at most 64 deep based on each other", name);
    if (error_) return entry.look;
    entry.open = true;
    Look look = read_object(*entry.object, name, depth);
    entry.look = look;
    entry.open = false;
    entry.done = true;
    return entry.look;
  }

 private:
  struct Entry {
    const Json* object = nullptr;
    Look look;
    bool open = false, done = false;
  };

  Look read_object(const Json& object, const std::string& name, int depth) {
    constexpr std::string_view kKnown[] = {"based_on", "opacity", "unit", "layers"};
    Look look;
    if (!object.is_object()) {
      wrong("an object for each look", fmt::format("{} as look '{}'", detail::quoted(object), name));
      return look;
    }
    detail::note_unknown_fields(object, kKnown, fmt::format("look '{}'", name), notes_);
    if (object.contains("based_on")) look = read_base(object["based_on"], name, depth);
    look.opacity = static_cast<float>(number(object, "opacity", look.opacity, 0, 1, name));
    if (object.contains("unit")) look.in_ems = object["unit"] == "em";
    if (object.contains("unit") && object["unit"] != "em" && object["unit"] != "px") {
      wrong_value("\"px\" or \"em\"", object, "unit", name);
    }
    if (object.contains("layers")) read_layers(object["layers"], look, name);
    if (look.count == 0) wrong("at least one layer", name);
    return look;
  }

  void wrong(const char* expected, const std::string& where) {
    if (!error_) {
      error_ = make_error(ErrorKind::damaged, expected, fmt::format("another in look '{}'", where));
    }
  }

  void wrong_value(const char* expected, const Json& object, const char* field, const std::string& name) {
    if (!error_) {
      error_ = make_error(ErrorKind::damaged, expected,
                          fmt::format("{} in '{}' of look '{}'", detail::quoted(object[field]), field, name));
    }
  }

  Look read_base(const Json& base, const std::string& name, int depth) {
    if (base.is_string() && entries_.count(base.get<std::string>()) != 0) {
      return read(base.get<std::string>(), depth + 1);
    }
    std::vector<std::string_view> names;
    for (const auto& [key, value] : entries_) names.push_back(key);
    const std::string asked = base.is_string() ? base.get<std::string>() : detail::quoted(base);
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
    wrong_value("a number in range", object, field, name);
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
    constexpr std::string_view kKnown[] = {"at", "grow", "blur", "hollow", "shift", "fill"};
    detail::note_unknown_fields(object, kKnown, fmt::format("a layer of look '{}'", name), notes_);
    layer.grow = static_cast<float>(number(object, "grow", layer.grow, -kMostPixels, kMostPixels, name));
    layer.blur = static_cast<float>(number(object, "blur", layer.blur, 0, kMostPixels, name));
    if (object.contains("hollow")) {
      if (!object["hollow"].is_boolean()) wrong_value("true or false", object, "hollow", name);
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

  std::map<std::string, Entry> entries_;
  Notes* notes_;
  std::optional<Error> error_;
};

}  // namespace

FileResult<std::vector<NamedLook>> load_looks(const std::string& path, Notes* notes) {
  const FileResult<std::string> text = load_text(path);
  if (!text) return tl::unexpected(text.error());
  Result<std::vector<NamedLook>> looks = read_looks(*text, notes);
  if (!looks) return tl::unexpected<FileError>({looks.error(), path});
  return *std::move(looks);
}

FileResult<void> load_looks(const std::string& path, LookBook& book, Notes* notes) {
  const FileResult<std::vector<NamedLook>> looks = load_looks(path, notes);
  if (!looks) return tl::unexpected(looks.error());
  for (const NamedLook& look : *looks) {
    if (const Result<LookId> set = book.set(look.name, look.look); !set) {
      return tl::unexpected<FileError>({set.error(), path});
    }
  }
  return {};
}

Result<std::vector<NamedLook>> read_looks(std::string_view text, Notes* notes) {
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
  constexpr std::string_view kKnown[] = {"format", "version", "looks"};
  detail::note_unknown_fields(*document, kKnown, "the file", notes);
  LooksReader reader(*looks, notes);
  std::vector<NamedLook> out;
  for (const auto& [name, object] : looks->items()) {
    out.push_back({name, reader.read(name)});
    if (reader.error()) break;
  }
  if (reader.error()) return fail(*reader.error());
  return out;
}

FileResult<Look> load_look(const std::string& path_and_name, Notes* notes) {
  const std::size_t hash = path_and_name.rfind('#');
  const std::string path = path_and_name.substr(0, hash),
                    name = hash == std::string::npos ? "" : path_and_name.substr(hash + 1);
  const FileResult<std::vector<NamedLook>> looks = load_looks(path, notes);
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
