// SPDX-License-Identifier: MIT
// Reads the looks of a document, each once, whatever is based on what.
#pragma once

#include <functional>
#include <map>
#include <optional>

#include "files/json.hpp"
#include "grafema/files/files.hpp"

namespace grafema::detail {

constexpr double kMaxPixels = 4096, kMaxScale = 1000;

/// An image of a looks file by the name that stands there.
using ImageOfLook = std::function<Result<std::shared_ptr<const FillImage>>(const std::string& name)>;

/// The first failure is kept; what is read after it means nothing.
class LooksReader {
 public:
  /// `parameters` may be null.
  LooksReader(const Json& looks, const Json* parameters, ImageOfLook images, Notes* notes);

  const std::optional<Error>& error() const { return error_; }
  const NamedLook& read(const std::string& name, int depth = 0);

 private:
  struct Entry {
    const Json* object = nullptr;
    NamedLook read;
    bool open = false, done = false;
  };
  /// What is being read: a look, and of that a layer.
  struct Place {
    NamedLook& named;
    std::size_t layer = 0;
    Layer& at() const { return named.look.layers[layer]; }
  };
  struct Range {
    double low, high;
  };

  NamedLook read_object(const Json& object, const std::string& name, int depth);
  NamedLook read_base(const Json& base, const std::string& name, int depth);
  void read_layers(const Json& layers, NamedLook& named);
  void read_layer(const Json& object, const Place& place);
  void read_surface(const Json& object, const Place& place);
  void read_outline(const Json& object, const Place& place);
  void read_dash(const Json& list, const Place& place);
  void read_fill(const Json& value, const Place& place);
  void read_fill_object(const Json& object, const Place& place);
  void read_css(const std::string& css, const Place& place);
  void read_corners(const Json& list, const Place& place);
  void read_image(const Json& object, const Place& place);
  void read_surface_image(const Json& object, const char* field, std::shared_ptr<const FillImage>& out,
                          float* scale, float& strength, const Place& place);
  std::shared_ptr<const FillImage> image_named(const std::string& name, const Place& place);
  void read_slices(const Json& value, const Place& place);
  void number(const Json& object, const char* field, float& out, Range range, const Place& place,
              LookTarget target);
  void plain_number(const Json& value, const char* field, float& out, Range range, const Place& place);
  void flag(const Json& object, const char* field, bool& out, const Place& place);
  void pair(const Json& object, const char* field, PixelPoint& out, Range range, const Place& place);
  void pair(const Json& object, const char* field, PixelPoint& out, const Place& place, LookTarget x,
            LookTarget y);
  template <class Value, std::size_t N>
  void word(const Json& object, const char* field, Value& out,
            const std::pair<std::string_view, Value> (&words)[N], const char* expected, const Place& place);
  std::optional<Color> color_of(std::string_view parameter);
  void bind(const Place& place, std::string_view parameter, LookTarget target, std::size_t index = 0);
  void unbind(const Place& place, LookTarget target);
  void wrong(const char* expected, const std::string& look);
  void wrong_value(const char* expected, const Json& value, const char* field, const std::string& look);
  void wrong_parameter(std::string_view name, const std::string& look);

  std::map<std::string, Entry> entries_;
  const Json* parameters_;
  ImageOfLook images_;
  Notes* notes_;
  std::optional<Error> error_;
};

template <class Value, std::size_t N>
void LooksReader::word(const Json& object, const char* field, Value& out,
                       const std::pair<std::string_view, Value> (&words)[N], const char* expected,
                       const Place& place) {
  if (!object.contains(field)) return;
  for (const auto& [name, value] : words) {
    if (object[field] == name) {
      out = value;
      return;
    }
  }
  wrong_value(expected, object[field], field, place.named.name);
}

}  // namespace grafema::detail
